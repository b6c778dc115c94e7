"""Mixing in whole drops."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from nabrel.core.case.product import Product
from nabrel.core.errors import Impossible, Refused
from nabrel.core.film.difference import delta_e
from nabrel.core.film.direction import direction
from nabrel.core.film.spectra import lab_of
from nabrel.core.house import House
from nabrel.core.solve import mix
from nabrel.core.solve.mix import batch, solve_mix
from nabrel.demo.kit import TONES, kit

HOUSE = House()
BOX = {item.id: item for item in kit()}
SATIN = [BOX[f"thin-satin-{number}"] for number in range(1, 9)]
BALM = Product("clear", "thinning_balm", "Clear balm", "balm", "silicone")


def drops(recipe):
    return {part.product.id: part.drops for part in recipe.parts}


def test_a_target_that_is_a_shade_takes_one_drop_of_it():
    answer = solve_mix(SATIN[3].lab, SATIN, HOUSE)
    assert drops(answer.best) == {"thin-satin-4": 1}
    assert drops(answer.smallest) == {"thin-satin-4": 1}
    assert answer.best.misses == "on the mark"


@settings(max_examples=20, deadline=None)
@given(st.floats(40, 74), st.integers(1, 8), st.integers(1, 3))
def test_limits_are_kept_and_more_freedom_is_never_worse(lightness, most_drops, most_products):
    target = (lightness, 11.0, 17.0)
    answer = solve_mix(target, SATIN, HOUSE, most_drops=most_drops, most_products=most_products)
    for recipe in (answer.best, answer.smallest):
        assert recipe.drops <= most_drops
        assert len(recipe.parts) <= most_products
        assert recipe.de == pytest.approx(float(delta_e(np.array(recipe.lab), np.array(target))), abs=1e-6)
    assert answer.smallest.drops <= answer.best.drops
    freer = solve_mix(target, SATIN, HOUSE, most_drops=8, most_products=3)
    assert freer.best.usual_de <= answer.best.usual_de + HOUSE.mix_alike_de + 0.01


def test_between_two_shades_lies_a_mix_of_them():
    between = tuple((a + b) / 2 for a, b in zip(TONES[2], TONES[3], strict=True))
    answer = solve_mix(between, SATIN, HOUSE)
    assert answer.near_enough
    assert answer.best.de < 1


def test_a_stronger_foundation_pulls_the_mix_its_way():
    pair = [BOX["silk-veil-2"], BOX["full-matt-6"]]
    recipe = solve_mix((60.0, 12.0, 17.0), pair, HOUSE).best
    assert drops(recipe)["silk-veil-2"] > drops(recipe)["full-matt-6"]


def test_the_smallest_good_enough_takes_fewer_drops_than_the_best():
    answer = solve_mix((45.0, 13.0, 18.0), SATIN, HOUSE)
    assert answer.smallest.drops < answer.best.drops
    assert answer.smallest.de <= HOUSE.mix_close_de


@pytest.mark.parametrize("target", [(63.5, 11.0, 17.8), (45.0, 13.0, 18.0), (38.0, 12.7, 15.0)])
def test_how_far_off_it_usually_comes_out_is_what_drops_that_vary_give(target):
    recipe = solve_mix(target, SATIN, HOUSE).best
    assert len(recipe.parts) > 1
    rng = np.random.default_rng(7)
    off = []
    for _ in range(400):
        dropped = [rng.normal(1.0, HOUSE.drop_varies, part.drops).sum() for part in recipe.parts]
        k, s = mix._bank([part.product for part in recipe.parts], HOUSE)
        lab = lab_of(mix._masstone(np.array(dropped) @ k, np.array(dropped) @ s))
        off.append(float(delta_e(lab, np.array(target))))
    assert float(np.sqrt(np.mean(np.square(off)))) == pytest.approx(recipe.usual_de, rel=0.2)


def test_of_recipes_that_come_out_alike_the_fewest_drops_are_given():
    exact = HOUSE.deciding({"drop_varies": 0.0, "mix_alike_de": 0.0}, {})
    target = (71.5, 9.9, 16.8)
    told, nominal = solve_mix(target, SATIN, HOUSE).best, solve_mix(target, SATIN, exact).best
    assert told.drops < nominal.drops
    assert told.usual_de <= HOUSE.mix_close_de


def test_a_far_shade_is_not_used_for_a_gain_that_nobody_sees():
    fair = (71.5, 9.9, 16.8)
    careless = HOUSE.deciding({"mix_far_gain_de": 0.0, "drop_varies": 0.0, "mix_alike_de": 0.0}, {})
    assert any(abs(part.product.lab[0] - fair[0]) > 9 for part in solve_mix(fair, SATIN, careless).best.parts)
    assert all(abs(part.product.lab[0] - fair[0]) <= 9 for part in solve_mix(fair, SATIN, HOUSE).best.parts)


def test_a_miss_is_told_in_words():
    answer = solve_mix((90.0, 4.0, 10.0), SATIN, HOUSE)
    assert not answer.near_enough
    assert answer.best.misses.startswith("deeper")


@pytest.mark.parametrize(
    ("is_lab", "said"),
    [
        ((60, 11, 17), "on the mark"),
        ((63, 11, 17), "lighter"),
        ((58, 14, 17), "pinker and deeper"),
        ((60, 9, 20), "yellower and greener"),
        ((60.2, 11, 12), "bluer"),
    ],
)
def test_directions(is_lab, said):
    assert direction(is_lab, (60, 11, 17)) == said


def test_bases_that_separate_are_avoided_and_warned_of_where_nothing_else_is():
    target = (58.0, 12.0, 18.0)
    mixed = [BOX["water-veil-4"], BOX["thin-satin-4"], BOX["thin-satin-5"]]
    assert solve_mix(target, mixed, HOUSE).best.warnings == ()
    only = [BOX["water-veil-2"], replace(BOX["thin-satin-6"], lab=TONES[5])]
    answer = solve_mix((60.0, 12.0, 17.5), only, HOUSE)
    assert len(answer.best.parts) == 1 or "separate" in answer.best.warnings[0]


def test_a_finish_is_mixed_from_matt_and_dewy():
    pair = [BOX["full-matt-4"], BOX["silk-veil-4"]]
    assert solve_mix(TONES[3], pair, HOUSE, finish="satin").best.finish == "satin"
    assert solve_mix(TONES[3], pair, HOUSE, finish="matte").best.finish == "matte"


def test_thinning_lowers_cover_and_keeps_the_colour():
    thick = solve_mix(SATIN[3].lab, [SATIN[3]], HOUSE).best
    k, s = mix._bank([SATIN[3], BALM], HOUSE)
    halved = mix._cover((k[0] + k[1]) / 2, (s[0] + s[1]) / 2, HOUSE)
    assert halved < thick.cover
    assert np.allclose(mix._masstone(k[0] / 2, s[0] / 2), mix._masstone(k[0], s[0]))


@pytest.mark.parametrize(("off", "far"), [(0.9, 0), (1.1, 1), (-0.9, 0), (-1.1, 1)])
def test_a_shade_is_far_from_so_many_steps_on(off, far):
    """Steps of the house, of the house's size; a mixer is meant to be far."""
    target = (50.0, 10.0, 15.0)
    away = target[0] + off * HOUSE.mix_steps_most * HOUSE.shade_step_l
    shade = replace(SATIN[0], lab=(away, 10.0, 15.0))
    assert list(mix._far([shade, replace(shade, role="mixer"), replace(shade, lab=None)], target, HOUSE)) == [far, 0, 0]


def test_a_class_batch_keeps_the_proportions():
    recipe = solve_mix((47.0, 13.0, 18.0), SATIN, HOUSE).best
    assert len({part.drops for part in recipe.parts}) > 1
    amounts = batch(recipe, 0.4, 12)
    assert sum(ml for _, ml in amounts) == pytest.approx(4.8)
    shares = [part.drops / recipe.drops for part in recipe.parts]
    assert [ml / 4.8 for _, ml in amounts] == pytest.approx(shares)


@pytest.mark.parametrize(("ml", "faces"), [(0.4, 0), (0.0, 4), (-1.0, 4), (float("nan"), 4)])
def test_a_batch_of_nothing_is_refused(ml, faces):
    recipe = solve_mix(SATIN[0].lab, SATIN, HOUSE).best
    with pytest.raises(Refused):
        batch(recipe, ml, faces)


@pytest.mark.parametrize(
    ("wishes", "field"),
    [({"most_drops": 0}, "drops"), ({"most_drops": 99}, "drops"), ({"most_products": 0}, "products")],
)
def test_contradictory_limits_are_refused(wishes, field):
    with pytest.raises(Refused) as refused:
        solve_mix((60.0, 11.0, 17.0), SATIN, HOUSE, **wishes)
    assert refused.value.field == field


def test_nothing_to_mix_and_impossible_targets_are_refused():
    with pytest.raises(Impossible):
        solve_mix((60.0, 11.0, 17.0), [BALM], HOUSE)
    with pytest.raises(Refused, match="target"):
        solve_mix((50.0, 120.0, -100.0), SATIN, HOUSE)


def test_a_long_shelf_is_searched_too():
    shelf = [item for item in BOX.values() if item.role == "foundation"]
    assert len(shelf) > 20
    assert (
        solve_mix((62.0, 11.0, 17.0), shelf, HOUSE).best.de <= solve_mix((62.0, 11.0, 17.0), SATIN, HOUSE).best.de + 0.2
    )


@pytest.mark.parametrize("shade", SATIN[::3])
def test_a_recipe_of_one_shade_covers_as_that_shade_does(shade):
    assert solve_mix(shade.lab, [shade], HOUSE).best.cover == pytest.approx(shade.cover, abs=0.01)


def test_pairs_that_separate_are_counted_where_both_are_in_the_recipe():
    silicone, water, oil = (replace(SATIN[0], base=base) for base in ("silicone", "water", "oil"))
    drops = np.array([[1, 0, 0], [1, 2, 0], [0, 1, 3], [4, 0, 1], [1, 1, 1], [3, 2, 5]])
    assert mix._clashes(drops, [silicone, water, oil]).tolist() == [0, 1, 1, 0, 2, 2]
    assert mix._clashes(drops[:, :1], [silicone]).tolist() == [0] * 6


@pytest.mark.parametrize(
    ("matte", "dewy", "finish"), [(5, 1, "matte"), (1, 5, "dewy"), (2, 2, "satin"), (3, 0, "matte"), (0, 1, "dewy")]
)
def test_the_finish_of_a_mixture_is_weighed_by_its_drops(matte, dewy, finish):
    parts = (
        mix.RecipePart(replace(SATIN[0], finish="matte"), matte),
        mix.RecipePart(replace(SATIN[1], finish="dewy"), dewy),
    )
    assert mix._finish(tuple(part for part in parts if part.drops)) == finish
