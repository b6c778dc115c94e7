"""Two ways on trial: what their looks say, how sure that is, and when it is too early to say."""

from __future__ import annotations

from dataclasses import replace
from math import exp

import numpy as np
import pytest

from nabrel.core.ask.recommend import plan
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.learn.record import Hours, Look, WornBase
from nabrel.core.learn.wear_trial import LEAST_PAIRS, differs, graded, results, zones_of
from nabrel.core.terms.zones import ZONES, mirrored

HOUSE = House()
WAYS = ("powder", "no powder")
LEFT = (
    "cheek_apple_l",
    "cheek_hollow_l",
    "under_eye_l",
    "nose_side_l",
    "temple_l",
    "jaw_l",
    "smile_line_l",
    "cheekbone_l",
)
AT_H = (1, 2, 3, 4, 5, 6, 7, 8)


@pytest.fixture(scope="module")
def worn(people):
    return plan(people["Wren"], HOUSE)


def wearing(sequence, came, sign="shine", at=AT_H):
    looks = tuple(
        Look(60.0 * hour, seen=tuple(came), zones={zone: {sign: 1} for zone, when in came.items() if hour >= when})
        for hour in at
    )
    return WornBase("Wren", sequence, {zone: Hours(4.0, 6.0) for zone in came}, looks)


def day(worn, rng, factor, *, how="halves", zones=LEFT, noise=0.2, spread=0.0, sign="shine"):
    """A pair of bases of one day, of which the second lasts ``factor`` times as long."""
    shift = rng.normal(0, spread)
    base = {zone: 3.5 * exp(rng.normal(0, 0.3)) for zone in zones}
    first = {zone: hours * exp(rng.normal(0, noise)) for zone, hours in base.items()}
    second = {
        (mirrored(zone) if how == "halves" else zone): hours * factor * exp(shift + rng.normal(0, noise))
        for zone, hours in base.items()
    }
    return wearing(worn, first, sign), wearing(worn, second, sign)


def shine(pairs, how="halves"):
    return results(pairs, how, WAYS)[0]


@pytest.mark.parametrize("how", ["halves", "days"])
@pytest.mark.parametrize("factor", [0.5, 1.9])
def test_a_plain_difference_is_found_with_its_side_and_its_size(worn, how, factor):
    rng = np.random.default_rng(3)
    found = shine([day(worn, rng, factor, how=how) for _ in range(4)], how)
    assert found.sure
    assert found.low <= factor <= found.high
    assert (found.pairs, found.days) == (32, 4)
    better, worse = (WAYS[1], WAYS[0]) if factor > 1 else WAYS
    assert found.says.startswith(f"Hours to shine: {better} lasts longer than {worse}")


def test_two_that_are_alike_are_seldom_told_apart_and_a_day_of_its_own_does_not_pass_for_the_way(worn):
    told, held = [], []
    for seed in range(60):
        rng = np.random.default_rng(seed)
        found = shine([day(worn, rng, 1.0, spread=0.15) for _ in range(3)])
        told.append(found.sure)
        held.append(found.low <= 1.0 <= found.high)
    assert np.mean(told) <= 0.1
    assert np.mean(held) >= 0.9


def test_more_days_make_surer(worn):
    def width(days):
        rng = np.random.default_rng(11)
        found = shine([day(worn, rng, 1.3) for _ in range(days)])
        return found.high / found.low

    assert width(8) < width(3) < width(1)


def test_it_is_too_early_to_say_with_nothing_with_little_and_with_what_may_be_either_way(worn):
    nothing = shine([])
    assert (nothing.pairs, nothing.sure, nothing.factor) == (0, False, 1.0)
    assert "no zone was looked at both ways yet" in nothing.says
    few = shine([day(worn, np.random.default_rng(1), 3.0, zones=LEFT[: LEAST_PAIRS - 1])])
    assert not few.sure
    assert "too early to say, fewer than 6 zones" in few.says
    alike = shine([day(worn, np.random.default_rng(2), 1.0)])
    assert not alike.sure
    assert "it may be either way" in alike.says


def test_on_halves_a_zone_in_the_middle_is_no_pair_and_each_half_has_its_own_zones(worn):
    first = wearing(worn, {"nose_tip": 2.0, "chin": 3.0, "cheek_apple_l": 2.5})
    second = wearing(worn, {"nose_tip": 5.0, "chin": 5.0, "cheek_apple_r": 4.5})
    assert shine([(first, second)]).pairs == 1
    assert shine([(first, second)], "days").pairs == 2
    left, right = zones_of("halves", "left"), zones_of("halves", "right")
    assert not left & right
    assert {mirrored(zone) for zone in left} == right
    assert zones_of("days", "first") == frozenset(ZONES)
    assert all(mirrored(mirrored(zone)) == zone for zone in ZONES)


def test_hours_of_colour_ask_for_zones_with_colour_on_both(worn):
    rng = np.random.default_rng(5)
    pair = day(worn, rng, 2.0, sign="fade")
    fading = results([pair], "halves", WAYS)[1]
    assert fading.pairs == len(LEFT)
    bare = replace(pair[1], forecast={zone: Hours(4.0) for zone in pair[1].forecast})
    assert results([(pair[0], bare)], "halves", WAYS)[1].pairs == 0


def test_signs_without_hours_are_counted_zone_by_zone(worn):
    first = wearing(worn, {"under_eye_l": 2.0, "smile_line_l": 2.0, "jaw_l": 99}, sign="crease")
    second = wearing(worn, {"under_eye_r": 99, "smile_line_r": 99, "jaw_r": 99}, sign="crease")
    assert graded([(first, second)], "halves", WAYS) == (
        "Creases: more with powder on 2 zones, with no powder on 0 zones.",
    )
    assert graded([(second, second)], "days", WAYS) == ()


def test_what_to_look_at_is_where_the_two_are_forecast_furthest_apart(people):
    oily = people["Bram"]
    bare = replace(oily, intent=replace(oily.intent, setting="none"))
    one, other = (evaluate(plan(case, HOUSE), HOUSE) for case in (oily, bare))
    found = differs(one, other, "days")
    assert any("After 25 min" in line for line in found.look_at)
    (shine_at,) = [line for line in found.look_at if "shine" in line]
    assert "forecast furthest apart" in shine_at
    assert found.figures
    same = differs(one, one, "days")
    assert (same.says, same.figures, len(same.look_at)) == ((), (), 1)
