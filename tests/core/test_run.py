"""A run: what was done when, what it took, what is too late, how quick the hand was; and its script."""

from __future__ import annotations

from dataclasses import replace
from math import exp, log
from random import Random

import pytest

from nabrel.core.ask.recommend import plan
from nabrel.core.base.spending import taken
from nabrel.core.documents.script import script
from nabrel.core.errors import Refused
from nabrel.core.house import House
from nabrel.core.judge.evaluate import course_of, evaluate
from nabrel.core.pace.run import (
    LEAST_STEPS,
    DoneTask,
    Log,
    Pause,
    RunNote,
    checked_log,
    hand_pace,
    quicker,
    resting,
    steps_taken,
    times_done,
    too_late,
    tools_used,
    used,
)
from nabrel.core.pace.tasks import work_of
from nabrel.core.pace.timetable import timetable
from nabrel.core.plan.sequence import Timing

HOUSE = House()


@pytest.fixture(scope="module")
def wren(people):
    return plan(people["Wren"], HOUSE)


def as_planned(sequence, times=1.0):
    """A log in which every step was done in the order of the list, each taking so many times its planned seconds."""
    done, at = [], 0.0
    for step in sequence.steps:
        done.append(DoneTask(step.id, at, at + times * step.active_s))
        at += times * step.active_s + step.wait_s
    return Log(tuple(done))


@pytest.mark.parametrize(
    ("done", "pauses", "field"),
    [
        ((DoneTask("s99", 0, 1),), (), "done[0].step"),
        ((DoneTask("s1", 5, 4),), (), "done[0].to_s"),
        ((DoneTask("s1", 0, 4), DoneTask("s1", 4, 5, "done", 9)), (), "done[1].portion"),
        ((), (Pause(9, 3),), "pauses[0].to_s"),
        ((), (Pause(1, 5), Pause(4, 6)), "pauses[1].from_s"),
    ],
)
def test_a_log_that_cannot_be_is_refused_by_field(wren, done, pauses, field):
    with pytest.raises(Refused) as refused:
        checked_log(wren, Log(done, pauses))
    assert refused.value.field == field


def test_a_log_that_can_be_is_taken_as_it_is(wren):
    whole = replace(as_planned(wren), pauses=(Pause(3, 9),), notes=(RunNote(4, "less next time"),))
    assert checked_log(wren, whole) == whole


def test_times_against_the_plan_leave_pauses_out_and_count_what_was_done_twice(wren):
    first, second, third = wren.steps[:3]
    made = Log(
        (
            DoneTask(first.id, 0, 100),
            DoneTask(second.id, 100, 200),
            DoneTask(second.id, 200, 260, "again"),
            DoneTask(third.id, 260, 260, "skipped"),
        ),
        pauses=(Pause(50, 80),),
    )
    one, two, three = steps_taken(wren, made, 2.0)
    assert (one.taken_s, one.planned_s, one.state) == (70, 2 * first.active_s, "done")
    assert (two.taken_s, two.planned_s, two.state) == (160, 4 * second.active_s, "again")
    assert (three.taken_s, three.planned_s, three.state) == (0, 0, "skipped")


def test_portions_and_sides_of_a_step_are_one_time_of_doing_it():
    parts = [DoneTask("s1", n, n + 1, "done", n) for n in range(3)]
    sides = [DoneTask("s1", 0, 1, side="first"), DoneTask("s1", 5, 6, side="second")]
    assert times_done(parts) == times_done(sides) == 1
    assert times_done([*sides, DoneTask("s1", 6, 7, "again")]) == 2
    assert times_done([DoneTask("s1", 0, 0, "skipped")]) == times_done([]) == 0


def test_what_a_whole_run_used_is_what_the_plan_takes_and_nothing_for_what_was_skipped(wren):
    course = course_of(wren, HOUSE)
    assert used(course, as_planned(wren)) == taken(course)
    foundation = next(step for step in wren.steps if step.kind == "foundation")
    whole = as_planned(wren)
    without = replace(
        whole,
        done=tuple(replace(each, state="skipped") if each.step == foundation.id else each for each in whole.done),
    )
    assert foundation.item not in used(course, without)
    twice = replace(whole, done=(*whole.done, DoneTask(foundation.id, 9000, 9060, "again")))
    assert used(course, twice)[foundation.item][0] == pytest.approx(2 * taken(course)[foundation.item][0])
    assert used(course, Log()) == {}


def test_tools_to_clean_are_those_of_what_was_done(wren):
    step = next(each for each in wren.steps if "angled_brush" in each.tools)
    assert tools_used(wren, Log((DoneTask(step.id, 0, 9),))) == tuple(t for t in step.tools if t != "fingers")
    assert tools_used(wren, Log((DoneTask(step.id, 0, 0, "skipped"),))) == ()


def test_a_longest_wait_that_has_run_out_is_said_and_a_pause_does_not_stop_it(wren):
    check = next(step for step in wren.steps if step.kind == "crease_check")
    powder = next(step for step in wren.steps if step.kind == "set")
    assert check.wait_at_most_s
    done = tuple(each for each in as_planned(wren).done if each.step != powder.id)
    done = done[: [each.step for each in done].index(check.id) + 1]
    end = done[-1].to_s
    paused = Log(done, pauses=(Pause(end, end + 300),))
    assert not [each for each in too_late(wren, paused, end + check.wait_at_most_s - 1) if each.after == check.id]
    (late,) = [each for each in too_late(wren, paused, end + check.wait_at_most_s + 40) if each.after == check.id]
    assert (late.step, late.late_s) == (powder.id, pytest.approx(40))
    now = Log((*done, DoneTask(powder.id, end, end + 9)))
    assert not [each for each in too_late(wren, now, end + 900) if each.step == powder.id]


def test_what_lies_on_top_rests_since_it_was_laid(wren):
    done = as_planned(wren).done
    at = next(n for n, step in enumerate(wren.steps) if step.kind == "sunscreen")
    made = Log(done[: at + 1])
    assert resting(wren, made, made.length_s + 100) == {wren.steps[at].id: pytest.approx(100)}


@pytest.mark.parametrize("true", [0.8, 1.0, 2.0, 3.0])
def test_the_pace_of_a_hand_is_found_with_an_interval_that_holds_it(wren, true):
    """Over many simulated runs with a spread of a third, nine intervals of ten hold the truth."""
    rng = Random(7)
    held = 0
    for _ in range(200):
        done, at = [], 0.0
        for step in wren.steps:
            seconds = step.active_s * exp(rng.gauss(log(true), 0.3))
            done.append(DoneTask(step.id, at, at + seconds))
            at += seconds
        found = hand_pace([(wren, Log(tuple(done)))])
        assert found.low < found.pace < found.high
        held += found.low <= true <= found.high
    assert 0.84 <= held / 200 <= 0.96


def test_too_few_steps_teach_no_pace_and_an_interruption_none(wren):
    few = replace(as_planned(wren), done=as_planned(wren).done[: LEAST_STEPS - 1])
    assert hand_pace([(wren, few)]) is None
    whole = as_planned(wren, 1.5)
    first = replace(whole.done[0], to_s=whole.done[0].to_s + 3600)
    found = hand_pace([(wren, replace(whole, done=(first, *whole.done[1:])))])
    assert found.pace == pytest.approx(1.5)
    assert (found.steps, found.runs) == (len(wren.steps) - 1, 1)


def test_a_run_is_held_against_an_earlier_one_by_kind_of_work(wren):
    rows = dict(quicker((wren, as_planned(wren, 1.0)), (wren, as_planned(wren, 2.0))))
    foundation = sum(step.active_s for step in wren.steps if step.kind == "foundation")
    assert rows["foundation"] == pytest.approx(foundation)
    assert all(seconds > 0 for seconds in rows.values())
    differences = [abs(s) for _, s in quicker((wren, as_planned(wren)), (wren, as_planned(wren, 2.0)))]
    assert differences == sorted(differences, reverse=True)


def scripted(sequence, **kwargs):
    work = work_of(sequence, HOUSE, **kwargs)
    found = timetable(work)
    return script(evaluate(sequence, HOUSE, try_fixes=False), work, found), work, found


def test_the_script_holds_every_step_once_in_the_order_of_the_timetable(people):
    for name in ("Wren", "Bram", "Merrick"):
        sequence = plan(people[name], HOUSE)
        blocks, _, found = scripted(sequence)
        assert sorted(block.step for block in blocks) == sorted(step.id for step in sequence.steps)
        starts = [block.start_s for block in blocks]
        assert starts == sorted(starts)
        for block in blocks:
            own = [row.start_s for row in found.tasks if row.step == block.step and row.what != "clean"]
            assert min(own) == block.start_s


def test_worked_by_its_script_at_the_times_of_the_timetable_every_hold_is_kept(people):
    """The script's own least and longest waits agree with the timetable that was proven to keep the plan's."""
    met = 0
    for name in ("Wren", "Bram", "Isolde"):
        blocks, work, found = scripted(plan(people[name], HOUSE))
        ends = {}
        for row in found.tasks:
            if row.task is not None:
                task = work.tasks[row.task]
                key = f"{task.step}:{task.side}" if task.side else task.step
                ends[key] = max(ends.get(key, 0), row.end_s)
        last_start = {block.id: max(r.start_s for r in found.tasks if r.step == block.step) for block in blocks}
        for block in blocks:
            for hold in block.after:
                assert last_start[block.id] >= ends[hold.block] - work.plan.step(hold.block.split(":")[0]).active_s
                met += hold.seconds > 0
            for hold in block.by:
                assert block.start_s <= ends[hold.block] + hold.seconds
                met += 1
    assert met > 20


def test_one_side_first_makes_two_blocks_of_a_step_and_names_the_side(wren):
    split, _, _ = scripted(replace(wren, timing=Timing(sides="one_first")))
    foundation = [block for block in split if block.title == "Foundation"]
    assert [block.side for block in foundation] == ["first", "second"]
    assert {block.id for block in foundation} == {f"{foundation[0].step}:first", f"{foundation[0].step}:second"}
    assert set(foundation[0].zones).isdisjoint(foundation[1].zones)


def test_a_block_says_what_is_taken_where_and_how_and_names_nobody(wren):
    blocks, _, _ = scripted(wren)
    foundation = next(block for block in blocks if block.title == "Foundation")
    assert foundation.products == ("Thin satin 2",)
    assert foundation.take
    assert any("damp sponge" in hand for hand in foundation.hands)
    assert any("must rest" in hold.says for hold in foundation.after)
    said = " ".join(str(block) for block in blocks)
    assert "Wren" not in said
