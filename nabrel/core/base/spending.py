"""What a run of a plan takes from the shelf."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import replace

from nabrel.core.case.product import Product
from nabrel.core.plan.step import Step


def taken(steps: Iterable[Step], sitters: int = 1) -> dict[str, tuple[float, str]]:
    """Amount and unit (``ml`` or ``g``) by product id that these steps take from their packs, for so many faces."""
    found: dict[str, tuple[float, str]] = {}
    for step in steps:
        if step.product is not None and step.take is not None:
            before = found.get(step.product, (0.0, step.take.unit))[0]
            found[step.product] = (before + sitters * step.take.amount, step.take.unit)
    return found


def after_taking(items: Iterable[Product], amounts: Mapping[str, tuple[float, str]]) -> tuple[Product, ...]:
    """The items whose content is known and from which something was taken, with what is left of them, 0 at least."""
    changed: list[Product] = []
    for item in items:
        if item.id not in amounts:
            continue
        amount, unit = amounts[item.id]
        content = item.ml if unit == "ml" else item.g
        if content:
            left = 1.0 if item.left is None else item.left
            changed.append(replace(item, left=max(0.0, left - amount / content)))
    return tuple(changed)
