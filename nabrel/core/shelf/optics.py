"""The film of a kit item."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from nabrel.core.case.product import Product
from nabrel.core.errors import Fault
from nabrel.core.film.films import Film, film_of, over
from nabrel.core.film.spectra import SAMPLES, Floats
from nabrel.core.film.stack import Layer, powder_cover, powder_layer
from nabrel.core.house import House


def film_for(product: Product, house: House) -> Film:
    """The Kubelka–Munk film of a tinted product."""
    if product.lab is None or product.cover is None:
        raise Fault(f"{product.id} has no colour, so it has no film")
    return film_of(product.lab, product.cover, house.standard_film_um, house.white_ground)


def bank(products: Sequence[Product], house: House) -> tuple[Floats, Floats]:
    """K/S and S (1/µm) of several tinted products, each (products, 31), to lay them all at once."""
    films = [film_for(product, house) for product in products]
    if not films:
        return np.empty((0, SAMPLES)), np.empty((0, SAMPLES))
    return np.stack([film.ratio for film in films]), np.stack([film.s for film in films])


def layer_for(product: Product, amounts: Floats, house: House) -> Layer:
    """The layer a product makes: ``amounts`` per zone are µm of film, or mg/cm² where it is a powder."""
    film = film_for(product, house)
    if product.dry:
        return powder_layer(film, amounts, house)
    return Layer(film, np.asarray(amounts, dtype=np.float64))


def lay_each(ground: Floats, products: Sequence[Product], amounts: Floats, house: House) -> Floats:
    """Each product in each amount over each ground: (zones, 31) becomes (products, amounts, zones, 31).

    ``amounts`` are µm of film, or mg/cm² where the products are powders; all are of one kind.
    """
    ratio, s = bank(products, house)
    if not products or not products[0].dry:
        return over(ground, ratio[:, None, None, :], s[:, None, None, :] * amounts[:, None, None])
    covered, thickness = powder_cover(amounts, house)
    laid = over(ground, ratio[:, None, None, :], s[:, None, None, :] * thickness[:, None, None])
    share = covered[:, None, None]
    return np.asarray(share * laid + (1.0 - share) * ground)
