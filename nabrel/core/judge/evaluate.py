"""Everything computed about a sequence at once: appearance, forecast, findings, time and cost."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

from nabrel.core.base.appearance import Appearance, appear
from nabrel.core.base.ledger import Ledger, product_index
from nabrel.core.base.possible import apply_edits
from nabrel.core.case.product import Product
from nabrel.core.errors import Refused
from nabrel.core.face.reading import Reading, read
from nabrel.core.house import House
from nabrel.core.house.viewing import house_for
from nabrel.core.judge.book import BOOK, Finding, Judged, Rule, consult
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
    """Figures of a whole sequence. minutes with one pair of hands, waits included; film and powder as face means."""

    steps: int
    minutes: float
    active_minutes: float
    cost: float | None
    worst_cake: float
    worst_cake_zone: Zone
    least_shine_hours: float
    least_shine_zone: Zone
    film_ml: float
    powder_g: float
    tested_dose_share: float | None


@dataclass(frozen=True, slots=True)
class Evaluation:
    """A sequence with all that follows from it, and the house it follows by."""

    sequence: Sequence
    reading: Reading
    products: Mapping[str, Product]
    ledger: Ledger
    appearance: Appearance
    forecast: tuple[ZoneForecast, ...]
    edges: tuple[Edge, ...]
    touch_ups: tuple[TouchUp, ...]
    findings: tuple[Finding, ...]
    totals: Totals
    house: House


def rule_book() -> Mapping[str, Rule]:
    """Every rule by id."""
    return BOOK


def products_of(sequence: Sequence, reading: Reading) -> dict[str, Product]:
    """Products a sequence may name: its case's kit, or the generic kit where the case has none."""
    shelf = () if sequence.case.kit else generic_kit(reading.complexion)
    return product_index(sequence, shelf)


def evaluate(
    sequence: Sequence,
    house: House,
    light: Light = "daylight",
    reading: Reading | None = None,
    *,
    try_fixes: bool = True,
) -> Evaluation:
    """Evaluate a sequence: what it will look like, how it will wear, what the rule book says, time and cost.

    ``try_fixes`` tries each fix on the whole plan, and offers none that would raise a graver finding than it mends.
    """
    reading = reading or read(sequence.case, house_for(sequence.case.intent.viewing, house))
    judged = Judged(sequence, reading, products_of(sequence, reading), house)
    findings = consult(judged)
    if try_fixes:
        findings = tuple(_with_safe_fix(each, findings, judged, house) for each in findings)
    ledger, products, zones = judged.ledger, judged.products, tuple(judged.forecast.values())
    shown = judged.appearance
    if light != "daylight":
        shown = appear(sequence, reading, ledger, products, judged.house, light)
    return Evaluation(
        sequence=sequence,
        reading=reading,
        products=products,
        ledger=ledger,
        appearance=shown,
        forecast=zones,
        edges=judged.edges,
        touch_ups=touch_ups(zones, sequence.case.intent.wear_hours, judged.house),
        findings=findings,
        totals=_totals(sequence, ledger, zones, products, judged.house),
        house=judged.house,
    )


HARMLESS = (SetZones, SetWait, Remove)
"""Edits that only take something away or wait: they are offered untried."""


def _with_safe_fix(finding: Finding, findings: tuple[Finding, ...], judged: Judged, house: House) -> Finding:
    """The finding, without its fix where the fix would raise a graver finding somewhere else."""
    fix = finding.fix
    if fix is None or all(isinstance(edit, HARMLESS) for edit in fix.edits):
        return finding
    try:
        mended = apply_edits(judged.sequence, fix.edits, judged.products, house)
    except Refused:
        return replace(finding, fix=None)
    come = consult(Judged(mended, judged.reading, judged.products, house), graver_than=finding.severity)
    known = {(each.rule, zone) for each in findings for zone in each.zones or (None,)}
    worse = any((each.rule, zone) not in known for each in come for zone in each.zones or (None,))
    return replace(finding, fix=None) if worse else finding


def _totals(
    sequence: Sequence, ledger: Ledger, zones: tuple[ZoneForecast, ...], products: Mapping[str, Product], house: House
) -> Totals:
    based = [row for row in zones if row.film_um > 0] or list(zones)
    fullest = max(based, key=lambda row: row.cake)
    shiniest = min(based, key=lambda row: row.shine_hours)
    cost, priced = 0.0, False
    film_ml = powder_g = 0.0
    for step in sequence.steps:
        product = products.get(step.product or "")
        if step.take is None or product is None:
            continue
        film_ml += step.take.amount if step.take.unit == "ml" else 0.0
        powder_g += step.take.amount if step.take.unit == "g" else 0.0
        content = product.ml if step.take.unit == "ml" else product.g
        if product.price and content:
            priced = True
            cost += product.price * step.take.amount / content
    return Totals(
        steps=len(sequence.steps),
        minutes=ledger.minutes,
        active_minutes=sum(step.active_s for step in sequence.steps) / 60.0,
        cost=cost if priced else None,
        worst_cake=fullest.cake,
        worst_cake_zone=fullest.zone,
        least_shine_hours=shiniest.shine_hours,
        least_shine_zone=shiniest.zone,
        film_ml=film_ml,
        powder_g=powder_g,
        tested_dose_share=_tested_share(sequence, house),
    )


def _tested_share(sequence: Sequence, house: House) -> float | None:
    """The thickest foundation film as a share of the amount at which an SPF is tested; None without foundation."""
    films = [step.film_um for step in sequence.steps if step.kind == "foundation" and step.film_um]
    return share_of_tested_dose(max(films), house) if films else None
