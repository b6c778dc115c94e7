"""Sun protection: how little of a label's tested amount a base holds."""

from __future__ import annotations

from nabrel.core.house import House

MG_CM2 = 0.1
"""What a film of 1 µm at 1 g/cm³ weighs, in mg/cm²."""


def share_of_tested_dose(film_um: float, house: House) -> float:
    """A film as a share of the tested amount, 0 upwards: 6 µm of foundation is 0.3 of it."""
    return max(film_um, 0.0) * MG_CM2 * house.film_density / house.tested_dose_mg
