"""CIEDE2000, vectorised: the difference that every judgement of colour here is made by.

CIE 142-2001, in the form of Sharma, Wu and Dalal (2005), whose test pairs stand in the tests. colour-science has the
same; ours makes fewer intermediate arrays, and a plan asks for some fifty differences of up to a thousand colours.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike, NDArray

Floats = NDArray[np.float64]

_25_TO_7 = 25.0**7
_TURN = 2.0 * np.pi
_DEGREE = np.pi / 180.0


def delta_e(one: ArrayLike, other: ArrayLike) -> Floats:
    """CIEDE2000 between L*a*b* arrays (…, 3), broadcast; shape (…). Weights kL, kC and kH are 1."""
    first, second = np.asarray(one, dtype=np.float64), np.asarray(other, dtype=np.float64)
    l1, a1, b1 = first[..., 0], first[..., 1], first[..., 2]
    l2, a2, b2 = second[..., 0], second[..., 1], second[..., 2]

    # Near the grey axis a* is stretched, so that chroma and hue of pale colours count as they are seen.
    stretch = 1.5 - 0.5 * _rise((np.hypot(a1, b1) + np.hypot(a2, b2)) / 2.0)
    a1, a2 = a1 * stretch, a2 * stretch
    c1, c2 = np.hypot(a1, b1), np.hypot(a2, b2)
    h1, h2 = np.arctan2(b1, a1) % _TURN, np.arctan2(b2, a2) % _TURN

    # Hues are subtracted the short way round; a grey has no hue of its own.
    grey = c1 * c2 == 0.0
    apart = h2 - h1
    far = np.abs(apart) > np.pi
    turned = np.where(far, apart - np.copysign(_TURN, apart), apart)
    d_hue = 2.0 * np.sqrt(c1 * c2) * np.sin(turned / 2.0)
    total = h1 + h2
    hue = np.where(far & ~grey, np.where(total < _TURN, total + _TURN, total - _TURN), total)
    hue = np.where(grey, hue, hue / 2.0)

    lightness, chroma = (l1 + l2) / 2.0, (c1 + c2) / 2.0
    off_middle = (lightness - 50.0) ** 2
    s_l = 1.0 + 0.015 * off_middle / np.sqrt(20.0 + off_middle)
    s_c = 1.0 + 0.045 * chroma
    t = (
        1.0
        - 0.17 * np.cos(hue - 30.0 * _DEGREE)
        + 0.24 * np.cos(2.0 * hue)
        + 0.32 * np.cos(3.0 * hue + 6.0 * _DEGREE)
        - 0.20 * np.cos(4.0 * hue - 63.0 * _DEGREE)
    )
    s_h = 1.0 + 0.015 * chroma * t
    # Chroma and hue are not independent in the blues.
    blue = 60.0 * _DEGREE * np.exp(-(((hue / _DEGREE - 275.0) / 25.0) ** 2))
    turn = -np.sin(blue) * 2.0 * _rise(chroma)

    by_l, by_c, by_h = (l2 - l1) / s_l, (c2 - c1) / s_c, d_hue / s_h
    return np.asarray(np.sqrt(np.maximum(by_l**2 + by_c**2 + by_h**2 + turn * by_c * by_h, 0.0)))


def _rise(chroma: Floats) -> Floats:
    """√(C⁷ / (C⁷ + 25⁷)): 0 for greys, 1 for strong colours."""
    seventh = chroma**7
    return np.asarray(np.sqrt(seventh / (seventh + _25_TO_7)))
