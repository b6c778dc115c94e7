"""Hygiene: clean tools, products within their months, and skin that should be left alone."""

from __future__ import annotations

from collections.abc import Iterator

from nabrel.core.judge.book import Breach, Fix, Judged, rule
from nabrel.core.judge.rules.material import nearest_swap
from nabrel.core.judge.ways_out import without
from nabrel.core.plan.edits import Remove, SetProduct
from nabrel.core.plan.step import Step
from nabrel.core.shelf.age import past_its_months
from nabrel.core.terms.hands import TOOL_INFO
from nabrel.core.terms.ids import Tool
from nabrel.core.terms.places import places
from nabrel.core.terms.steps import CARE_KINDS, FEATURE_KINDS, STEP_INFO
from nabrel.core.terms.zones import EYE_ZONES

TESTED_FIRST_DAYS = 2


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
    for _, step in judged.steps():
        product = judged.product(step)
        if product is None or day is None or (over := past_its_months(product, day)) is None:
            continue
        eyes = tuple(z for z in step.zones if z in EYE_ZONES) or (step.zones if step.kind in ("eyes", "lashes") else ())
        other = nearest_swap(judged, product, lambda item: past_its_months(item, day) is None)
        yield Breach((step.id,), eyes or step.zones,
                    f"{product.name} is {over} {'month' if over == 1 else 'months'} past the time it keeps"
                    + (f", and it would be used {places(eyes)}." if eyes else "."),
                    Fix(f"Use {other.name}", (SetProduct(step.id, other.id),)) if other else Fix("Leave it out", (Remove(step.id),)),
                    "stop" if eyes else None)  # fmt: skip


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
