"""A forgotten step: where it could still go, and what each place costs."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from nabrel.core.ask.trial import try_edits
from nabrel.core.case.product import Product
from nabrel.core.errors import Impossible, OutOfOrder, Refused
from nabrel.core.house import House
from nabrel.core.judge.evaluate import Evaluation
from nabrel.core.plan.edits import Add, Edit
from nabrel.core.shelf.allergens import avoided
from nabrel.core.terms.hands import MOTION_INFO
from nabrel.core.terms.ids import Motion, Role, Severity, StepKind, Tool, Zone
from nabrel.core.terms.steps import FEATURE_KINDS, MIST_KINDS, POWDER_KINDS, STEP_INFO, STEP_KINDS
from nabrel.core.terms.zones import in_order

ROLES_FOR: Mapping[StepKind, tuple[Role, ...]] = {
    "cleanse": ("cleanser",), "moisturise": ("moisturiser",), "eye_care": ("eye_care",), "sunscreen": ("sunscreen",),
    "prime": ("primer",), "correct": ("corrector",), "conceal": ("concealer",), "spot_conceal": ("concealer",),
    "light": ("light", "concealer"), "shade": ("shade", "bronzer"), "bronze": ("bronzer",), "glow": ("glow",),
    "foundation": ("foundation",), "colour": ("colour",), "set": ("setting_powder", "powder_foundation"),
    "bake": ("setting_powder",), "mute_shine": ("setting_powder",), "clean_edge": ("concealer",),
    "melting_mist": ("melting_mist",), "setting_mist": ("setting_mist",),
}  # fmt: skip
"""Which roles may serve a kind of step, the usual one first. Kinds that are not here lay nothing."""
_RANK: Mapping[Severity | None, int] = {None: 0, "advice": 1, "problem": 2, "stop": 3}


@dataclass(frozen=True, slots=True)
class Place:
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
) -> tuple[Place, ...]:
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
    found: list[Place] = []
    for index in _gaps(evaluation, zones, expected):
        before = steps[index].id if index < len(steps) else None
        edit = _proposal(evaluation, kind, zones, before, index, product, house)
        usual = index == expected
        try:
            tried = try_edits(evaluation, [edit], house)
        except OutOfOrder as no:
            found.append(Place(before, (), "stop", usual, (), no.why))
        else:
            found.append(Place(before, tuple(f.says for f in tried.come), tried.worst, usual, (edit,)))
    return tuple(
        sorted(found, key=lambda place: (bool(place.refused), _RANK[place.worst], len(place.costs), not place.usual))
    )


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
    film, powder = _amount_for(evaluation, kind, product, house)
    return Add(
        kind, in_order(zones), before, product.id if product else None, film, powder, tool, motion,
        active_s=house.least_active_s if kind not in FEATURE_KINDS else 90.0,
        wait_s=house.mist_dry_s if kind in MIST_KINDS else house.bake_s if kind == "bake" else 0.0,
    )  # fmt: skip


def serving(evaluation: Evaluation, kind: StepKind) -> tuple[Product, ...]:
    """The kit's items that could serve a kind of step, the one to take first; none where it needs none or has none."""
    roles = ROLES_FOR.get(kind)
    if roles is None:
        return ()
    avoid = evaluation.sequence.case.sitter.avoid
    items = [i for i in evaluation.products.values() if i.role in roles and not avoided(i, avoid)]
    if kind in POWDER_KINDS:
        items = [i for i in items if i.dry]
    steps = evaluation.sequence.steps
    used = next((s.product for s in steps if s.kind == kind and s.product), None)
    elsewhere = {s.product for s in steps}
    target = evaluation.appearance.target
    aim = {"shade": -14.0, "bronze": -8.0, "light": 5.0, "glow": 12.0, "colour": -8.0}.get(kind, 0.0)

    def off(item: Product) -> tuple[bool, int, bool, float, str]:
        lab = item.lab or target
        far = abs(lab[0] - target[0] - aim) + 0.2 * abs(lab[1] - target[1])
        return (item.id != used, roles.index(item.role), item.id not in elsewhere, far, item.id)

    return tuple(sorted(items, key=off))


def _product_for(evaluation: Evaluation, kind: StepKind, item: str | None) -> Product | None:
    """The item asked for, else the first that serves; None for kinds that use none. Refuses where the kit has none."""
    roles = ROLES_FOR.get(kind)
    if roles is None:
        return None
    items = serving(evaluation, kind)
    if item is not None:
        items = tuple(each for each in items if each.id == item)
        if not items:
            raise Refused("product", item, f"the id of an item that serves to {STEP_INFO[kind].words.lower()}")
    if not items:
        raise Impossible("kind", kind, f"a kit with a {roles[0].replace('_', ' ')}")
    return items[0]


def _amount_for(
    evaluation: Evaluation, kind: StepKind, product: Product | None, house: House
) -> tuple[float | None, float | None]:
    same = next((s for s in evaluation.sequence.steps if s.kind == kind and s.lays), None)
    if same is not None and product is not None and product.dry == (same.powder_mg_cm2 is not None):
        return same.film_um, same.powder_mg_cm2
    if product is None or not (product.tinted or kind == "prime"):
        return None, None
    if product.dry:
        powders = {"set": house.press_mg, "bake": house.bake_mg, "mute_shine": house.press_mg}
        return None, powders.get(kind, house.powder_colour_mg)
    films: dict[StepKind, float] = {
        "prime": house.primer_film_um, "foundation": house.foundation_film_um * 0.5, "light": house.light_film_um,
        "shade": house.shade_film_um, "glow": house.glow_film_um, "colour": house.colour_film_um, "clean_edge": 1.0,
        "correct": 1.5, "conceal": 2.0, "spot_conceal": 2.0, "bronze": house.colour_film_um,
    }  # fmt: skip
    return films.get(kind, house.least_film_um), None


def _hand_for(
    evaluation: Evaluation, kind: StepKind, zones: tuple[Zone, ...], index: int, product: Product | None
) -> tuple[Tool | None, Motion | None]:
    """The hand the plan uses for this kind if these zones bear it, else a press."""
    if kind in MIST_KINDS:
        return "fingers", "mist"
    if product is None and kind not in ("soften_edges", "press_back", "crease_check", "dust_off"):
        return None, None
    limit = min((evaluation.reading.zones[z].shear_limit for z in zones), default=1.0)
    if index < len(evaluation.ledger.before) and any(evaluation.ledger.before[index][z].wet_um > 0 for z in zones):
        limit = min(limit, 1.0)
    same = next((s for s in evaluation.sequence.steps if s.kind == kind and s.tool and s.motion), None)
    if same is not None and same.motion is not None and MOTION_INFO[same.motion].shear <= limit:
        return same.tool, same.motion
    if product is not None and product.dry:
        return "puff", "press"
    return ("damp_sponge", "press") if product is None else ("fingers", "press")


def told(place: Place, evaluation: Evaluation) -> str:
    """The place in words: "Before Set: nothing speaks against it"."""
    step = evaluation.sequence.step(place.before) if place.before else None
    where = f"Before {STEP_INFO[step.kind].words.lower()}" if step else "At the end"
    return f"{where}: {place.refused or ' '.join(place.costs) or 'nothing speaks against it.'}"
