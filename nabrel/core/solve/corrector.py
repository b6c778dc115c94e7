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

CORRECTOR_UM: Floats = np.array([0.5, 1.0, 1.5, 2.0, 3.0, 4.0, 5.0])
CONCEALER_UM: Floats = np.array([0.0, 1.0, 2.0, 3.0, 4.5, 6.0, 8.0, 10.0, 12.0])
REFINED = 4
"""How many of the most promising correctors are worked out on the fine grid."""
FINE_UM: Floats = np.arange(-1.5, 0.51, 0.25)


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

    def worth_it(self, house: House) -> bool:
        """Whether a corrector earns its step: it saves enough film, or nothing comes near enough without it."""
        return not self.without_corrector.near_enough or self.saving >= house.corrector_worth

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
    """Solve one zone. ``skin`` is its own colour, ``target`` the complexion, ``most_um`` what it still carries.

    A covering counts as near enough when it meets the house limit as laid, and stays within a wider one when the hand
    lays more corrector than meant: a strong hue that only works at one exact thickness is no use to a person.
    """
    zone = _Zone(surface(skin), np.array(target), foundation, foundation_um, house, max(most_um, 0.0))
    coarse = zone.best_of_each(tuple(correctors), tuple(concealers), CORRECTOR_UM, CONCEALER_UM)
    without = zone.refined(coarse[0])
    promising = [zone.refined(covering) for covering in sorted(coarse[1:], key=_rank)[:REFINED]]
    ranked = sorted((without, *promising), key=_rank)
    return CorrectorAnswer(
        best=ranked[0],
        runner_up=ranked[1] if len(ranked) > 1 else None,
        without_corrector=without,
        each=tuple(ranked),
    )


def _rank(covering: Covering) -> tuple[int, float]:
    if covering.near_enough:
        return (0, covering.total_um + 0.02 * covering.de)
    return (1, covering.de + 0.05 * covering.total_um)


@dataclass(frozen=True, slots=True)
class _Zone:
    """One zone to even out: its ground, what is wanted, and what will lie over it."""

    ground: Floats
    wanted: Floats
    foundation: Product | None
    foundation_um: float
    house: House
    most_um: float

    def best_of_each(
        self,
        correctors: tuple[Product, ...],
        concealers: tuple[Product, ...],
        corrector_um: Floats,
        concealer_um: Floats,
    ) -> list[Covering]:
        """The best covering for no corrector (first) and for each corrector, over every concealer and thickness."""
        labs = self._covered(correctors, concealers, corrector_um, concealer_um)
        off = delta_e(labs, self.wanted)
        slipped = np.einsum("st,rtnu->rsnu", _further_along(corrector_um, 1.0 + self.house.hand_error), off)
        under = np.repeat(corrector_um[None, :], len(correctors) + 1, axis=0)
        under[0] = 0.0
        upper = np.repeat(concealer_um[None, :], len(concealers) + 1, axis=0)
        upper[0] = 0.0
        total = under[:, :, None, None] + upper
        near = (off <= self.house.close_enough_de) & (slipped <= self.house.hand_error_de)
        near &= self._cast(labs, correctors) <= self.house.corrector_cast_share * self.house.corrector_cast
        cost = np.where(near, total + 0.02 * off, 1000.0 + off + 0.05 * total)
        cost = np.where(total <= self.most_um, cost, np.inf)
        found: list[Covering] = []
        for row, corrector in enumerate((None, *correctors)):
            if not np.isfinite(cost[row]).any():
                continue
            t, n, u = (int(each) for each in np.unravel_index(int(np.argmin(cost[row])), cost[row].shape))
            lab, concealed = labs[row, t, n, u], float(upper[n, u])
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

    def _cast(self, labs: Floats, correctors: tuple[Product, ...]) -> Floats:
        """How far each result leans towards its own corrector's hue, in a*b*; 0 without one. Shape of labs less one."""
        towards = np.zeros((len(correctors) + 1, 2))
        for row, corrector in enumerate(correctors, start=1):
            own = np.array((corrector.lab or (0.0, 0.0, 0.0))[1:]) - self.wanted[1:]
            towards[row] = own / max(float(np.hypot(*own)), 1e-9)
        return np.asarray(np.einsum("rtnuc,rc->rtnu", labs[..., 1:] - self.wanted[1:], towards))

    def refined(self, covering: Covering) -> Covering:
        """The covering's own products on a grid of a quarter micrometre around it."""
        corrector, concealer = covering.corrector, covering.concealer
        if not covering.near_enough or covering.total_um <= self.house.least_film_um:
            return covering
        films = covering.corrector_um + FINE_UM
        upper = covering.concealer_um + FINE_UM if concealer is not None else np.zeros(1)
        tried = self.best_of_each(
            (corrector,) if corrector is not None else (),
            (concealer,) if concealer is not None else (),
            films[films >= self.house.least_film_um] if corrector is not None else np.zeros(1),
            upper[(upper >= self.house.least_film_um) | (upper == 0.0)],
        )
        return min((covering, tried[-1]), key=_rank)

    def _covered(
        self, correctors: tuple[Product, ...], concealers: tuple[Product, ...], under: Floats, upper: Floats
    ) -> Floats:
        """L*a*b* of every pair and thickness once the foundation is on, (correctors + 1, t, concealers + 1, u, 3)."""
        shown = _laid(_laid(self.ground, correctors, under, self.house), concealers, upper, self.house)
        if self.foundation is not None:
            film = film_for(self.foundation, self.house)
            shown = over(shown, film.ratio, film.s * self.foundation_um)
        return lab_of(shown)


def _further_along(grid: Floats, factor: float) -> Floats:
    """Weights (grid, grid) that read a curve sampled on the grid at ``factor`` times each point, by straight lines."""
    weights = np.eye(len(grid))
    if len(grid) < 2:
        return weights
    for row, wanted in enumerate(grid * factor):
        right = int(np.clip(np.searchsorted(grid, wanted), 1, len(grid) - 1))
        share = (wanted - grid[right - 1]) / (grid[right] - grid[right - 1])
        weights[row] = 0.0
        weights[row, right - 1], weights[row, right] = 1.0 - share, share
    return weights


def _laid(ground: Floats, products: Sequence[Product], films_um: Floats, house: House) -> Floats:
    """Each product at each thickness over each ground: (…, 31) becomes (…, 1 + products, thicknesses, 31).

    Row 0 is no product: the ground itself, whatever the thickness.
    """
    ratio, s = bank(products, house)
    ratio, s = np.vstack([np.ones((1, SAMPLES)), ratio]), np.vstack([np.zeros((1, SAMPLES)), s])
    return over(ground[..., None, None, :], ratio[:, None, :], s[:, None, :] * films_um[:, None])
