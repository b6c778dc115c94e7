"""What a zone carries before it looks like makeup."""

from __future__ import annotations

from dataclasses import dataclass

from nabrel.core.house.parameter import parameter


@dataclass(frozen=True, init=False, repr=False, eq=False)
class Carrying:
    """What a zone carries before it looks like makeup."""

    film_limit_um: float = parameter(
        26.0, "µm", 10.0, 50.0, "Dry film that smooth, sound skin carries before it looks like makeup at arm's length."
    )
    limit_cut_lines: float = parameter(0.13, "share per severity", 0.0, 0.3, "Film gathers in fine lines.")
    limit_cut_creping: float = parameter(0.15, "share per severity", 0.0, 0.3, "Creped skin folds film into cakes.")
    limit_cut_flaking: float = parameter(0.15, "share per severity", 0.0, 0.3, "Flakes lift and catch film.")
    limit_cut_texture: float = parameter(
        0.09, "share per severity", 0.0, 0.3, "Pores, scars and bumps show a film sooner than smooth skin does."
    )
    limit_cut_fold: float = parameter(0.10, "share per severity", 0.0, 0.3, "A deep fold pumps film into a line.")
    limit_cut_dry: float = parameter(0.05, "share per severity", 0.0, 0.3, "Dry skin lets film go patchy.")
    patch_share: float = parameter(
        0.2, "share", 0.05, 0.6, "Spot concealing covers the marks, about this share of the zone they lie in."
    )
    reserve_um: float = parameter(
        3.0, "µm", 0.0, 8.0, "Load kept free on a zone for its primer and the powder that sets it."
    )
