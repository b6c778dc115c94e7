"""Sets of exercises made by hand, and tests in which all get the same."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Annotated

from annotated_types import Ge, Le, MaxLen, MinLen

from nabrel.core.case.case import Case
from nabrel.core.drill.exercise import Answer, Exercise, Level
from nabrel.core.drill.judgements import JUDGEMENTS
from nabrel.core.drill.kinds import KINDS
from nabrel.core.drill.making import exercise, looks
from nabrel.core.errors import Impossible, Refused
from nabrel.core.house import House
from nabrel.core.terms.ids import DrillKind
from nabrel.core.terms.limits import LIMITS
from nabrel.core.terms.words import counted, join_words
from nabrel.core.terms.zones import ZONE_INFO

MOST_PARTS, MOST_OF_A_PART, MOST_IN_A_SET = 20, int(LIMITS.drill_count.high), 60
MOST_MINUTES = int(LIMITS.drill_minutes.high)
MOST_TRIES = 12
"""So many seeds are tried for a question that no other of its set looks like."""
CODE_LETTERS = "ABCDEFGHJKMNPQRSTUVWXYZ23456789"
"""What a code is made of: nothing that is taken for another when it is read from a board."""
CODE_LENGTH = 6


@dataclass(frozen=True, slots=True)
class SetPart:
    """So many exercises of a kind at a level; of one judgement, where one is named."""

    kind: DrillKind
    level: Level = 3
    count: Annotated[int, Ge(1), Le(MOST_OF_A_PART)] = 3
    judgement: str | None = None


Parts = Annotated[tuple[SetPart, ...], MinLen(1), MaxLen(MOST_PARTS)]


@dataclass(frozen=True, slots=True)
class Wanted:
    """One question of a set, by its place: the kind, level, judgement and number it is made from."""

    place: int
    kind: DrillKind
    level: Level
    judgement: str | None
    number: int


def checked_parts(parts: Sequence[SetPart]) -> tuple[SetPart, ...]:
    """The parts of a set. Refuses a judgement that its kind does not practise, and more exercises than a set may have."""
    for place, part in enumerate(parts):
        if part.judgement is None:
            continue
        known = JUDGEMENTS.get(part.judgement)
        if known is None or known.kind != part.kind:
            allowed = join_words([each.id for each in JUDGEMENTS.values() if each.kind == part.kind], "or")
            raise Refused(f"parts[{place}].judgement", part.judgement, allowed)
    total = sum(part.count for part in parts)
    if not 1 <= total <= MOST_IN_A_SET:
        raise Refused("parts", f"{total} exercises", f"1 to {MOST_IN_A_SET} in a set")
    return tuple(parts)


def wanted(parts: Sequence[SetPart]) -> tuple[Wanted, ...]:
    """The questions of a set in their order: part by part."""
    found: list[Wanted] = []
    for part in parts:
        for _ in range(part.count):
            found.append(Wanted(len(found), part.kind, part.level, part.judgement, len(found) + 1))
    return tuple(found)


def questions(parts: Sequence[SetPart], seed: int, house: House, faces: Sequence[Case] = ()) -> Iterator[Exercise]:
    """The exercises of a set, no two alike, the same for the same seed, house and faces; made one by one as they are taken.

    They are about the faces that are named, in turn. A face that gives no exercise of a kind is passed over; where none gives one,
    a drawn face does.
    """
    seen: frozenset[str] = frozenset()
    for place in range(len(wanted(parts))):
        made = question(parts, seed, place, house, faces, seen)
        seen |= {looks(made)}
        yield made


def question(
    parts: Sequence[SetPart], seed: int, place: int, house: House, faces: Sequence[Case], seen: frozenset[str]
) -> Exercise:
    """One exercise of a set by its place, which looks like none of those before it (``seen``, by :func:`looks`)."""
    each = wanted(parts)[place]
    for turn in range(MOST_TRIES):
        made = _made(each, seed, turn, house, faces)
        if looks(made) not in seen:
            break
    return made


def _made(each: Wanted, seed: int, turn: int, house: House, faces: Sequence[Case]) -> Exercise:
    # Numbers of further tries lie behind those of all questions: no other question has them.
    number = each.number + turn * MOST_IN_A_SET
    for step in range(len(faces)):
        case = faces[(each.place + step) % len(faces)]
        try:
            return exercise(each.kind, seed, number, each.level, house, case, each.judgement)
        except Impossible:
            continue
    return exercise(each.kind, seed, number, each.level, house, judgement=each.judgement)


def says(parts: Sequence[SetPart]) -> str:
    """What is in a set, in a sentence: "4 “Which corrector” at level 3"."""
    return join_words(
        f"{part.count} “{JUDGEMENTS[part.judgement].words if part.judgement else KINDS[part.kind].words}” at level {part.level}"
        for part in parts
    )


def given_words(asked: Exercise, answer: Answer) -> str:
    """What was answered, in words: the choice, the places, the order."""
    said: list[str] = []
    if answer.choice is not None:
        said.append(next((each.says for each in asked.choices if each.id == answer.choice), ""))
    named = {each.id: each.says for each in asked.shows.steps}
    if answer.step is not None:
        said.insert(0, named.get(answer.step, ""))
    if answer.order is not None:
        said.append("; ".join(named.get(each, each) for each in answer.order))
    if answer.zones is not None:
        said.append(", ".join(ZONE_INFO[zone].words for zone in answer.zones) or "nowhere")
    if answer.value is not None:
        said.append(next((each.says for each in asked.shows.values if each.id == answer.value), ""))
    if answer.drop is not None:
        said.append(f"darker by {answer.drop:g} L*")
    return ". ".join(each for each in said if each)


def length_words(parts: Sequence[SetPart]) -> str:
    """How long a set is: "12 exercises"."""
    return counted(sum(part.count for part in parts), "exercise")
