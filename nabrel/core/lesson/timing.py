"""A class in time: each block shown, then practised in the shortest time, with breaks and moments that are fixed."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal

from nabrel.core.errors import Refused
from nabrel.core.house import House
from nabrel.core.lesson.blocks import LessonBlock, blocks_of, part_of, parts_like
from nabrel.core.lesson.clock import moment_at
from nabrel.core.lesson.faces import Face
from nabrel.core.lesson.room import Phase, Room, Student
from nabrel.core.lesson.stations import Practised, StationTask, StationTurn, Turn, practised
from nabrel.core.pace.tasks import work_of
from nabrel.core.pace.timetable import as_listed_s
from nabrel.core.plan.sequence import Sequence as Plan
from nabrel.core.terms.limits import Ident

Doing = Literal["watch", "turn", "practise", "wait", "check", "observe", "break"]
BREAK_S, LEAST_BREAK_S = 600, 300
MINUTE = 60


@dataclass(frozen=True, slots=True)
class Phased:
    """One part of the lesson: what everybody is in, from when to when, and which steps it is about."""

    phase: Phase
    start_s: int
    end_s: int
    steps: tuple[Ident, ...]
    words: str


@dataclass(frozen=True, slots=True)
class Doings:
    """One thing a student does: from when to when, at which station (None while watching), of which block, with which educator.

    ``whom`` is who is watched by a student who observes.
    """

    doing: Doing
    start_s: int
    end_s: int
    station: int | None = None
    block: int | None = None
    item: str = ""
    educator: int | None = None
    whom: str = ""


@dataclass(frozen=True)
class LessonPart:
    """One block with what it takes: the seconds it is shown, who practises what, and in which shortest order."""

    block: LessonBlock
    shown_s: int
    practices: tuple[StationTask, ...]
    solved: Practised

    @property
    def by_name(self) -> Mapping[str, StationTurn]:
        """Where and when everybody practises, by nickname."""
        return {placed.name: placed for placed in self.solved.placed}


@dataclass(frozen=True)
class Timed:
    """The parts in time, and what every student does."""

    parts: tuple[LessonPart, ...]
    phases: tuple[Phased, ...]
    students: Mapping[str, tuple[Doings, ...]]

    @property
    def proven(self) -> bool:
        """Whether every block of practice is the shortest there is."""
        return all(part.solved.proven for part in self.parts)

    @property
    def length_s(self) -> int:
        """Seconds from the start to the end of the last part."""
        return max((phase.end_s for phase in self.phases), default=0)


def parts_of(room: Room, faces: Mapping[str, Face], house: House, *, search: bool = True) -> tuple[LessonPart, ...]:
    """Every block shown and practised, each solved by itself. Who is absent is left out."""
    taught = room.sequence
    blocks = blocks_of(taught, house, room.cuts)
    present = [student for student in room.students if student.name not in room.log.absent]
    here = {student.name for student in present}
    pairs = tuple(pair for pair in room.pairs if here.issuperset(pair))
    counts = {each.item: each.count for each in room.shared}
    cut: dict[int, tuple[Plan, ...]] = {}
    seconds: dict[tuple[int, int, float], int] = {}
    found = []
    for number, block in enumerate(blocks):
        practices = []
        for student in present:
            plan = faces[student.name].plan
            if id(plan) not in cut:
                cut[id(plan)] = parts_like(plan, taught, blocks)
            part = cut[id(plan)][number]
            if not part.steps:
                continue
            key = (id(plan), number, student.pace)
            if key not in seconds:
                seconds[key] = max(1, as_listed_s(work_of(part, house, pace=student.pace)))
            practices.append(_practice(room, student, part, seconds[key], first=number == 0))
        solved = practised(practices, room.stations, room.educators, counts, pairs, search=search)
        shown = as_listed_s(work_of(part_of(taught, block), house))
        found.append(LessonPart(block, shown, tuple(practices), solved))
    return tuple(found)


def timed(room: Room, faces: Mapping[str, Face], house: House, *, search: bool = True) -> Timed:
    """The lesson in time. Refuses a fixed moment that comes before what must be done by then."""
    parts = parts_of(room, faces, house, search=search)
    known = {part.block.id for part in parts}
    for step in room.pins:
        if step not in known:
            raise Refused(f"pins.{step}", step, "the first step of a block: " + ", ".join(sorted(known)))
    return placed_in_time(room, faces, parts)


def placed_in_time(room: Room, faces: Mapping[str, Face], parts: Sequence[LessonPart]) -> Timed:
    """These parts one after the other, with breaks, waits and fixed moments between them."""
    phases: list[Phased] = []
    doings: dict[str, list[Doings]] = {student.name: [] for student in room.students}
    clock, since_break, wait_until = 0, 0, 0
    for number, part in enumerate(parts):
        block = part.block
        pinned = room.pins.get(block.id)
        # A wait that is left over once the block was shown is the break; else one comes before it when it is due.
        in_wait = wait_until - clock - part.shown_s >= LEAST_BREAK_S
        due = since_break + part.shown_s + part.solved.length_s > room.break_after_min * MINUTE
        if phases and due and not in_wait:
            phases.append(Phased("break", clock, clock + BREAK_S, (block.id,), ""))
            _all(doings, Doings("break", clock, clock + BREAK_S))
            clock, since_break = clock + BREAK_S, 0
        if pinned is not None:
            if pinned < clock:
                earliest = f"{moment_at(room.date, room.start, room.zone, clock):%H:%M}"
                raise Refused(
                    f"pins.{block.id}", pinned, f"{clock} s or more: what comes before takes until {earliest}"
                )
            clock = round(pinned)
        phases.append(Phased("demonstrate", clock, clock + part.shown_s, block.steps, block.words))
        _all(doings, Doings("watch", clock, clock + part.shown_s, block=number))
        # Faces from the block before must have waited by the time hands go on.
        begin = max(clock + part.shown_s, wait_until)
        if begin - clock - part.shown_s >= LEAST_BREAK_S and (not phases[:-1] or phases[-2].phase != "break"):
            phases.append(Phased("break", clock + part.shown_s, begin, (block.id,), ""))
            _all(doings, Doings("break", clock + part.shown_s, begin))
            since_break, clock = 0, begin
        end = begin + part.solved.length_s
        phases.append(Phased("practise", begin, end, block.steps, block.words))
        practices = {each.name: each for each in part.practices}
        for name, own in doings.items():
            placed = part.by_name.get(name)
            if placed is not None:
                own.extend(_doings(placed, practices[name], begin, end, number))
            elif faces[name].of is None:
                own.append(Doings("observe", begin, end, block=number, whom=faces[name].observes))
            elif end > begin:
                own.append(Doings("watch", begin, end, block=number))
        since_break += end - clock
        clock, wait_until = end, end + round(block.wait_s)
    return Timed(tuple(parts), tuple(phases), {name: tuple(own) for name, own in doings.items()})


def _all(doings: Mapping[str, list[Doings]], what: Doings) -> None:
    for own in doings.values():
        own.append(what)


def _doings(placed: StationTurn, practice: StationTask, begin: int, end: int, block: int) -> Iterable[Doings]:
    """What one student does in a block, without a gap: watching, then at the station turns, work and the check, or waiting for them."""
    station = placed.station
    busy = [
        *(
            Doings("turn", start, start + turn.seconds, station, block, turn.item)
            for turn, start in zip(practice.turns, placed.turns_s, strict=True)
        ),
        Doings("practise", placed.work_s, placed.work_s + practice.work_s, station, block),
        Doings("check", placed.check_s, placed.end_s, station, block, educator=placed.educator),
    ]
    found = [Doings("watch", 0, placed.start_s, block=block)]
    for each in busy:
        found += [Doings("wait", found[-1].end_s, each.start_s, station, block), each]
    found.append(Doings("watch", placed.end_s, end - begin, block=block))
    return [
        replace(each, start_s=each.start_s + begin, end_s=each.end_s + begin)
        for each in found
        if each.end_s > each.start_s
    ]


def _practice(room: Room, student: Student, part: Plan, work_s: int, *, first: bool) -> StationTask:
    turns = tuple(
        Turn(each.item, round(each.use_s)) for each in room.shared if each.use_s and _uses(part, each.item, first=first)
    )
    return StationTask(student.name, turns, work_s, round(room.check_s))


def _uses(part: Plan, item: str, *, first: bool) -> bool:
    """Whether a part needs a shared thing: the sink where faces are cleansed, the reader before anything lies on them."""
    if item == "sink":
        return any(step.kind == "cleanse" for step in part.steps)
    if item == "reader":
        return first
    return any(mixed.item == item for step in part.steps for mixed in step.mix)
