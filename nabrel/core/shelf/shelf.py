"""What may be used on this sitter, and which care or powder item suits some zones best."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from functools import cached_property

from nabrel.core.case.case import Case
from nabrel.core.case.product import Product
from nabrel.core.face.reading import Reading
from nabrel.core.shelf.age import past_its_months
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
    """The items that may be used, and whether they are the generic kit. Not slotted: what was asked for is remembered.

    ``left_out`` are those of the kit that are not used, by the reason.
    """

    items: tuple[Product, ...]
    generic: bool
    left_out: Mapping[str, tuple[Product, ...]] = field(default_factory=dict)

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
    """The usable shelf of a case, or the generic kit where it has none.

    Of a kit nothing is used that the sitter avoids or that is empty, and nothing that has expired by the day of the
    case where another of its kind is in date.
    """
    if not case.kit:
        return Shelf(generic_kit(reading.complexion), generic=True)
    left_out: dict[str, tuple[Product, ...]] = {
        "for what the sitter avoids": tuple(item for item in case.kit if avoided(item, case.sitter.avoid))
    }
    usable = _without(case.kit, left_out)
    left_out["since empty"] = tuple(item for item in usable if item.left == 0)
    usable = _without(usable, left_out)
    day = case.intent.day
    over = tuple(item for item in usable if day is not None and past_its_months(item, day) is not None)
    in_date = {_kind(item) for item in usable if item not in over}
    left_out["since expired"] = tuple(item for item in over if _kind(item) in in_date)
    return Shelf(_without(usable, left_out), generic=False, left_out={why: its for why, its in left_out.items() if its})


def _without(items: Iterable[Product], left_out: Mapping[str, tuple[Product, ...]]) -> tuple[Product, ...]:
    gone = {item.id for its in left_out.values() for item in its}
    return tuple(item for item in items if item.id not in gone)


def _kind(item: Product) -> tuple[Role, bool]:
    """Items of one kind can take each other's place: the role, and whether it is a powder."""
    return item.role, item.dry
