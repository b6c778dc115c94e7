"""The ladder of amounts that a hand can tell apart: what a plan lays stands on a rung of it."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import lru_cache
from math import log
from operator import attrgetter
from typing import Literal

import numpy as np

from nabrel.core.film.spectra import Floats
from nabrel.core.house import House

Unit = Literal["um", "mg_cm2"]


@dataclass(frozen=True, slots=True)
class Rung:
    """One amount with the word for it: µm of dry film, or mg/cm² of powder."""

    words: str
    amount: float


FILM_RUNGS: tuple[tuple[str, str], ...] = (
    ("a trace", "rung_trace_um"),
    ("a whisper", "rung_whisper_um"),
    ("a thin layer", "rung_thin_um"),
    ("a light layer", "rung_light_um"),
    ("a medium layer", "rung_medium_um"),
    ("a full layer", "rung_full_um"),
    ("a heavy layer", "rung_heavy_um"),
)
POWDER_RUNGS: tuple[tuple[str, str], ...] = (
    ("a breath", "rung_breath_mg"),
    ("a whisper", "rung_whisper_mg"),
    ("a light veil", "rung_press_mg"),
    ("a full veil", "rung_full_mg"),
    ("a bake", "bake_mg"),
)
"""The words of every rung, and the house parameter that says how much it is."""
_AMOUNTS: Mapping[Unit, Callable[[House], tuple[float, ...]]] = {
    "um": attrgetter(*(name for _, name in FILM_RUNGS)),
    "mg_cm2": attrgetter(*(name for _, name in POWDER_RUNGS)),
}
"""All amounts of a ladder at once, as they stand in a house."""


def rungs(unit: Unit, house: House) -> tuple[Rung, ...]:
    """The ladder, thinnest first."""
    return _in_order(unit, _AMOUNTS[unit](house))


@lru_cache(maxsize=64)
def _in_order(unit: Unit, amounts: tuple[float, ...]) -> tuple[Rung, ...]:
    """The rungs of a ladder with these amounts, thinnest first; a plan asks about a hundred times."""
    named = FILM_RUNGS if unit == "um" else POWDER_RUNGS
    found = (Rung(words, amount) for (words, _), amount in zip(named, amounts, strict=True))
    return tuple(sorted(found, key=lambda rung: rung.amount))


def film_ladder(house: House, most: float | None = None) -> Floats:
    """The films in µm, thinnest first, up to what still fits."""
    found = np.array([rung.amount for rung in rungs("um", house)])
    return found if most is None else found[found <= most]


def powder_ladder(house: House) -> Floats:
    """The powders in mg/cm² that are pressed and stay, thinnest first: a bake is not one of them."""
    return np.array([rung.amount for rung in rungs("mg_cm2", house) if rung.amount < house.bake_mg])


def nearest_rung(amount: float, unit: Unit, house: House) -> Rung:
    """The rung nearest to an amount by ratio, as a hand tells amounts apart."""
    return _nearest(amount, unit, _AMOUNTS[unit](house))


@lru_cache(maxsize=1024)
def _nearest(amount: float, unit: Unit, amounts: tuple[float, ...]) -> Rung:
    return min(_in_order(unit, amounts), key=lambda rung: abs(log(max(amount, 1e-6) / rung.amount)))


def rung_words(amount: float, unit: Unit, house: House) -> str:
    """An amount in a hand's words: "a thin layer"."""
    return nearest_rung(amount, unit, house).words
