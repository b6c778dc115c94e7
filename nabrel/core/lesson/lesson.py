"""The lesson: blocks demonstrated, practised and checked, in time, with breaks, and what is too long."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Literal

from nabrel.core.house import House
from nabrel.core.lesson.blocks import blocks_of, part_of
from nabrel.core.lesson.practise import Placed, Practice, Turn, practised
from nabrel.core.lesson.room import Room, Student, checked_room
from nabrel.core.lesson.weigh_out import ToolsNeeded, Weighed, after_class, before_class, tools_needed, weigh_out
from nabrel.core.pace.tasks import work_of
from nabrel.core.pace.timetable import as_listed_s
from nabrel.core.plan.sequence import Sequence
from nabrel.core.terms.words import spoken

Phase = Literal["demonstrate", "practise", "break"]
Doing = Literal["watch", "turn", "practise", "wait", "check", "break"]
BREAK_S = 600
SINK_KINDS = frozenset({"cleanse"})
MINUTE = 60


@dataclass(frozen=True, slots=True)
class Phased:
    """One part of the lesson: what everybody is in, from when to when, and which steps it is about."""

    phase: Phase
    start_s: int
    end_s: int
    steps: tuple[str, ...] = ()
    words: str = ""


@dataclass(frozen=True, slots=True)
class Doings:
    """One thing a student does: from when to when, at which station (None while watching), of which block, with which educator."""

    doing: Doing
    start_s: int
    end_s: int
    station: int | None = None
    block: int | None = None
    item: str = ""
    educator: int | None = None


@dataclass(frozen=True, slots=True)
class Shorter:
    """One way to shorten a lesson: what it is, how many seconds it saves, and what it costs."""

    says: str
    saves_s: int


@dataclass(frozen=True, slots=True)
class Lesson:
    """A class in time. ``too_long_s`` is by how much it goes beyond the room's hours, 0 where it does not."""

    blocks: tuple[Phased, ...]
    students: dict[str, tuple[Doings, ...]]
    proven: bool
    length_s: int
    weigh_out: tuple[Weighed, ...]
    tools: tuple[ToolsNeeded, ...]
    cost: float | None
    before_class: tuple[str, ...]
    after_class: tuple[str, ...]
    too_long_s: int = 0
    shorter: tuple[Shorter, ...] = ()


def lesson(room: Room, house: House) -> Lesson:
    """The lesson of a class: each block shown, then practised in the shortest time, everybody checked. Refuses what cannot be."""
    checked_room(room)
    found = _timed(room, house)
    weighed = weigh_out(room, house)
    at_once = max(_at_once(found[1]), 1)
    tools = tools_needed(room.sequence, len(room.students), at_once)
    costs = [each.cost for each in weighed if each.cost is not None]
    length = max((phase.end_s for phase in found[0]), default=0)
    over = max(0, length - room.length_s) if room.length_s is not None else 0
    return Lesson(
        blocks=found[0],
        students=found[1],
        proven=found[2],
        length_s=length,
        weigh_out=weighed,
        tools=tools,
        cost=sum(costs) if costs else None,
        before_class=tuple(before_class(room, weighed, tools)),
        after_class=tuple(after_class(room, tools)),
        too_long_s=over,
        shorter=tuple(_shorter(room, house)) if over else (),
    )


def _timed(
    room: Room, house: House, *, search: bool = True
) -> tuple[tuple[Phased, ...], dict[str, tuple[Doings, ...]], bool]:
    phases: list[Phased] = []
    doings: dict[str, list[Doings]] = {student.name: [] for student in room.students}
    proven, clock, since_break, wait_until = True, 0, 0, 0
    for number, block in enumerate(blocks_of(room.sequence, house)):
        part = part_of(room.sequence, block)
        shown = as_listed_s(work_of(part, house))
        solved = practised(
            _practices(room, house, part), room.stations, room.educators, _counts(room), room.pairs, search=search
        )
        if phases and since_break + shown + solved.length_s > room.break_after_min * MINUTE:
            phases.append(Phased("break", clock, clock + BREAK_S))
            _all(doings, Doings("break", clock, clock + BREAK_S))
            clock, since_break = clock + BREAK_S, 0
        phases.append(Phased("demonstrate", clock, clock + shown, block.steps, block.words))
        _all(doings, Doings("watch", clock, clock + shown, block=number))
        # Faces from the block before must have waited by the time hands go on.
        begin = max(clock + shown, wait_until)
        end = begin + solved.length_s
        phases.append(Phased("practise", begin, end, block.steps, block.words))
        for placed, practice in zip(solved.placed, _practices(room, house, part), strict=True):
            doings[placed.name] += _doings(placed, practice, begin, end, number)
        proven = proven and solved.proven
        since_break += end - clock
        clock, wait_until = end, end + round(block.wait_s)
    return tuple(phases), {name: tuple(own) for name, own in doings.items()}, proven


def _all(doings: dict[str, list[Doings]], what: Doings) -> None:
    for own in doings.values():
        own.append(what)


def _doings(placed: Placed, practice: Practice, begin: int, end: int, block: int) -> tuple[Doings, ...]:
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
    return tuple(
        replace(each, start_s=each.start_s + begin, end_s=each.end_s + begin)
        for each in found
        if each.end_s > each.start_s
    )


def _practices(room: Room, house: House, part: Sequence) -> list[Practice]:
    return [_practice(room, student, house, part) for student in room.students]


def _practice(room: Room, student: Student, house: House, part: Sequence) -> Practice:
    items = {each.item for step in part.steps for each in step.mix}
    turns = tuple(
        Turn(each.item, round(each.use_s))
        for each in room.shared
        if each.use_s
        and (each.item in items or (each.item == "sink" and any(s.kind in SINK_KINDS for s in part.steps)))
    )
    return Practice(
        student.name, turns, max(1, as_listed_s(work_of(part, house, pace=student.pace))), round(room.check_s)
    )


def _uses(part: Sequence, room: Room, item: str) -> bool:
    """Whether a block needs a shared thing: the sink where faces are cleansed, the reader before anything lies on them."""
    if item == "sink":
        return any(step.kind in SINK_KINDS for step in part.steps)
    if item == "reader":
        return part.steps[0] == room.sequence.steps[0]
    return any(part_of_mix.item == item for step in part.steps for part_of_mix in step.mix)


def _counts(room: Room) -> dict[str, int]:
    return {each.item: each.count for each in room.shared}


def _at_once(students: dict[str, tuple[Doings, ...]]) -> int:
    """How many are at stations at the same time, at most."""
    edges = sorted(
        edge
        for own in students.values()
        for each in own
        if each.station
        for edge in ((each.start_s, 1), (each.end_s, -1))
    )
    now = most = 0
    for _, by in edges:
        now += by
        most = max(most, now)
    return most


def _shorter(room: Room, house: House) -> Iterator[Shorter]:
    """Ways to shorten it, what saves most first: each is the lesson timed anew, by a good order on both sides."""
    length = _length(room, house)
    tries: list[tuple[str, Room]] = []
    if room.stations < len(room.students):
        tries.append(
            (f"A station each: {len(room.students) - room.stations} more", replace(room, stations=len(room.students)))
        )
    tries.append(("One more educator to check", replace(room, educators=room.educators + 1)))
    tries.append(
        (f"Checks of {spoken(room.check_s / 2)}: less is said to each", replace(room, check_s=room.check_s / 2))
    )
    blocks = blocks_of(room.sequence, house)
    if len(blocks) > 1:
        rest = tuple(step for step in room.sequence.steps if step.id not in blocks[-1].steps)
        short = replace(room, sequence=replace(room.sequence, steps=rest))
        tries.append((f"Leave out {blocks[-1].words}: it is shown another time", short))
    found = []
    for says, other in tries:
        saved = length - _length(other, house)
        if saved > 0:
            found.append(Shorter(f"{says}; about {round(saved / MINUTE)} min less.", saved))
    yield from sorted(found, key=lambda each: -each.saves_s)[:3]


def _length(room: Room, house: House) -> int:
    return max((phase.end_s for phase in _timed(room, house, search=False)[0]), default=0)
