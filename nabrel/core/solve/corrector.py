"""The corrector question: over a discoloration, which corrector and concealer, and how little of each.

There is no table of hues here. Every pair is laid on the zone's own skin in every amount of the ladder that a hand can tell
apart, what is planned over it is laid over it, and the combination with the least total film that comes close enough to the
intended complexion wins.
"""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from nabrel.core.case.product import Product
from nabrel.core.film.difference import delta_e
from nabrel.core.film.films import over
from nabrel.core.film.spectra import SAMPLES, Floats, lab_of, surface
from nabrel.core.film.stack import powder_cover
from nabrel.core.house import House
from nabrel.core.shelf.ladder import film_ladder, rungs
from nabrel.core.shelf.optics import bank, film_for
from nabrel.core.terms.colour import Lab

Above = tuple[tuple[Product, float], ...]
"""What is laid over the zone afterwards, the lowest first: µm of film, or mg/cm² of a powder."""


@dataclass(frozen=True, slots=True)
class Covering:
    """A way to even out one zone: corrector and concealer (either may be absent), films in µm, and the result.

    de is CIEDE2000 from the intended complexion under all that lies above; near_enough says whether it is
    within the house limit, width over how many neighbouring amounts of corrector it stays so.
    """

    corrector: Product | None
    corrector_um: float
    concealer: Product | None
    concealer_um: float
    lab: Lab
    de: float
    near_enough: bool
    width: int = 1

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
    above: Above,
    house: House,
    most_um: float = 14.0,
) -> CorrectorAnswer:
    """Solve one zone; see :func:`remembered`. Asked again with the same values it answers from memory."""
    return remembered(skin, target, tuple(correctors), tuple(concealers), above, house, most_um)


@lru_cache(maxsize=1024)
def remembered(
    skin: Lab,
    target: Lab,
    correctors: tuple[Product, ...],
    concealers: tuple[Product, ...],
    above: Above,
    house: House,
    most_um: float,
) -> CorrectorAnswer:
    """Solve one zone. ``skin`` is its own colour, ``target`` the complexion, ``most_um`` what it still carries.

    A covering counts as near enough when it meets the house limit as laid, and stays within a wider one when the hand
    lays more corrector than meant: a strong hue that only works at one exact thickness is no use to a person.
    """
    zone = _Zone(surface(skin), np.array(target), above, house, max(most_um, 0.0))
    without, *others = zone.best_of_each(correctors, concealers)
    ranked = _ranked([without, *others], house)
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


def _ranked(coverings: list[Covering], house: House) -> list[Covering]:
    """The least film first; of those within half a rung of it, what stays near enough over the widest range of amounts."""
    ranked = sorted(coverings, key=_rank)
    best = ranked[0]
    if not best.near_enough:
        return ranked
    tied = [
        each for each in ranked if each.near_enough and each.total_um <= best.total_um + half_rung(best.total_um, house)
    ]
    first = max(tied, key=lambda each: (each.width, -each.total_um, -each.de))
    return [first, *(each for each in ranked if each is not first)]


def half_rung(film_um: float, house: House) -> float:
    """Half the way from a film to the next rung of the ladder, µm."""
    ladder = [rung.amount for rung in rungs("um", house)]
    above = [amount for amount in ladder if amount > film_um]
    return (above[0] - film_um) / 2 if above else (ladder[-1] - ladder[-2]) / 2


@dataclass(frozen=True, slots=True)
class _Zone:
    """One zone to even out: its ground, what is wanted, and what will lie over it."""

    ground: Floats
    wanted: Floats
    above: Above
    house: House
    most_um: float

    def best_of_each(self, correctors: tuple[Product, ...], concealers: tuple[Product, ...]) -> list[Covering]:
        """The best covering for no corrector (first) and for each corrector, over every concealer and amount."""
        house = self.house
        corrector_um = film_ladder(house, house.rung_full_um)
        concealer_um = np.concatenate([[0.0], film_ladder(house)])
        count = len(corrector_um)
        # The hand's slip is laid as it is, beside the amounts that are meant.
        meant_and_slipped = np.concatenate([corrector_um, corrector_um * (1.0 + house.hand_error)])
        labs = self._covered(correctors, concealers, meant_and_slipped, concealer_um)
        everything = delta_e(labs, self.wanted)
        off, slipped, labs = everything[:, :count], everything[:, count:], labs[:, :count]
        under = np.repeat(corrector_um[None, :], len(correctors) + 1, axis=0)
        under[0] = 0.0
        upper = np.repeat(concealer_um[None, :], len(concealers) + 1, axis=0)
        upper[0] = 0.0
        total = under[:, :, None, None] + upper
        near = (off <= house.close_enough_de) & (slipped <= house.hand_error_de)
        near &= self._cast(labs, correctors) <= house.corrector_cast_share * house.corrector_cast
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
                    width=int(near[row, :, n, u].sum()),
                )
            )
        return found

    def _cast(self, labs: Floats, correctors: tuple[Product, ...]) -> Floats:
        """How far each result leans towards its own corrector's hue, in a*b*; 0 without one. Shape of labs less one."""
        towards = np.zeros((len(correctors) + 1, 2))
        for row, corrector in enumerate(correctors, start=1):
            towards[row] = _towards(corrector, self.wanted)
        return np.asarray(np.einsum("rtnuc,rc->rtnu", labs[..., 1:] - self.wanted[1:], towards))

    def _covered(
        self, correctors: tuple[Product, ...], concealers: tuple[Product, ...], under: Floats, upper: Floats
    ) -> Floats:
        """L*a*b* of every pair and amount once all lies above, (correctors + 1, t, concealers + 1, u, 3)."""
        shown = _laid(_laid(self.ground, correctors, under, self.house), concealers, upper, self.house)
        return lab_of(beneath_all(shown, self.above, self.house))


def beneath_all(shown: Floats, above: Above, house: House) -> Floats:
    """What reflectances (…, 31) show once all that is planned above lies on them."""
    for product, amount in above:
        film = film_for(product, house)
        if product.dry:
            covered, thickness = (float(each) for each in powder_cover(np.array(amount), house))
            shown = (1.0 - covered) * shown + covered * over(shown, film.ratio, film.s * thickness)
        else:
            shown = over(shown, film.ratio, film.s * amount)
    return shown


def _towards(corrector: Product | None, wanted: Floats) -> Floats:
    """Unit vector in a*b* from what is wanted towards a corrector's own hue; no direction without one."""
    if corrector is None or corrector.lab is None:
        return np.zeros(2)
    away = np.array(corrector.lab[1:]) - wanted[1:]
    return np.asarray(away / max(float(np.hypot(*away)), 1e-9))


def _laid(ground: Floats, products: Sequence[Product], films_um: Floats, house: House) -> Floats:
    """Each product at each thickness over each ground: (…, 31) becomes (…, 1 + products, thicknesses, 31).

    Row 0 is no product: the ground itself, whatever the thickness.
    """
    ratio, s = bank(products, house)
    ratio, s = np.vstack([np.ones((1, SAMPLES)), ratio]), np.vstack([np.zeros((1, SAMPLES)), s])
    return over(ground[..., None, None, :], ratio[:, None, :], s[:, None, :] * films_um[:, None])
