"""Shape class from measures. It only suggests: every placement can be moved."""

from __future__ import annotations

from typing import Literal

from nabrel.core.case import Measures
from nabrel.core.house import House

Shape = Literal["round", "oval", "long", "square", "heart", "diamond"]


def shape_of(measures: Measures, house: House) -> Shape | None:
    """Shape class from length over width and jaw over width (house ratios); None where measures are missing."""
    length, width, jaw = measures.face_length_mm, measures.cheekbone_width_mm, measures.jaw_width_mm
    if length is None or width is None or jaw is None:
        return None
    stretch, taper = length / width, jaw / width
    if stretch >= house.shape_long_from:
        return "long"
    if taper >= house.shape_jaw_wide_from:
        return "square" if stretch >= house.shape_round_below - 0.04 else "round"
    if stretch < house.shape_round_below:
        return "round"
    if taper < house.shape_jaw_narrow_below:
        forehead = measures.forehead_width_mm
        return "heart" if forehead is None or forehead / width >= 0.92 else "diamond"
    return "oval"
