"""Limits that rules ask about."""

from __future__ import annotations

from dataclasses import dataclass

from nabrel.core.house.parameter import parameter


@dataclass(frozen=True, init=False, repr=False, eq=False)
class Judging:
    """Limits that rules ask about."""

    forehead_none_fingers: float = parameter(
        2.0, "finger-widths", 1.0, 3.0, "A forehead this low or lower gets no shade; it would look lower still."
    )
    bake_line_limit: float = parameter(
        2.0, "severity", 1.0, 4.0, "From this severity of lines or creping on, a bake settles into them and stays."
    )
    underpaint_cover_most: float = parameter(
        0.62, "contrast ratio", 0.35, 0.9, "More cover than this hides what was painted beneath the foundation."
    )
    full_cover_on_lines: float = parameter(
        0.75, "contrast ratio", 0.5, 0.95, "From this cover on a foundation draws the lines that it lies in."
    )
    full_cover_on_lines_um: float = parameter(
        4.0, "µm", 1.0, 8.0, "More of a foundation of full cover than this on lined skin draws the lines."
    )
    creasing_film_um: float = parameter(
        4.0, "µm", 1.0, 8.0, "More unset film than this in a lined fold runs into the line within the hour."
    )
    thick_pass_um: float = parameter(9.5, "µm", 5.0, 15.0, "More than this in one pass cannot be pressed even.")
    settle_share: float = parameter(
        0.6, "share", 0.2, 1.0, "A wait shorter than this share of what the layer wants is too short."
    )
    no_wait_share: float = parameter(
        0.1,
        "share",
        0.0,
        0.5,
        "A wait of no more than this share of what care, primer or mist wants is no wait at all.",
    )
    crease_grave: float = parameter(
        0.6,
        "index 0 to 1",
        0.3,
        1.0,
        "A film left unset whose forecast crease passes this gathers before a long day is over.",
    )
    crease_grave_line: int = parameter(
        2,
        "severity",
        1,
        3,
        "From this severity of line on, powder over a crease that was not smoothed fixes it for the day.",
    )
    flare_grave_factor: float = parameter(
        1.3,
        "times the limit",
        1.0,
        3.0,
        "So far beyond the flare limit a flash that will fire whitens the zone plainly.",
    )
    lift_lost_l: float = parameter(
        0.5, "L*", 0.1, 3.0, "Dark carried along that takes more than this off the light is seen in the finished base."
    )
    short_shine_share: float = parameter(
        0.4, "share", 0.1, 1.0, "Shine before this share of the wanted hours asks for more powder or a touch-up."
    )
    thin_underlayer_um: float = parameter(
        2.5, "µm", 0.5, 6.0, "A layer thinner than this under a water-based one only risks beading."
    )
    late_sheen_um: float = parameter(2.0, "µm", 0.5, 4.0, "A glow this thin may be tapped over a light set.")
    light_set_mg: float = parameter(0.25, "mg/cm²", 0.1, 0.5, "Powder up to this much counts as a light set.")
    wet_shear_limit: float = parameter(
        1.0, "shear 0 to 3", 0.0, 2.0, "More shear than this over an unset layer lifts it."
    )
    flare_limit: float = parameter(
        0.5, "index 0 to 1", 0.1, 0.9, "From this flare index on a zone is expected to photograph white."
    )
    pale_spot_l: float = parameter(
        2.0, "L*", 0.5, 5.0, "Concealer this much lighter than the complexion makes a mark stand out."
    )
    shape_long_from: float = parameter(
        1.45, "length over width", 1.3, 1.7, "A face at least this long for its width reads as long."
    )
    shape_round_below: float = parameter(
        1.22, "length over width", 1.1, 1.35, "A face shorter than this for its width reads as round or square."
    )
    shape_jaw_wide_from: float = parameter(
        0.87, "jaw over width", 0.8, 0.95, "A jaw this wide for the cheekbones reads as square."
    )
    shape_jaw_narrow_below: float = parameter(
        0.74, "jaw over width", 0.6, 0.8, "A jaw narrower than this reads as heart or diamond."
    )
    full_cake: float = parameter(
        0.85, "share of the ceiling", 0.5, 1.0, "A zone so full carries no further layer worth the name."
    )
    cake_grave: float = parameter(
        1.15, "share of the ceiling", 1.0, 1.6, "Over the ceiling by less than this is advice, by more a problem."
    )
    grave_cast_factor: float = parameter(
        1.6,
        "factor",
        1.0,
        4.0,
        "A corrector's tint up to this many times the one that shows is advice, then a problem.",
    )
    corrector_harms_de: float = parameter(
        0.6, "ΔE00", 0.1, 2.0, "A corrector without which a zone would be nearer by more than this does harm there."
    )
    dark_beside_l: float = parameter(
        10.0, "L*", 4.0, 25.0, "An item this much deeper greys a light or concealer that is taken up with its tool."
    )
    most_corrector_um: float = parameter(
        5.0, "µm", 1.0, 8.0, "More corrector than this is seldom needed: less than seems right, then look."
    )
    most_glow_um: float = parameter(3.0, "µm", 1.0, 6.0, "A glow thicker than this is a stripe of its own.")
    most_films: float = parameter(6.0, "films", 3.0, 10.0, "More wet films than this on one zone look like makeup.")
    most_set_mg: float = parameter(
        0.45, "mg/cm²", 0.2, 0.8, "More powder than this pressed on is a bake, and needs its wait and dusting."
    )
    longest_bake_s: float = parameter(900.0, "s", 480.0, 1800.0, "A bake left longer than this dries and cracks.")
    most_dry_powder_mg: float = parameter(
        0.2, "mg/cm²", 0.05, 0.5, "More powder than this on clearly dry skin looks dusty."
    )
    ashy_step_l: float = parameter(
        26.0, "L*", 10.0, 45.0, "Powder so much paler than the skin greys it once there is enough of it."
    )
    complexion_off_de: float = parameter(
        3.5, "ΔE00", 2.0, 8.0, "A finished complexion this far from the one aimed at is the wrong shade."
    )
    bronzer_most_steps: float = parameter(
        5.0, "shades", 2.0, 8.0, "A bronzer deeper than this below the skin is a shade, not warmth."
    )
    large_area_cm2: float = parameter(
        100.0, "cm²", 60.0, 300.0, "From this area on a small brush costs time and leaves tracks."
    )
    small_area_cm2: float = parameter(
        4.0, "cm²", 1.0, 10.0, "On marks up to this area a large tool spreads what should stay in place."
    )
    long_day_h: float = parameter(8.0, "h", 3.0, 12.0, "From so many hours on, what was left to crease has creased.")
    long_wear_h: float = parameter(9.0, "h", 6.0, 14.0, "From so many hours on a film-forming mist earns its place.")
    carried_dark_share: float = parameter(0.012, "share", 0.003, 0.1, "This much shade in a light's film greys it.")
    corrector_helps_de: float = parameter(
        0.3, "ΔE00", 0.0, 2.0, "A corrector that brings a zone nearer by less than this by itself is no help there."
    )
    conceal_helps_de: float = parameter(
        0.4, "ΔE00", 0.0, 2.0, "Concealer that brings a zone nearer by less than this is film for nothing."
    )
    spare_share: float = parameter(
        0.8,
        "share",
        0.0,
        1.0,
        "Within this share of near enough without it, a corrector is spared, however little it moves.",
    )
    one_concealer_de: float = parameter(
        0.6, "ΔE00", 0.0, 2.0, "A concealer that is on the hand already may leave this much more than the best would."
    )
