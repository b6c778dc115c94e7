"""The film of a kit item."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from nabrel.core.case.product import Product
from nabrel.core.errors import Fault
from nabrel.core.film.difference import ashiness
from nabrel.core.film.films import Film, contrast_ratio, film_of, over
from nabrel.core.film.spectra import SAMPLES, Floats, as_lab, lab_of, surface
from nabrel.core.film.stack import Layer, powder_cover, powder_layer
from nabrel.core.house import House
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.limits import LIMITS
from nabrel.core.terms.words import join_words

MINERAL_FILTERS = ("zinc", "titanium")
"""Words in what a sunscreen contains that make it a mineral one."""
WHITE: Lab = (96.0, 0.0, 2.0)
"""Masstone of untinted mineral filters."""


def film_for(product: Product, house: House) -> Film:
    """The Kubelka–Munk film of a tinted product."""
    if product.lab is None or product.cover is None:
        raise Fault(f"{product.id} has no colour, so it has no film")
    return film_of(
        product.lab, product.cover, house.standard_film_um, house.white_ground, scatter_exponent(product, house)
    )


def scatter_exponent(product: Product, house: House) -> float:
    """How a product's scattering falls with wavelength: as the item says, else what is usual for pigment or for pearl."""
    if product.scatter_exponent is not None:
        return product.scatter_exponent
    if mineral(product):
        return house.mineral_scatter_exponent
    return house.pearl_scatter_exponent if product.shimmers else house.scatter_exponent


def mineral(product: Product) -> bool:
    """Whether this is a sunscreen with mineral filters, by what it contains."""
    listed = (*product.contains, *product.ingredients)
    return product.role == "sunscreen" and any(word in entry.lower() for entry in listed for word in MINERAL_FILTERS)


def veil_of(product: Product, house: House) -> Film | None:
    """The film that a mineral sunscreen leaves, tinted or white; None for other products."""
    if not mineral(product):
        return None
    lab, cover = product.lab or WHITE, product.cover or house.mineral_veil_cover
    return film_of(lab, cover, house.standard_film_um, house.white_ground, scatter_exponent(product, house))


def veiled(ground: Floats, product: Product, house: House) -> Floats:
    """What skin of this reflectance shows once a sunscreen has dried on it; as it is, where that leaves no veil."""
    film = veil_of(product, house)
    return ground if film is None else over(ground, film.ratio, film.s * house.mineral_veil_um)


def veil_greys(product: Product, skin: Lab, house: House) -> float:
    """How much of its own chroma skin loses under a sunscreen alone."""
    return float(ashiness(lab_of(veiled(surface(skin), product, house)), np.array(skin)))


Bank = tuple[Floats, Floats]
"""K/S and S (1/µm) of several products, each (products, 31)."""


def bank(products: Sequence[Product], house: House) -> Bank:
    """K/S and S (1/µm) of several tinted products, each (products, 31), to lay them all at once."""
    films = [film_for(product, house) for product in products]
    if not films:
        return np.empty((0, SAMPLES)), np.empty((0, SAMPLES))
    return np.array([film.ratio for film in films]), np.array([film.s for film in films])


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


@dataclass(frozen=True, slots=True)
class Mixture:
    """What a step takes: one item, or several mixed. ``product`` is what it amounts to, ``film`` its optics if it is tinted."""

    product: Product
    film: Film | None
    items: tuple[tuple[Product, float], ...]


def mixture(items: tuple[tuple[Product, float], ...], house: House) -> Mixture:
    """The mixture of items with their shares. One item is itself; K and S of several add by share (Duncan 1940)."""
    if len(items) == 1:
        only = items[0][0]
        return Mixture(only, film_for(only, house) if only.tinted else None, items)
    exponents = tuple(scatter_exponent(item, house) for item, _ in items)
    return _mixed(items, house.standard_film_um, house.white_ground, exponents)


@lru_cache(maxsize=256)
def _mixed(
    items: tuple[tuple[Product, float], ...], standard_um: float, white: float, exponents: tuple[float, ...]
) -> Mixture:
    main = max(items, key=lambda row: row[1])[0]
    tinted = [
        (film_of(item.lab, item.cover, standard_um, white, exponent), share)
        for (item, share), exponent in zip(items, exponents, strict=True)
        if item.lab is not None and item.cover is not None
    ]
    film, lab, cover = None, main.lab, main.cover
    if tinted:
        # An untinted item in the mix thins it: what is left of its share lays no pigment.
        k = np.sum([f.k * share for f, share in tinted], axis=0)
        film = Film(k, np.sum([f.s * share for f, share in tinted], axis=0))
        ratio = film.ratio
        lab = as_lab(lab_of((1.0 + ratio - np.sqrt(ratio * (ratio + 2.0)))[None, :])[0])
        cover = float(np.clip(contrast_ratio(film, standard_um, white), LIMITS.cover.low, LIMITS.cover.high))
    product = replace(
        main,
        id="+".join(item.id for item, _ in items),
        name=join_words(item.name for item, _ in items),
        lab=lab,
        cover=cover,
        contains=tuple(dict.fromkeys(each for item, _ in items for each in item.contains)),
        ingredients=tuple(dict.fromkeys(each for item, _ in items for each in item.ingredients)),
    )
    return Mixture(product, film, items)
