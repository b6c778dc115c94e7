"""Per-zone forecast: load against what the zone carries, crease index, hours to shine.

Load and shine hours follow from amounts; the crease index is an index without a unit. Each says what drives it and
rises or falls with every driver in one direction only. What the educator took over from wear records multiplies hours
and indices in the end, and is named.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from math import exp, sqrt

from nabrel.core.base.state import Course, WorkedStep, ZoneState
from nabrel.core.face.reading import Reading, ZoneReading
from nabrel.core.house import House
from nabrel.core.house.factors import Factor, factor_of, looks_of
from nabrel.core.house.tables import FOLDING, MATTE
from nabrel.core.plan.sequence import Sequence
from nabrel.core.terms.effects import ABOUT_INFO
from nabrel.core.terms.ids import EffectAbout, Zone
from nabrel.core.terms.steps import FADING_KINDS
from nabrel.core.terms.zones import ZONE_INDEX, ZONES
from nabrel.core.wear.climate import climate_oil
from nabrel.core.wear.learnt import BARE, Laid, factors_on, laid_by

LEAST_OIL = 1e-3
"""Skin without oil, in µg/cm²·min: nothing is divided by nothing."""
PALER_L = 30.0
"""So many L* paler than the skin count once in the flare: a white powder on light brown skin."""
COUNTS = 0.05
"""A strain below this drives nothing that anybody sees."""

REFLECTIVE = ("silica", "titanium")
"""Words in what a powder contains that make it throw back a flash."""


@dataclass(frozen=True, slots=True)
class ZoneForecast:
    """One zone's forecast.

    film_um and powder_mg as they lie at the end; load_um counts powder as film; cake is load over limit (1 is the
    ceiling); crease is an index 0 to 1 with its drivers, strongest first; shine_hours is capped at 16. ``learnt`` are the
    factors from wear records that are in these figures.
    """

    zone: Zone
    film_um: float
    powder_mg: float
    load_um: float
    limit_um: float
    cake: float
    crease: float
    crease_drivers: tuple[str, ...]
    shine_hours: float
    colour_hours: float | None = None
    flare: float = 0.0
    learnt: tuple[Factor, ...] = ()

    def looks_behind(self, about: EffectAbout) -> int:
        """On how many looks one of the figures rests; 0 where nothing learnt is in it."""
        return looks_of(each for each in self.learnt if each.about == about)


def colour_hours(oil_rate: float, *, powdered: bool, misted: bool, house: House) -> float:
    """Hours for which a colour keeps two thirds of its strength; oil shortens it, powder and mist lengthen it."""
    gain = 1.0 + house.colour_powder_gain * powdered + house.colour_mist_gain * misted
    return min(house.most_hours, house.colour_hours * gain * sqrt(house.oil_normal / max(oil_rate, LEAST_OIL)))


def flare_index(powder_mg: float, powder_l: float, skin_l: float, *, reflective: bool, house: House) -> float:
    """Flare index 0 to 1 under a flash: an index, not physics. Grows with powder and with how much paler it is."""
    paler = max(0.0, powder_l - skin_l) / PALER_L
    strength = powder_mg / house.flare_mg * paler * (house.flare_reflective if reflective else 1.0)
    return 1.0 - exp(-strength)


def load_of(film_um: float, powder_mg: float, house: House) -> float:
    """Film plus powder as its equivalent film, µm."""
    return film_um + powder_mg * house.powder_film_um_per_mg


def folding(zone: Zone) -> float:
    """How much a zone folds, 0 to 1."""
    stem = zone[:-2] if zone.endswith(("_l", "_r")) else zone
    return FOLDING.get(stem, FOLDING["elsewhere"])


def crease_strains(here: ZoneReading, lying: ZoneState, film_um: float, house: House) -> dict[str, float]:
    """What strains a zone where it folds, by name: grows with film, unset film, lines and dryness; less where it was fed."""
    return {
        "film in a moving fold": house.crease_per_um * film_um,
        "not set": house.crease_per_wet_um * lying.wet_um,
        "lines already there": house.crease_per_line * max(here.lined, here.severity("deep_fold")),
        "dry skin beneath": house.crease_per_dry * here.dry * (house.crease_fed_share if lying.care else 1.0),
    }


def crease_index(zone: Zone, strains: Mapping[str, float], *, powdered: bool, house: House) -> float:
    """Crease index 0 to 1: grows with how much the zone folds and with what strains it; less under powder."""
    return 1.0 - exp(-folding(zone) * sum(strains.values()) * (house.crease_set_share if powdered else 1.0))


def crease_drivers(strains: Mapping[str, float]) -> tuple[str, ...]:
    """The strains that count, the greatest first."""
    return tuple(name for name, share in sorted(strains.items(), key=lambda row: -row[1]) if share > COUNTS)


def shine_hours(oil_rate: float, powder_mg: float, matte: float, house: House) -> float:
    """Hours until oil outruns what the surface and its powder hold; at most 16.

    oil_rate in µg/cm²·min, powder_mg in mg/cm², matte 0 (dewy) to 1 (matte).
    """
    held_mg = house.oil_film_holds_mg * (1.0 + house.oil_matte_bonus * matte) + powder_mg * house.oil_per_mg_powder
    return min(house.most_hours, held_mg * 1000.0 / oil_rate / 60.0)


def forecast(sequence: Sequence, reading: Reading, course: Course, house: House) -> tuple[ZoneForecast, ...]:
    """Forecast of every zone at the end of the sequence."""
    after = course.after
    matte = matte_by_zone(course.done)
    oil = climate_oil(sequence.case.intent.climate, house)
    flare = _flare_by_zone(reading, course, house)
    coloured = {z for step in sequence.steps if step.kind in FADING_KINDS and step.lays for z in step.zones}
    misted = {z for step in sequence.steps if step.kind == "setting_mist" for z in step.zones}
    sitter = sequence.case.sitter.nickname
    laid = laid_by(sequence.steps) if house.factors else {}
    found: list[ZoneForecast] = []
    for i, zone in enumerate(ZONES):
        film, powder = float(after.load_film[i]), float(after.load_powder[i])
        rate = reading.zones[zone].oil_rate * oil
        hours = None
        if zone in coloured:
            hours = colour_hours(rate, powdered=powder > 0, misted=zone in misted, house=house)
        load, limit = load_of(film, powder, house), reading.zones[zone].film_limit_um
        strains = crease_strains(reading.zones[zone], after[zone], film, house)
        row = ZoneForecast(
            zone=zone,
            film_um=film,
            powder_mg=powder,
            load_um=load,
            limit_um=limit,
            cake=load / limit,
            crease=crease_index(zone, strains, powdered=powder > 0, house=house) if film > 0 else 0.0,
            crease_drivers=crease_drivers(strains) if film > 0 else (),
            shine_hours=shine_hours(rate, powder, matte.get(zone, house.bare_matte), house),
            colour_hours=hours,
            flare=flare.get(zone, 0.0),
        )
        found.append(as_learnt(row, sitter, laid.get(zone, BARE), house) if house.factors else row)
    return tuple(found)


def as_learnt(row: ZoneForecast, sitter: str, laid: Laid, house: House) -> ZoneForecast:
    """The forecast with what was taken over from wear records; caking is told by a limit that is lower or higher."""
    on = {about: factors_on(house, about, sitter, laid) for about in ABOUT_INFO if ABOUT_INFO[about].forecast}
    by = {about: factor_of(factors) for about, factors in on.items()}
    hours = row.colour_hours
    return replace(
        row,
        shine_hours=min(house.most_hours, row.shine_hours * by["shine_hours"]),
        colour_hours=None if hours is None else min(house.most_hours, hours * by["colour_hours"]),
        crease=min(1.0, row.crease * by["crease"]),
        limit_um=row.limit_um / by["cake"],
        cake=row.cake * by["cake"],
        learnt=tuple(each for factors in on.values() for each in factors),
    )


def _flare_by_zone(reading: Reading, course: Course, house: House) -> dict[Zone, float]:
    """The strongest flare index of the powders on each zone, as they lie in the end."""
    found: dict[Zone, float] = {}
    level = reading.complexion[0]
    for index, done in enumerate(course.done):
        product = done.mixed.product if done.mixed is not None else None
        if product is None or not product.dry or product.lab is None:
            continue
        reflective = any(word in entry.lower() for entry in product.contains for word in REFLECTIVE)
        for zone in done.step.zones:
            mg = float(course.after.powder[index, ZONE_INDEX[zone]])
            flare = flare_index(mg, product.lab[0], level, reflective=reflective, house=house)
            found[zone] = max(found.get(zone, 0.0), flare)
    return found


def matte_by_zone(worked: Iterable[WorkedStep]) -> dict[Zone, float]:
    """How matt the last tinted layer on each zone is, once these steps are done."""
    found: dict[Zone, float] = {}
    for done in worked:
        if done.mixed is not None and done.mixed.film is not None and done.step.lays:
            for zone in done.step.zones:
                found[zone] = MATTE[done.mixed.product.finish]
    return found
