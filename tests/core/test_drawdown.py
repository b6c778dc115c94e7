"""A drawdown over black and white gives back the colour and cover of the film that was drawn."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from nabrel.core.errors import Impossible, Refused
from nabrel.core.film.difference import delta_e
from nabrel.core.film.films import film_of, over
from nabrel.core.film.spectra import lab_of
from nabrel.core.house import House
from nabrel.core.shelf.drawdown import read_drawdown

HOUSE = House()
TONES = [(76.0, 8.0, 14.0), (62.0, 11.0, 17.0), (48.0, 14.0, 19.0), (34.0, 12.0, 13.0), (67.0, 25.0, 27.0)]


def read(lab, cover, film_um):
    """What a colour reader shows over black and over white."""
    film = film_of(lab, cover)
    grounds = np.stack([np.full_like(film.s, 1e-4), np.full_like(film.s, HOUSE.white_ground)])
    black, white = lab_of(over(grounds, film.ratio, film.s * film_um))
    return tuple(map(float, black)), tuple(map(float, white))


@settings(max_examples=40, deadline=None)
@given(st.sampled_from(TONES), st.floats(0.2, 0.85), st.floats(6.0, 14.0))
def test_what_was_drawn_comes_back(lab, cover, film_um):
    found = read_drawdown(*read(lab, cover, film_um), film_um, HOUSE)
    assert found.cover == pytest.approx(cover, abs=0.003)
    assert float(delta_e(np.array(found.lab), np.array(lab))) < 0.15


def test_a_thicker_film_of_the_same_readings_covers_less():
    readings = read((62.0, 11.0, 17.0), 0.6, 9.0)
    covers = [read_drawdown(*readings, film_um, HOUSE).cover for film_um in (6.0, 9.0, 15.0)]
    assert covers == sorted(covers, reverse=True)


@pytest.mark.parametrize(
    ("black", "white", "film_um", "field"),
    [
        ((40.0, 8.0, 10.0), (70.0, 8.0, 14.0), 0.0, "film_um"),
        ((40.0, 8.0, 10.0), (70.0, 8.0, 14.0), float("nan"), "film_um"),
        ((70.0, 8.0, 10.0), (40.0, 8.0, 14.0), 9.0, "over_white"),
        ((62.0, 11.0, 17.0), (62.1, 11.0, 17.0), 9.0, "over_white"),
        ((62.0, 120.0, 17.0), (70.0, 8.0, 14.0), 9.0, "over_black"),
    ],
)
def test_readings_that_cannot_be_are_refused(black, white, film_um, field):
    with pytest.raises(Refused) as refused:
        read_drawdown(black, white, film_um, HOUSE)
    assert field in refused.value.field


def test_an_opaque_film_is_told_to_be_drawn_thinner():
    with pytest.raises(Impossible, match="thinner"):
        read_drawdown((62.0, 11.0, 17.0), (62.2, 11.0, 17.0), 9.0, HOUSE)


@pytest.mark.parametrize("cover", [0.25, 0.5, 0.75])
def test_what_is_unsure_of_the_readings_is_what_moving_them_does(cover):
    black, white = read((62.0, 11.0, 17.0), cover, 9.0)
    sure, unsure = (read_drawdown(black, white, 9.0, HOUSE, sds=sds) for sds in ((0.0, 0.0), (1.0, 0.0)))
    assert (sure.lab_sd, sure.cover_sd) == (0.0, 0.0)
    moved = read_drawdown((black[0] + 1.0, *black[1:]), white, 9.0, HOUSE)
    assert unsure.cover_sd == pytest.approx(abs(moved.cover - sure.cover), abs=0.004)
    assert unsure.lab_sd == pytest.approx(float(delta_e(moved.lab, sure.lab)) / np.sqrt(2), abs=0.15)
