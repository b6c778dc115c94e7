"""What the Drill room is asked and answers: never an answer before it was given."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from nabrel.core.drill.exercise import DrillKind, Level
from nabrel.core.terms.ids import Zone
from nabrel.core.terms.limits import Ident
from nabrel.web.shared import wire as w


class DrillKindWire(w.Answer):
    """One kind of exercise."""

    id: DrillKind
    words: str


class DrillsWire(w.Answer):
    """The kinds of exercise that there are."""

    kinds: list[DrillKindWire]


class DrillAnswered(w.Body):
    """One answer of this session: at which level, and what it was worth."""

    level: Level
    score: Annotated[float, Field(ge=0, le=1)]


class DrillBody(w.Body):
    """Which exercise is wanted; any kind where none is named, and drawn from a seed of the server's where none is given.

    Without a level it is the one that fits what was ``answered`` in this session.
    """

    kind: DrillKind | None = None
    level: Level | None = None
    answered: Annotated[tuple[DrillAnswered, ...], Field(max_length=500)] = ()
    seed: Annotated[int, Field(ge=0, le=2**31)] | None = None


class DrillLineWire(w.Answer):
    """A step or a choice: its id and what it says."""

    id: str
    says: str


class ExerciseWire(w.Answer):
    """A question as it is asked."""

    id: str
    kind: DrillKind
    words: str
    level: int
    fits: str
    asks: str
    choices: list[DrillLineWire]
    steps: list[DrillLineWire]
    zones: list[Zone]
    values: list[DrillLineWire]
    reads: list[str]
    face: dict[Zone, str] | None
    proportions: w.ProportionsWire | None
    skin: str | None
    complexion: str | None
    lower: list[str]
    upper: list[str]
    measures: list[str]


class DrillAnswerBody(w.Body):
    """An answer: what the kind of exercise asks for."""

    choice: Annotated[str, Field(max_length=4)] | None = None
    step: Ident | None = None
    order: Annotated[tuple[Ident, ...], Field(max_length=40)] | None = None
    zones: Annotated[tuple[Zone, ...], Field(max_length=60)] | None = None
    drop: Annotated[float, Field(ge=0, le=100)] | None = None
    value: Annotated[str, Field(max_length=4)] | None = None


class LeftWire(w.Answer):
    """What one choice leaves of a discoloured zone."""

    choice: str
    hex: str
    de: float
    says: str


class DrillMarkWire(w.Answer):
    """What an answer is worth, the right one, what would follow, and why; ``as_planned`` is the face without its mistake."""

    score: float
    choice: str | None
    step: str | None
    order: list[str]
    zones: list[Zone]
    drop: float | None
    value: str | None
    follows: list[str]
    why: list[str]
    leaves: list[LeftWire]
    reasons: dict[Zone, str]
    as_planned: dict[Zone, str] | None
