"""The corrector question: over a discoloration, which corrector and concealer, and how little of each.

There is no table of hues here. Every pair is laid on the zone's own skin in every amount of the ladder that a hand can tell
apart, what is planned over it is laid over it, and of what comes close enough to the intended complexion the least film wins; a
nearer colour is worth a little film (``film_for_nearer_um``), since a person sees the one and feels the other.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from nabrel.core.case.product import Product
from nabrel.core.film.difference import ashiness, delta_e
from nabrel.core.film.films import Terms, on_ground, over, over_terms
from nabrel.core.film.spectra import SAMPLES, Floats, as_lab, lab_of, surface
from nabrel.core.film.stack import powder_cover
from nabrel.core.house import House
from nabrel.core.shelf.ladder import film_ladder, rungs
from nabrel.core.shelf.optics import Bank, bank, film_for
from nabrel.core.terms.colour import Lab

Above = tuple[tuple[Product, float], ...]
"""What is laid over the zone afterwards, the lowest first: µm of film, or mg/cm² of a powder."""


@dataclass(frozen=True, slots=True)
class Covering:
    """A way to even out one zone: corrector and concealer (either may be absent), films in µm, and the result.

    de is CIEDE2000 from the intended complexion under all that lies above; near_enough says whether it is
    within the house limit, shows no cast of the corrector's hue and no grey, and stays near when the hand slips.
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
        """Whether a corrector earns its step: it saves enough film, or a person sees what is left without it."""
        bare, best = self.without_corrector, self.best
        no_more, gain = best.total_um <= bare.total_um, bare.de - best.de
        seen = gain >= house.corrector_seen_de
        brings_near = best.near_enough and not bare.near_enough and gain >= house.corrector_seen_de / 2
        return (
            self.saving >= house.corrector_worth
            or (no_more and (seen or brings_near))
            or (seen and not bare.near_enough)
        )

    def nearly_as_good(self, house: House) -> tuple[Covering, ...]:
        """The coverings with a corrector that do about as well as the best, the best first; none where none is best.

        Nearly: as near to the complexion (or within ΔE00 0.5) for at most a rung more film. One corrector fewer on the
        hand is worth that.
        """
        if self.best.corrector is None:
            return ()
        near = (each for each in self.each if each.corrector is not None and self.rivals(each, house))
        return tuple(dict.fromkeys((self.best, *near)))

    def rivals(self, covering: Covering, house: House) -> bool:
        """Whether a covering does about as well as the best: see :meth:`nearly_as_good`."""
        best = self.best
        most = best.total_um + max(1.0, 2.0 * half_rung(best.total_um, house))
        near = covering.near_enough or (not best.near_enough and covering.de <= best.de + 0.5)
        return near and covering.total_um <= most

    @property
    def saving(self) -> float:
        """Share of film the best saves against concealer alone, 0 to 1; see :meth:`saving_of`."""
        return self.saving_of(self.best)

    def saving_of(self, covering: Covering) -> float:
        """Share of film that a covering saves against concealer alone; 0 where it comes less near."""
        bare = self.without_corrector
        if bare.total_um == 0 or not (covering.near_enough or covering.de <= bare.de):
            return 0.0
        return max(0.0, 1.0 - covering.total_um / bare.total_um)


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
    suited = tuple(item for item in correctors if unsuited(item, skin, target, house) is None)
    without, *others = zone.best_of_each(suited, concealers)
    ranked = sorted([without, *others], key=lambda covering: _rank(covering, house))
    return CorrectorAnswer(
        best=ranked[0],
        runner_up=ranked[1] if len(ranked) > 1 else None,
        without_corrector=without,
        each=tuple(ranked),
    )


def unsuited(item: Product, skin: Lab, target: Lab, house: House) -> str | None:
    """Why a hue is not considered here, in words; None where it is.

    A far paler one lightens and turns grey, a far deeper one stains; over darkness green only adds grey, even where the sum
    comes near.
    """
    if item.lab is None:
        return "without a colour of its own"
    lighter = item.lab[0] - target[0]
    if lighter > house.corrector_paler_l:
        return "far paler than this skin"
    if lighter < -house.corrector_deeper_l:
        return "far deeper than this skin"
    redder, yellower = skin[1] - target[1], skin[2] - target[2]
    if item.lab[1] < 0.0 and redder <= abs(yellower):
        return "green, where what shows is not red"
    return None


def as_laid(
    skin: Lab,
    target: Lab,
    correctors: Sequence[Product],
    concealers: Sequence[Product],
    above: Above,
    house: House,
    most_um: float,
) -> tuple[Covering, ...]:
    """The best that each of these correctors leaves on a zone, whether it suits or not; in their order, each once.

    A corrector that finds no room is left out. Values are those of :func:`remembered`.
    """
    zone = _Zone(surface(skin), np.array(target), above, house, max(most_um, 0.0))
    return tuple(each for each in zone.best_of_each(tuple(correctors), tuple(concealers)) if each.corrector is not None)


def _rank(covering: Covering, house: House) -> tuple[int, float]:
    if covering.near_enough:
        return (0, covering.total_um + house.film_for_nearer_um * covering.de)
    return (1, covering.de + house.film_costs_de * covering.total_um)


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

        Everything is laid at once: a row is the bare ground (first) or a corrector in one film, a column no concealer
        (first) or a concealer in one film.
        """
        house = self.house
        corrector_um = film_ladder(house, min(house.rung_full_um, house.most_corrector_um))
        concealer_um = film_ladder(house, house.rung_full_um)
        coverings = [(None, 0.0), *((item, um) for item in concealers for um in concealer_um.tolist())]
        bank_beneath, over_it = bank(correctors, house), _terms(bank(concealers, house), concealer_um)
        beneath = np.concatenate([self.ground[None], self._corrected(bank_beneath, corrector_um)])
        labs = lab_of(beneath_all(_covered(beneath, over_it), self.above, house))
        off = delta_e(labs, self.wanted)
        under = np.concatenate([np.zeros(1), np.tile(corrector_um, len(correctors))])
        total = under[:, None] + np.array([um for _, um in coverings])
        near = (off <= house.close_enough_de) & (total <= self.most_um)
        near &= self._cast(labs, correctors, len(corrector_um)) <= house.corrector_cast_share * house.corrector_cast
        near &= ashiness(labs, self.wanted) <= house.ashy_chroma
        self._take_out_what_slips(near, bank_beneath, corrector_um, over_it)
        cost = np.where(near, total + house.film_for_nearer_um * off, 1000.0 + off + house.film_costs_de * total)
        cost = np.where(total <= self.most_um, cost, np.inf)
        found: list[Covering] = []
        first = 0
        for corrector in (None, *correctors):
            rows = slice(first, first + (1 if corrector is None else len(corrector_um)))
            first = rows.stop
            row, column = (int(each) for each in np.unravel_index(int(np.argmin(cost[rows])), cost[rows].shape))
            at = (rows.start + row, column)
            if not np.isfinite(cost[at]):
                continue
            found.append(
                Covering(
                    corrector=corrector,
                    corrector_um=float(under[at[0]]),
                    concealer=coverings[column][0],
                    concealer_um=coverings[column][1],
                    lab=as_lab(labs[at]),
                    de=float(off[at]),
                    near_enough=bool(near[at]),
                )
            )
        return found

    def _corrected(self, correctors: Bank, films_um: Floats) -> Floats:
        """The ground under each corrector in each film, one after the other: (correctors × films, 31)."""
        return on_ground(self.ground, *_terms(correctors, films_um))

    def _cast(self, labs: Floats, correctors: tuple[Product, ...], films: int) -> Floats:
        """How far each result leans towards its own corrector's hue, in a*b*; 0 without one. Shape of labs less one."""
        towards = np.array([_towards(None, self.wanted), *(_towards(each, self.wanted) for each in correctors)])
        own = np.repeat(towards, [1, *([films] * len(correctors))], axis=0)
        away = labs[..., 1:] - self.wanted[1:]
        return np.asarray(away[..., 0] * own[:, 0, None] + away[..., 1] * own[:, 1, None])

    def _take_out_what_slips(self, near: NDArray[np.bool_], correctors: Bank, films_um: Floats, over_it: Terms) -> None:
        """Take out of ``near``, (1 + correctors × films, coverings), what a heavy hand spoils.

        Only what is near as meant is laid once more with the hand's slip: that is seldom one in ten. What has no
        corrector has nothing to slip with.
        """
        row, covering = np.nonzero(near[1:])
        if not len(row):
            return
        slipped = self._corrected(correctors, films_um * (1.0 + self.house.hand_error))[row]
        covered = covering > 0
        slipped[covered] = on_ground(slipped[covered], *(term[covering[covered] - 1] for term in over_it))
        off = delta_e(lab_of(beneath_all(slipped, self.above, self.house)), self.wanted)
        near[row + 1, covering] = off <= self.house.hand_error_de


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


def _terms(items: Bank, films_um: Floats) -> Terms:
    """What each item does to any ground in each film, one after the other, each (items × films, 31)."""
    ratio, s = items
    return over_terms(np.repeat(ratio, len(films_um), axis=0), (s[:, None, :] * films_um[:, None]).reshape(-1, SAMPLES))


def _covered(beneath: Floats, over_it: Terms) -> Floats:
    """Each ground as it is (first) and under each film: (grounds, 31) becomes (grounds, films + 1, 31)."""
    return np.concatenate([beneath[:, None, :], on_ground(beneath[:, None, :], *over_it)], axis=1)
