"""The read-through question: which shade or light, and how much, shows the wanted step once all layers are on."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from nabrel.core.case.product import Product
from nabrel.core.film.films import over
from nabrel.core.film.spectra import Floats, lab_of, surface
from nabrel.core.house import House
from nabrel.core.shelf.optics import film_for, lay_each
from nabrel.core.terms.colour import Lab

UM_COST = 0.12
"""What a micrometre more or less than usual costs, L*."""
TINT_COST, FREE_TINT = 0.25, 2.0
"""What a unit of a* and b* beyond the free ones costs, L*: a shadow is a little redder or greyer than its skin."""


@dataclass(frozen=True, slots=True)
class Sculpting:
    """A product and amount, the lightness step it shows bare and once covered (ΔL*, negative is darker).

    amount is µm of film, or mg/cm² where the product is a powder.
    """

    product: Product
    amount: float
    bare_step: float
    visible_step: float

    @property
    def read_through(self) -> float:
        """Share of the bare step that still shows, 0 to 1."""
        return self.visible_step / self.bare_step if abs(self.bare_step) > 1e-6 else 0.0


def solve_sculpt(
    skins: Sequence[Lab],
    wanted_step: float,
    candidates: Sequence[Product],
    foundation: Product | None,
    foundation_um: float,
    amounts: Floats,
    house: House,
    *,
    beneath: bool,
    usual: float,
    handicap: Mapping[str, float],
) -> Sculpting | None:
    """The candidate and amount whose visible step comes nearest to ``wanted_step`` (ΔL*), averaged over the zones.

    ``amounts`` are µm, or mg/cm² where the candidates are powders (all of one kind). ``beneath`` lays it under the
    foundation, else over it. Between near equals the film nearest to the usual one
    wins, a product far redder or greyer than a believable shadow pays for it, and ``handicap`` (by product id, in
    ΔL*) holds back items sold for something else. None where there is no candidate.
    """
    if not candidates:
        return None
    per_um = UM_COST * (house.powder_film_um_per_mg if candidates[0].dry else 1.0)
    ground = np.stack([surface(skin) for skin in skins])
    cover = film_for(foundation, house) if foundation is not None else None

    def covered(reflectance: Floats) -> Floats:
        return reflectance if cover is None else over(reflectance, cover.ratio, cover.s * foundation_um)

    base = ground if beneath else covered(ground)
    plain = lab_of(covered(ground) if beneath else base)
    laid = lay_each(base, candidates, amounts, house)
    shown = lab_of(covered(laid) if beneath else laid)
    visible = (shown[..., 0] - plain[..., 0]).mean(axis=-1)
    bare = visible if not beneath else (lab_of(laid)[..., 0] - lab_of(base)[..., 0]).mean(axis=-1)
    tint = np.hypot(*np.moveaxis((shown[..., 1:] - plain[..., 1:]).mean(axis=-2), -1, 0))
    cost = (
        np.abs(visible - wanted_step) + per_um * np.abs(amounts - usual) + TINT_COST * np.maximum(0.0, tint - FREE_TINT)
    )
    cost = cost + np.array([handicap.get(item.id, 0.0) for item in candidates])[:, None]
    item, film = (int(each) for each in np.unravel_index(int(np.argmin(cost)), cost.shape))
    return Sculpting(candidates[item], float(amounts[film]), float(bare[item, film]), float(visible[item, film]))
