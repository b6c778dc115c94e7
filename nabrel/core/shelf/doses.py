"""How much to take: millilitres and grams from area, film and tool, and in words for hands."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from nabrel.core.house import House
from nabrel.core.terms.hands import TOOL_INFO
from nabrel.core.terms.ids import CoverClass, Tool


@dataclass(frozen=True, slots=True)
class Take:
    """What to take from the pack for one step."""

    amount: float
    unit: Literal["ml", "g"]
    words: str


def passed_on(tool: Tool | None, house: House, *, gripping: bool = False) -> float:
    """Share of what a tool takes up that it leaves on the skin, 0 to 1.

    ``gripping`` says that the tool was dampened with mist and lays powder, whose grains it then does not lose to the air.
    """
    passes = "pass_brush" if tool is None else TOOL_INFO[tool].passes
    share: float = getattr(house, passes)
    return min(1.0, share * house.dampened_gain) if gripping else share


UM_CM2_TO_ML = 1e-4
"""1 µm of film on 1 cm² is this many millilitres."""
MG_TO_G = 1e-3


def foundation_film(cover: CoverClass, house: House) -> float:
    """The film in µm of one pass of foundation for the cover wanted."""
    by_cover = {
        "sheer": house.foundation_sheer_um,
        "light": house.foundation_light_um,
        "medium": house.foundation_film_um,
    }
    return by_cover.get(cover, house.foundation_full_um)


def film_ml(area_cm2: float, film_um: float) -> float:
    """Millilitres of film on an area."""
    return area_cm2 * film_um * UM_CM2_TO_ML


def powder_g(area_cm2: float, mg_cm2: float) -> float:
    """Grams of powder on an area."""
    return area_cm2 * mg_cm2 * MG_TO_G


def take(amount: float, unit: Literal["ml", "g"], dose_ml: float | None) -> Take:
    """What to take, to two figures, and in words."""
    words = film_words(amount, dose_ml) if unit == "ml" else powder_words(amount)
    return Take(float(f"{amount:.2g}"), unit, words)


def take_words(found: Take | None, house: House) -> str:
    """What to take as a person says it; with millilitres or grams only where a person would weigh. Empty for nothing."""
    if found is None:
        return ""
    weighed = found.amount >= house.weighed_from
    return f"{found.words} ({found.amount:g} {found.unit})" if weighed else found.words


_FILM_WORDS: tuple[tuple[float, str], ...] = (
    (0.0025, "less than a pinhead"),
    (0.007, "a pinhead"),
    (0.015, "half a rice grain"),
    (0.035, "a rice grain"),
    (0.06, "two rice grains"),
    (0.11, "a lentil"),
    (0.2, "half a pea"),
    (0.4, "a pea"),
    (0.8, "a hazelnut"),
    (1.6, "two hazelnuts"),
)
_POWDER_WORDS: tuple[tuple[float, str], ...] = (
    (0.004, "the brush tip, tapped off"),
    (0.012, "a light dip, tapped off"),
    (0.04, "a pinch"),
    (0.12, "a good pinch"),
)
LEAST_OF_A_PUMP = 0.2
"""Less than this share of a pump is told by its size."""
_QUARTERS = {1: "a quarter of a pump", 2: "half a pump", 3: "three quarters of a pump", 4: "one pump"}


def film_words(ml: float, dose_ml: float | None) -> str:
    """Millilitres in hands' words: pumps where the pack doses and it is a quarter pump or more."""
    if dose_ml and ml >= LEAST_OF_A_PUMP * dose_ml:
        quarters = max(1, round(4 * ml / dose_ml))
        if quarters in _QUARTERS:
            return _QUARTERS[quarters]
        whole, rest = divmod(quarters, 4)
        tail = {0: "", 1: " and a quarter", 2: " and a half", 3: " and three quarters"}[rest]
        return f"{whole}{tail} pumps"
    for most, words in _FILM_WORDS:
        if ml <= most:
            return words
    return f"{ml:.1f} ml, measured"


def powder_words(grams: float) -> str:
    """Grams of powder in hands' words."""
    return next((words for below, words in _POWDER_WORDS if grams < below), f"{grams:.2f} g, weighed")
