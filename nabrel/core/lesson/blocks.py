"""Blocks: where a plan may be cut, so that a part is demonstrated and then practised."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace

from nabrel.core.house import House
from nabrel.core.pace.tasks import work_of
from nabrel.core.plan.sequence import Sequence
from nabrel.core.plan.step import Step
from nabrel.core.terms.words import join_words

LEAST_BLOCK_S = 150
"""A block that is worked faster than this is taught together with the next."""
LONG_WAIT_S = 300
"""A wait so long ends a block: the room practises while the educator's own model waits."""


@dataclass(frozen=True, slots=True)
class Block:
    """Steps that are shown and practised together: their ids, what they are called, and the wait that the last of them wants."""

    steps: tuple[str, ...]
    words: str
    wait_s: float


def blocks_of(plan: Sequence, house: House) -> tuple[Block, ...]:
    """A plan in blocks: cut between chapters and at long waits, wherever no longest wait would run out while the next is shown."""
    groups: list[list[Step]] = []
    chapters: dict[str, str] = {}
    held = _held_together(plan, house)
    chapter = ""
    for step, own in zip(plan.steps, plan.chapters(), strict=True):
        chapters[step.id] = own
        fresh = not groups or (step.id not in held and _ends(groups[-1], chapter, own))
        if fresh:
            groups.append([])
            chapter = own
        groups[-1].append(step)
    if len(groups) > 1 and _worked_s(groups[-1]) < LEAST_BLOCK_S:
        last = groups.pop()
        groups[-1] += last
    return tuple(Block(tuple(s.id for s in own), _words(chapters[s.id] for s in own), own[-1].wait_s) for own in groups)


def part_of(plan: Sequence, block: Block) -> Sequence:
    """The plan of a block alone; moments that are fixed for the whole plan do not hold for it."""
    return replace(plan, steps=tuple(step for step in plan.steps if step.id in block.steps), timing=None)


def _ends(steps: list[Step], chapter: str, following: str) -> bool:
    """Whether a block may end here: with its chapter, if there was enough to do, or where a long wait is better spent in practice."""
    return steps[-1].wait_s >= LONG_WAIT_S or (following != chapter and _worked_s(steps) >= LEAST_BLOCK_S)


def _held_together(plan: Sequence, house: House) -> frozenset[str]:
    """Steps that must follow soon on one before them: nothing may be shown in between."""
    work = work_of(plan, house)
    order = {step.id: place for place, step in enumerate(plan.steps)}
    held: set[str] = set()
    for lag in work.lags:
        if lag.most is None:
            continue
        first, last = order[work.tasks[lag.before].step], order[work.tasks[lag.after].step]
        held |= {step.id for step in plan.steps[first + 1 : last + 1]}
    return frozenset(held)


def _worked_s(steps: Iterable[Step]) -> float:
    return sum(step.active_s for step in steps)


def _words(chapters: Iterable[str]) -> str:
    return join_words(dict.fromkeys(chapters))
