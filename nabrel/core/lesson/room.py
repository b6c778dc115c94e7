"""A class as it is announced: who comes, how many stations and educators there are, what is shared, and by when it must end."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date
from typing import Annotated

from annotated_types import Ge, Le, MaxLen, MinLen

from nabrel.core.case.case import Case
from nabrel.core.errors import Refused
from nabrel.core.pace.tasks import Pace, seconds_of
from nabrel.core.plan.sequence import Sequence
from nabrel.core.terms.limits import Ident, Text, one_line

MOST_STUDENTS, MOST_STATIONS, MOST_EDUCATORS, MOST_SHARED = 60, 60, 12, 20
A_DAY_S = 24 * 3600
NO_ITEM = ("reader", "sink")
"""What may be shared beside items of the kit."""


@dataclass(frozen=True, slots=True)
class Student:
    """One student: a nickname, how many times a practised hand's seconds they take, and their face where it is known."""

    name: Annotated[str, one_line(60), MinLen(1)]
    pace: Pace = 2.0
    case: Case | None = None


@dataclass(frozen=True, slots=True)
class Shared:
    """Something there is less of than students: an item of the kit, the ``reader`` or the ``sink``; each turn takes so long."""

    item: Ident
    count: Annotated[int, Ge(1), Le(MOST_STUDENTS)] = 1
    use_s: Annotated[float, Ge(0), Le(1800)] = 60.0


@dataclass(frozen=True)
class Room:
    """A class: what is taught, when, to whom, and with what.

    ``check_s`` is one educator's look at one student after each block. ``break_after_min`` minutes of work bring a break.
    ``spare`` is the share of product weighed out beyond what is taken. ``pairs`` practise on each other at one station, one
    after the other. ``until`` is the time of day when the room must be left.
    """

    title: Text
    date: date
    start: str
    sequence: Sequence
    students: Annotated[tuple[Student, ...], MinLen(1), MaxLen(MOST_STUDENTS)]
    stations: Annotated[int, Ge(1), Le(MOST_STATIONS)]
    educators: Annotated[int, Ge(1), Le(MOST_EDUCATORS)] = 1
    shared: Annotated[tuple[Shared, ...], MaxLen(MOST_SHARED)] = ()
    check_s: Annotated[float, Ge(0), Le(1800)] = 45.0
    break_after_min: Annotated[float, Ge(5), Le(600)] = 60.0
    spare: Annotated[float, Ge(0), Le(2)] = 0.15
    pairs: Annotated[tuple[tuple[str, str], ...], MaxLen(MOST_STUDENTS)] = ()
    until: str | None = None

    @property
    def length_s(self) -> int | None:
        """Seconds from the start until the room must be left; past midnight counts on. None where nothing is said."""
        if self.until is None:
            return None
        return (seconds_of(self.until, "until") - seconds_of(self.start, "start")) % A_DAY_S or A_DAY_S


def checked_room(room: Room) -> Room:
    """A class that can be held. Refuses names twice, pairs of people who are not there, and shared things that nobody knows."""
    seconds_of(room.start, "start")
    if room.until is not None:
        seconds_of(room.until, "until")
    names = [student.name for student in room.students]
    for name, count in Counter(names).items():
        if count > 1:
            raise Refused("students", name, "each nickname once")
    for place, one in enumerate(_paired(room)):
        if one not in names:
            raise Refused(f"pairs[{place // 2}]", one, "the nickname of a student of this class")
    for name, count in Counter(_paired(room)).items():
        if count > 1:
            raise Refused("pairs", name, "each student in one pair, with somebody else")
    known = {*NO_ITEM, *(item.id for item in room.sequence.case.kit)}
    for place, each in enumerate(room.shared):
        if each.item not in known:
            raise Refused(f"shared[{place}].item", each.item, "an item of the plan's kit, reader or sink")
        if each.item in [other.item for other in room.shared[:place]]:
            raise Refused(f"shared[{place}].item", each.item, "each shared thing once, with its count")
    return room


def _paired(room: Room) -> Iterator[str]:
    for pair in room.pairs:
        yield from pair
