"""Counterfactuals: a plan as it was answered, by the kind of exercise; and the steps that an exercise is about."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from nabrel.core.ask.recommend import plan as planned
from nabrel.core.base.possible import apply_edits
from nabrel.core.drill.choosing import Measured, Suiting, Textured, worked
from nabrel.core.drill.colour_kinds import Corrected
from nabrel.core.drill.exercise import Answer, Exercise
from nabrel.core.drill.step_kinds import Waiting
from nabrel.core.face.reading import read
from nabrel.core.house import House
from nabrel.core.house.viewing import seen
from nabrel.core.judge.evaluate import products_of
from nabrel.core.plan.edits import SetAmount, SetProduct, SetZones
from nabrel.core.plan.sequence import Sequence as Plan
from nabrel.core.plan.step import Step
from nabrel.core.shelf.ladder import rungs
from nabrel.core.terms.zones import in_order


def step_kind(exercise: Exercise) -> str:
    """The kind of step that an exercise about places, or about a corrector, is about."""
    fixed = {"powder_where": "set", "corrector": "correct"}
    return fixed.get(exercise.kind) or exercise.judgement.split("-", 1)[1]


def reordered(exercise: Exercise, answer: Answer, house: House) -> Plan | None:  # noqa: ARG001 - as all of them
    """The steps in the order that was given."""
    plan, given = exercise.sequence, list(answer.order or ())
    if plan is None or not given:
        return None
    steps = {step.id: step for step in plan.steps}
    left = iter(given)
    return replace(plan, steps=tuple(steps[next(left)] if step.id in given else step for step in plan.steps))


def sooner(exercise: Exercise, answer: Answer, house: House) -> Plan | None:  # noqa: ARG001
    """What was chosen, right after the layer that still rests, which then rests no longer."""
    plan, marking = exercise.sequence, exercise.marking
    chosen = marking.next.get(answer.choice or "") if isinstance(marking, Waiting) else None
    if plan is None or chosen is None or answer.choice == exercise.answer.choice:
        return None
    moved = next(step for step in plan.steps if step.id == chosen)
    steps: list[Step] = []
    for step in plan.steps:
        if step.id == exercise.shows.step:
            steps += [replace(step, wait_s=0.0), moved]
        elif step.id != chosen:
            steps.append(step)
    return replace(plan, steps=tuple(steps))


def corrected(exercise: Exercise, answer: Answer, house: House) -> Plan | None:
    """Every step that corrects this zone, with the corrector that was chosen."""
    plan, marking = exercise.sequence, exercise.marking
    item = marking.items.get(answer.choice or "") if isinstance(marking, Corrected) else None
    if plan is None or item is None or answer.choice == exercise.answer.choice:
        return None
    laid = [step for step in plan.steps if step.kind == "correct" and exercise.shows.zone in step.zones]
    return _edited(plan, [SetProduct(step.id, item) for step in laid], house)


def worked_by(exercise: Exercise, answer: Answer, house: House) -> Plan | None:  # noqa: ARG001
    """The step as it was chosen to be worked."""
    plan, marking = exercise.sequence, exercise.marking
    how = marking.worked.get(answer.choice or "") if isinstance(marking, Textured) else None
    if plan is None or how is None:
        return None
    asked = exercise.shows.step
    return replace(plan, steps=tuple(worked(step, how) if step.id == asked else step for step in plan.steps))


def amounted(exercise: Exercise, answer: Answer, house: House) -> Plan | None:
    """The step in the amount that was chosen."""
    plan, marking = exercise.sequence, exercise.marking
    times = marking.times.get(answer.choice or "") if isinstance(marking, Measured) else None
    if plan is None or times is None:
        return None
    step = next(step for step in plan.steps if step.id == exercise.shows.step)
    most = rungs(step.unit or "um", house)[-1].amount
    edits = [
        SetAmount(step.id, min(most, portion.amount * times), place)
        for place, portion in enumerate(step.portions)
        if portion.amount is not None
    ]
    return _edited(plan, edits, house)


def placed(exercise: Exercise, answer: Answer, house: House) -> Plan | None:
    """The layer where it was painted: taken off where it was left bare, carried on where it was not needed."""
    plan = exercise.sequence
    if plan is None or set(answer.zones or ()) == set(exercise.answer.zones or ()):
        return None
    kind = step_kind(exercise)
    painted, asked = set(answer.zones or ()), set(exercise.shows.zones)
    laid = [step for step in plan.steps if step.kind == kind and step.lays]
    more = painted - {zone for step in laid for zone in step.zones}
    edits: list[SetZones] = []
    gone: set[str] = set()
    for step in laid:
        zones = in_order([zone for zone in (*step.zones, *more) if zone not in asked or zone in painted])
        more = set()
        if not zones:
            gone.add(step.id)
        elif zones != step.zones:
            edits.append(SetZones(step.id, zones))
    edited = _edited(plan, edits, house)
    return replace(edited, steps=tuple(step for step in edited.steps if step.id not in gone))


def in_school(exercise: Exercise, answer: Answer, house: House) -> Plan | None:
    """The plan of the school that was chosen."""
    plan, marking = exercise.sequence, exercise.marking
    school = marking.schools.get(answer.choice or "") if isinstance(marking, Suiting) else None
    if plan is None or school is None or school == plan.school:
        return None
    return planned(replace(plan.case, intent=replace(plan.case.intent, school=school)), house)


def _edited(plan: Plan, edits: Any, house: House) -> Plan:
    products = products_of(plan, read(plan.case, seen(plan.case.intent.viewing, house)))
    return apply_edits(plan, edits, products)
