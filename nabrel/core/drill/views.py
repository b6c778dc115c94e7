"""What would follow: the plan of an exercise beside the plan as it was answered, and the schools in which that is right."""

from __future__ import annotations

from dataclasses import dataclass, replace

from nabrel.core.ask.recommend import plan as planned
from nabrel.core.drill.counterfactual import step_kind
from nabrel.core.drill.exercise import Answer, Exercise
from nabrel.core.drill.kinds import KINDS
from nabrel.core.drill.step_kinds import Ordered
from nabrel.core.errors import Told
from nabrel.core.house import House
from nabrel.core.plan.sequence import Sequence as Plan
from nabrel.core.terms.schools import SCHOOL_INFO
from nabrel.core.terms.steps import STEP_INFO
from nabrel.core.terms.words import join_words


@dataclass(frozen=True, slots=True)
class View:
    """A plan to look at, and what it is called."""

    words: str
    plan: Plan


def views(exercise: Exercise, answer: Answer, house: House) -> tuple[View, ...]:
    """The plan as it should be, and beside it the one with the mistake, or as it was answered where that differs.

    One alone where nothing differs or the answer cannot be worked at all; none where nothing is to be seen in a plan.
    """
    kind = KINDS[exercise.kind]
    if exercise.sequence is None or not kind.plan_is_seen:
        return ()
    if exercise.mended is not None:
        return View("As planned", exercise.mended), View("With the mistake", exercise.sequence)
    right = View("As planned", exercise.sequence)
    try:
        other = kind.as_answered(exercise, answer, house) if kind.as_answered is not None else None
    except Told:
        other = None
    return (right,) if other is None or other.steps == exercise.sequence.steps else (right, View("As answered", other))


def concerned(exercise: Exercise) -> frozenset[str]:
    """The steps of its plan that an exercise is about."""
    plan, answer = exercise.sequence, exercise.answer
    if plan is None:
        return frozenset()
    named = {exercise.shows.step, answer.step, *(answer.order or ())}
    if KINDS[exercise.kind].of_one_layer:
        kind = step_kind(exercise)
        named |= {step.id for step in plan.steps if step.kind == kind and step.lays}
    if exercise.mended is not None and not named - {None}:
        before = {step.id: step for step in exercise.mended.steps}
        named |= {step.id for step in plan.steps if before.get(step.id) != step}
    return frozenset(each for each in named if each is not None)


def right_in(exercise: Exercise, answer: Answer, house: House) -> tuple[str, ...]:
    """The schools in whose order an order that was answered is right for this face, a sentence each."""
    plan, given, marking = exercise.sequence, answer.order, exercise.marking
    if plan is None or not given or not isinstance(marking, Ordered):
        return ()
    place = {step: number for number, step in enumerate(given)}
    kinds = {step.id: (step.kind, step.unit) for step in plan.steps}
    broken = [(one, other) for one, other, _ in marking.before if place[one] > place[other]]
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
