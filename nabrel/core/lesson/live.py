"""A class as it goes: what now, until when, whose turn it is, and what gives when it slips behind."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from typing import Literal

from nabrel.core.errors import Refused
from nabrel.core.house import House
from nabrel.core.lesson.faces import Face
from nabrel.core.lesson.lesson import Lesson
from nabrel.core.lesson.room import MOST_QUESTIONS, AskedQuestion, CheckDone, ClassLog, Phase, PhaseDone, Room
from nabrel.core.lesson.stations import Practised
from nabrel.core.lesson.timing import BREAK_S, LEAST_BREAK_S, LessonPart, Phased, parts_of
from nabrel.core.terms.words import counted, spoken

LATE_S = 60
"""Less than this behind is not said."""
Standing = Literal["over", "now", "next", "left_out"]
TurnState = Literal["to_come", "working", "to_check", "again", "checked"]


@dataclass(frozen=True, slots=True)
class PhaseNow:
    """One part of the lesson as it is timed now."""

    phase: Phased
    standing: Standing


@dataclass(frozen=True, slots=True)
class TurnNow:
    """Where one student stands in this block: at which station from when, when a check is due, and whether it was done."""

    student: str
    state: TurnState
    station: int | None
    from_s: int
    due_s: int


@dataclass(frozen=True)
class Now:
    """A class at a moment. ``until_s`` is when the part that is under way should end; ``late_s`` how much later than planned all
    of it will end; ``over_s`` by how much it then goes beyond the room's hours; ``gives`` what gives so that it does not.
    """

    now_s: int
    phases: tuple[PhaseNow, ...]
    current: int | None
    until_s: int | None
    end_s: int
    late_s: int
    over_s: int
    gives: tuple[str, ...]
    turns: tuple[TurnNow, ...]


def now_in(found: Lesson, log: ClassLog, now_s: float, house: House) -> Now:
    """Where a class stands ``now_s`` seconds after it began: what is over as logged, the rest timed from now."""
    room = replace(found.room, log=log)
    parts = found.timed.parts
    if log.absent != found.room.log.absent:
        parts = parts_of(room, found.faces, house, search=False)
    plan = _lengths(found, parts)
    over = {(done.phase, done.step): done for done in log.done}
    limit = room.length_s
    given: tuple[str, ...] = ()
    timed = _timed(room, plan, over, now_s)
    if limit is not None:
        for says, shorter in _giving(room, found.faces, plan, over, house):
            if _end(timed) <= limit:
                break
            tried = _timed(room, shorter, over, now_s)
            if _end(tried) < _end(timed):
                plan, timed, given = shorter, tried, (*given, says)
    current = next((place for place, each in enumerate(timed) if each.standing == "now"), None)
    end = _end(timed)
    return Now(
        now_s=round(now_s),
        phases=tuple(timed),
        current=current,
        until_s=None if current is None else timed[current].phase.end_s,
        end_s=end,
        late_s=max(0, end - found.length_s),
        over_s=max(0, end - limit) if limit is not None else 0,
        gives=given,
        turns=tuple(_turns(timed, current, plan, log, now_s)),
    )


def step_of(found: Lesson, log: ClassLog) -> Phased | None:
    """The part that is under way by the log, None when all are over."""
    over = {(done.phase, done.step) for done in log.done}
    return next((phase for phase in found.timed.phases if (phase.phase, phase.steps[0]) not in over), None)


def go_on(found: Lesson, log: ClassLog, now_s: float, *, skip: bool = False) -> ClassLog:
    """The part that is under way is over, or left out. Refuses where all are over."""
    phase = step_of(found, log)
    if phase is None:
        raise Refused("event", "next", "a class that goes on: every part is over")
    begun = max((done.to_s for done in log.done), default=0.0)
    done = PhaseDone(phase.phase, phase.steps[0], begun, max(begun, round(now_s, 1)), skip)
    return replace(log, done=(*log.done, done))


def go_back(log: ClassLog) -> ClassLog:
    """The part that was ended last goes on. Refuses where none was."""
    if not log.done:
        raise Refused("event", "back", "a class of which a part is over")
    return replace(log, done=log.done[:-1])


def checked(found: Lesson, log: ClassLog, student: str, step: str, at_s: float, *, again: bool) -> ClassLog:
    """A student was checked in a block, or is to practise it again. Refuses strangers and steps that begin no block."""
    _known(found, student, step)
    rest = tuple(each for each in log.checks if (each.student, each.step) != (student, step))
    return replace(log, checks=(*rest, CheckDone(student, step, round(at_s, 1), again)))


def unchecked(found: Lesson, log: ClassLog, student: str, step: str) -> ClassLog:
    """A check is taken back."""
    _known(found, student, step)
    return replace(log, checks=tuple(each for each in log.checks if (each.student, each.step) != (student, step)))


def asked(found: Lesson, log: ClassLog, text: str, step: str, at_s: float) -> ClassLog:
    """A question for the recap, at a step of the plan. Refuses other steps, empty questions, and more than a class may have."""
    if step not in {each.id for each in found.room.sequence.steps}:
        raise Refused("step", step, "a step of the plan that is taught")
    if not text.strip():
        raise Refused("text", text, "a question in words")
    if len(log.questions) >= MOST_QUESTIONS:
        raise Refused("text", text, f"at most {MOST_QUESTIONS} questions in a class: forget one that is answered")
    return replace(log, questions=(*log.questions, AskedQuestion(round(at_s, 1), text.strip(), step)))


def here(found: Lesson, log: ClassLog, student: str, *, absent: bool) -> ClassLog:
    """A student did not come, or came after all. Refuses strangers, and a class that nobody is left in."""
    if found.room.student(student) is None:
        raise Refused("student", student, "the nickname of a student of this class")
    rest = tuple(each for each in log.absent if each != student)
    if absent and len(rest) + 1 >= len(found.room.students):
        raise Refused("student", student, "a class with somebody in it")
    return replace(log, absent=(*rest, student) if absent else rest)


def _known(found: Lesson, student: str, step: str) -> None:
    if found.room.student(student) is None:
        raise Refused("student", student, "the nickname of a student of this class")
    if step not in {part.block.id for part in found.timed.parts}:
        raise Refused("step", step, "the first step of a block")


Over = Mapping[tuple[Phase, str], PhaseDone]
"""The parts that are over, by what they are and the block's first step."""


@dataclass(frozen=True)
class _Length:
    """A part of the lesson with the seconds it takes, and where it is practice the part and its solution."""

    phase: Phased
    seconds: int
    part: LessonPart | None = None
    solved: Practised | None = None
    wait_s: int = 0
    left_out: bool = False


def _lengths(found: Lesson, parts: tuple[LessonPart, ...]) -> tuple[_Length, ...]:
    by_block = {part.block.id: part for part in parts}
    rows = []
    before = 0
    for phase in found.timed.phases:
        part = by_block[phase.steps[0]]
        if phase.phase == "practise":
            rows.append(_Length(phase, part.solved.length_s, part, part.solved, before))
            before = round(part.block.wait_s)
        else:
            rows.append(_Length(phase, phase.end_s - phase.start_s, part))
    return tuple(rows)


def _timed(room: Room, plan: tuple[_Length, ...], over: Over, now_s: float) -> list[PhaseNow]:
    """The parts one after the other: what is over as it was, what is under way until it should end or now, the rest after it."""
    clock, practised_until = 0, 0
    now_given = False
    rows: list[PhaseNow] = []
    for each in plan:
        phase = each.phase
        done = over.get((phase.phase, phase.steps[0]))
        if done is not None:
            clock = round(done.to_s)
            rows.append(
                PhaseNow(
                    replace(phase, start_s=round(done.from_s), end_s=clock), "left_out" if done.skipped else "over"
                )
            )
        elif each.left_out:
            rows.append(PhaseNow(replace(phase, start_s=clock, end_s=clock), "left_out"))
        else:
            begin = clock
            if not now_given:
                end, standing = max(begin + each.seconds, round(now_s)), "now"
            else:
                if phase.phase == "practise":
                    begin = max(begin, practised_until + each.wait_s if practised_until else begin)
                elif phase.phase == "demonstrate":
                    begin = max(begin, round(room.pins.get(phase.steps[0], 0)))
                end, standing = begin + each.seconds, "next"
            now_given = True
            clock = end
            rows.append(PhaseNow(replace(phase, start_s=begin, end_s=end), standing))  # type: ignore[arg-type]
        if phase.phase == "practise":
            practised_until = clock
    return rows


def _end(timed: list[PhaseNow]) -> int:
    return max((each.phase.end_s for each in timed), default=0)


def _giving(
    room: Room,
    faces: Mapping[str, Face],
    plan: tuple[_Length, ...],
    over: Over,
    house: House,
) -> Iterator[tuple[str, tuple[_Length, ...]]]:
    """What gives, the least harm first, each on top of the one before: breaks, checks, the last practice, the last block."""
    begun = len(over) + 1
    left = [place for place in range(len(plan)) if place >= begun]
    breaks = [place for place in left if plan[place].phase.phase == "break"]
    if breaks:
        plan = _with(
            plan, {place: replace(plan[place], seconds=min(plan[place].seconds, LEAST_BREAK_S)) for place in breaks}
        )
        yield f"{counted(len(breaks), 'break')} of {spoken(LEAST_BREAK_S)} instead of {spoken(BREAK_S)}.", plan
    practice = [place for place in left if plan[place].phase.phase == "practise"]
    if practice and room.check_s >= 2:
        halved = {
            part.block.id: part
            for part in parts_of(replace(room, check_s=room.check_s / 2), faces, house, search=False)
        }
        shorter = {}
        for place in practice:
            part = halved[plan[place].phase.steps[0]]
            shorter[place] = replace(plan[place], seconds=part.solved.length_s, part=part, solved=part.solved)
        plan = _with(plan, shorter)
        yield f"Checks of {spoken(room.check_s / 2)}: less is said to each.", plan
    if practice:
        last = practice[-1]
        plan = _with(plan, {last: replace(plan[last], left_out=True)})
        yield f"{_named(plan[last].phase)} is shown and not practised: to do at home.", plan
    shown = [place for place in left if plan[place].phase.phase == "demonstrate"]
    if shown:
        last = shown[-1]
        out = {place: replace(plan[place], left_out=True) for place in left if place >= last}
        yield f"{_named(plan[last].phase)} is left out: shown another time.", _with(plan, out)


def _with(plan: tuple[_Length, ...], changed: Mapping[int, _Length]) -> tuple[_Length, ...]:
    return tuple(changed.get(place, each) for place, each in enumerate(plan))


def _named(phase: Phased) -> str:
    return phase.words[:1].upper() + phase.words[1:]


def _turns(
    timed: list[PhaseNow], current: int | None, plan: tuple[_Length, ...], log: ClassLog, now_s: float
) -> Iterator[TurnNow]:
    """Everybody who practises in the block that is under way, who is due first in front."""
    if current is None:
        return
    row = timed[current]
    solved = plan[current].solved
    if row.phase.phase != "practise" or solved is None:
        return
    begin = row.phase.start_s
    block = row.phase.steps[0]
    looked = {each.student: each for each in log.checks if each.step == block}
    rows = []
    for placed in solved.placed:
        done = looked.get(placed.name)
        from_s, due_s = begin + placed.start_s, begin + placed.check_s
        state: TurnState
        if done is not None:
            state = "again" if done.again else "checked"
        elif now_s >= due_s:
            state = "to_check"
        else:
            state = "working" if now_s >= from_s else "to_come"
        rows.append(TurnNow(placed.name, state, placed.station, from_s, due_s))
    rank = {"again": 0, "to_check": 1, "working": 2, "to_come": 3, "checked": 4}
    yield from sorted(rows, key=lambda each: (rank[each.state], each.due_s, each.student))
