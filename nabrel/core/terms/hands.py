"""Tools and motions of the hand."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from nabrel.core.terms.ids import Motion, PassesOn, Tool
from nabrel.core.terms.table import Term, table


@dataclass(frozen=True, slots=True)
class ToolInfo(Term):
    """One tool. ``passes`` names the house parameter that says how much of what it takes up it leaves on the skin;
    a ``large`` one spreads what should stay in a small place.
    """

    id: Tool
    passes: PassesOn = "pass_brush"
    large: bool = False
    sponge: bool = False


@dataclass(frozen=True, slots=True)
class MotionInfo:
    """One motion. ``shear`` is how much it shears what lies on the skin, from 0 (none) to 3 (drag)."""

    id: Motion
    words: str
    shear: float


TOOL_INFO: Mapping[Tool, ToolInfo] = table(
    (
        ToolInfo("fingers", "fingers", "pass_fingers"),
        ToolInfo("damp_sponge", "damp sponge", "pass_damp_sponge", sponge=True),
        ToolInfo("dry_sponge", "dry sponge", "pass_dry_sponge", sponge=True),
        ToolInfo("puff", "puff", "pass_puff", large=True),
        ToolInfo("dense_small_brush", "dense small brush"),
        ToolInfo("detail_brush", "detail brush"),
        ToolInfo("stippling_brush", "stippling brush", large=True),
        ToolInfo("feathery_brush", "feathery brush"),
        ToolInfo("buffing_brush", "buffing brush", large=True),
        ToolInfo("angled_brush", "angled brush"),
        ToolInfo("fluffy_brush", "fluffy brush", "pass_fluffy", large=True),
        ToolInfo("fan_brush", "fan brush", "pass_fluffy"),
        ToolInfo("spatula", "spatula", "pass_fingers"),
        ToolInfo("disposable_wand", "disposable wand"),
    )
)
MOTION_INFO: Mapping[Motion, MotionInfo] = table(
    (
        MotionInfo("mist", "mist", 0.0),
        MotionInfo("press", "press", 0.0),
        MotionInfo("warm_melt", "warm and melt in", 0.5),
        MotionInfo("stipple", "stipple", 0.5),
        MotionInfo("bounce", "bounce", 0.5),
        MotionInfo("feather", "feather", 1.0),
        MotionInfo("whisk", "whisk", 1.0),
        MotionInfo("buff", "buff", 2.0),
        MotionInfo("sweep", "sweep", 2.0),
        MotionInfo("drag", "drag", 3.0),
    )
)
STAND_INS: Mapping[Tool, tuple[Tool, ...]] = {
    "fingers": (),
    "damp_sponge": ("fingers", "stippling_brush", "dense_small_brush"),
    "dry_sponge": ("damp_sponge", "puff", "fingers"),
    "puff": ("dry_sponge", "fluffy_brush", "buffing_brush"),
    "dense_small_brush": ("detail_brush", "angled_brush", "fingers"),
    "detail_brush": ("dense_small_brush", "angled_brush", "fingers"),
    "stippling_brush": ("damp_sponge", "buffing_brush", "fingers"),
    "feathery_brush": ("fluffy_brush", "angled_brush", "fingers"),
    "buffing_brush": ("stippling_brush", "damp_sponge", "fingers"),
    "angled_brush": ("feathery_brush", "dense_small_brush", "fluffy_brush", "fingers"),
    "fluffy_brush": ("puff", "feathery_brush", "buffing_brush"),
    "fan_brush": ("feathery_brush", "fluffy_brush", "fingers"),
    "spatula": ("fingers",),
    "disposable_wand": ("detail_brush",),
}
"""What does a tool's work where it is missing, the nearest first: who has no sponge presses with the fingers."""
TOOLS: tuple[Tool, ...] = tuple(TOOL_INFO)
MOTIONS: tuple[Motion, ...] = tuple(MOTION_INFO)
MOST_SHEAR: float = max(motion.shear for motion in MOTION_INFO.values())
"""What skin and films bear where nothing holds the hand back: any motion."""


def shear(motion: Motion) -> float:
    """The shear of a motion, 0 to 3."""
    return MOTION_INFO[motion].shear


def hand_words(tool: Tool | None, motion: Motion | None) -> str:
    """What the hand does with what: "press with the damp sponge"."""
    verb = MOTION_INFO[motion].words if motion else ""
    held = f"with the {TOOL_INFO[tool].words}" if tool and tool != "fingers" else "with the fingers" if tool else ""
    return " ".join(each for each in (verb, held) if each)
