"""The timetable: shortest, kept by an independent checker, the same every time; and why there is none."""

from __future__ import annotations

import json
import subprocess
import sys
from dataclasses import replace
from pathlib import Path

import pytest

from nabrel.core.ask.recommend import plan
from nabrel.core.base.possible import impossible_steps
from nabrel.core.errors import Refused
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.pace.tasks import seconds_of, work_of
from nabrel.core.pace.timetable import as_listed_s, shortest_s, timetable, with_hands, with_one_more
from nabrel.core.plan.sequence import Pin, Timing
from nabrel.core.terms.looks import SEVERITY_INFO
from nabrel.core.terms.schools import SCHOOLS
from nabrel.formats.answers import timetable_to
from nabrel.formats.loader import read_sequence
from tests.conftest import in_school
from tests.core.made_up import wild
from tests.core.pacing import broken, changes, fewest_changes_by_hand, shortest_by_hand
from tests.making import one_portion

HOUSE = House()


@pytest.fixture(scope="module")
def demo(people):
    return [plan(in_school(case, school), HOUSE) for case in people.values() for school in SCHOOLS]


@pytest.fixture(scope="module")
def made():
    return [plan(case, HOUSE) for case in wild(50, seed=9)]


def timed(sequence, **how):
    return timetable(work_of(sequence, HOUSE, **how))


def bare(people, *steps, **timing):
    """A plan of these steps alone."""
    sequence = plan(people["Posy"], HOUSE)
    return replace(sequence, steps=steps, timing=Timing(**timing) if timing else None)


def step(number, zones, seconds, *, kind="set", wait=0.0, most=None, tool="puff", amount=0.1, item="pow-fine"):
    return one_portion(
        f"s{number}", kind, zones, item, amount, unit="mg_cm2" if amount else None, tool=tool, active_s=float(seconds),
        wait_s=float(wait), wait_at_most_s=most,
    )  # fmt: skip


def work(number, zones, seconds, **more):
    return step(number, zones, seconds, kind="soften_edges", amount=None, item=None, tool="damp_sponge", **more)


def test_every_plan_of_the_demo_has_a_proven_timetable_that_keeps_it(demo):
    assert len(demo) == 48
    for sequence in demo:
        found = timed(sequence)
        assert found.possible
        assert found.proven
        assert broken(sequence, found) == []
        assert found.length_s < found.as_listed_s
        assert found.greedy_s is None or found.length_s <= found.greedy_s


def test_so_has_every_plan_for_made_up_cases_at_a_students_pace(made):
    shorter = 0
    for sequence in made:
        found = timed(sequence, pace=2.0)
        assert found.possible, (sequence.school, found.because)
        assert found.proven
        assert broken(sequence, found, pace=2.0) == []
        shorter += found.length_s < found.as_listed_s
    assert shorter > 40


def test_two_pairs_of_hands_are_never_slower_and_keep_the_plan(demo):
    gained = 0
    for sequence in demo[:12]:
        alone, both = timed(sequence), timed(sequence, hands=2)
        assert both.length_s <= alone.length_s
        assert broken(sequence, both, hands=2) == []
        gained += both.length_s < alone.length_s
    assert gained


def test_working_in_its_order_breaks_no_rule(demo):
    for sequence in demo[::3]:
        found = timed(sequence)
        first = {}
        for row in found.tasks:
            if row.what != "clean":
                first.setdefault(row.step, row.start_s)
        turned = replace(sequence, steps=tuple(sorted(sequence.steps, key=lambda each: first[each.id])))
        assert not [each for each in impossible_steps(turned.steps) if not each.check]
        findings = evaluate(turned, HOUSE, try_fixes=False).findings
        grave = [each.says for each in findings if SEVERITY_INFO[each.severity].rank > SEVERITY_INFO["advice"].rank]
        assert grave == [], (sequence.case.sitter.nickname, sequence.school)


@pytest.mark.parametrize("seed", range(8))
def test_it_is_as_short_as_a_search_through_every_order_finds(people, seed):
    zones = ["chin", "nose_tip", "upper_lip", "forehead_centre", "neck"]
    steps = []
    for number in range(6):
        own = tuple(dict.fromkeys((zones[(seed + number * 2) % 5], zones[(seed * 3 + number) % 5])))
        wait = (number * 37 + seed * 13) % 90
        most = wait + 40.0 if (number + seed) % 4 == 0 else None
        steps.append(work(number, own, 10 + (seed * 7 + number * 11) % 30, wait=wait, most=most))
    asked = work_of(bare(people, *steps), HOUSE)
    found, best = timetable(asked), shortest_by_hand(asked)
    assert found.possible == (best is not None)
    assert found.length_s == best
    assert found.possible or found.because


@pytest.mark.parametrize("seed", range(6))
def test_of_the_shortest_orders_it_takes_one_that_changes_the_tool_least(people, seed):
    zones = ["chin", "nose_tip", "upper_lip", "forehead_centre", "neck", "below_lip"]
    tools = ["damp_sponge", "stippling_brush", "angled_brush"]
    steps = [
        replace(
            work(number, (zones[number], zones[(number * seed) % 6]), 10 + number),
            portions=(replace(work(number, (zones[number],), 10).portions[0], tool=tools[(number * (seed + 1)) % 3]),),
        )
        for number in range(6)
    ]
    asked = work_of(bare(people, *steps), HOUSE)
    found = timetable(asked)
    taken = changes([row.tool for row in found.tasks])
    assert taken == fewest_changes_by_hand(asked, found.length_s)
    assert shortest_s(asked) == found.length_s == shortest_by_hand(asked)
    assert seed in {2, 5} or taken < changes([step.portions[0].tool for step in steps])


def test_the_same_in_three_processes(people, tmp_path):
    from nabrel.formats.files import SequenceFile

    file = tmp_path / "plan.json"
    file.write_text(SequenceFile.of(plan(people["Wren"], HOUSE)).model_dump_json(exclude_none=True), encoding="utf-8")
    command = [sys.executable, "-m", "nabrel.cli", "pace", str(file)]
    said = {subprocess.run(command, capture_output=True, text=True, check=True).stdout for _ in range(3)}
    assert len(said) == 1
    found = json.loads(said.pop())
    assert found == timetable_to(timed(plan(people["Wren"], HOUSE))).model_dump(mode="json")


def test_a_feature_fills_a_wait_and_a_layer_still_rests_in_full(people):
    sequence = plan(replace(people["Wren"], intent=replace(people["Wren"].intent, features=("brows",))), HOUSE)
    found = timed(sequence)
    brows = next(each.id for each in sequence.steps if each.kind == "brows")
    assert any(brows in wait.filled_by for wait in found.waits)


def test_brows_keep_off_wet_colour_on_the_cheek(demo):
    met = 0
    for sequence in demo:
        found = timed(sequence)
        brows = next((s for s in sequence.steps if s.kind == "brows"), None)
        colour = next((s for s in sequence.steps if s.kind == "colour" and s.film_um), None)
        if brows is None or colour is None:
            continue
        rest = {"cheek_apple_l", "cheek_apple_r", "cheekbone_l", "cheekbone_r"} & set(colour.zones)
        if not rest:
            continue
        met += 1
        end = max(row.end_s for row in found.tasks if row.step == brows.id)
        start = min(row.start_s for row in found.tasks if row.step == colour.id)
        begins = min(row.start_s for row in found.tasks if row.step == brows.id)
        later = sequence.steps[sequence.steps.index(colour) + 1 :]
        powders = [s.id for s in later if s.powder_mg and rest <= set(s.zones)]
        dry = [row.end_s for row in found.tasks if row.step in powders[:1]]
        done = max((row.end_s for row in found.tasks if row.step == colour.id), default=0) + colour.wait_s
        assert end <= start or begins >= (max(dry) if dry else done)
    assert met > 5


def test_a_tool_is_cleaned_between_wet_and_powder_unless_there_is_another(people):
    wet = one_portion("s1", "foundation", ("chin",), "thin-satin-3", 3.0, tool="stippling_brush", active_s=20.0)
    dry = step(2, ("chin",), 10, tool="stippling_brush")
    sequence = bare(people, wet, dry)
    asked = work_of(sequence, HOUSE)
    cleans = [row for row in timetable(asked).tasks if row.what == "clean"]
    assert [row.of for row in cleans] == ["stippling_brush 1"]
    assert cleans[0].end_s - cleans[0].start_s == HOUSE.clean_tool_s
    spared = timetable(with_one_more(asked, "stippling_brush"))
    assert [row.what for row in spared.tasks] == ["lay", "lay"]
    assert len({row.of for row in spared.tasks}) == 2
    assert spared.length_s == timetable(asked).length_s - HOUSE.clean_tool_s


def test_what_was_done_already_counts_from_its_time(people):
    cream = step(1, ("chin",), 60, kind="moisturise", amount=None, item="moi-gel", wait=900)
    then = step(2, ("chin",), 10)
    before = timed(bare(people, cream, then))
    already = timed(bare(people, cream, then, start="09:20", already={"s1": "09:10"}))
    assert before.length_s == 970
    assert already.length_s == 900 - 600 + 10
    assert next(row for row in already.tasks if row.step == "s1").end_s == -600


def test_a_pin_is_kept_and_ready_in_time(people):
    sequence = bare(people, work(1, ("chin",), 30), work(2, ("neck",), 30), pins=(Pin("s1", 120.0),))
    found = timed(sequence)
    assert next(row for row in found.tasks if row.step == "s1").start_s == 120
    assert found.length_s == 150
    enough = bare(people, work(1, ("chin",), 30), start="09:00", ready="09:01")
    assert timed(enough).possible


def test_one_side_is_worked_before_the_other(people):
    sides = ("cheek_apple_l", "cheek_apple_r")
    sequence = bare(people, work(1, sides, 40), work(2, sides, 40), sides="one_first")
    found = timed(sequence)
    rows = [(row.step, row.start_s) for row in found.tasks]
    assert [each for each, _ in sorted(rows, key=lambda row: row[1])] == ["s1", "s2", "s1", "s2"]
    assert found.length_s == 80


IMPOSSIBLE = {
    "ready too soon": (
        lambda: (step(1, ("chin",), 60, wait=600), step(2, ("chin",), 10)), {"start": "09:00", "ready": "09:05"},
        ["must rest 10 min", "ready at 09:05"],
    ),
    "two pins at once": (
        lambda: (work(1, ("chin",), 60), work(2, ("chin",), 60)), {"pins": (Pin("s1", 100.0), Pin("s2", 120.0))},
        ["pinned to 1:40", "pinned to 2:00"],
    ),
    "a longest wait under the least": (
        lambda: (
            work(1, ("chin", "neck"), 10, most=30.0), step(2, ("nose_tip",), 10, wait=300),
            step(3, ("chin", "nose_tip"), 10), work(4, ("nose_tip", "neck"), 10),
        ), {"pins": (Pin("s1", 0.0), Pin("s4", 200.0))}, ["pinned", "within 30 s"],
    ),
}  # fmt: skip


@pytest.mark.parametrize("name", IMPOSSIBLE)
def test_where_there_is_none_a_smallest_set_of_reasons_says_why(people, name):
    steps, timing, said = IMPOSSIBLE[name]
    sequence = bare(people, *steps(), **timing)
    found = timed(sequence)
    assert not found.possible
    assert found.length_s is None
    assert found.tasks == ()
    for words in said:
        assert any(words in each for each in found.because), found.because
    assert 1 <= len(found.because) <= 5
    assert found.frees


def test_without_any_one_of_its_reasons_it_would_be_possible(people):
    steps, timing, _ = IMPOSSIBLE["ready too soon"]
    asked = work_of(bare(people, *steps(), **timing), HOUSE)
    because = timetable(asked).because
    for reason in because:
        freed = replace(
            asked,
            lags=tuple(lag for lag in asked.lags if lag.reason.says != reason),
            ready=None if asked.ready and asked.ready[1].says == reason else asked.ready,
        )
        assert timetable(freed).possible, reason


@pytest.mark.parametrize(
    ("how", "field"),
    [({"pace": 0.0}, "pace"), ({"pace": float("nan")}, "pace"), ({"pace": 99.0}, "pace"), ({"hands": 3}, "hands"),
     ({"spare": ["spoon"]}, "spare")],
)  # fmt: skip
def test_a_pace_hands_and_tools_that_cannot_be_are_refused(people, how, field):
    with pytest.raises(Refused) as refused:
        work_of(plan(people["Posy"], HOUSE), HOUSE, **how)
    assert refused.value.field == field


@pytest.mark.parametrize(
    ("timing", "field"),
    [({"start": "25:00"}, "timing.start"), ({"start": "9"}, "timing.start"), ({"start": "09:00", "ready": "08:00"}, "timing.ready"),
     ({"pins": (Pin("s99", 1.0),)}, "timing.pins"), ({"start": "09:00", "already": {"s1": "09:30"}}, "timing.already.s1"),
     ({"start": "09:00", "already": {"s77": "08:30"}}, "timing.already.s77")],
)  # fmt: skip
def test_a_time_that_cannot_be_is_refused_by_field(people, timing, field):
    with pytest.raises(Refused) as refused:
        timed(bare(people, work(1, ("chin",), 30), **timing))
    assert refused.value.field == field


@pytest.mark.parametrize("name", ["bram-powder_sculpted", "wren-underpainted"])
def test_a_plan_of_the_first_version_has_one_too(name):
    file = Path(__file__).parents[1] / "data" / "version_1" / f"{name}.sequence.json"
    found = timed(read_sequence(file.read_bytes()))
    assert found.possible
    assert found.length_s < found.as_listed_s


def test_a_very_long_plan_is_not_called_impossible(people):
    """Ten long waits in a row, at the slowest pace: five hours and more."""
    steps = [work(number, ("chin",), 60, wait=1800) for number in range(10)]
    found = timed(bare(people, *steps), pace=5.0)
    assert found.possible
    assert found.length_s == 10 * 300 + 9 * 1800


def test_nothing_to_do_takes_no_time(people):
    found = timed(bare(people))
    assert (found.possible, found.length_s, found.tasks) == (True, 0, ())
    assert as_listed_s(work_of(bare(people), HOUSE)) == 0
    assert seconds_of("09:10", "x") == 33000
    assert with_hands(work_of(bare(people), HOUSE), 2).hands == 2
