"""Hands: which tool for how large a zone, what it may lay, and what it brings along."""

from __future__ import annotations

from collections.abc import Iterator

from nabrel.core.judge.book import Breach, Fix, Judged, rule
from nabrel.core.judge.ways_out import by_hand
from nabrel.core.plan.edits import Add, Remove, SetHand
from nabrel.core.plan.step import Step
from nabrel.core.terms.hands import TOOL_INFO
from nabrel.core.terms.ids import Tool
from nabrel.core.terms.steps import MIST_KINDS, STEP_INFO
from nabrel.core.terms.zones import area_of

SMALL_TOOLS: frozenset[Tool] = frozenset({"detail_brush", "dense_small_brush", "disposable_wand", "spatula"})


@rule(
    "large-zone-large-tool",
    "method",
    "advice",
    "A large zone takes a large tool.",
    "A small brush over a whole face leaves tracks and costs minutes.",
    parameters=("large_area_cm2",),
)
def large_zone_large_tool(judged: Judged) -> Iterator[Breach]:
    for hand in judged.hands:
        step, area = hand.step, area_of(hand.zones)
        if (
            step.lays
            and hand.tool in SMALL_TOOLS
            and step.kind not in ("conceal", "spot_conceal")
            and area > judged.house.large_area_cm2
        ):
            yield Breach((step.id,), (), f"A {TOOL_INFO[hand.tool].words} for {area:.0f} cm².",
                        Fix("A damp sponge instead", (by_hand(hand, "damp_sponge", "press"),)))  # fmt: skip


@rule(
    "small-spot-small-tool",
    "method",
    "advice",
    "A spot takes a small tool.",
    "A large one spreads the concealer off the mark it was meant for.",
    parameters=("small_area_cm2",),
)
def small_spot_small_tool(judged: Judged) -> Iterator[Breach]:
    for hand in judged.hands:
        if hand.step.kind == "spot_conceal" and hand.step.lays and hand.tool and TOOL_INFO[hand.tool].large:
            yield Breach((hand.step.id,), hand.zones, f"Spots with a {TOOL_INFO[hand.tool].words}.",
                        Fix("A detail brush, pressed", (by_hand(hand, "detail_brush", "press"),)))  # fmt: skip


@rule(
    "no-dry-sponge-for-cream",
    "method",
    "advice",
    "A sponge for cream or liquid is damp.",
    "A dry one absorbs half of what was taken.",
)
def no_dry_sponge_for_cream(judged: Judged) -> Iterator[Breach]:
    for hand in judged.hands:
        if hand.step.film_um and hand.tool == "dry_sponge":
            yield Breach((hand.step.id,), (), f"{STEP_INFO[hand.step.kind].words} with a dry sponge.",
                        Fix("Wet it, wring it, towel it", (by_hand(hand, "damp_sponge"),)))  # fmt: skip


@rule(
    "powder-with-a-dry-tool",
    "method",
    "advice",
    "Powder is laid with a dry tool.",
    "Powder cakes where it meets water.",
    other_view="Pressed with a barely damp sponge it covers more; some bake so on purpose.",
)
def powder_with_a_dry_tool(judged: Judged) -> Iterator[Breach]:
    for hand in judged.hands:
        if hand.step.powder_mg and hand.tool == "damp_sponge":
            yield Breach((hand.step.id,), (), f"{STEP_INFO[hand.step.kind].words} in powder with a damp sponge.",
                        Fix("A puff instead", (by_hand(hand, "puff", "press"),)))  # fmt: skip


@rule(
    "values-stay-apart",
    "method",
    "advice",
    "No dark is carried into the light.",
    "A little of the shade in a light's film greys the very zones it should lift.",
    parameters=("carried_dark_share", "wiped_share", "lift_lost_l"),
    at_worst="problem",
)
def values_stay_apart(judged: Judged) -> Iterator[Breach]:
    for index, step in judged.steps():
        if step.kind not in ("light", "conceal"):
            continue
        own = judged.product(step)
        for came in judged.course.done[index].carried:
            other = judged.products.get(came.product)
            if not (own and own.lab and other and other.lab):
                continue
            if own.lab[0] - other.lab[0] > judged.house.dark_beside_l and came.share > judged.house.carried_dark_share:
                lost = came.share * (own.lab[0] - other.lab[0])
                yield Breach((step.id,), step.zones,
                            f"{100 * came.share:.0f} % of this film is {other.name}, out of the same tool: {lost:.1f} L* of the lift is lost.",
                            Fix("Fingers instead", _with_fingers(step)),
                            "problem" if lost > judged.house.lift_lost_l else None)  # fmt: skip


@rule(
    "mists-are-misted",
    "method",
    "advice",
    "A mist is misted from arm's length, eyes shaded, and not wiped.",
    "Wiped or sprayed close it stands in drops and washes tracks into the base. Keep it out of eyes and lungs.",
)
def mists_are_misted(judged: Judged) -> Iterator[Breach]:
    for hand in judged.hands:
        if hand.step.kind in MIST_KINDS and hand.motion is not None and hand.motion not in ("mist", "press"):
            yield Breach((hand.step.id,), (), f"A mist put on with a {hand.motion}.",
                        Fix("Mist it", (by_hand(hand, motion="mist"),)))  # fmt: skip


@rule(
    "empty-tool-softens",
    "method",
    "advice",
    "Edges are softened with an emptied tool.",
    "Product in it would draw a new edge beside the old one.",
)
def empty_tool_softens(judged: Judged) -> Iterator[Breach]:
    for _, step in judged.steps():
        if step.kind in ("soften_edges", "press_back") and step.lays:
            yield Breach((step.id,), step.zones, "Softening edges lays product here.",
                        Fix("With the empty tool", (Remove(step.id), Add("soften_edges", step.zones, _next(judged, step), tool="damp_sponge", motion="press"))))  # fmt: skip


def _next(judged: Judged, step: Step) -> str | None:
    steps = judged.sequence.steps
    at = steps.index(step) + 1
    return steps[at].id if at < len(steps) else None


def _with_fingers(step: Step) -> tuple[SetHand, ...]:
    return tuple(SetHand(step.id, "fingers", "press", portion=place) for place in range(len(step.portions)))
