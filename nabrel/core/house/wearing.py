"""Oil, creasing, fading and flare."""

from __future__ import annotations

from dataclasses import dataclass

from nabrel.core.house.parameter import parameter


@dataclass(frozen=True, init=False, repr=False, eq=False)
class Wearing:
    """Oil, creasing, fading and flare."""

    oil_dry: float = parameter(
        0.3, "µg/cm²·min", 0.1, 0.6, "Oil given off by dry skin.", "published sebum excretion rates on the forehead"
    )
    oil_normal: float = parameter(
        0.6, "µg/cm²·min", 0.3, 1.0, "Oil given off by balanced skin.", "published sebum excretion rates, mid-range"
    )
    oil_oily: float = parameter(
        1.5, "µg/cm²·min", 0.9, 3.0, "Oil given off by oily skin.", "published sebum excretion rates on the forehead"
    )
    oil_per_mg_powder: float = parameter(
        0.5,
        "mg oil per mg",
        0.3,
        2.0,
        "Oil that talc takes up; silica blends take up to 1.5.",
        "oil absorption figures for talc (0.5) to silica blends (1.5)",
    )
    oil_film_holds_mg: float = parameter(
        0.10, "mg/cm²", 0.02, 0.4, "Oil on the surface before skin looks shiny, without any powder."
    )
    oil_matte_bonus: float = parameter(
        0.5, "factor", 0.0, 2.0, "A matte film holds back this much more oil before it shines than a dewy one."
    )
    oil_per_degree: float = parameter(
        0.04,
        "share per °C",
        0.0,
        0.12,
        "Warm air brings more oil to the surface and cold air less, from what it is at 22 °C.",
        "sebum excretion rises with skin temperature, about a tenth per degree of skin; air moves skin by less than half",
    )
    humidity_slows: float = parameter(
        0.6, "share per 100 %", 0.0, 2.0, "Films set more slowly in humid air, from what they take at 50 % humidity."
    )
    colour_hours: float = parameter(
        5.0, "h", 2.0, 12.0, "A cream colour on balanced skin keeps two thirds of its strength for about so long."
    )
    colour_powder_gain: float = parameter(0.5, "share", 0.0, 1.5, "Powder over a colour lengthens its wear.")
    colour_mist_gain: float = parameter(0.3, "share", 0.0, 1.0, "A film-forming mist over all lengthens wear.")
    flare_mg: float = parameter(
        0.25, "mg/cm²", 0.1, 1.0, "So much powder 30 L* paler than the skin gives a flare index of about two thirds."
    )
    flare_reflective: float = parameter(
        1.6, "factor", 1.0, 3.0, "Silica- and titanium-rich powders throw back more of a flash than talc does."
    )
    colour_fade_share: float = parameter(
        0.33, "share", 0.1, 0.6, "A cream colour loses about a third of its strength within its hours."
    )
    oil_calm_c: float = parameter(22.0, "°C", 15.0, 28.0, "The air at which the oil figures hold.")
    crease_per_um: float = parameter(
        0.055, "per µm", 0.0, 0.2, "How much each micrometre of film in a moving fold adds to the crease index."
    )
    crease_per_wet_um: float = parameter(
        0.035, "per µm", 0.0, 0.2, "How much more of that comes from film that was never set."
    )
    crease_per_line: float = parameter(0.22, "per severity", 0.0, 0.6, "Film runs into lines that are there already.")
    crease_per_dry: float = parameter(
        0.14, "per severity", 0.0, 0.6, "Dry skin pulls water out of the film, and it cracks along the fold."
    )
    crease_fed_share: float = parameter(
        0.5, "share", 0.1, 1.0, "Feeding a dry zone first leaves this share of what dryness adds."
    )
    crease_limit: float = parameter(
        0.35, "index", 0.1, 0.9, "A fold whose forecast crease passes this is pressed with powder, lines or not."
    )
    crease_set_share: float = parameter(0.8, "share", 0.3, 1.0, "Timely powder leaves this share of the crease index.")
    most_hours: float = parameter(16.0, "h", 8.0, 24.0, "No forecast looks further than this.")
    touch_up_grain_h: float = parameter(
        0.5, "h", 0.25, 1.0, "Touch-ups are told to this grain, always before the forecast one."
    )
    touch_up_together_h: float = parameter(
        1.0, "h", 0.0, 3.0, "Zones due within this time of the first are done in the same visit."
    )
    tested_dose_mg: float = parameter(
        2.0, "mg/cm²", 2.0, 2.0, "Amount at which a label's SPF is measured.", "ISO 24444"
    )
    film_density: float = parameter(
        1.0,
        "g/cm³",
        0.8,
        1.4,
        "Density of a film, which turns µm into mg/cm².",
        "usual density of emulsions and creams",
    )
    bare_matte: float = parameter(
        0.3, "0 dewy to 1 matte", 0.0, 1.0, "How matt bare skin looks, where nothing tinted lies on it."
    )
