"""Ways out that several rules offer, as edits that can be applied in one action."""

from __future__ import annotations

from collections.abc import Iterable

from nabrel.core.judge.book import Fix, Hand
from nabrel.core.plan.edits import Edit, Remove, SetAmount, SetHand, SetThen, SetZones
from nabrel.core.plan.step import Step
from nabrel.core.terms.ids import Motion, Tool, Zone
from nabrel.core.terms.places import places

FEW = 6
"""Up to so many zones are named; of more, only how many they are."""


def short(zones: Iterable[Zone]) -> str:
    """Where, in words short enough for a finding."""
    listed = tuple(zones)
    return places(listed) if len(listed) <= FEW else f"on {len(listed)} zones"


def without(step: Step, zones: tuple[Zone, ...]) -> Fix:
    """Take zones out of a step, or the step out where nothing would be left."""
    rest = tuple(zone for zone in step.zones if zone not in zones)
    edit: Edit = SetZones(step.id, rest) if rest else Remove(step.id)
    if not rest:
        return Fix("Leave it out", (edit,))
    return Fix(f"Leave it off {places(zones)}" if len(zones) <= FEW else "Leave it off there", (edit,))


def no_more_than(step: Step, amount: float, zones: Iterable[Zone] | None = None) -> tuple[SetAmount, ...]:
    """Every portion that lays more than this (on some of the zones, where they are named) lays this much."""
    wanted = None if zones is None else set(zones)
    return tuple(
        SetAmount(step.id, amount, place)
        for place, portion in enumerate(step.portions)
        if (portion.amount or 0.0) > amount and (wanted is None or wanted & set(portion.zones))
    )


def by_hand(hand: Hand, tool: Tool | None = None, motion: Motion | None = None) -> Edit:
    """Another tool or motion for one hand of a step."""
    if hand.portion is None:
        return SetThen(hand.step.id, tool or hand.tool, motion or hand.motion, hand.active_s)
    return SetHand(hand.step.id, tool, motion, portion=hand.portion)
