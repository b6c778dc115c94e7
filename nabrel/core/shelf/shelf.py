"""What may be used on this sitter, and which care or powder item suits some zones best."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from functools import cached_property

from nabrel.core.case.case import Case
from nabrel.core.case.product import Product
from nabrel.core.face.reading import Reading
from nabrel.core.shelf.allergens import avoided, contains
from nabrel.core.shelf.generic import generic_kit
from nabrel.core.terms.ids import Role, Texture, Zone

LIGHTEST_FIRST: tuple[Texture, ...] = ("mist", "gel", "liquid", "mousse", "cream", "stick", "balm")
"""Textures of care by how much they leave on the skin; others after them."""


def _weight(item: Product) -> tuple[int, bool, str]:
    """What is lighter comes first: its texture, then water before oil; the id keeps the order of the shelf out of it."""
    rank = LIGHTEST_FIRST.index(item.texture) if item.texture in LIGHTEST_FIRST else len(LIGHTEST_FIRST)
    return rank, item.base in ("oil", "anhydrous"), item.id


@dataclass(frozen=True)
class Shelf:
    """The items that may be used, and whether they are the generic kit. Not slotted: what was asked for is remembered."""

    items: tuple[Product, ...]
    generic: bool

    def of(self, *roles: Role) -> tuple[Product, ...]:
        """Items sold for any of the roles, in kit order."""
        if roles not in self._asked:
            self._asked[roles] = tuple(item for item in self.items if item.role in roles)
        return self._asked[roles]

    @cached_property
    def _asked(self) -> dict[tuple[Role, ...], tuple[Product, ...]]:
        return {}

    def best_care(
        self,
        role: Role,
        reading: Reading,
        zones: Iterable[Zone],
        *,
        need: bool = False,
        of: Iterable[Product] | None = None,
    ) -> Product | None:
        """The care item of a role whose ``suits`` answers most of what was read on the zones.

        Each matching condition counts by its severity; an item that suits nothing here scores nothing. Of items that
        answer alike the lightest is given: what nothing asks for should weigh least. With ``need``, only an item that
        answers something is given; ``of`` are the items to choose among, else all of the role.
        """
        read_there = reading.severities(zones)
        best: Product | None = None
        best_score = 0.5 if need else -1.0
        for item in self.of(role) if of is None else of:
            score = float(sum(read_there.get(condition, 0) for condition in item.suits))
            if "sensitive" in read_there:
                score -= 0.5 * read_there["sensitive"] * contains(item, "fragrance")
            if score > best_score or (best is not None and score == best_score and _weight(item) < _weight(best)):
                best, best_score = item, score
        return best


def shelf_for(case: Case, reading: Reading) -> Shelf:
    """The usable shelf of a case: its kit without what the sitter avoids, or the generic kit where it has none."""
    if not case.kit:
        return Shelf(generic_kit(reading.complexion), generic=True)
    return Shelf(tuple(item for item in case.kit if not avoided(item, case.sitter.avoid)), generic=False)
