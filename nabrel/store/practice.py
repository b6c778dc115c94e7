"""Students who practise: what they know and answered; and sets of exercises made by hand."""

from __future__ import annotations

import secrets
from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import datetime
from uuid import uuid4

from sqlalchemy import delete, func, select
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from nabrel.core.case.case import Case
from nabrel.core.drill.practice import MOST_ANSWERS, Answered, Practice, practised, put_forward
from nabrel.core.drill.sets import CODE_LENGTH, CODE_LETTERS
from nabrel.core.drill.spacing import Known
from nabrel.core.errors import Impossible, Refused, Told
from nabrel.formats.practice import MOST_DRILL_STUDENTS, MOST_SETS, DrillSetFile, PracticeFile, check_set
from nabrel.formats.values import text_of, value_from_text
from nabrel.store.names import NAMED, name_digest, name_key
from nabrel.store.repositories import Sitters
from nabrel.store.sound import readable, sound
from nabrel.store.tables import AnswerRow, CardRow, ClassStudentRow, DrillSetFaceRow, DrillSetRow, SitterRow, StudentRow
from nabrel.store.versions import Missing, claim, next_place, require_capacity


@dataclass(frozen=True, slots=True)
class PractisingStudent:
    """A student who practises."""

    key: str
    name: str
    group: str
    sitter: str | None = None


class Students:
    """The students who practise."""

    def __init__(self, session: Session) -> None:
        self._session = session

    def all(self) -> list[PractisingStudent]:
        """Every student, in their order."""
        return [_student(row) for row in self._session.scalars(select(StudentRow).order_by(StudentRow.position))]

    def get(self, key: str) -> PractisingStudent:
        """One student. Refuses an unknown one."""
        return _student(self._row(key))

    def named(self, name: str) -> PractisingStudent | None:
        """The student of this name; None where there is none."""
        row = self._session.scalar(select(StudentRow).where(StudentRow.name_key == name_key(name)))
        return None if row is None else _student(row)

    def add(self, name: str, group: str = "") -> PractisingStudent:
        """A new student; one who has a sitter's nickname is that sitter. Refuses a name that another one has, and more than there may be."""
        name = _tidy(name)
        return self._add(PractisingStudent(uuid4().hex, name, group, self._sitter(name)))

    def _sitter(self, name: str) -> str | None:
        found: str | None = self._session.scalar(select(SitterRow.id).where(SitterRow.nickname == name).limit(1))
        return found

    def _add(self, student: PractisingStudent) -> PractisingStudent:
        require_capacity(self._session, StudentRow.key, MOST_DRILL_STUDENTS, "students")
        self._free(student.name, None)
        row = StudentRow(
            key=student.key,
            name=student.name,
            name_key=name_key(student.name),
            group=student.group,
            sitter_id=student.sitter,
            position=next_place(StudentRow.position),
        )
        self._session.add(row)
        self._session.flush()
        return _student(row)

    def put(self, key: str, name: str, group: str) -> PractisingStudent:
        """Another name or group. Refuses an unknown student, and a name that another one has."""
        row, name = self._row(key), _tidy(name)
        self._free(name, key)
        row.name, row.name_key, row.group = name, name_key(name), group
        row.sitter_id = self._sitter(name) or row.sitter_id
        self._session.flush()
        return _student(row)

    def practice(self, key: str) -> Practice:
        """What a student knows and answered."""
        cards = self._session.scalars(
            select(CardRow.document).where(CardRow.student_key == key).order_by(CardRow.judgement)
        )
        answers = self._session.scalars(
            select(AnswerRow.document).where(AnswerRow.student_key == key).order_by(AnswerRow.id)
        )
        known = sound(cards, lambda text: value_from_text(Known, text))
        return Practice(tuple(known), tuple(sound(answers, lambda text: value_from_text(Answered, text))))

    def answer(self, key: str, answer: Answered) -> None:
        """Keep an answer, and what is known since. Refuses a second answer to the same question of a test."""
        # Held first: of two answers at once the second goes on from the first one's card.
        claim(self._session, StudentRow, key, StudentRow.key == key)
        card = self._session.get(CardRow, (key, answer.judgement), populate_existing=True)
        known = (value_from_text(Known, card.document),) if card is not None else ()
        after = practised(Practice(known), answer).known[-1]
        self._save(key, answer)
        self._card(key, after)
        stored = self._session.scalar(select(func.count(AnswerRow.id)).where(AnswerRow.student_key == key)) or 0
        if stored > MOST_ANSWERS:
            oldest = select(AnswerRow.id).where(AnswerRow.student_key == key).order_by(AnswerRow.id)
            self._session.execute(
                delete(AnswerRow).where(AnswerRow.id.in_(oldest.limit(stored - MOST_ANSWERS).scalar_subquery()))
            )

    def put_forward(self, key: str, judgements: Iterable[str], now: datetime) -> None:
        """Judgements that this student is asked next."""
        self._row(key)
        claim(self._session, StudentRow, key, StudentRow.key == key)
        wanted = set(judgements)
        for card in put_forward(self.practice(key), wanted, now).known:
            if card.judgement in wanted:
                self._card(key, card)

    def in_test(self, key: str, set_key: str) -> list[Answered]:
        """The answers of a student to a test, by their places."""
        rows = self._session.scalars(
            select(AnswerRow)
            .where(AnswerRow.student_key == key, AnswerRow.set_key == set_key)
            .order_by(AnswerRow.place)
        )
        return sound(
            (row for row in rows if row.place is not None), lambda row: value_from_text(Answered, row.document)
        )

    def file(self, key: str) -> PracticeFile:
        """The file of a student's practice."""
        student, practice = self.get(key), self.practice(key)
        return PracticeFile(
            id=student.key,
            student=student.name,
            group=student.group,
            sitter=student.sitter,
            cards=practice.known,
            answers=practice.answers,
        )

    def bring(self, file: PracticeFile) -> PractisingStudent:
        """Take a student in from elsewhere, under a new id where theirs is taken; who has a sitter's nickname is that sitter.

        What was asked in sets that are not here stands without them.
        """
        taken = self._session.get(StudentRow, file.id) is not None
        sets = set(self._session.scalars(select(DrillSetRow.key)))
        answers = tuple(each if each.set in sets else replace(each, set=None, place=None) for each in file.answers)
        key, sitter = uuid4().hex if taken else file.id, self._sitter(_tidy(file.student))
        own = file.model_copy(update={"id": key, "sitter": sitter, "answers": answers})
        require_capacity(self._session, StudentRow.key, MOST_DRILL_STUDENTS, "students")
        self.take_in(own)
        return self.get(own.id)

    def take_in(self, file: PracticeFile) -> None:
        """Put a student in as they are."""
        self._add(PractisingStudent(file.id, file.student, file.group, file.sitter))
        self._session.add_all(_answer_row(file.id, answer) for answer in file.answers)
        self._session.add_all(
            CardRow(student_key=file.id, judgement=card.judgement, document=text_of(card)) for card in file.cards
        )
        self._session.flush()

    def of_sitter(self, sitter_id: str) -> list[PractisingStudent]:
        """The students who are this sitter: they go with the sitter."""
        return [
            _student(row) for row in self._session.scalars(select(StudentRow).where(StudentRow.sitter_id == sitter_id))
        ]

    def classes_of(self, name: str) -> int:
        """In how many classes somebody of this name is, however it is written."""
        return self._in_classes(name, linked=True)

    def typed_in_classes(self, nickname: str) -> int:
        """In how many classes a sitter's nickname was typed without the link to their face."""
        return self._in_classes(nickname, linked=False)

    def _in_classes(self, name: str, *, linked: bool) -> int:
        named = getattr(func, NAMED)(ClassStudentRow.document) == name_digest(name)
        wanted = select(func.count(func.distinct(ClassStudentRow.class_key))).where(named)
        if not linked:
            wanted = wanted.where(ClassStudentRow.sitter_id.is_(None))
        return self._session.scalar(wanted) or 0

    def _save(self, key: str, answer: Answered) -> None:
        row = _answer_row(key, answer)
        try:
            with self._session.begin_nested():
                self._session.add(row)
                self._session.flush()
        except IntegrityError:
            raise Impossible("answer", "a second one", "one answer to each question of a test") from None

    def _card(self, key: str, card: Known) -> None:
        self._session.merge(CardRow(student_key=key, judgement=card.judgement, document=text_of(card)))
        self._session.flush()

    def _row(self, key: str) -> StudentRow:
        row = self._session.get(StudentRow, key)
        if row is None:
            raise Missing("student", key, "the id of a student")
        return row

    def _free(self, name: str, key: str | None) -> None:
        other = self.named(name)
        if other is not None and other.key != key:
            raise Told("name", f"There is a student {other.name} already.", "Take a name that tells them apart.")


class DrillSets:
    """Sets of exercises made by hand."""

    def __init__(self, session: Session) -> None:
        self._session = session

    def all(self) -> list[DrillSetFile]:
        """Every set, the newest last."""
        rows = self._session.scalars(select(DrillSetRow).order_by(DrillSetRow.position, DrillSetRow.key))
        return sound(rows, self._file)

    def get(self, key: str) -> DrillSetFile:
        """One set. Refuses an unknown one."""
        row = self._session.get(DrillSetRow, key)
        if row is None:
            raise Missing("set", key, "the id of a set")
        return readable("set", lambda: self._file(row))

    def by_code(self, code: str) -> DrillSetFile:
        """The set of a code, however it is typed. Refuses one that no set has."""
        wanted = "".join(code.split()).replace("-", "").upper()
        row = self._session.scalar(select(DrillSetRow).where(DrillSetRow.code == wanted))
        if row is None:
            raise Missing("code", code, f"the code of a set: {CODE_LENGTH} letters and digits from your educator")
        return readable("set", lambda: self._file(row))

    def put(self, file: DrillSetFile) -> DrillSetFile:
        """A set, new or in the place of what it was. Refuses what cannot be asked, and a test that others began otherwise."""
        check_set(file)
        for face in file.faces:
            if Sitters(self._session).get(face).sitter.consent_on is None:
                raise Refused("faces", face, "a sitter who agreed to their record (Read, consent)")
        row = self._session.get(DrillSetRow, file.id)
        if row is None:
            require_capacity(self._session, DrillSetRow.key, MOST_SETS, "sets")
        elif self.answered(file.id) and self._asks(self._file(row)) != self._asks(file):
            raise Impossible("set", file.title, "a set that nobody began: make another one, or change its name only")
        self.put_back(file)
        return file

    def put_back(self, file: DrillSetFile) -> None:
        """Put a set in as it is."""
        row = self._session.get(DrillSetRow, file.id)
        if row is None:
            row = DrillSetRow(key=file.id, code=file.code, position=next_place(DrillSetRow.position), document="")
            self._session.add(row)
        row.code, row.document = file.code, file.model_copy(update={"faces": ()}).model_dump_json()
        self._session.flush()
        self._session.execute(delete(DrillSetFaceRow).where(DrillSetFaceRow.set_key == file.id))
        for place, face in enumerate(file.faces):
            self._session.add(DrillSetFaceRow(set_key=file.id, sitter_id=face, position=place))
        self._session.flush()

    def remove(self, key: str) -> None:
        """Forget a set; what was answered in it stays with the students. Refuses an unknown one."""
        if self._session.get(DrillSetRow, key) is None:
            raise Missing("set", key, "the id of a set")
        for row in self._session.scalars(select(AnswerRow).where(AnswerRow.set_key == key)):
            for answer in sound([row.document], lambda text: value_from_text(Answered, text)):
                row.document = text_of(replace(answer, set=None, place=None))
            row.set_key = row.place = None
        self._session.flush()
        self._session.execute(delete(DrillSetRow).where(DrillSetRow.key == key))
        self._session.expire_all()

    def answered(self, key: str) -> dict[str, int]:
        """How many questions of a set every student answered, by the student's key."""
        rows = self._session.execute(
            select(AnswerRow.student_key, func.count(AnswerRow.id))
            .where(AnswerRow.set_key == key)
            .group_by(AnswerRow.student_key)
        )
        return {row[0]: row[1] for row in rows}

    def faces(self, file: DrillSetFile) -> tuple[Case, ...]:
        """The faces that a set asks about, as they are here; each is planned with a teaching kit."""
        stored = (Sitters(self._session).get(face) for face in file.faces)
        return tuple(Case(each.sitter, each.intent) for each in stored)

    def new_code(self) -> str:
        """A code that no set has."""
        while True:
            code = "".join(secrets.choice(CODE_LETTERS) for _ in range(CODE_LENGTH))
            if self._session.scalar(select(DrillSetRow.key).where(DrillSetRow.code == code)) is None:
                return code

    def _file(self, row: DrillSetRow) -> DrillSetFile:
        faces = self._session.scalars(
            select(DrillSetFaceRow.sitter_id)
            .where(DrillSetFaceRow.set_key == row.key)
            .order_by(DrillSetFaceRow.position)
        ).all()
        return DrillSetFile.model_validate_json(row.document).model_copy(update={"faces": tuple(faces)})

    @staticmethod
    def _asks(file: DrillSetFile) -> tuple[object, ...]:
        return (file.parts, file.seed, file.same_for_all, file.faces)


def _tidy(name: str) -> str:
    """A name without spaces around it. Refuses one of nothing else."""
    found = " ".join(name.split())
    if not found:
        raise Refused("name", name, "a name of 1 to 60 characters")
    return found


def _answer_row(key: str, answer: Answered) -> AnswerRow:
    return AnswerRow(student_key=key, set_key=answer.set, place=answer.place, document=text_of(answer))


def _student(row: StudentRow) -> PractisingStudent:
    return PractisingStudent(row.key, row.name, row.group, row.sitter_id)
