"""How much of each layer is laid."""

from __future__ import annotations

from dataclasses import dataclass

from nabrel.core.house.parameter import parameter


@dataclass(frozen=True)
class Amounts:
    """How much of each layer is laid."""

    foundation_film_um: float = parameter(
        6.0, "µm", 3.0, 12.0, "One thin press pass over the middle of the face; two thin passes beat one thick."
    )
    least_film_um: float = parameter(0.5, "µm", 0.2, 2.0, "Thinner than this cannot be laid on purpose by hand.")
    edge_share: float = parameter(
        0.4, "share", 0.1, 0.8, "Edges, ears and neck get what is left in the tool, rolled on, so no line is left."
    )
    fragile_share: float = parameter(
        0.6, "share", 0.3, 1.0, "Lined, creped or flaking zones get this share of the film that smooth skin gets."
    )
    light_film_um: float = parameter(4.0, "µm", 1.5, 8.0, "A cream light blended out.")
    shade_film_um: float = parameter(4.5, "µm", 1.5, 9.0, "A cream shade blended out.")
    colour_film_um: float = parameter(2.5, "µm", 1.0, 6.0, "A cream colour, tapped on in dots and pressed.")
    glow_film_um: float = parameter(1.5, "µm", 0.5, 4.0, "A cream glow on the highest planes only.")
    conceal_film_um: float = parameter(4.0, "µm", 1.0, 8.0, "A concealer pressed on and feathered.")
    primer_film_um: float = parameter(1.5, "µm", 0.5, 5.0, "What stays of a pressed primer once it is tacky.")
    press_mg: float = parameter(0.1, "mg/cm²", 0.03, 0.3, "A whisper of powder pressed where it creases.")
    set_mg: float = parameter(0.2, "mg/cm²", 0.05, 0.5, "Powder for a set that lasts the day.")
    bake_mg: float = parameter(0.8, "mg/cm²", 0.4, 1.5, "Powder while a bake sits.")
    bake_left_mg: float = parameter(0.3, "mg/cm²", 0.1, 0.6, "What a bake leaves after dusting off.")
    powder_colour_mg: float = parameter(0.15, "mg/cm²", 0.05, 0.5, "Powder shade or colour, built in two light laps.")
    over_sculpting_share: float = parameter(
        0.75, "share", 0.3, 1.0, "Foundation pressed over what was painted beneath it gets this share of the film."
    )
    small_zone_cm2: float = parameter(
        8.0, "cm²", 2.0, 20.0, "On zones up to this size a small dense brush is used; on larger ones a larger tool."
    )
    least_fresh_ml: float = parameter(
        0.002, "ml", 0.0005, 0.02, "Less fresh product than this is not worth taking; what the tool holds will do."
    )
    dotted_factor: float = parameter(
        1.15, "factor", 1.0, 1.6, "Dots on the face take about this much more than product spread from the hand."
    )
    second_pass_um: float = parameter(
        2.0, "µm", 0.5, 4.0, "A second targeted pass of foundation adds this much where it is still needed."
    )
    two_tone_step_l: float = parameter(
        6.0, "L*", 3.0, 12.0, "The deeper foundation around the face is about two shades below the paler one."
    )
    doubled_share: float = parameter(
        0.6, "share", 0.3, 0.9, "Of the wanted step, doubled sculpting lays this share in cream and the rest in powder."
    )
