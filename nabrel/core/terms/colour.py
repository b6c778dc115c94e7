"""How a colour is written."""

from __future__ import annotations

Lab = tuple[float, float, float]
"""CIE L*a*b*, illuminant D65, 2° observer."""


def triple(lab: Lab) -> str:
    """A colour as three whole numbers."""
    return " ".join(f"{value:.0f}" for value in lab)
