"""An exercise, an answer to it, and the mark."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from random import Random
from typing import Annotated, Any, Literal

from annotated_types import Ge, Le

from nabrel.core.errors import Refused
from nabrel.core.plan.sequence import Sequence as Plan
from nabrel.core.terms.ids import Zone

DrillKind = Literal[
    "order", "fault", "corrector", "depth", "leave_bare", "base_pair", "powder_where", "school", "texture", "amount",
    "wait", "diagnose", "placement", "explain",
]  # fmt: skip
Level = Annotated[int, Ge(1), Le(5)]
MOST_CHOICES = 4
LETTERS = "abcdefgh"


@dataclass(frozen=True, slots=True)
class Choice:
    """One thing to choose: its letter and what it says."""

    id: str
    says: str


@dataclass(frozen=True)
class Exercise:
    """A question whose answer the core computes.

    ``judgement`` names what is practised: a rule, a hue, a placement. ``shows`` is what is looked at, in words and figures;
    ``marking`` what it is marked by, which would give the answer away, as ``sequence`` does, the plan it is about, but where the
    question is about the plan as it lies there; ``mended`` is that plan without the mistake that is in it. ``answer`` is exactly what
    is marked with 1.
    """

    id: str
    kind: DrillKind
    judgement: str
    level: int
    seed: int
    asks: str
    answer: Mapping[str, Any]
    why: tuple[str, ...]
    choices: tuple[Choice, ...] = ()
    shows: Mapping[str, Any] = field(default_factory=dict)
    marking: Mapping[str, Any] = field(default_factory=dict)
    sequence: Plan | None = None
    mended: Plan | None = None


@dataclass(frozen=True, slots=True)
class Mark:
    """What an answer is worth, 0 to 1, the right one, what would follow from the one given, and why."""

    score: float
    right: Mapping[str, Any]
    follows: tuple[str, ...]
    why: tuple[str, ...]


def lettered(rng: Random, right: str, wrong: Sequence[str]) -> tuple[tuple[Choice, ...], str]:
    """Choices in a drawn order, each with its letter, and the letter of the right one."""
    said = [right, *wrong]
    rng.shuffle(said)
    choices = tuple(Choice(LETTERS[place], each) for place, each in enumerate(said))
    return choices, next(each.id for each in choices if each.says == right)


def alike(right: str, others: Sequence[str], count: int) -> list[str]:
    """Of other sentences those whose length is nearest, on both sides of it where there are such: length gives nothing away."""
    rest = sorted(
        dict.fromkeys(each for each in others if each != right), key=lambda each: (abs(len(each) - len(right)), each)
    )
    longer = [each for each in rest if len(each) >= len(right)]
    shorter = [each for each in rest if len(each) < len(right)]
    found: list[str] = []
    while len(found) < count and (longer or shorter):
        for side in (longer, shorter):
            if side and len(found) < count:
                found.append(side.pop(0))
    return found


def chosen(exercise: Exercise, answer: Mapping[str, Any]) -> Choice | None:
    """The choice that an answer names; None where it names none. Refuses a letter that is not there."""
    letter = answer.get("choice")
    if letter is None:
        return None
    found = next((each for each in exercise.choices if each.id == letter), None)
    if found is None:
        raise Refused("choice", letter, "one of " + ", ".join(each.id for each in exercise.choices))
    return found


def zones_given(exercise: Exercise, answer: Mapping[str, Any]) -> frozenset[Zone]:
    """The zones of an answer. Refuses what is not asked about."""
    given = answer.get("zones", [])
    allowed = exercise.shows.get("zones", [])
    if not isinstance(given, list | tuple):
        raise Refused("zones", given, "a list of zones")
    for place, zone in enumerate(given):
        if zone not in allowed:
            raise Refused(f"zones[{place}]", zone, "a zone that is asked about: " + ", ".join(allowed))
    return frozenset(given)


def knows_only(answer: Mapping[str, Any], *keys: str) -> None:
    """Refuse an answer with anything else in it."""
    for key in answer:
        if key not in keys:
            raise Refused(key, answer[key], "nothing: this exercise asks for " + " and ".join(keys))
