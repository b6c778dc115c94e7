"""The colour of skin judged by eye: a computed grid of depth by undertone, and nearer neighbours of one of its cells.

What is shown is what the reading says of it: every cell of the grid lies in the middle of its depth class, or of a half of
it, and at the hue angle that its undertone is read from.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import cos, radians, sin, tan

import numpy as np

from nabrel.core.face.skin import Undertone, depth_class, undertone
from nabrel.core.house import House
from nabrel.core.house.tables import USUAL_HUE
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.conditions import DepthClass

_BEGIN_L = 60.0
"""Where the search for L* begins: the middle of skins."""
_TURNS = 40
"""Turns after which L* no longer moves in the fifth place."""
_ITA_L = 50.0
"""L* at which the typology angle is level, by its definition (published)."""
_LEAST_L, _MOST_L = 8.0, 96.0
"""No skin is darker or paler."""

TONES: tuple[Undertone, ...] = ("cool", "neutral", "warm", "olive")
_TURN: dict[Undertone, float] = {"cool": -8.0, "neutral": 0.0, "warm": 8.0, "olive": 16.0}
"""Degrees of hue from what is usual at the depth: well inside the span that each undertone is read from."""
_ANGLES: tuple[tuple[DepthClass, float], ...] = (
    ("very light", 66.0), ("very light", 58.5), ("light", 51.0), ("light", 44.5), ("intermediate", 37.5),
    ("intermediate", 31.0), ("tan", 23.5), ("tan", 14.5), ("brown", 0.0), ("brown", -17.0), ("dark", -40.0), ("dark", -60.0),
)  # fmt: skip
"""Typology angles of the columns: two a depth class."""
_CHROMA_L, _CHROMA = (20.0, 30.0, 40.0, 50.0, 60.0, 70.0, 80.0), (9.0, 15.0, 20.0, 23.0, 21.5, 18.0, 14.0)
"""How strong the colour of skin usually is at a lightness: the middle of published skin gamuts."""
_LESS_OLIVE = 0.8
CLOSER_L, CLOSER_HUE = 2.2, 5.0
"""Steps of the second tap: lighter and deeper in L*, cooler and warmer in degrees of hue."""


@dataclass(frozen=True, slots=True)
class EyeCell:
    """A colour to hold beside the sitter: CIE L*a*b*, and what skin of that colour is called."""

    lab: Lab
    depth: DepthClass
    tone: Undertone

    @property
    def words(self) -> str:
        """Depth and undertone."""
        return f"{self.depth}, {self.tone}"


def grid() -> tuple[tuple[EyeCell, ...], ...]:
    """A row for every undertone; twelve depths from very light to dark."""
    return tuple(tuple(_row(tone)) for tone in TONES)


def closer(lab: Lab) -> tuple[tuple[EyeCell, ...], ...]:
    """Three rows of three around a colour: lighter to deeper from row to row, cooler to warmer from left to right."""
    return tuple(
        tuple(_named(_turned(lab, up * CLOSER_L, turn * CLOSER_HUE)) for turn in (-1, 0, 1)) for up in (1, 0, -1)
    )


def sure(house: House, *, second: bool) -> tuple[float, str]:
    """How unsure a colour is that was tapped once, or a second time among its neighbours: ΔE00, and in words."""
    sd = house.eye_closer_sd_de if second else house.eye_sd_de
    return sd, f"Good to within about {sd / house.shade_step_l:.1f} shades (ΔE00 {sd:.1f})."


def _row(tone: Undertone) -> Iterator[EyeCell]:
    for depth, angle in _ANGLES:
        hue = radians(USUAL_HUE[depth] + _TURN[tone])
        lightness = _BEGIN_L
        # The angle fixes L* by b*, and b* follows from the chroma usual at that L*: a few turns settle it.
        for _ in range(_TURNS):
            chroma = _chroma(lightness) * (_LESS_OLIVE if tone == "olive" else 1.0)
            lightness = 0.5 * lightness + 0.5 * (_ITA_L + tan(radians(angle)) * chroma * sin(hue))
        red = chroma * cos(hue)
        yield _named((round(lightness, 1), round(red, 1), round(chroma * sin(hue), 1)))


def _chroma(lightness: float) -> float:
    return float(np.interp(lightness, _CHROMA_L, _CHROMA))


def _turned(lab: Lab, up: float, degrees: float) -> Lab:
    hue, chroma = np.arctan2(lab[2], lab[1]) + radians(degrees), float(np.hypot(lab[1], lab[2]))
    lightness = min(_MOST_L, max(_LEAST_L, lab[0] + up))
    return (round(lightness, 1), round(chroma * float(np.cos(hue)), 1), round(chroma * float(np.sin(hue)), 1))


def _named(lab: Lab) -> EyeCell:
    return EyeCell(lab, depth_class(lab), undertone(lab))
