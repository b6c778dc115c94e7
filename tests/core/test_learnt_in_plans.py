"""What was taken over from wear records: in forecasts, touch-ups, setting and school ranking, each time said."""

from __future__ import annotations

from dataclasses import replace

import pytest

from nabrel.core.ask.compare import compare
from nabrel.core.ask.recommend import plan, rank_schools
from nabrel.core.ask.weigh import weigh
from nabrel.core.documents.sheet import sheet_of
from nabrel.core.documents.tell import tell
from nabrel.core.errors import Refused
from nabrel.core.house import House
from nabrel.core.house.factors import Factor, factor_named, learnt_from, looks_of, parameter_of
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.learn.consequences import concerns, consequence
from nabrel.core.learn.unlearnt import forecast_hours
from nabrel.core.planner.finish_stages import FOLDS
from nabrel.core.wear.learnt import factors_on, items_about, laid_by
from nabrel.core.wear.touch_up import shine_is_minded

HOUSE = House()
NAMES = ("Bram", "Dunstan", "Halcyon", "Isolde", "Merrick", "Posy", "Tamsin", "Wren")


def taught(*factors):
    return replace(HOUSE, factors=tuple(factor_named(what, to, looks) for what, to, looks in factors))


def pressed(sequence):
    """Setting powder by zone, mg/cm²."""
    return {
        zone: amount
        for step in sequence.steps
        if step.kind == "set" and step.unit == "mg_cm2"
        for zone, amount in step.amounts.items()
    }


@pytest.mark.parametrize("what", [
    "shine_hours of sitter Wren", "colour_hours of item col-rose", "crease of house", "cake of sitter Two Words",
])  # fmt: skip
def test_the_name_of_a_factor_is_read_as_it_is_written(what):
    found = factor_named(what, 1.2, 12)
    assert (found.parameter, found.factor, found.looks) == (what, 1.2, 12)
    assert parameter_of(found.about, found.of, found.id) == what


@pytest.mark.parametrize("what", [
    "", "shine_hours", "shine_hours of house Wren", "shine_hours of sitter", "lift of house", "shine of house",
    "shine_hours of school underpainted", "press_mg",
])  # fmt: skip
def test_what_no_forecast_is_multiplied_by_is_refused_by_name(what):
    with pytest.raises(Refused) as refused:
        factor_named(what, 1.2, field="decisions[0].what")
    assert refused.value.field == "decisions[0].what"
    assert "shine_hours" in refused.value.allowed


@pytest.mark.parametrize("factor", [0.0, 0.05, 11.0])
def test_a_factor_that_nobody_would_believe_is_refused(factor):
    with pytest.raises(Refused, match=r"0\.1 to 10"):
        factor_named("shine_hours of house", factor)


def test_a_factor_multiplies_its_own_figure_and_no_other(people):
    sequence = plan(people["Bram"], HOUSE)
    before = {row.zone: row for row in evaluate(sequence, HOUSE).forecast}
    moved = 0
    for what, field in (
        ("shine_hours", "shine_hours"),
        ("colour_hours", "colour_hours"),
        ("crease", "crease"),
        ("cake", "cake"),
    ):
        after = evaluate(sequence, taught((f"{what} of sitter Bram", 0.8, 9))).forecast
        for row in after:
            was = before[row.zone]
            for other in {"shine_hours", "colour_hours", "crease", "cake"} - {field}:
                assert getattr(row, other) == getattr(was, other)
            value = getattr(was, field)
            if value and value < HOUSE.most_hours:
                moved += 1
                assert getattr(row, field) == pytest.approx(0.8 * value)
                assert row.looks_behind(what) == 9
    assert moved > 60


def test_a_factor_of_another_sitter_or_of_what_is_not_laid_moves_nothing(people):
    sequence = plan(people["Wren"], HOUSE)
    plain = evaluate(sequence, HOUSE)
    others = evaluate(sequence, taught(("shine_hours of sitter Bram", 0.5, 3), ("shine_hours of item nothing", 2.0, 3)))
    assert others.forecast == plain.forecast
    assert others.totals == plain.totals


def test_a_factor_of_an_item_counts_where_it_lies_and_hours_of_colour_ask_for_the_colour(people):
    sequence = plan(people["Bram"], HOUSE)
    laid = laid_by(sequence.steps)
    powder = next(own[2] for own in laid.values() if own[2])
    house = taught((f"shine_hours of item {powder}", 1.5, 4))
    lying = [zone for zone, own in laid.items() if own[2] == powder]
    counted = [zone for zone, own in laid.items() if factors_on(house, "shine_hours", "Bram", own)]
    assert lying
    assert sorted(lying) == sorted(counted)
    assert items_about("colour_hours", ("film", "colour", "powder")) == ("colour", "powder")
    assert items_about("crease", ("film", "colour", None)) == ("film",)


def test_hours_never_pass_the_most_and_an_index_never_passes_one(people):
    sequence = plan(people["Wren"], HOUSE)
    found = evaluate(
        sequence,
        taught(("shine_hours of house", 10.0, 1), ("colour_hours of house", 10.0, 1), ("crease of house", 10.0, 1)),
    )
    assert max(row.shine_hours for row in found.forecast) == HOUSE.most_hours
    assert max(row.colour_hours or 0 for row in found.forecast) <= HOUSE.most_hours
    assert max(row.crease for row in found.forecast) == 1.0


def test_more_looks_than_the_best_founded_factor_are_never_claimed():
    both = (Factor("crease", "house", "", 1.1, 30), Factor("crease", "sitter", "Wren", 1.2, 12))
    assert looks_of(both) == 30
    assert (learnt_from(30), learnt_from(1), learnt_from(0)) == ("learnt from 30 looks", "learnt from 1 look", "")


def test_learning_starts_from_forecasts_without_anything_learnt_in_them(people):
    sequence = plan(people["Bram"], HOUSE)
    assert forecast_hours(sequence, taught(("shine_hours of house", 0.5, 3))) == forecast_hours(sequence, HOUSE)


@pytest.mark.parametrize("name", NAMES)
def test_where_it_shone_sooner_more_is_pressed_and_where_later_less(people, name):
    """On every demo face: no zone that nobody minds, no fold, and never above a full veil."""
    case, usual = people[name], pressed(plan(people[name], HOUSE))
    sooner = plan(case, taught((f"shine_hours of sitter {name}", 0.55, 12)))
    later = pressed(plan(case, taught((f"shine_hours of sitter {name}", 1.8, 12))))
    more = pressed(sooner)
    assert set(usual) <= set(more)
    reading = evaluate(sooner, HOUSE).reading
    for zone, amount in more.items():
        assert usual.get(zone, 0.0) <= amount <= HOUSE.rung_full_mg
        if amount != usual.get(zone):
            assert zone not in FOLDS
            assert shine_is_minded(reading.zones[zone], case.intent.finish)
    assert all(later[zone] <= amount for zone, amount in usual.items())


def test_somebody_gets_more_somebody_less_and_the_reason_says_from_how_many_looks(people):
    told = []
    for name in NAMES:
        for factor in (0.55, 1.8):
            sequence = plan(people[name], taught((f"shine_hours of sitter {name}", factor, 12)))
            told += [
                why
                for step in sequence.steps
                for portion in step.portions
                for why in portion.why
                if "than forecast" in why
            ]
    more = [
        why
        for why in told
        if why.startswith("More powder than usual, folds aside: by wear records it shines sooner here")
    ]
    less = [
        why
        for why in told
        if why.startswith("Less powder than usual, folds aside: by wear records it shines later here")
    ]
    assert len(more) >= 3
    assert len(less) >= 3
    assert all(why.endswith("learnt from 12 looks.") for why in told)


def test_quiet_skin_that_shone_before_its_time_is_set_as_well(people):
    """Tamsin's forehead is read as quiet and stays without powder, until it was seen to shine."""
    usual, more = (
        pressed(plan(people["Tamsin"], house)) for house in (HOUSE, taught(("shine_hours of sitter Tamsin", 0.5, 8)))
    )
    assert "forehead_centre" not in usual
    assert more["forehead_centre"] > 0


def test_every_place_that_tells_the_hours_says_what_they_were_learnt_from(people):
    house = taught(("shine_hours of sitter Bram", 0.6, 30), ("colour_hours of house", 0.8, 12))
    sequence = plan(people["Bram"], HOUSE)
    found = evaluate(sequence, house)
    assert found.totals.shine_looks == 30
    blots = [each for each in found.touch_ups if "Blot" in each.does]
    assert blots
    assert {each.looks for each in blots} == {30}
    assert "(learnt from 30 looks)" in tell(found)
    assert any("(learnt from 30 looks)" in line for line in sheet_of(found).later)
    says = next(each.says for each in found.findings if each.rule == "shine-before-time")
    assert "(learnt from 30 looks)" in says
    figures = weigh([evaluate(sequence, HOUSE), found])
    assert next(each.wish for each in figures if each.name == "First shine").endswith("learnt from 30 looks")
    other = evaluate(plan(replace(people["Bram"], intent=replace(people["Bram"].intent, setting="none")), HOUSE), house)
    assert "First shine (learnt from 30 looks)" in [figure.name for figure in compare(found, other).figures]
    ranked = rank_schools(people["Bram"], house)
    shine = [reason for each in ranked for reason in each.speaks_against if "shines after" in reason]
    assert all("(learnt from 30 looks)" in reason for reason in shine)


def test_a_touch_up_comes_sooner_where_it_shone_sooner(people):
    sequence = plan(people["Bram"], HOUSE)
    usual, sooner = (
        evaluate(sequence, house).touch_ups for house in (HOUSE, taught(("shine_hours of sitter Bram", 0.6, 30)))
    )
    assert sooner[0].hour < usual[0].hour
    assert len(sooner) >= len(usual)


def test_what_would_change_is_what_does_change(people):
    """The figures in the sentences are those of the plan evaluated, and planned again, with the factor."""
    said = 0
    for name in NAMES:
        factor = factor_named(f"shine_hours of sitter {name}", 0.6, 9)
        sequence = plan(people[name], HOUSE)
        found = consequence(sequence, HOUSE, factor)
        assert found is not None
        learnt = replace(HOUSE, factors=(factor,))
        after = next(row for row in evaluate(sequence, learnt).forecast if row.zone == found.zone)
        assert found.after == pytest.approx(after.shine_hours)
        assert f"{found.after:.1f} h instead of {found.before:.1f} h" in found.says[0]
        school = replace(people[name], intent=replace(people[name].intent, school=sequence.school))
        anew = plan(school, learnt)
        if found.anew is None:
            assert pressed(anew) == pressed(plan(school, HOUSE))
            assert found.says[-1] == "Planned again, the same is laid."
        else:
            said += 1
            row = next(row for row in evaluate(anew, learnt).forecast if row.zone == found.zone)
            assert found.anew == pytest.approx(row.shine_hours)
            assert found.anew > found.after
            assert f"{pressed(anew)[found.zone]:g}" in found.says[-1]
    assert said >= 3


def test_a_factor_concerns_the_plans_in_which_it_would_count(people):
    wren, bram = (plan(people[name], HOUSE) for name in ("Wren", "Bram"))
    sitter = factor_named("shine_hours of sitter Bram", 0.6)
    assert (concerns(sitter, bram), concerns(sitter, wren)) == (True, False)
    assert consequence(wren, HOUSE, sitter) is None
    assert concerns(factor_named("crease of house", 1.2), wren)
    colour = next(step.item for step in wren.steps if step.kind == "colour" and step.item)
    assert concerns(factor_named(f"colour_hours of item {colour}", 0.8), wren)
    assert not concerns(factor_named(f"shine_hours of item {colour}", 0.8), wren)
