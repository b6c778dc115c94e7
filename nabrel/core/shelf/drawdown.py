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
from nabrel.core.film.films import contrast_ratio, film_of, masstone_ratio, over, scattering_course
from nabrel.core.film.spectra import SAMPLES, lab_of, luminance, surface
from nabrel.core.house import House
from nabrel.core.terms.colour import Lab

ROUNDS = 40
"""How often the solution is moved towards the readings; it is near after a dozen."""
BLACK_GROUND = 1e-4
"""What the black of a test card gives back."""
MOST_CONTRAST = 0.985
"""Luminance over black must stay below this share of that over white, or the film is opaque and S cannot be told."""


@dataclass(frozen=True, slots=True)
class Drawdown:
    """What two readings say: the masstone, the contrast ratio at the standard film, and the scattering at 550 nm per µm."""

    lab: Lab
    cover: float
    scattering_per_um: float


def read_drawdown(
    over_black: Lab, over_white: Lab, film_um: float, house: House, grounds: tuple[float, float] | None = None
) -> Drawdown:
    """Masstone and cover from L*a*b* read over a black and a white card, of a film ``film_um`` thick.

    ``grounds`` are the reflectances of black and white beneath, those of a test card where none are given. Refuses a film of no thickness, colours no surface has, a film darker over white than over black, and one that is
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
    black, white = grounds or (BLACK_GROUND, house.white_ground)
    # R (a - g + c) = 1 - g a + g c over either ground, with c = b coth(b S X): linear in a and c.
    below, above = 1.0 + dark * black, 1.0 + pale * white
    whole = (dark + black) * (pale - white) - (pale + white) * (dark - black)
    a = np.maximum((below * (pale - white) - above * (dark - black)) / whole, 1.0 + 1e-6)
    c = ((dark + black) * above - (pale + white) * below) / whole
    b = np.sqrt(a * a - 1.0)
    masstone = np.clip(a - b, 2e-3, 0.998)
    inner = np.maximum(c / b, 1.0 + 1e-9)
    power = np.arctanh(1.0 / inner) / b
    weight = np.clip(pale - dark, 0.0, None)
    course = scattering_course(house.scatter_exponent)
    scattering = float((power / course * weight).sum() / weight.sum() / film_um)
    ratio = masstone_ratio(masstone)
    s = course * scattering
    cover = contrast_ratio(OpticalFilm(k=ratio * s, s=s), house.standard_film_um, house.white_ground)
    seen = lab_of(masstone)
    first = (float(seen[0]), float(seen[1]), float(seen[2]))
    lab, cover = _settled(first, min(max(cover, 0.02), 0.99), (over_black, over_white), film_um, house, (black, white))
    lab = (round(lab[0], 1), round(lab[1], 1), round(lab[2], 1))
    return Drawdown(lab, round(cover, 3), scattering)


def _settled(
    lab: Lab, cover: float, read: tuple[Lab, Lab], film_um: float, house: House, beneath: tuple[float, float]
) -> tuple[Lab, float]:
    """The masstone and cover whose own film shows the two readings.

    A colour says less than a spectrum does, so the closed solution is only near; from it the masstone is moved by what is
    missed over white, and the cover by what is missed in lightness over black, until both are met.
    """
    over_black, over_white = read
    grounds = np.stack([np.full(SAMPLES, each) for each in beneath])
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
