"""Substitutes: what else of the kit could serve where an item is used, each tried on this face."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from nabrel.core.base.possible import apply_edits
from nabrel.core.case.product import Product
from nabrel.core.errors import Impossible, Refused
from nabrel.core.film.difference import delta_e
from nabrel.core.film.spectra import as_lab
from nabrel.core.house import House
from nabrel.core.judge.evaluate import Evaluation, evaluate
from nabrel.core.judge.figures import visible
from nabrel.core.plan.edits import Edit, SetProduct
from nabrel.core.plan.step import Step
from nabrel.core.shelf.allergens import avoided
from nabrel.core.shelf.bases import agreement, beads
from nabrel.core.solve.mix import MixAnswer, solve_mix
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.ids import Role, Zone
from nabrel.core.terms.zones import ZONE_INDEX, ZONE_INFO

ALLOWED: Mapping[Role, tuple[Role, ...]] = {
    "shade": ("shade", "bronzer", "concealer", "foundation"),
    "light": ("light", "concealer"),
    "concealer": ("concealer", "foundation"),
    "corrector": ("corrector", "concealer"),
    "foundation": ("foundation",),
    "colour": ("colour",),
    "glow": ("glow",),
}
"""Roles whose items may stand in for a role, if optics and texture allow; others only for themselves."""
OTHER_ROLES_OFFERED = 4
"""How many items sold for something else are told, the nearest in look."""


@dataclass(frozen=True, slots=True)
class Substitute:
    """An item tried in every step that uses the product now.

    zone is the one looked at: beneath is its colour before the step, lab and de once the step is on, finished once the
    whole base is. look_de is the mean CIEDE2000 between the finished zones now and then; cover_change in contrast
    ratio, cost_change in the kit's currency; agreement says how its base lies on what is beneath, and beads that it
    would separate there. ``considered`` says that a practitioner would: sold for this, near in depth, and its base agrees.
    """

    product: Product
    zone: Zone
    beneath: Lab
    lab: Lab
    de: float
    finished: Lab
    look_de: float
    shade_shows: float | None
    worst_cake: float
    cover_change: float
    cost_change: float | None
    beads: bool
    agreement: str
    current: bool
    considered: bool
    edits: tuple[Edit, ...]


def substitutes(evaluation: Evaluation, step_id: str, house: House, zone: Zone | None = None) -> tuple[Substitute, ...]:
    """What could take a step's product's place: the one in use first, then the nearest in look.

    Every item of the same role, and the nearest few of other roles that may serve, each looked at on ``zone``, or on
    the largest of the step. Refuses steps without a product, and zones that the step leaves out.
    """
    sequence = evaluation.sequence
    step = sequence.step(step_id)
    if step is None or step.item is None:
        raise Refused("step", step_id, "a step of this sequence that uses a product")
    if zone is not None and zone not in step.zones:
        raise Refused("zone", zone, f"a zone of step {step_id}: {', '.join(step.zones)}")
    own = evaluation.products[step.item]
    looked_at = _largest(step.zones) if zone is None else zone
    allowed = ALLOWED.get(own.role, (own.role,))
    found: list[Substitute] = []
    for item in evaluation.products.values():
        same_kind = item.dry == own.dry and item.tinted == own.tinted
        if item.role not in allowed or not same_kind or avoided(item, sequence.case.sitter.avoid):
            continue
        if item.role != own.role and (item.shimmers or _far(item, own, house)):
            continue
        found.append(_tried(evaluation, step, item, looked_at, house))
    ranked = sorted(found, key=lambda each: (not each.current, each.look_de, each.product.id))
    others = [each for each in ranked if each.product.role != own.role][:OTHER_ROLES_OFFERED]
    return tuple(each for each in ranked if each.product.role == own.role or each in others)


def _largest(zones: tuple[Zone, ...]) -> Zone:
    return max(zones, key=lambda each: ZONE_INFO[each].area_cm2)


def mix_for(evaluation: Evaluation, product_id: str, house: House) -> MixAnswer | None:
    """The mix of the other foundations nearest to a foundation that is missing, dear or discontinued.

    None where the kit has no other to mix. Refuses an item that is no foundation of the kit.
    """
    missing = evaluation.products.get(product_id)
    if missing is None or missing.lab is None or missing.role != "foundation":
        raise Impossible("product", product_id, "a foundation of this case's kit")
    rest = [item for item in evaluation.products.values() if item.role == "foundation" and item.id != product_id]
    if not any(item.tinted and not item.dry for item in rest):
        return None
    return solve_mix(missing.lab, rest, house, finish=None)


def _far(item: Product, own: Product, house: House) -> bool:
    return item.lab is None or own.lab is None or abs(item.lab[0] - own.lab[0]) > house.substitute_far_l


def _tried(evaluation: Evaluation, step: Step, item: Product, zone: Zone, house: House) -> Substitute:
    sequence = evaluation.sequence
    steps = [s for s in sequence.steps if s.kind == step.kind and s.item == step.item]
    current = item.id == step.item
    edits: tuple[Edit, ...] = () if current else tuple(SetProduct(s.id, item.id) for s in steps)
    tried = evaluation
    if not current:
        swapped = apply_edits(sequence, edits, evaluation.products)
        tried = evaluate(swapped, house, evaluation.appearance.light, evaluation, try_fixes=False)
    place = ZONE_INDEX[zone]
    index = sequence.steps.index(step)
    course = tried.appearance.lab[:, place]
    columns = [ZONE_INDEX[zone] for s in steps for zone in s.zones]
    look = delta_e(tried.appearance.lab[-1, columns], evaluation.appearance.lab[-1, columns])
    lying = (evaluation.course.states[index][each].top_base for each in step.zones)
    beneath = tuple(dict.fromkeys(base for base in lying if base is not None))
    has_shade = any(row.kind == "shade" for row in tried.appearance.read_through)
    own = evaluation.products[step.item or ""]
    apart = any(beads(base, item.base) for base in beneath)
    was, now = evaluation.totals.cost, tried.totals.cost
    return Substitute(
        product=item,
        zone=zone,
        beneath=as_lab(course[index]),
        lab=as_lab(course[index + 1]),
        de=float(tried.appearance.de[index + 1, place]),
        finished=as_lab(course[-1]),
        look_de=float(np.mean(look)),
        shade_shows=visible(tried, "shade") if has_shade else None,
        worst_cake=tried.totals.worst_cake,
        cover_change=(item.cover or 0.0) - (own.cover or 0.0),
        cost_change=None if was is None or now is None else now - was,
        beads=apart,
        agreement=agreement(item.base, beneath),
        current=current,
        considered=_considered(item, own, lies_well=not apart, house=house),
        edits=edits,
    )


def _considered(item: Product, own: Product, *, lies_well: bool, house: House) -> bool:
    """Whether a practitioner would reach for it: the same role, within a few shades, and a base that agrees."""
    near = (
        item.lab is None or own.lab is None or abs(item.lab[0] - own.lab[0]) <= house.near_shades * house.shade_step_l
    )
    return item.role == own.role and near and lies_well
