"""A colour as a person types it: three numbers for L*a*b*, or an sRGB hex code."""

from __future__ import annotations

import re

import numpy as np

from nabrel.core.errors import Refused
from nabrel.core.film.spectra import lab_of_hex, surface
from nabrel.core.terms.colour import Lab

_HEX = re.compile(r"#?([0-9A-Fa-f]{6}|[0-9A-Fa-f]{3})")
_NUMBER = re.compile(r"[-+\u2212]?\d+(?:[.,]\d+)?")


def colour_of(text: str, field: str = "colour") -> Lab:
    """CIE L*a*b* (D65, 2°) from "62 11 17", "62,5; 11; 17" or "#c69a7b". Refuses what is neither or no surface's."""
    plain = text.strip()
    found = _HEX.fullmatch(plain)
    # Three numbers of one or two digits each would else pass as a short hex code.
    if found and (plain.startswith("#") or len(found.group(1)) == 6):
        code = found.group(1)
        lab = lab_of_hex(code if len(code) == 6 else "".join(2 * digit for digit in code))
    else:
        lab = _triple(plain, field)
    if not (0 <= lab[0] <= 100 and abs(lab[1]) <= 128 and abs(lab[2]) <= 128):
        raise Refused(field, text, "L* from 0 to 100, a* and b* from -128 to 128")
    surface(lab, field)
    return lab


def _triple(text: str, field: str) -> Lab:
    rest = re.sub(r"[Ll]\*?|[abAB]\*?|[=:]", " ", text)
    parts = re.split(r"[;\s]+|,(?=\s)", rest.strip())
    if len(parts) == 1:
        parts = rest.strip().split(",")
    parts = [part for part in parts if part]
    if len(parts) != 3 or not all(_NUMBER.fullmatch(part) for part in parts):
        raise Refused(field, text, "three numbers for L* a* b*, as in 62 11 17, or a hex code, as in #c69a7b")
    lightness, red, yellow = (float(part.replace(",", ".").replace("\u2212", "-")) for part in parts)
    return (lightness, red, yellow)


def rounded(lab: Lab) -> Lab:
    """To a tenth, as instruments tell it."""
    lightness, red, yellow = (round(float(each), 1) for each in np.array(lab))
    return (lightness, red, yellow)
