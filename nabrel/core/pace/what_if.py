"""What would shorten a timetable: another pair of hands, one more tool, a shorter bake."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from nabrel.core.house import PARAMETERS, House
from nabrel.core.pace.tasks import work_of
from nabrel.core.pace.timetable import Timetable, shortest_s
from nabrel.core.plan.edits import SetWait
from nabrel.core.plan.sequence import Sequence as Plan
from nabrel.core.terms.hands import TOOL_INFO
from nabrel.core.terms.ids import Tool

WORTH_SAYING_S = 30
"""Seconds that a change must save to be spoken of."""


@dataclass(frozen=True, slots=True)
class WhatIf:
    """A change and the length it would give: other ``hands`` and ``spare`` to ask for, or ``edits`` of the plan itself."""

    says: str
    length_s: int
    hands: int | None = None
    spare: tuple[Tool, ...] | None = None
    edits: tuple[SetWait, ...] = ()


def what_if(
    plan: Plan, house: House, found: Timetable, *, pace: float = 1.0, hands: int = 1, spare: Sequence[Tool] = ()
) -> tuple[WhatIf, ...]:
    """The changes that would save at least half a minute, the greatest saving first."""
    if found.length_s is None:
        return ()
    rows = _tried(plan, house, found, pace, hands, tuple(spare))
    worth = [row for row in rows if row.length_s <= found.length_s - WORTH_SAYING_S]
    return tuple(sorted(worth, key=lambda row: row.length_s))


def _tried(
    plan: Plan, house: House, found: Timetable, pace: float, hands: int, spare: tuple[Tool, ...]
) -> Iterator[WhatIf]:
    if hands == 1:
        length = shortest_s(work_of(plan, house, pace=pace, hands=2, spare=spare))
        if length is not None:
            yield WhatIf("a second pair of hands", length, 2, spare)
    for tool in dict.fromkeys(row.tool for row in found.tasks if row.what == "clean" and row.tool is not None):
        length = shortest_s(work_of(plan, house, pace=pace, hands=hands, spare=(*spare, tool)))
        if length is not None:
            yield WhatIf(f"a second {TOOL_INFO[tool].words}", length, hands, (*spare, tool))
    least = PARAMETERS["bake_s"].low
    longer = [step for step in plan.steps if step.kind == "bake" and step.wait_s > least]
    if longer:
        shorter = tuple(replace(step, wait_s=least) if step in longer else step for step in plan.steps)
        asked = work_of(replace(plan, steps=shorter), house, pace=pace, hands=hands, spare=spare)
        length = shortest_s(asked)
        if length is not None:
            edits = tuple(SetWait(step.id, least, step.wait_at_most_s) for step in longer)
            yield WhatIf(f"a bake of {least / 60:.0f} min", length, edits=edits)
