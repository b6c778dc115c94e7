"""How a colour is written."""

from __future__ import annotations

from typing import Annotated

from annotated_types import Ge, Le

from nabrel.core.terms.limits import LIMITS

Lightness = Annotated[float, Ge(LIMITS.lightness.low), Le(LIMITS.lightness.high)]
Opponent = Annotated[float, Ge(LIMITS.opponent.low), Le(LIMITS.opponent.high)]
Lab = tuple[Lightness, Opponent, Opponent]
"""CIE L*a*b*, illuminant D65, 2° observer."""
Shift = Annotated[float, Ge(-20), Le(20)]
LabShift = tuple[Shift, Shift, Shift]
"""A change of colour: ΔL*, Δa*, Δb*."""


def triple(lab: Lab) -> str:
    """A colour as three whole numbers."""
    return " ".join(f"{value:.0f}" for value in lab)
