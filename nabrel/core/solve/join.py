"""Matching: which foundation joins face to neck and chest, fresh and after half an hour."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from nabrel.core.case.product import Product
from nabrel.core.case.sitter import Sitter
from nabrel.core.face.skin import intended_complexion
from nabrel.core.film.difference import delta_e
from nabrel.core.film.direction import direction
from nabrel.core.film.films import over
from nabrel.core.film.spectra import lab_of, surface
from nabrel.core.house import House
from nabrel.core.shelf.optics import film_for
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.limits import Range

SETTLED_LIGHTNESS = Range(3.0, 97.0)
"""L* of a colour that has shifted."""


@dataclass(frozen=True, slots=True)
class Joining:
    """A foundation on this face, thin on the neck, beside the bare chest.

    face and settled are the finished face fresh and after half an hour; de the CIEDE2000 of each to the complexion;
    neck_de and chest_de the step from face to neck and to chest once settled, None where they were not read. worst is
    the largest of these, by which candidates are ranked.
    """

    product: Product
    face: Lab
    settled: Lab
    de: float
    settled_de: float
    neck_de: float | None
    chest_de: float | None
    worst: float
    says: str


def join_face_and_body(
    sitter: Sitter, candidates: Sequence[Product], film_um: float, house: House
) -> tuple[Joining, ...]:
    """The candidates ranked, the one that joins face to body best first. Items without colour are passed over."""
    found = [_joining(sitter, item, film_um, house) for item in candidates if item.tinted and not item.dry]
    return tuple(sorted(found, key=lambda each: (each.worst, each.product.id)))


def settled_product(product: Product) -> Product:
    """The product as it looks after half an hour of wear: its stated shift on its colour, kept within a surface's."""
    if product.half_hour is None or product.lab is None:
        return product
    lightness, red, yellow = (a + b for a, b in zip(product.lab, product.half_hour, strict=True))
    return replace(product, lab=(SETTLED_LIGHTNESS.clipped(lightness), red, yellow))


def _joining(sitter: Sitter, product: Product, film_um: float, house: House) -> Joining:
    target = np.array(intended_complexion(sitter, house))
    later = settled_product(product)
    face, settled = _worn(sitter.skin.lab, product, film_um, house), _worn(sitter.skin.lab, later, film_um, house)
    de, settled_de = float(delta_e(np.array(face), target)), float(delta_e(np.array(settled), target))
    neck_de = chest_de = None
    if sitter.neck is not None:
        neck = _worn(sitter.neck.lab, later, film_um * house.edge_share, house)
        neck_de = float(delta_e(np.array(settled), np.array(neck)))
    if sitter.chest is not None:
        chest_de = float(delta_e(np.array(settled), np.array(sitter.chest.lab)))
    worst = max(de, settled_de, neck_de or 0.0, chest_de or 0.0)
    goal = (float(target[0]), float(target[1]), float(target[2]))
    return Joining(
        product, face, settled, de, settled_de, neck_de, chest_de, worst, _says(product, face, settled, goal, neck_de)
    )


def _worn(skin: Lab, product: Product, film_um: float, house: House) -> Lab:
    film = film_for(product, house)
    lab = lab_of(over(surface(skin), film.ratio, film.s * film_um))
    return (float(lab[0]), float(lab[1]), float(lab[2]))


def _says(product: Product, face: Lab, settled: Lab, target: Lab, neck_de: float | None) -> str:
    missed = direction(face, target)
    said = f"{product.name} ends {'on the mark' if missed == 'on the mark' else missed + ' than the complexion'}"
    if product.half_hour is not None:
        turned = direction(settled, face)
        said += f"; after half an hour it is {turned if turned != 'on the mark' else 'unchanged'}"
    if neck_de is not None:
        said += f"; the step to the neck is ΔE00 {neck_de:.1f}"
    return said + "."
