"""The corrector question: over a discoloration, which corrector and concealer, and how little of each.

There is no table of hues here. Every pair and thickness is laid on the zone's own skin, the planned foundation is
laid over it, and the combination with the least total film that comes close enough to the intended complexion wins.
"""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass

import numpy as np

from nabrel.core.case import Lab, Product
from nabrel.core.film.films import over
from nabrel.core.film.spectra import SAMPLES, Floats, delta_e, lab_of, surface
from nabrel.core.house import House
from nabrel.core.kit.optics import bank, film_for

CORRECTOR_UM: Floats = np.array([0.5, 0.75, 1.0, 1.25, 1.5, 2.0, 2.5, 3.0, 3.5, 4.0])
CONCEALER_UM: Floats = np.array([0.0, 1.0, 1.5, 2.0, 3.0, 4.0, 5.0, 6.5, 8.0, 10.0])


@dataclass(frozen=True, slots=True)
class Covering:
    """A way to even out one zone: corrector and concealer (either may be absent), films in µm, and the result.

    de is CIEDE2000 from the intended complexion under the planned foundation; near_enough says whether it is
    within the house limit.
    """

    corrector: Product | None
    corrector_um: float
    concealer: Product | None
    concealer_um: float
    lab: Lab
    de: float
    near_enough: bool

    @property
    def total_um(self) -> float:
        """Film laid for this zone beside the foundation, in µm."""
        return self.corrector_um + self.concealer_um


@dataclass(frozen=True, slots=True)
class CorrectorAnswer:
    """The best covering, the best with another corrector or none, and the best with no corrector at all."""

    best: Covering
    runner_up: Covering | None
    without_corrector: Covering
    each: tuple[Covering, ...] = ()

    def rather(self, used: Collection[str]) -> Covering:
        """The best covering that keeps to correctors already in use, where it is nearly as good as the best.

        Nearly: as near to the complexion (or within ΔE00 0.5) for at most 1 µm more film. One corrector fewer on the
        hand is worth that.
        """
        best = self.best
        if best.corrector is None or best.corrector.id in used:
            return best
        for other in self.each:
            kept = other.corrector is not None and other.corrector.id in used
            near = other.near_enough or (not best.near_enough and other.de <= best.de + 0.5)
            if kept and near and other.total_um <= best.total_um + 1.0:
                return other
        return best

    @property
    def saving(self) -> float:
        """Share of film the corrector saves against concealer alone, 0 to 1; 0 where neither or only one is near."""
        if not (self.best.near_enough and self.without_corrector.near_enough) or self.without_corrector.total_um == 0:
            return 0.0
        return max(0.0, 1.0 - self.best.total_um / self.without_corrector.total_um)


def solve_corrector(
    skin: Lab,
    target: Lab,
    correctors: Sequence[Product],
    concealers: Sequence[Product],
    foundation: Product | None,
    foundation_um: float,
    house: House,
    most_um: float = 14.0,
) -> CorrectorAnswer:
    """Solve one zone. ``skin`` is its own colour, ``target`` the complexion, ``most_um`` what it still carries."""
    best_by_corrector = _best_of_each(
        surface(skin), np.array(target), tuple(correctors), tuple(concealers), foundation, foundation_um, house, most_um
    )
    ranked = sorted(best_by_corrector, key=_rank)
    return CorrectorAnswer(
        best=ranked[0],
        runner_up=ranked[1] if len(ranked) > 1 else None,
        without_corrector=best_by_corrector[0],
        each=tuple(ranked),
    )


def _rank(covering: Covering) -> tuple[int, float]:
    if covering.near_enough:
        return (0, covering.total_um + 0.02 * covering.de)
    return (1, covering.de + 0.05 * covering.total_um)


def _laid(ground: Floats, products: Sequence[Product], films_um: Floats, house: House) -> Floats:
    """Each product at each thickness over each ground: (…, 31) becomes (…, 1 + products, thicknesses, 31).

    Row 0 is no product: the ground itself, whatever the thickness.
    """
    ratio, s = bank(products, house)
    ratio, s = np.vstack([np.ones((1, SAMPLES)), ratio]), np.vstack([np.zeros((1, SAMPLES)), s])
    return over(ground[..., None, None, :], ratio[:, None, :], s[:, None, :] * films_um[:, None])


def _best_of_each(
    ground: Floats,
    wanted: Floats,
    correctors: tuple[Product, ...],
    concealers: tuple[Product, ...],
    foundation: Product | None,
    foundation_um: float,
    house: House,
    most_um: float,
) -> list[Covering]:
    """The best covering for no corrector (first) and for each corrector, over every concealer and thickness."""
    shown = _laid(_laid(ground, correctors, CORRECTOR_UM, house), concealers, CONCEALER_UM, house)
    if foundation is not None:
        film = film_for(foundation, house)
        shown = over(shown, film.ratio, film.s * foundation_um)
    labs = lab_of(shown)
    off = delta_e(labs, wanted)
    under = np.repeat(CORRECTOR_UM[None, :], len(correctors) + 1, axis=0)
    under[0] = 0.0
    upper = np.repeat(CONCEALER_UM[None, :], len(concealers) + 1, axis=0)
    upper[0] = 0.0
    total = under[:, :, None, None] + upper
    near = off <= house.close_enough_de
    cost = np.where(near, total + 0.02 * off, 1000.0 + off + 0.05 * total)
    cost = np.where(total <= max(most_um, 0.0), cost, np.inf)
    found: list[Covering] = []
    for row, corrector in enumerate((None, *correctors)):
        if not np.isfinite(cost[row]).any():
            continue
        t, n, u = np.unravel_index(int(np.argmin(cost[row])), cost[row].shape)
        lab = labs[row, t, n, u]
        concealed = float(upper[n, u])
        found.append(
            Covering(
                corrector=corrector,
                corrector_um=float(under[row, t]),
                concealer=concealers[n - 1] if n and concealed > 0 else None,
                concealer_um=concealed,
                lab=(float(lab[0]), float(lab[1]), float(lab[2])),
                de=float(off[row, t, n, u]),
                near_enough=bool(near[row, t, n, u]),
            )
        )
    return found
