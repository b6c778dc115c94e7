"""What would follow: the plan of an exercise beside the plan as it was answered, and the schools in which that is right."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from typing import Any

from nabrel.core.ask.recommend import plan as planned
from nabrel.core.base.possible import apply_edits
from nabrel.core.drill.choosing import worked
from nabrel.core.drill.exercise import DrillKind, Exercise
from nabrel.core.errors import Told
from nabrel.core.face.reading import read
from nabrel.core.house import House
from nabrel.core.house.viewing import seen
from nabrel.core.judge.evaluate import products_of
from nabrel.core.plan.edits import SetAmount, SetProduct, SetZones
from nabrel.core.plan.sequence import Sequence as Plan
from nabrel.core.plan.step import Step
from nabrel.core.shelf.ladder import rungs
from nabrel.core.terms.looks import SCHOOL_INFO
from nabrel.core.terms.steps import STEP_INFO
from nabrel.core.terms.words import join_words
from nabrel.core.terms.zones import in_order

Answer = Mapping[str, Any]


@dataclass(frozen=True, slots=True)
class View:
    """A plan to look at, and what it is called."""

    words: str
    plan: Plan


def views(exercise: Exercise, answer: Answer, house: House) -> tuple[View, ...]:
    """The plan as it should be, and beside it the one with the mistake, or as it was answered where that differs.

    One alone where nothing differs or the answer cannot be worked at all; none where an exercise is about no plan.
    """
    if exercise.sequence is None or exercise.kind == "depth":
        return ()
    if exercise.mended is not None:
        return View("As planned", exercise.mended), View("With the mistake", exercise.sequence)
    right = View("As planned", exercise.sequence)
    find = OTHERWISE.get(exercise.kind)
    try:
        other = find(exercise, answer, house) if find is not None else None
    except Told:
        other = None
    return (right,) if other is None or other.steps == exercise.sequence.steps else (right, View("As answered", other))


def concerned(exercise: Exercise) -> frozenset[str]:
    """The steps of its plan that an exercise is about."""
    plan, shows, answer = exercise.sequence, exercise.shows, exercise.answer
    if plan is None:
        return frozenset()
    named = {shows.get("step"), answer.get("step"), *answer.get("order", ())}
    if exercise.kind in ("leave_bare", "powder_where", "placement", "corrector"):
        kind = _kind_of(exercise)
        named |= {step.id for step in plan.steps if step.kind == kind and step.lays}
    if exercise.kind == "diagnose" and exercise.mended is not None:
        before = {step.id: step for step in exercise.mended.steps}
        named |= {step.id for step in plan.steps if before.get(step.id) != step}
    return frozenset(each for each in named if each is not None)


def _kind_of(exercise: Exercise) -> str:
    """The kind of step that an exercise about places, or about a corrector, is about."""
    fixed = {"powder_where": "set", "corrector": "correct"}
    return fixed.get(exercise.kind) or exercise.judgement.split("-", 1)[1]


def right_in(exercise: Exercise, answer: Answer, house: House) -> tuple[str, ...]:
    """The schools in whose order an order that was answered is right for this face, a sentence each."""
    plan, given = exercise.sequence, answer.get("order")
    if exercise.kind != "order" or plan is None or not given:
        return ()
    place = {step: number for number, step in enumerate(given)}
    kinds = {step.id: (step.kind, step.unit) for step in plan.steps}
    broken = [(one, other) for one, other, _ in exercise.marking["before"] if place[one] > place[other]]
    turned = {(kinds[other], kinds[one]) for one, other in broken if kinds[one] != kinds[other]}
    if not turned:
        return ()
    found: list[str] = []
    for school, info in SCHOOL_INFO.items():
        if school == plan.school:
            continue
        case = replace(plan.case, intent=replace(plan.case.intent, school=school))
        order = [(step.kind, step.unit) for step in planned(case, house).steps]
        if all(one in order and other in order and order.index(one) < order.index(other) for one, other in turned):
            said = join_words(f"{STEP_INFO[o].laid} before {STEP_INFO[t].laid}" for (o, _), (t, _) in sorted(turned))
            found.append(f"In the {info.words.lower()} order this is right: {said}.")
    return tuple(found)


def _reordered(exercise: Exercise, answer: Answer, house: House) -> Plan | None:  # noqa: ARG001 - as all of them
    plan = exercise.sequence
    given = list(answer.get("order") or ())
    if plan is None or not given:
        return None
    steps = {step.id: step for step in plan.steps}
    left = iter(given)
    return replace(plan, steps=tuple(steps[next(left)] if step.id in given else step for step in plan.steps))


def _sooner(exercise: Exercise, answer: Answer, house: House) -> Plan | None:  # noqa: ARG001
    """What was chosen, right after the layer that still rests, which then rests no longer."""
    plan = exercise.sequence
    chosen = exercise.marking.get("next", {}).get(answer.get("choice"))
    if plan is None or chosen is None or answer["choice"] == exercise.answer["choice"]:
        return None
    moved = next(step for step in plan.steps if step.id == chosen)
    steps: list[Step] = []
    for step in plan.steps:
        if step.id == exercise.shows["step"]:
            steps += [replace(step, wait_s=0.0), moved]
        elif step.id != chosen:
            steps.append(step)
    return replace(plan, steps=tuple(steps))


def _corrected(exercise: Exercise, answer: Answer, house: House) -> Plan | None:
    """Every step that corrects this zone, with the corrector that was chosen."""
    plan, item = exercise.sequence, exercise.marking.get("items", {}).get(answer.get("choice"))
    if plan is None or item is None or answer["choice"] == exercise.answer["choice"]:
        return None
    laid = [step for step in plan.steps if step.kind == "correct" and exercise.shows["zone"] in step.zones]
    return _edited(plan, [SetProduct(step.id, item) for step in laid], house)


def _worked(exercise: Exercise, answer: Answer, house: House) -> Plan | None:  # noqa: ARG001
    plan, how = exercise.sequence, exercise.marking.get("worked", {}).get(answer.get("choice"))
    if plan is None or how is None:
        return None
    asked = exercise.shows["step"]
    return replace(plan, steps=tuple(worked(step, **how) if step.id == asked else step for step in plan.steps))


def _amount(exercise: Exercise, answer: Answer, house: House) -> Plan | None:
    plan, times = exercise.sequence, exercise.marking.get("times", {}).get(answer.get("choice"))
    if plan is None or times is None:
        return None
    step = next(step for step in plan.steps if step.id == exercise.shows["step"])
    most = rungs(step.unit or "um", house)[-1].amount
    edits = [
        SetAmount(step.id, min(most, portion.amount * times), place)
        for place, portion in enumerate(step.portions)
        if portion.amount is not None
    ]
    return _edited(plan, edits, house)


def _placed(exercise: Exercise, answer: Answer, house: House) -> Plan | None:
    """The layer where it was painted: taken off where it was left bare, carried on where it was not needed."""
    plan = exercise.sequence
    if plan is None or set(answer.get("zones") or ()) == set(exercise.answer["zones"]):
        return None
    kind = _kind_of(exercise)
    painted, asked = set(answer.get("zones") or ()), set(exercise.shows["zones"])
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


def _school(exercise: Exercise, answer: Answer, house: House) -> Plan | None:
    plan, school = exercise.sequence, exercise.marking.get("schools", {}).get(answer.get("choice"))
    if plan is None or school is None or school == plan.school:
        return None
    return planned(replace(plan.case, intent=replace(plan.case.intent, school=school)), house)


OTHERWISE: Mapping[DrillKind, Callable[[Exercise, Answer, House], Plan | None]] = {
    "order": _reordered, "corrector": _corrected, "wait": _sooner, "texture": _worked, "amount": _amount, "leave_bare": _placed,
    "powder_where": _placed, "placement": _placed, "school": _school,
}  # fmt: skip
"""How a plan is as it was answered, by the kind of exercise; the others change no plan."""


def _edited(plan: Plan, edits: Any, house: House) -> Plan:
    products = products_of(plan, read(plan.case, seen(plan.case.intent.viewing, house)))
    return apply_edits(plan, edits, products)
