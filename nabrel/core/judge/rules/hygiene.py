"""Hygiene: clean tools, products within their months, and skin that should be left alone."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from nabrel.core.base.spending import taken
from nabrel.core.case.product import Product
from nabrel.core.judge.book import Breach, Fix, Judged, rule
from nabrel.core.judge.rules.material import nearest_swap
from nabrel.core.judge.ways_out import without
from nabrel.core.plan.edits import Remove, SetProduct
from nabrel.core.plan.step import Step
from nabrel.core.shelf.age import ends_on
from nabrel.core.shelf.tools import none_ready
from nabrel.core.terms.hands import TOOL_INFO
from nabrel.core.terms.ids import Tool
from nabrel.core.terms.places import places
from nabrel.core.terms.steps import CARE_KINDS, FEATURE_KINDS, STEP_INFO
from nabrel.core.terms.words import counted
from nabrel.core.terms.zones import EYE_ZONES

TESTED_FIRST_DAYS = 2
FACES_AHEAD = 3
"""A pack that holds less than so many faces like this one is named, where it runs low at all."""


@rule(
    "not-past-its-months",
    "hygiene and safety",
    "problem",
    "No product is used after it has expired.",
    "Preservatives stop working, and what grows then cannot be seen. Near the eyes this stops the work.",
    at_worst="stop",
)
def not_past_its_months(judged: Judged) -> Iterator[Breach]:
    day = judged.sequence.case.intent.day
    if day is None:
        return
    for _, step in judged.steps():
        for item in (judged.products[part.item] for part in step.mix):
            end = ends_on(item)
            if end is None or end > day:
                continue
            eyes = tuple(z for z in step.zones if z in EYE_ZONES)
            eyes = eyes or (step.zones if step.kind in ("eyes", "lashes") else ())
            other = nearest_swap(judged, item, lambda _: True) if len(step.mix) == 1 else None
            yield Breach(
                (step.id,),
                eyes or step.zones,
                f"{item.name} has expired: it keeps {counted(item.keeps_months or 0, 'month')} once opened, which ended on "
                f"{end.isoformat()}" + (f", and it would be used {places(eyes)}." if eyes else "."),
                Fix(f"Use {other.name}", (SetProduct(step.id, other.id),))
                if other
                else Fix("Leave it out", (Remove(step.id),)),
                "stop" if eyes else None,
            )


@rule(
    "enough-is-left",
    "amounts",
    "problem",
    "Enough is left in every pack for this face.",
    "What runs out halfway is finished with something else, and that shows.",
    parameters=("running_low_share",),
)
def enough_is_left(judged: Judged) -> Iterator[Breach]:
    for item_id, (amount, unit) in taken(judged.course).items():
        item = judged.products[item_id]
        content = item.ml if unit == "ml" else item.g
        if item.left is None or content is None:
            continue
        has = item.left * content
        low = item.left < judged.house.running_low_share and has < FACES_AHEAD * amount
        if not low and has >= amount:
            continue
        using = [step for _, step in judged.steps() if any(part.item == item_id for part in step.mix)]
        left = f"About {has:.1f} {unit} of {item.name} is left"
        takes = f"{_amount(amount)} {unit}"
        if has >= amount:
            faces = counted(int(has / amount), "face")
            yield Breach(_ids(using), (), f"{left}: enough for {faces} like this one.", None, "advice")
            continue
        single = all(len(step.mix) == 1 for step in using)
        other = nearest_swap(judged, item, _in_a_full_enough_pack) if single else None
        yield Breach(
            _ids(using),
            (),
            f"{item.name} is empty." if item.left == 0 else f"{left}, and this face takes {takes}.",
            Fix(f"Use {other.name}", tuple(SetProduct(step.id, other.id) for step in using)) if other else None,
        )


def _ids(steps: Iterable[Step]) -> tuple[str, ...]:
    return tuple(step.id for step in steps)


def _amount(amount: float) -> str:
    """An amount to a digit that says something: "0.4", "0.03"."""
    return f"{amount:.1f}" if round(amount, 1) else f"{amount:.2f}"


def _in_a_full_enough_pack(item: Product) -> bool:
    return item.left is None or item.left >= 0.5


@rule(
    "tools-are-clean",
    "hygiene and safety",
    "advice",
    "A clean tool is ready for every step.",
    "What the last sitter left in a tool goes onto the next one.",
    parameters=("sponge_keeps_months",),
)
def tools_are_clean(judged: Judged) -> Iterator[Breach]:
    case = judged.sequence.case
    if case.intent.day is None:
        return
    using = {tool: [step.id for _, step in judged.steps() if tool in step.tools] for tool in TOOL_INFO}
    kinds = (tool for tool, steps in using.items() if steps)
    for kind, (says, only) in none_ready(kinds, case.tools, case.intent.day, judged.house).items():
        words = TOOL_INFO[kind].words
        which = f"The only {words} is not ready." if only else f"No {words} is ready."
        yield Breach(tuple(using[kind]), (), f"{which} {says}")


@rule(
    "new-to-sensitive-skin",
    "hygiene and safety",
    "advice",
    "A new product is patch-tested on sensitive skin first.",
    "24 to 48 hours behind the ear or on the inner elbow tell what a face should not have to.",
)
def new_to_sensitive_skin(judged: Judged) -> Iterator[Breach]:
    day = judged.sequence.case.intent.day
    told: set[str] = set()
    sensitive = judged.where(lambda here: here.severity("sensitive") >= 1)
    for _, step in judged.steps():
        product = judged.product(step)
        zones = tuple(z for z in step.zones if z in sensitive)
        if product is None or day is None or product.opened_on is None or not zones or product.id in told:
            continue
        if 0 <= (day - product.opened_on).days < TESTED_FIRST_DAYS:
            told.add(product.id)
            yield Breach(
                (step.id,),
                zones,
                f"{product.name} was opened on {product.opened_on:%d %B}: was it tested on this sitter?",
            )


@rule(
    "no-work-by-inflamed-eyes",
    "hygiene and safety",
    "stop",
    "Nothing is laid by an eye that looks inflamed.",
    "What looks sore at an eye is left alone and shown to a pharmacist or clinician. This names no cause.",
)
def no_work_by_inflamed_eyes(judged: Judged) -> Iterator[Breach]:
    sore = judged.where(lambda here: here.inflamed_eye)
    for _, step in judged.steps():
        zones = tuple(z for z in step.zones if z in sore)
        if (step.item is not None or any(hand[1] for hand in step.hands)) and zones:
            yield Breach((step.id,), zones, f"{STEP_INFO[step.kind].words} where the eye looks sore, {places(zones)}.",
                        without(step, zones))  # fmt: skip


@rule(
    "clean-tool-after-blemishes",
    "hygiene and safety",
    "advice",
    "A tool that touched active blemishes is not carried to the eyes.",
    "It takes along what grows in them; use another tool, or go there last.",
)
def clean_tool_after_blemishes(judged: Judged) -> Iterator[Breach]:
    touched: dict[Tool, Step] = {}
    told: set[Tool] = set()
    for hand in judged.hands:
        step, tool = hand.step, hand.tool
        if (
            tool is None
            or tool in told
            or not step.lays
            or step.kind in FEATURE_KINDS | CARE_KINDS | {"prime", "foundation"}
        ):
            continue
        clear = [z for z in hand.zones if z in EYE_ZONES]
        sore = [z for z in hand.zones if judged.here(z).severity("active_blemish") >= 2]
        if clear and not sore and tool in touched and tool != "fingers":
            told.add(tool)
            yield Breach(tuple(dict.fromkeys((touched[tool].id, step.id))), (),
                        f"The {TOOL_INFO[tool].words} goes from active blemishes to the eyes: clean it between, or take a second.")  # fmt: skip
        elif sore:
            touched.setdefault(tool, step)
