"""Which foundation of the kit joins face to body, with the cover and finish wanted."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from nabrel.core.case.intent import Intent
from nabrel.core.case.product import Product
from nabrel.core.film.difference import delta_e
from nabrel.core.film.films import over
from nabrel.core.film.spectra import lab_of, surface
from nabrel.core.house import House
from nabrel.core.house.tables import FINISH_RANK
from nabrel.core.shelf.bases import beads
from nabrel.core.shelf.optics import bank
from nabrel.core.terms.colour import Lab


@dataclass(frozen=True, slots=True)
class ShadeMatch:
    """A foundation, its result on this skin at the planned film, and how far that is from the complexion."""

    product: Product
    lab: Lab
    de: float


def match_foundation(
    skin: Lab,
    complexion: Lab,
    intent: Intent,
    candidates: Sequence[Product],
    film_um: float,
    house: House,
    *,
    finish_lean: float = 0.0,
    beneath: Sequence[Product] = (),
) -> tuple[ShadeMatch, ...]:
    """The candidates ranked, best first: nearness to the complexion, then cover and finish against the intent.

    ``finish_lean`` moves the wanted finish: negative towards matte (oily skin), positive towards dewy (dry skin).
    ``beneath`` are the items that may lie under it: a base that beads on them counts against a candidate.
    """
    tinted = [product for product in candidates if product.tinted]
    if not tinted:
        return ()
    ratio, s = bank(tinted, house)
    labs = lab_of(over(surface(skin), ratio, s * film_um))
    offs = delta_e(labs, np.array(complexion))
    wanted_finish = FINISH_RANK[intent.finish] + finish_lean
    beading = {base: sum(beads(item.base, base) for item in beneath) for base in {item.base for item in tinted}}
    scored: list[tuple[float, str, ShadeMatch]] = []
    for product, lab, off in zip(tinted, labs, offs, strict=True):
        cost = float(off) + house.cover_cost * abs((product.cover or 0.0) - intent.cover_ratio)
        cost += house.mix_finish_cost * abs(FINISH_RANK[product.finish] - wanted_finish)
        if beneath:
            cost += house.beading_cost * beading[product.base] / len(beneath)
        match = ShadeMatch(product, (float(lab[0]), float(lab[1]), float(lab[2])), float(off))
        scored.append((cost, product.id, match))
    return tuple(match for _, _, match in sorted(scored, key=lambda row: row[:2]))
