"""Bases and textures: what agrees with what lies beneath, and with the skin."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from nabrel.core.case.product import Product
from nabrel.core.judge.book import Breach, Fix, Judged, rule
from nabrel.core.judge.ways_out import short, without
from nabrel.core.plan.edits import SetProduct
from nabrel.core.plan.step import Step
from nabrel.core.shelf.age import past_its_months
from nabrel.core.shelf.allergens import avoided
from nabrel.core.shelf.bases import beads, why_beads
from nabrel.core.terms.ids import Base, Zone
from nabrel.core.terms.zones import both, in_order


@rule(
    "bases-agree",
    "bases",
    "problem",
    "A layer's base agrees with the unset layer beneath it.",
    "Water-based over silicone, oil or wax beads up and separates; like over like does not.",
    parameters=("thin_underlayer_um",),
)
def bases_agree(judged: Judged) -> Iterator[Breach]:
    for index, step in judged.steps():
        product = judged.product(step)
        if product is None or step.film_um is None or product.dry or product.texture == "mist":
            continue
        clashes: dict[Base, list[Zone]] = {}
        for zone in step.zones:
            lying = judged.before(index, zone)
            if lying.top_base is not None and lying.top_base != product.base and beads(lying.top_base, product.base):
                clashes.setdefault(lying.top_base, []).append(zone)
        for lower, zones in clashes.items():
            thick = max(judged.before(index, z).top_um for z in zones)
            yield Breach(
                (step.id,),
                in_order(zones),
                f"{product.name} is {product.base}-based and goes over an unset {lower} layer {short(zones)}. "
                f"{why_beads(lower, product.base)}",
                _swap_base(judged, step, product, lower),
                "advice" if thick < judged.house.thin_underlayer_um else None,
                judged.beneath(index, zones),
            )


def _swap_base(judged: Judged, step: Step, product: Product, lower: Base) -> Fix | None:
    """The nearest item of the same role whose base agrees; foundation is swapped in all its steps."""
    other = nearest_swap(judged, product, lambda item: not beads(lower, item.base))
    if other is None:
        return None
    same = [s for s in judged.sequence.steps if s.item == step.item and s.kind == step.kind]
    return Fix(f"Use {other.name} instead", tuple(SetProduct(s.id, other.id) for s in same))


def nearest_swap(judged: Judged, product: Product, allowed: Callable[[Product], bool]) -> Product | None:
    """The item of the same role nearest in colour, cover and texture for which ``allowed`` holds; None if none.

    What the sitter avoids, what is empty and what has expired never stands in.
    """
    day = judged.sequence.case.intent.day
    candidates = [
        item
        for item in judged.products.values()
        if item.role == product.role
        and item.id != product.id
        and item.dry == product.dry
        and item.tinted == product.tinted
        and not avoided(item, judged.reading.sitter.avoid)
        and item.left != 0
        and (day is None or past_its_months(item, day) is None)
    ]

    def off(item: Product) -> tuple[float, str]:
        mine, its = product.lab or (0.0, 0.0, 0.0), item.lab or (0.0, 0.0, 0.0)
        colour = sum((a - b) ** 2 for a, b in zip(mine, its, strict=True)) ** 0.5
        return (colour + judged.house.cover_cost * abs((product.cover or 0.0) - (item.cover or 0.0)), item.id)

    # The nearest first: what is allowed may take a whole plan to find out.
    return next((item for item in sorted(candidates, key=off) if allowed(item)), None)


@rule(
    "no-shimmer-on-texture",
    "texture",
    "problem",
    "Shimmer stays off texture, lines and blemishes.",
    "Every grain of shimmer catches light on an edge, so pores, lines and bumps show more.",
)
def no_shimmer_on_texture(judged: Judged) -> Iterator[Breach]:
    for _, step in judged.steps():
        product = judged.product(step)
        if product is None or not product.shimmers or not step.lays:
            continue
        zones = tuple(
            z
            for z in step.zones
            if z not in both("eyelid")
            and (
                judged.here(z).textured
                or judged.here(z).lined >= 2
                or judged.here(z).severity("active_blemish", "healing_blemish")
            )
        )
        if zones:
            read_here = judged.reading.cite(
                zones, "raised_texture", "enlarged_pores", "pitted_scar", "active_blemish", "healing_blemish",
                "fine_lines", "creping",
            )  # fmt: skip
            yield Breach(
                (step.id,), zones, f"{product.name} shimmers where there is {read_here}.", without(step, zones)
            )


@rule(
    "no-oil-on-blemishes",
    "texture",
    "advice",
    "Oil-based products stay off active blemishes and clearly oily zones.",
    "Added oil feeds the shine and lifts what lies on it.",
    rests_on="base",
)
def no_oil_on_blemishes(judged: Judged) -> Iterator[Breach]:
    for _, step in judged.steps():
        product = judged.product(step)
        if product is None or product.base != "oil" or step.kind == "cleanse":
            continue
        zones = tuple(z for z in step.zones if judged.here(z).severity("active_blemish") or judged.here(z).oily >= 2)
        if zones:
            yield Breach(
                (step.id,),
                zones,
                f"{product.name} is oil-based {short(list(zones))}.",
                _swap_base_free(judged, step, product),
            )


def _swap_base_free(judged: Judged, step: Step, product: Product) -> Fix | None:
    other = nearest_swap(judged, product, lambda item: item.base != "oil")
    return None if other is None else Fix(f"Use {other.name} instead", (SetProduct(step.id, other.id),))
