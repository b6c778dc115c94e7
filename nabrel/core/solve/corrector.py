"""The corrector question: over a discoloration, which corrector and concealer, and how little of each.

There is no table of hues here. Every pair and thickness is laid on the zone's own skin, the planned foundation is
laid over it, and the combination with the least total film that comes close enough to the intended complexion wins.
"""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from nabrel.core.case.product import Product
from nabrel.core.film.difference import delta_e
from nabrel.core.film.films import over
from nabrel.core.film.spectra import SAMPLES, Floats, lab_of, surface
from nabrel.core.house import House
from nabrel.core.shelf.optics import bank, film_for
from nabrel.core.terms.colour import Lab

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
    """Solve one zone; see :func:`remembered`. Asked again with the same values it answers from memory."""
    return remembered(skin, target, tuple(correctors), tuple(concealers), foundation, foundation_um, house, most_um)


@lru_cache(maxsize=1024)
def remembered(
    skin: Lab,
    target: Lab,
    correctors: tuple[Product, ...],
    concealers: tuple[Product, ...],
    foundation: Product | None,
    foundation_um: float,
    house: House,
    most_um: float,
) -> CorrectorAnswer:
    """Solve one zone. ``skin`` is its own colour, ``target`` the complexion, ``most_um`` what it still carries.

    A covering counts as near enough when it meets the house limit as laid, and stays within a wider one when the hand
    lays more corrector than meant: a strong hue that only works at one exact thickness is no use to a person.
    """
    zone = _Zone(surface(skin), np.array(target), foundation, foundation_um, house, max(most_um, 0.0))
    coarse = zone.best_of_each(correctors, concealers, CORRECTOR_UM, CONCEALER_UM)
    without, *promising = zone.refined([coarse[0], *sorted(coarse[1:], key=_rank)[:REFINED]])
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
            towards[row] = _towards(corrector, self.wanted)
        return np.asarray(np.einsum("rtnuc,rc->rtnu", labs[..., 1:] - self.wanted[1:], towards))

    def refined(self, coverings: Sequence[Covering]) -> list[Covering]:
        """Each covering with its own products on a grid of a quarter micrometre around it, all in one go.

        What was not near enough, or could not be thinner, stays as it is. Here the hand's slip is laid as it is.
        """
        least = self.house.least_film_um
        open_ones = [c for c in coverings if c.near_enough and c.total_um > least]
        if not open_ones:
            return list(coverings)
        films = np.stack([_around(c.corrector, c.corrector_um, least) for c in open_ones])
        upper = np.stack([_around(c.concealer, c.concealer_um, least) for c in open_ones])
        slip = np.array([1.0, 1.0 + self.house.hand_error])
        first_ratio, first_s = _optional_bank([c.corrector for c in open_ones], self.house)
        second_ratio, second_s = _optional_bank([c.concealer for c in open_ones], self.house)
        power = first_s[:, None, None, :] * (films[:, None, :] * slip[:, None])[..., None]
        shown = over(self.ground, first_ratio[:, None, None, :], power)[:, :, :, None, :]
        laid = second_s[:, None, :] * upper[:, :, None]
        shown = over(shown, second_ratio[:, None, None, None, :], laid[:, None, None, :, :])
        labs = lab_of(self._under_foundation(shown))
        off = delta_e(labs, self.wanted)
        total = films[:, :, None] + upper[:, None, :]
        near = (off[:, 0] <= self.house.close_enough_de) & (off[:, 1] <= self.house.hand_error_de)
        towards = np.stack([_towards(c.corrector, self.wanted) for c in open_ones])
        cast = np.einsum("ntuc,nc->ntu", labs[:, 0, ..., 1:] - self.wanted[1:], towards)
        near &= (cast <= self.house.corrector_cast_share * self.house.corrector_cast) & (total <= self.most_um)
        cost = np.where(near, total + 0.02 * off[:, 0], np.inf)
        finer: dict[int, Covering] = {}
        for row, covering in enumerate(open_ones):
            if not np.isfinite(cost[row]).any():
                continue
            t, u = (int(each) for each in np.unravel_index(int(np.argmin(cost[row])), cost[row].shape))
            lab = labs[row, 0, t, u]
            tried = replace(
                covering,
                corrector_um=float(films[row, t]),
                concealer_um=float(upper[row, u]),
                concealer=covering.concealer if upper[row, u] > 0 else None,
                lab=(float(lab[0]), float(lab[1]), float(lab[2])),
                de=float(off[row, 0, t, u]),
            )
            finer[id(covering)] = min((covering, tried), key=_rank)
        return [finer.get(id(covering), covering) for covering in coverings]

    def _under_foundation(self, shown: Floats) -> Floats:
        if self.foundation is None:
            return shown
        film = film_for(self.foundation, self.house)
        return over(shown, film.ratio, film.s * self.foundation_um)

    def _covered(
        self, correctors: tuple[Product, ...], concealers: tuple[Product, ...], under: Floats, upper: Floats
    ) -> Floats:
        """L*a*b* of every pair and thickness once the foundation is on, (correctors + 1, t, concealers + 1, u, 3)."""
        shown = _laid(_laid(self.ground, correctors, under, self.house), concealers, upper, self.house)
        return lab_of(self._under_foundation(shown))


def _towards(corrector: Product | None, wanted: Floats) -> Floats:
    """Unit vector in a*b* from what is wanted towards a corrector's own hue; no direction without one."""
    if corrector is None or corrector.lab is None:
        return np.zeros(2)
    away = np.array(corrector.lab[1:]) - wanted[1:]
    return np.asarray(away / max(float(np.hypot(*away)), 1e-9))


def _around(product: Product | None, film_um: float, least_um: float) -> Floats:
    """Thicknesses around a film, none thinner than can be laid on purpose; zeros where there is no product."""
    if product is None:
        return np.zeros_like(FINE_UM)
    return np.asarray(np.maximum(film_um + FINE_UM, least_um))


def _optional_bank(products: Sequence[Product | None], house: House) -> tuple[Floats, Floats]:
    """K/S and S of products, (n, 31); a missing one scatters nothing."""
    ratio, s = np.ones((len(products), SAMPLES)), np.zeros((len(products), SAMPLES))
    for row, item in enumerate(products):
        if item is not None:
            film = film_for(item, house)
            ratio[row], s[row] = film.ratio, film.s
    return ratio, s


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
