"""What a student should practise next, and at which level: one card a judgement, spaced by how it fades.

Spacing is FSRS-6 (the ``fsrs`` package): stability and difficulty of a memory from its answers, asked again when recall falls to
the share that is wanted. The level follows a Rasch model: how able, given which levels were answered how well.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import UTC, datetime
from functools import cache
from math import exp, sqrt
from typing import TYPE_CHECKING, Annotated, Literal

from annotated_types import Ge, Le

from nabrel.core.drill.exercise import Level
from nabrel.core.terms.limits import Text
from nabrel.core.terms.statistics import Z90

if TYPE_CHECKING:
    from fsrs import Card, Rating, Scheduler

MOST_TURNS = 30
"""Turns of Newton's method, which needs five or six."""
NEARLY_RIGHT = 0.9
"""A score below this was hard, however soon it came."""

WANTED_RECALL = 0.92
"""A judgement is asked again when it would be recalled so often."""
WANTED_SUCCESS = 0.8
"""The level at which a student is right about so often: hard enough to learn, easy enough to go on."""
HARDNESS = (-1.6, -0.8, 0.0, 0.8, 1.6)
"""How hard each level is, in logits: what an able student of 0 gets right half the time is level 3."""
PRIOR_SD = 1.5
"""How far students lie apart before anything is known of one, in logits."""
SLOW, QUICK = 2.5, 0.6
"""So many times the usual seconds are slow or quick; a slow answer is a hard one, a quick one is easy."""
USUAL_S = 25.0
"""What an answer usually takes."""
State = Literal[1, 2, 3]


@dataclass(frozen=True, slots=True)
class Known:
    """What a student knows of one judgement: when it was last asked and is due (moments in UTC), and how firm the memory is.

    ``stability`` is days until recall falls to 90 %, ``difficulty`` 1 to 10; both are None before the first answer.
    """

    judgement: Text
    due: str
    last: str | None = None
    state: State = 1
    step: Annotated[int, Ge(0), Le(20)] | None = None
    stability: Annotated[float, Ge(0)] | None = None
    difficulty: Annotated[float, Ge(1), Le(10)] | None = None
    answers: Annotated[int, Ge(0)] = 0


@dataclass(frozen=True, slots=True)
class Skill:
    """How able a student is, in logits, with the interval that holds it in nine cases of ten, and from how many answers."""

    ability: float
    low: float
    high: float
    answers: int


def after(known: Known | None, judgement: str, score: float, seconds: float, now: datetime) -> Known:
    """What is known of a judgement after an answer of this score (0 to 1) that took so many seconds."""
    card = _card(known, now)
    reviewed, _ = _scheduler().review_card(card, _rated(score, seconds), now)
    return Known(
        judgement,
        reviewed.due.astimezone(UTC).isoformat(timespec="seconds"),
        now.astimezone(UTC).isoformat(timespec="seconds"),
        reviewed.state.value,
        reviewed.step,
        reviewed.stability,
        reviewed.difficulty,
        (known.answers if known is not None else 0) + 1,
    )


def recall(known: Known, now: datetime) -> float:
    """How likely a judgement is recalled at a moment, 0 to 1; 0 before the first answer."""
    return float(_scheduler().get_card_retrievability(_card(known, now), now)) if known.last is not None else 0.0


def next_judgement(known: Iterable[Known], judgements: Sequence[str], now: datetime) -> str:
    """What to ask next: what is due, the most faded first; then what was never asked; then what will fade next."""
    by_name = {each.judgement: each for each in known if each.judgement in judgements}
    due = [each for each in by_name.values() if datetime.fromisoformat(each.due) <= now]
    if due:
        return min(due, key=lambda each: (recall(each, now), each.judgement)).judgement
    new = [each for each in judgements if each not in by_name]
    if new:
        return new[0]
    return min(by_name.values(), key=lambda each: (each.due, each.judgement)).judgement


def skill(answers: Iterable[tuple[int, float]]) -> Skill:
    """How able a student is, from the level and score of every answer: a Rasch model with a normal prior, by Newton's method."""
    rows = [(HARDNESS[level - 1], score) for level, score in answers]
    ability = 0.0
    for _ in range(MOST_TURNS):
        chances = [1 / (1 + exp(-(ability - hard))) for hard, _ in rows]
        slope = sum(score - p for (_, score), p in zip(rows, chances, strict=True)) - ability / PRIOR_SD**2
        bend = sum(p * (1 - p) for p in chances) + 1 / PRIOR_SD**2
        step = slope / bend
        ability += step
        if abs(step) < 1e-9:
            break
    spread = Z90 / sqrt(bend)
    return Skill(ability, ability - spread, ability + spread, len(rows))


def chance(ability: float, level: int) -> float:
    """How likely somebody of this ability, in logits, is right at a level, 0 to 1."""
    return 1 / (1 + exp(HARDNESS[level - 1] - ability))


def level_for(found: Skill) -> Level:
    """The hardest level at which this student is right about as often as is wanted, 1 at least."""
    levels = range(1, len(HARDNESS) + 1)
    return max((level for level in levels if chance(found.ability, level) >= WANTED_SUCCESS), default=1)


def forgotten(known: Known, now: datetime) -> Known:
    """The same, due now: a student asked to practise it, or got it wrong in class."""
    return replace(known, due=now.astimezone(UTC).isoformat(timespec="seconds"))


def _rated(score: float, seconds: float) -> Rating:
    from fsrs import Rating  # noqa: PLC0415 - only where something is practised

    if score < 0.5:
        return Rating.Again
    if score < NEARLY_RIGHT or seconds > SLOW * USUAL_S:
        return Rating.Hard
    return Rating.Easy if seconds < QUICK * USUAL_S and score >= 1.0 else Rating.Good


@cache
def _scheduler() -> Scheduler:
    from fsrs import Scheduler  # noqa: PLC0415

    # No steps of minutes: a student comes back on another day. No fuzz: the same answers give the same days.
    return Scheduler(desired_retention=WANTED_RECALL, learning_steps=(), relearning_steps=(), enable_fuzzing=False)


def _card(known: Known | None, now: datetime) -> Card:
    from fsrs import Card, State  # noqa: PLC0415

    if known is None or known.last is None:
        return Card(card_id=1, due=now)
    return Card(
        card_id=1,
        state=State(known.state),
        step=known.step,
        stability=known.stability,
        difficulty=known.difficulty,
        due=datetime.fromisoformat(known.due),
        last_review=datetime.fromisoformat(known.last),
    )
