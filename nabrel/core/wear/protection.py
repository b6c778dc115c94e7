"""Sun protection: how little of a label's tested amount a base holds."""

from __future__ import annotations

TESTED_MG_CM2 = 2.0
"""Amount at which a label's SPF is measured, mg/cm² (ISO 24444)."""
MG_CM2_PER_UM = 0.1
"""Mass of a film of 1 µm at a density of 1 g/cm³."""


def share_of_tested_dose(film_um: float) -> float:
    """A film as a share of the tested amount, 0 upwards: 6 µm of foundation is 0.3 of it."""
    return max(film_um, 0.0) * MG_CM2_PER_UM / TESTED_MG_CM2
