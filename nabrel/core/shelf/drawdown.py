"""Cover measured instead of guessed: a film drawn down over a black and a white card gives its K and S.

Over a ground of reflectance g a film shows R with R (a - g + c) = 1 - g a + g c, where c = b coth(b S X) and b = √(a² - 1): two grounds
give a and c, the reflectance of an opaque layer a - b, and the scattering power SX = arcoth(c / b) / b (Kubelka 1948; ISO 6504-3
describes the cards).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from nabrel.core.errors import Impossible, Refused
from nabrel.core.film.difference import delta_e
from nabrel.core.film.films import Film as OpticalFilm
from nabrel.core.film.films import contrast_ratio, masstone_ratio, over, scattering_course
from nabrel.core.film.spectra import (
    LEAST_REFLECTANCE,
    MOST_REFLECTANCE,
    SAMPLES,
    Floats,
    lab_of,
    luminance,
    surface,
    warm,
)
from nabrel.core.house import House
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.limits import LIMITS

BLACK_GROUND = 1e-4
"""What the black of a test card gives back."""
MOST_CONTRAST = 0.985
"""Luminance over black must stay below this share of that over white, or the film is opaque and S cannot be told."""
LOWEST, HIGHEST = (3.0, -90.0, -90.0, -16.0), (97.0, 90.0, 90.0, 6.0)
"""Between these L*, a*, b* of the masstone and ln S per µm are looked for."""
NO_SURFACE = 30.0
"""So far off, in every coordinate, counts a masstone that no surface can have."""
STEP = 0.05
"""How far a coordinate is moved to see what follows, L*a*b* and ln S."""
SCALES, MOST_TRIALS = (1.0, 1.0, 1.0, 0.1), 25
"""How much of each coordinate counts alike, and how often they are tried."""


@dataclass(frozen=True, slots=True)
class Drawdown:
    """What two readings say: the masstone, the contrast ratio at the standard film, and the scattering at 550 nm per µm.

    ``lab_sd`` (ΔE00) and ``cover_sd`` are what the readings' own unsureness comes to.
    """

    lab: Lab
    cover: float
    scattering_per_um: float
    lab_sd: float = 0.0
    cover_sd: float = 0.0


def read_drawdown(
    over_black: Lab,
    over_white: Lab,
    film_um: float,
    house: House,
    grounds: tuple[float, float] | None = None,
    sds: tuple[float, float] = (0.0, 0.0),
) -> Drawdown:
    """Masstone and cover from L*a*b* read over a black and a white card, of a film ``film_um`` thick.

    ``grounds`` are the reflectances of black and white beneath, those of a test card where none are given; ``sds`` how unsure
    the two readings are, ΔE00. Refuses a film of no thickness, colours no surface has, a film darker over white than over
    black, and one that is opaque already: draw it thinner.
    """
    most = LIMITS.drawdown_um
    if not most.low <= film_um <= most.high:
        raise Refused("film_um", film_um, f"{most.low:g} to {most.high:g} µm, dry")
    dark, pale = surface(over_black, "over_black"), surface(over_white, "over_white")
    share = float(luminance(dark) / luminance(pale))
    if share >= 1.0:
        raise Impossible("over_white", list(over_white), "a film that is lighter over white than over black")
    if share > MOST_CONTRAST:
        raise Impossible("over_white", list(over_white), "a film drawn thinner: this one is opaque already")
    black, white = grounds or (BLACK_GROUND, house.white_ground)
    # R (a - g + c) = 1 - g a + g c over either ground, with c = b coth(b S X): linear in a and c.
    below, above = 1.0 + dark * black, 1.0 + pale * white
    whole = (dark + black) * (pale - white) - (pale + white) * (dark - black)
    a = np.maximum((below * (pale - white) - above * (dark - black)) / whole, 1.0 + 1e-6)
    c = ((dark + black) * above - (pale + white) * below) / whole
    b = np.sqrt(a * a - 1.0)
    masstone = np.clip(a - b, LEAST_REFLECTANCE, MOST_REFLECTANCE)
    inner = np.maximum(c / b, 1.0 + 1e-9)
    power = np.arctanh(1.0 / inner) / b
    weight = np.clip(pale - dark, 0.0, None)
    course = scattering_course(house.scatter_exponent)
    scattering = float((power / course * weight).sum() / weight.sum() / film_um)
    from scipy.optimize import least_squares  # noqa: PLC0415 - 40 MB that only a drawdown needs

    seen = lab_of(masstone)
    start = np.array([*seen, np.log(max(scattering, 1e-6))])
    trial = _Trial(np.array([*over_white, *over_black]), film_um, house, (black, white))
    found = least_squares(
        trial.off, np.clip(start, np.array(LOWEST) + 1e-6, np.array(HIGHEST) - 1e-6), trial.slopes, (LOWEST, HIGHEST),
        x_scale=SCALES, xtol=1e-6, ftol=1e-6, gtol=1e-6, max_nfev=MOST_TRIALS,
    )  # fmt: skip
    lab, cover = trial.says(found.x)
    lab_sd, cover_sd = trial.unsure(found.x, found.jac, sds)
    return Drawdown(
        (round(lab[0], 1), round(lab[1], 1), round(lab[2], 1)), round(cover, 3), float(np.exp(found.x[3])), lab_sd, cover_sd
    )  # fmt: skip


@dataclass(frozen=True)
class _Trial:
    """A masstone and a scattering power (L*, a*, b*, ln S) tried against what was read over white and over black.

    A colour says less than a spectrum does, so the closed solution over two grounds is only near; from it the four are moved
    until the film that they make shows the two readings, as nearly as one film can.
    """

    read: Floats
    film_um: float
    house: House
    grounds: tuple[float, float]

    def off(self, x: Floats) -> Floats:
        """How far what the film shows is off what was read: over white, over black, L*a*b* each."""
        try:
            film = self._film(x)
        except Refused:
            return np.full(len(self.read), NO_SURFACE)
        beneath = np.stack([np.full(SAMPLES, each) for each in reversed(self.grounds)])
        shown: Floats = lab_of(over(beneath, film.ratio, film.s * self.film_um)).reshape(-1) - self.read
        return shown

    def slopes(self, x: Floats) -> Floats:
        """What follows from moving each of the four, (6, 4). Masstones are recovered together, which is faster."""
        moved = x + STEP * np.eye(4) * np.where(x + STEP < HIGHEST, 1.0, -1.0)
        warm([_lab(each) for each in (x, *moved)])
        here = self.off(x)
        return np.stack([(self.off(each) - here) / (each - x).sum() for each in moved], axis=1)

    def says(self, x: Floats) -> tuple[Lab, float]:
        """The masstone, and the contrast ratio at the standard film."""
        cover = contrast_ratio(self._film(x), self.house.standard_film_um, self.house.white_ground)
        return _lab(x), LIMITS.cover.clipped(cover)

    def unsure(self, x: Floats, slopes: Floats, sds: tuple[float, float]) -> tuple[float, float]:
        """What readings that are lighter by their own standard deviation (black, white) come to: masstone ΔE00, and cover."""
        lab, cover = self.says(x)
        back = np.linalg.pinv(slopes)
        labs, covers = [sds[1]], [0.0]
        for lightness, sd in ((3, sds[0]), (0, sds[1])):
            other = np.clip(x + back[:, lightness] * sd, LOWEST, HIGHEST)
            try:
                there = self.says(other)
            except Refused:
                continue
            # Of a colour that is off, lightness is a part: the rest moves the masstone as it moves what is seen over white.
            labs.append(float(delta_e(there[0], lab)) / np.sqrt(2.0))
            covers.append(there[1] - cover)
        return round(float(np.linalg.norm(labs)), 2), round(float(np.linalg.norm(covers)), 3)

    def _film(self, x: Floats) -> OpticalFilm:
        s = scattering_course(self.house.scatter_exponent) * np.exp(x[3])
        return OpticalFilm(k=masstone_ratio(surface(_lab(x))) * s, s=s)


def _lab(x: Floats) -> Lab:
    return (float(x[0]), float(x[1]), float(x[2]))
