"""The yardstick: the film stack as it was in November 2026, in a few lines of numpy that never change.

It is 30 layers over 30 zones and 31 wavelengths, one layer after the other, 0.5 ms on a quiet machine. A slow machine slows
it as well: figures of the core are given in milliseconds and as multiples of it, measured in turn with it.
"""

from __future__ import annotations

import numpy as np

ZONES, LAYERS, SAMPLES = 30, 30, 31
_S = np.full(SAMPLES, 0.08)
_K = [_S * np.linspace(0.05 + 0.05 * layer, 1.5, SAMPLES) for layer in range(LAYERS)]
_THICKNESS_UM = np.full(ZONES, 3.0)
_GROUND = np.full((ZONES, SAMPLES), 0.4)


def yardstick() -> np.ndarray:
    """Reflectance after each layer, (layers + 1, zones, 31)."""
    shown = np.empty((LAYERS + 1, ZONES, SAMPLES))
    shown[0] = _GROUND
    for place, k in enumerate(_K):
        ground, ratio, power = shown[place], k / _S, _S * _THICKNESS_UM[:, None]
        a = 1.0 + ratio
        b = np.sqrt(ratio * (ratio + 2.0))
        t = np.tanh(b * power)
        shown[place + 1] = (t - ground * (a * t - b)) / ((a * t + b) - ground * t)
    return shown
