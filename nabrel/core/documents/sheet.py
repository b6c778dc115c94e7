"""What the one-page sheet says and shows: everything that a person needs beside the mirror, and nothing else."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

import numpy as np

from nabrel.core.base.state import WorkedStep
from nabrel.core.case.product import Product
from nabrel.core.documents.avoiding import Caution, caution_of
from nabrel.core.documents.phrases import (
    CHAPTERS,
    CUE_WORDS,
    HYGIENE,
    WORTH_A_WARNING_S,
    length_words,
    much_laid,
    where_words,
)
from nabrel.core.face.proportions import Proportions, proportions_of
from nabrel.core.film.spectra import to_hex
from nabrel.core.judge.evaluate import Evaluation
from nabrel.core.pace.tasks import checked_pace
from nabrel.core.plan.step import Step
from nabrel.core.terms.hands import MOTION_INFO, TOOL_INFO, hand_words
from nabrel.core.terms.ids import Motion, Tool, Zone
from nabrel.core.terms.looks import LIGHT_INFO, VIEWING_INFO
from nabrel.core.terms.places import places
from nabrel.core.terms.schools import SCHOOL_INFO
from nabrel.core.terms.steps import STEP_INFO
from nabrel.core.terms.words import join_words, sentence, spoken
from nabrel.core.terms.zones import ZONE_INDEX, ZONES, in_order

MOST_TOUCH_UPS = 3
HYGIENE_LINE = (
    "Wash hands. Clean or single-use tools. Spatula and palette, never pack to face to pack. Ask for allergies; test new "
    "products 24 to 48 h before. Stop at stinging, swelling or a rash. Not over broken skin, cold sores, eye infection or "
    "sunburn: refer to a pharmacist or clinician. Keep mists and powders out of eyes and lungs."
)
"""The usual cautions in the space a sheet has; the told plan has them whole."""


@dataclass(frozen=True, slots=True)
class Swatch:
    """A product by name, with its own colour as sRGB hex; None where it lays no colour."""

    name: str
    hex: str | None


@dataclass(frozen=True, slots=True)
class SheetHand:
    """One thing that a hand does: tool and motion (either may be none) and the line that says it."""

    tool: Tool | None
    motion: Motion | None
    says: str


@dataclass(frozen=True, slots=True)
class SheetStep:
    """One step: its number and chapter, what is taken, where (zones with the colour they show then), how, and why.

    ``colours`` holds the zones it lays something on; ``worked`` those it only works on.
    """

    number: int
    chapter: str
    title: str
    take: str
    products: tuple[Swatch, ...]
    colours: Mapping[Zone, str]
    worked: tuple[Zone, ...]
    where: str
    hands: tuple[SheetHand, ...]
    cues: tuple[str, ...]
    wait: str
    why: str
    check: str


@dataclass(frozen=True, slots=True)
class Sheet:
    """The sheet: its head, what to lay out, the steps, what to do later, and the cautions."""

    title: str
    aim: str
    caution: Caution | None
    figures: str
    products: tuple[Swatch, ...]
    tools: tuple[Tool, ...]
    clean_ends: str
    steps: tuple[SheetStep, ...]
    later: tuple[str, ...]
    hygiene: str
    codes: str
    face: Mapping[Zone, str]
    proportions: Proportions


def sheet_of(evaluation: Evaluation, pace: float = 1.0) -> Sheet:
    """The sheet of an evaluated plan, for a hand that takes ``pace`` times a practised hand's seconds."""
    checked_pace(pace)
    sequence, totals = evaluation.sequence, evaluation.totals
    intent, sitter = sequence.case.intent, sequence.case.sitter
    items = dict.fromkeys(part.item for step in sequence.steps for part in step.mix)
    products = [evaluation.products[item] for item in items if item in evaluation.products]
    tools = tuple(dict.fromkeys(tool for step in sequence.steps for tool in step.tools if tool != "fingers"))
    lights = join_words(LIGHT_INFO[light].words.lower() for light in intent.lights)
    cost = f" · {totals.cost:.2f} a face" if totals.cost is not None else ""
    return Sheet(
        title=f"{sequence.title or sitter.nickname} · {SCHOOL_INFO[sequence.school].words.lower()}",
        aim=(
            f"{sitter.nickname}: {intent.cover} cover, {intent.finish}, {intent.wear_hours:g} hours, "
            f"{VIEWING_INFO[intent.viewing].words.lower()} in {lights}"
        ),
        caution=caution_of(evaluation),
        figures=(
            f"{totals.steps} steps · {length_words(totals.minutes, totals.active_minutes, pace)} · about "
            f"{totals.film_ml:.1f} ml of product{cost}"
        ),
        products=_swatches(products),
        tools=tools,
        clean_ends=_clean_ends(evaluation, tools),
        steps=tuple(_steps(evaluation)),
        later=tuple(
            f"About {each.hour:g} h, {places(each.zones)}: {each.says}"
            for each in evaluation.touch_ups[:MOST_TOUCH_UPS]
        ),
        hygiene=HYGIENE_LINE,
        codes=HYGIENE[-1],
        face=dict(zip(ZONES, evaluation.appearance.hexes[-1], strict=True)),
        proportions=proportions_of(sitter),
    )


def _swatches(products: list[Product]) -> tuple[Swatch, ...]:
    tinted = [item for item in products if item.lab is not None]
    shown = to_hex(np.array([item.lab for item in tinted])) if tinted else ()
    hexes = {item.id: colour for item, colour in zip(tinted, shown, strict=True)}
    return tuple(Swatch(item.name, hexes.get(item.id)) for item in products)


def _clean_ends(evaluation: Evaluation, tools: tuple[Tool, ...]) -> str:
    """Which clean ends must lie ready: pale and dark never share one, nor do liquid and powder."""
    said = []
    by_tool: dict[Tool, set[str]] = {}
    for done in evaluation.course.done:
        for tool in done.step.tools if done.films else ():
            by_tool.setdefault(tool, set()).add("dark" if done.step.kind in ("shade", "bronze") else "pale")
            by_tool[tool].add("powder" if done.step.unit == "mg_cm2" else "wet")
    for tool in tools:
        held = by_tool.get(tool, set())
        if {"dark", "pale"} <= held:
            said.append(f"two clean ends of the {TOOL_INFO[tool].words}, pale and dark")
        elif {"powder", "wet"} <= held:
            said.append(f"a second, dry {TOOL_INFO[tool].words} for powder")
    return sentence(join_words(said)) + "." if said else ""


def _steps(evaluation: Evaluation) -> Iterator[SheetStep]:
    sequence, hexes = evaluation.sequence, evaluation.appearance.hexes
    rows = zip(sequence.steps, evaluation.course.done, sequence.chapters(), strict=True)
    for number, (step, done, chapter) in enumerate(rows, start=1):
        lays = bool(done.films)
        zones = in_order(zone for portion in step.portions for zone in portion.zones)
        reasons = [*step.why, *(why for portion in step.portions for why in portion.why)]
        yield SheetStep(
            number=number,
            chapter=CHAPTERS[chapter],
            title=STEP_INFO[step.kind].words,
            take=_take(done),
            products=_swatches([item for item, _ in done.mixed.items]) if done.mixed else (),
            colours={zone: hexes[number][ZONE_INDEX[zone]] for zone in zones} if lays else {},
            worked=() if lays else zones,
            where=where_words(zones) if zones else "",
            hands=tuple(_hands(evaluation, step)),
            cues=tuple(CUE_WORDS[cue] for cue in step.cue),
            wait=" ".join(_waits(step)),
            why=reasons[0],
            check=step.check,
        )


def _take(done: WorkedStep) -> str:
    return done.take.words if done.take is not None and done.mixed is not None else ""


def _hands(evaluation: Evaluation, step: Step) -> Iterator[SheetHand]:
    """What the hand does, portion by portion; one place needs no naming where the small face shows it."""
    for portion in step.portions:
        much = much_laid(evaluation.house, step, portion)
        verb = MOTION_INFO[portion.motion].words if portion.motion else "lay" if much else ""
        where = places(portion.zones) if portion.zones else ""
        says = sentence(" ".join(each for each in (verb, much, where) if each))
        if says:
            yield SheetHand(portion.tool, portion.motion, f"{says}.")
    if step.then is not None:
        where = places(step.then.zones) if step.then.zones else ""
        does = hand_words(step.then.tool, step.then.motion)
        yield SheetHand(
            step.then.tool, step.then.motion, " ".join(each for each in ("Then", does, where) if each) + "."
        )


def _waits(step: Step) -> Iterator[str]:
    if step.wait_s:
        yield f"Wait {spoken(step.wait_s)}."
    if step.wait_at_most_s and step.wait_at_most_s <= WORTH_A_WARNING_S:
        yield f"Go on within {spoken(step.wait_at_most_s)}."
