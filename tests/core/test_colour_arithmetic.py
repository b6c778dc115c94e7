"""Numeric functions tried four ways: reference values, many dimensions at once, odd numbers, and scale."""

from __future__ import annotations

import json
import subprocess
import sys

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from nabrel.core.film.cie_build import science, tables
from nabrel.core.film.difference import delta_e
from nabrel.core.film.films import film_of, masstone_ratio, over
from nabrel.core.film.spectra import (
    CIE_FILE,
    SAMPLES,
    WAVELENGTHS_NM,
    lab_of,
    lab_of_hex,
    luminance,
    recover,
    surface,
    to_hex,
    warm,
)
from nabrel.core.terms.looks import LIGHTS

SKIN = (62.0, 11.0, 17.0)
TIGHT = 1e-9


def test_wavelengths_span_the_visible_in_ten_nanometre_steps():
    assert WAVELENGTHS_NM[0] == 400
    assert WAVELENGTHS_NM[-1] == 700
    assert np.all(np.diff(WAVELENGTHS_NM) == 10)
    assert len(WAVELENGTHS_NM) == SAMPLES


@pytest.mark.parametrize(("masstone", "ratio"), [(1.0, 0.0), (0.5, 0.25), (0.2, 1.6), (0.1, 4.05)])
def test_absorption_over_scattering_of_a_masstone(masstone, ratio):
    assert masstone_ratio(np.array([masstone])) == pytest.approx([ratio])


def test_a_film_without_absorption_over_white_stays_white():
    shown = over(np.ones(3), np.zeros(3) + 1e-12, np.array([0.0, 1.0, 10.0]))
    assert shown == pytest.approx([1.0, 1.0, 1.0], abs=1e-5)


def test_a_film_agrees_with_the_hyperbolic_formula():
    ratio, power, ground = 0.8, 1.3, 0.35
    a = 1 + ratio
    b = np.sqrt(a * a - 1)
    coth = 1 / np.tanh(b * power)
    expected = (1 - ground * (a - b * coth)) / (a - ground + b * coth)
    assert float(over(np.array(ground), np.array(ratio), np.array(power))) == pytest.approx(expected, abs=TIGHT)


@pytest.mark.parametrize("shape", [(SAMPLES,), (3, SAMPLES), (2, 3, SAMPLES), (2, 1, 4, SAMPLES)])
def test_colour_takes_any_number_of_dimensions(shape):
    curve = np.broadcast_to(surface(SKIN), shape)
    assert lab_of(curve).shape == (*shape[:-1], 3)
    assert luminance(curve).shape == shape[:-1]
    assert np.allclose(lab_of(curve), lab_of(surface(SKIN)))


def test_films_broadcast_over_grounds_and_thicknesses():
    film = film_of(SKIN, 0.5)
    grounds = np.stack([surface(SKIN), surface((30.0, 12.0, 12.0))])
    shown = over(grounds[:, None, :], film.ratio, film.s * np.array([0.0, 3.0, 9.0])[:, None])
    assert shown.shape == (2, 3, SAMPLES)
    assert np.allclose(shown[:, 0], grounds)


def test_what_is_not_a_number_stays_visible_as_such():
    assert np.isnan(lab_of(np.full(SAMPLES, np.nan))).all()
    assert np.isnan(over(np.array(np.nan), np.array(0.5), np.array(1.0)))


def test_black_is_black_and_luminance_is_linear():
    assert lab_of(np.zeros(SAMPLES)) == pytest.approx([0, 0, 0], abs=1e-9)
    curve = surface(SKIN)
    assert float(luminance(curve * 0.5)) == pytest.approx(0.5 * float(luminance(curve)))


@pytest.mark.parametrize("light", LIGHTS)
def test_greys_stay_nearly_grey_under_every_light(light):
    lab = lab_of(np.full(SAMPLES, 0.3), light)
    assert abs(lab[1]) < 4
    assert abs(lab[2]) < 6


def test_recovered_surfaces_are_smooth():
    curve, _ = recover(np.array([SKIN]))
    assert np.abs(np.diff(curve[0], 2)).max() < 0.02


def test_warming_up_gives_what_asking_one_by_one_gives():
    labs = [(61.5, 10.5, 16.5), (33.3, 12.2, 12.1)]
    warm(labs)
    for lab in labs:
        assert np.allclose(surface(lab), np.clip(recover(np.array([lab]))[0][0], 2e-3, 0.998))


def test_kept_surfaces_cannot_be_written_to():
    with pytest.raises(ValueError, match="read-only"):
        surface(SKIN)[0] = 0.0


def test_hex_of_many_rows():
    rows = np.array([[50.0, 0, 0], [53.24, 80.09, 67.2], [87.73, -86.18, 83.18]])
    assert to_hex(rows)[0] == "#777777"
    assert to_hex(rows)[1] in ("#ff0000", "#fe0000", "#ff0100")
    assert len(to_hex(rows)) == 3


# CIEDE2000: pairs published by Sharma, Wu and Dalal (2005), among them those where implementations go wrong.

SHARMA = [
    ((50.0, 2.6772, -79.7751), (50.0, 0.0, -82.7485), 2.0425),
    ((50.0, 3.1571, -77.2803), (50.0, 0.0, -82.7485), 2.8615),
    ((50.0, 2.8361, -74.0200), (50.0, 0.0, -82.7485), 3.4412),
    ((50.0, -1.3802, -84.2814), (50.0, 0.0, -82.7485), 1.0000),
    ((50.0, 0.0, 0.0), (50.0, -1.0, 2.0), 2.3669),
    ((50.0, 2.4900, -0.0010), (50.0, -2.4900, 0.0009), 7.1792),
    ((50.0, 2.4900, -0.0010), (50.0, -2.4900, 0.0010), 7.1792),
    ((50.0, 2.4900, -0.0010), (50.0, -2.4900, 0.0011), 7.2195),
    ((50.0, -0.0010, 2.4900), (50.0, 0.0009, -2.4900), 4.8045),
    ((50.0, -0.0010, 2.4900), (50.0, 0.0011, -2.4900), 4.7461),
    ((50.0, 2.5, 0.0), (50.0, 0.0, -2.5), 4.3065),
    ((50.0, 2.5, 0.0), (73.0, 25.0, -18.0), 27.1492),
    ((50.0, 2.5, 0.0), (56.0, -27.0, -3.0), 31.9030),
    ((60.2574, -34.0099, 36.2677), (60.4626, -34.1751, 39.4387), 1.2644),
    ((22.7233, 20.0904, -46.6940), (23.0331, 14.9730, -42.5619), 2.0373),
    ((2.0776, 0.0795, -1.1350), (0.9033, -0.0636, -0.5514), 0.9082),
]


@pytest.mark.parametrize(("one", "other", "published"), SHARMA)
def test_ciede2000_is_the_published_one(one, other, published):
    assert delta_e(one, other) == pytest.approx(published, abs=5e-5)
    assert delta_e(other, one) == pytest.approx(published, abs=5e-5)


labs = st.tuples(st.floats(0, 100), st.floats(-90, 90), st.floats(-90, 90))


@settings(max_examples=60, deadline=None)
@given(st.lists(st.tuples(labs, labs), min_size=1, max_size=30))
def test_ciede2000_agrees_with_the_library_and_is_a_difference(pairs):
    one, other = np.array([pair[0] for pair in pairs]), np.array([pair[1] for pair in pairs])
    ours = delta_e(one, other)
    assert np.allclose(ours, science().difference.delta_E_CIE2000(one, other), atol=1e-7)
    assert np.array_equal(delta_e(one, one), np.zeros(len(one)))
    assert (ours >= 0).all()


def test_ciede2000_broadcasts():
    grid = np.array([[[50.0, 10, 10], [60, 10, 10]], [[50, 20, 10], [50, 10, 30]]])
    assert delta_e(grid, (50.0, 10.0, 10.0)).shape == (2, 2)
    assert delta_e(grid, (50.0, 10.0, 10.0))[0, 0] == 0.0


@settings(max_examples=60, deadline=None)
@given(st.lists(labs, min_size=1, max_size=20))
def test_hex_agrees_with_the_library(rows):
    colour = science()
    white = colour.CCS_ILLUMINANTS["CIE 1931 2 Degree Standard Observer"]["D65"]
    rgb = np.clip(colour.XYZ_to_sRGB(colour.Lab_to_XYZ(np.array(rows), white)), 0.0, 1.0) * 255
    for ours, theirs in zip(to_hex(np.array(rows)), rgb, strict=True):
        parts = [int(ours[at : at + 2], 16) for at in (1, 3, 5)]
        assert np.abs(np.array(parts) - theirs).max() <= 0.5 + 1e-4


# The published data


def test_the_kept_data_are_the_published_ones():
    stored = json.loads(CIE_FILE.read_text(encoding="utf-8"))
    assert stored == json.loads(json.dumps(tables()))
    assert np.array(stored["observer"]).shape == (SAMPLES, 3)
    assert all(len(power) == SAMPLES for power in stored["lights"].values())


@pytest.mark.parametrize("module", ["nabrel.cli", "nabrel.web.app", "nabrel.core.judge.evaluate"])
def test_the_application_never_loads_the_colour_library(module):
    """It takes two seconds and a hundred megabytes, which every start would pay."""
    asked = f"import sys, {module}; from nabrel.core.film.spectra import lab_of_hex, weights; weights('led'); "
    asked += "lab_of_hex('c68863'); print(sorted({'colour', 'scipy', 'matplotlib'} & set(sys.modules)))"
    found = subprocess.run([sys.executable, "-c", asked], capture_output=True, text=True, check=True)
    assert found.stdout.strip() == "[]"


@given(st.lists(st.integers(0, 255), min_size=3, max_size=3))
def test_a_screen_colour_comes_back_from_its_lab(parts):
    code = "".join(f"{part:02x}" for part in parts)
    lab = lab_of_hex(code)
    assert to_hex(np.array([lab])) == [f"#{code}"]
    colour = science()
    theirs = colour.XYZ_to_Lab(colour.sRGB_to_XYZ(np.array(parts) / 255.0), np.array([0.3127, 0.3290]))
    assert lab == pytest.approx(theirs, abs=0.02)
