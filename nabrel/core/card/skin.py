"""Skin seen through the window of a card in several pictures: one colour, and which pictures to take again."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from nabrel.core.card.reading import SeenColour, together
from nabrel.core.errors import Refused
from nabrel.core.film.difference import delta_e
from nabrel.core.house import House


@dataclass(frozen=True, slots=True)
class SkinSeen:
    """The colour of one place: from the pictures that agree; ``off`` is ΔE00 of each from the middle of all, ``far`` those left out."""

    seen: SeenColour
    off: tuple[float, ...]
    far: tuple[int, ...]
    says: str


def skin_seen(takes: Sequence[SeenColour], house: House) -> SkinSeen:
    """One colour from pictures of one place. Refuses none at all.

    A picture is too far off as a take of a colour reader is, or beyond twice its own unsureness; of two that differ so, none
    can say which is wrong.
    """
    if not takes:
        raise Refused("takes", 0, "one picture or more")
    labs = np.array([each.lab for each in takes], dtype=float)
    middle = np.median(labs, axis=0)
    off = tuple(round(float(delta_e(each, middle)), 2) for each in labs)
    limits = [max(house.reader_far_de, 2.0 * each.sd) for each in takes]
    beyond = tuple(place for place, de in enumerate(off) if de > limits[place])
    far = beyond if len(takes) > 2 and len(beyond) < len(takes) else ()
    seen = together([each for place, each in enumerate(takes) if place not in far])
    return SkinSeen(seen, off, far, _says(takes, far, limits))


def _says(takes: Sequence[SeenColour], far: tuple[int, ...], limits: list[float]) -> str:
    if len(takes) == 1:
        return "One picture: a second one tells whether it repeats."
    if len(takes) == 2:
        apart = float(delta_e(takes[0].lab, takes[1].lab))
        if apart > max(limits):
            return f"The two differ by ΔE00 {apart:.1f}: take a third."
        return f"Two pictures that agree to ΔE00 {apart:.1f}."
    if far:
        return f"{len(far)} of {len(takes)} too far off and left out: take {'it' if len(far) == 1 else 'them'} again."
    return f"{len(takes)} pictures that agree."
