"""A class as it goes: re-timed when it slips, what gives, turns, and what is taken from it."""

from __future__ import annotations

from dataclasses import replace
from datetime import date
from itertools import pairwise

import pytest

from nabrel.core.ask.recommend import plan
from nabrel.core.errors import Refused
from nabrel.core.house import House
from nabrel.core.lesson.lesson import lesson
from nabrel.core.lesson.live import asked, checked, go_back, go_on, here, now_in, step_of, unchecked
from nabrel.core.lesson.recap import LateCheck, recap
from nabrel.core.lesson.room import ClassLog, Room, Shared, Student

HOUSE = House()
DAY = date(2026, 11, 20)


@pytest.fixture(scope="module")
def taught(people):
    return plan(people["Tamsin"], HOUSE)


@pytest.fixture(scope="module")
def found(taught):
    students = tuple(Student(f"S{n}", 1.5 + 0.25 * (n % 3)) for n in range(6))
    return lesson(
        Room(
            title="Live",
            date=DAY,
            start="18:30",
            sequence=taught,
            students=students,
            stations=3,
            shared=(Shared("sink"),),
            break_after_min=45.0,
        ),
        HOUSE,
    )


def worked(found, parts, late=0.0):
    """The log of a class of which so many parts are over, each so many seconds later than planned."""
    log = ClassLog("2026-11-20T18:30:00+00:00")
    for number, phase in enumerate(found.blocks[:parts], start=1):
        log = go_on(found, log, phase.end_s + number * late)
    return log


def test_before_anything_is_over_it_is_timed_as_planned(found):
    now = now_in(found, ClassLog("x"), 0.0, HOUSE)
    assert [(e.phase.start_s, e.phase.end_s) for e in now.phases] == [(p.start_s, p.end_s) for p in found.blocks]
    assert (now.current, now.late_s, now.gives) == (0, 0, ())
    assert now.until_s == found.blocks[0].end_s


@pytest.mark.parametrize("parts", [1, 3, 5])
def test_slipping_behind_moves_the_rest_at_once_and_nothing_overlaps(found, parts):
    log = worked(found, parts, late=120.0)
    now = now_in(found, log, found.blocks[parts - 1].end_s + parts * 120.0, HOUSE)
    assert now.current == parts
    for one, other in pairwise(now.phases):
        assert other.phase.start_s >= one.phase.end_s
    # Breaks in a wait take some of it up; never more than was lost, never less than nothing.
    assert 0 <= now.late_s <= parts * 120
    rest = now.phases[parts:]
    assert [e.standing for e in rest] == ["now", *["next"] * (len(rest) - 1)]
    for each, phase in zip(rest, found.blocks[parts:], strict=True):
        assert each.phase.end_s - each.phase.start_s >= phase.end_s - phase.start_s


def test_a_part_that_is_not_ended_goes_on_and_pushes_the_rest(found):
    end = found.blocks[0].end_s
    now = now_in(found, ClassLog("x"), end + 300.0, HOUSE)
    assert now.until_s == end + 300
    assert 0 <= now.late_s <= 300
    assert now.phases[1].phase.start_s == end + 300


def test_what_gives_is_the_least_first_and_only_as_much_as_must(found):
    length = found.length_s
    roomy = replace(found, room=replace(found.room, until="23:00"))
    log = worked(found, 2)
    at = found.blocks[1].end_s
    assert now_in(roomy, log, at, HOUSE).gives == ()
    hours = length + 60
    tight = replace(
        found,
        room=replace(found.room, until=f"{18 + (30 * 60 + hours) // 3600:02d}:{(30 * 60 + hours) % 3600 // 60:02d}"),
    )
    late = 240.0
    gives = [now_in(tight, worked(found, 2, late=k * late), at + 2 * k * late, HOUSE) for k in range(1, 9)]
    counts = [len(each.gives) for each in gives]
    assert counts == sorted(counts), "later gives no less"
    assert counts[-1] >= 3
    assert all(each.over_s == 0 for each in gives if each.gives and len(each.gives) < 4)
    last = gives[-1]
    assert any("shown and not practised" in says or "left out" in says for says in last.gives)
    assert any(each.standing == "left_out" for each in last.phases)
    assert "break" in last.gives[0] or "Checks" in last.gives[0]


def test_turns_follow_the_order_that_was_solved_and_checks_that_were_made(found):
    practise = next(place for place, phase in enumerate(found.blocks) if phase.phase == "practise")
    log = worked(found, practise)
    begin = found.blocks[practise].start_s
    step = found.blocks[practise].steps[0]
    placed = found.timed.parts[0].by_name
    at = begin + 200.0
    turns = {each.student: each for each in now_in(found, log, at, HOUSE).turns}
    assert set(turns) == set(placed)
    for name, turn in turns.items():
        assert turn.station == placed[name].station
        expected = "to_check" if at >= turn.due_s else "working" if at >= turn.from_s else "to_come"
        assert turn.state == expected
        assert turn.due_s == begin + placed[name].check_s
    assert {turn.state for turn in turns.values()} >= {"working", "to_come"}
    first = min(turns.values(), key=lambda each: each.due_s).student
    log = checked(found, log, first, step, at, again=False)
    assert next(t.state for t in now_in(found, log, at, HOUSE).turns if t.student == first) == "checked"
    log = checked(found, log, first, step, at, again=True)
    now = now_in(found, log, at, HOUSE)
    assert now.turns[0].student == first, "who is to do it again needs a turn first"
    assert now.turns[0].state == "again"
    assert unchecked(found, log, first, step).checks == ()


def test_who_did_not_come_takes_no_turn_and_the_rest_is_solved_anew(found):
    log = here(found, ClassLog("x"), "S0", absent=True)
    practise = next(place for place, phase in enumerate(found.blocks) if phase.phase == "practise")
    for phase in found.blocks[:practise]:
        log = go_on(found, log, phase.end_s)
    now = now_in(found, log, found.blocks[practise].start_s, HOUSE)
    assert {turn.student for turn in now.turns} == {f"S{n}" for n in range(1, 6)}
    assert now.end_s <= found.length_s
    assert here(found, log, "S0", absent=False).absent == ()
    for name in ("S1", "S2", "S3", "S4"):
        log = here(found, log, name, absent=True)
    with pytest.raises(Refused):
        here(found, log, "S5", absent=True)


def test_going_on_and_back_walks_through_every_part_and_no_further(found):
    log = ClassLog("x")
    for phase in found.blocks:
        assert step_of(found, log) == phase
        log = go_on(found, log, phase.end_s, skip=phase.phase == "break")
    assert step_of(found, log) is None
    assert now_in(found, log, found.length_s, HOUSE).current is None
    with pytest.raises(Refused):
        go_on(found, log, found.length_s)
    for _ in found.blocks:
        log = go_back(log)
    with pytest.raises(Refused):
        go_back(log)


@pytest.mark.parametrize("wrong", [
    lambda f, log: checked(f, log, "Nobody", f.blocks[0].steps[0], 1.0, again=False),
    lambda f, log: checked(f, log, "S0", "nothing", 1.0, again=False),
    lambda f, log: asked(f, log, "Why?", "nothing", 1.0),
    lambda f, log: asked(f, log, "  ", f.blocks[0].steps[0], 1.0),
    lambda f, log: here(f, log, "Nobody", absent=True),
])  # fmt: skip
def test_what_cannot_have_happened_is_refused(found, wrong):
    with pytest.raises(Refused):
        wrong(found, ClassLog("x"))


def test_the_recap_says_what_was_asked_who_was_late_and_what_to_practise(found):
    log = worked(found, len(found.blocks))
    first = found.timed.parts[0]
    step = first.block.id
    begin = next(done.from_s for done in log.done if (done.phase, done.step) == ("practise", step))
    due = {name: begin + placed.check_s for name, placed in first.by_name.items()}
    log = checked(found, log, "S0", step, due["S0"] + 30, again=False)
    log = checked(found, log, "S1", step, due["S1"] + 200, again=False)
    log = checked(found, log, "S2", step, due["S2"], again=True)
    log = asked(found, log, "Why press?", first.block.steps[-1], 400.0)
    looked = recap(found, log)
    block = looked.blocks[0]
    assert block.late == (LateCheck("S1", 200),)
    assert block.again == ("S2",)
    assert block.unchecked == ("S3", "S4", "S5")
    assert [each.text for each in block.questions] == ["Why press?"]
    assert block.practised
    practise = {each.student: each for each in looked.practise}
    # S0 was checked in the first block in time, and in no other.
    assert "late" not in practise["S0"].says
    assert "3 min 20 s late" in practise["S1"].says
    assert "to be done again" in practise["S2"].says
    kinds = {s.id: s.kind for s in found.room.sequence.steps}
    taught = {kinds[s] for s in first.block.steps}
    assert set(practise["S2"].kinds) & taught
    assert not looked.absent
