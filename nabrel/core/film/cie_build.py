"""Write the published colour data that the film model stands on; run as ``python -m nabrel.core.film.cie_build``.

The data are the CIE's, as colour-science has them. That library takes two seconds and a hundred megabytes to load, so
what is needed of it is kept in ``cie.json``: the application itself never loads it.
"""

from __future__ import annotations

import json
import warnings
from types import ModuleType
from typing import Any

from nabrel.core.film.spectra import CIE_FILE

ILLUMINANTS = ("D65", "A", "LED-B3", "FL2", "D55")
OBSERVER = "CIE 1931 2 Degree Standard Observer"
STAGE_LAMP_K = 3200


def science() -> ModuleType:
    """colour-science, with its notice about a missing plotting library kept quiet."""
    with warnings.catch_warnings():
        warnings.filterwarnings("ignore", message=".*[Mm]atplotlib.*")
        import colour  # noqa: PLC0415 - only where the data are built or compared

    return colour


def tables() -> dict[str, Any]:
    """Observer and lights at 400 to 700 nm by 10 nm, CAT16, and what sRGB is made of."""
    colour = science()
    shape = colour.SpectralShape(400, 700, 10)

    def sampled(distribution: Any) -> list[Any]:
        listed: list[Any] = distribution.copy().align(shape).values.tolist()
        return listed

    lights = {name: sampled(colour.SDS_ILLUMINANTS[name]) for name in ILLUMINANTS}
    lights[f"blackbody {STAGE_LAMP_K} K"] = sampled(colour.sd_blackbody(STAGE_LAMP_K, shape))
    return {
        "source": "CIE 15 and CIE 248 (CAT16), IEC 61966-2-1 (sRGB); by way of colour-science",
        "observer": sampled(colour.MSDS_CMFS[OBSERVER]),
        "lights": lights,
        "cat16": colour.CHROMATIC_ADAPTATION_TRANSFORMS["CAT16"].tolist(),
        "srgb_white": colour.xy_to_XYZ(colour.CCS_ILLUMINANTS[OBSERVER]["D65"]).tolist(),
        "srgb_from_xyz": colour.RGB_COLOURSPACES["sRGB"].matrix_XYZ_to_RGB.tolist(),
    }


def main() -> None:
    """Write the file."""
    CIE_FILE.write_text(json.dumps(tables(), indent=1) + "\n", encoding="utf-8")


if __name__ == "__main__":
    main()
