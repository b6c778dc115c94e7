"""Edits as values: undo, fixes and comparison share them. Each is applied by the core or refused with a reason."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from typing import Literal

from nabrel.core.case.product import Product
from nabrel.core.errors import Impossible, Refused
from nabrel.core.house import House
from nabrel.core.plan.sequence import Accepted, Sequence
from nabrel.core.plan.step import Step, take_for
from nabrel.core.terms.ids import Motion, StepKind, Tool, Zone
from nabrel.core.terms.places import places
from nabrel.core.terms.steps import LAYER_KINDS, MIST_KINDS, POWDER_KINDS
from nabrel.core.terms.zones import in_order

MOST_FILM_UM = 40.0
MOST_POWDER_MG = 2.0
MOST_SECONDS = 7200.0
MOST_WAIT_S = 2 * MOST_SECONDS
MOST_STEPS = 80
MOST_REASONS = 20
MOST_ACCEPTED = 200


@dataclass(frozen=True, slots=True)
class SetAmount:
    """Change a step's film in µm, or powder in mg/cm²."""

    step: str
    film_um: float | None = None
    powder_mg_cm2: float | None = None
    edit: Literal["amount"] = "amount"


@dataclass(frozen=True, slots=True)
class SetHand:
    """Change a step's tool, motion or both."""

    step: str
    tool: Tool | None = None
    motion: Motion | None = None
    edit: Literal["hand"] = "hand"


@dataclass(frozen=True, slots=True)
class SetProduct:
    """Swap a step's product. Its amount stays, in µm or mg/cm² as the new product's texture asks."""

    step: str
    product: str
    edit: Literal["product"] = "product"


@dataclass(frozen=True, slots=True)
class SetZones:
    """Change the zones of a step."""

    step: str
    zones: tuple[Zone, ...]
    edit: Literal["zones"] = "zones"


@dataclass(frozen=True, slots=True)
class SetWait:
    """Change a step's least and longest wait, in seconds."""

    step: str
    wait_s: float
    wait_at_most_s: float | None = None
    edit: Literal["wait"] = "wait"


@dataclass(frozen=True, slots=True)
class Move:
    """Move a step to stand before another, or to the end (None)."""

    step: str
    before: str | None
    edit: Literal["move"] = "move"


@dataclass(frozen=True, slots=True)
class Remove:
    """Take a step out."""

    step: str
    edit: Literal["remove"] = "remove"


@dataclass(frozen=True, slots=True)
class Add:
    """Add a step before another, or at the end (None)."""

    kind: StepKind
    zones: tuple[Zone, ...]
    before: str | None = None
    product: str | None = None
    film_um: float | None = None
    powder_mg_cm2: float | None = None
    tool: Tool | None = None
    motion: Motion | None = None
    active_s: float = 20.0
    wait_s: float = 0.0
    edit: Literal["add"] = "add"


@dataclass(frozen=True, slots=True)
class Split:
    """Make a step of its own, right after it, of some of a step's zones."""

    step: str
    zones: tuple[Zone, ...]
    edit: Literal["split"] = "split"


@dataclass(frozen=True, slots=True)
class Merge:
    """Take another step of the same kind and product into a step; its amount and hand stand."""

    step: str
    other: str
    edit: Literal["merge"] = "merge"


@dataclass(frozen=True, slots=True)
class Accept:
    """Keep a rule's finding on these zones quiet, because of the note; without a note it speaks again."""

    rule: str
    zones: tuple[Zone, ...] = ()
    note: str = ""
    edit: Literal["accept"] = "accept"


Edit = SetAmount | SetHand | SetProduct | SetZones | SetWait | Move | Remove | Add | Split | Merge | Accept


def apply(sequence: Sequence, edits: Iterable[Edit], products: Mapping[str, Product], house: House) -> Sequence:
    """Apply edits in order. Refuses unknown steps and products, and what the trade rules out, with the reason.

    Whether the order can still be worked is :func:`nabrel.core.base.possible.apply_edits`'s to say.
    """
    for number, edit in enumerate(edits):
        sequence = _apply_one(sequence, edit, products, house, f"edits[{number}]")
    return sequence


def say(sequence: Sequence, edit: Edit, products: Mapping[str, Product]) -> str:
    """The edit in words, for history: "Foundation: 6 to 4 µm"."""
    if isinstance(edit, Add):
        return f"Added {edit.kind.replace('_', ' ')} {places(edit.zones)}".strip()
    if isinstance(edit, Accept):
        rule = edit.rule.replace("-", " ")
        return f"Lives with {rule}: {edit.note.strip()}" if edit.note.strip() else f"No longer lives with {rule}"
    step = sequence.step(edit.step)
    kind = step.kind.replace("_", " ").capitalize() if step else edit.step
    if isinstance(edit, SetAmount):
        unit = "µm" if edit.film_um is not None else "mg/cm²"
        old = step.film_um if step and edit.film_um is not None else step.powder_mg_cm2 if step else None
        new = edit.film_um if edit.film_um is not None else edit.powder_mg_cm2
        return f"{kind}: {old or 0:g} to {new or 0:g} {unit}"
    if isinstance(edit, SetHand):
        return f"{kind}: {' and '.join(str(x).replace('_', ' ') for x in (edit.tool, edit.motion) if x)}"
    if isinstance(edit, SetProduct):
        item = products.get(edit.product)
        return f"{kind}: {item.name if item else edit.product}"
    if isinstance(edit, SetZones):
        return f"{kind}: {places(edit.zones)}"
    if isinstance(edit, Split):
        return f"Split {kind.lower()} {places(edit.zones)}"
    if isinstance(edit, Merge):
        return f"Merged two steps of {kind.lower()}"
    if isinstance(edit, SetWait):
        return f"{kind}: wait {edit.wait_s:g} s"
    return f"Moved {kind.lower()}" if isinstance(edit, Move) else f"Took out {kind.lower()}"


def _apply_one(sequence: Sequence, edit: Edit, products: Mapping[str, Product], house: House, field: str) -> Sequence:
    steps = list(sequence.steps)
    if isinstance(edit, Accept):
        return _accept(sequence, edit, field)
    if isinstance(edit, Add):
        return _add(sequence, edit, products, house, field)
    index = _index(steps, edit.step, f"{field}.step")
    if isinstance(edit, Remove):
        del steps[index]
        return _settled(sequence, steps, field)
    if isinstance(edit, Move):
        step = steps.pop(index)
        if edit.before == step.id:
            return sequence
        target = len(steps) if edit.before is None else _index(steps, edit.before, f"{field}.before")
        steps.insert(target, step)
        return _settled(sequence, steps, field)
    if isinstance(edit, Split):
        return _settled(sequence, _split(steps, index, edit, products, house, field), field)
    if isinstance(edit, Merge):
        return _settled(sequence, _merged(steps, index, edit, products, house, field), field)
    changed = _changed(steps[index], edit, products, field)
    changed = replace(changed, why=_by_hand(changed.why, say(sequence, edit, products)))
    steps[index] = replace(changed, take=take_for(changed, products.get(changed.product or ""), house))
    return _settled(sequence, steps, field)


def _accept(sequence: Sequence, edit: Accept, field: str) -> Sequence:
    zones = in_order(edit.zones)
    others = tuple(each for each in sequence.accepted if (each.rule, each.zones) != (edit.rule, zones))
    note = edit.note.strip()
    if note and len(others) >= MOST_ACCEPTED:
        raise Impossible(field, len(others) + 1, f"at most {MOST_ACCEPTED} findings to live with")
    return replace(sequence, accepted=(*others, Accepted(edit.rule, zones, note)) if note else others)


def _split(
    steps: list[Step], index: int, edit: Split, products: Mapping[str, Product], house: House, field: str
) -> list[Step]:
    step = steps[index]
    apart = in_order(z for z in edit.zones if z in step.zones)
    rest = tuple(z for z in step.zones if z not in apart)
    if not apart or len(apart) != len(set(edit.zones)):
        raise Refused(f"{field}.zones", list(edit.zones), f"zones of step {step.id}: {', '.join(step.zones)}")
    if not rest:
        raise Impossible(f"{field}.zones", list(edit.zones), f"some, but not all, of the zones of step {step.id}")
    if len(steps) >= MOST_STEPS:
        raise Impossible(field, len(steps), f"at most {MOST_STEPS} steps")
    said = f"Split from {step.kind.replace('_', ' ')}"
    parts = [replace(step, zones=rest), replace(step, id=_new_id(steps), zones=apart, why=_by_hand(step.why, said))]
    return [*steps[:index], *(_with_take(part, products, house) for part in parts), *steps[index + 1 :]]


def _merged(
    steps: list[Step], index: int, edit: Merge, products: Mapping[str, Product], house: House, field: str
) -> list[Step]:
    step = steps[index]
    other = steps[_index(steps, edit.other, f"{field}.other")]
    if other.id == step.id:
        raise Refused(f"{field}.other", edit.other, "another step")
    if (other.kind, other.product) != (step.kind, step.product):
        what = f"{step.kind.replace('_', ' ')}" + (f" with {step.product}" if step.product else "")
        raise Impossible(f"{field}.other", edit.other, f"a step of {what}, as step {step.id} is")
    why = tuple(dict.fromkeys([*step.why, *other.why]))[:MOST_REASONS]
    whole = replace(step, zones=in_order([*step.zones, *other.zones]), why=why)
    return [_with_take(whole, products, house) if s.id == step.id else s for s in steps if s.id != other.id]


def _with_take(step: Step, products: Mapping[str, Product], house: House) -> Step:
    return replace(step, take=take_for(step, products.get(step.product or ""), house))


def _new_id(steps: list[Step]) -> str:
    numbers = [int(s.id[1:]) for s in steps if s.id[1:].isdigit()]
    return f"s{max(numbers, default=0) + 1}"


BY_HAND = "By hand: "


def _by_hand(why: tuple[str, ...], said: str) -> tuple[str, ...]:
    """The reasons of the plan, and what was last decided by hand."""
    planned = [sentence for sentence in why if not sentence.startswith(BY_HAND)]
    return (*planned[: MOST_REASONS - 1], f"{BY_HAND}{said}.")


def _changed(step: Step, edit: Edit, products: Mapping[str, Product], field: str) -> Step:
    if isinstance(edit, SetAmount):
        return _with_amount(step, edit, field)
    if isinstance(edit, SetHand):
        if edit.tool is None and edit.motion is None:
            raise Refused(field, "neither", "a tool, a motion, or both")
        return replace(step, tool=edit.tool or step.tool, motion=edit.motion or step.motion)
    if isinstance(edit, SetWait):
        _within(f"{field}.wait_s", edit.wait_s, 0, MOST_SECONDS, "s")
        if edit.wait_at_most_s is not None:
            _within(
                f"{field}.wait_at_most_s", edit.wait_at_most_s, edit.wait_s, MOST_WAIT_S, "s, from the least wait on"
            )
        return replace(step, wait_s=edit.wait_s, wait_at_most_s=edit.wait_at_most_s)
    if isinstance(edit, SetZones):
        if not edit.zones:
            raise Refused(f"{field}.zones", [], "at least one zone")
        return replace(step, zones=in_order(edit.zones))
    if isinstance(edit, SetProduct):
        return _with_product(step, edit, products, field)
    raise Refused(field, edit, "an edit of a step")


def _with_amount(step: Step, edit: SetAmount, field: str) -> Step:
    if (edit.film_um is None) == (edit.powder_mg_cm2 is None):
        raise Refused(field, "both or neither", "one of film_um and powder_mg_cm2")
    if edit.film_um is not None:
        if step.film_um is None:
            raise Impossible(f"{field}.film_um", edit.film_um, f"powder_mg_cm2: step {step.id} lays no film")
        _within(f"{field}.film_um", edit.film_um, 0, MOST_FILM_UM, "µm")
        return replace(step, film_um=edit.film_um)
    assert edit.powder_mg_cm2 is not None
    if step.powder_mg_cm2 is None:
        raise Impossible(f"{field}.powder_mg_cm2", edit.powder_mg_cm2, f"film_um: step {step.id} lays no powder")
    _within(f"{field}.powder_mg_cm2", edit.powder_mg_cm2, 0, MOST_POWDER_MG, "mg/cm²")
    return replace(step, powder_mg_cm2=edit.powder_mg_cm2)


def _with_product(step: Step, edit: SetProduct, products: Mapping[str, Product], field: str) -> Step:
    item = products.get(edit.product)
    if item is None:
        raise Refused(f"{field}.product", edit.product, "the id of an item in this case's kit")
    _suits(step, item, f"{field}.product")
    if not step.lays or item.dry == (step.powder_mg_cm2 is not None):
        return replace(step, product=item.id)
    if item.dry:
        return replace(step, product=item.id, film_um=None, powder_mg_cm2=round((step.film_um or 0.0) / 10.0, 3))
    return replace(step, product=item.id, powder_mg_cm2=None, film_um=round((step.powder_mg_cm2 or 0.0) * 10.0, 2))


def _suits(step: Step, item: Product, field: str) -> None:
    """Refuse an item that this kind of step cannot be done with."""
    if step.kind in POWDER_KINDS and not item.dry:
        raise Impossible(field, item.id, f"a powder: step {step.id} is {step.kind}")
    if step.kind in MIST_KINDS and item.texture != "mist":
        raise Impossible(field, item.id, f"a mist: step {step.id} is {step.kind}")
    if step.lays and step.kind in LAYER_KINDS and not item.tinted:
        raise Impossible(field, item.id, "an item with a colour and a cover")


def _add(sequence: Sequence, edit: Add, products: Mapping[str, Product], house: House, field: str) -> Sequence:
    if len(sequence.steps) >= MOST_STEPS:
        raise Impossible(field, len(sequence.steps), f"at most {MOST_STEPS} steps")
    item = products.get(edit.product) if edit.product else None
    if edit.product and item is None:
        raise Refused(f"{field}.product", edit.product, "the id of an item in this case's kit")
    if (edit.film_um is not None or edit.powder_mg_cm2 is not None) and item is None:
        raise Refused(f"{field}.product", None, "a product, since the step lays something")
    if edit.film_um is not None:
        _within(f"{field}.film_um", edit.film_um, 0, MOST_FILM_UM, "µm")
        if item is not None and item.dry:
            raise Impossible(f"{field}.film_um", edit.film_um, f"powder_mg_cm2: {item.name} is a powder")
    if edit.powder_mg_cm2 is not None:
        _within(f"{field}.powder_mg_cm2", edit.powder_mg_cm2, 0, MOST_POWDER_MG, "mg/cm²")
        if item is not None and not item.dry:
            raise Impossible(f"{field}.powder_mg_cm2", edit.powder_mg_cm2, f"film_um: {item.name} is no powder")
    _within(f"{field}.active_s", edit.active_s, 0, MOST_SECONDS, "s")
    _within(f"{field}.wait_s", edit.wait_s, 0, MOST_SECONDS, "s")
    step = Step(
        id=_new_id(list(sequence.steps)),
        kind=edit.kind,
        zones=in_order(edit.zones),
        product=edit.product,
        film_um=edit.film_um,
        powder_mg_cm2=edit.powder_mg_cm2,
        tool=edit.tool,
        motion=edit.motion,
        active_s=edit.active_s,
        wait_s=edit.wait_s,
        why=("Added by hand.",),
    )
    if item is not None:
        _suits(step, item, f"{field}.product")
    step = replace(step, take=take_for(step, item, house))
    steps = list(sequence.steps)
    steps.insert(len(steps) if edit.before is None else _index(steps, edit.before, f"{field}.before"), step)
    return _settled(sequence, steps, field)


def _index(steps: list[Step], step_id: str, field: str) -> int:
    for index, step in enumerate(steps):
        if step.id == step_id:
            return index
    raise Refused(field, step_id, "the id of a step in this sequence")


def _within(field: str, value: float, low: float, high: float, unit: str) -> None:
    if not low <= value <= high:
        raise Refused(field, value, f"{low:g} to {high:g} {unit}")


def _settled(sequence: Sequence, steps: list[Step], field: str) -> Sequence:
    """The sequence with these steps; each id must stand once."""
    seen: set[str] = set()
    for step in steps:
        if step.id in seen:
            raise Refused(field, step.id, "each step id once")
        seen.add(step.id)
    return replace(sequence, steps=tuple(steps))
