"""How films and powders work on light."""

from __future__ import annotations

from dataclasses import dataclass

from nabrel.core.house.parameter import parameter


@dataclass(frozen=True, init=False, repr=False, eq=False)
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
        1.0,
        "exponent",
        0.0,
        4.0,
        "Scattering falls with wavelength as (550/λ) to this power: why pale films look grey over deep skin.",
        "Mie theory: rutile of 0.22 to 0.25 µm in oil has about 0.5 to 2; ultrafine mineral filters 3 to 4",
    )
    mineral_scatter_exponent: float = parameter(
        3.5,
        "exponent",
        1.0,
        4.0,
        "Ultrafine mineral sun filters scatter blue light most of all: the pale cast of a mineral sunscreen.",
        "Mie theory: grains far smaller than a wavelength come near Rayleigh's exponent of 4",
    )
    mineral_veil_cover: float = parameter(
        0.06, "contrast ratio", 0.0, 0.4, "Cover of a mineral sunscreen without tint, where an item does not say."
    )
    mineral_veil_um: float = parameter(
        7.0,
        "µm",
        1.0,
        20.0,
        "What stays of the 2 mg/cm² of a sunscreen once it has dried down.",
        "ISO 24444: 2 mg/cm²; about a third of a sunscreen does not dry away",
    )
    pearl_scatter_exponent: float = parameter(
        0.0,
        "exponent",
        0.0,
        2.0,
        "Pearl and glitter are large grains: they scatter all light alike.",
        "geometric optics: grains far larger than a wavelength",
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
