"""Wear: lift, climate, fading, flare and the touch-up timetable."""

from __future__ import annotations

from dataclasses import replace
from math import exp

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nabrel.core.ask.recommend import plan
from nabrel.core.base.possible import apply_edits
from nabrel.core.base.state import lifted
from nabrel.core.case.intent import Climate
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.plan.edits import SetHand
from nabrel.core.terms.zones import ZONE_INDEX
from nabrel.core.wear.climate import climate_oil, climate_setting
from nabrel.core.wear.forecast import colour_hours, flare_index
from nabrel.core.wear.touch_up import BLOT, REFRESH

HOUSE = House()


def test_gentle_hands_lift_little_and_a_drag_lifts_a_third():
    def taken(tool, motion, film=1.0):
        return lifted(motion, tool, HOUSE, lays=film is not None)

    assert taken("fingers", "press") == 0
    assert (
        taken("fingers", "press") < taken("fingers", "feather") < taken("fingers", "sweep") < taken("fingers", "drag")
    )
    assert taken("fingers", "drag") == pytest.approx(HOUSE.lift_at_drag)
    assert taken("damp_sponge", "press", film=None) == pytest.approx(HOUSE.sponge_takes)


def test_dragging_foundation_over_wet_shade_takes_shade_away(people):
    sequence = plan(people["Tamsin"], HOUSE)
    before = evaluate(sequence, HOUSE)
    over = next(s for s in sequence.steps if s.kind == "foundation" and "cheek_hollow_l" in s.zones)
    place = next(n for n, portion in enumerate(over.portions) if "cheek_hollow_l" in portion.zones)
    dragged = apply_edits(sequence, [SetHand(over.id, motion="drag", portion=place)], before.products)
    after = evaluate(dragged, HOUSE)
    shade = next(i for i, s in enumerate(sequence.steps) if s.kind == "shade")
    column = ZONE_INDEX["cheek_hollow_l"]
    assert after.course.after.film[shade, column] < 0.7 * before.course.after.film[shade, column]
    assert (
        after.course.after.film[shade, ZONE_INDEX["hairline"]]
        == before.course.after.film[shade, ZONE_INDEX["hairline"]]
    )


def test_what_is_powdered_is_not_lifted(people):
    sequence = plan(people["Bram"], HOUSE)
    after = evaluate(sequence, HOUSE).course.after
    assert (after.film >= 0).all()
    set_at = next(i for i, s in enumerate(sequence.steps) if s.kind == "bake")
    zone = sequence.steps[set_at].zones[0]
    assert after[zone].wet_from is None


@given(st.floats(-30, 49), st.floats(0, 99))
def test_warmth_brings_oil_and_humidity_slows_setting(temperature, humidity):
    assert climate_oil(Climate(temperature + 1, 50), HOUSE) >= climate_oil(Climate(temperature, 50), HOUSE) > 0
    assert climate_setting(Climate(22, humidity + 1), HOUSE) >= climate_setting(Climate(22, humidity), HOUSE) > 0


def test_a_usual_day_changes_nothing():
    assert climate_oil(Climate(), HOUSE) == climate_setting(Climate(), HOUSE) == 1.0


def test_a_hot_humid_day_shines_sooner_and_waits_longer(people):
    bram = people["Bram"]
    hot = replace(bram, intent=replace(bram.intent, climate=Climate(33, 85)))
    mild, warm = evaluate(plan(bram, HOUSE), HOUSE), evaluate(plan(hot, HOUSE), HOUSE)
    assert warm.totals.least_shine_hours < mild.totals.least_shine_hours
    assert warm.totals.minutes > mild.totals.minutes


@given(st.floats(0.2, 3.0))
def test_colour_wears_longer_with_powder_and_mist_and_shorter_with_oil(oil):
    def hours(rate, powdered=False, misted=False):
        return colour_hours(rate, powdered=powdered, misted=misted, house=HOUSE)

    assert hours(oil) <= hours(oil, powdered=True) <= hours(oil, powdered=True, misted=True) <= HOUSE.most_hours
    assert hours(oil * 1.1) <= hours(oil)


@given(st.floats(0, 1.5), st.floats(20, 95), st.floats(20, 80))
def test_the_flare_index_rises_with_powder_and_paleness(mg, powder_l, skin_l):
    def flare(amount, level, reflective=False):
        return flare_index(amount, level, skin_l, reflective=reflective, house=HOUSE)

    assert 0 <= flare(mg, powder_l) <= 1
    assert flare(mg + 0.1, powder_l) >= flare(mg, powder_l)
    assert flare(mg, powder_l + 2) >= flare(mg, powder_l)
    assert flare(mg, powder_l, reflective=True) >= flare(mg, powder_l)
    assert flare(mg, skin_l) == 0


def test_the_flare_index_counts_powder_by_the_houses_amount_and_paleness_by_thirty_l():
    def flare(mg, paler, reflective=False):
        return flare_index(mg, 50.0 + paler, 50.0, reflective=reflective, house=HOUSE)

    assert flare(HOUSE.flare_mg, 30.0) == pytest.approx(1 - exp(-1))
    assert flare(2 * HOUSE.flare_mg, 15.0) == pytest.approx(1 - exp(-1))
    assert flare(HOUSE.flare_mg, 60.0) == pytest.approx(1 - exp(-2))
    assert flare(HOUSE.flare_mg, 30.0, reflective=True) == pytest.approx(1 - exp(-HOUSE.flare_reflective))


def test_touch_ups_stand_in_order_and_within_the_hours(people):
    evaluation = evaluate(plan(people["Bram"], HOUSE), HOUSE)
    found = evaluation.touch_ups
    hours = [each.hour for each in found]
    assert hours == sorted(hours)
    assert all(0 < hour < 8 for hour in hours)
    assert {each.does for each in found} == {BLOT, REFRESH}
    first = next(each for each in found if each.does == BLOT)
    assert first.hour <= evaluation.totals.least_shine_hours
    assert evaluation.totals.least_shine_zone in first.zones


def test_short_wear_needs_no_touch_up(people):
    evaluation = evaluate(plan(worn(people["Dunstan"], wear_hours=1.0), HOUSE), HOUSE)
    assert evaluation.touch_ups == ()


@pytest.mark.parametrize("hours", [4.0, 8.0, 16.0])
def test_every_oily_zone_that_shines_in_time_is_seen_to(people, hours):
    evaluation = evaluate(plan(worn(people["Bram"], wear_hours=hours), HOUSE), HOUSE)
    oily = {zone for zone, here in evaluation.reading.zones.items() if here.oily}
    seen = {zone for each in evaluation.touch_ups if each.does == BLOT for zone in each.zones}
    due = {row.zone for row in evaluation.forecast if row.film_um > 0 and row.shine_hours < hours - 0.5} & oily
    assert due
    assert due <= seen


def test_touch_ups_are_what_a_person_would_do_on_any_face(people):
    blots = colours = 0
    for case in people.values():
        for finish in ("dewy", "satin", "matte"):
            evaluation = evaluate(plan(worn(case, wear_hours=10.0, finish=finish), HOUSE), HOUSE, try_fixes=False)
            laid = {z for step in evaluation.sequence.steps if step.kind == "colour" for z in step.zones}
            for each in evaluation.touch_ups:
                here = [evaluation.reading.zones[zone] for zone in each.zones]
                if each.does == REFRESH:
                    colours += 1
                    assert set(each.zones) <= laid
                else:
                    blots += 1
                    assert not any(zone.dry and zone.oily < 2 for zone in here)
                    assert finish != "dewy" or all(zone.oily >= 2 for zone in here)
    assert blots > 10
    assert colours > 5


def worn(case, **wish):
    """The case with another wish."""
    return replace(case, intent=replace(case.intent, **wish))
