"""Everything computed about a sequence at once: appearance, forecast, findings, time and cost."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Annotated, Protocol

from nabrel.core.base.appearance import Appearance, appear, grounds
from nabrel.core.base.possible import apply_edits
from nabrel.core.base.spending import cost_of
from nabrel.core.base.state import Course, bare, follow
from nabrel.core.case.product import Product
from nabrel.core.errors import Refused
from nabrel.core.face.reading import Reading, read
from nabrel.core.house import House
from nabrel.core.house.viewing import SeenHouse, seen
from nabrel.core.judge.book import BOOK, Finding, Judged, Rule, run_rules
from nabrel.core.judge.rules import (
    amounts,
    colour,
    correcting,
    hands,
    hygiene,
    layering,
    load,
    material,
    method,
    order,
    placement,
    powder,
    safety,
    texture,
)
from nabrel.core.plan.edits import Remove, SetWait, SetZones
from nabrel.core.plan.sequence import Sequence
from nabrel.core.shelf.generic import generic_kit
from nabrel.core.terms.ids import Light, Zone
from nabrel.core.terms.rounding import Rounded
from nabrel.core.terms.words import SECONDS_A_MINUTE
from nabrel.core.wear.edges import Edge
from nabrel.core.wear.forecast import ZoneForecast
from nabrel.core.wear.protection import share_of_tested_dose
from nabrel.core.wear.touch_up import TouchUp, touch_ups

FAMILIES = (
    order,
    layering,
    material,
    texture,
    method,
    hands,
    amounts,
    load,
    powder,
    placement,
    correcting,
    colour,
    safety,
    hygiene,
)
"""The family modules; importing them fills the book."""


@dataclass(frozen=True, slots=True)
class Totals:
    """Figures of a whole sequence. minutes with one pair of hands, waits included; film and powder as face means.

    ``shine_looks`` is on how many looks the first shine rests, 0 where nothing learnt is in it.
    """

    steps: int
    minutes: Annotated[float, Rounded(1)]
    active_minutes: Annotated[float, Rounded(1)]
    cost: Annotated[float, Rounded(2)] | None
    worst_cake: Annotated[float, Rounded(3)]
    worst_cake_zone: Zone
    least_shine_hours: Annotated[float, Rounded(1)]
    least_shine_zone: Zone
    shine_looks: int
    film_ml: Annotated[float, Rounded(3)]
    powder_g: Annotated[float, Rounded(3)]
    tested_dose_share: Annotated[float, Rounded(3)] | None


@dataclass(frozen=True, slots=True)
class Evaluation:
    """A sequence with all that follows from it, and the house it was judged by."""

    sequence: Sequence
    reading: Reading
    products: Mapping[str, Product]
    course: Course
    appearance: Appearance
    forecast: tuple[ZoneForecast, ...]
    edges: tuple[Edge, ...]
    touch_ups: tuple[TouchUp, ...]
    findings: tuple[Finding, ...]
    totals: Totals
    house: SeenHouse


class Former(Protocol):
    """What an evaluation takes over from one of nearly the same plan, or from its draft."""

    @property
    def sequence(self) -> Sequence:
        """The plan it is of."""

    @property
    def reading(self) -> Reading:
        """The face as read."""

    @property
    def course(self) -> Course:
        """The base after every step."""

    @property
    def house(self) -> SeenHouse:
        """The house by which it was judged."""


def rule_book() -> Mapping[str, Rule]:
    """Every rule by id."""
    return BOOK


def products_of(sequence: Sequence, reading: Reading) -> Mapping[str, Product]:
    """Products a sequence may name: its case's kit, or the generic kit where the case has none."""
    kit = sequence.case.kit or generic_kit(reading.complexion)
    return {item.id: item for item in kit}


def evaluate(
    sequence: Sequence,
    house: House,
    light: Light = "daylight",
    former: Former | None = None,
    *,
    try_fixes: bool = True,
) -> Evaluation:
    """Evaluate a sequence: what it will look like, how it will wear, what the rule book says, time and cost.

    ``former`` is an evaluation or a draft of nearly the same plan: its reading is taken over, and its states as far as the
    steps are the same. ``try_fixes`` tries each fix on the whole plan, and offers none that would raise a graver finding.
    """
    here = seen(sequence.case.intent.viewing, house)
    if former is not None and former.sequence.case != sequence.case:
        former = None
    reading = former.reading if former is not None and former.house == here else read(sequence.case, here)
    products = former.products if isinstance(former, Evaluation) else products_of(sequence, reading)
    judged = Judged(sequence, reading, products, here, former.course if former is not None else None)
    findings = run_rules(judged)
    if try_fixes:
        findings = tuple(_with_safe_fix(each, findings, judged) for each in findings)
    shown = judged.appearance
    if light != "daylight":
        shown = appear(sequence, reading, judged.course, light)
    zones = tuple(judged.forecast.values())
    return Evaluation(
        sequence=sequence,
        reading=reading,
        products=products,
        course=judged.course,
        appearance=shown,
        forecast=zones,
        edges=judged.edges,
        touch_ups=touch_ups(zones, sequence, reading, here),
        findings=findings,
        totals=_totals(sequence, judged.course, zones, here),
        house=here,
    )


def course_of(sequence: Sequence, house: House) -> Course:
    """What lies on the skin after every step, without judging it."""
    here = seen(sequence.case.intent.viewing, house)
    reading = read(sequence.case, here)
    dotted = sequence.case.intent.options.laid_from == "face"
    skin = bare(grounds(reading), products_of(sequence, reading), here, dotted=dotted)
    return follow(skin, sequence.steps)


HARMLESS = (SetZones, SetWait, Remove)
"""Edits that only take something away or wait: they are offered untried."""


def _with_safe_fix(finding: Finding, findings: tuple[Finding, ...], judged: Judged) -> Finding:
    """The finding, without its fix where the fix would raise a graver finding somewhere else."""
    fix = finding.fix
    if fix is None or all(isinstance(edit, HARMLESS) for edit in fix.edits):
        return finding
    try:
        mended = apply_edits(judged.sequence, fix.edits, judged.products)
    except Refused:
        return replace(finding, fix=None)
    tried = Judged(mended, judged.reading, judged.products, judged.house, judged.course)
    come = run_rules(tried, graver_than=finding.severity)
    known = {(each.rule, zone) for each in findings for zone in each.zones or (None,)}
    worse = any((each.rule, zone) not in known for each in come for zone in each.zones or (None,))
    return replace(finding, fix=None) if worse else finding


def _totals(sequence: Sequence, course: Course, zones: tuple[ZoneForecast, ...], house: House) -> Totals:
    based = [row for row in zones if row.film_um > 0] or list(zones)
    fullest = max(based, key=lambda row: row.cake)
    shiniest = min(based, key=lambda row: row.shine_hours)
    laying = [done.take for done in course.done if done.take is not None and done.step.lays]
    return Totals(
        steps=len(sequence.steps),
        minutes=course.minutes,
        active_minutes=sum(step.active_s for step in sequence.steps) / SECONDS_A_MINUTE,
        cost=cost_of(course),
        worst_cake=fullest.cake,
        worst_cake_zone=fullest.zone,
        least_shine_hours=shiniest.shine_hours,
        least_shine_zone=shiniest.zone,
        shine_looks=shiniest.looks_behind("shine_hours"),
        film_ml=sum(each.amount for each in laying if each.unit == "ml"),
        powder_g=sum(each.amount for each in laying if each.unit == "g"),
        tested_dose_share=_tested_share(sequence, house),
    )


def _tested_share(sequence: Sequence, house: House) -> float | None:
    """The thickest foundation film as a share of the amount at which an SPF is tested; None without foundation."""
    films = [step.film_um for step in sequence.steps if step.kind == "foundation" and step.film_um]
    return share_of_tested_dose(max(films), house) if films else None
