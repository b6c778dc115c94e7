"""What measuring a face and keeping a shelf go by."""

from __future__ import annotations

from dataclasses import dataclass

from nabrel.core.house.parameter import parameter

PROBE_OIL = "lit., published bands of photometric oil probes"
PROBE_MOISTURE = "lit., published bands of capacitance moisture probes"


@dataclass(frozen=True, init=False, repr=False, eq=False)
class Measuring:
    """What measuring a face and keeping a shelf go by."""

    measure_error_mm: float = parameter(
        3.0, "mm", 0.5, 10.0, "A tape on a living face repeats to within this; shape classes are told as sure by it."
    )
    shade_short_of_mouth_mm: float = parameter(
        30.0,
        "mm",
        25.0,
        40.0,
        "The cheek line stops this far short of the mouth; carried further it pulls the face down.",
    )
    reader_far_de: float = parameter(
        2.0, "ΔE00", 0.5, 6.0, "A reading this far from the middle of all was tilted, pressed or on a mark."
    )
    t_zone_oil_low_ug: float = parameter(
        100.0, "µg/cm²", 40.0, 150.0, "Less oil than this on the middle of the face reads as dry.", PROBE_OIL
    )
    t_zone_oil_high_ug: float = parameter(
        220.0, "µg/cm²", 160.0, 320.0, "More oil than this on the middle of the face reads as oily.", PROBE_OIL
    )
    cheek_oil_low_ug: float = parameter(
        70.0, "µg/cm²", 30.0, 110.0, "Less oil than this off the middle of the face reads as dry.", PROBE_OIL
    )
    cheek_oil_high_ug: float = parameter(
        180.0, "µg/cm²", 120.0, 280.0, "More oil than this off the middle of the face reads as oily.", PROBE_OIL
    )
    moisture_very_low: float = parameter(
        30.0, "probe units", 15.0, 40.0, "A moisture reading below this is very dry.", PROBE_MOISTURE
    )
    moisture_low: float = parameter(
        45.0, "probe units", 35.0, 60.0, "A moisture reading from this on is well supplied.", PROBE_MOISTURE
    )
    warn_before_end_days: float = parameter(
        30.0,
        "days",
        0.0,
        120.0,
        "An opened product is listed this long before it expires, to be used up or replaced.",
    )
    sponge_keeps_months: float = parameter(
        3.0, "months", 0.5, 6.0, "A sponge is replaced after this time, however well it is washed."
    )
    running_low_share: float = parameter(
        0.15, "share", 0.02, 0.5, "With less of its content left than this, an item is named as running low."
    )
    twin_de: float = parameter(
        1.0, "ΔE00", 0.2, 3.0, "Two items of one role, texture and base this near in colour may be one and the same."
    )
    eye_sd_de: float = parameter(
        4.5,
        "ΔE00",
        1.5,
        10.0,
        "How far a skin colour chosen by eye in the first tap may be from the true one (one spread).",
    )
    eye_closer_sd_de: float = parameter(
        2.5, "ΔE00", 1.0, 8.0, "The same after the second tap, among near neighbours held beside the face."
    )
    stripe_sd_de: float = parameter(
        1.5, "ΔE00", 0.5, 6.0, "A stripe of foundation that vanishes on the jaw has the skin's colour to within this."
    )
    stripe_nudge: float = parameter(
        1.5, "L* or b*", 0.5, 4.0, "What is meant by a little lighter, deeper, warmer or cooler than a stripe."
    )
    guess_sd_de: float = parameter(
        4.0, "ΔE00", 1.0, 12.0, "How far the colour of an item may be that was only described in words."
    )
    guess_cover_sd: float = parameter(
        0.12, "share", 0.02, 0.4, "How far the cover of an item may be that was only described in words."
    )
