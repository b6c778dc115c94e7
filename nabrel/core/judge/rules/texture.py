"""Texture and finish by skin: what shows lines, pores, oil and dryness more than bare skin does."""

from __future__ import annotations

from collections.abc import Iterator

from nabrel.core.case.product import Product
from nabrel.core.judge.book import Breach, Fix, Judged, rule
from nabrel.core.judge.rules.material import nearest_swap
from nabrel.core.judge.ways_out import no_more_than, without
from nabrel.core.plan.edits import Remove, SetProduct
from nabrel.core.shelf.allergens import contains
from nabrel.core.terms.ids import Finish
from nabrel.core.terms.zones import both


def _of_finish(judged: Judged, product: Product, *finishes: Finish) -> Product | None:
    """The nearest item of the same role and base with one of the finishes."""
    return nearest_swap(judged, product, lambda item: item.finish in finishes and item.base == product.base)


@rule(
    "shimmer-on-mature-lids",
    "texture",
    "advice",
    "No shimmer on a creped or lined lid.",
    "Every grain sits on the edge of a fold and shows it.",
    other_view="A fine satin sheen on a mature lid is accepted by some; coarse shimmer by nobody.",
    at_worst="problem",
)
def shimmer_on_mature_lids(judged: Judged) -> Iterator[Breach]:
    for _, step in judged.steps():
        product = judged.product(step)
        zones = tuple(z for z in step.zones if z in both("eyelid") and judged.here(z).lined >= 1)
        if product is not None and product.shimmers and step.lays and zones:
            read_here = judged.reading.cite(zones, "creping", "fine_lines")
            yield Breach((step.id,), zones, f"{product.name} shimmers where there is {read_here}.", without(step, zones),
                        "problem" if product.finish == "glitter" else None)  # fmt: skip


@rule(
    "no-dewy-on-oil",
    "texture",
    "advice",
    "No dewy foundation on clearly oily skin.",
    "The skin brings its own dew within the hour, and the two slide together.",
)
def no_dewy_on_oil(judged: Judged) -> Iterator[Breach]:
    for step, product in judged.foundations():
        zones = tuple(z for z in step.zones if judged.here(z).oily >= 2)
        if product.finish == "dewy" and zones:
            other = _of_finish(judged, product, "satin", "matte")
            yield Breach((step.id,), zones, f"{product.name} is dewy, on {judged.reading.cite(zones, 'oily', least=2)}.",
                        judged.swap(product, other))  # fmt: skip


@rule(
    "satin-on-texture",
    "texture",
    "advice",
    "Clear texture takes a satin foundation.",
    "Dew lights every bump, and a flat matte draws every pore.",
)
def satin_on_texture(judged: Judged) -> Iterator[Breach]:
    for step, product in judged.foundations():
        zones = tuple(z for z in step.zones if judged.here(z).severity("raised_texture", "pitted_scar") >= 2)
        if product.finish == "dewy" and zones:
            read_here = judged.reading.cite(zones, "raised_texture", "pitted_scar", least=2)
            other = _of_finish(judged, product, "satin")
            yield Breach(
                (step.id,), zones, f"{product.name} is {product.finish}, on {read_here}.", judged.swap(product, other)
            )


@rule(
    "no-flat-matte-on-lines",
    "texture",
    "advice",
    "Lined, dry skin takes no flat matte foundation.",
    "A film without any slip cracks along every line as the face moves.",
    other_view="Stage and camera work accepts it for a few hours.",
)
def no_flat_matte_on_lines(judged: Judged) -> Iterator[Breach]:
    for step, product in judged.foundations():
        zones = tuple(z for z in step.zones if judged.here(z).lined >= 2 and judged.here(z).dry >= 1)
        if product.finish == "matte" and zones:
            other = _of_finish(judged, product, "satin", "dewy")
            read_here = judged.reading.cite(zones, "creping", "fine_lines", least=2)
            yield Breach((step.id,), zones, f"{product.name} is matte, on {read_here}.", judged.swap(product, other))


@rule(
    "sheer-on-lines",
    "texture",
    "advice",
    "Cover on lined skin is placed, not laid everywhere.",
    "The more pigment lies in a moving line, the sooner the line is drawn.",
)
def sheer_on_lines(judged: Judged) -> Iterator[Breach]:
    for step, product in judged.foundations():
        zones = tuple(
            z for z in step.zones if judged.here(z).lined >= 2 and step.amounts[z] > judged.house.full_cover_on_lines_um
        )
        if zones and (product.cover or 0.0) >= judged.house.full_cover_on_lines:
            yield Breach((step.id,), zones,
                        f"{max(step.amounts[z] for z in zones):g} µm at {100 * (product.cover or 0):.0f} % cover on "
                        f"{judged.reading.cite(zones, 'creping', 'fine_lines', least=2)}.",
                        Fix(f"{judged.house.rung_light_um:g} µm there", no_more_than(step, judged.house.rung_light_um, zones)))  # fmt: skip


@rule(
    "powder-on-even-ground",
    "texture",
    "advice",
    "Brown and coloured powders lie on even skin.",
    "A powder catches on every flake, bump and patch beneath it, and shows them.",
    at_worst="problem",
)
def powder_on_even_ground(judged: Judged) -> Iterator[Breach]:
    for _, step in judged.steps():
        if step.kind not in ("shade", "bronze", "colour") or not step.powder_mg:
            continue
        zones = tuple(
            z
            for z in step.zones
            if judged.here(z).severity("flaking", "raised_texture", "active_blemish") >= 2
            or judged.here(z).severity("creping") >= 2
        )
        if zones:
            read_here = judged.reading.cite(zones, "flaking", "raised_texture", "active_blemish", "creping", least=2)
            flakes = any(judged.here(z).severity("flaking") >= 2 for z in zones)
            yield Breach((step.id,), zones, f"Powder {step.kind} on {read_here}.", without(step, zones),
                        "problem" if flakes else None)  # fmt: skip


@rule(
    "no-fragrance-on-sensitive-skin",
    "texture",
    "problem",
    "Nothing scented on clearly sensitive skin.",
    "Fragrance is the commonest cause of stinging and redness under a base.",
)
def no_fragrance_on_sensitive_skin(judged: Judged) -> Iterator[Breach]:
    sensitive = judged.where(lambda here: here.severity("sensitive") >= 2)
    for _, step in judged.steps():
        product = judged.product(step)
        zones = tuple(z for z in step.zones if z in sensitive)
        if product is not None and zones and contains(product, "fragrance"):
            other = nearest_swap(judged, product, lambda item: not contains(item, "fragrance"))
            yield Breach((step.id,), zones, f"{product.name} is scented, on {judged.reading.cite(zones, 'sensitive', least=2)}.",
                        Fix(f"Use {other.name}", (SetProduct(step.id, other.id),)) if other else Fix("Leave it out", (Remove(step.id),)))  # fmt: skip


@rule(
    "little-powder-on-dry-skin",
    "texture",
    "advice",
    "Dry skin gets a whisper of powder at most.",
    "Powder absorbs what little water and oil there is, and looks dusty.",
    parameters=("most_dry_powder_mg",),
)
def little_powder_on_dry_skin(judged: Judged) -> Iterator[Breach]:
    most = judged.house.most_dry_powder_mg
    dry = judged.where(lambda here: here.dry >= 2)
    for _, step in judged.steps():
        zones = tuple(z for z in step.zones if z in dry and step.amounts.get(z, 0.0) > most)
        if step.kind in ("set", "mute_shine") and step.unit == "mg_cm2" and zones:
            yield Breach((step.id,), zones,
                        f"{max(step.amounts[z] for z in zones):g} mg/cm² on {judged.reading.cite(zones, 'dry', 'dehydrated', 'flaking', least=2)}.",
                        Fix(f"{judged.house.press_mg:g} mg/cm²", no_more_than(step, judged.house.press_mg, zones)))  # fmt: skip
