"""Sets of exercises made by hand, over HTTP: made, changed, printed as a paper, removed."""

from __future__ import annotations

import secrets
from uuid import uuid4

from flask import Response
from sqlalchemy.orm import Session

from nabrel.core.case.case import Case
from nabrel.core.drill.sets import questions
from nabrel.core.house import House
from nabrel.formats.loader import read
from nabrel.formats.practice import DrillSetFile, check_set
from nabrel.store.drill_sessions import Takes
from nabrel.store.practice import DrillSets, Students
from nabrel.store.repositories import Sitters
from nabrel.web.drill import answers as dw
from nabrel.web.drill import present
from nabrel.web.shared import wire as w
from nabrel.web.shared.endpoints import Endpoints
from nabrel.web.shared.requests import as_file, database, download, heavy, house
from nabrel.web.shared.uploads import taken_file

drill_sets = Endpoints("drill_sets", __name__, url_prefix="/api/drill/sets", tag="drill")
MOST_SEED = 2**31


@drill_sets.get("", "drill_sets")
def get_sets() -> dw.DrillSetsWire:
    """All sets, and whose faces one may be about."""
    with database().session() as session:
        sets = [_wire(session, each) for each in DrillSets(session).all()]
        faces = [
            w.Named(id=each.id, name=each.sitter.nickname)
            for each in Sitters(session).all()
            if each.sitter.consent_on is not None
        ]
    return dw.DrillSetsWire(sets=sets, faces=faces)


@drill_sets.post("", "make_drill_set", 201)
def post_set(body: dw.DrillSetBody) -> dw.DrillSetWire:
    """A new set, with its code."""
    with database().session() as session:
        code = DrillSets(session).new_code()
        made = DrillSets(session).put(_file(uuid4().hex, code, body, secrets.randbelow(MOST_SEED)))
        return _wire(session, made)


@drill_sets.post("/file", "import_drill_set", 201)
def post_file() -> dw.DrillSetWire:
    """A set from its file, as a new one; faces that are not here, or did not agree, are left out."""
    file = check_set(read(taken_file(), DrillSetFile, "drill_set"))
    with database().session() as session:
        sets = DrillSets(session)
        agreed = {each.id for each in Sitters(session).all() if each.sitter.consent_on is not None}
        faces = tuple(face for face in file.faces if face in agreed)
        code = sets.new_code() if file.code in {each.code for each in sets.all()} else file.code
        made = sets.put(file.model_copy(update={"id": uuid4().hex, "code": code, "faces": faces}))
        return _wire(session, made)


@drill_sets.put("/<id>", "change_drill_set")
def put_set(path: w.IdPath, body: dw.DrillSetBody) -> dw.DrillSetWire:
    """Change a set. Refuses other exercises in one that somebody began."""
    with database().session() as session:
        now = DrillSets(session).get(path.id)
        return _wire(session, DrillSets(session).put(_file(now.id, now.code, body, now.seed)))


@drill_sets.delete("/<id>", "remove_drill_set", 204)
def delete_set(path: w.IdPath) -> Response:
    """Forget a set; what was answered in it stays with the students."""
    with database().session() as session:
        DrillSets(session).remove(path.id)
    return Response(status=204)


@drill_sets.post("/<id>/tries", "allow_try")
def post_try(path: w.IdPath, body: dw.AnotherTryBody) -> dw.DrillSetWire:
    """Allow a student another try at a set, with other exercises; what was answered before stays with the student."""
    with database().session() as session:
        file = DrillSets(session).get(path.id)
        Takes(session).allow_another(file.id, Students(session).get(body.student).key)
        return _wire(session, file)


@drill_sets.get("/<id>/file", "drill_set_file")
def get_file(path: w.IdPath) -> Response:
    """A set as a file."""
    with database().session() as session:
        file = DrillSets(session).get(path.id)
    return as_file(file, f"{file.title}.drill_set.json")


@drill_sets.get("/<id>/paper", "drill_paper")
def get_paper(path: w.IdPath) -> Response:
    """The exercises of a set on paper, with the answers at the end (PDF)."""
    with database().session() as session:
        file = DrillSets(session).get(path.id)
        faces = DrillSets(session).faces(file)
    made = heavy("paper", _paper, file, house(), faces)
    return download(made, f"{file.title}.pdf", "application/pdf")


def _paper(file: DrillSetFile, house: House, faces: tuple[Case, ...]) -> bytes:
    from nabrel.formats.sheet.paper import write_paper  # noqa: PLC0415 - only who prints pays for it

    return write_paper(file.title, list(questions(file.parts, file.seed, house, faces)), file.minutes)


def _file(key: str, code: str, body: dw.DrillSetBody, seed: int) -> DrillSetFile:
    return DrillSetFile(
        id=key,
        title=body.title,
        code=code,
        parts=body.parts,
        seed=body.seed if body.seed is not None else seed,
        same_for_all=body.same_for_all,
        minutes=body.minutes,
        faces=body.faces,
        closed=body.closed,
    )


def _wire(session: Session, file: DrillSetFile) -> dw.DrillSetWire:
    names = {each.id: each.sitter.nickname for each in Sitters(session).all()}
    students = Students(session)
    results = []
    began = DrillSets(session).answered(file.id)
    for student in students.all() if began else ():
        if student.key not in began:
            continue
        own = [each for each in students.practice(student.key).answers if each.set == file.id]
        results.append(
            dw.SetResultWire(
                student=w.Named(id=student.key, name=student.name),
                answered=len(own),
                score=sum(each.score for each in own) / len(own),
            )
        )
    faces = [w.Named(id=each, name=names.get(each, each)) for each in file.faces]
    return present.drill_set(file, faces, results)
