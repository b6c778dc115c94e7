"""What is known by now of the packs that a plan was made with: their contents, age, what is left, and a base that was only guessed."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from nabrel.core.case.case import Case
from nabrel.core.case.product import Product


def with_packs(case: Case, shelf: Iterable[Product]) -> Case:
    """A case whose items are the packs on the shelf today, where they are the same by id, role and name.

    Colour and cover stay as it was planned with: those are for :mod:`nabrel.core.ask.measured` to compare.
    """
    packs = {(item.id, item.role, item.name): item for item in shelf}
    kit = tuple(_as_it_is(item, packs.get((item.id, item.role, item.name), item)) for item in case.kit)
    return case if kit == case.kit else replace(case, kit=kit)


def _as_it_is(own: Product, pack: Product) -> Product:
    if own == pack:
        return own
    known = replace(
        own,
        contains=pack.contains,
        ingredients=pack.ingredients,
        opened_on=pack.opened_on,
        keeps_months=pack.keeps_months,
        left=pack.left,
    )
    return replace(known, base=pack.base, base_source=pack.base_source) if own.base_guessed else known
