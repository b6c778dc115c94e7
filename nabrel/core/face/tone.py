"""The colour of a face in words: depth, undertone, and how neck and chest stand to it."""

from __future__ import annotations

from math import hypot

import numpy as np

from nabrel.core.case.sitter import Sitter
from nabrel.core.face.skin import depth_class, typology_angle, undertone
from nabrel.core.film.difference import delta_e
from nabrel.core.terms.colour import Lab

SAME_DE = 1.0
"""Below this ΔE00 two skins pass as one."""


def tone_says(sitter: Sitter) -> tuple[str, ...]:
    """What the colour readings of a sitter say, a sentence a subject."""
    skin = sitter.skin.lab
    said = [
        f"{depth_class(skin).capitalize()} skin: typology angle {typology_angle(skin):.0f}°.",
        f"Undertone {undertone(skin)}: hue angle {_hue(skin):.0f}°, chroma {hypot(skin[1], skin[2]):.0f}.",
    ]
    said += [
        beside(skin, other.lab, place) for place, other in (("neck", sitter.neck), ("chest", sitter.chest)) if other
    ]
    if sitter.neck is None:
        said.append("The neck was not read: face and body may not join.")
    return tuple(said)


def beside(face: Lab, other: Lab, place: str) -> str:
    """How a place of the body stands to the face: lighter or darker, redder, yellower, and by how much in all."""
    off = float(delta_e(np.array(face), np.array(other)))
    if off < SAME_DE:
        return f"The {place} matches the face (ΔE00 {off:.1f})."
    steps = [
        _side(other[0] - face[0], "lighter", "deeper", " L*"),
        _side(other[1] - face[1], "redder", "less red", ""),
        _side(other[2] - face[2], "yellower", "less yellow", ""),
    ]
    return f"The {place} is {', '.join(step for step in steps if step)} (ΔE00 {off:.1f})."


def _side(step: float, more: str, less: str, unit: str) -> str:
    if abs(step) < 0.5:
        return ""
    return f"{abs(step):.1f}{unit} {more if step > 0 else less}"


def _hue(lab: Lab) -> float:
    return float(np.degrees(np.arctan2(lab[2], lab[1])))
