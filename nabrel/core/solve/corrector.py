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
from numpy.typing import NDArray

from nabrel.core.case.product import Product
from nabrel.core.film.difference import delta_e
from nabrel.core.film.films import Film, on_ground, over, over_terms
from nabrel.core.film.spectra import SAMPLES, Floats, as_lab, lab_of, surface
from nabrel.core.film.stack import powder_cover
from nabrel.core.house import House
from nabrel.core.shelf.ladder import film_ladder, rungs
from nabrel.core.shelf.optics import film_for
from nabrel.core.terms.colour import Lab

Terms = tuple[Floats, Floats, Floats]
"""What films do, whatever they lie on: see :func:`nabrel.core.film.films.over_terms`."""
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
        """The best covering for no corrector (first) and for each corrector, over every concealer and amount.

        Everything is laid at once: corrector r in film t under covering c, which is none or a concealer in one film.
        """
        house = self.house
        corrector_um = film_ladder(house, house.rung_full_um)
        coverings = [(None, 0.0), *((item, float(um)) for item in concealers for um in film_ladder(house))]
        over_it = _terms(coverings, house)
        beneath = self._corrected(correctors, corrector_um)
        labs = lab_of(beneath_all(on_ground(beneath[:, :, None, :], *over_it), self.above, house))
        off = delta_e(labs, self.wanted)
        under = np.repeat(corrector_um[None, :], len(correctors) + 1, axis=0)
        under[0] = 0.0
        total = under[:, :, None] + np.array([um for _, um in coverings])
        near = (off <= house.close_enough_de) & (total <= self.most_um)
        near &= self._cast(labs, correctors) <= house.corrector_cast_share * house.corrector_cast
        self._take_out_what_slips(near, correctors, corrector_um, over_it)
        cost = np.where(near, total + 0.02 * off, 1000.0 + off + 0.05 * total)
        cost = np.where(total <= self.most_um, cost, np.inf)
        found: list[Covering] = []
        for row, corrector in enumerate((None, *correctors)):
            t, c = (int(each) for each in np.unravel_index(int(np.argmin(cost[row])), cost[row].shape))
            if not np.isfinite(cost[row, t, c]):
                continue
            found.append(
                Covering(
                    corrector=corrector,
                    corrector_um=float(under[row, t]),
                    concealer=coverings[c][0],
                    concealer_um=coverings[c][1],
                    lab=as_lab(labs[row, t, c]),
                    de=float(off[row, t, c]),
                    near_enough=bool(near[row, t, c]),
                    width=int(near[row, :, c].sum()),
                )
            )
        return found

    def _corrected(self, correctors: tuple[Product, ...], films_um: Floats) -> Floats:
        """The ground under no corrector (first) and under each, in each film: (correctors + 1, films, 31)."""
        laid = [(None, 0.0)] * len(films_um) + [(item, float(um)) for item in correctors for um in films_um]
        shown = on_ground(self.ground, *_terms(laid, self.house))
        return shown.reshape(len(correctors) + 1, len(films_um), SAMPLES)

    def _cast(self, labs: Floats, correctors: tuple[Product, ...]) -> Floats:
        """How far each result leans towards its own corrector's hue, in a*b*; 0 without one. Shape of labs less one."""
        towards = np.array([_towards(each, self.wanted) for each in (None, *correctors)])
        away = labs[..., 1:] - self.wanted[1:]
        return np.asarray(away[..., 0] * towards[:, 0, None, None] + away[..., 1] * towards[:, 1, None, None])

    def _take_out_what_slips(
        self, near: NDArray[np.bool_], correctors: tuple[Product, ...], films_um: Floats, over_it: Terms
    ) -> None:
        """Take out of ``near``, (correctors + 1, films, coverings), what a heavy hand spoils.

        Only what is near as meant is laid once more with the hand's slip: that is seldom one in ten.
        """
        row, film, covering = np.nonzero(near)
        if not len(row):
            return
        slipped = self._corrected(correctors, films_um * (1.0 + self.house.hand_error))[row, film]
        shown = on_ground(slipped, *(term[covering] for term in over_it))
        off = delta_e(lab_of(beneath_all(shown, self.above, self.house)), self.wanted)
        near[row, film, covering] = off <= self.house.hand_error_de


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


def _terms(laid: Sequence[tuple[Product | None, float]], house: House) -> Terms:
    """What each film of a product does to any ground, each (laid, 31); no product does nothing."""
    films = [(film_for(item, house), um) if item is not None else (_NO_FILM, 0.0) for item, um in laid]
    ratio = np.array([film.ratio for film, _ in films])
    power = np.array([film.s for film, _ in films]) * np.array([um for _, um in films])[:, None]
    return over_terms(ratio, power)


_NO_FILM = Film(k=np.ones(SAMPLES), s=np.ones(SAMPLES))
"""Stands for no product: at 0 µm every film leaves the ground as it is."""
