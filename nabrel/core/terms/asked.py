"""The ids of what may be asked of a face by region, of its colour, its glow and its foundation."""

from __future__ import annotations

from typing import Literal

EffectRegion = Literal[
    "nose",
    "nostrils",
    "chin",
    "forehead",
    "lips",
    "jaw",
    "cheeks",
]
Effect = Literal[
    "narrower",
    "shorter",
    "longer",
    "straighter",
    "softer",
    "lower",
    "fuller",
    "firmer",
    "slimmer",
    "lifted",
]
ColourEffect = Literal[
    "lift",
    "full",
    "slim",
]
FoundationOn = Literal[
    "all",
    "gaps",
    "where_needed",
]
GlowPoint = Literal[
    "cheekbones",
    "brow_bones",
    "above_brows",
    "bridge",
    "bridge_dots",
    "cupids_bow",
    "chin",
    "inner_corners",
]
