"""Undoing what lamp and camera did: tone curve, cast and uneven light, from greys that are known and paper that is white.

What a camera writes is an unknown curve of the light on its sensor, a channel each. Its logarithm as a cubic of the logarithm of what is
written serves every curve in use, and uneven light adds to that logarithm a gentle bowl over the card. Both together are linear in
their coefficients: one least-squares fit a channel over the greys and the white paper gives them, with what they leave.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TypeAlias

import numpy as np
from numpy.typing import NDArray

from nabrel.core.film.spectra import lab_of_ratio
from nabrel.core.terms.statistics import SD_FROM_MAD

Floats: TypeAlias = NDArray[np.float64]
TO_XYZ: Floats = np.array(
    [[0.4123908, 0.3575843, 0.1804808], [0.2126390, 0.7151687, 0.0721923], [0.0193308, 0.1191948, 0.9505322]]
)
"""Linear sRGB to XYZ (IEC 61966-2-1), white at D65: what a camera writes is meant to be that."""
LEAST = 1e-3
BOWL_WEIGHT = 0.02
"""How strongly the bowl is held flat against what the paper says: enough where paper is seen on one side only."""
PLANE_HELD = 0.2
"""How much less the plane is held: the paper tells it well."""
LEAST_SPREAD = 1e-4
"""A fit without any spread leaves out nothing nearer than this, in ln reflectance."""
FIRST_ROUNDS, FAR = 3, 3.5
"""Samples further off than so many spreads are left out, and the fit is made again: glare, a finger, a stain."""


@dataclass(frozen=True)
class Tone:
    """What turns written values into reflectances: for each channel the cubic, and the light over the card (ln, over places)."""

    cubic: Floats
    light: Floats
    spread: Floats
    """Standard deviation of ln reflectance that the fit leaves, a channel each."""
    size_mm: tuple[float, float]
    darkest: Floats
    brightest: Floats

    def reflectance(self, written: Floats, places: Floats) -> Floats:
        """Linear reflectance of written values (n, 3; 0 to 1) at places (n, 2; mm), a channel each; 1 is a perfect diffuser."""
        t = np.log(np.clip(written, LEAST, None))
        powers = np.stack([np.ones_like(t), t, t**2, t**3], axis=-1)
        curve = np.einsum("nck,ck->nc", powers, self.cubic)
        found: Floats = np.exp(curve - _bowl(places, self.size_mm) @ self.light.T)
        return found

    def evenness(self) -> float:
        """The least light on the card as a share of the most."""
        corners = np.array([[0, 0], [self.size_mm[0], 0], [0, self.size_mm[1]], list(self.size_mm)], dtype=float)
        seen = np.exp((_bowl(corners, self.size_mm) @ self.light.T).mean(axis=1))
        return float(seen.min() / seen.max())


def _bowl(places: Floats, size_mm: tuple[float, float]) -> Floats:
    """A plane and a bowl over the card, both nothing in its middle."""
    x = 2.0 * places[:, 0] / size_mm[0] - 1.0
    y = 2.0 * places[:, 1] / size_mm[1] - 1.0
    return np.stack([x, y, x * x - 1 / 3, x * y, y * y - 1 / 3], axis=-1)


def fitted(
    written: Floats, places: Floats, known: Floats, weights: Floats, size_mm: tuple[float, float]
) -> tuple[Tone, Floats]:
    """The tone of a picture from samples of known reflectance: written (n, 3), places (n, 2; mm), known (n,), weights (n,).

    Also how far each sample is off, in ln reflectance (n, 3).
    """
    t = np.log(np.clip(written, LEAST, None))
    bowl = _bowl(places, size_mm)
    wanted = np.log(known)
    cubic, light, off = np.zeros((3, 4)), np.zeros((3, bowl.shape[1])), np.zeros_like(written)
    spread = np.zeros(3)
    hold = np.sqrt(BOWL_WEIGHT * weights.sum()) * np.eye(bowl.shape[1])
    hold[:2] *= PLANE_HELD
    for channel in range(3):
        powers = np.stack([np.ones(len(t)), t[:, channel], t[:, channel] ** 2, t[:, channel] ** 3], axis=-1)
        design = np.hstack([powers, -bowl])
        held = np.hstack([np.zeros((bowl.shape[1], 4)), hold])
        used = weights.copy()
        for _ in range(FIRST_ROUNDS):
            root = np.sqrt(used)[:, None]
            found, *_ = np.linalg.lstsq(
                np.vstack([design * root, held]), np.concatenate([wanted * root[:, 0], np.zeros(len(held))]), rcond=None
            )
            off[:, channel] = design @ found - wanted
            middle = np.median(np.abs(off[used > 0, channel])) * SD_FROM_MAD + LEAST_SPREAD
            used = np.where(np.abs(off[:, channel]) > FAR * middle, 0.0, weights)
        cubic[channel], light[channel] = found[:4], found[4:]
        spread[channel] = float(np.sqrt(np.average(off[used > 0, channel] ** 2, weights=used[used > 0])))
    return Tone(cubic, light, spread, size_mm, written.min(axis=0), written.max(axis=0)), off


def lab_of_linear(rgb: Floats) -> Floats:
    """L*a*b* (D65, 2°) of linear reflectances (n, 3) in the primaries that a camera writes; a perfect diffuser has 100."""
    xyz = np.clip(rgb, 0.0, None) @ TO_XYZ.T / TO_XYZ.sum(axis=1)
    return lab_of_ratio(xyz)
