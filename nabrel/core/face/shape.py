"""Shape class from measures. It only suggests: every placement can be moved."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, replace
from itertools import product
from typing import Literal

from nabrel.core.case.sitter import Measures
from nabrel.core.house import House
from nabrel.core.house.tables import MEASURE_ERRORS

SQUARE_NEARLY_ROUND = 0.04
"""A wide jaw makes a face square though it is a little shorter than a round one may be."""
HEART_FROM = 0.92
"""From this width of the forehead over the cheekbones on a face with a narrow jaw is a heart; below, a diamond."""

Shape = Literal["round", "oval", "long", "square", "heart", "diamond"]


@dataclass(frozen=True, slots=True)
class ShapeReading:
    """A shape class with the ratios it rests on, and how sure it is.

    stretch is length over cheekbone width, taper jaw over cheekbone width, brow forehead over cheekbone width (None
    where the forehead was not measured). sure is the share, 0 to 1, of measures within a tape's error that give the
    same class; ``runner_up`` is the class most of the others give, None where there is no other.
    """

    shape: Shape
    stretch: float
    taper: float
    brow: float | None
    sure: float
    runner_up: Shape | None

    @property
    def says(self) -> str:
        """The class in words, with its ratios and what else it could be."""
        ratios = f"{self.stretch:.2f} long for its width, jaw {self.taper:.2f} of the cheekbones"
        if self.runner_up is None:
            return f"{self.shape.capitalize()}: {ratios}."
        return f"{self.shape.capitalize()}, {self.sure * 100:.0f} % sure, else {self.runner_up}: {ratios}."


def shape_of(measures: Measures, house: House) -> Shape | None:
    """Shape class from length over width and jaw over width (house ratios); None where measures are missing."""
    length, width, jaw = measures.face_length_mm, measures.cheekbone_width_mm, measures.jaw_width_mm
    if length is None or width is None or jaw is None:
        return None
    stretch, taper = length / width, jaw / width
    if stretch >= house.shape_long_from:
        return "long"
    if taper >= house.shape_jaw_wide_from:
        return "square" if stretch >= house.shape_round_below - SQUARE_NEARLY_ROUND else "round"
    if stretch < house.shape_round_below:
        return "round"
    if taper < house.shape_jaw_narrow_below:
        forehead = measures.forehead_width_mm
        return "heart" if forehead is None or forehead / width >= HEART_FROM else "diamond"
    return "oval"


def read_shape(measures: Measures, house: House) -> ShapeReading | None:
    """The shape with its ratios and how sure it is; None where length, cheekbones or jaw were not measured."""
    shape = shape_of(measures, house)
    length, width, jaw = measures.face_length_mm, measures.cheekbone_width_mm, measures.jaw_width_mm
    if shape is None or length is None or width is None or jaw is None:
        return None
    forehead = measures.forehead_width_mm
    found: Counter[Shape] = Counter()
    for errors in product(MEASURE_ERRORS, repeat=4 if forehead is not None else 3):
        by = [error * house.measure_error_mm for error in errors]
        near = shape_of(
            replace(
                measures,
                face_length_mm=length + by[0],
                cheekbone_width_mm=width + by[1],
                jaw_width_mm=jaw + by[2],
                forehead_width_mm=None if forehead is None else forehead + by[3],
            ),
            house,
        )
        if near is not None:
            found[near] += 1
    others = [each for each, _ in found.most_common() if each != shape]
    return ShapeReading(
        shape=shape,
        stretch=length / width,
        taper=jaw / width,
        brow=None if forehead is None else forehead / width,
        sure=found[shape] / found.total(),
        runner_up=others[0] if others else None,
    )
