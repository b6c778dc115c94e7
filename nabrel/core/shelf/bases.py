"""Which product bases agree when one lies on another."""

from __future__ import annotations

from collections.abc import Iterable

from nabrel.core.terms.ids import Base
from nabrel.core.terms.words import join_words

_BEADS_OVER: frozenset[Base] = frozenset({"silicone", "oil", "anhydrous"})


def beads(lower: Base, upper: Base) -> bool:
    """Whether ``upper`` beads or separates on an unset layer of ``lower``.

    Water-based over silicone, oil or wax does; like over like, and anything over water, does not.
    """
    return upper == "water" and lower in _BEADS_OVER


def why_beads(lower: Base, upper: Base) -> str:
    """The reason in a sentence a student can repeat."""
    return f"A {upper}-based layer cannot wet {_A[lower]} layer, so it beads up and separates."


_A: dict[Base, str] = {
    "water": "a water-based",
    "silicone": "a silicone-rich",
    "oil": "an oil-rich",
    "anhydrous": "a waxy, anhydrous",
    "powder": "a powder",
    "alcohol": "an alcohol-based",
}


def agreement(upper: Base, beneath: Iterable[Base]) -> str:
    """How a base lies on the unset layers beneath it, in a few words: "beads on silicone", "agrees with water"."""
    lower = tuple(dict.fromkeys(beneath))
    against = [base for base in lower if beads(base, upper)]
    if against:
        return f"beads on {join_words(against)}"
    return f"agrees with {join_words(lower)}" if lower else "nothing unset beneath"
