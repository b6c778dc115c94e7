"""The film of a kit item."""

from __future__ import annotations

import numpy as np

from nabrel.core.case import Product
from nabrel.core.errors import Fault
from nabrel.core.film.films import Film, film_of
from nabrel.core.film.spectra import Floats
from nabrel.core.film.stack import Layer, powder_layer
from nabrel.core.house import House


def film_for(product: Product, house: House) -> Film:
    """The Kubelka–Munk film of a tinted product."""
    if product.lab is None or product.cover is None:
        raise Fault(f"{product.id} has no colour, so it has no film")
    return film_of(product.lab, product.cover, house.standard_film_um, house.white_ground)


def layer_for(product: Product, amounts: Floats, house: House) -> Layer:
    """The layer a product makes: ``amounts`` per zone are µm of film, or mg/cm² where it is a powder."""
    film = film_for(product, house)
    if product.dry:
        return powder_layer(film, amounts, house)
    return Layer(film, np.asarray(amounts, dtype=np.float64))
