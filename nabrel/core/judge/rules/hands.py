"""Hands: which tool for how large a zone, what it may lay, and what it brings along."""

from __future__ import annotations

from collections.abc import Iterator

from nabrel.core.judge.book import Fix, Found, Judged, rule
from nabrel.core.plan.edits import Add, Remove, SetHand
from nabrel.core.plan.step import Step
from nabrel.core.terms.ids import Tool
from nabrel.core.terms.steps import MIST_KINDS
from nabrel.core.terms.zones import area_of

SMALL_TOOLS: frozenset[Tool] = frozenset({"detail_brush", "dense_small_brush", "disposable_wand", "spatula"})
LARGE_TOOLS: frozenset[Tool] = frozenset({"buffing_brush", "fluffy_brush", "puff", "stippling_brush"})


@rule(
    "large-zone-large-tool",
    "method",
    "advice",
    "A large zone takes a large tool.",
    "A small brush over a whole face leaves tracks and costs minutes.",
    parameters=("large_area_cm2",),
)
def large_zone_large_tool(judged: Judged) -> Iterator[Found]:
    for _, step in judged.steps():
        area = area_of(step.zones)
        if (
            step.lays
            and step.tool in SMALL_TOOLS
            and step.kind not in ("conceal", "spot_conceal")
            and area > judged.house.large_area_cm2
        ):
            yield Found((step.id,), (), f"A {step.tool.replace('_', ' ')} for {area:.0f} cm².",
                        Fix("A damp sponge instead", (SetHand(step.id, tool="damp_sponge", motion="press"),)))  # fmt: skip


@rule(
    "small-spot-small-tool",
    "method",
    "advice",
    "A spot takes a small tool.",
    "A large one spreads the concealer off the mark it was meant for.",
    parameters=("small_area_cm2",),
)
def small_spot_small_tool(judged: Judged) -> Iterator[Found]:
    for _, step in judged.steps():
        if step.kind == "spot_conceal" and step.lays and step.tool in LARGE_TOOLS:
            yield Found((step.id,), step.zones, f"Spots with a {step.tool.replace('_', ' ')}.",
                        Fix("A detail brush, pressed", (SetHand(step.id, tool="detail_brush", motion="press"),)))  # fmt: skip


@rule(
    "no-dry-sponge-for-cream",
    "method",
    "advice",
    "A sponge for cream or liquid is damp.",
    "A dry one drinks half of what was taken.",
)
def no_dry_sponge_for_cream(judged: Judged) -> Iterator[Found]:
    for _, step in judged.steps():
        if step.film_um and step.tool == "dry_sponge":
            yield Found((step.id,), (), f"{step.kind.replace('_', ' ').capitalize()} with a dry sponge.",
                        Fix("Wet it, wring it, towel it", (SetHand(step.id, tool="damp_sponge"),)))  # fmt: skip


@rule(
    "powder-with-a-dry-tool",
    "method",
    "advice",
    "Powder is laid with a dry tool.",
    "Powder cakes where it meets water.",
    other_view="Pressed with a barely damp sponge it covers more; some bake so on purpose.",
)
def powder_with_a_dry_tool(judged: Judged) -> Iterator[Found]:
    for _, step in judged.steps():
        if step.powder_mg_cm2 and step.tool == "damp_sponge":
            yield Found((step.id,), (), f"{step.kind.replace('_', ' ').capitalize()} in powder with a damp sponge.",
                        Fix("A puff instead", (SetHand(step.id, tool="puff", motion="press"),)))  # fmt: skip


@rule(
    "values-stay-apart",
    "method",
    "advice",
    "No dark is carried into the light.",
    "A little of the shade in a light's film greys the very zones it should lift.",
    parameters=("carried_dark_share", "wiped_share"),
)
def values_stay_apart(judged: Judged) -> Iterator[Found]:
    for index, step in judged.steps():
        if step.kind not in ("light", "conceal"):
            continue
        own = judged.product(step)
        for came in judged.ledger.carried[index]:
            other = judged.products.get(came.product)
            if not (own and own.lab and other and other.lab):
                continue
            if own.lab[0] - other.lab[0] > 10 and came.share > judged.house.carried_dark_share:
                yield Found((step.id,), step.zones, f"{100 * came.share:.0f} % of this film is {other.name}, out of the same tool.",
                            Fix("Fingers instead", (SetHand(step.id, tool="fingers", motion="press"),)))  # fmt: skip


@rule(
    "mists-are-misted",
    "method",
    "advice",
    "A mist is misted from arm's length, eyes shaded, and not wiped.",
    "Wiped or sprayed close it stands in drops and washes tracks into the base. Keep it out of eyes and lungs.",
)
def mists_are_misted(judged: Judged) -> Iterator[Found]:
    for _, step in judged.steps():
        if step.kind in MIST_KINDS and step.motion is not None and step.motion not in ("mist", "press"):
            yield Found((step.id,), (), f"A mist put on with a {step.motion}.",
                        Fix("Mist it", (SetHand(step.id, motion="mist"),)))  # fmt: skip


@rule(
    "empty-tool-softens",
    "method",
    "advice",
    "Edges are softened with an emptied tool.",
    "Product in it would draw a new edge beside the old one.",
)
def empty_tool_softens(judged: Judged) -> Iterator[Found]:
    for _, step in judged.steps():
        if step.kind in ("soften_edges", "press_back") and step.lays:
            yield Found((step.id,), step.zones, "Softening edges lays product here.",
                        Fix("With the empty tool", (Remove(step.id), Add("soften_edges", step.zones, _next(judged, step), tool="damp_sponge", motion="press"))))  # fmt: skip


def _next(judged: Judged, step: Step) -> str | None:
    steps = judged.sequence.steps
    at = steps.index(step) + 1
    return steps[at].id if at < len(steps) else None
