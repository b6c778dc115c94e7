"""A plan taken to another face: planned anew there with the same wishes, and what changed, each with its reason."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass, replace

from nabrel.core.ask.recommend import plan
from nabrel.core.case.case import Case
from nabrel.core.house import House
from nabrel.core.judge.evaluate import Evaluation, evaluate
from nabrel.core.plan.sequence import Sequence
from nabrel.core.plan.step import Portion, Step
from nabrel.core.terms.hands import hand_words
from nabrel.core.terms.ids import StepKind, Zone
from nabrel.core.terms.limits import MOST_NAME
from nabrel.core.terms.places import describe
from nabrel.core.terms.steps import STEP_INFO
from nabrel.core.terms.words import join_words

MOST_PLACES = 4


@dataclass(frozen=True, slots=True)
class Adaptation:
    """One thing that the other face asks for otherwise, of which kind of step, and why."""

    kind: StepKind
    says: str
    why: str


@dataclass(frozen=True, slots=True)
class Adapted:
    """The plan for the other face, and what changed, in the order of the work."""

    evaluation: Evaluation
    changes: tuple[Adaptation, ...]

    @property
    def sequence(self) -> Sequence:
        """The plan for the other face."""
        return self.evaluation.sequence


def adapt(model: Evaluation, case: Case, house: House) -> Adapted:
    """The model plan's wishes and school on the face of ``case``, with the kit of ``case``."""
    wished = replace(model.sequence.case.intent, school=model.sequence.school, day=case.intent.day)
    sequence = plan(replace(case, intent=wished), house)
    titled = replace(sequence, title=f"{case.sitter.nickname}, as {model.sequence.case.sitter.nickname}"[:MOST_NAME])
    there = evaluate(titled, house, try_fixes=False)
    return Adapted(there, tuple(_changes(model, there)))


def _changes(model: Evaluation, there: Evaluation) -> Iterator[Adaptation]:
    before, after = _by_kind(model.sequence), _by_kind(there.sequence)
    for kind in dict.fromkeys([*after, *before]):
        old, new = before.get(kind, ()), after.get(kind, ())
        if not new:
            yield Adaptation(kind, f"No {STEP_INFO[kind].laid}.", _why_not(there.sequence, kind))
        elif not old:
            yield Adaptation(kind, f"{STEP_INFO[kind].words} as well{_on(new)}.", new[0].why[0])
        else:
            yield from _otherwise(kind, (model, old), (there, new))


def _otherwise(
    kind: StepKind, before: tuple[Evaluation, tuple[Step, ...]], after: tuple[Evaluation, tuple[Step, ...]]
) -> Iterator[Adaptation]:
    """What one kind takes otherwise, and where else it goes."""
    (model, old), (there, new) = before, after
    gone, come = (_names(each, steps) for each, steps in ((model, old), (there, new)))
    if set(gone) != set(come):
        only = [name for name in come if name not in gone] or list(come)
        replacements = [name for name in gone if name not in come]
        said = f" instead of {join_words(replacements)}" if replacements else ""
        if only:
            yield Adaptation(kind, f"{STEP_INFO[kind].words}: {join_words(only)}{said}.", new[0].why[0])
    yield from _by_other_hands(kind, old, new)
    if not STEP_INFO[kind].roles or STEP_INFO[kind].over_all:
        return
    added, left = _zones(new) - _zones(old), _zones(old) - _zones(new)
    if added:
        yield Adaptation(kind, f"{STEP_INFO[kind].words} also {_where(added)}.", _reason_there(new, added))
    if left:
        yield Adaptation(kind, f"No {STEP_INFO[kind].laid} {_where(left)}.", _why_not(there.sequence, kind, left))


def _by_other_hands(kind: StepKind, old: tuple[Step, ...], new: tuple[Step, ...]) -> Iterator[Adaptation]:
    """Cream where there was powder or the other way, and the tool and motion of the main hand where they differ."""
    before, after = _main_hand(old), _main_hand(new)
    if before is None or after is None:
        return
    (was, step_was), (now, step_now) = before, after
    units = {"um": "a cream or liquid", "mg_cm2": "powder"}
    as_what = ""
    if step_was.unit != step_now.unit and step_was.unit and step_now.unit:
        as_what = f" as {units[step_now.unit]} instead of {units[step_was.unit]}"
    hands = hand_words(now.tool, now.motion) if (was.tool, was.motion) != (now.tool, now.motion) else ""
    if as_what or hands:
        parts = " ".join(each for each in (as_what.strip(), hands) if each)
        yield Adaptation(kind, f"{STEP_INFO[kind].words}: {parts}.", step_now.why[0])


def _main_hand(steps: tuple[Step, ...]) -> tuple[Portion, Step] | None:
    """The portion on which most is worked, with its step; None where nothing is laid."""
    laid = [(portion, step) for step in steps for portion in step.portions if portion.amount is not None]
    return max(laid, key=lambda row: len(row[0].zones), default=None)


def _by_kind(sequence: Sequence) -> dict[StepKind, tuple[Step, ...]]:
    found: dict[StepKind, tuple[Step, ...]] = {}
    for step in sequence.steps:
        found[step.kind] = (*found.get(step.kind, ()), step)
    return found


def _names(evaluation: Evaluation, steps: tuple[Step, ...]) -> tuple[str, ...]:
    items = dict.fromkeys(part.item for step in steps for part in step.mix)
    return tuple(evaluation.products[item].name for item in items if item in evaluation.products)


def _zones(steps: tuple[Step, ...]) -> frozenset[Zone]:
    return frozenset(zone for step in steps for zone in step.zones)


def _where(zones: frozenset[Zone]) -> str:
    named = describe(zones)
    return named.words if named.places <= MOST_PLACES else f"on {len(zones)} other zones"


def _on(steps: tuple[Step, ...]) -> str:
    zones = _zones(steps)
    return f" {_where(zones)}" if zones else ""


def _reason_there(steps: tuple[Step, ...], zones: frozenset[Zone]) -> str:
    """The reason of the portion that goes there, else the step's."""
    for step in steps:
        for portion in step.portions:
            if portion.why and zones.intersection(portion.zones):
                return portion.why[0]
    return next(step.why[0] for step in steps if zones.intersection(step.zones))


def _why_not(sequence: Sequence, kind: StepKind, zones: frozenset[Zone] = frozenset()) -> str:
    """Why this plan leaves a kind out, on some zones or altogether."""
    for each in sequence.left_bare:
        if each.kind == kind and (not zones or each.zone in zones):
            return each.why
    named = re.compile(rf"\b{re.escape(STEP_INFO[kind].laid)}\b", re.IGNORECASE)
    return next((note for note in sequence.notes if named.search(note)), "The plan for this face does without it.")
