"""Brows, eyes, lashes and lips: asked for beside the base, and placed where they help it."""

from __future__ import annotations

from typing import Literal

from nabrel.core.planner.draft import Draft
from nabrel.core.planner.skin_stages import lid_base
from nabrel.core.terms.ids import BrowsOption, Feature, Zone
from nabrel.core.terms.zones import ZONES, both

Moment = Literal["before_base", "before_colour", "in_wait", "after_setting", "last"]

_FEATURE: dict[Feature, tuple[tuple[Zone, ...], str]] = {
    "brows": (both("brow"), "Brows frame what the base has done"),
    "eyes": (both("eyelid"), "Lift the lid, never pull"),
    "lashes": (both("lash"), "After everything that could fall on them"),
    "lips": (("lips",), "In one family of hue with the colour on the cheeks"),
}
_WHEN: dict[Moment, str] = {
    "before_base": "before the base, while the skin is bare and fallout wipes off",
    "before_colour": "before the colour, which a resting hand would smudge",
    "in_wait": "while the bake sits",
    "after_setting": "after setting, over a film that no hand smudges",
}


def features_at(draft: Draft, moment: Moment, *, waits: bool = False) -> None:
    """The features whose moment this is. ``waits`` says that there will be a wait to fill."""
    done = {step.kind for step in draft.steps}
    for feature in draft.case.intent.features:
        if feature not in done and (moment == "last" or _moment(draft, feature, waits) == moment):
            if feature == "eyes":
                lid_base(draft)
            _add(draft, feature, moment)


def _moment(draft: Draft, feature: Feature, waits: bool) -> Moment:
    if feature in ("lashes", "lips"):
        return "last"
    asked: BrowsOption = draft.options.brows if feature == "brows" else draft.options.eyes
    if asked == "in_wait" and not waits:
        draft.note(
            f"The {feature} were asked for in a wait; nothing bakes here, so they come where they disturb least."
        )
        asked = "helps"
    if asked != "helps":
        return asked
    if feature == "brows":
        return "before_colour"
    return "in_wait" if waits else "after_setting"


_UNSET = "after the base; nothing is powdered, so press off with a sponge what falls on it"


def _why(feature: Feature, why: str, moment: Moment, *, powdered: bool) -> str:
    """Why now; for brows that alone, elsewhere after how it is done."""
    if moment not in _WHEN:
        return f"{why}."
    when = _UNSET if moment == "after_setting" and not powdered else _WHEN[moment]
    return f"{when}." if feature == "brows" else f"{why}: {when}."


def _add(draft: Draft, feature: Feature, moment: Moment) -> None:
    zones, why = _FEATURE[feature]
    if feature == "lips" and not any(step.kind == "colour" for step in draft.steps):
        why = "Last, so that no hand smudges them"
    draft.add(
        feature,
        zones,
        [_why(feature, why, moment, powdered=any(draft.powdered(zone) for zone in ZONES))],
        active_s=draft.house.feature_s(feature),
        hand=("disposable_wand", "feather") if feature == "lashes" else None,
        rules=["single-use-wand"] if feature == "lashes" else ["brows-before-blush"] if feature == "brows" else [],
        check="No fallout on the cheek." if feature == "eyes" else "Both sides alike.",
    )
