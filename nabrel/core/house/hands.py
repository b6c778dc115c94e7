"""What tools pass on, keep and take away, and how fast hands are."""

from __future__ import annotations

from dataclasses import dataclass

from nabrel.core.house.parameter import parameter


@dataclass(frozen=True, init=False, repr=False, eq=False)
class Hands:
    """What tools pass on, keep and take away, and how fast hands are."""

    carry_share: float = parameter(
        0.5,
        "share",
        0.0,
        0.9,
        "Of what a tool still holds, this much comes off again when it is rolled onto the edges.",
    )
    sponge_takes: float = parameter(
        0.06, "share", 0.0, 0.3, "A damp sponge pressed over an unset film takes this share of it away."
    )
    lift_at_drag: float = parameter(
        0.35,
        "share",
        0.0,
        0.8,
        "A drag lifts this share of the unset film beneath; gentler motions by their shear squared.",
    )
    pass_fingers: float = parameter(
        0.90, "share", 0.5, 1.0, "Share of the product taken that fingers leave on the skin."
    )
    pass_damp_sponge: float = parameter(
        0.65, "share", 0.3, 0.9, "A damp sponge keeps about a third and thins the film."
    )
    pass_dry_sponge: float = parameter(0.50, "share", 0.2, 0.9, "A dry sponge absorbs product.")
    pass_brush: float = parameter(0.80, "share", 0.5, 1.0, "A brush keeps cover and holds a little in its hairs.")
    pass_puff: float = parameter(0.75, "share", 0.4, 0.95, "A puff presses most of its powder on.")
    pass_fluffy: float = parameter(0.60, "share", 0.3, 0.9, "A fluffy brush loses powder to the air.")
    dampened_gain: float = parameter(
        1.25,
        "factor",
        1.0,
        1.6,
        "A tool dampened with mist holds the grains of a pan: so much more of what it took up arrives.",
    )
    second_per_cm2: float = parameter(0.45, "s/cm²", 0.1, 1.5, "Working pace of a practised hand, pressing.")
    least_active_s: float = parameter(15.0, "s", 5.0, 60.0, "No step is done faster, counting the reach for it.")
    wiped_share: float = parameter(
        0.15,
        "share",
        0.0,
        1.0,
        "Of what a tool holds, this much is still in it when it is wiped and goes into the next product.",
    )
    softened_mm: float = parameter(
        6.0, "mm", 0.0, 15.0, "What softening an edge with an emptied tool adds to the width it fades over."
    )
    hard_edge_mm: float = parameter(2.0, "mm", 0.5, 5.0, "Width of a border that nothing blended.")
