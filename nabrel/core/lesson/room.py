"""A class as it is announced: who comes, how many stations and educators there are, what is shared, and by when it must end."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from datetime import date
from typing import Annotated, Literal

from annotated_types import Ge, Le, MaxLen, MinLen
from pydantic import Strict, StringConstraints

from nabrel.core.ask.mistakes import MISTAKES, mistake_of
from nabrel.core.case.case import Case
from nabrel.core.errors import Refused
from nabrel.core.lesson.clock import checked_start, hours_s
from nabrel.core.pace.tasks import Pace
from nabrel.core.plan.sequence import Sequence
from nabrel.core.terms.ids import Tool
from nabrel.core.terms.limits import LIMITS, MOST_TOOLS, Ident, Sentence, one_line

MOST_STUDENTS, MOST_SHARED, MOST_BLOCKS, MOST_QUESTIONS = 60, 20, 30, 300
LONGEST_CLASS_S = 24 * 3600
NO_ITEM = ("reader", "sink")
"""What may be shared beside items of the kit."""
Name = Annotated[str, one_line(60, least=1)]
Stations = Annotated[int, Ge(int(LIMITS.stations.low)), Le(int(LIMITS.stations.high))]
Educators = Annotated[int, Ge(int(LIMITS.educators.low)), Le(int(LIMITS.educators.high))]
TurnSeconds = Annotated[float, Ge(LIMITS.check_s.low), Le(LIMITS.check_s.high)]
BreakAfter = Annotated[float, Ge(LIMITS.break_after_min.low), Le(LIMITS.break_after_min.high)]
Spare = Annotated[float, Ge(LIMITS.spare.low), Le(LIMITS.spare.high)]
ZoneName = Annotated[str, one_line(60)]
TimeOfDay = Annotated[str, StringConstraints(pattern=r"^([01]\d|2[0-3]):[0-5]\d$")]
Second = Annotated[float, Ge(0), Le(LONGEST_CLASS_S)]
Pins = Annotated[Mapping[Ident, Second], MaxLen(MOST_BLOCKS)]
Pairs = Annotated[tuple[tuple[Name, Name], ...], MaxLen(MOST_STUDENTS)]
Cuts = Annotated[tuple[Ident, ...], MaxLen(MOST_BLOCKS)]
Half = Literal["whole", "one_half", "mistake"]
"""What is worked: the whole face; one half, the other shows what was there; or the right way beside a named mistake."""
Phase = Literal["demonstrate", "practise", "break"]


@dataclass(frozen=True, slots=True)
class Student:
    """One student: a nickname, how many times a practised hand's seconds they take, and their face where it is known.

    A kit in ``case`` is what the student brings; without one they work from the class's. ``tools`` are the tools they have,
    None where they have what is demonstrated.
    """

    name: Name
    pace: Pace = 2.0
    case: Case | None = None
    tools: Annotated[tuple[Tool, ...], MaxLen(MOST_TOOLS)] | None = None


@dataclass(frozen=True, slots=True)
class Shared:
    """Something there is less of than students: an item of the kit, the ``reader`` or the ``sink``; each turn takes so long."""

    item: Ident
    count: Annotated[int, Ge(1), Le(MOST_STUDENTS)] = 1
    use_s: TurnSeconds = 60.0


@dataclass(frozen=True, slots=True)
class PhaseDone:
    """One part of the lesson that is over: which, of the block that begins with ``step``, and from when to when."""

    phase: Phase
    step: Ident
    from_s: Second
    to_s: Second
    skipped: bool = False


@dataclass(frozen=True, slots=True)
class CheckDone:
    """An educator's look at a student after the block that begins with ``step``; ``again`` asks for it to be practised again."""

    student: Name
    step: Ident
    at_s: Second | None = None
    again: bool = False


@dataclass(frozen=True, slots=True)
class AskedQuestion:
    """A question that came up, kept for the recap, at which step."""

    at_s: Second
    text: Annotated[Sentence, MinLen(1)]
    step: Ident


@dataclass(frozen=True, slots=True)
class ClassLog:
    """How a class went: when it began (a moment with its offset), what is over, who was checked, what was asked, who did not come."""

    begun: str | None = None
    done: Annotated[tuple[PhaseDone, ...], MaxLen(3 * MOST_BLOCKS)] = ()
    checks: Annotated[tuple[CheckDone, ...], MaxLen(MOST_BLOCKS * MOST_STUDENTS)] = ()
    questions: Annotated[tuple[AskedQuestion, ...], MaxLen(MOST_QUESTIONS)] = ()
    absent: Annotated[tuple[Name, ...], MaxLen(MOST_STUDENTS)] = ()


@dataclass(frozen=True, kw_only=True)
class Announced:
    """What is announced of a class beside the plan and the students.

    ``check_s`` is one educator's look at one student after each block. ``break_after_min`` minutes of work bring a break.
    ``spare`` is the share of product weighed out beyond what is taken. ``pairs`` practise on each other at one station, one
    after the other; everybody else on themselves. ``until`` is the time of day when the room must be left, ``zone`` a time
    zone (none: wherever it is read). ``cuts`` are the steps that begin a block, None where they are proposed; ``pins`` the
    seconds from the start at which blocks begin. ``mistake`` names what is shown beside the right way.
    """

    title: Annotated[str, one_line(120, least=1)]
    date: Annotated[date, Strict(False)]
    start: TimeOfDay
    stations: Stations
    educators: Educators = 1
    shared: Annotated[tuple[Shared, ...], MaxLen(MOST_SHARED)] = ()
    check_s: TurnSeconds = 45.0
    break_after_min: BreakAfter = 60.0
    spare: Spare = 0.15
    pairs: Pairs = ()
    until: TimeOfDay | None = None
    zone: ZoneName | None = None
    cuts: Cuts | None = None
    pins: Pins = field(default_factory=dict)
    half: Half = "whole"
    mistake: Ident | None = None


@dataclass(frozen=True, kw_only=True)
class Room(Announced):
    """A class: what is taught, when, to whom, and with what; whether it was held, and how it went."""

    sequence: Sequence
    students: Annotated[tuple[Student, ...], MinLen(1), MaxLen(MOST_STUDENTS)]
    held: bool = False
    log: ClassLog = field(default_factory=ClassLog)

    @property
    def length_s(self) -> int | None:
        """Seconds from the start until the room must be left; past midnight counts on. None where nothing is said."""
        return None if self.until is None else hours_s(self.date, self.start, self.until, self.zone)

    def student(self, name: str) -> Student | None:
        """The student of this nickname, or None."""
        return next((each for each in self.students if each.name == name), None)


def checked_room(room: Room) -> Room:
    """A class that can be held.

    Refuses names twice, pairs of people who are not there, shared things that nobody knows, and a start that no clock shows.
    """
    checked_start(room.date, room.start, room.zone)
    assert room.length_s is None or room.length_s > 0
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
    if room.mistake is not None:
        mistake_of(room.mistake)
    elif room.half == "mistake":
        raise Refused("mistake", None, "the mistake that is shown: one of " + ", ".join(MISTAKES))
    _check_log(room, names)
    return room


def _check_log(room: Room, names: list[str]) -> None:
    steps = {step.id for step in room.sequence.steps}
    for place, check in enumerate(room.log.checks):
        if check.student not in names:
            raise Refused(f"log.checks[{place}].student", check.student, "the nickname of a student of this class")
        if check.step not in steps:
            raise Refused(f"log.checks[{place}].step", check.step, "a step of the plan that is taught")
    for place, over in enumerate(room.log.done):
        if over.step not in steps:
            raise Refused(f"log.done[{place}].step", over.step, "a step of the plan that is taught")
        if over.to_s < over.from_s:
            raise Refused(f"log.done[{place}].to_s", over.to_s, f"no earlier than it began, {over.from_s:g}")
    for place, name in enumerate(room.log.absent):
        if name not in names:
            raise Refused(f"log.absent[{place}]", name, "the nickname of a student of this class")


def _paired(room: Room) -> Iterator[str]:
    for pair in room.pairs:
        yield from pair
