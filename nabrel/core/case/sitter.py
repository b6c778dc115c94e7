"""The person whose face it is."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date
from typing import Literal

from nabrel.core.terms.colour import Lab
from nabrel.core.terms.ids import Condition, Preset, Zone

Leaning = Literal["left", "right"]


@dataclass(frozen=True, slots=True)
class ZoneSkin:
    """What was read on one zone: severities 0 to 3 by condition, and its colour where it was measured."""

    conditions: Mapping[Condition, int] = field(default_factory=dict)
    lab: Lab | None = None


@dataclass(frozen=True, slots=True)
class Measures:
    """Shape measures in mm, and forehead height in the sitter's own finger-widths. Any may be unknown.

    ``nose_leans`` is the sitter's own side that a crooked bridge stands out to.
    """

    face_length_mm: float | None = None
    cheekbone_width_mm: float | None = None
    jaw_width_mm: float | None = None
    forehead_width_mm: float | None = None
    nose_length_mm: float | None = None
    forehead_fingers: float | None = None
    nose_leans: Leaning | None = None
    outer_eye_down: bool = False


@dataclass(frozen=True, slots=True)
class Sitter:
    """The person whose face it is: a nickname, colour of face and neck, and zones as read.

    ``consent_on`` is the day on which the sitter agreed to this record. ``moved`` holds placement strokes that were
    moved by hand, by stroke id, as mm to the viewer's right and down (see ``core.face.strokes``).
    """

    nickname: str
    skin: Lab
    neck: Lab | None = None
    chest: Lab | None = None
    preset: Preset = "normal"
    zones: Mapping[Zone, ZoneSkin] = field(default_factory=dict)
    measures: Measures = field(default_factory=Measures)
    avoid: tuple[str, ...] = ()
    about: str = ""
    consent_on: date | None = None
    moved: Mapping[str, tuple[float, float]] = field(default_factory=dict)
