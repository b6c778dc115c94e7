"""The corrector question: the hue follows from the film model, with no table of hues anywhere."""

from __future__ import annotations

from dataclasses import replace

import pytest

from nabrel.core.documents.phrases import told_portion
from nabrel.core.face.skin import zone_colour
from nabrel.core.house import House
from nabrel.core.plan.step import MixPart, Portion, Step
from nabrel.core.planner.planner import plan_in
from nabrel.core.solve.corrector import solve_corrector
from nabrel.demo.kit import kit

HOUSE = House()
BOX = {item.id: item for item in kit()}
CORRECTORS = [item for item in BOX.values() if item.role == "corrector"]
SKINS = {
    "very light": (76.0, 8.0, 14.0),
    "light": (69.0, 10.0, 16.0),
    "intermediate": (62.0, 11.0, 17.0),
    "tan": (55.0, 13.0, 20.0),
    "brown": (46.0, 14.0, 19.0),
    "dark": (34.0, 12.0, 13.0),
}
SHEER_UM = 4.5


def solved(depth, condition, severity, *, foundation="thin-satin-4", correctors=CORRECTORS, most_um=14.0):
    """A discoloured zone on a skin of this depth, with concealer and foundation that match the skin exactly."""
    skin = SKINS[depth]
    concealer = replace(BOX["press-4"], lab=skin)
    over_it = replace(BOX[foundation], lab=skin) if foundation else None
    discoloured = zone_colour(skin, {condition: severity})
    above = ((over_it, SHEER_UM),) if over_it else ()
    return solve_corrector(discoloured, skin, correctors, [concealer], above, HOUSE, most_um)


@pytest.mark.parametrize(
    ("depth", "hues"),
    [
        ("very light", {"cor-rose", "cor-peach"}),
        ("light", {"cor-peach", "cor-rose", "cor-apricot"}),
        ("intermediate", {"cor-apricot", "cor-peach"}),
        ("tan", {"cor-salmon", "cor-apricot", "cor-orange"}),
        ("brown", {"cor-salmon", "cor-orange"}),
        ("dark", {"cor-red"}),
    ],
)
@pytest.mark.parametrize("condition", ["dark_circle_blue", "dark_circle_violet", "dark_circle_brown"])
@pytest.mark.parametrize("severity", [2, 3])
def test_darkness_asks_for_warmer_and_deeper_hues_as_skin_deepens(depth, hues, condition, severity):
    answer = solved(depth, condition, severity)
    assert answer.best.corrector.id in hues
    assert answer.worth_it(HOUSE)


@pytest.mark.parametrize("depth", ["very light", "light", "intermediate", "tan"])
def test_redness_asks_for_green(depth):
    assert solved(depth, "redness", 2).best.corrector.id == "cor-green"


def test_a_green_far_paler_than_deep_skin_is_not_used_and_one_of_its_depth_is():
    assert solved("brown", "redness", 3).best.corrector is None
    deep = replace(BOX["cor-green"], lab=(50.0, -12.0, 24.0))
    assert solved("brown", "redness", 3, correctors=[deep]).best.corrector == deep


@pytest.mark.parametrize("conditions", [{"dark_circle_violet": 1, "sallow": 1}, {"dark_circle_blue": 2, "redness": 1}])
def test_green_is_not_laid_over_darkness_even_where_the_sum_comes_near(conditions):
    skin = SKINS["intermediate"]
    discoloured, green = zone_colour(skin, conditions), [BOX["cor-green"]]
    answer = solve_corrector(discoloured, skin, green, [replace(BOX["press-4"], lab=skin)], (), HOUSE)
    assert answer.best.corrector is None
    assert solve_corrector(zone_colour(skin, {"redness": 2}), skin, green, [], (), HOUSE).best.corrector == green[0]


@pytest.mark.parametrize(
    ("depth", "condition", "severity"),
    [
        ("very light", "dark_circle_violet", 2), ("light", "dark_circle_brown", 2), ("intermediate", "dark_circle_blue", 2),
        ("light", "redness", 2), ("intermediate", "redness", 3), ("tan", "redness", 2),
        ("tan", "dark_circle_blue", 2), ("brown", "dark_circle_blue", 2), ("dark", "dark_circle_blue", 3),
        ("tan", "dark_circle_brown", 2), ("brown", "dark_circle_brown", 2),
    ],
)  # fmt: skip
def test_a_fitting_corrector_saves_a_fifth_to_two_thirds_of_the_film(depth, condition, severity):
    assert 0.2 <= solved(depth, condition, severity).saving <= 0.8


def test_a_foundation_that_is_enough_needs_nothing():
    answer = solved("dark", "redness", 2)
    assert answer.best.corrector is None
    assert answer.best.total_um == 0


def test_a_weak_saving_is_not_worth_a_step():
    thin = [replace(item, cover=0.3) for item in CORRECTORS if item.id in ("cor-rose", "cor-peach")]
    assert not solved("light", "dark_circle_brown", 2, correctors=thin).worth_it(HOUSE)


def test_the_best_is_never_worse_than_going_without():
    for depth in SKINS:
        for condition in ("dark_circle_blue", "dark_circle_violet", "dark_circle_brown", "redness", "sallow"):
            answer = solved(depth, condition, 2)
            best, bare = answer.best, answer.without_corrector
            worth = [each.total_um + HOUSE.film_for_nearer_um * each.de for each in (best, bare)]
            assert best.near_enough >= bare.near_enough
            assert worth[0] <= worth[1] or not bare.near_enough
            assert bare.corrector is None


def test_a_strong_hue_must_bear_a_heavy_hand():
    answer = solved("intermediate", "dark_circle_blue", 2)
    best = answer.best
    heavier = solved("intermediate", "dark_circle_blue", 2, correctors=[best.corrector]).best
    assert heavier.corrector_um == pytest.approx(best.corrector_um, abs=0.51)
    assert best.near_enough


def test_no_corrector_at_all_is_an_answer_too():
    answer = solved("tan", "dark_circle_blue", 2, correctors=[])
    assert answer.best.corrector is None
    assert answer.best.concealer_um > 0
    assert answer.runner_up is None


def test_a_zone_with_no_room_says_that_nothing_is_near_enough():
    answer = solved("light", "dark_circle_blue", 3, most_um=1.0)
    assert not answer.best.near_enough
    assert answer.best.total_um <= 1.0


def test_correctors_that_do_about_as_well_are_offered_beside_the_best():
    answer = solved("tan", "dark_circle_blue", 2)
    ways = answer.nearly_as_good(HOUSE)
    assert ways[0] == answer.best
    stored = next(way for way in ways if way.corrector.id == "cor-apricot")
    assert stored.total_um <= answer.best.total_um + 2.0
    assert "cor-green" not in {way.corrector.id for way in ways}


def test_no_whole_zone_gets_a_heavy_layer_or_more_corrector_than_the_rule_book_allows():
    for depth in SKINS:
        for condition in ("dark_circle_blue", "dark_circle_brown", "redness"):
            for each in solved(depth, condition, 3).each:
                assert each.corrector_um <= HOUSE.most_corrector_um
                assert each.concealer_um <= HOUSE.rung_full_um


def test_a_small_zone_beside_a_corrected_one_gets_the_hue_in_use(people):
    plan = plan_in("underpainted", people["Wren"], HOUSE)
    hues = {step.item: set(step.zones) for step in plan.steps if step.kind == "correct"}
    around = {"under_eye_l", "under_eye_r", "inner_corner_l", "inner_corner_r"}
    assert [zones for zones in hues.values() if zones & around] == [around]


def test_a_hand_that_goes_on_is_not_told_again():
    first = Portion(("chin",), 4.5, "fingers", "press")
    step = Step("s1", "foundation", (first,), (MixPart("fdn"),), "um")
    said = list(told_portion(HOUSE, step, Portion(("nose_tip",), 2.0, "fingers", "press"), first))
    assert said == ["A thin layer on the nose tip."]
    other = list(told_portion(HOUSE, step, Portion(("nose_tip",), 2.0, "damp_sponge", "press"), first))
    assert other == ["Press a thin layer on the nose tip, damp sponge."]


@pytest.mark.parametrize(
    ("kind", "says"), [("spot_conceal", "on the marks"), ("clean_edge", "in a line"), ("glow", "in a small touch")]
)
def test_what_covers_part_of_a_zone_says_how(kind, says):
    part = Portion(("chin",), 4.5, "fingers", "press", patch=0.3)
    step = Step("s1", kind, (part,), (MixPart("con"),), "um")
    assert list(told_portion(HOUSE, step, part)) == [f"Press a medium layer {says} on the chin, fingers."]
    whole = replace(part, patch=1.0)
    assert list(told_portion(HOUSE, step, whole)) == ["Press a medium layer on the chin, fingers."]
