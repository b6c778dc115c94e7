"""Sitters: who is here, erased or imported; and the vocabulary."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

from flask import Response
from sqlalchemy.orm import Session

from nabrel.core.ask.recommend import plan_on
from nabrel.core.face.reading import read
from nabrel.formats.files import CaseFile
from nabrel.formats.loader import read_case
from nabrel.store.classes import Classes
from nabrel.store.erasing import of_sitter, titles_of
from nabrel.store.practice import Students
from nabrel.store.repositories import Kit, Sequences, Sitters, take_in_case
from nabrel.web.shared import present
from nabrel.web.shared import wire as w
from nabrel.web.shared.endpoints import Endpoints
from nabrel.web.shared.mentions import LeaveQuery, found_mentions, mentions_wire
from nabrel.web.shared.requests import (
    as_file,
    database,
    forget,
    house,
)
from nabrel.web.shared.uploads import taken_file

home = Endpoints("home", __name__, url_prefix="/api", tag="home")


@home.get("/vocabulary", "vocabulary")
def get_vocabulary() -> w.VocabularyWire:
    """The terms, schools and rules with their words."""
    return present.vocabulary()


@home.get("/sitters", "sitters")
def get_sitters() -> w.SitterList:
    """All sitters."""
    with database().session() as session:
        stored = Sitters(session).all()
    return w.SitterList(sitters=[present.sitter_summary(each) for each in stored])


@home.get("/sitters/<id>", "sitter")
def get_sitter(path: w.IdPath) -> w.SitterWire:
    """One sitter as read."""
    with database().session() as session:
        stored = Sitters(session).get(path.id)
    return present.sitter(stored, read(present.case_of(stored, ()), house()))


@home.get("/sitters/<id>/belongings", "belongings")
def get_belongings(path: w.IdPath) -> w.BelongingsWire:
    """What would go with a sitter who is erased, and the titles of other things in which their name stands."""
    with database().session() as session:
        goes, nickname = _goes(session, path.id), Sitters(session).nickname(path.id)
    return w.BelongingsWire(**dict(goes), mentions=mentions_wire(found_mentions(nickname, path.id)))


@home.delete("/sitters/<id>", "erase_sitter")
def delete_sitter(path: w.IdPath, query: LeaveQuery) -> w.ErasedWire:
    """Erase a sitter with every plan and revision, and their name in other titles, from every file; says what went. The kit stays."""
    with database().session() as session:
        goes = _goes(session, path.id)
        gone, nickname = Sitters(session).plans_of(path.id), Sitters(session).nickname(path.id)
    titles = titles_of(found_mentions(nickname, path.id), nickname, query.leave)
    try:
        finished = database().erase(of_sitter(path.id, nickname, titles))
    finally:
        # On a full disk some of it may be erased already.
        forget([*gone, *(key for _, kind, key in titles if kind == "plan")])
    return w.ErasedWire(**dict(goes), titles=len(titles), finished=finished)


def _goes(session: Session, sitter_id: str) -> w.GoesWire:
    plans, revisions = Sitters(session).belongings(sitter_id)
    return w.GoesWire(
        plans=plans,
        revisions=revisions,
        classes=Classes(session).taught_with(sitter_id),
        practice=len(Students(session).of_sitter(sitter_id)),
        named=Students(session).typed_in_classes(Sitters(session).nickname(sitter_id)),
    )


@home.get("/sitters/<id>/case", "export_case")
def get_case_file(path: w.IdPath) -> Response:
    """The sitter's case file, with the whole shelf."""
    with database().session() as session:
        stored = Sitters(session).get(path.id)
        kit = Kit(session).all()
    return as_file(CaseFile.of(present.case_of(stored, kit)), f"{stored.sitter.nickname}.case.json")


@home.post("/cases", "import_case", 201)
def post_case() -> w.ImportedWire:
    """Import a case file (JSON body): stores the sitter, takes in kit items the shelf lacks, and plans."""
    case = read_case(taken_file())
    sequence = replace(plan_on(date.today(), case, house()), title=f"{case.sitter.nickname}, imported")
    with database().session() as session:
        sitter_id, added = take_in_case(session, case)
        sequence_id = Sequences(session).add(sitter_id, sequence)
    return w.ImportedWire(sitter_id=sitter_id, sequence_id=sequence_id, kit_added=len(added))
