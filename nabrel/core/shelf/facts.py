"""What of an item may be unknown or only guessed, and so is to be found out by whoever owns it."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Literal

from nabrel.core.case.product import Product
from nabrel.core.shelf.allergens import contents_known

Fact = Literal["contents", "base", "colour"]

_OPEN: Mapping[Fact, Callable[[Product], bool]] = {
    "contents": lambda item: not contents_known(item),
    "base": lambda item: item.base_guessed,
    "colour": lambda item: item.colour_guessed,
}


def is_open(item: Product, fact: Fact) -> bool:
    """Whether something of an item is unknown or only guessed."""
    return _OPEN[fact](item)


def open_facts(item: Product) -> tuple[Fact, ...]:
    """All of an item that is unknown or only guessed."""
    return tuple(fact for fact in _OPEN if is_open(item, fact))
