"""The colour of skin: each zone's, the complexion aimed at, depth class and undertone."""

from __future__ import annotations

from collections.abc import Mapping
from math import atan2, degrees, hypot
from typing import Literal

from nabrel.core.case.sitter import Sitter
from nabrel.core.house import House
from nabrel.core.house.tables import DEPTH_CUTS, PATCHY, SHIFT_PER_SEVERITY, SHOWS_ON_DEEP, USUAL_HUE
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.conditions import DepthClass
from nabrel.core.terms.ids import Condition

_LEAST_FLUSH, _MOST_FLUSH = 0.35, 1.1
"""How much a flush moves the colour of the deepest and the palest skin, against one of ``_REFERENCE_L``."""
_ITA_L = 50.0
"""L* at which the typology angle is level, by its definition (published)."""
_OLIVE_OFF, _OLIVE_RED, _OLIVE_CHROMA = 9.0, 9.0, 8.0
"""Olive is so many degrees yellower than usual, with a* below this, and with enough colour to tell."""
_NEUTRAL = 4.0
"""Within so many degrees of what is usual an undertone is neutral: less is not told by eye."""

Undertone = Literal["cool", "neutral", "warm", "olive"]

_REFERENCE_L = 65.0


def zone_colour(face: Lab, conditions: Mapping[Condition, int], *, on_mark: bool = False) -> Lab:
    """The mean colour to expect on a zone from the face's colour and the zone's conditions.

    With ``on_mark``, the colour on a spot or mark itself instead. On deeper skin a flush of the same severity moves the
    colour less, in proportion to L*; darkness does not: it is graded by eye, and pigment around eyes and mouth stands out
    on deep skin as it does on light (published contrasts of 5 to 10 L* around the eye on brown and dark skin).
    """
    flush = max(_LEAST_FLUSH, min(_MOST_FLUSH, face[0] / _REFERENCE_L))
    lightness, red, yellow = face
    for condition, severity in conditions.items():
        shift = SHIFT_PER_SEVERITY.get(condition)
        if shift:
            depth = max(flush, SHOWS_ON_DEEP.get(condition, 0.0))
            amount = severity * depth * (1.0 if on_mark else PATCHY.get(condition, 1.0))
            lightness += shift[0] * amount
            red += shift[1] * amount
            yellow += shift[2] * amount
    return (max(lightness, 4.0), red, yellow)


def intended_complexion(sitter: Sitter, house: House) -> Lab:
    """The colour the finished base aims at: between face and neck, so that the shade joins face to body."""
    if sitter.neck is None:
        return sitter.skin.lab
    share, face, neck = house.neck_share, sitter.skin.lab, sitter.neck.lab
    return (
        face[0] + share * (neck[0] - face[0]),
        face[1] + share * (neck[1] - face[1]),
        face[2] + share * (neck[2] - face[2]),
    )


def typology_angle(lab: Lab) -> float:
    """Individual typology angle in degrees: atan((L* - 50) / b*)·180/π (published)."""
    return degrees(atan2(lab[0] - _ITA_L, max(lab[2], 1e-6)))


def depth_class(lab: Lab) -> DepthClass:
    """Depth class by the published cut-offs of the individual typology angle."""
    angle = typology_angle(lab)
    for name, cut in DEPTH_CUTS.items():
        if angle > cut:
            return name
    return "dark"


def undertone(lab: Lab) -> Undertone:
    """Undertone from the hue angle's distance from what is usual at this depth; olive where red is also low."""
    hue = degrees(atan2(lab[2], lab[1]))
    off = hue - USUAL_HUE[depth_class(lab)]
    if off > _OLIVE_OFF and lab[1] < _OLIVE_RED and hypot(lab[1], lab[2]) > _OLIVE_CHROMA:
        return "olive"
    if off > _NEUTRAL:
        return "warm"
    if off < -_NEUTRAL:
        return "cool"
    return "neutral"
