"""Laws of weighing and of figures, on faces, wishes and kits as they may come."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from nabrel.core.ask.compare import compare
from nabrel.core.ask.recommend import rank
from nabrel.core.ask.weigh import weigh, with_foundation
from nabrel.core.case.case import Case
from nabrel.core.house import House
from nabrel.core.judge.evaluate import Evaluation, evaluate
from nabrel.core.judge.figures import MEASURES
from nabrel.core.judge.misses import mean_miss, missed
from nabrel.core.planner.planner import plan_in
from nabrel.core.terms.ids import School
from nabrel.core.terms.zones import ZONES
from tests.conftest import in_school
from tests.core.cases import cases

HOUSE = House()
TWO: tuple[School, ...] = ("underpainted", "two_tone")


def seen(case: Case, school: School) -> Evaluation:
    return evaluate(plan_in(school, in_school(case, school), HOUSE), HOUSE, try_fixes=False)


def pair(case: Case) -> list[Evaluation]:
    return [seen(case, school) for school in TWO]


@settings(max_examples=14, deadline=None)
@given(case=cases)
def test_turning_the_candidates_turns_what_is_weighed(case):
    one, other = pair(case)
    for row, turned in zip(weigh([one, other]), weigh([other, one]), strict=True):
        assert row.name == turned.name
        assert row.values == turned.values[::-1]
        assert {1 - place for place in row.best} == set(turned.best)


@settings(max_examples=14, deadline=None)
@given(case=cases)
def test_the_best_is_never_further_from_what_is_wanted_than_another(case):
    both = pair(case)
    by_name = {each.name: each for each in MEASURES}
    for row in weigh(both):
        misses = [by_name[row.name].miss(each) for each in both]
        for place in row.best:
            assert misses[place] == min(misses)


@settings(max_examples=14, deadline=None)
@given(case=cases)
def test_a_difference_turned_around_turns_every_gain(case):
    one, other = pair(case)
    turned = {"better": "worse", "worse": "better", "": ""}
    there = {row.name: row for row in compare(one, other).figures}
    back = {row.name: row for row in compare(other, one).figures}
    assert there.keys() == back.keys()
    for name, row in there.items():
        assert (row.before, row.after) == (back[name].after, back[name].before)
        assert row.gain == turned[back[name].gain]


@settings(max_examples=14, deadline=None)
@given(case=cases)
def test_ranking_does_not_hang_on_the_order_of_candidates(case):
    both = pair(case)
    there, back = rank(both), rank(both[::-1])
    assert [each.weight for each in there] == pytest.approx([each.weight for each in back])
    if there[0].weight != there[1].weight:
        assert there[0].evaluation is back[0].evaluation


@settings(max_examples=14, deadline=None)
@given(case=cases)
def test_reasons_are_few_said_once_and_in_words(case):
    for each in rank(pair(case)):
        for reasons in (each.speaks_for, each.speaks_against):
            assert len(reasons) <= 3
            assert len(set(reasons)) == len(reasons)
            for reason in reasons:
                assert reason == reason.strip()
                assert not reason.endswith(".")
                assert "_" not in reason
        assert each.says.endswith(".")


@settings(max_examples=14, deadline=None)
@given(case=cases, data=st.data())
def test_the_mean_miss_alone_is_the_mean_of_all_that_is_told(case, data):
    one = seen(case, data.draw(st.sampled_from(TWO)))
    whole = missed(one)
    assert mean_miss(one) == pytest.approx(whole.mean_de)
    assert whole.worst.de == max(each.de for each in whole.zones if not each.purpose or whole.worst.purpose)


@settings(max_examples=14, deadline=None)
@given(case=cases, data=st.data())
def test_layers_add_up_to_the_load_that_is_told(case, data):
    one = seen(case, data.draw(st.sampled_from(TWO)))
    after = one.course.after
    heights = after.load_film + HOUSE.powder_film_um_per_mg * after.load_powder
    told = {row.zone: row.load_um for row in one.forecast}
    assert heights == pytest.approx(np.array([told[zone] for zone in ZONES]), abs=1e-6)
    for index, done in enumerate(one.course.done):
        assert (after.powder[index] <= done.powder + 1e-12).all()


@settings(max_examples=14, deadline=None)
@given(case=cases)
def test_another_foundation_is_laid_where_most_of_it_lay(case):
    for one in pair(case):
        own = [step for step in one.sequence.steps if step.kind == "foundation"]
        swaps = with_foundation(one.sequence, "another")
        assert bool(swaps) == bool(own)
        assert {each.step for each in swaps} <= {step.id for step in own}
        swapped = {step.item for step in own if step.id in {each.step for each in swaps}}
        assert len(swapped) <= 1
