"""Edits as values: undo, fixes and comparison share them. Each is applied by the core or refused with a reason."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from typing import Annotated, Any, Literal

from annotated_types import Ge, Lt, MaxLen

from nabrel.core.case.product import Product
from nabrel.core.errors import Impossible, Refused
from nabrel.core.plan.sequence import Accepted, Sequence, Timing
from nabrel.core.plan.step import MixPart, Portion, Step, Then, Unit
from nabrel.core.terms.ids import Motion, StepKind, Tool, Zone
from nabrel.core.terms.limits import (
    MOST_ACCEPTED,
    MOST_FILM_UM,
    MOST_MIXED,
    MOST_PORTIONS,
    MOST_POWDER_MG,
    MOST_REASONS,
    MOST_SECONDS,
    MOST_STEPS,
    MOST_WAIT_S,
    Ident,
    Seconds,
    some_lines,
)
from nabrel.core.terms.places import places
from nabrel.core.terms.steps import LAYER_KINDS, MIST_KINDS, POWDER_KINDS, STEP_INFO
from nabrel.core.terms.words import sentence
from nabrel.core.terms.zones import in_order

UM_FOR_A_MG = 10.0
"""Where cream becomes powder, so many micrometres become a mg/cm²: the usual amount of either."""

Place = Annotated[int, Ge(0), Lt(MOST_PORTIONS)]
"""A portion by its place in the step, from 0."""


@dataclass(frozen=True, slots=True)
class SetAmount:
    """Change the amount of one portion, in the unit of its step."""

    step: Ident
    amount: float
    portion: Place = 0
    edit: Literal["amount"] = "amount"


@dataclass(frozen=True, slots=True)
class SetHand:
    """Change the tool, the motion or the dampening of one portion; what is left out stays."""

    step: Ident
    tool: Tool | None = None
    motion: Motion | None = None
    dampened: bool | None = None
    portion: Place = 0
    edit: Literal["hand"] = "hand"


@dataclass(frozen=True, slots=True)
class SetProduct:
    """Take another product, alone. Amounts stay, turned into µm or mg/cm² as the new product's texture asks."""

    step: Ident
    product: Ident
    edit: Literal["product"] = "product"


@dataclass(frozen=True, slots=True)
class SetMix:
    """Take a mix of items, all wet or all dry; shares add to 1."""

    step: Ident
    mix: Annotated[tuple[MixPart, ...], MaxLen(MOST_MIXED)]
    edit: Literal["mix"] = "mix"


@dataclass(frozen=True, slots=True)
class SetZones:
    """Change the zones of one portion, or of the whole step: portions then keep their own, new zones go to the first."""

    step: Ident
    zones: tuple[Zone, ...]
    portion: Place | None = None
    edit: Literal["zones"] = "zones"


@dataclass(frozen=True, slots=True)
class SetThen:
    """Work the step in with a second tool, or (no tool and no motion) no longer."""

    step: Ident
    tool: Tool | None = None
    motion: Motion | None = None
    active_s: Seconds = 15.0
    edit: Literal["then"] = "then"


@dataclass(frozen=True, slots=True)
class SetWait:
    """Change a step's least and longest wait, in seconds."""

    step: Ident
    wait_s: float
    wait_at_most_s: float | None = None
    edit: Literal["wait"] = "wait"


@dataclass(frozen=True, slots=True)
class Move:
    """Move a step to stand before another, or to the end (None)."""

    step: Ident
    before: Ident | None = None
    edit: Literal["move"] = "move"


@dataclass(frozen=True, slots=True)
class Remove:
    """Take a step out."""

    step: Ident
    edit: Literal["remove"] = "remove"


@dataclass(frozen=True, slots=True)
class Add:
    """Add a step of one portion before another, or at the end (None). Its amount is in the unit of its product."""

    kind: StepKind
    zones: tuple[Zone, ...] = ()
    before: Ident | None = None
    product: Ident | None = None
    amount: float | None = None
    tool: Tool | None = None
    motion: Motion | None = None
    active_s: Seconds = 20.0
    wait_s: Seconds = 0.0
    patch: float = 1.0
    edit: Literal["add"] = "add"


@dataclass(frozen=True, slots=True)
class Split:
    """Make a step of its own, right after it, of some of a step's zones."""

    step: Ident
    zones: tuple[Zone, ...]
    edit: Literal["split"] = "split"


@dataclass(frozen=True, slots=True)
class SplitPortion:
    """Make a portion of its own of some of a portion's zones, right after it."""

    step: Ident
    zones: tuple[Zone, ...]
    portion: Place = 0
    edit: Literal["split_portion"] = "split_portion"


@dataclass(frozen=True, slots=True)
class Merge:
    """Combine another step of the same kind and mix into a step: its portions are laid after the step's own."""

    step: Ident
    other: Ident
    edit: Literal["merge"] = "merge"


@dataclass(frozen=True, slots=True)
class MergePortions:
    """Combine another portion into a portion, whose amount and hand stand."""

    step: Ident
    other: Place
    portion: Place = 0
    edit: Literal["merge_portions"] = "merge_portions"


@dataclass(frozen=True, slots=True)
class Accept:
    """Keep a rule's finding on these zones quiet, because of the note; without a note it speaks again."""

    rule: Ident
    zones: tuple[Zone, ...] = ()
    note: Annotated[str, some_lines(300)] = ""
    edit: Literal["accept"] = "accept"


OfPortion = SetAmount | SetHand | SplitPortion | MergePortions
OfStep = SetProduct | SetMix | SetZones | SetThen | SetWait | Move | Remove | Split | Merge


@dataclass(frozen=True, slots=True)
class SetTiming:
    """Decide when the plan is worked: start, ready, what was done already, pins and sides; None fixes nothing."""

    timing: Timing | None = None
    edit: Literal["timing"] = "timing"


Edit = OfPortion | OfStep | Add | Accept | SetTiming
BY_HAND = "By hand: "


def apply(sequence: Sequence, edits: Iterable[Edit], products: Mapping[str, Product]) -> Sequence:
    """Apply edits in order. Refuses unknown steps and products, and what the trade rules out, with the reason.

    Whether the order can still be worked is :func:`nabrel.core.base.possible.apply_edits`'s to say.
    """
    for number, edit in enumerate(edits):
        sequence = _apply_one(sequence, edit, products, f"edits[{number}]")
    return sequence


def say(sequence: Sequence, edit: Edit, products: Mapping[str, Product]) -> str:
    """The edit in words, for history: "Foundation: 6 to 4 µm"."""
    if isinstance(edit, Add):
        return f"Added {edit.kind.replace('_', ' ')} {places(edit.zones)}".strip()
    if isinstance(edit, Accept):
        rule = edit.rule.replace("-", " ")
        return f"Accepted: {rule}. {edit.note.strip()}" if edit.note.strip() else f"No longer accepted: {rule}"
    if isinstance(edit, SetTiming):
        return _says_when(edit.timing)
    step = sequence.step(edit.step)
    kind = STEP_INFO[step.kind].words if step else edit.step
    if isinstance(edit, SetAmount):
        portion = step.portions[edit.portion] if step and edit.portion < len(step.portions) else None
        unit = "mg/cm²" if step and step.unit == "mg_cm2" else "µm"
        where = f" {places(portion.zones)}" if step and portion and len(step.portions) > 1 else ""
        return f"{kind}{where}: {(portion and portion.amount) or 0:g} to {edit.amount:g} {unit}"
    if isinstance(edit, SetHand):
        words = [str(each).replace("_", " ") for each in (edit.tool, edit.motion) if each]
        words += [] if edit.dampened is None else ["dampened" if edit.dampened else "dry"]
        return f"{kind}: {' and '.join(words)}"
    if isinstance(edit, SetProduct):
        return f"{kind}: {_name(edit.product, products)}"
    if isinstance(edit, SetMix):
        return f"{kind}: {' and '.join(_name(part.item, products) for part in edit.mix)}"
    if isinstance(edit, SetZones):
        return f"{kind}: {places(edit.zones)}"
    if isinstance(edit, SetThen):
        return f"{kind}: then {(edit.tool or edit.motion or 'nothing more').replace('_', ' ')}"
    if isinstance(edit, SetWait):
        return f"{kind}: wait {edit.wait_s:g} s"
    return _says_of_order(edit, kind)


def _says_of_order(edit: SplitPortion | MergePortions | Split | Merge | Move | Remove, kind: str) -> str:
    lower = kind.lower()
    match edit:
        case Split() | SplitPortion():
            return f"Split {lower} {places(edit.zones)}"
        case Merge():
            return f"Combined two steps of {lower}"
        case MergePortions():
            return f"Combined two portions of {lower}"
        case Move():
            return f"Moved {lower}"
    return f"Took out {lower}"


def _says_when(timing: Timing | None) -> str:
    """The fixed moments of a plan in words: "Starts at 09:10, ready at 10:00, 1 step pinned"."""
    if timing is None:
        return "No fixed times"
    said = [f"starts at {timing.start}"] if timing.start else []
    said += [f"ready at {timing.ready}"] if timing.ready else []
    said += [f"{len(timing.already)} done already"] if timing.already else []
    said += [f"{len(timing.pins)} step{'s' if len(timing.pins) > 1 else ''} pinned"] if timing.pins else []
    said += ["one side first"] if timing.sides == "one_first" else []
    return sentence(", ".join(said)) if said else "No fixed times"


def _set_timing(sequence: Sequence, edit: SetTiming, field: str) -> Sequence:
    """The sequence with its fixed moments. Refuses times of steps that it has not."""
    timing = edit.timing
    for step in [] if timing is None else [*timing.already, *(pin.step for pin in timing.pins)]:
        _index(list(sequence.steps), step, f"{field}.timing")
    return replace(sequence, timing=timing)


def _without_what_is_gone(sequence: Sequence) -> Sequence:
    """The sequence without fixed moments of steps that it no longer has."""
    timing = sequence.timing
    if timing is None:
        return sequence
    ids = {step.id for step in sequence.steps}
    pins = tuple(pin for pin in timing.pins if pin.step in ids)
    already = {step: at for step, at in timing.already.items() if step in ids}
    return replace(sequence, timing=replace(timing, pins=pins, already=already))


def _name(item: str, products: Mapping[str, Product]) -> str:
    return products[item].name if item in products else item


def _apply_one(sequence: Sequence, edit: Edit, products: Mapping[str, Product], field: str) -> Sequence:
    steps = list(sequence.steps)
    if isinstance(edit, Accept):
        return _accept(sequence, edit, field)
    if isinstance(edit, SetTiming):
        return _set_timing(sequence, edit, field)
    if isinstance(edit, Add):
        return _add(sequence, edit, products, field)
    index = _index(steps, edit.step, f"{field}.step")
    match edit:
        case Remove():
            del steps[index]
        case Move():
            step = steps.pop(index)
            if edit.before == step.id:
                return sequence
            steps.insert(len(steps) if edit.before is None else _index(steps, edit.before, f"{field}.before"), step)
        case Split():
            steps = _split(steps, index, edit, field)
        case Merge():
            steps = _merged(steps, index, edit, field)
        case _:
            changed = _changed(steps[index], edit, products, field)
            steps[index] = replace(changed, why=_by_hand(changed.why, say(sequence, edit, products)))
    return _without_what_is_gone(replace(sequence, steps=tuple(steps)))


def _accept(sequence: Sequence, edit: Accept, field: str) -> Sequence:
    zones = in_order(edit.zones)
    others = tuple(each for each in sequence.accepted if (each.rule, each.zones) != (edit.rule, zones))
    note = edit.note.strip()
    if note and len(others) >= MOST_ACCEPTED:
        raise Impossible(field, len(others) + 1, f"at most {MOST_ACCEPTED} accepted findings")
    return replace(sequence, accepted=(*others, Accepted(edit.rule, zones, note)) if note else others)


def _apart(zones: tuple[Zone, ...], own: tuple[Zone, ...], what: str, field: str) -> tuple[Zone, ...]:
    """The zones to set apart, in order. Refuses none, all, or others than the own."""
    apart = in_order(zone for zone in zones if zone in own)
    if not apart or len(apart) != len(set(zones)):
        raise Refused(f"{field}.zones", list(zones), f"zones of {what}: {', '.join(own)}")
    if len(apart) == len(own):
        raise Impossible(f"{field}.zones", list(zones), f"some, but not all, of the zones of {what}")
    return apart


def _split(steps: list[Step], index: int, edit: Split, field: str) -> list[Step]:
    step = steps[index]
    apart = _apart(edit.zones, step.zones, f"step {step.id}", field)
    if len(steps) >= MOST_STEPS:
        raise Impossible(field, len(steps), f"at most {MOST_STEPS} steps")
    rest = step.with_zones(tuple(zone for zone in step.zones if zone not in apart))
    said = f"Split from {step.kind.replace('_', ' ')}"
    own = replace(step.with_zones(apart), id=_new_id(steps), why=_by_hand(step.why, said))
    return [*steps[:index], rest, own, *steps[index + 1 :]]


def _merged(steps: list[Step], index: int, edit: Merge, field: str) -> list[Step]:
    step = steps[index]
    other = steps[_index(steps, edit.other, f"{field}.other")]
    if other.id == step.id:
        raise Refused(f"{field}.other", edit.other, "another step")
    if (other.kind, other.mix, other.unit) != (step.kind, step.mix, step.unit):
        what = step.kind.replace("_", " ") + (f" with {step.item}" if step.item else "")
        raise Impossible(f"{field}.other", edit.other, f"a step of {what}, as step {step.id} is")
    why = tuple(dict.fromkeys([*step.why, *other.why]))[:MOST_REASONS]
    own = set(step.zones)
    parts = [*step.portions, *(p for p in other.with_zones(tuple(z for z in other.zones if z not in own)).portions)]
    parts = [p for p in parts if p.zones] or parts[:1]
    if len(parts) > MOST_PORTIONS:
        raise Impossible(f"{field}.other", edit.other, f"steps that have at most {MOST_PORTIONS} portions together")
    whole = replace(step, portions=_combined(parts), why=why)
    return [whole if each.id == step.id else each for each in steps if each.id != other.id]


def _combined(portions: Iterable[Portion]) -> tuple[Portion, ...]:
    """The portions, those that are laid alike taken together."""
    found: list[Portion] = []
    for portion in portions:
        alike = replace(portion, zones=(), active_s=0.0, why=())
        for place, other in enumerate(found):
            if replace(other, zones=(), active_s=0.0, why=()) == alike:
                both = in_order([*other.zones, *portion.zones])
                why = tuple(dict.fromkeys([*other.why, *portion.why]))
                seconds = min(MOST_SECONDS, other.active_s + portion.active_s)
                found[place] = replace(other, zones=both, active_s=seconds, why=why)
                break
        else:
            found.append(portion)
    return tuple(found)


def _new_id(steps: Iterable[Step]) -> str:
    numbers = [int(step.id[1:]) for step in steps if step.id[1:].isdecimal()]
    return f"s{max(numbers, default=0) + 1}"


def _by_hand(why: tuple[str, ...], said: str) -> tuple[str, ...]:
    """The reasons of the plan, and what was last decided by hand."""
    planned = [reason for reason in why if not reason.startswith(BY_HAND)]
    return (*planned[: MOST_REASONS - 1], f"{BY_HAND}{sentence(said)}.")


def _changed(step: Step, edit: OfPortion | OfStep, products: Mapping[str, Product], field: str) -> Step:
    match edit:
        case SetAmount() | SetHand() | SplitPortion() | MergePortions():
            return _with_portions(step, edit, field)
        case SetWait():
            _within(f"{field}.wait_s", edit.wait_s, 0, MOST_SECONDS, "s")
            if edit.wait_at_most_s is not None:
                told = "s, from the least wait on"
                _within(f"{field}.wait_at_most_s", edit.wait_at_most_s, edit.wait_s, MOST_WAIT_S, told)
            return replace(step, wait_s=edit.wait_s, wait_at_most_s=edit.wait_at_most_s)
        case SetZones():
            return _with_zones(step, edit, field)
        case SetThen():
            nothing = edit.tool is None and edit.motion is None
            _within(f"{field}.active_s", edit.active_s, 0, MOST_SECONDS, "s")
            return replace(step, then=None if nothing else Then(edit.tool, edit.motion, edit.active_s))
        case SetProduct():
            return _with_mix(step, (MixPart(edit.product),), products, f"{field}.product")
        case SetMix():
            return _with_mix(step, edit.mix, products, f"{field}.mix")
    raise Refused(field, edit, "an edit of a step")


def _with_portions(step: Step, edit: OfPortion, field: str) -> Step:
    if edit.portion >= len(step.portions):
        raise Refused(
            f"{field}.portion", edit.portion, f"0 to {len(step.portions) - 1}, the portions of step {step.id}"
        )
    parts = list(step.portions)
    portion = parts[edit.portion]
    match edit:
        case SetAmount():
            if step.unit is None:
                raise Impossible(f"{field}.amount", edit.amount, f"a step that lays something: step {step.id} does not")
            check_amount(edit.amount, step.unit, f"{field}.amount")
            parts[edit.portion] = replace(portion, amount=edit.amount)
        case SetHand():
            if edit.tool is None and edit.motion is None and edit.dampened is None:
                raise Refused(field, "neither", "a tool, a motion, or both")
            damp = portion.tool_dampened if edit.dampened is None else edit.dampened
            hand: dict[str, Any] = {"tool": edit.tool or portion.tool, "motion": edit.motion or portion.motion}
            parts[edit.portion] = replace(portion, **hand, tool_dampened=damp)
        case SplitPortion():
            apart = _apart(edit.zones, portion.zones, f"portion {edit.portion} of step {step.id}", field)
            if len(parts) >= MOST_PORTIONS:
                raise Impossible(field, len(parts), f"at most {MOST_PORTIONS} portions")
            rest = tuple(zone for zone in portion.zones if zone not in apart)
            parts[edit.portion : edit.portion + 1] = [replace(portion, zones=rest), replace(portion, zones=apart)]
        case MergePortions():
            if edit.other >= len(parts) or edit.other == edit.portion:
                raise Refused(f"{field}.other", edit.other, f"another portion of step {step.id}")
            other = parts[edit.other]
            parts[edit.portion] = replace(
                portion,
                zones=in_order([*portion.zones, *other.zones]),
                active_s=min(MOST_SECONDS, portion.active_s + other.active_s),
                why=tuple(dict.fromkeys([*portion.why, *other.why]))[:MOST_REASONS],
            )
            del parts[edit.other]
    return replace(step, portions=tuple(parts))


def _with_zones(step: Step, edit: SetZones, field: str) -> Step:
    if not edit.zones:
        raise Refused(f"{field}.zones", [], "at least one zone")
    if edit.portion is None:
        return step.with_zones(in_order(edit.zones))
    if edit.portion >= len(step.portions):
        raise Refused(
            f"{field}.portion", edit.portion, f"0 to {len(step.portions) - 1}, the portions of step {step.id}"
        )
    taken = set(edit.zones)
    parts = [
        replace(portion, zones=in_order(edit.zones))
        if place == edit.portion
        else replace(portion, zones=tuple(zone for zone in portion.zones if zone not in taken))
        for place, portion in enumerate(step.portions)
    ]
    remaining = tuple(portion for place, portion in enumerate(parts) if portion.zones or place == edit.portion)
    return replace(step, portions=remaining)


def _with_mix(step: Step, mix: tuple[MixPart, ...], products: Mapping[str, Product], field: str) -> Step:
    items = check_mix(mix, products, field)
    for item in items:
        _suits(step, item, field)
    if not step.lays or items[0].dry == (step.unit == "mg_cm2"):
        return replace(step, mix=mix)
    unit: Unit = "mg_cm2" if items[0].dry else "um"
    factor, digits = (1.0 / UM_FOR_A_MG, 3) if items[0].dry else (UM_FOR_A_MG, 2)
    most = MOST_POWDER_MG if items[0].dry else MOST_FILM_UM
    parts = tuple(
        replace(p, amount=None if p.amount is None else round(min(p.amount * factor, most), digits))
        for p in step.portions
    )
    return replace(step, mix=mix, unit=unit, portions=parts)


def check_mix(mix: tuple[MixPart, ...], products: Mapping[str, Product], field: str) -> tuple[Product, ...]:
    """The items of a mix. Refuses none, unknown or twin items, wet with dry, and shares that do not add to 1."""
    if not mix:
        raise Refused(field, [], "at least one item")
    found: list[Product] = []
    for part in mix:
        item = products.get(part.item)
        if item is None:
            raise Refused(field, part.item, "the id of an item in this case's kit")
        if item in found:
            raise Refused(field, part.item, "each item once")
        found.append(item)
    if len({item.dry for item in found}) > 1:
        raise Impossible(field, [part.item for part in mix], "items that are all wet, or all powders")
    total = sum(part.share for part in mix)
    if abs(total - 1.0) > SHARES_WITHIN:
        raise Refused(field, round(total, 4), "shares that add to 1")
    return tuple(found)


SHARES_WITHIN = 0.005
"""Shares are written with two or three digits: thirds add to 0.999."""


def check_amount(amount: float, unit: Unit, field: str) -> None:
    """Refuse an amount that no step lays."""
    if unit == "um":
        _within(field, amount, 0, MOST_FILM_UM, "µm")
    else:
        _within(field, amount, 0, MOST_POWDER_MG, "mg/cm²")


def _suits(step: Step, item: Product, field: str) -> None:
    """Refuse an item that this kind of step cannot be done with."""
    if step.kind in POWDER_KINDS and not item.dry:
        raise Impossible(field, item.id, f"a powder: step {step.id} is {step.kind}")
    if step.kind in MIST_KINDS and item.texture != "mist":
        raise Impossible(field, item.id, f"a mist: step {step.id} is {step.kind}")
    if step.lays and step.kind in LAYER_KINDS and not item.tinted:
        raise Impossible(field, item.id, "an item with a colour and a cover")


def _add(sequence: Sequence, edit: Add, products: Mapping[str, Product], field: str) -> Sequence:
    if len(sequence.steps) >= MOST_STEPS:
        raise Impossible(field, len(sequence.steps), f"at most {MOST_STEPS} steps")
    item = products.get(edit.product) if edit.product else None
    if edit.product and item is None:
        raise Refused(f"{field}.product", edit.product, "the id of an item in this case's kit")
    unit: Unit | None = None
    if edit.amount is not None:
        if item is None:
            raise Refused(f"{field}.product", None, "a product, since the step lays something")
        unit = "mg_cm2" if item.dry else "um"
        check_amount(edit.amount, unit, f"{field}.amount")
    _within(f"{field}.active_s", edit.active_s, 0, MOST_SECONDS, "s")
    _within(f"{field}.wait_s", edit.wait_s, 0, MOST_SECONDS, "s")
    if not 0 < edit.patch <= 1:
        raise Refused(f"{field}.patch", edit.patch, "more than 0, up to 1")
    portion = Portion(in_order(edit.zones), edit.amount, edit.tool, edit.motion, edit.active_s, patch=edit.patch)
    step = Step(
        id=_new_id(sequence.steps),
        kind=edit.kind,
        portions=(portion,),
        mix=(MixPart(item.id),) if item is not None else (),
        unit=unit,
        wait_s=edit.wait_s,
        why=("Added by hand.",),
    )
    if item is not None:
        _suits(step, item, f"{field}.product")
    steps = list(sequence.steps)
    steps.insert(len(steps) if edit.before is None else _index(steps, edit.before, f"{field}.before"), step)
    return replace(sequence, steps=tuple(steps))


def _index(steps: list[Step], step_id: str, field: str) -> int:
    for index, step in enumerate(steps):
        if step.id == step_id:
            return index
    raise Refused(field, step_id, "the id of a step in this sequence")


def _within(field: str, value: float, low: float, high: float, unit: str) -> None:
    if not low <= value <= high:
        raise Refused(field, value, f"{low:g} to {high:g} {unit}")
