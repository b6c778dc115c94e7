"""Classes: what is taught to whom and when, how it went, and what it took from the packs."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import replace
from datetime import date
from typing import Any
from uuid import uuid4

from sqlalchemy import delete, select, update
from sqlalchemy.orm import Session

from nabrel.core.base.spending import after_taking
from nabrel.core.case.case import Case
from nabrel.core.errors import Impossible, Refused
from nabrel.core.lesson.lesson import Lesson
from nabrel.core.lesson.room import ClassLog, Room, Student, checked_room
from nabrel.core.terms.limits import MOST_CLASSES
from nabrel.formats.classes import ANNOUNCED
from nabrel.formats.workspace import StoredClass, StoredStudent
from nabrel.store.repositories import Kit, Sequences, Sitters
from nabrel.store.shelf import NamedKits
from nabrel.store.sound import readable, sound
from nabrel.store.tables import ClassRow, ClassStudentRow, SequenceRow
from nabrel.store.versions import Missing, Stale

Renaming = Callable[[str], str | None]
"""A student by another name; None for one who is not here any more."""


class Classes:
    """The classes of a workspace."""

    def __init__(self, session: Session) -> None:
        self._session = session

    def all(self) -> list[StoredClass]:
        """Every class, by its day."""
        rows = self._session.scalars(select(ClassRow).order_by(ClassRow.day, ClassRow.key)).all()
        return sound(rows, self._stored)

    def get(self, key: str) -> StoredClass:
        """One class. Refuses an unknown one."""
        row = self._row(key)
        return readable("class", lambda: self._stored(row))

    def version(self, key: str) -> int:
        """Which version of a class is here: it grows with every change. Refuses an unknown class."""
        return self._row(key).version

    def add(self, stored: StoredClass) -> StoredClass:
        """A new class. Refuses one that cannot be held, and more classes than there may be."""
        if len(self._session.scalars(select(ClassRow.key)).all()) >= MOST_CLASSES:
            raise Refused("classes", MOST_CLASSES + 1, f"at most {MOST_CLASSES} classes")
        self._check(stored)
        self.put_back(stored)
        return stored

    def put_back(self, stored: StoredClass) -> None:
        """Put a class in as it is."""
        self._session.add(ClassRow(key=stored.id, sequence_id=stored.plan, day=stored.date, version=1, document=""))
        self._session.flush()
        self._write(stored)

    def put(self, stored: StoredClass, version: int | None = None) -> StoredClass:
        """A class in the place of what it was. Refuses an unknown one, one that cannot be held, and a stale ``version``.

        What was taken, and the log, are those that are here: they change by what happens, not by hand.
        """
        row = self._row(stored.id)
        self._claim(row, version)
        now = self._stored(row)
        if now.held:
            raise Impossible("class", stored.title, "a class to come: this one was held, and is kept as it was")
        if now.log.begun and stored.plan != now.plan:
            raise Refused("plan", stored.plan, "the plan that this class began with")
        if now.log.begun and stored.cuts != now.cuts:
            raise Refused("cuts", stored.cuts, "the blocks that this class began with")
        names = {student.name for student in stored.students}
        log = _renamed_log(now.log, lambda name: name if name in names else None)
        new = stored.model_copy(update={"held": now.held, "taken": now.taken, "log": log, "revision": now.revision})
        self._check(new)
        row.sequence_id, row.day = new.plan, new.date
        self._write(new)
        return new

    def log(self, key: str, change: Callable[[ClassLog], ClassLog]) -> StoredClass:
        """Change the log of a class, one at a time; the plan stays the revision that it began with."""
        row = self._row(key)
        self._claim(row, None)
        now = self._stored(row)
        if now.held:
            raise Impossible("class", now.title, "a class that goes on: this one was held")
        log = change(now.log)
        if log == now.log:
            row.version -= 1
            return now
        head = Sequences(self._session).get(now.plan).revision if log.begun else None
        new = now.model_copy(update={"log": log, "revision": now.revision or head})
        self._write(new)
        return new

    def hold(self, key: str, found: Lesson, version: int) -> StoredClass:
        """A class was held: the packs lose what was weighed out, once. Held again it changes nothing. Refuses a stale version."""
        row = self._row(key)
        if row.document and self._stored(row).held:
            return self._stored(row)
        self._claim(row, version)
        now = self._stored(row)
        if now.held:
            return now
        amounts: Mapping[str, tuple[float, str]] = {each.item: (each.amount, each.unit) for each in found.weigh_out}
        kit = Kit(self._session)
        for item in after_taking(kit.all(), amounts):
            kit.put(item)
        new = now.model_copy(
            update={
                "held": True,
                "revision": now.revision or Sequences(self._session).get(now.plan).revision,
                "taken": {item: round(amount, 5) for item, (amount, _) in amounts.items()},
            }
        )
        self._write(new)
        return new

    def remove(self, key: str) -> None:
        """Forget a class; what it took stays taken. Refuses an unknown one."""
        self._session.delete(self._row(key))
        self._session.flush()

    def room(self, stored: StoredClass) -> Room:
        """A class as the lesson is made from it: faces, kits and the plan as they are here now."""
        return room_of(self._session, stored)

    def taught_with(self, sitter_id: str) -> int:
        """How many classes teach a plan of this sitter: they go with the sitter."""
        plans = select(SequenceRow.id).where(SequenceRow.sitter_id == sitter_id)
        return len(self._session.scalars(select(ClassRow.key).where(ClassRow.sequence_id.in_(plans))).all())

    def _check(self, stored: StoredClass) -> None:
        kits = {each.id for each in NamedKits(self._session).all()}
        for place, student in enumerate(stored.students):
            if student.sitter is not None:
                Sitters(self._session).get(student.sitter)
            if student.kit is not None and student.kit not in kits:
                raise Refused(f"students[{place}].kit", student.kit, "a named kit of the shelf")
        Sequences(self._session).get(stored.plan)
        checked_room(self.room(stored))

    def _row(self, key: str) -> ClassRow:
        row = self._session.get(ClassRow, key)
        if row is None:
            raise Missing("class", key, "the id of a class")
        return row

    def _claim(self, row: ClassRow, version: int | None) -> None:
        """Hold the row before it is changed, so that no other change is lost. Refuses a version that is not the one here."""
        wanted = update(ClassRow).where(ClassRow.key == row.key).values(version=ClassRow.version + 1)
        self._session.execute(wanted)
        self._session.refresh(row)
        if version is not None and row.version != version + 1:
            raise Stale("version", version, f"{row.version - 1}: somebody else changed this class")

    def _stored(self, row: ClassRow) -> StoredClass:
        rows = self._session.scalars(
            select(ClassStudentRow).where(ClassStudentRow.class_key == row.key).order_by(ClassStudentRow.position)
        ).all()
        students = {each.key: StoredStudent.model_validate_json(each.document) for each in rows}
        # One face gone leaves the class without that student; it is not held with nobody.
        if not students:
            students = {"": StoredStudent(name="Student 1")}
        bare = _Bare.model_validate_json(row.document)
        return StoredClass.model_validate(
            {
                **{name: getattr(bare, name) for name in _Bare.model_fields},
                "students": tuple(students.values()),
                **_renamed(bare, lambda key: students[key].name if key in students else None),
            }
        )

    def _write(self, stored: StoredClass) -> None:
        row = self._row(stored.id)
        self._session.execute(delete(ClassStudentRow).where(ClassStudentRow.class_key == stored.id))
        keys = {student.name: uuid4().hex for student in stored.students}
        for place, student in enumerate(stored.students):
            self._session.add(
                ClassStudentRow(
                    key=keys[student.name],
                    class_key=stored.id,
                    sitter_id=student.sitter,
                    position=place,
                    document=student.model_dump_json(exclude_none=True),
                )
            )
        known = {name: getattr(stored, name) for name in _Bare.model_fields if name != "students"}
        row.document = _Bare.model_validate({**known, **_renamed(stored, keys.get)}).model_dump_json(exclude_none=True)
        self._session.flush()


class _Bare(StoredClass):
    """A class as the table has it: students stand in rows of their own, and are known by the keys of those rows."""

    students: tuple[StoredStudent, ...] = ()


def _renamed(stored: StoredClass, name: Renaming) -> dict[str, Any]:
    """Pairs and log with other names, without those who have none."""
    pairs = ((name(one), name(other)) for one, other in stored.pairs)
    return {"pairs": tuple(pair for pair in pairs if None not in pair), "log": _renamed_log(stored.log, name)}


def _renamed_log(log: ClassLog, name: Renaming) -> ClassLog:
    checks = ((check, name(check.student)) for check in log.checks)
    absent = (name(each) for each in log.absent)
    return replace(
        log,
        checks=tuple(replace(check, student=called) for check, called in checks if called is not None),
        absent=tuple(each for each in absent if each is not None),
    )


def room_of(session: Session, stored: StoredClass) -> Room:
    """A class as the lesson is made from it, with the faces and kits that are here."""
    sequences = Sequences(session)
    plan = (
        sequences.get(stored.plan).sequence if stored.revision is None else sequences.at(stored.plan, stored.revision)
    )
    named = {each.id: each for each in NamedKits(session).all()}
    items = {item.id: item for item in Kit(session).all()}
    students = []
    for student in stored.students:
        case = None
        # One whose record is damaged comes without a face.
        for sitter in sound([student.sitter] if student.sitter is not None else [], Sitters(session).get):
            brought = named[student.kit].items if student.kit in named else ()
            case = Case(sitter.sitter, sitter.intent, tuple(items[each] for each in brought if each in items))
        students.append(Student(student.name, student.pace, case, student.tools))
    announced: dict[str, Any] = {name: getattr(stored, name) for name in ANNOUNCED}
    return Room(sequence=plan, students=tuple(students), **announced)


def by_course(classes: Iterable[StoredClass]) -> dict[str, list[StoredClass]]:
    """Classes by their course, in the order of their first day."""
    found: dict[str, list[StoredClass]] = {}
    for each in sorted(classes, key=lambda one: (one.date, one.start, one.id)):
        found.setdefault(each.course, []).append(each)
    return found


def next_of(classes: Iterable[StoredClass], today: date) -> StoredClass | None:
    """The class that comes next: the first that was not held, today or later."""
    coming = [each for each in classes if not each.held and each.date >= today]
    return min(coming, key=lambda each: (each.date, each.start), default=None)
