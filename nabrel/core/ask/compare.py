"""What differs between two evaluated sequences of one face: in words, and in the figures that moved."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from nabrel.core.house.factors import learnt_from
from nabrel.core.judge.evaluate import Evaluation
from nabrel.core.judge.figures import MEASURES, Gain, Measure
from nabrel.core.plan.step import Step
from nabrel.core.terms.ids import StepKind
from nabrel.core.terms.rounding import Rounded
from nabrel.core.terms.schools import SCHOOL_INFO
from nabrel.core.terms.steps import STEP_INFO
from nabrel.core.terms.words import join_words


@dataclass(frozen=True, slots=True)
class Figure:
    """One figure before and after, as told to its decimals, and whether that is better, worse or neither."""

    figure: str
    name: str
    unit: str
    before: Annotated[float, Rounded(3)]
    after: Annotated[float, Rounded(3)]
    decimals: int
    gain: Gain


@dataclass(frozen=True, slots=True)
class Difference:
    """The sentences and the figures that differ."""

    says: tuple[str, ...]
    figures: tuple[Figure, ...]


def compare(before: Evaluation, after: Evaluation) -> Difference:
    """What changed from one evaluation to another of the same face."""
    told = [(each, each.told(before), each.told(after)) for each in MEASURES]
    figures = tuple(
        Figure(each.figure, _named(each, before, after), each.unit, old, new, each.decimals, each.gain(before, after))
        for each, old, new in told
        if old != new
    )
    return Difference(tuple(_sentences(before, after)), figures)


def _named(measure: Measure, before: Evaluation, after: Evaluation) -> str:
    """The figure's name, and from how many looks it was learnt where it was."""
    learnt = learnt_from(max(measure.looks(before), measure.looks(after)))
    return f"{measure.name} ({learnt})" if learnt else measure.name


def _sentences(before: Evaluation, after: Evaluation) -> list[str]:
    said: list[str] = []
    old, new = before.sequence, after.sequence
    if old.school != new.school:
        said.append(f"{SCHOOL_INFO[old.school].words} becomes {SCHOOL_INFO[new.school].words}.")
    said.extend(_order_change(before, after))
    old_kinds, new_kinds = _kinds(old.steps), _kinds(new.steps)
    gone = [STEP_INFO[k].words.lower() for k in old_kinds if k not in new_kinds]
    come = [STEP_INFO[k].words.lower() for k in new_kinds if k not in old_kinds]
    if come:
        said.append(f"Adds {join_words(come)}.")
    if gone:
        said.append(f"Leaves out {join_words(gone)}.")
    old_items, new_items = _items(before), _items(after)
    for kind in (k for k in new_kinds if k in old_items and k in new_items and old_items[k] != new_items[k]):
        said.append(f"{STEP_INFO[kind].words}: {join_words(old_items[kind])} becomes {join_words(new_items[kind])}.")
    return said


def _kinds(steps: tuple[Step, ...]) -> list[StepKind]:
    return list(dict.fromkeys(step.kind for step in steps))


def _items(evaluation: Evaluation) -> dict[StepKind, list[str]]:
    found: dict[StepKind, list[str]] = {}
    for step in evaluation.sequence.steps:
        product = evaluation.products.get(step.item or "")
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
