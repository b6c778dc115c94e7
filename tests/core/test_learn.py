"""Learning: what looks say, the fit against plain ways of finding the same, and simulated truth that it must find again."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, datetime, timedelta
from math import exp, inf, log

import numpy as np
import pytest
from scipy.optimize import minimize
from scipy.stats import norm

from nabrel.core.ask.recommend import plan
from nabrel.core.case.intent import Climate
from nabrel.core.errors import Refused
from nabrel.core.house import House
from nabrel.core.learn import learnt
from nabrel.core.learn.fit import PRIOR_SD, fitted
from nabrel.core.learn.learnt import NEWEST_AGAINST, WORTH, learn
from nabrel.core.learn.record import Hours, Look, WornBase, checked_looks
from nabrel.core.learn.seen import GRADED, Observation, came_between, looked_at, observations
from nabrel.core.learn.unlearnt import forecast_hours

HOUSE = House()
AT_MIN = (120, 240, 360, 480)
ZONES = ("forehead_centre", "under_eye_l", "nose_side_l", "cheek_apple_l", "upper_lip", "chin", "jaw_l", "temple_l")


@pytest.fixture(scope="module")
def worn(people):
    """A plan as it was worn, whose zones take part in the simulations."""
    return plan(people["Wren"], HOUSE)


def looked(hours_by_zone, sign="shine", at=AT_MIN):
    """Looks that show a sign on each zone from its hour on."""
    return tuple(
        Look(minute, "daylight", tuple(hours_by_zone), {z: {sign: 2} for z, h in hours_by_zone.items() if minute / 60 >= h})
        for minute in at
    )  # fmt: skip


def season(worn, rng, *, sitters=6, runs=10, noise=0.25, effects=True):
    """Records of bases whose hours follow a drawn truth, and that truth."""
    spread = {of: sd if effects else 0.0 for of, sd in PRIOR_SD.items()}
    names = [f"Sitter {number}" for number in range(sitters)]
    truth = {("house", ""): rng.normal(0, spread["house"]) if effects else 0.0}
    truth |= {("sitter", name): rng.normal(0, spread["sitter"]) for name in names}
    truth |= {("zone_group", group): rng.normal(0, spread["zone_group"]) for group in
              ("forehead", "eyes", "nose", "cheeks", "mouth", "jaw_neck")}  # fmt: skip
    forecast = {zone: Hours(float(rng.uniform(2, 8))) for zone in ZONES}
    wearings = []
    for _ in range(runs):
        for name in names:
            bare = WornBase(name, worn, forecast, looked(dict.fromkeys(ZONES, 1.0)))
            of = {seen.zone: seen.effects for seen in observations([bare]) if seen.about == "shine_hours"}
            for zone in ZONES:
                for effect in of[zone]:
                    truth.setdefault(effect, rng.normal(0, spread[effect[0]]))
            came = {
                z: forecast[z].shine_hours * exp(sum(truth[e] for e in of[z]) + rng.normal(0, noise)) for z in ZONES
            }
            wearings.append(replace(bare, looks=looked(came)))
    return wearings, truth


def shines(wearings):
    return [each for each in observations(wearings) if each.about == "shine_hours"]


def test_a_sign_came_between_the_last_look_without_it_and_the_first_with_it():
    looks = looked({"chin": 5.0, "nose_tip": 1.0, "neck": 99.0})
    found = {zone: came_between(looked, "shine") for zone, looked in looked_at(looks).items()}
    assert found == {"chin": (4.0, 6.0), "nose_tip": (0.0, 2.0), "neck": (8.0, inf)}
    gone_again = (*looks[:3], replace(looks[3], zones={}))
    assert came_between(looked_at(gone_again)["chin"], "shine") == (4.0, 6.0)


def test_a_zone_in_neither_list_was_not_looked_at_and_one_with_signs_was():
    look = Look(240, seen=("chin",), zones={"nose_tip": {"shine": 2}})
    assert looked_at([look]) == {"chin": [(4.0, {})], "nose_tip": [(4.0, {"shine": 2})]}


def test_observations_hold_what_was_seen_against_the_forecast(worn):
    wearing = WornBase("Wren", worn, {"chin": Hours(3.0, crease=0.5)}, looked({"chin": 5.0}))
    found = {each.about: each for each in observations([wearing])}
    shine = found["shine_hours"]
    assert (shine.low, shine.high) == pytest.approx((log(4 / 3), log(6 / 3)))
    assert ("sitter", "Wren") in shine.effects
    assert {of for of, _ in shine.effects} >= {"house", "zone_group", "sitter", "school", "item"}
    assert "colour_hours" not in found
    cuts = GRADED["crease"][1]
    assert (found["crease"].low, found["crease"].high) == pytest.approx((-inf, log(cuts[0] / 0.5)))


def test_the_fit_is_the_maximum_that_a_general_optimiser_finds(worn):
    own = shines(season(worn, np.random.default_rng(2), sitters=3, runs=2)[0])
    found = fitted(own)

    takes_part = np.array([[name in each.effects for name in found.names] for each in own], dtype=float)
    low, high = np.array([each.low for each in own]), np.array([each.high for each in own])
    spread = np.array([PRIOR_SD[of] for of, _ in found.names])

    def against(effects):
        middle = takes_part @ effects
        likely = norm.cdf((high - middle) / found.noise) - norm.cdf((low - middle) / found.noise)
        return 0.5 * ((effects / spread) ** 2).sum() - np.log(np.maximum(likely, 1e-300)).sum()

    best = minimize(against, np.zeros(len(found.names)), method="BFGS")
    assert found.effects == pytest.approx(best.x, abs=2e-3)
    assert np.diag(found.covariance) == pytest.approx(np.diag(best.hess_inv), rel=0.25)


def test_leaving_a_record_out_by_one_step_is_near_a_fit_without_it(worn):
    own = shines(season(worn, np.random.default_rng(3), sitters=4, runs=4)[0])
    whole = fitted(own)
    off = []
    for record in range(0, 16, 3):
        stored = [each for each in own if each.record != record]
        without = fitted(stored)
        by_name = dict(zip(without.names, without.effects, strict=True))
        for place, each in enumerate(own):
            if each.record == record:
                really = sum(by_name.get(name, 0.0) for name in each.effects)
                off.append(abs(whole.without[place] - really) / max(abs(whole.expected[place] - really), 1e-3))
    assert len(off) == 6 * len(ZONES)
    assert np.median(off) < 0.35


def test_intervals_hold_the_truth_in_nine_cases_of_ten(worn):
    held = []
    for seed in range(24):
        wearings, truth = season(worn, np.random.default_rng(seed), runs=8)
        found = learn(wearings)
        held += [
            each.low <= exp(truth[each.of, each.id]) <= each.high
            for each in found.effects
            if each.about == "shine_hours" and (each.of, each.id) in truth
        ]
    assert len(held) > 300
    assert 0.85 <= np.mean(held) <= 0.95


def test_after_five_runs_a_sitter_little_of_the_error_is_left(worn):
    left, before = [], []
    for seed in range(8):
        wearings, truth = season(worn, np.random.default_rng(100 + seed), sitters=6, runs=5)
        own = shines(wearings)
        found = fitted(own)
        really = np.array([sum(truth[name] for name in each.effects) for each in own])
        left.append(np.abs(found.without - really).mean())
        before.append(np.abs(really).mean())
    assert np.mean(left) / np.mean(before) < 0.4


def test_nothing_is_proposed_out_of_noise(worn):
    asked = proposed = 0
    for seed in range(20):
        wearings, _ = season(worn, np.random.default_rng(200 + seed), effects=False)
        found = learn(wearings)
        asked += sum(each.of in ("house", "sitter", "item") for each in found.effects)
        proposed += len(found.proposals)
    assert asked > 100
    assert proposed / asked < 0.05


def test_a_plain_effect_is_proposed_once_and_not_again_when_it_was_taken_over(worn):
    rng = np.random.default_rng(7)
    forecast = {zone: Hours(5.0) for zone in ZONES}
    wearings = [
        WornBase(name, worn, forecast, looked({z: 5.0 * (0.5 if name == "Oda" else 1.0) * exp(rng.normal(0, 0.15)) for z in ZONES}))
        for name in ("Oda", "Pim", "Quill", "Rolf") for _ in range(6)
    ]  # fmt: skip
    found = learn(wearings)
    (oda,) = [each for each in found.proposals if each.parameter == "shine_hours of sitter Oda"]
    assert (oda.was, oda.to < 0.75) == (1.0, True)
    assert "On Oda it shines sooner than forecast" in oda.says
    assert "learnt from 24 looks" in oda.says
    assert found.error.after < found.error.before
    again = learn(wearings, [oda.factor])
    assert oda.parameter not in [each.parameter for each in again.proposals]
    assert [abs(log(each.to)) > WORTH for each in found.proposals]


def test_an_effects_bounds_lie_as_far_on_either_side_in_logarithms(worn):
    wearings, _ = season(worn, np.random.default_rng(31), sitters=4, runs=6)
    found = learn(wearings)
    assert len(found.effects) > 10
    assert found.proposals
    for effect in (*found.effects, *(each.effect for each in found.proposals)):
        assert effect.low < effect.factor < effect.high
        assert effect.low * effect.high == pytest.approx(effect.factor**2)


@pytest.mark.parametrize(
    ("middle", "was", "far"),
    [
        (0.5, 1.0, True),
        (-0.5, 1.0, True),
        (0.5, exp(0.5), False),
        (-0.5, exp(-0.5), False),
        (0.5, exp(-0.5), True),
        (0.0, 1.0, False),
    ],
)
def test_a_factor_is_held_against_the_one_that_is_used_now(middle, was, far):
    assert learnt._far(middle, 0.05, was) is far


@pytest.mark.parametrize(
    ("low", "high", "expected", "off"),
    [
        (1.0, 3.0, 2.5, 0.5),
        (1.0, 3.0, 1.5, 0.5),
        (1.0, inf, 0.25, 0.75),
        (1.0, inf, 1.25, 0.0),
        (-inf, 1.0, 1.75, 0.75),
        (-inf, 1.0, 0.5, 0.0),
    ],
)
def test_how_far_an_expectation_lies_from_what_was_seen(low, high, expected, off):
    seen = Observation("shine_hours", 0, low, high, (), "chin")
    assert learnt._off(seen, expected) == pytest.approx(off)


def test_after_one_look_an_effect_is_wide_and_one_never_seen_is_the_prior(worn):
    one = learn([WornBase("Wren", worn, {"chin": Hours(3.0)}, looked({"chin": 7.0}, at=(240,)))])
    mine = one.effect("shine_hours", "sitter", "Wren")
    unseen = one.effect("shine_hours", "item", "never-used")
    assert mine.seen == 1
    assert log(mine.high / mine.low) > 0.8 * 2 * 1.6449 * PRIOR_SD["sitter"]
    assert (unseen.factor, unseen.seen) == (1.0, 0)
    assert log(unseen.high) == pytest.approx(1.6449 * PRIOR_SD["item"], rel=1e-3)
    assert unseen.low == pytest.approx(1 / unseen.high)
    assert not one.proposals


def test_records_that_contradict_each_other_widen(worn):
    def records(*hours):
        return [
            WornBase("Wren", worn, dict.fromkeys(ZONES, Hours(4.0)), looked(dict.fromkeys(ZONES, h))) for h in hours
        ]

    agreed = learn(records(5, 5, 5, 5, 5, 5)).effect("shine_hours", "sitter", "Wren")
    torn = learn(records(1, 9, 1, 9, 1, 9)).effect("shine_hours", "sitter", "Wren")
    assert torn.high / torn.low > agreed.high / agreed.low


def test_grades_teach_as_hours_do(worn):
    """Creases plainer than forecast, on every zone and day, make the house's creasing more than forecast."""
    forecast = dict.fromkeys(ZONES, Hours(6.0, crease=0.3))
    plain = learn([WornBase("Wren", worn, forecast, looked(dict.fromkeys(ZONES, 0.0), "crease")) for _ in range(8)])
    none = learn([WornBase("Wren", worn, forecast, looked(dict.fromkeys(ZONES, 99.0), "crease")) for _ in range(8)])
    whole = [exp(sum(log(each.factor) for each in found.effects if each.about == "crease" and each.of in ("house", "sitter")))
             for found in (plain, none)]  # fmt: skip
    assert whole[0] > 1.2
    assert whole[1] < 1.1 < whole[0]


def test_the_forecast_is_of_the_day_it_was_worn(worn):
    mild, hot = forecast_hours(worn, HOUSE), forecast_hours(worn, HOUSE, Climate(34.0, 80.0))
    assert mild.keys() == hot.keys()
    assert sum(hot[zone].shine_hours < mild[zone].shine_hours for zone in mild) > 10
    assert "brow_l" in mild or len(mild) >= 25


@pytest.mark.parametrize(
    ("looks", "field"),
    [((Look(60), Look(60)), "looks[1].after_min"), ((Look(60, seen=("lips",)),), "looks[0].zones"),
     (tuple(Look(minute) for minute in range(61)), "looks")],
)  # fmt: skip
def test_looks_that_cannot_be_are_refused_by_field(worn, looks, field):
    bare = replace(worn, steps=tuple(step for step in worn.steps if "lips" not in step.zones))
    with pytest.raises(Refused) as refused:
        checked_looks(looks, bare)
    assert refused.value.field == field


def test_looks_are_put_in_the_order_of_time(worn):
    assert [look.after_min for look in checked_looks((Look(240), Look(20)), worn)] == [20, 240]


def test_nothing_seen_teaches_nothing():
    found = learn([])
    assert (found.records, found.looks, found.effects, found.error.before) == (0, 0, (), None)
    with pytest.raises(ValueError, match="nothing"):
        fitted([])


def test_bounds_too_near_or_too_far_are_borne():
    """A look a second after another, and one far outside of what anybody forecast."""
    near = [Observation("shine_hours", r, 0.5, 0.5 + 1e-17, (("house", ""),), "chin") for r in range(3)]
    far = [Observation("shine_hours", r, 30.0, inf, (("house", ""),), "chin") for r in range(3)]
    for own in (near, far):
        found = fitted(own)
        assert np.isfinite(found.effects).all()
        assert np.isfinite(found.without).all()


def test_a_proposal_that_the_newest_looks_speak_against_says_so(worn):
    """Said just after creases were logged, that it creases less is no news to go by; in another order of days it is."""
    forecast = {zone: Hours(4.0, 6.0, crease=0.5) for zone in ZONES}
    smooth, creased = (looked(dict.fromkeys(ZONES, hours), "crease") for hours in (99.0, 0.0))

    def said(looks):
        day = datetime(2026, 3, 1, 9, tzinfo=UTC)
        wearings = [
            WornBase("Wren", worn, forecast, each, day + timedelta(days=number)) for number, each in enumerate(looks)
        ]
        # The order of the files is nobody's: the days count.
        return [each.says for each in learn(wearings[::-1]).proposals if each.effect.about == "crease"]

    late = said([smooth] * 20 + [creased] * 3)
    early = said([creased] * 3 + [smooth] * 20)
    assert early
    assert late
    assert all("creases less" in each for each in (*late, *early))
    assert all(each.endswith(NEWEST_AGAINST) for each in late)
    assert not any(NEWEST_AGAINST in each for each in early)
