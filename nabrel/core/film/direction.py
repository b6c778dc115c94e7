"""Colour differences in words that a hand can act on."""

from __future__ import annotations

from nabrel.core.house.tables import WORTH_A_WORD
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.words import join_words


def direction(is_lab: Lab, wanted: Lab) -> str:
    """How a colour misses another, largest first: "deeper and yellower"; "on the mark" where nothing is worth saying."""
    differences = (
        (is_lab[0] - wanted[0], "lighter", "deeper"),
        (is_lab[1] - wanted[1], "pinker", "greener"),
        (is_lab[2] - wanted[2], "yellower", "bluer"),
    )
    told = sorted((row for row in differences if abs(row[0]) >= WORTH_A_WORD), key=lambda row: -abs(row[0]))
    return join_words([more if by > 0 else less for by, more, less in told]) or "on the mark"
