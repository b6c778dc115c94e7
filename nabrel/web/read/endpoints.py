"""The Read room: the record of a face, its dated readings, and the simulated instruments that take them."""

from __future__ import annotations

import secrets
from dataclasses import replace
from datetime import date

import numpy as np
from flask import Response

from nabrel.core.ask.measured import changed_by_skin
from nabrel.core.case.intent import Intent
from nabrel.core.case.sitter import Colour, Sitter
from nabrel.core.errors import Refused
from nabrel.core.face.by_eye import TONES, closer, grid, sure
from nabrel.core.face.measuring import Place, SkinReading, colour_taking, moisture_band, newest, oil_band, place_words
from nabrel.core.face.reading import Reading, read
from nabrel.core.face.skin import depth_class
from nabrel.core.film.spectra import to_hex
from nabrel.core.learn.settled import settled_colours
from nabrel.core.solve.stripe import from_stripe
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.conditions import CONDITION_INFO
from nabrel.devices import colour_reader, probe
from nabrel.formats.checks import check_sitter, check_skin_reading
from nabrel.formats.colour_text import colour_of, rounded
from nabrel.formats.skin_readings import ReadingLine, read_readings, write_cgats, write_readings
from nabrel.formats.values import filled
from nabrel.formats.workspace import write_workspace
from nabrel.store.repositories import Kit, Sequences, Sitters
from nabrel.store.skin_readings import SkinReadings
from nabrel.store.versions import Missing
from nabrel.store.wear import Wears
from nabrel.store.workspace import gather_one
from nabrel.web.read import answers as wf
from nabrel.web.read import present as present_face
from nabrel.web.shared import present
from nabrel.web.shared import wire as w
from nabrel.web.shared.endpoints import Endpoints
from nabrel.web.shared.plan_changes import PlanChangesWire, plan_changes
from nabrel.web.shared.requests import database, download, house
from nabrel.web.shared.uploads import taken_file
from nabrel.web.shelf import answers as ws

read_room = Endpoints("read", __name__, url_prefix="/api", tag="read")


def _face(sitter_id: str) -> wf.FaceWire:
    with database().session() as session:
        stored = Sitters(session).get(sitter_id)
        dated = SkinReadings(session).of(sitter_id)
    return present_face.face(stored, read(present.case_of(stored, ()), house()), dated, house())


@read_room.post("/faces", "new_sitter", 201)
def post_sitter(body: wf.NewSitterBody) -> wf.FaceWire:
    """A new sitter, to be read."""
    sitter = Sitter(
        nickname=_nickname(body.nickname, "nickname"),
        skin=Colour(body.skin, body.lab_sd, body.source),
        preset=body.preset,
        consent_on=body.consent_on,
    )
    check_sitter(sitter, "sitter")
    with database().session() as session:
        sitter_id = Sitters(session).add(sitter, Intent())
    return _face(sitter_id)


@read_room.get("/sitters/<id>/face", "face")
def get_face(path: w.IdPath) -> wf.FaceWire:
    """A face as read, with the record as it can be changed."""
    return _face(path.id)


@read_room.put("/sitters/<id>/face", "change_record")
def put_sitter(path: w.IdPath, body: wf.RecordBody) -> wf.FaceWire:
    """Keep a changed record, made on a version of it. Plans keep the face they were made for until planned anew."""
    sitter = replace(body.record, nickname=_nickname(body.record.nickname, "record.nickname"))
    check_sitter(sitter, "sitter")
    intent = body.intent
    with database().session() as session:
        Sitters(session).change(path.id, body.version, sitter, intent)
    return _face(path.id)


@read_room.post("/sitters/<id>/placements", "placements")
def post_placements(path: w.IdPath, body: wf.WishedBody) -> wf.PlacementsWire:
    """Where the placements would lie on this face for other wishes; nothing is kept."""
    with database().session() as session:
        stored = Sitters(session).get(path.id)
    case = replace(present.case_of(stored, ()), intent=body.intent)
    return present_face.placements(read(case, house()), house())


@read_room.post("/sitters/<id>/readings", "keep_readings")
def post_readings(path: w.IdPath, body: wf.ReadingsBody) -> wf.FaceWire:
    """Keep dated readings; the newest of each place counts."""
    readings = [check_skin_reading(each, f"readings[{n}]") for n, each in enumerate(body.readings)]
    _save(path.id, readings)
    return _face(path.id)


@read_room.post("/sitters/<id>/readings/changes", "preview_skin")
def post_changes(path: w.IdPath, body: wf.ReadingsBody) -> PlanChangesWire:
    """What readings would change in the sitter's plans, as far as they would count; nothing is saved."""
    coming = [check_skin_reading(each, f"readings[{n}]") for n, each in enumerate(body.readings)]
    with database().session() as session:
        counting = newest([*(each for _, each in SkinReadings(session).of(path.id)), *coming])
    counts = [each for each in coming if counting[each.place, each.what] == each]
    return plan_changes(path.id, lambda now: changed_by_skin(now, counts, house()))


@read_room.delete("/sitters/<id>/readings/<int:reading>", "remove_reading")
def delete_reading(path: wf.ReadingPath) -> wf.FaceWire:
    """Take a reading out; the newest of those that stay counts."""
    with database().session() as session:
        readings = SkinReadings(session)
        readings.remove(path.id, path.reading)
        readings.let_newest_count(path.id, house())
    return _face(path.id)


@read_room.get("/sitters/<id>/readings/table", "export_readings")
def get_readings(path: w.IdPath, query: wf.FormQuery) -> Response:
    """The readings as CSV, or the colours among them as CGATS.17 text."""
    with database().session() as session:
        nickname = Sitters(session).get(path.id).sitter.nickname
        readings = [each for _, each in SkinReadings(session).of(path.id)]
    if query.form == "cgats":
        return download(write_cgats(readings), f"{nickname}-colours.txt", "text/plain")
    return download(write_readings(readings), f"{nickname}-readings.csv", "text/csv")


@read_room.post("/sitters/<id>/readings/preview", "preview_readings")
def post_preview(path: w.IdPath) -> wf.ReadingRowsWire:
    """What each row of a file of readings says; nothing is kept."""
    with database().session() as session:
        Sitters(session).get(path.id)
    return wf.ReadingRowsWire(rows=[_told(row) for row in read_readings(taken_file(), date.today())])


@read_room.post("/sitters/<id>/readings/table", "take_readings")
def post_table(path: w.IdPath, query: ws.TakeQuery) -> wf.FaceWire:
    """Keep a file of readings, CSV or CGATS.17. All of it, or nothing, unless rows with problems may be left out."""
    rows = read_readings(taken_file(), date.today())
    for row in rows:
        if row.refused is not None and not query.leave_out:
            raise Refused(f"line {row.line}: {row.refused.field}", row.refused.found, row.refused.allowed)
    _save(path.id, [row.reading for row in rows if row.reading is not None])
    return _face(path.id)


@read_room.get("/sitters/<id>/everything", "export_sitter")
def get_everything(path: w.IdPath) -> Response:
    """All that is kept of one sitter, as a zip."""
    with database().session() as session:
        held = gather_one(session, path.id)
    return download(write_workspace(held), f"{held.people[0].sitter.nickname}.zip", "application/zip")


@read_room.post("/colour", "read_colour")
def post_colour(body: wf.ColourBody) -> wf.ColourWire:
    """A typed colour, L*a*b* or hex, as it is understood."""
    lab = rounded(colour_of(body.text))
    return wf.ColourWire(lab=lab, hex=present_face.hex_of(lab), depth=depth_class(lab))


@read_room.post("/sitters/<id>/reader", "take_colour")
def post_reader(path: w.IdPath, body: wf.ReaderBody) -> wf.ReaderWire:
    """Takes of the simulated colour reader, with those kept so far: mean, spread, and which to take again."""
    true = _true_colour(_read(path.id), body.place) if body.wear is None else _worn_colour(body.wear, body.place)
    seed = secrets.randbits(32) if body.seed is None else body.seed
    takes = [*body.takes, *(colour_reader.take(true, seed + number) for number in range(body.more))]
    found = colour_taking(takes, house())
    mean = rounded(found.mean)
    far = f" {len(found.far)} too far off: take it again." if len(found.far) == 1 else ""
    far = f" {len(found.far)} too far off: take them again." if len(found.far) > 1 else far
    return wf.ReaderWire(
        takes=[
            wf.TakeWire(lab=lab, hex=present_face.hex_of(lab), off=round(off, 1), far=number in found.far)
            for number, (lab, off) in enumerate(zip(takes, found.off, strict=True))
        ],
        mean=mean,
        hex=present_face.hex_of(mean),
        spread=round(found.spread, 2),
        says=f"{place_words(body.place)}: mean of {len(takes) - len(found.far)}, spread ΔE00 {found.spread:.1f}.{far}",
    )


@read_room.post("/sitters/<id>/probe", "hold_probe")
def post_probe(path: w.IdPath, body: wf.ProbeBody) -> wf.ProbeWire:
    """The simulated probe on one zone: its value, the published band, and the condition that follows."""
    conditions = _read(path.id).zones[body.zone].conditions
    seed = secrets.randbits(32) if body.seed is None else body.seed
    if body.what == "oil":
        value = probe.oil(body.zone, conditions, seed, house())
        band = oil_band(value, body.zone, house())
    else:
        value = probe.moisture(conditions, seed, house())
        band = moisture_band(value, house())
    return filled(wf.ProbeWire, band, value=value, words=CONDITION_INFO[band.condition].words)


@read_room.post("/by-eye", "by_eye")
def post_by_eye(body: wf.ByEyeBody) -> wf.EyeGridWire:
    """Colours to judge a skin by: a computed grid of undertone by depth, or the near neighbours of one of them."""
    sd, says = sure(house(), second=body.near is not None)
    rows = grid() if body.near is None else closer(body.near)
    hexes = to_hex(np.array([[cell.lab for cell in row] for row in rows]).reshape(-1, 3))
    wide = len(rows[0])
    return wf.EyeGridWire(
        rows=[
            [
                wf.EyeCellWire(lab=cell.lab, hex=hexes[place * wide + at], words=cell.words)
                for at, cell in enumerate(row)
            ]
            for place, row in enumerate(rows)
        ],
        row_words=list(TONES) if body.near is None else ["lighter", "as tapped", "deeper"],
        lab_sd=sd,
        sure=says,
    )


@read_room.post("/by-stripe", "by_stripe")
def post_by_stripe(body: wf.StripeBody) -> wf.JudgedWire:
    """The skin's colour from the foundation whose stripe vanishes on the jaw."""
    with database().session() as session:
        items = {item.id: item for item in Kit(session).all()}
    for field in ("first", "second"):
        asked = getattr(body, field)
        if asked is not None and asked not in items:
            raise Missing(field, asked, "the id of an item on the shelf")
    second = items[body.second] if body.second is not None else None
    found = from_stripe(items[body.first], second, body.nudges, house())
    lab = rounded(found.lab)
    return filled(wf.JudgedWire, found, lab=lab, hex=present_face.hex_of(lab))


def _nickname(given: str, field: str) -> str:
    """A nickname as it is kept. Refuses one that nobody could see."""
    nickname = given.strip()
    if not nickname:
        raise Refused(field, given, "a nickname, not only spaces")
    return nickname


def _read(sitter_id: str) -> Reading:
    with database().session() as session:
        stored = Sitters(session).get(sitter_id)
    return read(present.case_of(stored, ()), house())


BODY_USUALLY: Lab = (1.5, -1.5, -0.5)
"""What the simulated reader finds on a neck or chest that was never read, from the face's colour."""


def _worn_colour(wear: str, place: str) -> Lab:
    """What the simulated reader finds on a base that is worn: about what is forecast. Refuses places without one."""
    with database().session() as session:
        stored = Wears(session).get(wear)
        found = settled_colours(Sequences(session).at(stored.plan, stored.revision), house())
    lab = next((lab for zone, lab in found.items() if zone == place), None)
    if lab is None:
        raise Refused("place", place, "a zone of the face")
    return lab


def _true_colour(reading: Reading, place: Place) -> Lab:
    person = reading.sitter
    if place == "face":
        return person.skin.lab
    body = person.chest if place == "chest" else person.neck if place == "neck" else Colour(reading.zones[place].lab)
    if body is not None:
        return body.lab
    lightness, red, yellow = (here + step for here, step in zip(person.skin.lab, BODY_USUALLY, strict=True))
    return (lightness, red, yellow)


def _save(sitter_id: str, readings: list[SkinReading]) -> None:
    with database().session() as session:
        stored = SkinReadings(session)
        stored.add(sitter_id, readings)
        stored.let_newest_count(sitter_id, house())


def _told(row: ReadingLine) -> wf.ReadingRowWire:
    if row.reading is None:
        return wf.ReadingRowWire(line=row.line, name=row.name, status="problem", says=str(row.refused), hex=None)
    reading = row.reading
    return wf.ReadingRowWire(
        line=row.line,
        name=place_words(reading.place),
        status="good",
        says=f"{reading.day.isoformat()}: {present_face.reading_says(reading, house())}",
        hex=None if reading.lab is None else present_face.hex_of(reading.lab),
    )
