"""Students who practise, over HTTP: the group at a glance, one student's map, put forward, exported, erased."""

from __future__ import annotations

from typing import Annotated

from flask import Response, current_app
from pydantic import Field
from sqlalchemy.orm import Session

from nabrel.core.drill.group import items, members, needs
from nabrel.core.drill.judgements import JUDGEMENTS, of_kind
from nabrel.core.errors import Refused
from nabrel.formats.loader import read
from nabrel.formats.practice import PracticeFile, check_practice, write_results
from nabrel.store.erasing import of_student, titles_of
from nabrel.store.names import name_key
from nabrel.store.practice import DrillSets, PractisingStudent, Students
from nabrel.web.drill import answers as dw
from nabrel.web.drill import present
from nabrel.web.drill.sessions import Sessions
from nabrel.web.shared import signing_in
from nabrel.web.shared import wire as w
from nabrel.web.shared.endpoints import Endpoints
from nabrel.web.shared.mentions import LeaveQuery, found_mentions, mentions_wire
from nabrel.web.shared.requests import as_file, clock, database, download, forget
from nabrel.web.shared.signing_in import NotForStudents
from nabrel.web.shared.uploads import taken_file

drill_students = Endpoints("drill_students", __name__, url_prefix="/api/drill", tag="drill")


class GroupQuery(w.Query):
    """One group of students; everybody where none is named."""

    group: Annotated[str, Field(max_length=120)] | None = None


@drill_students.get("/students", "drill_group")
def get_students(query: GroupQuery) -> dw.GroupWire:
    """Everybody at a glance, what they need, and exercises with something the matter."""
    with database().session() as session:
        everybody = Students(session).all()
        students = {each.key: each for each in everybody if query.group in (None, each.group)}
        group = {key: Students(session).practice(key) for key in students}
        titles = {each.id: each.title for each in DrillSets(session).all()}
    now, names = clock(), {key: each.name for key, each in students.items()}
    return dw.GroupWire(
        members=[present.member(each, students[each.student]) for each in members(group, now)],
        needs=[present.need(each, names) for each in needs(group, now)],
        items=[present.item(each, titles) for each in items(group)],
        groups=sorted({each.group for each in everybody if each.group}),
        judgements=len(JUDGEMENTS),
    )


@drill_students.post("/students", "add_drill_student", 201)
def post_student(body: dw.DrillStudentBody) -> dw.PracticeWire:
    """A new student. Refuses a name that another one has."""
    with database().session() as session:
        return _progress(session, Students(session).add(body.name, body.group))


@drill_students.post("/students/file", "import_practice", 201)
def post_file() -> dw.PracticeWire:
    """A student's practice from its file. Refuses a name that is here; what was asked in sets that are not stands without them."""
    file = check_practice(read(taken_file(), PracticeFile, "practice"))
    with database().session() as session:
        return _progress(session, Students(session).bring(file))


@drill_students.get("/students/<id>", "drill_progress")
def get_student(path: w.IdPath) -> dw.PracticeWire:
    """A student's map of judgements; a student who is signed in sees their own."""
    with database().session() as session:
        student = Students(session).get(path.id)
        who = signing_in.who()
        if who is not None and who.role == "student" and name_key(who.name) != name_key(student.name):
            raise NotForStudents("student", "This is another student.", "Look at your own practice.")
        return _progress(session, student)


@drill_students.put("/students/<id>", "change_drill_student")
def put_student(path: w.IdPath, body: dw.DrillStudentBody) -> dw.PracticeWire:
    """Another name or group."""
    with database().session() as session:
        return _progress(session, Students(session).put(path.id, body.name, body.group))


@drill_students.get("/students/<id>/mentions", "student_mentions")
def get_mentions(path: w.IdPath) -> w.MentionsWire:
    """The titles of plans, classes, sets and kits in which a student's name stands."""
    with database().session() as session:
        name = Students(session).get(path.id).name
    return w.MentionsWire(mentions=mentions_wire(found_mentions(name)))


@drill_students.delete("/students/<id>", "erase_drill_student")
def delete_student(path: w.IdPath, query: LeaveQuery) -> dw.DrillErasedWire:
    """Erase a student for good: practice, answers, and their name in classes and titles, in every file and backup."""
    with database().session() as session:
        student = Students(session).get(path.id)
        classes = Students(session).classes_of(student.name)
    titles = titles_of(found_mentions(student.name), student.name, query.leave)
    found: Sessions = current_app.extensions["nabrel_drills"]
    found.forget(student.key)
    try:
        finished = database().erase(of_student(student.key, student.name, titles))
    finally:
        forget([key for _, kind, key in titles if kind == "plan"])
    return dw.DrillErasedWire(classes=classes, titles=len(titles), finished=finished)


@drill_students.get("/students/<id>/file", "practice_file")
def get_file(path: w.IdPath) -> Response:
    """All that is kept of a student's practice, as a file."""
    with database().session() as session:
        file = Students(session).file(path.id)
    return as_file(file, f"{file.student}.practice.json")


@drill_students.post("/students/<id>/next", "put_forward")
def post_next(path: w.IdPath, body: dw.PutForwardBody) -> dw.PracticeWire:
    """What a student is asked next: it went wrong in class, or they want to practise it."""
    for place, each in enumerate(body.judgements):
        if each not in JUDGEMENTS:
            raise Refused(f"judgements[{place}]", each, "a judgement that is practised")
    wanted = [*body.judgements, *(each.id for kind in body.kinds for each in of_kind(kind))]
    if not wanted:
        raise Refused("judgements", "none", "at least one judgement, or kind of exercise")
    with database().session() as session:
        Students(session).put_forward(path.id, wanted, clock())
        return _progress(session, Students(session).get(path.id))


@drill_students.get("/results", "drill_results")
def get_results(query: GroupQuery) -> Response:
    """Every answer as a table."""
    with database().session() as session:
        students = [each for each in Students(session).all() if query.group in (None, each.group)]
        files = [Students(session).file(each.key) for each in students]
        titles = {each.id: each.title for each in DrillSets(session).all()}
    return download(write_results(files, titles), f"results-{query.group or 'all'}.csv", "text/csv")


def _progress(session: Session, student: PractisingStudent) -> dw.PracticeWire:
    students = Students(session)
    return present.progress(student, students.practice(student.key), students.classes_of(student.name), clock())
