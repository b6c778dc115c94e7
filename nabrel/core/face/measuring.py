"""What instruments say: repeated colour readings to one colour, probe readings to bands, and dated readings to a course."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import date
from typing import Annotated, Literal, get_args

import numpy as np
from annotated_types import Ge, Le

from nabrel.core.case.sitter import Colour, Sitter, ZoneSkin
from nabrel.core.errors import Refused
from nabrel.core.film.difference import delta_e
from nabrel.core.house import House
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.ids import Condition, Zone
from nabrel.core.terms.limits import Source as ColourSource
from nabrel.core.terms.zones import T_ZONE, ZONE_INFO, ZONES

SECOND, THIRD = 1.3, 1.7
"""From so many times the upper bound on oil is of the second, and third, grade: the bands of published probes, in thirds."""

Measured = Literal["colour", "oil", "moisture"]
Source = Literal["typed", "imported", "reader", "probe", "photo", "eye", "stripe"]
Place = Zone | Literal["face", "chest"]
"""Where a reading was taken. ``face`` is the skin's colour overall; the neck's is that of the zone ``neck``."""

PLACES: tuple[Place, ...] = ("face", "chest", *ZONES)
MEASURED: tuple[Measured, ...] = get_args(Measured)
MOST_OIL_UG, MOST_MOISTURE = 500.0, 130.0
"""The ends of the probe's scales."""


@dataclass(frozen=True, slots=True)
class SkinReading:
    """One dated reading: a colour (``lab``), oil in µg/cm² or moisture in probe units (``value``).

    takes is how many repeats it is the mean of, spread their mean ΔE00 (colour) or standard deviation from it; of a colour
    from a photograph, by eye or by a stripe, how unsure it is.
    """

    day: date
    place: Place
    what: Measured = "colour"
    lab: Lab | None = None
    value: Annotated[float, Ge(0), Le(500)] | None = None
    takes: Annotated[int, Ge(1), Le(99)] = 1
    spread: Annotated[float, Ge(0), Le(200)] | None = None
    source: Source = "typed"


def check_reading(reading: SkinReading, field: str) -> None:
    """Refuse a reading that has the wrong value for what it measures, or a probe's off its scale."""
    if reading.what == "colour":
        if reading.lab is None or reading.value is not None:
            raise Refused(
                f"{field}.lab", reading.lab, "a colour as [L*, a*, b*] and no value, since colour was measured"
            )
        return
    if reading.value is None or reading.lab is not None:
        raise Refused(f"{field}.value", reading.value, f"a number and no colour, since {reading.what} was measured")
    most = MOST_OIL_UG if reading.what == "oil" else MOST_MOISTURE
    if not 0 <= reading.value <= most:
        raise Refused(f"{field}.value", reading.value, f"from 0 to {most:g}, the probe's scale")
    if reading.place not in ZONE_INFO:
        raise Refused(f"{field}.place", reading.place, f"a zone of the face, since {reading.what} differs by zone")


@dataclass(frozen=True, slots=True)
class Taking:
    """Repeated colour readings of one place: their mean, their spread (mean ΔE00 from it), and which are too far off."""

    mean: Lab
    spread: float
    off: tuple[float, ...]
    far: tuple[int, ...]


def colour_taking(takes: Sequence[Lab], house: House) -> Taking:
    """Mean and spread of repeats without those too far off, which are named so that they can be taken again.

    A take is too far off where its ΔE00 from the median of all passes the house's limit; two takes alone cannot say
    which of them is wrong. Refuses no takes at all.
    """
    if not takes:
        raise Refused("takes", 0, "one reading or more")
    labs = np.array(takes, dtype=float)
    off = [float(d) for d in delta_e(labs, np.broadcast_to(np.median(labs, axis=0), labs.shape))]
    far = tuple(place for place, d in enumerate(off) if len(takes) > 2 and d > house.reader_far_de)
    agreeing = np.delete(labs, list(far), axis=0) if len(far) < len(takes) else labs
    mean = agreeing.mean(axis=0)
    spread = float(np.mean(delta_e(agreeing, np.broadcast_to(mean, agreeing.shape))))
    return Taking((float(mean[0]), float(mean[1]), float(mean[2])), spread, tuple(off), far)


@dataclass(frozen=True, slots=True)
class Band:
    """What a probe reading means on a zone: the band in words, and the condition with its severity (0: none)."""

    says: str
    condition: Condition
    severity: int


def oil_band(value: float, zone: Place, house: House) -> Band:
    """The published oil bands, in µg/cm², as a condition: dryness below, oil above, nothing between."""
    middle = zone in T_ZONE
    low = house.t_zone_oil_low_ug if middle else house.cheek_oil_low_ug
    high = house.t_zone_oil_high_ug if middle else house.cheek_oil_high_ug
    where = "the middle of the face" if middle else "the cheeks and edges"
    said = f"{value:.0f} µg/cm²; on {where} {low:g} to {high:g} is usual"
    if value < low:
        severity = 1 if value > low / 2 else 2
        return Band(f"Low oil: {said}.", "dry", severity)
    if value > high:
        severity = 1 if value < SECOND * high else 2 if value < THIRD * high else 3
        return Band(f"High oil: {said}.", "oily", severity)
    return Band(f"Usual oil: {said}.", "oily", 0)


def moisture_band(value: float, house: House) -> Band:
    """The published moisture bands, in probe units, as dehydration."""
    said = f"{value:.0f} units; from {house.moisture_low:g} on is well supplied"
    if value < house.moisture_very_low:
        return Band(f"Very low moisture: {said}.", "dehydrated", 2 if value > house.moisture_very_low * 2 / 3 else 3)
    if value < house.moisture_low:
        return Band(f"Low moisture: {said}.", "dehydrated", 1)
    return Band(f"Well supplied: {said}.", "dehydrated", 0)


def newest(readings: Iterable[SkinReading]) -> dict[tuple[Place, Measured], SkinReading]:
    """The newest reading of each place and kind: the one that counts. Of one day, the surest way of reading, and then the later
    in order.
    """
    found: dict[tuple[Place, Measured], SkinReading] = {}
    for reading in readings:
        key = (reading.place, reading.what)
        if key not in found or _counts_more(reading, found[key]):
            found[key] = reading
    return found


LESS_SURE: tuple[Source, ...] = ("photo", "stripe", "eye")
"""Readings without an instrument, the surest first: of one day, one by an instrument counts before any of them."""


def _counts_more(later: SkinReading, than: SkinReading) -> bool:
    return (later.day, -_rank(later.source)) >= (than.day, -_rank(than.source))


def _rank(source: Source) -> int:
    return LESS_SURE.index(source) + 1 if source in LESS_SURE else 0


@dataclass(frozen=True, slots=True)
class ReadingCourse:
    """One place's readings of one kind over time, oldest first, and what they say."""

    place: Place
    what: Measured
    readings: tuple[SkinReading, ...]
    says: str


def courses(readings: Iterable[SkinReading]) -> tuple[ReadingCourse, ...]:
    """The course of every place and kind that was read, face and chest first, then zone by zone."""
    by: dict[tuple[Place, Measured], list[SkinReading]] = {}
    for reading in readings:
        by.setdefault((reading.place, reading.what), []).append(reading)
    keys = sorted(by, key=lambda key: (MEASURED.index(key[1]), PLACES.index(key[0])))
    return tuple(_course(key, sorted(by[key], key=lambda reading: reading.day)) for key in keys)


def _course(key: tuple[Place, Measured], readings: list[SkinReading]) -> ReadingCourse:
    place, what = key
    first, last = readings[0], readings[-1]
    if len(readings) == 1:
        says = f"Read once, on {last.day.isoformat()}."
    elif what == "colour" and first.lab is not None and last.lab is not None:
        off = float(delta_e(np.array(first.lab), np.array(last.lab)))
        step = last.lab[0] - first.lab[0]
        way = "lighter" if step > 0 else "deeper"
        moved = f"{abs(step):.1f} L* {way}, " if abs(step) >= 0.5 else ""
        says = f"{moved}ΔE00 {off:.1f} since {first.day.isoformat()}."
    else:
        step = (last.value or 0.0) - (first.value or 0.0)
        says = f"{abs(step):.0f} {'more' if step > 0 else 'less'} since {first.day.isoformat()}."
    return ReadingCourse(place, what, tuple(readings), says)


def place_words(place: Place) -> str:
    """A place in words."""
    if place == "face":
        return "Face"
    return "Chest" if place == "chest" else ZONE_INFO[place].words


def read_into(sitter: Sitter, reading: SkinReading, house: House) -> Sitter:
    """The sitter with one reading in their record: a colour of the face, neck, chest or a zone, or the condition that a probe says."""
    zone = reading.place
    if zone == "face":
        return sitter if reading.lab is None else replace(sitter, skin=_colour(reading.lab, reading))
    if zone == "chest":
        return replace(sitter, chest=reading.lab and _colour(reading.lab, reading))
    if zone == "neck" and reading.what == "colour":
        return replace(sitter, neck=reading.lab and _colour(reading.lab, reading))
    skin = sitter.zones.get(zone, ZoneSkin())
    if reading.lab is not None:
        read = _colour(reading.lab, reading)
        skin = replace(skin, lab=read.lab, lab_sd=read.lab_sd, source=read.source)
        return replace(sitter, zones={**sitter.zones, zone: skin})
    value = reading.value or 0.0
    band = oil_band(value, zone, house) if reading.what == "oil" else moisture_band(value, house)
    found: dict[Condition, int] = {**skin.conditions, band.condition: band.severity}
    if reading.what == "oil":
        found["dry" if band.condition == "oily" else "oily"] = 0
    return replace(sitter, zones={**sitter.zones, zone: replace(skin, conditions=found)})


def _colour(lab: Lab, reading: SkinReading) -> Colour:
    """A colour as it was read: a reader's is measured, one from a photograph, by eye or by a stripe says how unsure it is."""
    judged: dict[str, ColourSource] = {"photo": "photo", "eye": "eye", "stripe": "stripe"}
    if reading.source in judged:
        return Colour(lab, reading.spread, judged[reading.source])
    return Colour(lab, source="measured" if reading.source == "reader" else None)
