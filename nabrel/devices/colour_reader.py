"""A simulated contact colour reader: a few tenths ΔE00 of scatter, and about one take in nine gone wrong."""

from __future__ import annotations

import numpy as np

from nabrel.core.terms.colour import Lab

SCATTER: Lab = (0.45, 0.30, 0.35)
"""Standard deviation of L*, a* and b* between careful takes on living skin."""
WRONG_SHARE = 1.0 / 9.0
"""Share of takes in which the head was tilted (too dark) or pressed on (blanched: lighter, less red)."""
TILTED: Lab = (-5.5, 0.8, -1.5)
PRESSED: Lab = (3.0, -3.5, 0.5)


def take(true: Lab, seed: int) -> Lab:
    """One take of a place whose true colour is ``true``."""
    chance = np.random.default_rng(seed)
    lab = np.array(true) + chance.normal(0.0, 1.0, 3) * np.array(SCATTER)
    if chance.random() < WRONG_SHARE:
        lab = lab + np.array(TILTED if chance.random() < 0.5 else PRESSED)
    lightness, red, yellow = (round(float(each), 2) for each in lab)
    return (min(100.0, max(1.0, lightness)), red, yellow)
