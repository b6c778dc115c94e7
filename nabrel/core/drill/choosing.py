"""Exercises of one choice: bases that meet, which school, cream or powder, how much."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from random import Random
from typing import Any

from nabrel.core.ask.recommend import rank_schools
from nabrel.core.drill.exercise import (
    MOST_CHOICES,
    Answer,
    Exercise,
    Mark,
    Marking,
    Shown,
    chosen,
    knows_only,
    lettered,
)
from nabrel.core.drill.judgements import BASE_WORDS, Judgement, about
from nabrel.core.drill.step_kinds import reads, told
from nabrel.core.drill.world import World
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.plan.step import Step, Unit
from nabrel.core.shelf.bases import beads, why_beads
from nabrel.core.shelf.doses import Take, film_words, powder_words
from nabrel.core.shelf.ingredients import base_of
from nabrel.core.terms.hands import hand_words
from nabrel.core.terms.ids import Base, Motion, School, Tool
from nabrel.core.terms.products import FINISH_INFO
from nabrel.core.terms.schools import SCHOOL_INFO
from nabrel.core.terms.steps import STEP_INFO
from nabrel.core.terms.words import join_words

POWDER_MG_CM2, FILM_UM = 0.2, 3.0
"""A usual amount of another texture, where an exercise puts it in the place of the one that is right."""

LISTS: Mapping[Base, tuple[tuple[str, ...], ...]] = {
    "water": (
        ("Aqua", "Glycerin", "Butylene glycol", "Xanthan gum", "Phenoxyethanol"),
        ("Aqua", "Niacinamide", "Propanediol", "Sodium hyaluronate", "Carbomer"),
        ("Rosa damascena flower water", "Glycerin", "Betaine", "Panthenol", "Allantoin"),
    ),
    "silicone": (
        ("Dimethicone", "Isododecane", "Silica", "Trimethylsiloxysilicate", "Tocopherol"),
        ("Aqua", "Cyclopentasiloxane", "Dimethicone", "Glycerin", "Magnesium sulfate"),
        ("Cyclohexasiloxane", "Dimethicone crosspolymer", "Phenyl trimethicone", "Silica", "Mica"),
    ),
    "oil": (
        ("Squalane", "Caprylic/capric triglyceride", "Simmondsia chinensis seed oil", "Tocopherol", "Bisabolol"),
        ("Octyldodecanol", "Isopropyl palmitate", "Ricinus communis seed oil", "Squalane", "Tocopherol"),
    ),
    "anhydrous": (
        ("Cera alba", "Squalane", "Candelilla cera", "Ricinus communis seed oil", "Tocopherol"),
        ("Ozokerite", "Octyldodecanol", "Carnauba", "Petrolatum", "Mica"),
    ),
}  # fmt: skip
"""Made-up ingredient lists, each with the base that is read from it."""
TIMES = (2.6, 2.2, 1.9, 1.6, 1.35)
"""How many times as much, or as little, the next amount is, by level."""
MOST_TIMES = 30.0
"""Nobody takes so many times too much, or too little."""
WEIGHT_APART = (1.2, 1.0, 0.7, 0.4, 0.25)
"""By how much a school must suit better than another for that one to be a wrong choice, by level."""
LEVEL_OF_NEAREST = 3
"""From this level on the wrong schools are those that suit next best."""


_WEIGHED = re.compile("measured|weighed")


@dataclass(frozen=True, slots=True)
class Suiting(Marking):
    """What speaks against each school, and which it is, by letter."""

    against: Mapping[str, tuple[str, ...]]
    schools: Mapping[str, School] = field(default_factory=dict)

    def follows(self, choice: str) -> tuple[str, ...]:
        """What speaks against it."""
        return self.against[choice] or ("Nothing speaks against it here.",)


@dataclass(frozen=True, slots=True)
class WorkedWith:
    """With what and by which hand a step is worked; an amount of None keeps what it has."""

    item: str
    tool: Tool
    motion: Motion
    unit: Unit | None
    amount: float | None


@dataclass(frozen=True, slots=True)
class Textured(Marking):
    """How the step would be worked otherwise, and what the rule book says of it, by letter."""

    worked: Mapping[str, WorkedWith] = field(default_factory=dict)
    held: Mapping[str, str] = field(default_factory=dict)

    def follows(self, choice: str) -> tuple[str, ...]:
        """What the rule book says of it."""
        return (self.held[choice],) if choice in self.held else ()


@dataclass(frozen=True, slots=True)
class Measured(Marking):
    """How many times what the film takes each choice is, by letter."""

    times: Mapping[str, float] = field(default_factory=dict)

    def follows(self, choice: str) -> tuple[str, ...]:
        """How much too much or too little it is."""
        times = self.times.get(choice)
        if times is None:
            return ()
        much = f"{times:.1f} times" if times > 1 else f"a {_part(times)} of"
        return (f"That is {much} what this film takes.",)


def base_pair(world: World, level: int, rng: Random, asked: Judgement | None = None) -> Exercise | None:  # noqa: ARG001 - no face is needed
    """From two ingredient lists: will the upper lie on the lower, and why."""
    lower, upper = rng.choice(list(LISTS)), rng.choice(list(LISTS))
    if asked is not None:
        upper, lower = asked.about.split()  # type: ignore[assignment]
    lists = (rng.choice(LISTS[lower]), rng.choice(LISTS[upper]))
    bases = tuple(base_of(each)[0] for each in lists)
    if bases != (lower, upper) or lists[0] == lists[1]:
        return None
    apart = beads(lower, upper)
    reasons = {
        True: f"No: {BASE_WORDS[upper]} cannot wet {BASE_WORDS[lower]}, so it beads up and separates.",
        False: f"Yes: {BASE_WORDS[upper]} spreads over {BASE_WORDS[lower]} and stays.",
    }
    other = rng.choice([each for each in LISTS if each not in (lower, upper)] or [lower])
    wrong = [
        reasons[not apart],
        f"Yes: {BASE_WORDS[other]} always lies on {BASE_WORDS[lower]}, whatever is in it.",
        f"No: {BASE_WORDS[other]} never lies on {BASE_WORDS[lower]}, whatever waits.",
    ]
    choices, letter = lettered(rng, reasons[apart], wrong)
    evidence = [
        f"{BASE_WORDS[base].capitalize()}, read from {join_words(base_of(each)[1])}."
        for base, each in zip((lower, upper), lists, strict=True)
    ]
    return Exercise(
        "", "base_pair", f"base-{upper}-over-{lower}", level, 0,
        "The first lies on the skin and is not set. Will the second lie on it?",
        Answer(choice=letter),
        (why_beads(lower, upper) if apart else f"{BASE_WORDS[upper].capitalize()} agrees with {BASE_WORDS[lower]}.", *dict.fromkeys(evidence)),
        choices,
        Shown(lower=lists[0], upper=lists[1]),
    )  # fmt: skip


def school(world: World, level: int, rng: Random, asked: Judgement | None = None) -> Exercise | None:
    """Which order suits this face and wish, and what speaks against it."""
    if not about(asked, f"school-{world.case.sitter.preset}"):
        return None
    ranked = rank_schools(replace(world.case, intent=replace(world.case.intent, school=None)), world.house)
    apart = WEIGHT_APART[level - 1]
    # The best of those that are offered need not be the best of all: any that three others fall plainly short of will do.
    fair = [
        (best, less)
        for best in ranked
        if len(less := [each for each in ranked if each.weight - best.weight >= apart]) >= MOST_CHOICES - 1
    ]
    if not fair:
        return None
    best, less = rng.choice(fair)
    wrong = less[: MOST_CHOICES - 1] if level >= LEVEL_OF_NEAREST else rng.sample(less, MOST_CHOICES - 1)
    words = {
        each.evaluation.sequence.school: SCHOOL_INFO[each.evaluation.sequence.school].words for each in (best, *wrong)
    }
    schools = {said: name for name, said in words.items()}
    right = words[best.evaluation.sequence.school]
    choices, letter = lettered(rng, right, [words[each.evaluation.sequence.school] for each in wrong])
    against = {
        SCHOOL_INFO[each.evaluation.sequence.school].words: tuple(each.speaks_against[:2] or each.speaks_for[:1])
        for each in (best, *wrong)
    }
    intent = world.case.intent
    return Exercise(
        "", "school", f"school-{world.case.sitter.preset}", level, 0,
        f"Which of these orders suits this face best, for {intent.cover} cover, {FINISH_INFO[intent.finish].words.lower()}, {intent.wear_hours:g} hours?",
        Answer(choice=letter),
        (*best.speaks_for[:2], *best.speaks_against[:1]) or (f"{right} suits best.",),
        choices,
        Shown(reads=reads(world)),
        Suiting({c.id: against[c.says] for c in choices}, {c.id: schools[c.says] for c in choices}),
        best.evaluation.sequence,
    )  # fmt: skip


def texture(world: World, level: int, rng: Random, asked: Judgement | None = None) -> Exercise | None:
    """Cream or powder, and by which hand, for a layer of this face; the others are held against the rule book."""
    steps = [step for step in world.plan.steps if step.lays and about(asked, f"texture-{step.kind}")]
    rng.shuffle(steps)
    for step in steps:
        product = world.now.products.get(step.item or "")
        portion = max((p for p in step.portions if p.amount is not None), key=lambda p: len(p.zones), default=None)
        if product is None or portion is None or portion.motion is None:
            continue
        others = [
            (item, tool, motion)
            for item in world.now.products.values()
            if item.role == product.role and item.tinted
            for tool, motion in (
                ("buffing_brush", "drag"),
                ("dry_sponge", "drag"),
                ("fluffy_brush", "sweep"),
                ("damp_sponge", "press"),
                ("fingers", "drag"),
            )
        ]
        right = _worked(product.dry, product.finish, portion.tool, portion.motion)
        otherwise: dict[str, Step] = {}
        speaks: dict[str, str] = {}
        rng.shuffle(others)
        for item, tool, motion in others:
            says = _worked(item.dry, item.finish, tool, motion)
            if says != right and says not in otherwise and len(otherwise) < 3:
                other = _with_other_hand(world, step, item.id, tool, motion)
                worse = _worse(world, other)
                if worse is not None:
                    otherwise[says], speaks[says] = other, worse
        if len(otherwise) < 3:
            continue
        choices, letter = lettered(rng, right, list(otherwise))
        return Exercise(
            "", "texture", f"texture-{step.kind}", level, 0,
            f"{STEP_INFO[step.kind].words} on this face: which texture and finish, by which hand?",
            Answer(choice=letter),
            tuple((*step.why, *portion.why)[:2]),
            choices,
            Shown(step=step.id, reads=reads(world), zones=step.zones),
            Textured(
                {c.id: _as_worked(otherwise[c.says]) for c in choices if c.says in otherwise},
                {c.id: speaks[c.says] for c in choices if c.says in speaks},
            ),
            world.plan,
        )  # fmt: skip
    return None


def _worked(dry: bool, finish: str, tool: Any, motion: Any) -> str:
    return f"{'Powder' if dry else 'Cream or liquid'}, {finish}, {hand_words(tool, motion)}"


def _with_other_hand(world: World, step: Step, item: str, tool: Any, motion: Any) -> Step:
    """A step with another product, worked by another hand."""
    product = world.now.products[item]
    if product.dry != (step.unit == "mg_cm2"):
        # Another texture in the same place of the order: wet over powder, or powder over wet.
        amount = POWDER_MG_CM2 if product.dry else FILM_UM
        unit: Any = "mg_cm2" if product.dry else "um"
    else:
        amount, unit = None, step.unit
    return worked(step, WorkedWith(item, tool, motion, unit, amount))


def worked(step: Step, other: WorkedWith) -> Step:
    """A step worked otherwise; an amount of None keeps the amounts."""
    portions = tuple(
        each
        if each.amount is None
        else replace(
            each, tool=other.tool, motion=other.motion, amount=each.amount if other.amount is None else other.amount
        )
        for each in step.portions
    )
    return replace(step, mix=(replace(step.mix[0], item=other.item, share=1.0),), portions=portions, unit=other.unit)


def _as_worked(step: Step) -> WorkedWith:
    portion = next(each for each in step.portions if each.amount is not None)
    assert portion.tool is not None
    assert portion.motion is not None
    return WorkedWith(step.item or "", portion.tool, portion.motion, step.unit, portion.amount)


def _worse(world: World, other: Step) -> str | None:
    """What the rule book says of a plan with this step in it that it does not say of the plan; None where nothing."""
    steps = tuple(other if each.id == other.id else each for each in world.plan.steps)
    tried = evaluate(replace(world.plan, steps=steps), world.house, former=world.now, try_fixes=False)
    known = {(each.rule, each.severity) for each in world.now.findings}
    return next((each.says for each in tried.findings if (each.rule, each.severity) not in known), None)


def amount(world: World, level: int, rng: Random, asked: Judgement | None = None) -> Exercise | None:
    """How much for this face, by eye."""
    takes = [
        (done.step, done.take)
        for done in world.now.course.done
        if done.take and done.step.lays and done.take.amount > 0 and about(asked, f"amount-{done.step.kind}")
    ]
    rng.shuffle(takes)
    for step, take in takes:
        product = world.now.products.get(step.item or "")
        dose = product.dose_ml if product is not None else None

        def words(times: float, take: Take = take, dose: float | None = dose) -> str:
            much = take.amount * times
            return film_words(much, dose) if take.unit == "ml" else powder_words(much)

        right = words(1.0)
        # The right one is any of the four in size: which it is by rank says nothing.
        less = _amounts(words, 1 / TIMES[level - 1])
        more = _amounts(words, TIMES[level - 1])
        below = rng.randint(max(0, 3 - len(more)), min(3, len(less))) if len(less) + len(more) >= 3 else 0
        wrong = dict([*less[:below], *more[: 3 - below]])
        if len(wrong) < 3:
            continue
        choices, letter = lettered(rng, right, list(wrong))
        return Exercise(
            "", "amount", f"amount-{step.kind}", level, 0,
            f"How much is taken for “{told(world, step)}”?",
            Answer(choice=letter),
            (f"{take.amount:g} {take.unit}: the film on its area, and what the tool keeps.",),
            choices,
            Shown(step=step.id, zones=step.zones),
            Measured({c.id: wrong[c.says] for c in choices if c.says in wrong}),
            world.plan,
        )  # fmt: skip
    return None


def _amounts(words: Callable[[float], str], times: float) -> list[tuple[str, float]]:
    """Other amounts in words, each with how many times the right one it is, from the nearest on to one side."""
    found: dict[str, float] = {}
    right, factor = words(1.0), times
    while 1 / MOST_TIMES <= factor <= MOST_TIMES:
        says = words(factor)
        # What is weighed is told by its figure alone: it stands beside hands' words only where the right one does.
        if (says != right and _WEIGHED.search(says) is None) or _WEIGHED.search(right):
            found.setdefault(says, factor)
        factor *= times
    found.pop(right, None)
    return list(found.items())


def mark_choice(exercise: Exercise, answer: Answer, house: House) -> Mark:  # noqa: ARG001 - as all marks
    """All or nothing: there is one best choice. What follows is said of the one that was made."""
    knows_only(answer, "choice")
    choice = chosen(exercise, answer)
    if choice is None:
        return Mark(0.0, exercise.answer, ("Nothing was chosen.",), exercise.why)
    right = choice.id == exercise.answer.choice
    return Mark(1.0 if right else 0.0, exercise.answer, _follows(exercise, choice.id, right=right), exercise.why)


def _follows(exercise: Exercise, letter: str, *, right: bool) -> tuple[str, ...]:
    said = exercise.marking.follows(letter)
    if said or right:
        return said or ("That is what this face asks for.",)
    return (exercise.marking.WRONG,) if exercise.marking.WRONG else exercise.why[:1]


PARTS = {2: "half", 3: "third", 4: "quarter", 5: "fifth"}


def _part(times: float) -> str:
    return PARTS.get(round(1 / times), f"{round(1 / times)}th part")
