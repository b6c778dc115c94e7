"""Exercises about a plan's steps: their order, a fault in them, what may follow at once, why they are there."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from random import Random
from typing import Annotated, Any, ClassVar

from annotated_types import MinLen

from nabrel.core.ask.branches import skins, with_skin
from nabrel.core.ask.mistakes import MISTAKES, made
from nabrel.core.ask.recommend import plan as planned
from nabrel.core.base.state import WorkedStep
from nabrel.core.drill.exercise import Answer, Exercise, Line, Mark, Marking, Shown, alike, chosen, knows_only, lettered
from nabrel.core.drill.judgements import FAULTS, Judgement, about
from nabrel.core.drill.world import World
from nabrel.core.errors import Refused
from nabrel.core.house import House
from nabrel.core.judge.book import BOOK
from nabrel.core.judge.evaluate import Evaluation, evaluate, rule_book
from nabrel.core.pace.tasks import work_of
from nabrel.core.plan.sequence import Sequence as Plan
from nabrel.core.plan.step import Step
from nabrel.core.shelf.doses import take_words
from nabrel.core.terms.hands import hand_words
from nabrel.core.terms.places import places
from nabrel.core.terms.steps import STEP_INFO
from nabrel.core.terms.words import join_words, sentence, spoken

LEAST_REST_S = 15.0
"""A layer that rests for less is not asked about."""
LENGTHS = (4, 5, 6, 7, 8)
"""How many steps are put in order, by level."""
OTHER_SKINS = 2
"""Near misses of a reason come from the same person with so many other skins."""
LEAST_BOUND = 2
"""An order in which fewer pairs are bound is no exercise."""


@dataclass(frozen=True, slots=True)
class Ordered(Marking):
    """Which step must come before which other, and why."""

    before: Annotated[tuple[tuple[str, str, str], ...], MinLen(1)]


@dataclass(frozen=True, slots=True)
class Broken(Marking):
    """The rule that is broken, what comes of it, and the mistake by its name."""

    rule: str
    comes_of_it: str
    mistake: str = ""


@dataclass(frozen=True, slots=True)
class Waiting(Marking):
    """Why each choice but the right one has to wait, and the step that each is, by letter."""

    held: Mapping[str, str]
    next: Mapping[str, str] = field(default_factory=dict)

    def follows(self, choice: str) -> tuple[str, ...]:
        """Why it has to wait."""
        return (self.held[choice],) if choice in self.held else ()


@dataclass(frozen=True, slots=True)
class Explained(Marking):
    """Marked by the choice alone: the others are reasons of other skin, or of other steps."""

    WRONG: ClassVar[str] = "That holds on other skin, or of another step."


def told(world: World, step: Step) -> str:
    """A step of a world's plan in a line."""
    return line(step, world.names())


def line(step: Step, names: Mapping[str, str]) -> str:
    """A step in a line: what, with what (names by item), where."""
    items = join_words(names.get(part.item, part.item) for part in step.mix)
    where = f" {places(step.zones)}" if step.zones else ""
    return f"{STEP_INFO[step.kind].words}{f' with {items}' if items else ''}{where}"


def how(done: WorkedStep, now: Evaluation) -> str:
    """How a step is worked: the hands, how much and how thick, and how long it rests; empty where nothing is said of it."""
    step = done.step
    hands = dict.fromkeys(hand_words(p.tool, p.motion) for p in step.portions if p.tool is not None)
    said = [join_words(hands)] if hands else []
    thickest = max((p.amount for p in step.portions if p.amount is not None), default=None)
    if thickest is not None and step.unit is not None:
        said.append(f"{thickest:g} {'mg/cm²' if step.unit == 'mg_cm2' else 'µm'}")
    if done.take is not None and done.take.amount > 0:
        said.append(take_words(done.take, now.house))
    if step.wait_s or STEP_INFO[step.kind].settles:
        said.append(f"rests {spoken(step.wait_s)}" if step.wait_s else "rests not at all")
    return "; ".join(said)


def bound(plan: Plan, house: House) -> dict[tuple[str, str], str]:
    """Which step must come before which other, on zones that they share, directly or by steps between: with the reason."""
    work = work_of(plan, house)
    direct: dict[tuple[str, str], str] = {}
    for lag in work.lags:
        one, other = work.tasks[lag.before].step, work.tasks[lag.after].step
        if one != other:
            direct.setdefault((one, other), lag.reason.says)
    reach = dict(direct)
    ids = [step.id for step in plan.steps]
    for middle in ids:
        for one in ids:
            if (one, middle) in reach:
                for other in ids:
                    if (middle, other) in reach and (one, other) not in reach and one != other:
                        reach[one, other] = reach[one, middle]
    return reach


def order(world: World, level: int, rng: Random, asked: Judgement | None = None) -> Exercise | None:
    """Put shuffled steps right; scored by what must lie before what, not by one list."""
    plan = world.plan
    if not about(asked, f"order-{plan.school}"):
        return None
    laid = [
        step
        for step in plan.steps
        if step.lays or STEP_INFO[step.kind].nature == "feature" or step.kind == "crease_check"
    ]
    count = LENGTHS[level - 1]
    if len(laid) < count:
        return None
    begin = rng.randint(0, len(laid) - count)
    own = laid[begin : begin + count]
    all_bound = bound(plan, world.house)
    pairs = {pair: why for pair, why in all_bound.items() if {*pair} <= {step.id for step in own}}
    if len(pairs) < LEAST_BOUND:
        return None
    shuffled = list(own)
    while [step.id for step in shuffled] == [step.id for step in own]:
        rng.shuffle(shuffled)
    return Exercise(
        "", "order", f"order-{plan.school}", level, 0,
        "Put these steps in an order in which every layer can lie.",
        Answer(order=tuple(step.id for step in own)),
        tuple(dict.fromkeys(pairs.values()))[:3],
        shows=Shown(steps=tuple(Line(step.id, told(world, step)) for step in shuffled)),
        marking=Ordered(tuple((one, other, why) for (one, other), why in sorted(pairs.items()))),
        sequence=plan,
    )  # fmt: skip


def mark_order(exercise: Exercise, answer: Answer, house: House) -> Mark:  # noqa: ARG001 - as all marks
    """The share of pairs that lie as they must; an order that is otherwise as good gets all of it."""
    knows_only(answer, "order")
    ids = [each.id for each in exercise.shows.steps]
    given = answer.order
    marking = exercise.marking
    assert isinstance(marking, Ordered)
    if given is None:
        return Mark(0.0, exercise.answer, ("Nothing was put in order.",), exercise.why)
    if sorted(given) != sorted(ids):
        raise Refused("order", given, "every step once: " + ", ".join(ids))
    place = {step: number for number, step in enumerate(given)}
    says = {each.id: each.says for each in exercise.shows.steps}
    broken = [(one, other, why) for one, other, why in marking.before if place[one] > place[other]]
    score = 1.0 - len(broken) / len(marking.before)
    follows = tuple(f"“{says[other]}” came before “{says[one]}”: {why}" for one, other, why in broken[:4])
    return Mark(score, exercise.answer, follows or ("Every layer can lie.",), exercise.why)


def fault(world: World, level: int, rng: Random, asked: Judgement | None = None) -> Exercise | None:
    """One seeded fault of the rule book in a sound plan: find the step, name the reason."""
    if not world.sound:
        return None
    names = list(MISTAKES if asked is None else FAULTS[asked.id])
    rng.shuffle(names)
    for name in names:
        found = made(world.now, MISTAKES[name], world.house)
        if found is None:
            continue
        plain = [each for each in found.trial.come if each.severity != "advice"]
        grave = plain or found.trial.come
        rules = dict.fromkeys(each.rule for each in grave)
        if len(rules) != 1 or not grave[0].steps:
            continue
        rule = next(iter(rules))
        if not about(asked, rule) or rule in {each.rule for each in world.now.findings}:
            continue
        faulty = found.trial.after
        broken = {each.rule for each in faulty.findings}
        others = [
            each.statement
            for each in BOOK.values()
            if each.id not in broken and (each.family == BOOK[rule].family or level < 3)
        ]
        wrong = alike(BOOK[rule].statement, others, 3)
        if len(wrong) < 3:
            continue
        choices, letter = lettered(rng, BOOK[rule].statement, wrong)
        return Exercise(
            "", "fault", rule, level, 0,
            "One thing is wrong in this plan. Which step is it, and which rule does it break?",
            Answer(step=grave[0].steps[0], choice=letter),
            (BOOK[rule].statement, BOOK[rule].reason),
            choices,
            Shown(steps=tuple(Line(done.step.id, line(done.step, world.names()), how(done, faulty)) for done in faulty.course.done)),
            Broken(rule, MISTAKES[name].comes_of_it, MISTAKES[name].words),
            faulty.sequence,
            world.plan,
        )  # fmt: skip
    return None


def mark_fault(exercise: Exercise, answer: Answer, house: House) -> Mark:
    """Half for a step that the broken rule names, half for the rule. The rule book is asked again."""
    knows_only(answer, "step", "choice")
    marking = exercise.marking
    assert exercise.sequence is not None
    assert isinstance(marking, Broken)
    ids = [step.id for step in exercise.sequence.steps]
    step = answer.step
    if step is not None and step not in ids:
        raise Refused("step", step, "a step of the plan: " + ", ".join(ids))
    found = [each for each in evaluate(exercise.sequence, house, try_fixes=False).findings if each.rule == marking.rule]
    named = {each for finding in found for each in (*finding.steps, *finding.against)}
    choice = chosen(exercise, answer)
    right_choice = choice is not None and choice.id == exercise.answer.choice
    score = 0.5 * (step in named) + 0.5 * right_choice
    follows = (*(each.says for each in found[:2]), marking.comes_of_it)
    return Mark(score, exercise.answer, follows, exercise.why)


def check_fault(exercise: Exercise) -> None:
    """Refuse an exercise about a rule that is none."""
    if isinstance(exercise.marking, Broken) and exercise.marking.rule not in rule_book():
        raise Refused("marking.rule", exercise.marking.rule, "a rule of the rule book")


def wait(world: World, level: int, rng: Random, asked: Judgement | None = None) -> Exercise | None:
    """What may follow at once, while a layer still rests."""
    plan = world.plan
    reach = bound(plan, world.house)
    rests = [step for step in plan.steps[:-4] if step.wait_s >= LEAST_REST_S and about(asked, f"wait-{step.kind}")]
    rng.shuffle(rests)
    for step in rests:
        later = plan.steps[plan.steps.index(step) + 1 :]
        free = [each for each in later if (step.id, each.id) not in reach]
        held = [each for each in later if (step.id, each.id) in reach]
        wrong = list(dict.fromkeys(told(world, each) for each in held))
        right = [told(world, each) for each in free if told(world, each) not in wrong]
        if not right or len(wrong) < 3:
            continue
        says = rng.choice(right)
        choices, letter = lettered(rng, says, alike(says, wrong, 3))
        reason = next(reach[step.id, each.id] for each in held)
        return Exercise(
            "", "wait", f"wait-{step.kind}", level, 0,
            f"“{told(world, step)}” was just done. What may follow at once, without waiting?",
            Answer(choice=letter),
            ("It shares no zone with what still rests there.", reason),
            choices,
            Shown(step=step.id),
            Waiting(
                {c.id: _why(reach, step, held, world, c.says) for c in choices if c.says != says},
                {c.id: next(each.id for each in (*held, *free) if told(world, each) == c.says) for c in choices},
            ),
            plan,
        )  # fmt: skip
    return None


def _why(reach: Mapping[tuple[str, str], str], step: Step, held: Sequence[Step], world: World, says: str) -> str:
    return next(reach[step.id, each.id] for each in held if told(world, each) == says)


def explain(world: World, level: int, rng: Random, asked: Judgement | None = None) -> Exercise | None:
    """Put the reason for a step in words, chosen from near misses: reasons that hold on other skin, or for other steps."""
    plan = world.plan
    true = {why for step in plan.steps for why in _reasons(step)}
    steps = [s for s in plan.steps if STEP_INFO[s.kind].roles and s.lays and about(asked, f"explain-{s.kind}")]
    if not steps:
        return None
    rng.shuffle(steps)
    others_skin = (with_skin(world.case, skin) for skin in rng.sample(list(skins()), OTHER_SKINS))
    elsewhere = [other for case in others_skin for other in planned(case, world.house).steps]
    for step in steps:
        own = _reasons(step)
        near = [
            why
            for each in elsewhere
            if each.kind == step.kind or level < 3
            for why in _reasons(each)
            if why not in true and why not in own
        ]
        others = [why for each in plan.steps if each.kind != step.kind for why in _reasons(each)[:1] if why not in own]
        # Where the same step has too few other reasons, those of other steps are taken in.
        near += others if level < 4 or len(set(near)) < 3 else []
        right = own[0]
        wrong = alike(right, near, 3)
        if len(wrong) < 3:
            continue
        choices, letter = lettered(rng, right, wrong)
        return Exercise(
            "", "explain", f"explain-{step.kind}", level, 0,
            f"Why is there “{told(world, step)}” on this face?",
            Answer(choice=letter),
            (right,),
            choices,
            Shown(step=step.id, reads=reads(world)),
            Explained(),
            plan,
        )  # fmt: skip
    return None


def _reasons(step: Step) -> list[str]:
    return [each for each in (*step.why, *(why for portion in step.portions for why in portion.why)) if each]


def reads(world: World) -> tuple[str, ...]:
    """What was read on a face, a condition a line."""
    found: dict[tuple[str, int], list[Any]] = {}
    for zone, here in world.reading.zones.items():
        for condition, grade in here.conditions.items():
            if grade:
                found.setdefault((condition, grade), []).append(zone)
    rows: Iterable[str] = (world.reading.cite(zones, condition) for (condition, _), zones in found.items())  # type: ignore[arg-type]
    return tuple(sentence(each) for each in dict.fromkeys(rows) if each)
