"""Kubelka–Munk films: two constants per wavelength, absorption K and scattering S, over any ground.

A film of thickness X over a ground of reflectance Rg shows
R = (1 - Rg (a - b coth bSX)) / (a - Rg + b coth bSX), with a = 1 + K/S and b = sqrt(a² - 1)
(Kubelka and Munk 1931; Kubelka 1948). coth is taken as the inverse of tanh, which is kept off zero: at X = 0 it gives Rg.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from functools import cached_property, lru_cache
from math import exp, inf, log

import numpy as np

from nabrel.core.errors import Refused
from nabrel.core.film.spectra import WAVELENGTHS_NM, Floats, luminance, surface
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.limits import LIMITS


@dataclass(frozen=True)
class Film:
    """The optics of one product: absorption ``k`` and scattering ``s`` in 1/µm, each (31,). Not slotted: K/S is kept."""

    k: Floats
    s: Floats

    @cached_property
    def ratio(self) -> Floats:
        """K/S per wavelength."""
        return self.k / self.s


NO_FILM_RISE = 1e-12
"""What stands for tanh bSX where there is no film, since nothing can be divided by 0: far thinner than a molecule."""


Terms = tuple[Floats, Floats]
"""What films do, whatever they lie on: a - b coth bSX and a + b coth bSX."""


def over(ground: Floats, ratio: Floats, power: Floats) -> Floats:
    """Reflectance of a film over a ground; all broadcast to (…, 31).

    ``ratio`` is K/S, ``power`` the scattering power S·X (dimensionless); X = 0 gives the ground back.
    """
    return on_ground(ground, *over_terms(ratio, power))


def over_terms(ratio: Floats, power: Floats) -> Terms:
    """What a film does, whatever it lies on, for :func:`on_ground`.

    Worked out first, since grounds are the large array and tanh is the slow step.
    """
    a = ratio + 1.0
    b = np.sqrt(ratio * (ratio + 2.0))
    # One array through all of this, which is the largest there is.
    steep = np.asarray(b * power)
    np.tanh(steep, out=steep)
    np.maximum(steep, NO_FILM_RISE, out=steep)
    np.divide(b, steep, out=steep)
    return a - steep, np.add(a, steep, out=steep)


def on_ground(ground: Floats, less: Floats, more: Floats) -> Floats:
    """Reflectance of a film, given by its :func:`over_terms`, over a ground g: (1 - g less) / (more - g).

    Two arrays are made where the formula as written would make four: this is the most often computed line of all.
    """
    shown = np.asarray(ground * less)
    np.subtract(1.0, shown, out=shown)
    return np.asarray(np.divide(shown, np.subtract(more, ground), out=shown))


def blended(own: Film, others: Iterable[tuple[Film, float]]) -> Film:
    """A film with shares of others mixed in: K and S add in proportion to volume (Duncan 1940). Shares sum below 1."""
    listed = tuple(others)
    rest = 1.0 - sum(share for _, share in listed)
    k, s = own.k * rest, own.s * rest
    for film, share in listed:
        k, s = k + film.k * share, s + film.s * share
    return Film(k, s)


def masstone_ratio(masstone: Floats) -> Floats:
    """K/S of an opaque layer of reflectance R: (1 - R)² / 2R (Kubelka–Munk)."""
    return (1.0 - masstone) ** 2 / (2.0 * masstone)


def contrast_ratio(film: Film, thickness_um: float, white_ground: float) -> float:
    """Luminance over black divided by luminance over white at this thickness, 0 to 1 (ISO 6504-3)."""
    power = film.s * thickness_um
    dark = luminance(over(np.zeros_like(film.k), film.ratio, power))
    light = luminance(over(np.full_like(film.k, white_ground), film.ratio, power))
    return float(dark / light)


SCATTER_AT_NM = 550.0
"""The wavelength at which scattering is stated."""


def scattering_course(exponent: float) -> Floats:
    """How scattering falls with wavelength, as a share of that at 550 nm, (31,): (550/λ)^exponent.

    Pigmentary titania of 0.22 to 0.25 µm has an exponent of about 0.5 to 2 in a film (Mie theory, rutile in oil),
    ultrafine mineral filters 3 to 4, near Rayleigh's limit; pearl and large grains scatter all light alike, 0.
    """
    return np.asarray((SCATTER_AT_NM / WAVELENGTHS_NM) ** exponent)


LN_SCATTERING = (-16.0, 6.0)
"""Between these ln S per µm is looked for."""
LAST_STEP = 1e-8
"""A step in the logarithm of S after which another changes nothing: Newton's method doubles the digits that are right."""


@lru_cache(maxsize=4096)
def film_of(
    lab: Lab, cover: float, standard_film_um: float = 9.0, white_ground: float = 0.8, scatter_exponent: float = 1.0
) -> Film:
    """The film whose masstone is ``lab`` and whose contrast ratio at the standard thickness is ``cover``.

    S falls with wavelength by its exponent, K follows from the masstone: so a thin pale film over a dark ground is bluer
    than a thick one, which is what turns grey on deep skin. The contrast ratio rises with S from 0 to 1, so every
    cover strictly between is reached. S at 550 nm is found on its logarithm by Newton's method, on the log odds of the
    ratio, which are nearly straight there; a bracket halves whatever would leave it. The slope comes from Kubelka's own
    dR/d(SX) = R² - 2aR + 1. Refuses cover outside 0.01 to 0.995.
    """
    if not LIMITS.cover.low <= cover <= LIMITS.cover.high:
        raise Refused("cover", cover, f"a contrast ratio from {LIMITS.cover.low:g} to {LIMITS.cover.high:g}")
    masstone = surface(lab)
    ratio, course = masstone_ratio(masstone), scattering_course(scatter_exponent)
    grounds = np.array([[0.0], [white_ground]])
    wanted = log(cover / (1.0 - cover))
    low, high, found = *LN_SCATTERING, -log(standard_film_um)
    for _ in range(60):
        power = course * (exp(found) * standard_film_um)
        seen = over(grounds, ratio, power)
        dark, light = luminance(seen).tolist()
        slopes = luminance(power * (seen * seen - 2.0 * (ratio + 1.0) * seen + 1.0)).tolist()
        low, high = (found, high) if dark < cover * light else (low, found)
        # Where the film is opaque to the last digit there are no odds to go by.
        ahead = inf
        if light > dark:
            steep = (slopes[0] / dark - slopes[1] / light) * light / (light - dark)
            ahead = found + (wanted - log(dark / (light - dark))) / steep
        last = abs(ahead - found) < LAST_STEP
        found = ahead if last or low < ahead < high else (low + high) / 2.0
        if last:
            break
    s = course * exp(found)
    return Film(k=ratio * s, s=s)
