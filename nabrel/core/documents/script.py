"""A plan as it is worked to the clock: its big steps in the order of the timetable, each with what binds it to others."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from nabrel.core.base.state import WorkedStep
from nabrel.core.documents.phrases import CUE_WORDS, told_portion, where_words
from nabrel.core.judge.evaluate import Evaluation
from nabrel.core.pace.tasks import Side, Work
from nabrel.core.pace.timetable import Timetable
from nabrel.core.plan.step import Step
from nabrel.core.terms.hands import TOOL_INFO, hand_words
from nabrel.core.terms.ids import Zone
from nabrel.core.terms.steps import LAYER_KINDS, STEP_INFO
from nabrel.core.terms.words import join_words, sentence
from nabrel.core.terms.zones import in_order

LAID_OUT = LAYER_KINDS | {"prime"}
"""What is mixed or laid out before it is wanted: creams and liquids that wait on the back of the hand."""
SIDE_WORDS: dict[Side, str] = {"": "", "first": "first side", "second": "second side"}


@dataclass(frozen=True, slots=True)
class Hold:
    """Another block that this one is bound to: at least, or at most, so many seconds after its end, and why."""

    block: str
    seconds: int
    says: str


@dataclass(frozen=True, slots=True)
class ScriptBlock:
    """One big step, on one side where sides are worked apart, in the words that are read across a room.

    ``seconds`` of work are at the pace of the timetable; ``after`` may be waited for, ``by`` is the latest. ``make_ready`` is
    what can be mixed or laid out for it in a wait before: no hand on the face, so it disturbs nothing.
    """

    id: str
    step: str
    side: Side
    number: int
    title: str
    take: str
    make_ready: str
    products: tuple[str, ...]
    where: str
    hands: tuple[str, ...]
    cues: tuple[str, ...]
    check: str
    why: str
    zones: tuple[Zone, ...]
    clean: tuple[str, ...]
    seconds: int
    start_s: int
    feature: bool
    after: tuple[Hold, ...]
    by: tuple[Hold, ...]


def script(evaluation: Evaluation, work: Work, found: Timetable) -> tuple[ScriptBlock, ...]:
    """The blocks of a plan in the order in which its timetable begins them. What was done already is not among them."""
    steps = {step.id: (number, step) for number, step in enumerate(evaluation.sequence.steps, start=1)}
    done = {each.step.id: each for each in evaluation.course.done}
    begins = {each.task: each.start_s for each in found.tasks if each.task is not None}
    cleaned = [each for each in found.tasks if each.what == "clean"]
    blocks = []
    for tasks in work.blocks:
        first = work.tasks[tasks[0]]
        number, step = steps[first.step]
        start = min(begins[index] for index in tasks)
        zones = in_order(zone for index in tasks for zone in work.tasks[index].zones)
        whole = first.side == ""
        blocks.append(
            ScriptBlock(
                id=_name(first.step, first.side),
                step=first.step,
                side=first.side,
                number=number,
                title=STEP_INFO[step.kind].words,
                take=_take(done[step.id]),
                make_ready=_make_ready(done[step.id]),
                products=tuple(item.name for item, _ in mixed.items) if (mixed := done[step.id].mixed) else (),
                where=where_words(zones) if zones else "",
                hands=tuple(_hands(evaluation, step)) if whole else (SIDE_WORDS[first.side], *_hands(evaluation, step)),
                cues=tuple(CUE_WORDS[cue] for cue in step.cue),
                check=step.check,
                why=step.why[0],
                zones=zones,
                clean=tuple(
                    f"Clean the {TOOL_INFO[each.tool].words}."
                    for each in cleaned
                    if each.tool is not None and each.step == step.id and each.end_s <= start
                ),
                seconds=sum(work.tasks[index].seconds for index in tasks),
                start_s=start,
                feature=STEP_INFO[step.kind].nature == "feature",
                after=tuple(_bound(work, tasks, latest=False)),
                by=tuple(_bound(work, tasks, latest=True)),
            )
        )
    return tuple(sorted(blocks, key=lambda block: block.start_s))


def _name(step: str, side: Side) -> str:
    return f"{step}:{side}" if side else step


def _take(done: WorkedStep) -> str:
    return done.take.words if done.take is not None and done.mixed is not None else ""


def _make_ready(done: WorkedStep) -> str:
    """What is mixed or laid out beforehand: creams and liquids, which wait on the back of the hand; never what a pan gives."""
    wet = done.take is not None and done.take.unit == "ml" and bool(done.take.amount)
    if done.mixed is None or done.take is None or not wet or done.step.kind not in LAID_OUT:
        return ""
    items = [item.name for item, _ in done.mixed.items]
    return f"{'Mix' if len(items) > 1 else 'Lay out'} {join_words(items)}: {done.take.words}."


def _hands(evaluation: Evaluation, step: Step) -> Iterator[str]:
    """What the hand does, portion by portion, then with the second tool."""
    before = None
    for portion in step.portions:
        yield from told_portion(evaluation.house, step, portion, before)
        before = portion
    if step.then is not None:
        where = f" {where_words(step.then.zones)}" if step.then.zones else ""
        yield f"{sentence('then ' + hand_words(step.then.tool, step.then.motion))}{where}."


def _bound(work: Work, tasks: list[int], *, latest: bool) -> Iterator[Hold]:
    """The blocks that bind these tasks, the strictest of each: by the least wait after them, or by the longest."""
    strictest: dict[str, Hold] = {}
    for lag in work.lags:
        seconds = lag.most if latest else lag.least
        if lag.after not in tasks or lag.before in tasks or seconds is None:
            continue
        before = work.tasks[lag.before]
        if before.done_at is not None:
            continue
        name = _name(before.step, before.side)
        known = strictest.get(name)
        if known is None or (seconds < known.seconds if latest else seconds > known.seconds):
            strictest[name] = Hold(name, seconds, lag.reason.says)
    yield from strictest.values()
