"""Shape class from measures. It only suggests: every placement can be moved."""

from __future__ import annotations

from typing import Literal

from nabrel.core.case import Measures

Shape = Literal["round", "oval", "long", "square", "heart", "diamond"]

LONG_FROM = 1.45
ROUND_BELOW = 1.22
JAW_WIDE_FROM = 0.87
JAW_NARROW_BELOW = 0.74


def shape_of(measures: Measures) -> Shape | None:
    """Shape class from length over width and jaw over width (house ratios); None where measures are missing."""
    length, width, jaw = measures.face_length_mm, measures.cheekbone_width_mm, measures.jaw_width_mm
    if length is None or width is None or jaw is None:
        return None
    stretch, taper = length / width, jaw / width
    if stretch >= LONG_FROM:
        return "long"
    if taper >= JAW_WIDE_FROM:
        return "square" if stretch >= ROUND_BELOW - 0.04 else "round"
    if stretch < ROUND_BELOW:
        return "round"
    if taper < JAW_NARROW_BELOW:
        forehead = measures.forehead_width_mm
        return "heart" if forehead is None or forehead / width >= 0.92 else "diamond"
    return "oval"
