"""An independent reading of what a timetable must keep, straight from the plan; and a search by hand for small ones."""

from __future__ import annotations

from itertools import pairwise, permutations

from nabrel.core.terms.steps import STEP_INFO


def zones_of(step, row):
    """The zones that a row of a timetable works."""
    if row.what == "then":
        return set(step.worked_in)
    if row.what == "clean":
        return set()
    return set(step.portions[row.portion or 0].zones)


def broken(plan, found, *, hands=1, pace=1.0):
    """What a timetable breaks, in words; nothing where it keeps the plan."""
    rows = [row for row in found.tasks if row.end_s > row.start_s]
    wrong = []
    for step in plan.steps:
        own = [row for row in rows if row.step == step.id and row.what != "clean"]
        if len(own) < len(step.portions) + (step.then is not None):
            wrong.append(f"{step.id} lacks a task")
        worked = sum(row.end_s - row.start_s for row in own)
        if abs(worked - step.active_s * pace) > len(own):
            wrong.append(f"{step.id} takes {worked} s")
    times = sorted({t for row in rows for t in (row.start_s, row.end_s)})
    for at in times:
        now = [row for row in rows if row.start_s <= at < row.end_s]
        if len(now) > hands:
            wrong.append(f"{len(now)} at once at {at}")
        tools = [row.of for row in now if row.tool not in (None, "fingers")]
        if len(tools) != len(set(tools)):
            wrong.append(f"one tool twice at {at}")
    zones = {zone for step in plan.steps for zone in step.zones}
    for zone in zones:
        worked = [s for s in plan.steps if zone in s.zones]
        for place, step in enumerate(worked):
            end = max((r.end_s for r in rows if r.step == step.id and zone in zones_of(step, r)), default=None)
            if end is None:
                continue
            for number, later in enumerate(worked[place + 1 :]):
                start = min(
                    (r.start_s for r in rows if r.step == later.id and zone in zones_of(later, r)), default=None
                )
                if start is None:
                    continue
                feature = STEP_INFO[later.kind].nature == "feature"
                if start < end:
                    wrong.append(f"{later.id} before {step.id} on {zone}")
                if number == 0 and not feature and start < end + step.wait_s:
                    wrong.append(f"{step.id} rests {start - end} s on {zone}")
                if number == 0 and step.wait_at_most_s is not None and start > end + step.wait_at_most_s:
                    wrong.append(f"{later.id} {start - end} s after {step.id} on {zone}")
    for step in plan.steps:
        own = [r for r in rows if r.step == step.id and r.what != "clean"]
        if any(one.end_s > other.start_s for one, other in pairwise(own)):
            wrong.append(f"portions of {step.id} out of order")
    return wrong


def shortest_by_hand(work):
    """The least length over every order of the steps, each worked as early as the rules allow; None where none is allowed."""
    blocks = work.blocks
    into = {}
    for lag in work.lags:
        into.setdefault(lag.after, []).append(lag)
    best = None
    for order in permutations(range(len(blocks))):
        best = _timed(work, [blocks[place] for place in order], into, best)
    return best


def fewest_changes_by_hand(work, length):
    """The fewest changes of tool between steps over every order that is worked in no more than this length."""
    blocks = work.blocks
    into = {}
    for lag in work.lags:
        into.setdefault(lag.after, []).append(lag)
    fits = (
        o for o in permutations(range(len(blocks))) if _timed(work, [blocks[p] for p in o], into, length + 1) <= length
    )
    return min(changes([work.tasks[blocks[place][0]].tool for place in order]) for order in fits)


def changes(tools):
    """How often the hand takes another tool than the one before."""
    return sum(one != other for one, other in pairwise(tools))


def _timed(work, order, into, best):
    ends, clock = {}, 0
    for block in order:
        for index in block:
            at = clock
            for lag in into.get(index, ()):
                if lag.before not in ends:
                    return best
                if lag.least is not None:
                    at = max(at, ends[lag.before] + lag.least)
            for lag in into.get(index, ()):
                if lag.most is not None and at > ends[lag.before] + lag.most:
                    return best
            ends[index] = clock = at + work.tasks[index].seconds
            if best is not None and clock >= best:
                return best
    return clock
