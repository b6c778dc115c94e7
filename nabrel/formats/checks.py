"""What no schema can see: twin ids, colours no surface has, colour items without optics, amounts beyond their unit."""

from __future__ import annotations

from dataclasses import replace
from difflib import get_close_matches

from nabrel.core.case.case import Case
from nabrel.core.case.intent import Intent
from nabrel.core.case.product import Product
from nabrel.core.case.sitter import Sitter
from nabrel.core.errors import Refused
from nabrel.core.face.measuring import SkinReading, check_reading
from nabrel.core.face.placement import SCULPTS
from nabrel.core.film.spectra import surface, warm
from nabrel.core.house import House, RuleDecision
from nabrel.core.house.factors import Factor, factor_named
from nabrel.core.judge.evaluate import rule_book
from nabrel.core.plan.edits import Accept, Edit, check_amount, check_mix
from nabrel.core.plan.sequence import Sequence
from nabrel.core.plan.step import Step
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.ids import Zone
from nabrel.core.terms.products import ROLE_INFO
from nabrel.core.terms.wishes import EFFECTS
from nabrel.core.terms.words import join_words
from nabrel.core.terms.zones import ZONE_INFO, in_order
from nabrel.formats.files import HouseFile
from nabrel.formats.upgrade.house import RETIRED_PARAMETERS


def check_case(case: Case, field: str = "") -> Case:
    """The case. Refuses twin ids, colours no surface has, and colour items without optics."""
    prefix = f"{field}." if field else ""
    check_kit(case.kit, f"{prefix}kit")
    check_sitter(case.sitter, f"{prefix}sitter")
    check_intent(case.intent, f"{prefix}intent")
    return case


def check_intent(intent: Intent, field: str) -> Intent:
    """Refuse an effect that cannot be asked of its region."""
    for region, asked in intent.effects.items():
        for index, effect in enumerate(asked):
            if effect not in EFFECTS[region]:
                raise Refused(
                    f"{field}.effects.{region}[{index}]".lstrip("."), effect, join_words(EFFECTS[region], "or")
                )
    return intent


def check_kit(kit: tuple[Product, ...], field: str) -> tuple[Product, ...]:
    """The kit. Refuses twin ids, colours no surface has, and colour items without optics."""
    warm(item.lab for item in kit if item.lab is not None)
    seen: set[str] = set()
    for index, item in enumerate(kit):
        here = f"{field}[{index}]"
        if item.id in seen:
            raise Refused(f"{here}.id", item.id, "an id that no other kit item has")
        seen.add(item.id)
        check_product(item, here)
    return kit


def check_product(item: Product, field: str) -> None:
    """Refuse an item whose role needs a colour it lacks, whose colour cannot be, or whose texture contradicts it."""
    coloured = ROLE_INFO[item.role].coloured
    if coloured and item.lab is None:
        raise Refused(f"{field}.lab", None, f"a colour as [L*, a*, b*], since a {item.role} is seen")
    if coloured and item.cover is None:
        raise Refused(f"{field}.cover", None, f"a contrast ratio from 0.01 to 0.995, since a {item.role} is seen")
    if (item.lab is None) != (item.cover is None):
        raise Refused(f"{field}.cover", item.cover, "both lab and cover, or neither")
    if item.lab is not None:
        surface(item.lab, f"{field}.lab")


def check_sitter(sitter: Sitter, field: str) -> None:
    """Refuse a sitter any of whose colours no surface can have, and moved strokes that are none."""
    colours: list[tuple[str, Lab | None]] = [
        (f"{field}.skin.lab", sitter.skin.lab),
        (f"{field}.neck.lab", sitter.neck.lab if sitter.neck else None),
        (f"{field}.chest.lab", sitter.chest.lab if sitter.chest else None),
        *((f"{field}.zones.{zone}.lab", skin.lab) for zone, skin in sitter.zones.items()),
    ]
    warm(lab for _, lab in colours if lab is not None)
    for path, lab in colours:
        if lab is not None:
            surface(lab, path)
    for stroke in sitter.moved:
        kind, _, zone = stroke.partition(".")
        if kind not in SCULPTS or zone not in ZONE_INFO:
            raise Refused(
                f"{field}.moved", stroke, f"{', '.join(SCULPTS)}, a dot and a zone, as in shade.cheek_hollow_l"
            )


def check_sequence(sequence: Sequence, *, kit_checked: bool = False) -> Sequence:
    """The sequence with zones in order. Refuses twin step ids, unknown items, mixes and portions that cannot be.

    ``kit_checked`` says that its kit was checked before, for other sequences.
    """
    if kit_checked:
        check_sitter(sequence.case.sitter, "case.sitter")
    else:
        check_case(sequence.case, "case")
    seen: set[str] = set()
    known = {item.id: item for item in sequence.case.kit}
    steps = []
    for index, step in enumerate(sequence.steps):
        here = f"steps[{index}]"
        if step.id in seen:
            raise Refused(f"{here}.id", step.id, "an id that no other step has")
        seen.add(step.id)
        _check_mix(step, known, here)
        _check_portions(step, here)
        steps.append(_in_order(step))
    accepted = tuple(replace(each, zones=in_order(each.zones)) for each in sequence.accepted)
    return replace(sequence, steps=tuple(steps), accepted=accepted)


def _check_mix(step: Step, known: dict[str, Product], field: str) -> None:
    for place, part in enumerate(step.mix):
        here = f"{field}.mix[{place}].item"
        if known and part.item not in known:
            raise Refused(here, part.item, "the id of an item in case.kit")
        if not known and not part.item.startswith("generic-"):
            raise Refused(here, part.item, "an item of the generic kit, since case.kit is empty")
    if step.mix and known:
        items = check_mix(step.mix, known, f"{field}.mix")
        if step.unit is not None and items[0].dry != (step.unit == "mg_cm2"):
            asked = "mg_cm2" if items[0].dry else "um"
            raise Refused(f"{field}.unit", step.unit, f"{asked}, since {items[0].name} is {items[0].texture}")
    elif step.mix and abs(sum(part.share for part in step.mix) - 1.0) > SHARES_WITHIN:
        raise Refused(f"{field}.mix", round(sum(part.share for part in step.mix), 4), "shares that add to 1")
    if step.unit is not None and not step.mix:
        raise Refused(f"{field}.mix", [], "at least one item, since the step lays something")


SHARES_WITHIN = 0.005


def _check_portions(step: Step, field: str) -> None:
    taken: dict[Zone, int] = {}
    for place, portion in enumerate(step.portions):
        here = f"{field}.portions[{place}]"
        if portion.amount is None:
            continue
        if step.unit is None:
            if portion.amount > 0 and not step.mix:
                raise Refused(f"{here}.amount", portion.amount, "nothing, since the step has no unit")
            continue
        check_amount(portion.amount, step.unit, f"{here}.amount")
        for zone in portion.zones:
            if zone in taken:
                raise Refused(f"{here}.zones", zone, f"a zone that portion {taken[zone]} does not lie on")
            taken[zone] = place
    if step.unit is not None and all(portion.amount is None for portion in step.portions):
        raise Refused(f"{field}.portions[0].amount", None, "an amount, since the step has a unit")


def _in_order(step: Step) -> Step:
    """The step with the zones of every portion in the vocabulary's order, each once."""
    portions = tuple(replace(portion, zones=in_order(portion.zones)) for portion in step.portions)
    return step if portions == step.portions else replace(step, portions=portions)


def check_edits(edits: tuple[Edit, ...]) -> tuple[Edit, ...]:
    """The edits. Refuses a rule that the book does not have."""
    for place, edit in enumerate(edits):
        if isinstance(edit, Accept) and edit.rule not in rule_book():
            raise Refused(f"edits[{place}].rule", edit.rule, "the id of a rule of the book")
    return edits


def check_skin_reading(reading: SkinReading, field: str = "reading") -> SkinReading:
    """The reading. Refuses wrong values for what was measured, and impossible colours."""
    check_reading(reading, field)
    if reading.lab is not None:
        surface(reading.lab, f"{field}.lab")
    return reading


def house_of(file: HouseFile, field: str = "") -> House:
    """A house with what was decided. Refuses unknown rules and parameters, and values out of range.

    Decisions about parameters that only older versions had are left aside.
    """
    prefix = f"{field}." if field else ""
    book = rule_book()
    for rule_id in file.rules:
        if rule_id not in book:
            close = get_close_matches(rule_id, book, 1)
            raise Refused(f"{prefix}rules", rule_id, "the id of a rule" + (f" (nearest: {close[0]})" if close else ""))
    house = House()
    for name, each in file.parameters.items():
        if name in RETIRED_PARAMETERS:
            continue
        try:
            house = house.deciding({name: each.value}, {name: each.note})
        except Refused as refusal:
            raise Refused(f"{prefix}parameters.{name}", each.value, refusal.allowed) from None
    rules = (RuleDecision(rule_id, d.off, d.severity, d.note) for rule_id, d in file.rules.items())
    factors = _factors(file, prefix)
    return replace(house, rules=tuple(each for each in rules if each.off or each.severity), factors=factors)


def _factors(file: HouseFile, prefix: str) -> tuple[Factor, ...]:
    """The factors that stand: of several decisions about one, the last that is not undone. Refuses what is no factor."""
    standing: dict[str, Factor] = {}
    for place, each in enumerate(file.decisions):
        found = factor_named(each.what, each.to, each.evidence.looks, f"{prefix}decisions[{place}].what")
        if each.undone is None:
            standing[each.what] = found
    return tuple(standing[what] for what in sorted(standing))
