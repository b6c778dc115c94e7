"""What the planner goes by when it chooses an item, a depth or a hand."""

from __future__ import annotations

from dataclasses import dataclass

from nabrel.core.house.parameter import parameter


@dataclass(frozen=True, init=False, repr=False, eq=False)
class Choosing:
    """What the planner goes by when it chooses an item, a depth or a hand."""

    colour_lasts_from_h: float = parameter(
        6.0, "h", 3.0, 10.0, "From so many hours on a cream colour starts stronger, since a third of it fades."
    )
    colour_lasting_factor: float = parameter(
        1.2, "factor", 1.0, 1.6, "A cream colour that must last the day starts this much stronger."
    )
    mist_from_h: float = parameter(
        7.0, "h", 4.0, 14.0, "From so many hours on a plan ends with a setting mist, where the kit has one."
    )
    colour_drop_l: float = parameter(
        10.0, "ΔL*", 4.0, 20.0, "A cheek colour this much deeper than the complexion shows without shading."
    )
    glow_lift_l: float = parameter(
        10.0, "ΔL*", 4.0, 20.0, "A glow this much paler than the complexion shines without a grey or white cast."
    )
    warm_colour_b: float = parameter(18.0, "b*", 10.0, 30.0, "The yellow in a cheek colour that suits a warm skin.")
    cool_colour_b: float = parameter(9.0, "b*", 0.0, 16.0, "The yellow in a cheek colour that suits a cool skin.")
    hued_from_ab: float = parameter(
        8.0, "a*b*", 3.0, 30.0, "So far from the skin in hue a cream of another label may stand in for a corrector."
    )
    colour_close_l: float = parameter(
        4.0,
        "L*",
        0.0,
        20.0,
        "A cheek colour this near to the one wanted is taken as it is (half a b* counts as one L*).",
    )
    colour_mix_worth_l: float = parameter(
        3.0, "L*", 0.5, 20.0, "Two cheek colours are mixed where that comes so much nearer than one alone."
    )
    bridge_steps: float = parameter(
        2.5, "shades", 1.0, 4.0, "A cream bronzer this far below the skin bridges skin and shade."
    )
    bronzer_steps: float = parameter(3.0, "shades", 1.0, 5.0, "A powder bronzer this far below the skin warms it.")
    near_shades: float = parameter(
        3.0, "shades", 1.0, 8.0, "Items further than this in depth are folded away where a substitute is looked for."
    )
    borrowed_shade_steps: float = parameter(
        1.5, "shades", 1.0, 4.0, "A concealer or foundation at least this much deeper may serve as shade."
    )
    borrowed_light_steps: float = parameter(
        0.6, "shades", 0.3, 3.0, "A concealer at least this much lighter may serve as light."
    )
    range_hue_weight: float = parameter(
        0.4, "ΔL* per unit of a* or b*", 0.0, 2.0, "Hue against depth, where two foundations of one range are paired."
    )
    range_cover_cost: float = parameter(
        20.0, "ΔL* per contrast ratio", 0.0, 60.0, "What a difference in cover costs, where two foundations are paired."
    )
    many_oily_zones: float = parameter(
        6.0, "zones", 3.0, 20.0, "On so many clearly oily zones the oil speaks for the whole face."
    )
    many_dry_zones: float = parameter(
        4.0, "zones", 2.0, 20.0, "On more clearly dry or lined zones than this, dryness speaks for the whole face."
    )
    oily_finish_lean: float = parameter(
        0.8, "steps of finish", 0.0, 2.0, "How far an oily face moves the finish looked for towards matte."
    )
    dry_finish_lean: float = parameter(
        0.5, "steps of finish", 0.0, 2.0, "How far a dry or lined face moves the finish looked for towards dewy."
    )
    stippled_cover_from: float = parameter(
        0.7, "contrast ratio", 0.4, 0.95, "From this cover on a foundation is stippled; a sponge would take cover away."
    )
    misted_tool_from_h: float = parameter(
        10.0,
        "h",
        6.0,
        16.0,
        "From so many hours on the foundation's tool is dampened with setting mist, where the kit has one.",
    )
    pressed_in_from_um: float = parameter(
        3.0, "µm", 1.0, 9.5, "A light placed with a brush in so much film is then pressed with a damp sponge."
    )
    powder_value_cost: float = parameter(
        0.06, "severity per L*", 0.0, 0.5, "What a powder's distance in value costs against what it suits."
    )
    wrong_powder_cost: float = parameter(
        10.0, "severity", 0.0, 30.0,
        "What a powder that greys the skin or darkens the light costs: as a rule more than anything it may suit.",
    )  # fmt: skip
    other_powder_worth: float = parameter(
        0.4, "severity", 0.0, 3.0, "A second powder is taken where it suits a zone better by this much."
    )
    other_hue_cm2: float = parameter(
        3.0, "cm²", 0.0, 30.0, "Another corrector is not opened for less of the face than this, where one in use helps."
    )
    other_powder_cm2: float = parameter(
        12.0, "cm²", 0.0, 60.0, "A second powder is not opened for less of the face than this."
    )
    baking_cover_most: float = parameter(
        0.35, "contrast ratio", 0.1, 0.8, "Only a loose powder that covers no more than this is baked with."
    )
    mark_paler_l: float = parameter(
        1.5, "L*", 0.0, 6.0, "A concealer for marks may be this much paler than the complexion, and no more."
    )
    matt_primer_factor: float = parameter(
        1.5, "factor", 1.0, 3.0, "A primer against oil takes this much longer until it is tacky than a moist one."
    )
