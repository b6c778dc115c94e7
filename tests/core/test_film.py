"""Film optics: what the trade and the physics expect of films on skin."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from nabrel.core.errors import Refused
from nabrel.core.film.cie_build import science
from nabrel.core.film.difference import delta_e
from nabrel.core.film.films import contrast_ratio, film_of, over
from nabrel.core.film.spectra import SAMPLES, lab_of, recover, surface, to_hex, weights, white
from nabrel.core.film.stack import Layer, finished, lay, powder_layer
from nabrel.core.house import House
from nabrel.core.terms.looks import LIGHTS
from nabrel.core.terms.products import COVER_INFO

CLOSE_DE = 0.1
SKIN = (62.0, 11.0, 17.0)
SHADE = (44.0, 9.0, 12.0)
labs = st.tuples(st.floats(15, 90), st.floats(-12, 32), st.floats(-8, 34))


def believable(lab: tuple[float, float, float]) -> tuple[float, float, float]:
    """Chroma held to what skin and its products have at a lightness, all within the object colour solid."""
    most = 0.55 * min(lab[0], 100 - lab[0]) + 4
    chroma = np.hypot(lab[1], lab[2])
    part = most / chroma if chroma > most else 1.0
    return (lab[0], lab[1] * part, lab[2] * part)


@settings(max_examples=60, deadline=None)
@given(labs)
def test_recovered_spectra_give_their_colour_back(lab):
    wanted = believable(lab)
    curve, _ = recover(np.array([wanted]))
    assert float(delta_e(lab_of(curve[0]), np.array(wanted))) < CLOSE_DE
    assert (curve > 0).all()
    assert (curve < 1).all()


def test_recovery_agrees_one_by_one_and_together():
    many = np.array([[62, 11, 17], [30, 14, 18], [54, 34, 33], [68, -14, 22]], dtype=float)
    together, _ = recover(many)
    for row, lab in zip(together, many, strict=True):
        assert np.allclose(row, recover(lab)[0][0], atol=1e-6)


@pytest.mark.parametrize("lab", [(50.0, 120.0, -100.0), (99.9, 60.0, 0.0), (5.0, 60.0, 60.0)])
def test_a_colour_no_surface_has_is_refused_by_name(lab):
    with pytest.raises(Refused) as refused:
        surface(lab, "kit[3].lab")
    assert refused.value.field == "kit[3].lab"


@pytest.mark.parametrize("light", LIGHTS)
def test_a_perfect_white_is_bright_under_every_light(light):
    assert weights(light)[:, 1].sum() == pytest.approx(1.0, abs=0.03)


def test_daylight_white_is_neutral():
    assert lab_of(np.ones(SAMPLES)) == pytest.approx([100, 0, 0], abs=1e-9)
    assert white()[1] == pytest.approx(1.0)


def test_a_lamp_warms_the_look_of_skin():
    day, lamp = lab_of(surface(SKIN)), lab_of(surface(SKIN), "warm_lamp")
    assert lamp[2] > day[2]


def test_our_lab_agrees_with_colour_science_on_its_own_white():
    colour = science()
    curve = surface(SKIN)
    xyz = curve @ weights("daylight")
    xy = colour.XYZ_to_xy(white())
    assert colour.XYZ_to_Lab(xyz, xy) == pytest.approx(lab_of(curve), abs=1e-6)


def test_hex_of_grey_and_of_out_of_gamut_colours():
    assert to_hex(np.array([[0.0, 0, 0], [100.0, 0, 0]])) == ["#000000", "#ffffff"]
    assert to_hex(np.array([[60.0, 90.0, 60.0]]))[0].startswith("#ff")


@settings(max_examples=40, deadline=None)
@given(labs, st.floats(0.03, 0.985))
def test_cover_is_honoured_at_the_standard_film(lab, cover):
    film = film_of(believable(lab), cover)
    assert contrast_ratio(film, 9.0, 0.8) == pytest.approx(cover, rel=0.005)


@pytest.mark.parametrize("cover", [0.0, 1.0, -0.2, 1.2, float("nan")])
def test_cover_of_none_or_all_is_refused(cover):
    with pytest.raises(Refused):
        film_of(SKIN, cover)


@settings(max_examples=30, deadline=None)
@given(labs, labs, st.floats(0.1, 0.95))
def test_no_film_shows_the_ground_and_a_thick_one_its_masstone(ground, product, cover):
    skin, film = surface(believable(ground)), film_of(believable(product), cover)
    assert np.allclose(over(skin, film.ratio, film.s * 0.0), skin)
    deep = over(skin, film.ratio, film.s * 1e4)
    assert np.allclose(deep, surface(believable(product)), atol=2e-3)


@settings(max_examples=30, deadline=None)
@given(labs, labs, st.floats(0.1, 0.95), st.floats(0.1, 10), st.floats(0.1, 10))
def test_two_films_of_one_product_add_in_thickness(ground, product, cover, one, two):
    skin, film = surface(believable(ground)), film_of(believable(product), cover)
    twice = over(over(skin, film.ratio, film.s * one), film.ratio, film.s * two)
    assert np.allclose(twice, over(skin, film.ratio, film.s * (one + two)), atol=1e-9)


def test_order_matters():
    skin = surface(SKIN)
    shade, base = film_of(SHADE, 0.6), film_of(SKIN, 0.6)
    under = over(over(skin, shade.ratio, shade.s * 4), base.ratio, base.s * 6)
    on_top = over(over(skin, base.ratio, base.s * 6), shade.ratio, shade.s * 4)
    assert lab_of(on_top)[0] < lab_of(under)[0] - 2


def through(cover: float, film_um: float) -> float:
    """Share of a cream shade's lightness drop that a foundation of this cover and film lets through."""
    skin, shade, base = surface(SKIN), film_of(SHADE, 0.6), film_of(SKIN, cover)
    shaded = over(skin, shade.ratio, shade.s * 4)
    bare = lab_of(skin)[0] - lab_of(shaded)[0]
    power = base.s * film_um
    return float((lab_of(over(skin, base.ratio, power)) - lab_of(over(shaded, base.ratio, power)))[0] / bare)


def test_most_of_the_shade_reads_through_a_thin_sheer_pass_and_little_through_full_cover():
    assert through(COVER_INFO["sheer"].ratio, 4.5) > 0.7
    assert through(COVER_INFO["full"].ratio, 9.0) < 0.10


@pytest.mark.parametrize("cover", [0.2, 0.35, 0.55, 0.8])
def test_more_cover_and_more_film_let_less_of_the_shade_through(cover):
    assert through(cover, 6.0) > through(cover + 0.1, 6.0)
    assert through(cover, 6.0) > through(cover, 7.0)


def test_powder_leaves_part_of_the_skin_bare_and_loses_no_mass(house):
    film = film_of((86.0, 2.0, 7.0), 0.12)
    layer = powder_layer(film, np.array([0.0, 0.1, 0.8]), house)
    assert layer.bare is not None
    assert layer.bare[0] == 1.0
    assert layer.bare[0] > layer.bare[1] > layer.bare[2] > 0
    mass = (1 - layer.bare) * layer.thickness_um / house.powder_film_um_per_mg
    assert mass == pytest.approx([0.0, 0.1, 0.8])


def test_no_powder_changes_nothing(house):
    ground = np.stack([surface(SKIN), surface(SHADE)])
    shown = lay(ground, powder_layer(film_of((86.0, 2.0, 7.0), 0.12), np.zeros(2), house))
    assert np.allclose(shown, ground)


def test_a_stack_is_its_layers_one_by_one():
    ground = np.stack([surface(SKIN), surface(SHADE)])
    first = Layer(film_of(SKIN, 0.5), np.array([3.0, 0.0]))
    second = Layer(film_of(SHADE, 0.6), np.array([0.0, 2.0]))
    powder = powder_layer(film_of((86.0, 2.0, 7.0), 0.12), np.array([0.0, 0.2]), House())
    shown = finished(ground, [first, second, powder])
    assert shown.shape == (2, SAMPLES)
    assert np.allclose(shown, lay(lay(lay(ground, first), second), powder), rtol=1e-12)
    assert np.array_equal(finished(ground, []), ground)


def test_house_parameters_keep_to_their_ranges():
    with pytest.raises(Refused, match=r"house\.bake_s.*300 to 900 s"):
        House().deciding({"bake_s": 20.0})
    with pytest.raises(Refused, match="house parameter"):
        House().deciding({"bakes": 500.0})
    assert House().deciding({"bake_s": 600.0}).bake_s == 600.0
