"""Classes over HTTP: announced, changed, printed, held and forgotten."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date
from uuid import uuid4

from flask import Response
from sqlalchemy.orm import Session

from nabrel.core.ask.mistakes import MISTAKES
from nabrel.core.lesson.lesson import Lesson
from nabrel.formats.classes import ClassFile
from nabrel.formats.workspace import StoredClass
from nabrel.store.classes import Classes, by_course, next_of
from nabrel.store.plans import PlanRow, Plans
from nabrel.store.repositories import Sitters
from nabrel.store.shelf import NamedKits
from nabrel.store.sound import sound
from nabrel.web.classes import answers as cw
from nabrel.web.classes import present
from nabrel.web.pace.run import calendar_file
from nabrel.web.shared import wire as w
from nabrel.web.shared.endpoints import Endpoints
from nabrel.web.shared.requests import as_file, database, house, remembered, shelf

classes = Endpoints("classes", __name__, url_prefix="/api", tag="class")


@classes.get("/classes", "classes")
def get_classes() -> cw.ClassesWire:
    """All classes by course, and what a new one may choose from."""
    with database().session() as session:
        saved = Classes(session).all()
        plans = {row.id: row for row in Plans(session).all()}
        # A class whose plan is damaged is listed all the same.
        lessons = sound(saved, lambda each: (each.id, present.taught(Classes(session).room(each))))
        taught: dict[str, list[str]] = {**{each.id: [] for each in saved}, **dict(lessons)}
        sitters = [w.Named(id=each.id, name=each.sitter.nickname) for each in Sitters(session).all()]
        kits = [w.Named(id=each.id, name=each.name) for each in NamedKits(session).all()]
    coming = next_of(saved, date.today())
    return cw.ClassesWire(
        courses=[
            cw.ClassCourseWire(
                course=course,
                held=sum(each.held for each in own),
                taught=list(dict.fromkeys(words for each in own if each.held for words in taught[each.id])),
                classes=[present.row(each, plans[each.plan], taught[each.id]) for each in own],
            )
            for course, own in by_course(saved).items()
        ],
        next=None if coming is None else coming.id,
        plans=[w.Named(id=row.id, name=f"{row.nickname}: {row.title}") for row in plans.values()],
        sitters=sitters,
        kits=kits,
        mistakes=[w.Named(id=each.id, name=each.words) for each in MISTAKES.values()],
        today=date.today().isoformat(),
    )


@classes.post("/classes", "announce_class", 201)
def post_class(body: cw.ClassBody) -> cw.ClassWire:
    """Announce a class. Refuses one that cannot be held."""
    new = _as_stored(uuid4().hex, body)
    saved = _stored_once_sound(lambda classes: classes.add(new))
    with database().session() as session:
        return _whole(session, saved)


@classes.get("/classes/<id>", "class")
def get_class(path: w.IdPath) -> cw.ClassWire:
    """A class with its lesson, what it takes and what there is to do."""
    with database().session() as session:
        return _whole(session, Classes(session).get(path.id))


@classes.put("/classes/<id>", "change_class")
def put_class(path: w.IdPath, body: cw.ClassBody) -> cw.ClassWire:
    """Change what is announced. Refuses, with the reason, what cannot be held, and a class that somebody else has changed."""
    new = _as_stored(path.id, body)
    saved = _stored_once_sound(lambda classes: classes.put(new, body.version))
    with database().session() as session:
        return _whole(session, saved)


@classes.delete("/classes/<id>", "remove_class", 204)
def delete_class(path: w.IdPath) -> Response:
    """Forget a class; what it took from the packs stays taken."""
    with database().session() as session:
        Classes(session).remove(path.id)
    return Response(status=204)


@classes.post("/classes/<id>/held", "hold_class")
def post_held(path: w.IdPath, body: cw.HeldBody) -> cw.ClassWire:
    """A class was held: the packs lose what was weighed out, once."""
    with database().session() as session:
        stored = Classes(session)
        found = lesson_of(session, stored.get(path.id))
    with database().session() as session:
        saved = Classes(session).hold(path.id, found, body.version)
    with database().session() as session:
        return _whole(session, saved)


@classes.get("/classes/<id>/file", "class_file")
def get_class_file(path: w.IdPath) -> Response:
    """A class as a file, with the plan and the faces whole."""
    with database().session() as session:
        saved = Classes(session).get(path.id)
        room = Classes(session).room(saved)
    return as_file(ClassFile.of(room), f"{saved.title}-{saved.date}.class.json")


@classes.get("/classes/<id>/calendar", "class_calendar")
def get_class_calendar(path: w.IdPath) -> Response:
    """A class as calendar entries: itself, what is prepared before it, and the second look."""
    from nabrel.formats.class_calendar import class_calendar  # noqa: PLC0415 - only where it is asked for

    with database().session() as session:
        saved = Classes(session).get(path.id)
        found = lesson_of(session, saved)
    return calendar_file(class_calendar(found, saved.id), f"{saved.title}.ics")


def lesson_of(session: Session, saved: StoredClass) -> Lesson:
    """The lesson of a class, remembered while nothing of it changes."""
    return remembered().lesson(Classes(session).room(saved), house(), shelf())


def _stored_once_sound(change: Callable[[Classes], StoredClass]) -> StoredClass:
    """Keep a change of a class whose lesson can be held. Refuses one whose lesson cannot.

    It is tried and taken back before its lesson is worked out: nobody's change waits for a lesson.
    """
    with database().session() as session, session.begin_nested() as trial:
        room = Classes(session).room(change(Classes(session)))
        trial.rollback()
    remembered().lesson(room, house(), shelf())
    with database().session() as session:
        return change(Classes(session))


def plan_of(session: Session, saved: StoredClass) -> PlanRow:
    """The plan that a class teaches, as lists show it."""
    return next(row for row in Plans(session).all() if row.id == saved.plan)


def _as_stored(key: str, body: cw.ClassBody) -> StoredClass:
    announced = {name: getattr(body, name) for name in cw.ClassBody.model_fields if name != "version"}
    return StoredClass.model_construct(id=key, **announced)


def _whole(session: Session, saved: StoredClass) -> cw.ClassWire:
    nicknames = {each.id: each.sitter.nickname for each in Sitters(session).all()}
    found = lesson_of(session, saved)
    version = Classes(session).version(saved.id)
    return present.whole(saved, version, found, plan_of(session, saved), nicknames)
