"""Cover measured instead of guessed: a film drawn down over a black and a white card gives its K and S.

From the reflectance R0 over black and R over a white card of reflectance Rg, Kubelka and Munk's equations give
a = ½ (R + (R0 - R + Rg) / (R0 Rg)), the reflectance of an opaque layer a - b with b = √(a² - 1), and the scattering
power SX = arcoth((1 - a R0) / (b R0)) / b (Kubelka 1948; ISO 6504-3 describes the cards).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from nabrel.core.errors import Impossible, Refused
from nabrel.core.film.difference import delta_e
from nabrel.core.film.films import Film as OpticalFilm
from nabrel.core.film.films import contrast_ratio, film_of, masstone_ratio, over, scattering_course
from nabrel.core.film.spectra import SAMPLES, lab_of, luminance, surface
from nabrel.core.house import House
from nabrel.core.terms.colour import Lab

ROUNDS = 40
"""How often the solution is moved towards the readings; it is near after a dozen."""
MOST_CONTRAST = 0.985
"""Luminance over black must stay below this share of that over white, or the film is opaque and S cannot be told."""


@dataclass(frozen=True, slots=True)
class Drawdown:
    """What two readings say: the masstone, the contrast ratio at the standard film, and the scattering at 550 nm per µm."""

    lab: Lab
    cover: float
    scattering_per_um: float


def read_drawdown(over_black: Lab, over_white: Lab, film_um: float, house: House) -> Drawdown:
    """Masstone and cover from L*a*b* read over a black and a white card, of a film ``film_um`` thick.

    Refuses a film of no thickness, colours no surface has, a film darker over white than over black, and one that is
    opaque already: draw it thinner.
    """
    if not 1.0 <= film_um <= 400.0:
        raise Refused("film_um", film_um, "1 to 400 µm, dry")
    dark, pale = surface(over_black, "over_black"), surface(over_white, "over_white")
    share = float(luminance(dark) / luminance(pale))
    if share >= 1.0:
        raise Impossible("over_white", list(over_white), "a film that is lighter over white than over black")
    if share > MOST_CONTRAST:
        raise Impossible("over_white", list(over_white), "a film drawn thinner: this one is opaque already")
    ground = house.white_ground
    a = np.maximum(0.5 * (pale + (dark - pale + ground) / (dark * ground)), 1.0 + 1e-6)
    b = np.sqrt(a * a - 1.0)
    masstone = np.clip(a - b, 2e-3, 0.998)
    inner = np.maximum((1.0 - a * dark) / (b * dark), 1.0 + 1e-9)
    power = np.arctanh(1.0 / inner) / b
    weight = np.clip(pale - dark, 0.0, None)
    course = scattering_course(house.scatter_exponent)
    scattering = float((power / course * weight).sum() / weight.sum() / film_um)
    ratio = masstone_ratio(masstone)
    s = course * scattering
    cover = contrast_ratio(OpticalFilm(k=ratio * s, s=s), house.standard_film_um, house.white_ground)
    seen = lab_of(masstone)
    first = (float(seen[0]), float(seen[1]), float(seen[2]))
    lab, cover = _settled(first, min(max(cover, 0.02), 0.99), over_black, over_white, film_um, house)
    lab = (round(lab[0], 1), round(lab[1], 1), round(lab[2], 1))
    return Drawdown(lab, round(cover, 3), scattering)


def _settled(
    lab: Lab, cover: float, over_black: Lab, over_white: Lab, film_um: float, house: House
) -> tuple[Lab, float]:
    """The masstone and cover whose own film shows the two readings.

    A colour says less than a spectrum does, so the closed solution is only near; from it the masstone is moved by what is
    missed over white, and the cover by what is missed in lightness over black, until both are met.
    """
    grounds = np.stack([np.full(SAMPLES, 1e-4), np.full(SAMPLES, house.white_ground)])
    best = (float("inf"), lab, cover)
    for _ in range(ROUNDS):
        try:
            film = film_of(lab, cover, house.standard_film_um, house.white_ground, house.scatter_exponent)
        except Refused:
            break
        black, white = lab_of(over(grounds, film.ratio, film.s * film_um))
        missed = float(delta_e(np.stack([black, white]), np.array([over_black, over_white])).max())
        if missed < best[0]:
            best = (missed, lab, cover)
        off = np.array(over_white) - white
        lab = (
            float(np.clip(lab[0] + 0.7 * off[0], 3.0, 97.0)),
            float(lab[1] + 0.7 * off[1]),
            float(lab[2] + 0.7 * off[2]),
        )
        cover = float(np.clip(cover + 0.012 * (over_black[0] - black[0]), 0.01, 0.995))
    return best[1], best[2]
