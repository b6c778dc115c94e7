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
_COS_30, _SIN_30 = np.cos(30.0 * _DEGREE), np.sin(30.0 * _DEGREE)
_COS_6, _SIN_6 = np.cos(6.0 * _DEGREE), np.sin(6.0 * _DEGREE)
_COS_63, _SIN_63 = np.cos(63.0 * _DEGREE), np.sin(63.0 * _DEGREE)
# cos 2h = 2c² - 1, cos 3h = 4c³ - 3c, cos 4h = 8c⁴ - 8c² + 1; sin 3h = s (4c² - 1), sin 4h = s (8c³ - 4c).
_EVEN = (
    0.76 - 0.20 * _COS_63,
    -0.17 * _COS_30 - 0.96 * _COS_6,
    0.48 + 1.60 * _COS_63,
    1.28 * _COS_6,
    -1.60 * _COS_63,
)
_ODD = (0.32 * _SIN_6 - 0.17 * _SIN_30, 0.80 * _SIN_63, -1.28 * _SIN_6, -1.60 * _SIN_63)


def delta_e(one: ArrayLike, other: ArrayLike) -> Floats:
    """CIEDE2000 between L*a*b* arrays (…, 3), broadcast; shape (…). Weights kL, kC and kH are 1."""
    first, second = np.asarray(one, dtype=np.float64), np.asarray(other, dtype=np.float64)
    l1, a1, b1 = first[..., 0], first[..., 1], first[..., 2]
    l2, a2, b2 = second[..., 0], second[..., 1], second[..., 2]

    # Near the grey axis a* is stretched, so that chroma and hue of pale colours count as they are seen.
    stretch = 1.5 - 0.5 * _rise((_length(a1, b1) + _length(a2, b2)) / 2.0)
    a1, a2 = a1 * stretch, a2 * stretch
    c1, c2 = _length(a1, b1), _length(a2, b2)
    h1, h2 = _angle(a1, b1), _angle(a2, b2)

    # Hues are subtracted the short way round; a grey has no hue of its own.
    apart = h2 - h1
    apart -= _TURN * np.rint(apart / _TURN)
    half = apart / 2.0
    both = c1 * c2
    d_hue = 2.0 * np.sqrt(both) * np.sin(half)
    hue = h1 + half if np.all(both) else np.where(both == 0.0, h1 + h2, h1 + half)
    hue -= _TURN * np.floor(hue / _TURN)

    lightness, chroma = (l1 + l2) / 2.0, (c1 + c2) / 2.0
    off_middle = (lightness - 50.0) ** 2
    s_l = 1.0 + 0.015 * off_middle / np.sqrt(20.0 + off_middle)
    s_c = 1.0 + 0.045 * chroma
    t = _hue_weight(hue)
    s_h = 1.0 + 0.015 * chroma * t
    # Chroma and hue are not independent in the blues.
    blue = 60.0 * _DEGREE * np.exp(-(((hue / _DEGREE - 275.0) / 25.0) ** 2))
    turn = -np.sin(blue) * 2.0 * _rise(chroma)

    by_l, by_c, by_h = (l2 - l1) / s_l, (c2 - c1) / s_c, d_hue / s_h
    return np.asarray(np.sqrt(np.maximum(by_l**2 + by_c**2 + by_h**2 + turn * by_c * by_h, 0.0)))


def _length(a: Floats, b: Floats) -> Floats:
    return np.asarray(np.sqrt(a * a + b * b))


def _angle(a: Floats, b: Floats) -> Floats:
    """The hue in radians, 0 to a whole turn: from there opposite hues have the mean that the standard gives them."""
    angle = np.arctan2(b, a)
    return np.asarray(angle + _TURN * (angle < 0.0))


def _hue_weight(hue: Floats) -> Floats:
    """T = 1 - 0.17 cos(h - 30°) + 0.24 cos 2h + 0.32 cos(3h + 6°) - 0.20 cos(4h - 63°).

    As two polynomials in cos h, one of them times sin h, since cos nh and sin nh / sin h are such: a fifth of the time.
    """
    cos = np.cos(hue)
    even = (((_EVEN[4] * cos + _EVEN[3]) * cos + _EVEN[2]) * cos + _EVEN[1]) * cos + _EVEN[0]
    odd = ((_ODD[3] * cos + _ODD[2]) * cos + _ODD[1]) * cos + _ODD[0]
    return np.asarray(even + np.sin(hue) * odd)


def _rise(chroma: Floats) -> Floats:
    """√(C⁷ / (C⁷ + 25⁷)): 0 for greys, 1 for strong colours."""
    squared = chroma * chroma
    seventh = squared * squared * squared * chroma
    return np.asarray(np.sqrt(seventh / (seventh + _25_TO_7)))


def ashiness(lab: Floats, meant: Floats) -> Floats:
    """How far a colour has turned towards blue-grey from the one meant: chroma lost along its hue, in a*b* units.

    ``lab`` is (…, 3), ``meant`` (3,) or broadcast to it. Where the colour is as warm as meant or warmer it is 0: a flush or a
    warm cast is not grey, whatever its ΔE00. Skin's own hue is orange, so what it loses along it is what looks ashen.
    """
    hue = meant[..., 1:]
    chroma = np.maximum(np.linalg.norm(hue, axis=-1), 1e-9)
    lost = ((hue - lab[..., 1:]) * hue).sum(axis=-1) / chroma
    return np.asarray(np.maximum(lost, 0.0))
