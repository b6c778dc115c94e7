"""Scattering may fall with wavelength, by an item's own exponent or the house's."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from nabrel.core.case.product import Product
from nabrel.core.film.films import contrast_ratio, film_of, scattering_course
from nabrel.core.film.spectra import WAVELENGTHS_NM
from nabrel.core.house import House
from nabrel.core.shelf.optics import film_for, mixture, scatter_exponent
from nabrel.formats.kit_csv import read_kit, write_kit

HOUSE = House()
PLAIN = Product("x", "foundation", "X", "liquid", "water", lab=(60.0, 10.0, 15.0), cover=0.5)
BLUISH = replace(PLAIN, id="y", name="Y", scatter_exponent=3.5)


@pytest.mark.parametrize("exponent", [0.0, 1.0, 3.5])
def test_scattering_is_stated_at_550_nm_and_falls_by_its_exponent(exponent):
    course = scattering_course(exponent)
    assert course[list(WAVELENGTHS_NM).index(550.0)] == 1.0
    assert course[0] == pytest.approx((550 / 400) ** exponent)
    assert (np.diff(course) <= 0).all()


@pytest.mark.parametrize("exponent", [0.0, 1.0, 2.0, 4.0])
def test_the_cover_of_a_film_is_what_was_stated_whatever_its_exponent(exponent):
    for cover in (0.2, 0.55, 0.92):
        film = film_of((66, 11, 17), cover, scatter_exponent=exponent)
        assert contrast_ratio(film, 9.0, HOUSE.white_ground) == pytest.approx(cover, abs=1e-6)


def test_an_item_s_own_exponent_counts_before_the_house_s():
    assert scatter_exponent(PLAIN, HOUSE) == HOUSE.scatter_exponent
    assert scatter_exponent(PLAIN, replace(HOUSE, scatter_exponent=2.0)) == 2.0
    assert scatter_exponent(BLUISH, replace(HOUSE, scatter_exponent=1.0)) == 3.5
    film = film_for(BLUISH, HOUSE)
    assert film.s[0] / film.s[-1] == pytest.approx((700 / 400) ** 3.5)


def test_in_a_mix_each_item_scatters_as_it_does_alone():
    mixed = mixture(((PLAIN, 0.5), (BLUISH, 0.5)), HOUSE).film
    assert mixed is not None
    assert mixed.s == pytest.approx((film_for(PLAIN, HOUSE).s + film_for(BLUISH, HOUSE).s) / 2)


def test_an_exponent_goes_through_the_kit_table():
    [plain, bluish] = [row.item for row in read_kit(write_kit([PLAIN, BLUISH]).encode())]
    assert (plain.scatter_exponent, bluish.scatter_exponent) == (None, 3.5)
    text = write_kit([BLUISH]).replace("3.5", "9")
    assert "scatter_exponent" in str(read_kit(text.encode())[0].refused)
