"""Items of the shelf that may be one and the same, and what one item made of two would be."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from difflib import SequenceMatcher

import numpy as np

from nabrel.core.case.product import Product
from nabrel.core.errors import Refused
from nabrel.core.film.difference import delta_e
from nabrel.core.house import House

ALIKE = 0.82
"""From this similarity on (0 to 1) two names read as one with a slip in it."""


@dataclass(frozen=True, slots=True)
class Twins:
    """Two items that may be one, and why they seem so. ``into`` came first."""

    into: Product
    other: Product
    why: str


def twins(items: Sequence[Product], house: House) -> tuple[Twins, ...]:
    """Pairs of one role, texture and base that have one name, or nearly one name and one colour."""
    found: list[Twins] = []
    for place, first in enumerate(items):
        for second in items[place + 1 :]:
            why = _why(first, second, house)
            if why:
                found.append(Twins(first, second, why))
    return tuple(found)


def _why(first: Product, second: Product, house: House) -> str | None:
    if (first.role, first.texture, first.base) != (second.role, second.texture, second.base):
        return None
    names = first.name.casefold().split(), second.name.casefold().split()
    off = _off(first, second)
    if names[0] == names[1]:
        return "One name" + ("." if off is None else f", ΔE00 {off:.1f}.")
    if off is None or off > house.twin_de:
        return None
    # Numbers in a name tell shades apart, however alike the rest is.
    if [word for word in names[0] if word.isdigit()] != [word for word in names[1] if word.isdigit()]:
        return None
    alike = SequenceMatcher(None, " ".join(names[0]), " ".join(names[1])).ratio()
    return f"Nearly one name, ΔE00 {off:.1f}." if alike >= ALIKE else None


def _off(first: Product, second: Product) -> float | None:
    if first.lab is None or second.lab is None:
        return None
    return float(delta_e(np.array(first.lab), np.array(second.lab)))


def merged(into: Product, other: Product) -> Product:
    """One item of two: ``into`` with what only the other knows; opened when the first of them was; what was taken from both
    is taken from it.

    Refuses items of different roles, textures or bases.
    """
    if (into.role, into.texture, into.base) != (other.role, other.texture, other.base):
        raise Refused("other", other.id, f"an item of the same role, texture and base as {into.id}")
    known = {
        name: getattr(other, name)
        for name in ("lab", "cover", "ml", "g", "price", "dose_ml", "half_hour", "keeps_months")
        if getattr(into, name) is None and getattr(other, name) is not None
    }
    opened = [day for day in (into.opened_on, other.opened_on) if day is not None]
    counted = [item.left for item in (into, other) if item.left is not None]
    return replace(
        into,
        **known,
        suits=tuple(dict.fromkeys((*into.suits, *other.suits))),
        contains=tuple(dict.fromkeys((*into.contains, *other.contains))),
        ingredients=into.ingredients or other.ingredients,
        opened_on=min(opened) if opened else None,
        left=max(0.0, 1.0 - sum(1.0 - left for left in counted)) if counted else None,
    )
