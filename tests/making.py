"""Steps of one portion, and what follows from a plan, as tests want them."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from nabrel.core.base.state import Course
from nabrel.core.house import House
from nabrel.core.judge.evaluate import course_of
from nabrel.core.plan.sequence import Sequence
from nabrel.core.plan.step import MixPart, Portion, Step
from nabrel.core.shelf.doses import Take


def one_portion(
    step_id: str,
    kind: str,
    zones: tuple[str, ...],
    item: str | None = None,
    amount: float | None = None,
    *,
    unit: str | None = None,
    tool: str | None = None,
    motion: str | None = None,
    active_s: float = 15.0,
    patch: float = 1.0,
    left_over: bool = False,
    **more: object,
) -> Step:
    """A step of one portion; its unit is µm unless another is named."""
    portion = Portion(zones, amount, tool, motion, active_s, left_over=left_over, patch=patch)
    laid = None if amount is None else unit or "um"
    return Step(
        step_id, kind, (portion,), (MixPart(item),) if item else (), laid, **{"why": ("Because of this test.",), **more}
    )


def course(sequence: Sequence, house: House | None = None) -> Course:
    """What lies on the skin after every step."""
    return course_of(sequence, house or House())


def zones_of(step: Mapping[str, Any]) -> list[str]:
    """The zones of a step as it goes over the wire, portion by portion."""
    return [zone for portion in step["portions"] for zone in portion["zones"]]


def item_of(step: Mapping[str, Any]) -> str | None:
    """The first item of a step's mix as it goes over the wire; None for work without product."""
    return step["mix"][0]["item"] if step["mix"] else None


def takes(sequence: Sequence, house: House | None = None) -> Mapping[str, Take | None]:
    """What to take for every step."""
    return {done.step.id: done.take for done in course(sequence, house).done}
