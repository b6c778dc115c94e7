"""How a face is drawn: factors by which the map is wider, narrower, longer or shorter, its hair, and what covers it."""

from __future__ import annotations

from dataclasses import dataclass

from nabrel.core.case.sitter import Sitter
from nabrel.core.house.tables import USUAL_MEASURES
from nabrel.core.terms.ids import Covered, Hair

A_FINGER, USUAL_FINGERS = 0.06, 3.0
"""How much higher a forehead is drawn for each finger beyond the usual three."""

LEAST, MOST = 0.86, 1.16
"""The map follows a face this far; measures beyond are drawn as this."""


@dataclass(frozen=True, slots=True)
class Proportions:
    """Factors around 1, all for the same cheekbone width, with the hair and what covers a part of the face.

    length of the face, width of jaw and forehead, height of the forehead, length of the nose; ``eye_down`` whether the
    outer eye turns down; ``nose_leans`` the side the bridge leans to, as -1 (the sitter's right), 0 or 1 (left).
    """

    length: float = 1.0
    jaw: float = 1.0
    forehead: float = 1.0
    brow_height: float = 1.0
    nose: float = 1.0
    eye_down: bool = False
    nose_leans: int = 0
    hair: Hair = "short"
    covered: tuple[Covered, ...] = ()


def proportions_of(sitter: Sitter) -> Proportions:
    """The proportions that follow from what was measured; the usual ones where nothing was."""
    measures = sitter.measures
    width = measures.cheekbone_width_mm or USUAL_MEASURES["cheekbone_width_mm"]

    def factor(value: float | None, usual: str) -> float:
        if value is None:
            return 1.0
        ratio = (value / width) / (USUAL_MEASURES[usual] / USUAL_MEASURES["cheekbone_width_mm"])
        return min(MOST, max(LEAST, ratio))

    fingers = measures.forehead_fingers
    height = 1.0 if fingers is None else min(MOST, max(LEAST, 1.0 + A_FINGER * (fingers - USUAL_FINGERS)))
    return Proportions(
        length=factor(measures.face_length_mm, "face_length_mm"),
        jaw=factor(measures.jaw_width_mm, "jaw_width_mm"),
        forehead=factor(measures.forehead_width_mm, "forehead_width_mm"),
        brow_height=height,
        nose=factor(measures.nose_length_mm, "nose_length_mm"),
        eye_down=measures.outer_eye_down,
        nose_leans={"left": 1, "right": -1}.get(measures.nose_leans or "", 0),
        hair=sitter.hair,
        covered=sitter.covered,
    )
