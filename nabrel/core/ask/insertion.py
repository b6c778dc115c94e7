"""A forgotten step: where it could still go, and what each place costs."""

from __future__ import annotations

from dataclasses import dataclass

from nabrel.core.ask.trial import try_edits
from nabrel.core.case.product import Product
from nabrel.core.errors import Impossible, OutOfOrder, Refused
from nabrel.core.house import House
from nabrel.core.house.tables import USUAL_DEPTH
from nabrel.core.judge.evaluate import Evaluation
from nabrel.core.plan.edits import Add, Edit
from nabrel.core.shelf.allergens import avoided
from nabrel.core.shelf.ladder import nearest_rung
from nabrel.core.terms.hands import MOTION_INFO
from nabrel.core.terms.ids import Motion, Severity, StepKind, Tool, Zone
from nabrel.core.terms.looks import SEVERITY_INFO
from nabrel.core.terms.steps import FEATURE_KINDS, MIST_KINDS, POWDER_KINDS, STEP_INFO, STEP_KINDS
from nabrel.core.terms.zones import in_order

REDNESS_SHARE = 0.2
"""How much a difference in a* counts beside one in L* where depth is looked for."""


@dataclass(frozen=True, slots=True)
class InsertionPoint:
    """One place for a late step: before which step (None: at the end), what it costs in words, and the edit.

    worst is the gravest new finding there, None where there is none; usual says that the order of work expects it here;
    refused why the step cannot be done there at all, "" where it can.
    """

    before: str | None
    costs: tuple[str, ...]
    worst: Severity | None
    usual: bool
    edits: tuple[Edit, ...]
    refused: str = ""


def late_places(
    evaluation: Evaluation, kind: StepKind, zones: tuple[Zone, ...], house: House, item: str | None = None
) -> tuple[InsertionPoint, ...]:
    """Where a step of this kind on these zones could still go, the cheapest first, impossible places last.

    ``item`` is the product to use, else the one that the plan or the kit suggests. Only places that differ for these
    zones are tried: the beginning, and after each step that touched one of them.
    Refuses zones that are broken or none, and kinds for which the kit has nothing.
    """
    if not zones and kind not in ("light_check",):
        raise Refused("zones", [], "at least one zone")
    steps = evaluation.sequence.steps
    product = _product_for(evaluation, kind, item)
    expected = _usual_index(evaluation, kind)
    found: list[InsertionPoint] = []
    for index in _gaps(evaluation, zones, expected):
        before = steps[index].id if index < len(steps) else None
        edit = _proposal(evaluation, kind, zones, before, index, product, house)
        usual = index == expected
        try:
            tried = try_edits(evaluation, [edit], house)
        except OutOfOrder as no:
            found.append(InsertionPoint(before, (), "stop", usual, (), no.why))
        else:
            found.append(InsertionPoint(before, tuple(f.says for f in tried.come), tried.worst, usual, (edit,)))
    return tuple(
        sorted(found, key=lambda place: (bool(place.refused), _rank(place.worst), len(place.costs), not place.usual))
    )


def _rank(worst: Severity | None) -> int:
    return 0 if worst is None else SEVERITY_INFO[worst].rank


def _gaps(evaluation: Evaluation, zones: tuple[Zone, ...], expected: int) -> list[int]:
    """Indices before which the step may be tried."""
    wanted = set(zones)
    touched = [i + 1 for i, step in enumerate(evaluation.sequence.steps) if wanted & set(step.zones)]
    return sorted({0, expected, *touched})


def _usual_index(evaluation: Evaluation, kind: StepKind) -> int:
    """After the last step whose kind comes no later in the usual order of work."""
    steps = evaluation.sequence.steps
    own = STEP_KINDS.index(kind)
    return max((i + 1 for i, step in enumerate(steps) if STEP_KINDS.index(step.kind) <= own), default=0)


def _proposal(
    evaluation: Evaluation,
    kind: StepKind,
    zones: tuple[Zone, ...],
    before: str | None,
    index: int,
    product: Product | None,
    house: House,
) -> Add:
    """The step itself: as the plan does it elsewhere, else in the usual amount and with a hand the zones bear."""
    tool, motion = _hand_for(evaluation, kind, zones, index, product)
    amount = _amount_for(evaluation, kind, product, house)
    return Add(
        kind, in_order(zones), before, product.id if product else None, amount, tool, motion,
        active_s=house.feature_s(kind) if kind in FEATURE_KINDS else house.least_active_s,
        wait_s=house.mist_dry_s if kind in MIST_KINDS else house.bake_s if kind == "bake" else 0.0,
        patch=house.patch_share if kind == "spot_conceal" else 1.0,
    )  # fmt: skip


def serving(evaluation: Evaluation, kind: StepKind) -> tuple[Product, ...]:
    """The kit's items that could serve a kind of step, the one to take first; none where it needs none or has none."""
    roles = STEP_INFO[kind].roles
    if not roles:
        return ()
    avoid = evaluation.sequence.case.sitter.avoid
    items = [i for i in evaluation.products.values() if i.role in roles and not avoided(i, avoid)]
    if kind in POWDER_KINDS:
        items = [i for i in items if i.dry]
    steps = evaluation.sequence.steps
    used = next((s.item for s in steps if s.kind == kind and s.item), None)
    elsewhere = {s.item for s in steps}
    target = evaluation.appearance.target
    aim = USUAL_DEPTH.get(kind, 0.0)

    def off(item: Product) -> tuple[bool, int, bool, float, str]:
        lab = item.lab or target
        far = abs(lab[0] - target[0] - aim) + REDNESS_SHARE * abs(lab[1] - target[1])
        return (item.id != used, roles.index(item.role), item.id not in elsewhere, far, item.id)

    return tuple(sorted(items, key=off))


def _product_for(evaluation: Evaluation, kind: StepKind, item: str | None) -> Product | None:
    """The item asked for, else the first that serves; None for kinds that use none. Refuses where the kit has none."""
    roles = STEP_INFO[kind].roles
    if not roles:
        return None
    items = serving(evaluation, kind)
    if item is not None:
        items = tuple(each for each in items if each.id == item)
        if not items:
            raise Refused("product", item, f"the id of an item that serves to {STEP_INFO[kind].words.lower()}")
    if not items:
        raise Impossible("kind", kind, f"a kit with a {roles[0].replace('_', ' ')}")
    return items[0]


def _amount_for(evaluation: Evaluation, kind: StepKind, product: Product | None, house: House) -> float | None:
    """The most that the plan lays in this kind of step elsewhere, else the house's usual amount; None where it lays none."""
    same = next((s for s in evaluation.sequence.steps if s.kind == kind and s.lays), None)
    if same is not None and product is not None and product.dry == (same.unit == "mg_cm2"):
        return same.powder_mg if product.dry else same.film_um
    info = STEP_INFO[kind]
    if product is None or not (product.tinted or info.nature == "prime"):
        return None
    usual = info.usual_powder if product.dry else info.usual_film
    amount: float = getattr(house, usual or "least_film_um")
    return nearest_rung(amount, "mg_cm2" if product.dry else "um", house).amount


def _hand_for(
    evaluation: Evaluation, kind: StepKind, zones: tuple[Zone, ...], index: int, product: Product | None
) -> tuple[Tool | None, Motion | None]:
    """The hand the plan uses for this kind if these zones bear it, else a press."""
    if kind in MIST_KINDS:
        return None, "mist"
    if product is None and kind not in ("soften_edges", "press_back", "crease_check", "dust_off"):
        return None, None
    limit = min((evaluation.reading.zones[z].shear_limit for z in zones), default=1.0)
    if any(evaluation.course.states[index][z].wet_um > 0 for z in zones):
        limit = min(limit, 1.0)
    hands = (hand for s in evaluation.sequence.steps if s.kind == kind for hand in s.hands)
    for tool, motion, _ in hands:
        if tool is not None and motion is not None and MOTION_INFO[motion].shear <= limit:
            return tool, motion
    if product is not None and product.dry:
        return "puff", "press"
    return ("damp_sponge", "press") if product is None else ("fingers", "press")


def told(place: InsertionPoint, evaluation: Evaluation) -> str:
    """The place in words: "Before Set: nothing speaks against it"."""
    step = evaluation.sequence.step(place.before) if place.before else None
    where = f"Before {STEP_INFO[step.kind].words.lower()}" if step else "At the end"
    return f"{where}: {place.refused or ' '.join(place.costs) or 'nothing speaks against it.'}"
