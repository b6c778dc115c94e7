"""Wire models of versions and the Weigh room."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from nabrel.core.ask.weigh import WeighedFigure
from nabrel.core.terms.ids import Light, School
from nabrel.core.terms.limits import Ident, one_line
from nabrel.web.shared.wire import AnswerModel, Body, Named, Number, Query, WorkbenchWire


class VersionWire(AnswerModel):
    """One revision of a plan; ``name`` where somebody gave it one."""

    number: int
    name: str | None
    says: str
    made: str
    current: bool


class VersionList(AnswerModel):
    """Every revision, the newest first."""

    versions: list[VersionWire]


class UntilQuery(Query):
    """The revision up to which a difference is told; the plan as it stands where none is named."""

    until: Number | None = None


class VersionBody(Body):
    """The name of a version; empty takes it away."""

    name: Annotated[str, one_line(80)]


class CandidateSpec(Body):
    """What a candidate is: a version (or the plan as it stands), in a school, with a foundation, under a light."""

    version: Number | None = None
    school: School | None = None
    foundation: Ident | None = None
    light: Light = "daylight"


class WeighBody(Body):
    """Two to four candidates."""

    candidates: Annotated[list[CandidateSpec], Field(min_length=2, max_length=4)]


class TakeWeighedBody(Body):
    """The candidate to make the plan, on a revision of it."""

    revision: Number
    candidate: CandidateSpec


class WeighedWire(AnswerModel):
    """One candidate, whole, with what speaks for and against it beside the others; ``current`` is the plan itself."""

    words: str
    plan: WorkbenchWire
    current: bool
    speaks_for: list[str]
    speaks_against: list[str]


class WeighWire(AnswerModel):
    """Candidates side by side; the place of the one that suits best and of all that are as good, its reason, and the
    revision they stand on.
    """

    revision: int
    foundations: list[Named]

    candidates: list[WeighedWire]
    figures: list[WeighedFigure]
    recommended: int
    as_good: list[int]
    says: str
