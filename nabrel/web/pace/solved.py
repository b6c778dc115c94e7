"""Timetables that were found are remembered: a revision never changes, so the same question has the same answer."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Hashable
from dataclasses import replace
from threading import Lock

from nabrel.core.house import House
from nabrel.core.pace.tasks import Work, work_of
from nabrel.core.pace.timetable import Timetable, timetable
from nabrel.core.plan.sequence import Sequence, Timing
from nabrel.core.terms.ids import Tool
from nabrel.formats.values import text_of

MOST_KEPT = 64
_found: OrderedDict[Hashable, Timetable] = OrderedDict()
_lock = Lock()


def solved(
    sequence_id: str,
    revision: int,
    plan: Sequence,
    house: House,
    *,
    pace: float = 1.0,
    hands: int = 1,
    spare: tuple[Tool, ...] = (),
    timing: Timing | None = None,
) -> tuple[Work, Timetable]:
    """The work of a revision and its shortest timetable, for these hands, tools and moments (the plan's own where none are given)."""
    wanted = plan if timing is None else replace(plan, timing=timing)
    work = work_of(wanted, house, pace=pace, hands=hands, spare=spare)
    moments = "" if wanted.timing is None else text_of(wanted.timing)
    key = (sequence_id, revision, pace, hands, tuple(sorted(spare)), moments, house)
    with _lock:
        if key in _found:
            _found.move_to_end(key)
            return work, _found[key]
    found = timetable(work)
    with _lock:
        _found[key] = found
        while len(_found) > MOST_KEPT:
            _found.popitem(last=False)
    return work, found
