"""What differs between two evaluated sequences of one face: in words, and in the figures that moved."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

from nabrel.core.evaluate import Evaluation
from nabrel.core.plan.step import Step
from nabrel.core.vocabulary import SCHOOL_WORDS, STEP_WORDS, StepKind, join_words

Better = Literal["lower", "higher", "neither"]


@dataclass(frozen=True, slots=True)
class Figure:
    """One figure before and after, with its unit, decimals worth showing, and which way is better."""

    name: str
    unit: str
    before: float
    after: float
    decimals: int
    better: Better


@dataclass(frozen=True, slots=True)
class Difference:
    """The sentences and the figures that differ."""

    says: tuple[str, ...]
    figures: tuple[Figure, ...]


def visible(evaluation: Evaluation, kind: str) -> float:
    """Mean visible step of one kind of sculpting in L*, 0 where there is none.

    Positive the way it is meant: darker for shade and bronze, lighter for light; negative where it does the opposite.
    """
    rows = [row for row in evaluation.appearance.read_through if row.kind == kind]
    mean = sum(row.visible_step for row in rows) / len(rows) if rows else 0.0
    return mean if kind == "light" else -mean


def mean_film(evaluation: Evaluation) -> float:
    """Film over the zones that carry any, in µm, weighted alike."""
    rows = [row.film_um for row in evaluation.forecast if row.film_um > 0]
    return sum(rows) / len(rows) if rows else 0.0


Measure = tuple[str, str, int, Better, Callable[[Evaluation], float]]
MEASURES: tuple[Measure, ...] = (
    ("Steps", "", 0, "lower", lambda e: float(e.totals.steps)),
    ("Time", "min", 0, "lower", lambda e: e.totals.minutes),
    ("Film, mean of zones", "µm", 1, "lower", mean_film),
    ("Fullest zone, of its ceiling", "%", 0, "lower", lambda e: 100 * e.totals.worst_cake),
    ("Shade that shows", "L*", 1, "neither", lambda e: visible(e, "shade")),
    ("Light that shows", "L*", 1, "neither", lambda e: visible(e, "light")),
    ("First shine", "h", 1, "higher", lambda e: e.totals.least_shine_hours),
    ("Powder", "g", 2, "lower", lambda e: e.totals.powder_g),
    ("Product", "ml", 2, "lower", lambda e: e.totals.film_ml),
    ("Deepest crease", "index", 2, "lower", lambda e: max(row.crease for row in e.forecast)),
    ("Cost of a face", "", 2, "lower", lambda e: e.totals.cost or 0.0),
    ("Findings", "", 0, "lower", lambda e: float(sum(not finding.accepted for finding in e.findings))),
)
"""Figures of a whole plan: name, unit, decimals worth showing, which way is better, and how it is worked out."""


def compare(before: Evaluation, after: Evaluation) -> Difference:
    """What changed from one evaluation to another of the same face."""
    figures: list[Figure] = []
    for name, unit, decimals, better, measure in MEASURES:
        old, new = measure(before), measure(after)
        if round(old, decimals) != round(new, decimals):
            figures.append(Figure(name, unit, old, new, decimals, better))
    return Difference(tuple(_sentences(before, after)), tuple(figures))


def _sentences(before: Evaluation, after: Evaluation) -> list[str]:
    said: list[str] = []
    old, new = before.sequence, after.sequence
    if old.school != new.school:
        said.append(f"{SCHOOL_WORDS[old.school]} becomes {SCHOOL_WORDS[new.school]}.")
    said.extend(_order_change(before, after))
    old_kinds, new_kinds = _kinds(old.steps), _kinds(new.steps)
    gone = [STEP_WORDS[k].lower() for k in old_kinds if k not in new_kinds]
    come = [STEP_WORDS[k].lower() for k in new_kinds if k not in old_kinds]
    if come:
        said.append(f"Adds {join_words(come)}.")
    if gone:
        said.append(f"Leaves out {join_words(gone)}.")
    old_items, new_items = _items(before), _items(after)
    for kind in (k for k in new_kinds if k in old_items and k in new_items and old_items[k] != new_items[k]):
        said.append(f"{STEP_WORDS[kind]}: {join_words(old_items[kind])} becomes {join_words(new_items[kind])}.")
    return said


def _kinds(steps: tuple[Step, ...]) -> list[StepKind]:
    return list(dict.fromkeys(step.kind for step in steps))


def _items(evaluation: Evaluation) -> dict[StepKind, list[str]]:
    found: dict[StepKind, list[str]] = {}
    for step in evaluation.sequence.steps:
        product = evaluation.products.get(step.product or "")
        if product is not None and product.name not in found.setdefault(step.kind, []):
            found[step.kind].append(product.name)
    return {kind: sorted(names) for kind, names in found.items()}


def _order_change(before: Evaluation, after: Evaluation) -> list[str]:
    """Whether sculpting moved from beneath the foundation to over it, or the other way."""
    said: list[str] = []
    kinds: tuple[StepKind, ...] = ("light", "shade")
    for kind in kinds:
        was, now = _beneath(before, kind), _beneath(after, kind)
        if was is not None and now is not None and was != now:
            said.append(f"{kind.capitalize()} goes {'beneath' if now else 'over'} the foundation.")
    return said


def _beneath(evaluation: Evaluation, kind: StepKind) -> bool | None:
    kinds = [step.kind for step in evaluation.sequence.steps]
    if kind not in kinds or "foundation" not in kinds:
        return None
    return kinds.index(kind) < kinds.index("foundation")
