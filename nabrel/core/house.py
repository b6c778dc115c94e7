"""House parameters: every number of the trade that an educator may decide otherwise, in one frozen value.

Each field carries its unit, sensible range, the reason for its default and its source
(``house``, or a published measurement or standard). A :class:`House` is passed in, never a global.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, fields, replace
from typing import Any

from nabrel.core.errors import Refused

HOUSE = "house"


def _parameter(default: float, unit: str, low: float, high: float, why: str, source: str = HOUSE) -> Any:
    return field(default=default, metadata={"unit": unit, "low": low, "high": high, "why": why, "source": source})


@dataclass(frozen=True, slots=True)
class Parameter:
    """The description of one house parameter."""

    name: str
    unit: str
    default: float
    low: float
    high: float
    why: str
    source: str


@dataclass(frozen=True, slots=True)
class House:
    """All house parameters. Change one with :meth:`deciding`, which holds it to its range."""

    # Films and the skin beneath
    standard_film_um: float = _parameter(
        9.0,
        "µm",
        5.0,
        15.0,
        "Cover is stated at the film an average user applies: 0.51 g a day over 565 cm² is about 0.9 mg/cm².",
        "published use survey: 0.51 g/day of liquid foundation over 565 cm² of face, density taken as 1 g/cm³",
    )
    white_ground: float = _parameter(
        0.80,
        "reflectance",
        0.7,
        1.0,
        "Contrast ratio is read over a black card and a white card of this reflectance.",
        "ISO 6504-3 and ASTM D2805: white charts of about 80 % reflectance",
    )
    powder_grain_um: float = _parameter(
        1.0,
        "µm",
        0.3,
        5.0,
        "Platelets of talc and mica lie flat and about a micrometre thick, so a light press cannot cover everything.",
        "talc and mica platelets in cosmetic powder are about 0.5 to 2 µm thick",
    )
    powder_density: float = _parameter(
        2.7,
        "g/cm³",
        1.5,
        3.5,
        "Density of talc and mica, which turns mg/cm² into a solid thickness.",
        "handbook density of talc 2.7 g/cm³, mica 2.8 g/cm³",
    )
    powder_film_um_per_mg: float = _parameter(
        10.0,
        "µm per mg/cm²",
        3.0,
        15.0,
        "Powder cover is stated as for a liquid, at 0.9 mg/cm²; so 1 mg/cm² counts as this much film.",
        "the same 0.9 mg/cm² that stands for 9 µm of film",
    )
    # Amounts on the skin
    foundation_film_um: float = _parameter(
        6.0, "µm", 3.0, 12.0, "One thin press pass over the middle of the face; two thin passes beat one thick."
    )
    least_film_um: float = _parameter(0.5, "µm", 0.2, 2.0, "Thinner than this cannot be laid on purpose by hand.")
    edge_share: float = _parameter(
        0.4, "share", 0.1, 0.8, "Edges, ears and neck get what is left in the tool, rolled on, so no line is left."
    )
    fragile_share: float = _parameter(
        0.6, "share", 0.3, 1.0, "Lined, creped or flaking zones get this share of the film that smooth skin gets."
    )
    light_film_um: float = _parameter(4.0, "µm", 1.5, 8.0, "A cream light blended out.")
    shade_film_um: float = _parameter(4.5, "µm", 1.5, 9.0, "A cream shade blended out.")
    colour_film_um: float = _parameter(2.5, "µm", 1.0, 6.0, "A cream colour, tapped on in dots and pressed.")
    glow_film_um: float = _parameter(1.5, "µm", 0.5, 4.0, "A cream glow on the highest planes only.")
    conceal_film_um: float = _parameter(4.0, "µm", 1.0, 8.0, "A concealer pressed on and feathered.")
    primer_film_um: float = _parameter(1.5, "µm", 0.5, 5.0, "What stays of a pressed primer once it is tacky.")
    press_mg: float = _parameter(0.1, "mg/cm²", 0.03, 0.3, "A whisper of powder pressed where it creases.")
    set_mg: float = _parameter(0.2, "mg/cm²", 0.05, 0.5, "Powder for a set that lasts the day.")
    bake_mg: float = _parameter(0.8, "mg/cm²", 0.4, 1.5, "Powder while a bake sits.")
    bake_left_mg: float = _parameter(0.3, "mg/cm²", 0.1, 0.6, "What a bake leaves after dusting off.")
    powder_colour_mg: float = _parameter(0.15, "mg/cm²", 0.05, 0.5, "Powder shade or colour, built in two light laps.")
    # What a zone carries
    film_limit_um: float = _parameter(
        26.0, "µm", 10.0, 50.0, "Dry film that smooth, sound skin carries before it looks like makeup at arm's length."
    )
    limit_cut_lines: float = _parameter(0.13, "share per severity", 0.0, 0.3, "Film gathers in fine lines.")
    limit_cut_creping: float = _parameter(0.15, "share per severity", 0.0, 0.3, "Creped skin folds film into cakes.")
    limit_cut_flaking: float = _parameter(0.15, "share per severity", 0.0, 0.3, "Flakes lift and catch film.")
    limit_cut_texture: float = _parameter(
        0.09, "share per severity", 0.0, 0.3, "Pores, scars and bumps show a film sooner than smooth skin does."
    )
    limit_cut_fold: float = _parameter(0.10, "share per severity", 0.0, 0.3, "A deep fold pumps film into a line.")
    limit_cut_dry: float = _parameter(0.05, "share per severity", 0.0, 0.3, "Dry skin lets film go patchy.")
    patch_share: float = _parameter(
        0.2, "share", 0.05, 0.6, "Spot concealing covers the marks, about this share of the zone they lie in."
    )
    # Colour
    close_enough_de: float = _parameter(
        1.5, "ΔE00", 0.5, 4.0, "A base this near the intended complexion reads as skin at arm's length."
    )
    mix_close_de: float = _parameter(
        1.0, "ΔE00", 0.3, 3.0, "A mix this near its target needs no further drop: beside skin nobody sees the rest."
    )
    hand_error: float = _parameter(
        0.3, "share", 0.0, 0.6, "A hand lays about this much more or less than meant; a corrector must bear it."
    )
    hand_error_de: float = _parameter(
        2.2, "ΔE00", 1.0, 4.0, "How far off a corrected zone may end when the hand lays more corrector than meant."
    )
    corrector_worth: float = _parameter(
        0.1, "share", 0.0, 0.5, "A corrector that saves less film than this is not worth a step of its own."
    )
    neck_share: float = _parameter(
        0.5, "share", 0.0, 1.0, "The complexion aimed at lies this far from the face's own colour towards the neck's."
    )
    neck_step_de: float = _parameter(3.0, "ΔE00", 1.0, 8.0, "A larger step between finished face and neck is seen.")
    wanted_shade_drop: float = _parameter(
        4.0, "ΔL*", 1.0, 10.0, "Visible darkening of the shade at arm's length that reads as a shadow, not a stripe."
    )
    wanted_light_lift: float = _parameter(2.0, "ΔL*", 0.5, 6.0, "Visible lift that reads as light, not as paint.")
    lost_share: float = _parameter(
        0.55, "share", 0.05, 0.8, "Sculpting that shows less than about half of the wanted step is counted as lost."
    )
    stripe_factor: float = _parameter(
        2.2, "factor", 1.2, 4.0, "Sculpting beyond this many times the wanted step shows as a stripe."
    )
    shade_step_l: float = _parameter(3.0, "L*", 2.0, 5.0, "One shade of a range is about this much lightness.")
    corrector_cast: float = _parameter(
        2.5, "ΔC (a*b*)", 1.0, 6.0, "A corrected zone this far off towards the corrector's own hue shows its tint."
    )
    # Times
    moisturiser_wait_s: float = _parameter(
        900.0, "s", 600.0, 1800.0, "Moisturiser sinks in for 10 to 30 minutes; 30 for the smoothest base."
    )
    primer_wait_s: float = _parameter(45.0, "s", 20.0, 90.0, "A primer is ready when it is tacky.")
    cream_wait_s: float = _parameter(20.0, "s", 5.0, 60.0, "A cream settles before the next layer goes over it.")
    foundation_wait_s: float = _parameter(60.0, "s", 20.0, 180.0, "Foundation sets before what goes over it.")
    crease_window_s: float = _parameter(30.0, "s", 10.0, 90.0, "Powder within this time of pressing a crease flat.")
    under_eye_window_s: float = _parameter(
        300.0, "s", 60.0, 600.0, "A creasing under-eye is set soon after its last wet layer, before it gathers."
    )
    bake_s: float = _parameter(480.0, "s", 300.0, 900.0, "A bake sits while oil and water rise into it.")
    mist_dry_s: float = _parameter(60.0, "s", 30.0, 120.0, "A mist dries before anything touches it.")
    # Skin and wear
    oil_dry: float = _parameter(
        0.3, "µg/cm²·min", 0.1, 0.6, "Oil given off by dry skin.", "published sebum excretion rates on the forehead"
    )
    oil_normal: float = _parameter(
        0.6, "µg/cm²·min", 0.3, 1.0, "Oil given off by balanced skin.", "published sebum excretion rates, mid-range"
    )
    oil_oily: float = _parameter(
        1.5, "µg/cm²·min", 0.9, 3.0, "Oil given off by oily skin.", "published sebum excretion rates on the forehead"
    )
    oil_per_mg_powder: float = _parameter(
        0.5,
        "mg oil per mg",
        0.3,
        2.0,
        "Oil that talc takes up; silica blends take up to 1.5.",
        "oil absorption figures for talc (0.5) to silica blends (1.5)",
    )
    oil_film_holds_mg: float = _parameter(
        0.10, "mg/cm²", 0.02, 0.4, "Oil on the surface before skin looks shiny, without any powder."
    )
    oil_matte_bonus: float = _parameter(
        0.5, "factor", 0.0, 2.0, "A matte film holds back this much more oil before it shines than a dewy one."
    )
    oil_per_degree: float = _parameter(
        0.04,
        "share per °C",
        0.0,
        0.12,
        "Warm air brings more oil to the surface and cold air less, from what it is at 22 °C.",
        "sebum excretion rises with skin temperature, about a tenth per degree of skin; air moves skin by less than half",
    )
    humidity_slows: float = _parameter(
        0.6, "share per 100 %", 0.0, 2.0, "Films set more slowly in humid air, from what they take at 50 % humidity."
    )
    colour_hours: float = _parameter(
        5.0, "h", 2.0, 12.0, "A cream colour on balanced skin keeps two thirds of its strength for about so long."
    )
    colour_powder_gain: float = _parameter(0.5, "share", 0.0, 1.5, "Powder over a colour lengthens its wear.")
    colour_mist_gain: float = _parameter(0.3, "share", 0.0, 1.0, "A film-forming mist over all lengthens wear.")
    flare_mg: float = _parameter(
        0.25, "mg/cm²", 0.1, 1.0, "So much powder 30 L* paler than the skin gives a flare index of about two thirds."
    )
    flare_reflective: float = _parameter(
        1.6, "factor", 1.0, 3.0, "Silica- and titanium-rich powders throw back more of a flash than talc does."
    )
    # Hands
    carry_share: float = _parameter(
        0.5,
        "share",
        0.0,
        0.9,
        "Of what a tool still holds, this much comes off again when it is rolled onto the edges.",
    )
    sponge_takes: float = _parameter(
        0.06, "share", 0.0, 0.3, "A damp sponge pressed over an unset film takes this share of it away."
    )
    lift_at_drag: float = _parameter(
        0.35,
        "share",
        0.0,
        0.8,
        "A drag lifts this share of the unset film beneath; gentler motions by their shear squared.",
    )
    pass_fingers: float = _parameter(
        0.90, "share", 0.5, 1.0, "Share of the product taken that fingers leave on the skin."
    )
    pass_damp_sponge: float = _parameter(
        0.65, "share", 0.3, 0.9, "A damp sponge keeps about a third and thins the film."
    )
    pass_dry_sponge: float = _parameter(0.50, "share", 0.2, 0.9, "A dry sponge drinks product.")
    pass_brush: float = _parameter(0.80, "share", 0.5, 1.0, "A brush keeps cover and holds a little in its hairs.")
    pass_puff: float = _parameter(0.75, "share", 0.4, 0.95, "A puff presses most of its powder on.")
    pass_fluffy: float = _parameter(0.60, "share", 0.3, 0.9, "A fluffy brush loses powder to the air.")
    second_per_cm2: float = _parameter(0.45, "s/cm²", 0.1, 1.5, "Working pace of a practised hand, pressing.")
    least_active_s: float = _parameter(15.0, "s", 5.0, 60.0, "No step is done faster, counting the reach for it.")
    # Limits that rules ask about
    forehead_none_fingers: float = _parameter(
        2.0, "finger-widths", 1.0, 3.0, "A forehead this low or lower gets no shade; it would look lower still."
    )
    bake_line_limit: float = _parameter(
        2.0, "severity", 1.0, 4.0, "From this severity of lines or creping on, a bake settles into them and stays."
    )
    underpaint_cover_most: float = _parameter(
        0.62, "contrast ratio", 0.35, 0.9, "More cover than this hides what was painted beneath the foundation."
    )

    def deciding(self, changes: Mapping[str, float]) -> House:
        """This house with some parameters decided otherwise. Refuses unknown names and values out of range."""
        known = PARAMETERS
        for name, value in changes.items():
            if name not in known:
                raise Refused(f"house.{name}", name, "the name of a house parameter")
            parameter = known[name]
            if not parameter.low <= value <= parameter.high:
                raise Refused(f"house.{name}", value, f"{parameter.low:g} to {parameter.high:g} {parameter.unit}")
        return replace(self, **dict(changes))


PARAMETERS: Mapping[str, Parameter] = {
    each.name: Parameter(name=each.name, default=float(str(each.default)), **each.metadata) for each in fields(House)
}
