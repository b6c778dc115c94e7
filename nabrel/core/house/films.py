"""How films and powders work on light."""

from __future__ import annotations

from dataclasses import dataclass

from nabrel.core.house.parameter import parameter


@dataclass(frozen=True)
class Films:
    """How films and powders work on light."""

    standard_film_um: float = parameter(
        9.0,
        "µm",
        5.0,
        15.0,
        "Cover is stated at the film an average user applies: 0.51 g a day over 565 cm² is about 0.9 mg/cm².",
        "published use survey: 0.51 g/day of liquid foundation over 565 cm² of face, density taken as 1 g/cm³",
    )
    white_ground: float = parameter(
        0.80,
        "reflectance",
        0.7,
        1.0,
        "Contrast ratio is read over a black card and a white card of this reflectance.",
        "ISO 6504-3 and ASTM D2805: white charts of about 80 % reflectance",
    )
    scatter_exponent: float = parameter(
        0.0,
        "exponent",
        0.0,
        4.0,
        "Scattering falls with wavelength as (550/λ) to this power where an item does not say: above 0, thin pale films look "
        "grey over deep skin.",
        "Mie theory: rutile of 0.22 to 0.25 µm in oil has about 0.5 to 2, ultrafine mineral filters 3 to 4, pearl 0",
    )
    powder_grain_um: float = parameter(
        1.0,
        "µm",
        0.3,
        5.0,
        "Platelets of talc and mica lie flat and about a micrometre thick, so a light press cannot cover everything.",
        "talc and mica platelets in cosmetic powder are about 0.5 to 2 µm thick",
    )
    powder_density: float = parameter(
        2.7,
        "g/cm³",
        1.5,
        3.5,
        "Density of talc and mica, which turns mg/cm² into a solid thickness.",
        "handbook density of talc 2.7 g/cm³, mica 2.8 g/cm³",
    )
    powder_film_um_per_mg: float = parameter(
        10.0,
        "µm per mg/cm²",
        3.0,
        15.0,
        "Powder cover is stated as for a liquid, at 0.9 mg/cm²; so 1 mg/cm² counts as this much film.",
        "the same 0.9 mg/cm² that stands for 9 µm of film",
    )
