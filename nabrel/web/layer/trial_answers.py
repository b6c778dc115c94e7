"""Wire models of what is tried before it is kept: edits, places, the palette, and how far a look is from its aim."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from nabrel.core.base.possible import Gap
from nabrel.core.terms.ids import Severity, StepKind, Zone
from nabrel.core.terms.limits import Ident
from nabrel.core.terms.rounding import Rounded
from nabrel.web.shared.wire import AnswerModel, AnyEdit, Body, LightQuery


class TryBody(Body):
    """Edits to try on the plan as it stands."""

    edits: Annotated[tuple[AnyEdit, ...], Field(min_length=1, max_length=60)]


class GapList(AnswerModel):
    """Every place for a step among the others, in order."""

    gaps: tuple[Gap, ...]


class PlaceWire(AnswerModel):
    """One place for a late step: in words, its gravest new finding, and the edits that put it there."""

    before: str | None
    says: str
    worst: Severity | None
    usual: bool
    refused: str
    edits: list[AnyEdit]


class LateWire(AnswerModel):
    """Where a forgotten step could still go, the cheapest place first."""

    places: list[PlaceWire]


class LateBody(Body):
    """A step to add: its kind, zones and product; without a product the one that the plan or the kit suggests."""

    kind: StepKind
    zones: Annotated[list[Zone], Field(max_length=40)]
    product: Ident | None = None


class ServingWire(AnswerModel):
    """An item that serves a kind of step."""

    id: str
    name: str
    hex: str | None


class OfferedWire(AnswerModel):
    """A kind of step as it could be added; ``missing`` says what the kit lacks for it."""

    kind: StepKind
    group: str
    products: list[ServingWire]
    missing: str
    zones: list[Zone]
    used: int


class PaletteWire(AnswerModel):
    """Every kind of step that could be added, in groups by what it is for."""

    offered: list[OfferedWire]


class AimQuery(LightQuery):
    """The light to see under, and the step (by index) that was just done: -1 is bare skin, null the finished base."""

    after: Annotated[int, Field(ge=-1, le=200)] | None = None


class MissWire(AnswerModel):
    """One zone against its aim: CIEDE2000, the way it misses in words, and why it differs on purpose if it does."""

    zone: Zone
    de: Annotated[float, Rounded(1)]
    says: str
    purpose: str
    aim_hex: str


class AimWire(AnswerModel):
    """How far a look is from what is intended; the mean is by area over the zones that are judged."""

    zones: list[MissWire]
    mean_de: float
    worst: Zone
    says: str


class LookWire(AnswerModel):
    """The finished colours of a version, in the vocabulary's order of zones."""

    words: str
    colours: list[str]


class HeadWire(AnswerModel):
    """Where a plan stands: its revision, and what was done last."""

    revision: int
    says: str
