"""From core values to the wire models of the Read room."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict

import numpy as np

from nabrel.core.ask.unsure import SOURCE_WORDS
from nabrel.core.case.sitter import Colour
from nabrel.core.face.measuring import Place, SkinReading, courses, moisture_band, newest, oil_band, place_words
from nabrel.core.face.placement import SCULPTS
from nabrel.core.face.reading import Reading
from nabrel.core.face.shape import read_shape
from nabrel.core.face.strokes import MM_A_UNIT, strokes
from nabrel.core.face.tone import tone_says
from nabrel.core.film.spectra import to_hex
from nabrel.core.house import House
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.zones import ZONES
from nabrel.formats.values import filled
from nabrel.formats.workspace import Counts
from nabrel.store.repositories import StoredSitter
from nabrel.web.read import answers as wf
from nabrel.web.shared import present


def hex_of(lab: Lab) -> str:
    """The sRGB code of one colour."""
    return to_hex(np.array([lab]))[0]


def face(stored: StoredSitter, reading: Reading, dated: Sequence[tuple[int, SkinReading]], house: House) -> wf.FaceWire:
    """A face as read, with its record."""
    person = stored.sitter
    shape = read_shape(person.measures, house)
    return wf.FaceWire(
        **present.sitter(stored, reading).model_dump(),
        version=stored.version,
        record=person,
        shape_reading=None if shape is None else wf.ShapeWire(**asdict(shape), says=shape.says),
        mm_a_unit=MM_A_UNIT,
        **placements(reading, house).model_dump(),
        tone_says=list(tone_says(person)),
        colours=_colours(reading, [each for _, each in dated]),
        courses=_courses(dated, house),
        sequence_ids=list(stored.sequence_ids),
    )


def placements(reading: Reading, house: House) -> wf.PlacementsWire:
    """Where light, shade, glow and colour go on a face, drawn, and where they are left off."""
    return wf.PlacementsWire(
        strokes=strokes(reading.suggested, reading.sitter.moved, house),
        left_off=[
            wf.LeftOffWire(kind=kind, zone=each.zone, why=each.why)
            for kind in SCULPTS
            for each in reading.placement.of(kind).left_off
        ],
    )


def _colours(reading: Reading, dated: Sequence[SkinReading]) -> list[wf.PlaceColourWire]:
    """The colours that count: face, neck and chest, and every zone that was measured."""
    person = reading.sitter
    found: list[tuple[Place, Colour]] = [("face", person.skin)]
    body: tuple[tuple[Place, Colour | None], ...] = (("neck", person.neck), ("chest", person.chest))
    found += [(place, colour) for place, colour in body if colour is not None]
    found += [
        (zone, Colour(skin.lab, skin.lab_sd, skin.source))
        for zone in ZONES
        if (skin := person.zones.get(zone)) is not None and skin.lab is not None
    ]
    counting = newest(dated)
    rows = []
    for place, colour in found:
        lab = colour.lab
        last = counting.get((place, "colour"))
        rows.append(
            wf.PlaceColourWire(
                place=place,
                words=place_words(place),
                lab=lab,
                hex=hex_of(lab),
                day=last.day.isoformat() if last is not None and last.lab == lab else None,
                sure=_sure(colour),
            )
        )
    return rows


def _sure(colour: Colour) -> str:
    """Where a colour comes from and how unsure it is; nothing where neither was said."""
    how = SOURCE_WORDS[colour.source] if colour.source else ""
    within = f"to within about ΔE00 {colour.lab_sd:.1f}" if colour.lab_sd else ""
    return ", ".join(each for each in (how, within) if each)


def _courses(dated: Sequence[tuple[int, SkinReading]], house: House) -> list[wf.CourseWire]:
    ids = {reading: number for number, reading in dated}
    return [
        filled(
            wf.CourseWire,
            course,
            words=place_words(course.place),
            readings=[_dated(ids[reading], reading, house) for reading in course.readings],
        )
        for course in courses(reading for _, reading in dated)
    ]


def _dated(number: int, reading: SkinReading, house: House) -> wf.DatedWire:
    return wf.DatedWire(
        id=number,
        reading=reading,
        hex=None if reading.lab is None else hex_of(reading.lab),
        says=reading_says(reading, house),
    )


def reading_says(reading: SkinReading, house: House) -> str:
    """A reading in words: how often it was taken and how it scattered, or the band it falls into."""
    if reading.lab is not None:
        said = f"L* {reading.lab[0]:.1f}, a* {reading.lab[1]:.1f}, b* {reading.lab[2]:.1f}"
        if reading.source == "photo":
            many = "a photograph" if reading.takes == 1 else f"{reading.takes} photographs"
            return f"{said}; from {many}" + ("" if reading.spread is None else f", ± ΔE00 {reading.spread:.1f}")
        scatter = "" if reading.spread is None else f", mean ΔE00 {reading.spread:.1f} among them"
        return said + (f"; {reading.takes} takes{scatter}" if reading.takes > 1 else "")
    value = reading.value or 0.0
    if reading.what == "oil":
        return oil_band(value, reading.place, house).says
    return moisture_band(value, house).says


def workspace(found: Counts) -> wf.WorkspaceWire:
    """What a workspace holds, in numbers."""
    return filled(wf.WorkspaceWire, found, sitters=len(found.nicknames))
