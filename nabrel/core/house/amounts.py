"""How much of each layer is laid."""

from __future__ import annotations

from dataclasses import dataclass

from nabrel.core.house.parameter import parameter


@dataclass(frozen=True, init=False, repr=False, eq=False)
class Amounts:
    """How much of each layer is laid."""

    foundation_film_um: float = parameter(
        4.5, "µm", 1.5, 12.0, "One press pass of foundation for medium cover; two thin passes beat one thick."
    )
    nose_shade_share: float = parameter(
        0.6, "share", 0.2, 1.0, "Shade on the nose is this much lighter than on the cheek."
    )
    foundation_sheer_um: float = parameter(2.0, "µm", 0.5, 6.0, "Foundation where sheer cover is wanted.")
    foundation_light_um: float = parameter(3.0, "µm", 0.5, 8.0, "Foundation where light cover is wanted.")
    foundation_full_um: float = parameter(6.5, "µm", 3.0, 14.0, "Foundation where full or opaque cover is wanted.")
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
    primer_film_um: float = parameter(1.5, "µm", 0.5, 5.0, "What stays of a pressed primer once it is tacky.")
    press_mg: float = parameter(0.1, "mg/cm²", 0.03, 0.3, "A whisper of powder pressed where it creases.")
    set_mg: float = parameter(0.2, "mg/cm²", 0.05, 0.5, "Powder for a set that lasts the day.")
    bake_mg: float = parameter(0.8, "mg/cm²", 0.4, 1.5, "Powder while a bake sits.")
    bake_left_mg: float = parameter(0.3, "mg/cm²", 0.1, 0.6, "What a bake leaves after dusting off.")
    powder_colour_mg: float = parameter(0.15, "mg/cm²", 0.05, 0.5, "Powder shade or colour, built in two light passes.")
    over_sculpting_share: float = parameter(
        0.75, "share", 0.3, 1.0, "Foundation pressed over what was painted beneath it gets this share of the film."
    )
    small_zone_cm2: float = parameter(
        8.0, "cm²", 2.0, 20.0, "On zones up to this size a small dense brush is used; on larger ones a larger tool."
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
    corrector_film_um: float = parameter(
        1.5, "µm", 0.5, 4.0, "Corrector added by hand starts at a thin layer: less than seems right, then look."
    )
    late_conceal_um: float = parameter(2.0, "µm", 0.5, 6.0, "Concealer added by hand starts at a thin layer.")
    late_foundation_um: float = parameter(3.0, "µm", 1.0, 8.0, "Foundation added by hand starts at a light layer.")
    clean_edge_um: float = parameter(1.0, "µm", 0.5, 4.0, "A cleaning line is a whisper of cream below the shade.")
    clean_line_cm2: float = parameter(2.4, "cm²", 0.5, 8.0, "A cleaning line is about 6 cm long and 4 mm wide.")
    clean_line_mg: float = parameter(
        0.4, "mg/cm²", 0.1, 0.8, "Powder for a cleaning line lies so thick that it does not grab what is swept with it."
    )
    clean_left_mg: float = parameter(
        0.05, "mg/cm²", 0.0, 0.3, "What a cleaning line of powder leaves once it is swept away."
    )
    least_take_ml: float = parameter(
        0.0015, "ml", 0.0005, 0.01, "A hand cannot take less of a cream or liquid: the rest is wiped off, and used up."
    )
    weighed_from: float = parameter(
        0.05,
        "ml or g",
        0.01,
        1.0,
        "From so much on a person would weigh or measure; less is told in a hand's words alone.",
    )
    least_take_g: float = parameter(0.001, "g", 0.0002, 0.01, "A hand cannot take less of a powder.")
    cleanser_dose_um: float = parameter(20.0, "µm", 5.0, 60.0, "Cleanser spread over the face before it is taken off.")
    moisturiser_dose_um: float = parameter(
        10.0, "µm", 3.0, 30.0, "Moisturiser for face and neck: about a third of a millilitre."
    )
    eye_care_dose_um: float = parameter(15.0, "µm", 3.0, 40.0, "Eye cream: a pinhead for each eye.")
    sunscreen_dose_um: float = parameter(
        20.0,
        "µm",
        5.0,
        25.0,
        "Sunscreen protects as its label says only at 2 mg/cm².",
        "ISO 24444: 2 mg/cm² of product in the test of the sun protection factor",
    )
    mist_dose_um: float = parameter(8.0, "µm", 2.0, 30.0, "A few passes of a mist at arm's length.")
    rung_trace_um: float = parameter(0.5, "µm", 0.2, 0.8, "The least film a hand lays on purpose: hardly there.")
    rung_whisper_um: float = parameter(1.0, "µm", 0.6, 1.6, "A film that tints and no more.")
    rung_thin_um: float = parameter(2.0, "µm", 1.2, 2.8, "A thin layer, pressed out.")
    rung_light_um: float = parameter(3.0, "µm", 2.2, 4.0, "A light layer; skin shows through it.")
    rung_medium_um: float = parameter(4.5, "µm", 3.2, 5.8, "A medium layer, one good press.")
    rung_full_um: float = parameter(6.5, "µm", 5.0, 8.0, "A full layer, as much as one pass takes.")
    rung_heavy_um: float = parameter(9.5, "µm", 7.0, 12.0, "A heavy layer, which looks like makeup.")
    rung_breath_mg: float = parameter(0.05, "mg/cm²", 0.02, 0.08, "A breath of powder: the brush tip, tapped off.")
    rung_whisper_mg: float = parameter(0.1, "mg/cm²", 0.06, 0.15, "A whisper of powder, pressed.")
    rung_press_mg: float = parameter(0.2, "mg/cm²", 0.12, 0.3, "A light press that lasts the day.")
    rung_full_mg: float = parameter(0.4, "mg/cm²", 0.25, 0.6, "A full press, nearly a bake.")
