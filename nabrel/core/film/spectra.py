"""Spectra: wavelengths, lights, colour from reflectance, and reflectance recovered from colour.

All spectra cover 400 to 700 nm in 10 nm steps (31 samples). Illuminants and the 2° observer are the CIE's and stand
in ``cie.json``, which ``cie_build`` writes.
"""

from __future__ import annotations

import json
from collections.abc import Iterable
from functools import lru_cache
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from nabrel.core.errors import Refused
from nabrel.core.house.tables import LAMP_ADAPTATION
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.ids import Light

Floats = NDArray[np.float64]

WAVELENGTHS_NM: Floats = np.arange(400.0, 701.0, 10.0)
SAMPLES = len(WAVELENGTHS_NM)

LEAST_REFLECTANCE = 2e-3
MOST_REFLECTANCE = 0.998
RECOVERY_TOLERANCE = 0.02
"""Largest residual in L*, a* or b* that counts as recovered; ΔE00 is then well below 0.1."""
RECOVERED = 2e-6
"""Residual at which the search ends: so near that a surface is the same whatever others it is recovered with."""

MIDDLE_NM, HALF_NM = 550.0, 150.0
"""The middle of the wavelengths, and how far they reach to either side."""
GEL_BLUE, GEL_RISE, GEL_MIDDLE_NM, GEL_WIDTH_NM = 0.30, 0.65, 545.0, 28.0
"""The amber gel of a stage (house): what it lets through of blue, how much more of red, and where and how fast it rises."""
FIRST_DAMPING, EASED, TIGHTENED, DAMPING_LIMITS = 1e-3, 0.3, 4.0, (1e-9, 1e9)
"""Damping of the recovery: at first, times so much after a step that came nearer or did not, and its ends."""
LEAST_GREY, MOST_GREY = 1e-3, 0.999
"""Reflectances of the greys from which the recovery starts."""

_DELTA = 6.0 / 29.0
_LAB_FROM_ROOTS = np.array([[0.0, 500.0, 0.0], [116.0, -500.0, 200.0], [0.0, 0.0, -200.0]])
"""L* = 116 y - 16, a* = 500 (x - y), b* = 200 (y - z), of the roots x, y, z."""
_LAB_OFFSET = np.array([-16.0, 0.0, 0.0])


CIE_FILE = Path(__file__).with_name("cie.json")


@lru_cache(maxsize=1)
def _cie() -> dict[str, Any]:
    """Published data: the observer, the lights, CAT16 and sRGB, as ``cie_build`` wrote them."""
    found: dict[str, Any] = json.loads(CIE_FILE.read_text(encoding="utf-8"))
    return found


def _light_power(light: Light) -> Floats:
    """Relative spectral power of a light, 31 samples.

    Daylight is CIE D65, the warm lamp CIE A, LED is CIE LED-B3, the shop tube CIE FL2, flash CIE D55 (a xenon
    flash is close to it). The warm stage is a 3200 K lamp behind an amber gel, a smooth long-pass curve (house).
    """
    lights = _cie()["lights"]
    if light == "stage_warm":
        lamp = np.array(lights["blackbody 3200 K"])
        gel = GEL_BLUE + GEL_RISE / (1.0 + np.exp(-(WAVELENGTHS_NM - GEL_MIDDLE_NM) / GEL_WIDTH_NM))
        return np.asarray(lamp * gel / lamp.max())
    names = {"daylight": "D65", "warm_lamp": "A", "led": "LED-B3", "shop_tube": "FL2", "flash": "D55"}
    return np.array(lights[names[light]])


@lru_cache(maxsize=8)
def weights(light: Light) -> Floats:
    """Weights that turn reflectance (…, 31) into XYZ seen under the light, adapted to D65; shape (31, 3).

    A perfect white gives Y = 1. For other lights than daylight the CAT16 transform (CIE 248) with the degree
    :data:`LAMP_ADAPTATION` is folded in, so that colours are comparable across lights.
    """
    weighted = _light_power(light)[:, None] * np.array(_cie()["observer"])
    raw: Floats = weighted / weighted[:, 1].sum()
    if light == "daylight":
        return raw
    lamp_white, day_white = raw.sum(axis=0), white()
    cat: Floats = np.array(_cie()["cat16"])
    gain = LAMP_ADAPTATION * (cat @ day_white) / (cat @ lamp_white) + (1.0 - LAMP_ADAPTATION)
    adapt = np.linalg.inv(cat) @ np.diag(gain) @ cat
    return np.asarray(raw @ adapt.T)


@lru_cache(maxsize=1)
def white() -> Floats:
    """XYZ of a perfect white in daylight on our wavelength range, Y = 1."""
    return np.asarray(weights("daylight").sum(axis=0))


def lab_of(reflectance: Floats, light: Light = "daylight") -> Floats:
    """L*a*b* of reflectances (…, 31) under a light, adapted to D65; shape (…, 3). CIE 15."""
    return lab_of_ratio(reflectance @ _white_shares(light))


@lru_cache(maxsize=8)
def _white_shares(light: Light) -> Floats:
    """:func:`weights` as shares of a perfect white's XYZ, (31, 3)."""
    return weights(light) / white()


def ratio_of_lab(lab: Floats) -> Floats:
    """XYZ of L*a*b* (…, 3) as shares of the white's. CIE 15."""
    y = (lab[..., 0] + 16.0) / 116.0
    f = np.stack([y + lab[..., 1] / 500.0, y, y - lab[..., 2] / 200.0], axis=-1)
    return np.asarray(np.where(f > _DELTA, f**3, 3.0 * _DELTA**2 * (f - 4.0 / 29.0)))


def lab_of_ratio(ratio: Floats) -> Floats:
    """L*a*b* of XYZ as shares of the white's, (…, 3). CIE 15."""
    cubed = np.cbrt(ratio)
    if not ratio.size or ratio.min() <= _DELTA**3:
        cubed = np.where(ratio <= _DELTA**3, ratio / (3 * _DELTA**2) + 4.0 / 29.0, cubed)
    return np.asarray(cubed @ _LAB_FROM_ROOTS + _LAB_OFFSET)


def luminance(reflectance: Floats) -> Floats:
    """Y of reflectances (…, 31) in daylight, 1 for a perfect white."""
    return np.asarray(reflectance @ weights("daylight")[:, 1])


def as_lab(row: Floats) -> tuple[float, float, float]:
    """One colour of an array, (3,), as plain numbers."""
    return float(row[0]), float(row[1]), float(row[2])


@lru_cache(maxsize=1)
def _screen() -> tuple[Floats, Floats]:
    """The white that sRGB is meant for, as XYZ with Y of 1, and the matrix from XYZ to linear sRGB."""
    return np.array(_cie()["srgb_white"]), np.array(_cie()["srgb_from_xyz"])


def to_hex(lab: Floats) -> list[str]:
    """sRGB hex of L*a*b* rows (n, 3), D65; colours outside sRGB are clipped. IEC 61966-2-1."""
    # Our white is that of the sampled range; sRGB's is the standard one. L*a*b* carries over unchanged.
    white, matrix = _screen()
    xyz = ratio_of_lab(np.atleast_2d(lab)) * white
    linear = np.clip(xyz @ matrix.T, 0.0, 1.0)
    rgb = np.where(linear <= 0.0031308, 12.92 * linear, 1.055 * linear ** (1.0 / 2.4) - 0.055)
    parts = np.rint(rgb * 255).astype(np.int64)
    return [f"#{code:06x}" for code in (parts[:, 0] * 65536 + parts[:, 1] * 256 + parts[:, 2]).tolist()]


def lab_of_hex(code: str) -> Lab:
    """CIE L*a*b* (D65, 2°) of an sRGB code of six hex digits. IEC 61966-2-1."""
    white, matrix = _screen()
    rgb = np.array([int(code[place : place + 2], 16) for place in (0, 2, 4)]) / 255.0
    linear = np.where(rgb <= 0.04045, rgb / 12.92, ((rgb + 0.055) / 1.055) ** 2.4)
    return as_lab(lab_of_ratio(np.linalg.solve(matrix, linear) / white))


def recover(lab: Floats) -> tuple[Floats, Floats]:
    """Smooth reflectances (n, 31) that give back L*a*b* rows (n, 3), and the residual of each, in L*a*b* units.

    A sigmoid of a quadratic in wavelength (Jakob and Hanika 2019) keeps reflectance between 0 and 1; its three
    coefficients are found by damped Gauss–Newton, all rows at once. A residual above
    :data:`RECOVERY_TOLERANCE` means that no such surface exists.
    """
    target = np.atleast_2d(np.asarray(lab, dtype=np.float64))
    wave = (WAVELENGTHS_NM - MIDDLE_NM) / HALF_NM
    basis = np.stack([np.ones_like(wave), wave, wave * wave])
    grey = np.clip(ratio_of_lab(target)[:, 1], LEAST_GREY, MOST_GREY)
    start = (2 * grey - 1) / np.sqrt(np.maximum(1.0 - (2 * grey - 1) ** 2, 1e-9))
    coefficients = np.stack([start, np.zeros_like(start), np.zeros_like(start)], axis=1)
    damping = np.full(len(target), FIRST_DAMPING)
    curve = _sigmoid(coefficients @ basis)
    missing = target - lab_of(curve)
    for _ in range(60):
        if float(np.abs(missing).max()) < RECOVERED:
            break
        jacobian = _jacobian(coefficients, basis)
        normal = np.einsum("nij,nik->njk", jacobian, jacobian)
        pull = np.einsum("nij,ni->nj", jacobian, missing)
        scale = np.einsum("njj->nj", normal)
        step = np.linalg.solve(normal + np.einsum("n,nj,jk->njk", damping, scale + 1e-9, np.eye(3)), pull[..., None])
        tried = coefficients + step[..., 0]
        tried_missing = target - lab_of(_sigmoid(tried @ basis))
        better = (tried_missing**2).sum(axis=1) < (missing**2).sum(axis=1)
        coefficients = np.where(better[:, None], tried, coefficients)
        missing = np.where(better[:, None], tried_missing, missing)
        damping = np.clip(np.where(better, damping * EASED, damping * TIGHTENED), *DAMPING_LIMITS)
    curve = _sigmoid(coefficients @ basis)
    return curve, np.abs(missing).max(axis=1)


def _sigmoid(x: Floats) -> Floats:
    return np.asarray(0.5 + x / (2.0 * np.sqrt(1.0 + x * x)))


def _jacobian(coefficients: Floats, basis: Floats) -> Floats:
    """Derivative of L*a*b* by the three coefficients, (n, 3, 3): of the sigmoid, of XYZ and of their roots, one after another."""
    x, shares = coefficients @ basis, _white_shares("daylight")
    steepness = 0.5 / np.sqrt(1.0 + x * x) ** 3
    ratio = _sigmoid(x) @ shares
    by_root = np.where(ratio <= _DELTA**3, 1.0 / (3 * _DELTA**2), np.cbrt(ratio) / (3.0 * ratio))
    by_coefficient = (steepness[:, None, :] * basis) @ shares
    return np.swapaxes((by_coefficient * by_root[:, None, :]) @ _LAB_FROM_ROOTS, 1, 2)


MOST_REMEMBERED = 20_000
_recovered: dict[Lab, tuple[Floats, float]] = {}
"""Recovered surfaces by colour: a memo of a pure function, emptied when it grows past MOST_REMEMBERED."""


def warm(labs: Iterable[Lab]) -> None:
    """Recover many colours in one go, so that :func:`surface` answers at once for each."""
    wanted = [lab for lab in dict.fromkeys(labs) if lab not in _recovered]
    if not wanted:
        return
    if len(_recovered) + len(wanted) > MOST_REMEMBERED:
        _recovered.clear()
    curves, residuals = recover(np.array(wanted))
    for lab, curve, residual in zip(wanted, curves, residuals, strict=True):
        clipped = np.clip(curve, LEAST_REFLECTANCE, MOST_REFLECTANCE)
        clipped.setflags(write=False)
        _recovered[lab] = (clipped, float(residual))


def surface(lab: Lab, field: str = "lab") -> Floats:
    """Reflectance (31,) of a surface of this colour. Refuses colours that no surface can have, naming ``field``."""
    if lab not in _recovered:
        warm([lab])
    curve, residual = _recovered[lab]
    if residual > RECOVERY_TOLERANCE * 4:
        raise Refused(field, list(lab), "a colour that a real surface can have in daylight (L*a*b*, D65)")
    return curve
