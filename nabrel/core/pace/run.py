"""A base as it was really worked: what was done when, what it took, and how quick the hand was.

Seconds count from the start of the run by the clock on the wall; pauses are stretches in which nobody worked.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from math import exp, log, sqrt
from typing import Annotated, Literal

from annotated_types import Ge, Le, MaxLen

from nabrel.core.base.state import Course
from nabrel.core.errors import Refused
from nabrel.core.pace.tasks import LEAST_PACE, MOST_PACE, Side
from nabrel.core.plan.sequence import Sequence as Plan
from nabrel.core.plan.step import Step
from nabrel.core.shelf.tools import HANDS
from nabrel.core.terms.ids import StepKind, Tool
from nabrel.core.terms.limits import MOST_PORTIONS, MOST_STEPS, Ident, Sentence
from nabrel.core.terms.statistics import Z90
from nabrel.core.terms.steps import STEP_INFO
from nabrel.core.terms.zones import in_order

LONGEST_RUN_S = 24 * 3600
Second = Annotated[float, Ge(0), Le(LONGEST_RUN_S)]
State = Literal["done", "skipped", "again"]
SECOND_LOOK_S = (20 * 60, 30 * 60)
"""When powder has taken up oil and colours have settled: from and to, seconds after the last layer."""


@dataclass(frozen=True, slots=True)
class DoneTask:
    """One step, one portion or one side of it, as it was done, skipped or done once more."""

    step: Ident
    from_s: Second
    to_s: Second
    state: State = "done"
    portion: Annotated[int, Ge(0), Le(MOST_PORTIONS)] | None = None
    side: Side = ""


@dataclass(frozen=True, slots=True)
class Pause:
    """A stretch in which nobody worked."""

    from_s: Second
    to_s: Second


@dataclass(frozen=True, slots=True)
class RunNote:
    """Something said during the run."""

    at_s: Second
    text: Sentence


@dataclass(frozen=True, slots=True)
class Log:
    """What was done when."""

    done: Annotated[tuple[DoneTask, ...], MaxLen(4 * MOST_STEPS)] = ()
    pauses: Annotated[tuple[Pause, ...], MaxLen(500)] = ()
    notes: Annotated[tuple[RunNote, ...], MaxLen(500)] = ()

    @property
    def length_s(self) -> float:
        """From the start to the end of the last thing done."""
        return max((each.to_s for each in self.done), default=0.0)


@dataclass(frozen=True, slots=True)
class StepTaken:
    """One step against its plan: planned and really taken seconds of work, and whether it was done, skipped or done again."""

    step: str
    planned_s: float
    taken_s: float
    state: State


@dataclass(frozen=True, slots=True)
class TooLate:
    """A step that should have followed another by now, and how much too late it is."""

    step: str
    after: str
    late_s: float


@dataclass(frozen=True, slots=True)
class HandPace:
    """How many times a practised hand's seconds a hand takes, with the interval that holds it in nine cases of ten."""

    pace: float
    low: float
    high: float
    steps: int
    runs: int


def checked_log(plan: Plan, log_of_run: Log) -> Log:
    """A log that can be, for this plan. Refuses steps that are not of it, times that run backwards and pauses that overlap."""
    ids = {step.id: step for step in plan.steps}
    for place, each in enumerate(log_of_run.done):
        step = ids.get(each.step)
        if step is None:
            raise Refused(f"done[{place}].step", each.step, "a step of the plan as worked")
        if each.portion is not None and each.portion >= len(step.portions):
            raise Refused(f"done[{place}].portion", each.portion, f"a portion of it, 0 to {len(step.portions) - 1}")
        if each.to_s < each.from_s:
            raise Refused(f"done[{place}].to_s", each.to_s, f"no earlier than it began, {each.from_s:g}")
    for place, pause in enumerate(log_of_run.pauses):
        if pause.to_s < pause.from_s:
            raise Refused(f"pauses[{place}].to_s", pause.to_s, f"no earlier than it began, {pause.from_s:g}")
        if place and pause.from_s < log_of_run.pauses[place - 1].to_s:
            raise Refused(f"pauses[{place}].from_s", pause.from_s, "after the pause before it has ended")
    return log_of_run


def paused_s(log_of_run: Log, from_s: float, to_s: float) -> float:
    """How much of a stretch was a pause."""
    return sum(max(0.0, min(to_s, each.to_s) - max(from_s, each.from_s)) for each in log_of_run.pauses)


def steps_taken(plan: Plan, log_of_run: Log, pace: float) -> tuple[StepTaken, ...]:
    """Every step of the plan that was come to, in its order: seconds as planned at this pace, and as worked, without pauses."""
    found = []
    for step in plan.steps:
        own = [each for each in log_of_run.done if each.step == step.id]
        if not own:
            continue
        worked = [each for each in own if each.state != "skipped"]
        taken = sum(each.to_s - each.from_s - paused_s(log_of_run, each.from_s, each.to_s) for each in worked)
        states: set[State] = {each.state for each in own}
        state: State = "again" if "again" in states else "done" if "done" in states else "skipped"
        found.append(StepTaken(step.id, step.active_s * pace * times_done(own), taken, state))
    return tuple(found)


def times_done(entries: Sequence[DoneTask]) -> int:
    """How often a step was done, whatever the portions and sides it was done in: once more for each time it was done again."""
    worked = [each.state for each in entries if each.state != "skipped"]
    return max(bool(worked), ("done" in worked) + worked.count("again"))


def used(course: Course, log_of_run: Log) -> dict[str, tuple[float, str]]:
    """Amount and unit (``ml`` or ``g``) by item that the run took from the packs: nothing for what was skipped, twice for twice.

    A step that was never come to took nothing either.
    """
    found: dict[str, tuple[float, str]] = {}
    for done in course.done:
        count = times_done([each for each in log_of_run.done if each.step == done.step.id])
        if done.take is None or done.mixed is None or not count:
            continue
        for item, share in done.mixed.items:
            before = found.get(item.id, (0.0, done.take.unit))[0]
            found[item.id] = (before + count * done.take.amount * share, done.take.unit)
    return found


def tools_used(plan: Plan, log_of_run: Log) -> tuple[Tool, ...]:
    """The tools that the run used, to be cleaned or thrown away; hands are washed."""
    worked = {each.step for each in log_of_run.done if each.state != "skipped"}
    named = (tool for step in plan.steps if step.id in worked for tool in step.tools)
    return tuple(tool for tool in dict.fromkeys(named) if tool not in HANDS)


def too_late(plan: Plan, log_of_run: Log, now_s: float) -> tuple[TooLate, ...]:
    """What should have followed by now: on a zone, the next layer after one with a longest wait that has run out.

    Time goes on in a pause: a film dries whether anybody works or not.
    """
    last: dict[str, float] = {}
    for each in log_of_run.done:
        last[each.step] = max(last.get(each.step, 0.0), each.to_s)
    found: dict[tuple[str, str], TooLate] = {}
    for place, step in enumerate(plan.steps):
        if step.wait_at_most_s is None or step.id not in last:
            continue
        for follower in _next_on(plan.steps[place + 1 :], step):
            late = now_s - last[step.id] - step.wait_at_most_s
            if follower.id not in last and late > 0:
                found.setdefault((follower.id, step.id), TooLate(follower.id, step.id, late))
    return tuple(found.values())


def _next_on(later: Sequence[Step], step: Step) -> Iterable[Step]:
    """The steps that come next on each of a step's zones."""
    zones = set(step.zones)
    for other in later:
        met = zones & set(other.zones)
        if met and STEP_INFO[other.kind].nature != "feature":
            yield other
            zones -= met


def resting(plan: Plan, log_of_run: Log, now_s: float) -> dict[str, float]:
    """How long, by now, each layer has lain that nothing has come over yet; seconds by step."""
    last: dict[str, float] = {}
    for each in log_of_run.done:
        if each.state != "skipped":
            last[each.step] = max(last.get(each.step, 0.0), each.to_s)
    top: dict[str, str] = {}
    layers = (step for step in plan.steps if step.id in last and (step.lays or step.wait_s))
    for step in sorted(layers, key=lambda layer: last[layer.id]):
        top.update(dict.fromkeys(in_order(step.zones), step.id))
    return {step: now_s - last[step] for step in dict.fromkeys(top.values())}


def hand_pace(runs: Iterable[tuple[Plan, Log]]) -> HandPace | None:
    """The pace of the hand that worked these runs: the geometric mean of taken over planned, weighed by nothing, step by step.

    A step counts where it was done once and took between a fifth and five times its plan: what lies further off was an
    interruption. None with fewer than ``LEAST_STEPS``. The interval is that of a mean of logarithms with Student's t.
    """
    ratios: list[float] = []
    counted = 0
    for plan, log_of_run in runs:
        own = [
            log(each.taken_s / each.planned_s)
            for each in steps_taken(plan, log_of_run, 1.0)
            if each.state == "done" and each.planned_s > 0 and LEAST_PACE <= each.taken_s / each.planned_s <= MOST_PACE
        ]
        counted += bool(own)
        ratios += own
    count = len(ratios)
    if count < LEAST_STEPS:
        return None
    mean = sum(ratios) / count
    spread = sqrt(sum((each - mean) ** 2 for each in ratios) / (count - 1))
    half = _t90(count - 1) * spread / sqrt(count)
    return HandPace(exp(mean), exp(mean - half), exp(mean + half), count, counted)


LEAST_STEPS = 8
"""Fewer steps than these say nothing of a hand."""


def _t90(freedom: int) -> float:
    """Student's t that bounds the middle 90 %, by its expansion in 1/freedom about the normal's (Abramowitz and Stegun 26.7.5)."""
    first = (Z90**3 + Z90) / 4
    second = (5 * Z90**5 + 16 * Z90**3 + 3 * Z90) / 96
    third = (3 * Z90**7 + 19 * Z90**5 + 17 * Z90**3 - 15 * Z90) / 384
    return Z90 + first / freedom + second / freedom**2 + third / freedom**3


def quicker(now: tuple[Plan, Log], before: tuple[Plan, Log]) -> tuple[tuple[StepKind, float], ...]:
    """By how many seconds each kind of work was quicker (above 0) or slower than in an earlier run, the largest first.

    Only kinds that were worked in both.
    """
    sums: list[dict[StepKind, float]] = []
    for plan, log_of_run in (now, before):
        kinds = {step.id: step.kind for step in plan.steps}
        own: dict[StepKind, float] = {}
        for each in steps_taken(plan, log_of_run, 1.0):
            if each.state != "skipped":
                own[kinds[each.step]] = own.get(kinds[each.step], 0.0) + each.taken_s
        sums.append(own)
    both = [(kind, sums[1][kind] - sums[0][kind]) for kind in sums[0] if kind in sums[1]]
    return tuple(sorted(both, key=lambda row: -abs(row[1])))
