"""The colour of skin from stripes of foundation: which one vanishes on the jaw, between which two, and which way it is off."""

from __future__ import annotations

from dataclasses import dataclass
from math import hypot
from typing import Literal, get_args

import numpy as np

from nabrel.core.case.product import Product
from nabrel.core.errors import Refused
from nabrel.core.face.skin import depth_class, undertone
from nabrel.core.film.difference import delta_e
from nabrel.core.house import House
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.words import join_words

Nudge = Literal["lighter", "deeper", "warmer", "cooler"]
NUDGES: tuple[Nudge, ...] = get_args(Nudge)
_STEP: dict[Nudge, tuple[float, float]] = {"lighter": (1, 0), "deeper": (-1, 0), "warmer": (0, 1), "cooler": (0, -1)}
_OPPOSITE: dict[Nudge, Nudge] = {"lighter": "deeper", "deeper": "lighter", "warmer": "cooler", "cooler": "warmer"}


@dataclass(frozen=True, slots=True)
class JudgedColour:
    """A colour judged without an instrument: CIE L*a*b*, its spread in ΔE00 (one standard deviation), and in words."""

    lab: Lab
    lab_sd: float
    says: str


def from_stripe(first: Product, second: Product | None, nudges: tuple[Nudge, ...], house: House) -> JudgedColour:
    """The skin's colour where a stripe of ``first`` vanishes on it, or one between it and ``second``, nudged.

    A thick stripe shows the item's masstone, so the skin has that colour to within ``stripe_sd_de``; an item whose own
    colour is unsure adds its spread, and two items that are far apart add a quarter of what lies between them. Refuses items
    without a colour, and opposite nudges.
    """
    for each in nudges:
        if _OPPOSITE[each] in nudges:
            raise Refused("nudges", ", ".join(nudges), f"{each} or {_OPPOSITE[each]}, not both")
    labs = np.array([_lab(each, name) for each, name in ((first, "first"), (second, "second")) if each is not None])
    mean = labs.mean(axis=0)
    apart = float(delta_e(labs[0], labs[-1]))
    spread = max(each.lab_sd or 0.0 for each in (first, second) if each is not None)
    light, yellow = (sum(_STEP[each][axis] for each in dict.fromkeys(nudges)) for axis in (0, 1))
    step = house.stripe_nudge
    lab = (float(mean[0] + step * light), float(mean[1]), float(mean[2] + step * yellow))
    sd = hypot(house.stripe_sd_de, spread, apart / 4)
    return JudgedColour(lab, round(sd, 1), _says(first, second, nudges, lab, sd))


def _lab(item: Product, field: str) -> Lab:
    if item.lab is None:
        raise Refused(field, item.name, "an item with a colour")
    return item.lab


def _says(first: Product, second: Product | None, nudges: tuple[Nudge, ...], lab: Lab, sd: float) -> str:
    named = f"Between {first.name} and {second.name}" if second is not None else f"As {first.name}"
    off = f", a little {join_words(nudges)}" if nudges else ""
    return f"{named}{off}: {depth_class(lab)}, {undertone(lab)}, to within about ΔE00 {sd:.1f}."
