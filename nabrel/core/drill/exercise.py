"""An exercise, an answer to it, and the mark."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, fields
from random import Random
from typing import Annotated, ClassVar

from annotated_types import Ge, Le

from nabrel.core.errors import Refused
from nabrel.core.plan.sequence import Sequence as Plan
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.ids import DrillKind, Zone

Level = Annotated[int, Ge(1), Le(5)]
MOST_CHOICES = 4
LETTERS = "abcdefgh"


@dataclass(frozen=True, slots=True)
class Line:
    """One line that is looked at or chosen from (then its id is a letter), and what else is told of it."""

    id: str
    says: str
    detail: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Answer:
    """What an exercise is answered with: each kind asks for some of it. None: nothing was said of that."""

    choice: str | None = None
    step: str | None = None
    order: tuple[str, ...] | None = None
    zones: tuple[Zone, ...] | None = None
    value: str | None = None
    drop: float | None = None

    @property
    def named(self) -> tuple[str, ...]:
        """What it says something of."""
        return tuple(each.name for each in fields(self) if getattr(self, each.name) is not None)


@dataclass(frozen=True, slots=True, kw_only=True)
class Shown:
    """What is looked at: each kind shows some of it. Colours are sRGB hex, but for a ``skin`` that is reckoned with (L*a*b*)."""

    step: str | None = None
    zone: Zone | None = None
    steps: tuple[Line, ...] = ()
    zones: tuple[Zone, ...] = ()
    values: tuple[Line, ...] = ()
    reads: tuple[str, ...] = ()
    face: Mapping[Zone, str] | None = None
    in_words: tuple[str, ...] = ()
    measures: Mapping[str, str | int | float | None] | None = None
    lower: tuple[str, ...] = ()
    upper: tuple[str, ...] = ()
    skin: Lab | str | None = None
    complexion: str | None = None
    foundation: str | None = None
    film_um: Annotated[float, Ge(0), Le(40)] | None = None
    wanted: Annotated[float, Ge(1), Le(20)] | None = None


@dataclass(frozen=True, slots=True)
class Marking:
    """What an exercise is marked by, and what follows from a choice; it would give the answer away. A kind says what it needs."""

    WRONG: ClassVar[str] = ""
    """What is said of any choice but the right one, where a kind has one sentence for it."""

    def follows(self, choice: str) -> tuple[str, ...]:  # noqa: ARG002 - kinds say it
        """What follows from a choice, by its letter; nothing where nothing is known of it."""
        return ()


@dataclass(frozen=True)
class Exercise:
    """A question whose answer the core computes.

    ``judgement`` names what is practised: a rule, a hue, a placement. ``sequence`` is the plan it is about, which goes with the marking
    but where the question is about the plan as it lies there; ``mended`` is that plan without the mistake that is in it. ``answer`` is
    exactly what is marked with 1.
    """

    id: str
    kind: DrillKind
    judgement: str
    level: int
    seed: int
    asks: str
    answer: Answer
    why: tuple[str, ...]
    choices: tuple[Line, ...] = ()
    shows: Shown = Shown()
    marking: Marking = Marking()
    sequence: Plan | None = None
    mended: Plan | None = None


@dataclass(frozen=True, slots=True)
class Mark:
    """What an answer is worth, 0 to 1, the right one, what would follow from the one given, and why."""

    score: float
    right: Answer
    follows: tuple[str, ...]
    why: tuple[str, ...]


def lettered(rng: Random, right: str, wrong: Sequence[str]) -> tuple[tuple[Line, ...], str]:
    """Choices in a drawn order, each with its letter, and the letter of the right one."""
    said = [right, *wrong]
    rng.shuffle(said)
    choices = tuple(Line(LETTERS[place], each) for place, each in enumerate(said))
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


def chosen(exercise: Exercise, answer: Answer) -> Line | None:
    """The choice that an answer names; None where it names none. Refuses a letter that is not there."""
    if answer.choice is None:
        return None
    found = next((each for each in exercise.choices if each.id == answer.choice), None)
    if found is None:
        raise Refused("choice", answer.choice, "one of " + ", ".join(each.id for each in exercise.choices))
    return found


def zones_given(exercise: Exercise, answer: Answer) -> frozenset[Zone]:
    """The zones of an answer. Refuses what is not asked about."""
    allowed = exercise.shows.zones
    for place, zone in enumerate(answer.zones or ()):
        if zone not in allowed:
            raise Refused(f"zones[{place}]", zone, "a zone that is asked about: " + ", ".join(allowed))
    return frozenset(answer.zones or ())


def knows_only(answer: Answer, *keys: str) -> None:
    """Refuse an answer with anything else in it."""
    for key in answer.named:
        if key not in keys:
            raise Refused(key, getattr(answer, key), "nothing: this exercise asks for " + " and ".join(keys))
