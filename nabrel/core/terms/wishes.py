"""What may be asked of a face by region, of its colour, its glow and its foundation: one table each."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from nabrel.core.terms.asked import ColourEffect, Effect, EffectRegion, FoundationOn, GlowPoint
from nabrel.core.terms.ids import StepKind, Zone
from nabrel.core.terms.table import Wish, table
from nabrel.core.terms.zones import both

DONE_BEFORE: tuple[StepKind, ...] = (
    "cleanse", "moisturise", "eye_care", "sunscreen", "prime", "brows", "eyes", "lashes", "lips",
)  # fmt: skip
"""Kinds of step that are often done already when the base begins."""
EFFECTS: Mapping[EffectRegion, tuple[Effect, ...]] = {
    "nose": ("narrower", "shorter", "longer", "straighter"),
    "nostrils": ("narrower",),
    "chin": ("longer", "shorter", "softer"),
    "forehead": ("lower", "narrower"),
    "lips": ("fuller",),
    "jaw": ("firmer", "slimmer"),
    "cheeks": ("lifted", "fuller", "slimmer"),
}
"""What may be asked of each region."""


@dataclass(frozen=True, slots=True)
class GlowPointInfo(Wish):
    """One place for glow: its zones, and the share of them that it covers."""

    id: GlowPoint
    zones: tuple[Zone, ...]
    patch: float


COLOUR_EFFECT_INFO: Mapping[ColourEffect, Wish] = table(
    (
        Wish("lift", "Lifted", "From below the outer corner of the eye, up and back."),
        Wish("full", "Full", "On the apple of the cheek, which keeps it round."),
        Wish("slim", "Slim", "On and just above the shade rather than on the apple, so that the face looks slimmer."),
    )
)
FOUNDATION_ON_INFO: Mapping[FoundationOn, Wish] = table(
    (
        Wish("all", "Thin everywhere", "One even film over the whole face."),
        Wish("gaps", "Mostly in the gaps", "Most where nothing was painted beneath, least over it."),
        Wish(
            "where_needed",
            "Only where needed",
            "Zones that are even already stay bare; the rest of it goes over the others.",
        ),
    )
)
GLOW_POINT_INFO: Mapping[GlowPoint, GlowPointInfo] = table(
    (
        GlowPointInfo("cheekbones", "Cheekbones", "On top of the cheekbone, where real light would catch.", both("cheekbone"), 1.0),
        GlowPointInfo("brow_bones", "Brow bones", "Below the tail of the brow, where real light would catch.", both("brow_bone"), 1.0),
        GlowPointInfo("above_brows", "Above the brows", "A touch above each brow, on the curve of the forehead.", ("forehead_centre",), 0.12),
        GlowPointInfo("bridge", "Nose bridge", "In one narrow line along the bridge.", ("nose_bridge",), 0.4),
        GlowPointInfo("bridge_dots", "Two dots on the nose", "A dot at the root of the nose and one at its tip, not a line.", ("nose_bridge", "nose_tip"), 0.15),
        GlowPointInfo("cupids_bow", "Cupid's bow", "On the bow above the lip.", ("upper_lip",), 0.15),
        GlowPointInfo("chin", "Chin", "A touch on the chin, to echo what lies above.", ("chin",), 0.15),
        GlowPointInfo("inner_corners", "Inner corners", "At the inner corners, to open the eye.", both("inner_corner"), 0.5),
    )
)  # fmt: skip
