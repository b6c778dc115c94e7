"""The corrector question: the hue follows from the film model, with no table of hues anywhere."""

from __future__ import annotations

from dataclasses import replace

import pytest

from nabrel.core.face.skin import zone_colour
from nabrel.core.house import House
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
        ("light", {"cor-peach", "cor-rose", "cor-apricot"}),
        ("intermediate", {"cor-apricot", "cor-peach"}),
        ("tan", {"cor-salmon", "cor-apricot", "cor-orange"}),
        ("brown", {"cor-salmon", "cor-orange"}),
        ("dark", {"cor-orange", "cor-red"}),
    ],
)
def test_blue_asks_for_warmer_and_deeper_hues_as_skin_deepens(depth, hues):
    assert solved(depth, "dark_circle_blue", 2).best.corrector.id in hues


@pytest.mark.parametrize("depth", ["light", "intermediate", "tan", "brown"])
def test_redness_asks_for_green_at_every_depth(depth):
    assert solved(depth, "redness", 2).best.corrector.id == "cor-green"


@pytest.mark.parametrize(
    ("depth", "condition", "severity"),
    [
        ("very light", "dark_circle_blue", 2), ("light", "dark_circle_brown", 2), ("intermediate", "dark_circle_blue", 2),
        ("light", "redness", 2), ("intermediate", "redness", 3), ("tan", "redness", 2), ("brown", "redness", 3),
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
            assert answer.best.total_um <= answer.without_corrector.total_um
            assert answer.without_corrector.corrector is None


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


def test_correctors_in_use_are_kept_where_they_do_about_as_well():
    answer = solved("tan", "dark_circle_blue", 2)
    kept = answer.rather({"cor-apricot"})
    assert kept.corrector.id == "cor-apricot"
    assert kept.total_um <= answer.best.total_um + 1.0
    assert answer.rather({"cor-green"}) == answer.best
