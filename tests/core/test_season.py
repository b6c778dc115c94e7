"""A season of wear: where it wears short, and the hours until the first zone showed it."""

from __future__ import annotations

from dataclasses import replace
from math import inf

import pytest

from nabrel.core.ask.recommend import plan
from nabrel.core.case.intent import Climate
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.learn.drivers import drivers
from nabrel.core.learn.record import Hours, Look, WornBase, look_says
from nabrel.core.learn.season import Day, day_of, wears_short
from nabrel.core.learn.settled import settled_colours

HOUSE = House()


@pytest.fixture(scope="module")
def worn(people):
    return plan(people["Wren"], HOUSE)


def wearing(worn, forecast, shines):
    """Looks after 2, 4 and 6 h; each zone shines from its hour on."""
    looks = tuple(
        Look(
            60.0 * hour, seen=tuple(shines), zones={zone: {"shine": 1} for zone, when in shines.items() if hour >= when}
        )
        for hour in (2, 4, 6)
    )
    return WornBase("Wren", worn, {zone: Hours(hours) for zone, hours in forecast.items()}, looks)


def test_it_is_counted_what_came_sooner_and_what_later_than_forecast(worn):
    forecast = {"nose_tip": 5.0, "nose_bridge": 1.0, "chin": 3.0, "cheek_apple_l": 9.0}
    found = wears_short(
        [wearing(worn, forecast, {"nose_tip": 3.0, "nose_bridge": 3.0, "chin": 3.0, "cheek_apple_l": 99})]
    )
    rows = {(each.region, each.sign): (each.zones, each.sooner, each.later) for each in found}
    assert rows == {("nose", "shine"): (2, 1, 1), ("mouth", "shine"): (1, 0, 0), ("cheeks", "shine"): (1, 0, 0)}
    assert found[0].region == "nose"
    assert found[0].says == "sooner than forecast on 1 of 2 zones, later on 1, as forecast or not known on 0"
    assert wears_short([]) == ()


def test_a_base_shone_when_its_first_zone_did(worn):
    forecast = {"nose_tip": 5.0, "chin": 3.0}
    assert list(day_of(wearing(worn, forecast, {"nose_tip": 3.0, "chin": 5.0}))) == [Day("shine", 3.0, 2.0, 4.0)]
    assert list(day_of(wearing(worn, forecast, {"nose_tip": 99, "chin": 99}))) == [Day("shine", 3.0, 6.0, inf)]
    assert list(day_of(wearing(worn, {}, {"chin": 3.0}))) == []


def test_a_look_is_told_by_sign_with_the_shortest_places():
    both = {"under_eye_l": {"crease": 2, "shine": 0}, "under_eye_r": {"crease": 2}, "chin": {"shine": 1}}
    assert look_says(Look(60, seen=("neck",), zones=both)) == "Shine 1 on the chin; creases 2 under both eyes."
    assert look_says(Look(60, seen=("neck",))) == "Nothing to see."
    assert look_says(Look(60, note="It rained.")) == ""


def test_a_forecast_that_was_wrong_says_what_it_counts_on(people):
    evaluation = evaluate(plan(people["Bram"], HOUSE), HOUSE)
    calm, hot = Climate(HOUSE.oil_calm_c, 50.0), Climate(35.0, 50.0)
    told = drivers(evaluation, "nose_tip", "shine", calm)
    here = evaluation.reading.zones["nose_tip"]
    assert here.oily
    assert told[0] == f"oil {here.oily}"
    assert told[1].endswith("mg/cm² of powder")
    assert "35 °C" in drivers(evaluation, "nose_tip", "shine", hot)
    assert "35 °C" not in told
    assert ("a setting mist" in drivers(evaluation, "cheek_apple_l", "fade", calm)) is any(
        step.kind == "setting_mist" for step in evaluation.sequence.steps
    )


def test_a_base_settles_by_what_its_products_say_of_themselves_and_not_before_its_time(people):
    case = people["Wren"]
    sequence = plan(case, HOUSE)
    used = {part.item for step in sequence.steps if step.kind == "foundation" for part in step.mix}

    darkening = tuple(replace(item, half_hour=(-6.0, 1.0, 2.0)) if item.id in used else item for item in case.kit)
    dark = replace(sequence, case=replace(sequence.case, kit=darkening))
    steady = replace(sequence, case=replace(sequence.case, kit=tuple(replace(i, half_hour=None) for i in case.kit)))
    laid = settled_colours(steady, HOUSE)["cheek_apple_l"]
    at = {minutes: settled_colours(dark, HOUSE, minutes)["cheek_apple_l"][0] for minutes in (0, 15, 30, 300)}
    assert at[0] == pytest.approx(laid[0], abs=1e-9)
    assert at[0] > at[15] > at[30]
    assert at[30] == at[300]
