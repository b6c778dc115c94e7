"""The person whose face it is."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date
from typing import Annotated, Literal

from annotated_types import Ge, Le, MaxLen

from nabrel.core.terms.colour import Lab
from nabrel.core.terms.ids import Condition, Covered, Hair, Preset, Zone
from nabrel.core.terms.limits import LIMITS, Severity3, Source, Text, one_line, some_lines

Leaning = Literal["left", "right"]
Millimetres = Annotated[float, Ge(LIMITS.measure_mm.low), Le(LIMITS.measure_mm.high)]
Moved = Annotated[float, Ge(-60), Le(60)]
Spread = Annotated[float, Ge(0), Le(20)]


@dataclass(frozen=True, slots=True)
class Colour:
    """A colour of skin: CIE L*a*b*, how unsure it is (standard deviation, ΔE units) and where it comes from."""

    lab: Lab
    lab_sd: Spread | None = None
    source: Source | None = None


@dataclass(frozen=True, slots=True)
class ZoneSkin:
    """What was read on one zone: severities 0 to 3 by condition, and its colour where it was measured."""

    conditions: Mapping[Condition, Severity3] = field(default_factory=dict)
    lab: Lab | None = None
    lab_sd: Spread | None = None
    source: Source | None = None


@dataclass(frozen=True, slots=True)
class Measures:
    """Shape measures in mm, and forehead height in the sitter's own finger-widths. Any may be unknown.

    ``nose_leans`` is the sitter's own side that a crooked bridge stands out to.
    """

    face_length_mm: Millimetres | None = None
    cheekbone_width_mm: Millimetres | None = None
    jaw_width_mm: Millimetres | None = None
    forehead_width_mm: Millimetres | None = None
    nose_length_mm: Millimetres | None = None
    forehead_fingers: Annotated[float, Ge(LIMITS.forehead_fingers.low), Le(LIMITS.forehead_fingers.high)] | None = None
    nose_leans: Leaning | None = None
    outer_eye_down: bool = False


@dataclass(frozen=True, slots=True)
class Sitter:
    """The person whose face it is: a nickname, colour of face and neck, and zones as read.

    ``consent_on`` is the day on which the sitter agreed to this record. ``moved`` holds placement strokes that were
    moved by hand, by stroke id, as mm to the viewer's right and down (see ``core.face.strokes``). ``hair`` is how the face
    map draws it; ``covered`` what covers a part of the face or rubs on it.
    """

    nickname: Annotated[str, one_line(60, least=1)]
    skin: Colour
    neck: Colour | None = None
    chest: Colour | None = None
    preset: Preset = "normal"
    zones: Mapping[Zone, ZoneSkin] = field(default_factory=dict)
    measures: Measures = field(default_factory=Measures)
    avoid: Annotated[tuple[Text, ...], MaxLen(60)] = ()
    about: Annotated[str, some_lines(300)] = ""
    consent_on: date | None = None
    hair: Hair = "short"
    covered: Annotated[tuple[Covered, ...], MaxLen(5)] = ()
    moved: Annotated[Mapping[str, tuple[Moved, Moved]], MaxLen(60)] = field(default_factory=dict)
