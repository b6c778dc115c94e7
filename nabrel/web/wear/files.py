"""Wear records as files: out, in with a preview, and the photographs beside looks."""

from __future__ import annotations

from flask import Response

from nabrel.core.errors import Refused
from nabrel.formats.files import SequenceFile
from nabrel.formats.wear import WearFile, read_wear
from nabrel.formats.wear_csv import LookRow, read_looks, write_looks
from nabrel.store.looks_in import LooksIn
from nabrel.store.repositories import Sequences, Sitters
from nabrel.store.wear import Wears
from nabrel.web.shared import wire as w
from nabrel.web.shared.endpoints import Endpoints
from nabrel.web.shared.requests import (
    as_file,
    database,
    download,
    heavy,
    house,
)
from nabrel.web.shared.uploads import taken_file
from nabrel.web.shelf.answers import TakeQuery
from nabrel.web.wear import answers as ww
from nabrel.web.wear.present import worn_wire

wear_files = Endpoints("wear_files", __name__, url_prefix="/api", tag="wear")

MOST_ROWS_SHOWN = 200


@wear_files.get("/wears/table", "wears_table")
def get_table(query: ww.WearsQuery) -> Response:
    """The looks of records as CSV, a row a zone that was looked at."""
    with database().session() as session:
        if query.sitter is not None:
            Sitters(session).get(query.sitter)
        wears = Wears(session)
        names = wears.nicknames()
        return download(
            write_looks((names[stored.id], stored) for stored in wears.all(query.sitter)), "looks.csv", "text/csv"
        )


@wear_files.get("/wears/<id>/file", "wear_file")
def get_file(path: w.IdPath) -> Response:
    """A record as a file, with the plan as it was worked."""
    with database().session() as session:
        stored = Wears(session).get(path.id)
        sequence = Sequences(session).at(stored.plan, stored.revision)
    made = WearFile(
        sequence=SequenceFile.of(sequence),
        worn=stored.worn,
        looks=stored.looks,
        verdict=stored.verdict,
        forecast=stored.forecast,
        run=stored.run,
        trial=stored.trial,
    )
    return as_file(made, f"{sequence.case.sitter.nickname}-{stored.worn.from_[:10]}.wear.json")


@wear_files.post("/wears/file", "import_wear", 201)
def post_file() -> ww.WearWire:
    """Import a wear file (JSON body): to the sitter of that nickname, or a new one, and to the plan that it is of."""
    file = read_wear(taken_file())
    case = file.sequence.sequence.case
    with database().session() as session:
        here = (each.id for each in Sitters(session).all() if each.sitter.nickname == case.sitter.nickname)
        owner = next(here, None) or Sitters(session).add(case.sitter, case.intent)
        stored = Wears(session).take_in(owner, file, house())
    return worn_wire(stored)


@wear_files.post("/wears/preview", "preview_looks")
def post_preview() -> ww.LookRowsWire:
    """What each row of a table of looks says; nothing is kept."""
    rows = read_looks(taken_file())
    with database().session() as session:
        judged = LooksIn(session, house()).judged(rows)
    good = [row for row in judged if row.refused is None]
    bad = [row for row in judged if row.refused is not None]
    shown = sorted([*bad[:MOST_ROWS_SHOWN], *good[:MOST_ROWS_SHOWN]], key=lambda row: row.line)
    return ww.LookRowsWire(good=len(good), problems=len(bad), rows=[_told(row) for row in shown])


@wear_files.post("/wears/table", "import_looks")
def post_looks(query: TakeQuery) -> ww.LooksTakenWire:
    """Keep a table of looks. All of it, or nothing, unless rows with problems may be left out."""
    rows = read_looks(taken_file())
    with database().session() as session:
        looks = LooksIn(session, house())
        judged = looks.judged(rows)
        for row in judged:
            if row.refused is not None and not query.leave_out:
                raise Refused(f"line {row.line}: {row.refused.field}", row.refused.found, row.refused.allowed)
        records = looks.take(judged)
    return ww.LooksTakenWire(rows=sum(row.refused is None for row in judged), records=records)


def _told(row: LookRow) -> ww.LookRowWire:
    if row.seen is None:
        return ww.LookRowWire(line=row.line, name=row.name, status="problem", says=str(row.refused))
    day = row.seen.worn.from_[:10]
    return ww.LookRowWire(line=row.line, name=row.name, status="good", says=f"{day}, {row.seen.says}")


@wear_files.put("/wears/<id>/photo", "attach_photo")
def put_photo(path: w.IdPath, query: ww.MinuteQuery) -> ww.WearWire:
    """Keep a photograph beside a look (JPEG, PNG or WebP body): made small, upright, and free of all but the picture."""
    from nabrel.formats.photo import re_encoded  # noqa: PLC0415 - Pillow is loaded only where there are pictures

    picture = heavy("picture", re_encoded, taken_file())
    with database().session() as session:
        stored = Wears(session).attach(path.id, query.after_min, picture)
    return worn_wire(stored)


@wear_files.delete("/wears/<id>/photo", "forget_photo")
def delete_photo(path: w.IdPath, query: ww.MinuteQuery) -> ww.WearWire:
    """Forget the photograph beside a look."""
    with database().session() as session:
        stored = Wears(session).detach(path.id, query.after_min)
    return worn_wire(stored)


@wear_files.get("/wears/<id>/photo/<name>", "photo")
def get_photo(path: ww.PhotoPath) -> Response:
    """A photograph beside a look."""
    with database().session() as session:
        picture = Wears(session).picture(path.id, path.name)
    return Response(picture, mimetype="image/jpeg")
