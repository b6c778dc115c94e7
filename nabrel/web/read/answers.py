"""Wire models of the Read room: a face as read, its record as it can be changed, and what instruments say."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from typing import Annotated, Literal

from pydantic import Field

from nabrel.core.case.intent import Intent
from nabrel.core.case.sitter import Sitter
from nabrel.core.face.measuring import Measured, Place, SkinReading
from nabrel.core.face.placement import Sculpt
from nabrel.core.face.shape import Shape
from nabrel.core.face.strokes import Stroke
from nabrel.core.solve.stripe import JudgedColour, Nudge
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.conditions import DepthClass
from nabrel.core.terms.ids import Condition, Preset, Zone
from nabrel.core.terms.limits import Ident, Source, one_line
from nabrel.formats.workspace import Counts
from nabrel.web.shared.wire import AnswerModel, Body, IdPath, Number, Query, SitterWire


class ShapeWire(AnswerModel):
    """A shape class with its ratios and how sure it is, 0 to 1."""

    shape: Shape
    stretch: float
    taper: float
    brow: float | None
    sure: float
    runner_up: Shape | None
    says: str


class LeftOffWire(AnswerModel):
    """A zone that a placement leaves off, and why."""

    kind: Sculpt
    zone: Zone
    why: str


class PlaceColourWire(AnswerModel):
    """The colour that counts for one place: its newest reading, where it was read on a day."""

    place: Place
    words: str
    lab: Lab
    hex: str
    day: str | None
    sure: str


class DatedWire(AnswerModel):
    """One kept reading, told for the screen."""

    id: int
    reading: SkinReading
    hex: str | None
    says: str


class CourseWire(AnswerModel):
    """One place's readings of one kind, oldest first."""

    place: Place
    words: str
    what: Measured
    says: str
    readings: list[DatedWire]


class PlacementsWire(AnswerModel):
    """Where light, shade, glow and colour go on a face, and where they are left off."""

    strokes: tuple[Stroke, ...]
    left_off: list[LeftOffWire]


class FaceWire(SitterWire, PlacementsWire):
    """A face as read, with the record as it can be changed; ``version`` is the one a change is made on."""

    version: int
    record: Sitter
    shape_reading: ShapeWire | None
    mm_a_unit: float
    tone_says: list[str]
    colours: list[PlaceColourWire]
    courses: list[CourseWire]
    sequence_ids: list[str]


class RecordBody(Body):
    """A sitter's record changed, on a version of it."""

    version: Number
    record: Sitter
    intent: Intent


class WishedBody(Body):
    """What would be wanted of a base."""

    intent: Intent


class NewSitterBody(Body):
    """A new sitter: a nickname, a skin colour to start from, a preset."""

    nickname: Annotated[str, one_line(60, least=1)]
    skin: Lab
    lab_sd: Annotated[float, Field(ge=0, le=20)] | None = None
    source: Source | None = None
    preset: Preset = "normal"
    consent_on: date | None = None


class ReadingsBody(Body):
    """Readings to keep."""

    readings: Annotated[tuple[SkinReading, ...], Field(min_length=1, max_length=200)]


class ReadingPath(IdPath):
    """A sitter and one of their readings."""

    reading: Number


class ReadingRowWire(AnswerModel):
    """One row of a file of readings: the reading, or what is wrong with it."""

    line: int
    name: str
    status: Literal["good", "problem"]
    says: str
    hex: str | None


class ReadingRowsWire(AnswerModel):
    """A file of readings before it is kept."""

    rows: list[ReadingRowWire]


class ColourBody(Body):
    """A colour as typed: L*a*b* or hex."""

    text: Annotated[str, Field(max_length=80)]


class ColourWire(AnswerModel):
    """A colour as it was understood."""

    lab: Lab
    hex: str
    depth: DepthClass


class ReaderBody(Body):
    """Takes kept so far, and how many more to take of a place. ``seed`` makes the simulated reader repeat itself.

    ``wear`` is a record that is worn: then the base is read, not the skin.
    """

    place: Place
    wear: Ident | None = None
    takes: Annotated[tuple[Lab, ...], Field(max_length=20)] = ()
    more: Annotated[int, Field(ge=0, le=9)] = 3
    seed: Annotated[int, Field(ge=0)] | None = None


class TakeWire(AnswerModel):
    """One take: its colour, its ΔE00 from the middle of all, and whether it is too far off."""

    lab: Lab
    hex: str
    off: float
    far: bool


class ReaderWire(AnswerModel):
    """All takes of a place, with their mean and spread."""

    takes: list[TakeWire]
    mean: Lab
    hex: str
    spread: float
    says: str


class ProbeBody(Body):
    """A zone, and what the probe is held on it for."""

    zone: Zone
    what: Literal["oil", "moisture"]
    seed: Annotated[int, Field(ge=0)] | None = None


class ProbeWire(AnswerModel):
    """What the probe says: its value, the band, and the condition that follows."""

    value: float
    says: str
    condition: Condition
    words: str
    severity: int


class FormQuery(Query):
    """How readings are written: a table, or CGATS.17 text."""

    form: Literal["csv", "cgats"] = "csv"


@dataclass(frozen=True, kw_only=True)
class WorkspaceWire(Counts):
    """What a workspace holds."""

    sitters: int


class WorkspacePreviewWire(AnswerModel):
    """What a zip holds, and what stands now and would go."""

    comes: WorkspaceWire
    goes: WorkspaceWire


class ByEyeBody(Body):
    """The colour tapped first, to see its near neighbours; without it the whole grid."""

    near: Lab | None = None


class EyeCellWire(AnswerModel):
    """A colour to hold beside the sitter."""

    lab: Lab
    hex: str
    words: str


class EyeGridWire(AnswerModel):
    """Rows of colours from light to deep; ``lab_sd`` is how unsure a choice among them is, ΔE00."""

    rows: list[list[EyeCellWire]]
    row_words: list[str]
    lab_sd: float
    sure: str


class StripeBody(Body):
    """The item whose stripe vanishes on the jaw, or the two between which the skin lies, and which way it is off."""

    first: Ident
    second: Ident | None = None
    nudges: Annotated[tuple[Nudge, ...], Field(max_length=2)] = ()


@dataclass(frozen=True, kw_only=True)
class JudgedWire(JudgedColour):
    """A colour judged without an instrument, how unsure it is (ΔE00), and in words."""

    hex: str
