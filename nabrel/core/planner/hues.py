"""What may cancel a hue: correctors, and where the kit has none that does it, a cheek or lip colour or a hued concealer."""

from __future__ import annotations

from math import hypot

from nabrel.core.case.product import Product
from nabrel.core.planner.draft import Draft


def correctors(draft: Draft) -> tuple[Product, ...]:
    """What the kit has been sold for correcting, tinted and wet."""
    return tuple(item for item in draft.shelf.of("corrector") if item.tinted and not item.dry)


def stand_ins(draft: Draft) -> tuple[Product, ...]:
    """Creams of another label whose hue is plainly not the skin's: the film model judges whether they cancel anything."""
    least = draft.house.hued_from_ab
    creams = (item for item in draft.shelf.of("colour", "concealer") if item.tinted and not item.dry)
    return tuple(item for item in creams if not item.shimmers and _off_hue(draft, item) >= least)


def _off_hue(draft: Draft, item: Product) -> float:
    """How far an item's a* and b* lie from the complexion's."""
    _, red, yellow = draft.reading.complexion
    _, own_red, own_yellow = item.lab or draft.reading.complexion
    return hypot(own_red - red, own_yellow - yellow)
