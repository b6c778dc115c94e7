"""Blocks: where a plan may be cut, so that a part is demonstrated and then practised."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace

from nabrel.core.errors import Refused
from nabrel.core.house import House
from nabrel.core.pace.tasks import work_of
from nabrel.core.plan.sequence import Sequence
from nabrel.core.plan.step import Step
from nabrel.core.terms.ids import StepKind
from nabrel.core.terms.words import join_words

LEAST_BLOCK_S = 150
"""A block that is worked faster than this is taught together with the next."""
LONG_WAIT_S = 300
"""A wait so long ends a block: the room practises while the educator's own model waits."""


@dataclass(frozen=True, slots=True)
class LessonBlock:
    """Steps that are shown and practised together: their ids, what they are called, and the wait that the last of them wants."""

    steps: tuple[str, ...]
    words: str
    wait_s: float

    @property
    def id(self) -> str:
        """The step that it begins with."""
        return self.steps[0]


def blocks_of(plan: Sequence, house: House, cuts: tuple[str, ...] | None = None) -> tuple[LessonBlock, ...]:
    """A plan in blocks: at ``cuts`` (the steps that begin a block), else between chapters and at long waits.

    Proposed wherever no longest wait would run out while the next is shown. Refuses a cut there, and one at no step of the plan.
    """
    held = held_together(plan, house)
    if cuts is not None:
        _check_cuts(plan, cuts, held)
    groups: list[list[Step]] = []
    chapters: dict[str, str] = {}
    chapter = ""
    for step, own in zip(plan.steps, plan.chapters(), strict=True):
        chapters[step.id] = own
        fresh = (
            step.id in cuts if cuts is not None and groups else
            not groups or (step.id not in held and _ends(groups[-1], chapter, own))
        )  # fmt: skip
        if fresh:
            groups.append([])
            chapter = own
        groups[-1].append(step)
    if cuts is None and len(groups) > 1 and _worked_s(groups[-1]) < LEAST_BLOCK_S:
        last = groups.pop()
        groups[-1] += last
    return tuple(
        LessonBlock(tuple(s.id for s in own), _words(chapters[s.id] for s in own), own[-1].wait_s) for own in groups
    )


def part_of(plan: Sequence, block: LessonBlock) -> Sequence:
    """The plan of a block alone; moments that are fixed for the whole plan do not hold for it."""
    return replace(plan, steps=tuple(step for step in plan.steps if step.id in block.steps), timing=None)


def parts_like(plan: Sequence, taught: Sequence, blocks: tuple[LessonBlock, ...]) -> tuple[Sequence, ...]:
    """The plan of another face in the blocks of the one that is taught: each step where its kind is shown, in its own order."""
    kinds: list[set[StepKind]] = [{step.kind for step in part_of(taught, block).steps} for block in blocks]
    parts: list[list[Step]] = [[] for _ in blocks]
    at = 0
    for step in plan.steps:
        at = next((place for place in range(at, len(blocks)) if step.kind in kinds[place]), at)
        parts[at].append(step)
    return tuple(replace(plan, steps=tuple(own), timing=None) for own in parts)


def held_together(plan: Sequence, house: House) -> Mapping[str, str]:
    """Steps that must follow soon on one before them, so that nothing may be shown in between, each with the reason."""
    work = work_of(replace(plan, timing=None), house)
    order = {step.id: place for place, step in enumerate(plan.steps)}
    held: dict[str, str] = {}
    for lag in work.lags:
        if lag.most is None:
            continue
        first, last = order[work.tasks[lag.before].step], order[work.tasks[lag.after].step]
        for step in plan.steps[first + 1 : last + 1]:
            held.setdefault(step.id, lag.reason.says)
    return held


def _check_cuts(plan: Sequence, cuts: tuple[str, ...], held: Mapping[str, str]) -> None:
    ids = [step.id for step in plan.steps]
    for place, cut in enumerate(cuts):
        if cut not in ids:
            raise Refused(f"cuts[{place}]", cut, "a step of the plan that is taught")
        if cut in held:
            raise Refused(f"cuts[{place}]", cut, f"a step before which the room may stop: {held[cut]}")


def _ends(steps: list[Step], chapter: str, following: str) -> bool:
    """Whether a block may end here: with its chapter, if there was enough to do, or where a long wait is better spent in practice."""
    return steps[-1].wait_s >= LONG_WAIT_S or (following != chapter and _worked_s(steps) >= LEAST_BLOCK_S)


def _worked_s(steps: Iterable[Step]) -> float:
    return sum(step.active_s for step in steps)


def _words(chapters: Iterable[str]) -> str:
    return join_words(dict.fromkeys(chapters))
