"""The figures two plans are told apart by, and bases ranked against each other."""

from __future__ import annotations

from dataclasses import replace

import pytest

from nabrel.core.ask.compare import compare
from nabrel.core.ask.recommend import plan, rank, rank_schools
from nabrel.core.ask.weigh import weigh, with_foundation
from nabrel.core.base.possible import apply_edits
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.judge.figures import MEASURES, deepest_crease, mean_film, reads_through, visible
from nabrel.core.judge.misses import FRAMED, missed
from nabrel.core.plan.edits import SetAmount, SetProduct
from nabrel.core.terms.schools import SCHOOLS
from tests.conftest import in_school

HOUSE = House()
BY_NAME = {each.name: each for each in MEASURES}


@pytest.fixture(scope="module")
def six(people):
    """Tamsin in all six schools, by school."""
    return {school: evaluate(plan(in_school(people["Tamsin"], school), HOUSE), HOUSE) for school in SCHOOLS}


def every_portion(sequence, kind, amount):
    """Edits that lay every portion of a kind of step at one amount."""
    return [
        SetAmount(step.id, amount, place)
        for step in sequence.steps
        if step.kind == kind
        for place in range(len(step.portions))
    ]


def films(sequence, kit, film_um):
    """The sequence with all its foundation laid at one film."""
    return apply_edits(sequence, every_portion(sequence, "foundation", film_um), kit)


@pytest.fixture(scope="module")
def kit(people):
    return {item.id: item for item in people["Tamsin"].kit}


def test_every_figure_has_a_name_of_its_own_and_says_which_way_is_better(six):
    assert len(BY_NAME) == len(MEASURES)
    one = six["underpainted"]
    for each in MEASURES:
        assert each.wish(one) == {
            "lower": "lower is better",
            "higher": "higher is better",
            "neither": "",
        }.get(each.better, f"{each.aim(one):.1f} is wanted" if each.aim else "")


@pytest.mark.parametrize("measure", MEASURES, ids=lambda each: each.name)
def test_a_plan_is_neither_better_nor_worse_than_itself(six, measure):
    for one in six.values():
        assert measure.gain(one, one) == ""


@pytest.mark.parametrize("measure", MEASURES, ids=lambda each: each.name)
def test_what_is_better_one_way_is_worse_the_other_way(six, measure):
    turned = {"better": "worse", "worse": "better", "": ""}
    for one in six.values():
        for other in six.values():
            assert measure.gain(one, other) == turned[measure.gain(other, one)]


def test_a_shade_is_best_as_wanted_neither_lost_nor_a_stripe(six, kit):
    shade = BY_NAME["Shade that shows"]
    wanted = six["underpainted"]
    lost = evaluate(films(wanted.sequence, kit, 20.0), HOUSE)
    assert visible(lost, "shade") < visible(wanted, "shade")
    assert shade.gain(wanted, lost) == "worse"
    stripe = evaluate(apply_edits(wanted.sequence, every_portion(wanted.sequence, "shade", 20.0), kit), HOUSE)
    assert visible(stripe, "shade") > 1.5 * HOUSE.wanted_shade_drop
    assert shade.gain(wanted, stripe) == "worse"


def test_a_step_that_looks_as_wanted_is_neither_better_nor_worse(six, kit):
    shade = BY_NAME["Shade that shows"]
    one = six["underpainted"]
    step = next(each for each in one.sequence.steps if each.kind == "shade")
    nearly = evaluate(apply_edits(one.sequence, [SetAmount(step.id, step.film_um * 1.05)], kit), HOUSE)
    assert 0 < abs(shade.of(nearly) - shade.of(one)) < HOUSE.wanted_within
    assert shade.gain(one, nearly) == ""


def test_an_educator_may_want_it_nearer(six, kit):
    shade = BY_NAME["Shade that shows"]
    sequence = six["underpainted"].sequence
    step = next(each for each in sequence.steps if each.kind == "shade")
    further = apply_edits(sequence, [SetAmount(step.id, step.film_um * 1.25)], kit)
    exact = replace(HOUSE, wanted_within=0.0)
    off = [abs(shade.told(evaluate(each, exact)) - exact.wanted_shade_drop) for each in (sequence, further)]
    assert off[0] != off[1]
    assert shade.gain(evaluate(sequence, exact), evaluate(further, exact)) == ("worse" if off[1] > off[0] else "better")


def test_a_camera_wants_another_shade_than_an_arm_s_length(people):
    case = people["Tamsin"]
    seen = [replace(case, intent=replace(case.intent, viewing=viewing)) for viewing in ("in_person", "stage")]
    near, far = (BY_NAME["Shade that shows"].wish(evaluate(plan(each, HOUSE), HOUSE)) for each in seen)
    assert near != far


def test_what_reads_through_falls_with_cover(six, kit):
    through = [reads_through(evaluate(films(six["underpainted"].sequence, kit, um), HOUSE)) for um in (2.0, 6.0, 14.0)]
    assert through == sorted(through, reverse=True)
    assert reads_through(six["overpainted"]) > 90


def test_figures_of_bare_skin_are_nothing(six):
    bare = replace(six["underpainted"].sequence, steps=())
    one = evaluate(bare, HOUSE)
    assert (mean_film(one), visible(one, "shade"), reads_through(one), deepest_crease(one)) == (0.0, 0.0, 0.0, 0.0)
    assert BY_NAME["Steps"].told(one) == 0.0


def test_a_difference_says_of_each_figure_whether_it_gained(six, kit):
    thin = six["underpainted"]
    found = {row.name: row for row in compare(thin, evaluate(films(thin.sequence, kit, 14.0), HOUSE)).figures}
    assert found["Film, mean of zones"].gain == "worse"
    assert found["Product"].gain == "worse"
    assert found["Sculpting that reads through"].gain == ""


def test_two_tones_are_framed_deeper_on_purpose(six):
    purposes = {each.zone: each.purpose for each in missed(six["two_tone"]).zones}
    framed = [zone for zone, purpose in purposes.items() if purpose == FRAMED]
    assert framed
    assert set(framed) <= set(six["two_tone"].reading.placement.shade.zones)
    assert FRAMED not in {each.purpose for each in missed(six["overpainted"]).zones}
    assert FRAMED not in {each.purpose for each in missed(six["two_tone"], -1).zones}


# Another foundation


def test_another_foundation_goes_where_most_of_it_lies(six, kit):
    sequence = six["underpainted"].sequence
    now = apply_edits(sequence, with_foundation(sequence, "full-matt-3"), kit)
    assert {step.item for step in now.steps if step.kind == "foundation"} == {"full-matt-3"}


def test_the_second_tone_stays_when_the_first_is_swapped(six, kit):
    sequence = six["two_tone"].sequence
    tones = {step.item for step in sequence.steps if step.kind == "foundation"}
    assert len(tones) == 2
    now = apply_edits(sequence, with_foundation(sequence, "full-matt-3"), kit)
    after = {step.item for step in now.steps if step.kind == "foundation"}
    assert "full-matt-3" in after
    assert len(after & tones) == 1


def test_without_foundation_there_is_nothing_to_swap(six):
    none = replace(six["underpainted"].sequence, steps=six["underpainted"].sequence.steps[:1])
    assert with_foundation(none, "full-matt-3") == ()


# Ranked against each other


def test_candidates_are_ranked_as_the_schools_are(people, six):
    ranked = rank(list(six.values()))
    assert [each.school for each in ranked] == [each.school for each in rank_schools(people["Tamsin"], HOUSE)]
    assert sorted(each.place for each in ranked) == list(range(6))
    assert [each.weight for each in ranked] == sorted(each.weight for each in ranked)


def test_a_heavier_version_of_a_plan_does_not_suit_better(six, kit):
    thin = six["overpainted"]
    heavy = evaluate(films(thin.sequence, kit, 18.0), HOUSE)
    for order in ([thin, heavy], [heavy, thin]):
        best = rank(order)[0]
        assert best.evaluation is thin
        assert "the least film" in best.says


def test_reasons_that_all_share_are_not_told(six):
    same = rank([six["underpainted"]] * 3)
    assert [each.place for each in same] == [0, 1, 2]
    for each in same:
        assert each.speaks_for == each.speaks_against == ()
        assert each.says == "Nothing speaks for or against it in particular."


def test_reasons_told_differ_between_candidates(six):
    ranked = rank([six["underpainted"], six["overpainted"]])
    told = [set(each.speaks_for) | set(each.speaks_against) for each in ranked]
    assert any(told)
    assert not told[0] & told[1]


def test_bare_skin_suits_worse_than_any_base(six):
    bare = evaluate(replace(six["underpainted"].sequence, steps=()), HOUSE)
    assert [each.place for each in rank([bare, six["doubled"]])] == [1, 0]
    base, nothing = rank([bare, six["doubled"]])
    assert nothing.speaks_against == ("nothing lies on the skin yet",)
    assert not any("in the quickest" in each or "in the thinnest" in each for each in base.speaks_against)
    assert str(visible(bare, "shade")) == "0.0"


def test_one_candidate_alone_keeps_its_reasons(six):
    (only,) = rank([six["underpainted"]])
    assert only.speaks_for or only.speaks_against


def test_a_foundation_of_fuller_cover_is_weighed_by_what_still_shows(six, kit):
    sequence = six["underpainted"].sequence
    fuller = apply_edits(
        sequence,
        [SetProduct(step.id, "full-matt-3") for step in sequence.steps if step.kind == "foundation"],
        kit,
    )
    (row,) = [row for row in weigh([six["underpainted"], evaluate(fuller, HOUSE)]) if row.name == "Shade that shows"]
    assert row.best == (0,)
    assert row.values[1] < row.values[0]


def test_any_two_schools_come_in_the_order_in_which_all_six_do(people):
    """One ranking: what a base weighs hangs on nobody else, so Weigh and Schools cannot disagree."""
    met = 0
    for name in ("Tamsin", "Isolde", "Merrick", "Halcyon"):
        six = rank_schools(people[name], HOUSE)
        for ahead, better in enumerate(six):
            for worse in six[ahead + 1 :]:
                met += 1
                one, other = rank([worse.evaluation, better.evaluation])
                assert other.weight - one.weight == pytest.approx(worse.weight - better.weight)
                assert one.evaluation is (better if worse.weight > better.weight else worse).evaluation
    assert met == 60


def test_a_trace_of_film_does_not_decide_against_reasons(six, kit):
    """A fifth of a µm less is no reason to take another base."""
    one = six["overpainted"]
    same = replace(one, sequence=replace(one.sequence, title="The same"))
    first, second = rank([one, same])
    assert first.as_good
    assert second.as_good
    assert first.weight == second.weight


def test_what_is_plainly_better_in_a_figure_is_said_for_it_and_against_the_other(six, kit):
    thin = six["overpainted"]
    heavy = evaluate(films(thin.sequence, kit, 18.0), HOUSE)
    better, worse = rank([thin, heavy])
    assert [each.as_good for each in (better, worse)] == [True, False]
    assert any(said.startswith("the least film") for said in better.speaks_for)
    assert any("in the thinnest" in said for said in worse.speaks_against)


def test_a_base_without_prices_is_not_called_the_cheapest(six):
    one = six["overpainted"]
    case = one.sequence.case
    priceless = replace(case, kit=tuple(replace(item, price=None) for item in case.kit))
    free = evaluate(replace(one.sequence, case=priceless), HOUSE)
    assert one.totals.cost
    assert free.totals.cost is None
    for each in rank([six["doubled"], free]):
        assert not any("0.00" in said for said in (*each.speaks_for, *each.speaks_against))
