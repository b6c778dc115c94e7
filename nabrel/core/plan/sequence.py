"""A sequence: the steps of a plan with the case they were made for, as frozen values."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Annotated, Literal

from annotated_types import MaxLen, MinLen

from nabrel.core.case.case import Case
from nabrel.core.plan.step import Step
from nabrel.core.terms.ids import School, StepKind, Zone
from nabrel.core.terms.limits import (
    MOST_ACCEPTED,
    MOST_NAME,
    MOST_STEPS,
    Ident,
    Seconds,
    Sentence,
    one_line,
    some_lines,
)
from nabrel.core.terms.steps import STEP_INFO, Chapter


@dataclass(frozen=True, slots=True)
class LeftBare:
    """A zone left out of a kind of step on purpose, and why."""

    zone: Zone
    kind: StepKind
    why: Sentence


@dataclass(frozen=True, slots=True)
class Accepted:
    """A finding that was looked at and is kept quiet, because of ``note``: one rule's, on these zones."""

    rule: Ident
    zones: tuple[Zone, ...]
    note: Annotated[str, MinLen(1), some_lines(300)]


@dataclass(frozen=True, slots=True)
class Pin:
    """A step that is to start at a time, in seconds from the start."""

    step: Ident
    start_s: Seconds


@dataclass(frozen=True, slots=True)
class Timing:
    """When it is worked: start and ready as hours and minutes, steps already done at such a time, steps that are pinned."""

    start: str | None = None
    ready: str | None = None
    already: Mapping[Ident, str] = field(default_factory=dict)
    pins: tuple[Pin, ...] = ()
    sides: Literal["together", "one_first"] = "together"


@dataclass(frozen=True, slots=True)
class Sequence:
    """An ordered plan for one case. ``notes`` says what the planner wants known about the whole.

    ``accepted`` are the findings that somebody accepted, each with the reason.
    """

    school: School
    case: Case
    steps: Annotated[tuple[Step, ...], MaxLen(MOST_STEPS)]
    left_bare: tuple[LeftBare, ...] = ()
    notes: tuple[Sentence, ...] = ()
    title: Annotated[str, one_line(MOST_NAME)] = ""
    accepted: Annotated[tuple[Accepted, ...], MaxLen(MOST_ACCEPTED)] = ()
    timing: Timing | None = None

    def chapters(self) -> tuple[Chapter, ...]:
        """The chapter of every step: what corrects or conceals after the foundation belongs to the foundation."""
        founded = False
        found: list[Chapter] = []
        for step in self.steps:
            founded = founded or step.kind == "foundation"
            chapter = STEP_INFO[step.kind].chapter
            found.append("foundation" if founded and chapter == "correct" else chapter)
        return tuple(found)

    def step(self, step_id: str) -> Step | None:
        """The step with this id, or None."""
        for step in self.steps:
            if step.id == step_id:
                return step
        return None
