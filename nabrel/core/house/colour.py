"""What counts as near enough, as showing, and as lost."""

from __future__ import annotations

from dataclasses import dataclass

from nabrel.core.house.parameter import parameter


@dataclass(frozen=True, init=False, repr=False, eq=False)
class Colours:
    """What counts as near enough, as showing, and as lost."""

    close_enough_de: float = parameter(
        1.5, "ΔE00", 0.5, 4.0, "A base this near the intended complexion reads as skin at arm's length."
    )
    mix_close_de: float = parameter(
        1.0, "ΔE00", 0.3, 3.0, "A mix this near its target needs no further drop: beside skin nobody sees the rest."
    )
    hand_error: float = parameter(
        0.3, "share", 0.0, 0.6, "A hand lays about this much more or less than meant; a corrector must bear it."
    )
    hand_error_de: float = parameter(
        2.2, "ΔE00", 1.0, 4.0, "How far off a corrected zone may end when the hand lays more corrector than meant."
    )
    corrector_worth: float = parameter(
        0.1, "share", 0.0, 0.5, "A corrector that saves less film than this is not worth a step of its own."
    )
    neck_share: float = parameter(
        0.5, "share", 0.0, 1.0, "The complexion aimed at lies this far from the face's own colour towards the neck's."
    )
    neck_step_de: float = parameter(3.0, "ΔE00", 1.0, 8.0, "A larger step between finished face and neck is seen.")
    wanted_shade_drop: float = parameter(
        4.0, "ΔL*", 1.0, 10.0, "Visible darkening of the shade at arm's length that reads as a shadow, not a stripe."
    )
    wanted_light_lift: float = parameter(2.0, "ΔL*", 0.5, 6.0, "Visible lift that reads as light, not as paint.")
    wanted_within: float = parameter(
        0.5, "ΔL*", 0.0, 2.0, "A shade or light this near to the step wanted looks as wanted: no eye tells them apart."
    )
    redness_shows_a: float = parameter(
        2.5, "Δa*", 0.5, 8.0, "Redness that still shows this much through a base reads as colour: none is laid on it."
    )
    under_powder_gain: float = parameter(
        1.2, "factor", 1.0, 2.0, "Shade and light that get powder all over are laid this much stronger."
    )
    lost_share: float = parameter(
        0.55, "share", 0.05, 0.8, "Sculpting that shows less than about half of the wanted step is counted as lost."
    )
    lost_margin: float = parameter(
        0.1, "share", 0.0, 0.4, "Planned beneath the foundation, sculpting must be so much further from being lost."
    )
    stripe_factor: float = parameter(
        2.2, "factor", 1.2, 4.0, "Sculpting beyond this many times the wanted step shows as a stripe."
    )
    shade_grey_share: float = parameter(
        0.62, "share of the chroma", 0.2, 0.9, "A shade that shows less colour than this share of the skin's is grey."
    )
    light_ashen_share: float = parameter(
        0.65, "share of the chroma", 0.2, 0.9, "A light that shows less colour than this share of the skin's is ashen."
    )
    shade_warm_chroma: float = parameter(
        6.0, "ΔC", 2.0, 20.0, "A shade that shows this much more colour than the skin is orange, not shadow."
    )
    same_cover: float = parameter(
        0.15, "contrast ratio", 0.02, 0.4, "Foundations nearer than this in cover pass for equally strong."
    )
    same_depth_l: float = parameter(
        6.0,
        "L*",
        2.0,
        12.0,
        "A foundation may stand in for one whose cover hides too much, if it is this near in depth.",
    )
    shade_step_l: float = parameter(3.0, "L*", 2.0, 5.0, "One shade of a range is about this much lightness.")
    ashy_chroma: float = parameter(
        1.8, "chroma (a*b*)", 0.5, 6.0, "A zone that has lost this much of the complexion's warmth looks grey."
    )
    grey_shows: float = parameter(
        2.5, "chroma (a*b*)", 0.5, 8.0, "From so much lost warmth on a product is said to turn grey on this skin."
    )
    grey_is_plain: float = parameter(
        4.5, "chroma (a*b*)", 1.0, 12.0, "From so much lost warmth on anybody sees the grey: a problem, not advice."
    )
    corrector_seen_de: float = parameter(
        0.5, "ΔE00", 0.2, 3.0, "A corrector that brings a zone so much nearer with no more film is worth its step."
    )
    film_costs_de: float = parameter(
        0.05, "ΔE00 per µm", 0.0, 1.0, "Where nothing comes near enough, another µm must bring a zone so much nearer."
    )
    film_for_nearer_um: float = parameter(
        1.0, "µm for ΔE00 1", 0.0, 5.0, "A zone that comes nearer to the complexion is worth about this much film more."
    )
    corrector_paler_l: float = parameter(
        16.0,
        "L*",
        3.0,
        30.0,
        "A corrector this much paler than the complexion lightens instead of cancelling, and turns grey.",
    )
    corrector_deeper_l: float = parameter(
        13.0,
        "L*",
        3.0,
        30.0,
        "A corrector this much deeper than the complexion is a stain that must itself be covered.",
    )
    corrector_cast: float = parameter(
        2.5, "ΔC (a*b*)", 1.0, 6.0, "A corrected zone this far off towards the corrector's own hue shows its tint."
    )
    corrector_cast_share: float = parameter(
        0.5, "share", 0.1, 1.0, "A corrected zone may lean this share of a visible tint towards its corrector."
    )
    role_handicap: float = parameter(
        1.2, "ΔL*", 0.0, 5.0, "An item sold for something else must do this much better to serve as shade or light."
    )
    free_value_step: float = parameter(
        6.0, "L*", 2.0, 15.0, "A thin powder this far from the complexion still vanishes; beyond it greys or darkens."
    )
    beading_cost: float = parameter(
        5.0, "ΔE00", 0.0, 15.0, "A foundation that beads on all that lies beneath must match this much better."
    )
    drop_varies: float = parameter(
        0.2, "share", 0.0, 0.5, "One drop is a fifth more or less than the next: a recipe is judged over that spread."
    )
    mix_steps_most: float = parameter(
        3.0, "shades", 1.0, 8.0, "A shade further than this from the complexion is a poor choice to mix with."
    )
    mix_far_gain_de: float = parameter(
        1.0, "ΔE00", 0.0, 4.0, "A shade so far off must bring a mix this much nearer: less is not seen."
    )
    mix_alike_de: float = parameter(
        0.2,
        "ΔE00",
        0.0,
        1.0,
        "Recipes that come out this much alike are as good: the one with the fewest drops is given.",
    )
    mix_from_de: float = parameter(
        2.0, "ΔE00", 0.5, 6.0, "A single foundation further off than this is worth mixing another into."
    )
    mix_worth_de: float = parameter(
        0.8, "ΔE00", 0.1, 4.0, "A planned mix must come so much nearer than one foundation alone."
    )
    mix_among: int = parameter(5, "foundations", 2, 12, "A mix is planned among so many of those that suit best.")
    mix_drops_most: int = parameter(
        5, "drops", 2, 12, "A planned mix takes no more drops than are counted without a slip."
    )
    mix_base_cost: float = parameter(
        4.0, "ΔE00", 0.0, 15.0, "A mixture of bases that separate must come this much nearer to be given at all."
    )
    mix_finish_cost: float = parameter(
        0.8, "ΔE00", 0.0, 4.0, "One whole step of finish (matte, satin, dewy) is worth this much colour."
    )
    cover_cost: float = parameter(
        9.0, "ΔE00 per contrast ratio", 0.0, 30.0, "How much colour a foundation's cover is worth against the wish."
    )
    substitute_far_l: float = parameter(
        14.0, "L*", 4.0, 30.0, "Further than this in depth nothing substitutes, whatever its hue."
    )
