"""How long layers settle, and how long they may wait."""

from __future__ import annotations

from dataclasses import dataclass

from nabrel.core.house.parameter import parameter


@dataclass(frozen=True)
class Times:
    """How long layers settle, and how long they may wait."""

    moisturiser_wait_s: float = parameter(
        900.0, "s", 600.0, 1800.0, "Moisturiser sinks in for 10 to 30 minutes; 30 for the smoothest base."
    )
    primer_wait_s: float = parameter(45.0, "s", 20.0, 90.0, "A primer is ready when it is tacky.")
    cream_wait_s: float = parameter(20.0, "s", 5.0, 60.0, "A cream settles before the next layer goes over it.")
    foundation_wait_s: float = parameter(60.0, "s", 20.0, 180.0, "Foundation sets before what goes over it.")
    crease_window_s: float = parameter(30.0, "s", 10.0, 90.0, "Powder within this time of pressing a crease flat.")
    under_eye_window_s: float = parameter(
        300.0, "s", 60.0, 600.0, "A creasing under-eye is set soon after its last wet layer, before it gathers."
    )
    bake_s: float = parameter(480.0, "s", 300.0, 900.0, "A bake sits while oil and water rise into it.")
    mist_dry_s: float = parameter(60.0, "s", 30.0, 120.0, "A mist dries before anything touches it.")
    film_sets_s: float = parameter(
        600.0, "s", 120.0, 1800.0, "By then a water- or silicone-based film has lost what evaporates, and holds."
    )
    soften_s: float = parameter(40.0, "s", 10.0, 120.0, "An emptied sponge goes over every border of the face.")
    crease_check_s: float = parameter(20.0, "s", 5.0, 60.0, "Looking up, pressing the folds flat, looking again.")
    edge_check_s: float = parameter(30.0, "s", 10.0, 120.0, "Jaw, hairline, ears and neck, both sides.")
    light_check_s: float = parameter(20.0, "s", 10.0, 120.0, "A look in each light asked for.")
    feature_s: float = parameter(90.0, "s", 20.0, 600.0, "Brows, eyes, lashes or lips that are added by hand.")
