"""What a run of a plan takes from the shelf."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import replace

from nabrel.core.base.state import Course
from nabrel.core.case.product import Product


def taken(course: Course, sitters: int = 1) -> dict[str, tuple[float, str]]:
    """Amount and unit (``ml`` or ``g``) by item that a plan takes from the packs, for so many faces."""
    found: dict[str, tuple[float, str]] = {}
    for done in course.done:
        if done.take is None or done.mixed is None:
            continue
        for item, share in done.mixed.items:
            before = found.get(item.id, (0.0, done.take.unit))[0]
            found[item.id] = (before + sitters * done.take.amount * share, done.take.unit)
    return found


def cost_of(course: Course) -> float | None:
    """What a face costs, in the kit's currency; None where nothing that is taken has a price."""
    cost, priced = 0.0, False
    for done in course.done:
        if done.take is None or done.mixed is None:
            continue
        for item, share in done.mixed.items:
            content = item.ml if done.take.unit == "ml" else item.g
            if item.price and content:
                priced = True
                cost += item.price * done.take.amount * share / content
    return cost if priced else None


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
