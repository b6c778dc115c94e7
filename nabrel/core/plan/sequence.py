"""A sequence: the steps of a plan with the case they were made for, as frozen values."""

from __future__ import annotations

from dataclasses import dataclass

from nabrel.core.case.case import Case
from nabrel.core.plan.step import Step
from nabrel.core.terms.ids import School, StepKind, Zone


@dataclass(frozen=True, slots=True)
class LeftBare:
    """A zone left out of a kind of step on purpose, and why."""

    zone: Zone
    kind: StepKind
    why: str


@dataclass(frozen=True, slots=True)
class Accepted:
    """A finding that was looked at and is kept quiet, because of ``note``: one rule's, on these zones."""

    rule: str
    zones: tuple[Zone, ...]
    note: str


@dataclass(frozen=True, slots=True)
class Sequence:
    """An ordered plan for one case. ``notes`` says what the planner wants known about the whole.

    ``accepted`` are the findings that somebody decided to live with, each with the reason.
    """

    school: School
    case: Case
    steps: tuple[Step, ...]
    left_bare: tuple[LeftBare, ...] = ()
    notes: tuple[str, ...] = ()
    title: str = ""
    accepted: tuple[Accepted, ...] = ()

    def step(self, step_id: str) -> Step | None:
        """The step with this id, or None."""
        for step in self.steps:
            if step.id == step_id:
                return step
        return None
