"""Making exercises from a seed, and marking answers: each kind has one function for either."""

from __future__ import annotations

from dataclasses import replace
from random import Random

from nabrel.core.case.case import Case
from nabrel.core.drill.exercise import Answer, Exercise, Mark
from nabrel.core.drill.judgements import JUDGEMENTS, of_kind
from nabrel.core.drill.kinds import KINDS
from nabrel.core.drill.world import drawn, given
from nabrel.core.errors import Fault, Impossible, Refused
from nabrel.core.house import House
from nabrel.core.terms.ids import DrillKind

MOST_FACES = 60
"""So many faces are drawn for one exercise at most; most need one or two."""
LEVELS = (1, 2, 3, 4, 5)


def exercise(
    kind: DrillKind,
    seed: int,
    number: int,
    level: int,
    house: House,
    case: Case | None = None,
    judgement: str | None = None,
) -> Exercise:
    """One exercise, the same for the same kind, seed, number, level, house, case and judgement.

    Refuses a case that gives none of the kind, and a judgement that another kind practises. Every answer is held against its own
    marking before it is asked: it scores 1, and no other choice does.
    """
    asked = JUDGEMENTS.get(judgement) if judgement is not None else None
    if judgement is not None and (asked is None or asked.kind != kind):
        raise Refused("judgement", judgement, "one of " + ", ".join(each.id for each in of_kind(kind)))
    rng = Random(f"{kind} {seed} {number} {level}" + (f" {judgement}" if judgement is not None else ""))
    tries = MOST_FACES if case is None else len(LEVELS) * 3
    for _ in range(tries):
        world = drawn(rng, house, asked) if case is None else given(case, house)
        found = KINDS[kind].make(world, level, rng, asked)
        if found is not None:
            named = replace(found, id=f"{kind}-{seed}-{number}", seed=seed, why=tuple(dict.fromkeys(found.why)))
            if _holds(named, house):
                return named
    if case is not None and asked is not None:
        raise Impossible("judgement", asked.id, "a judgement that this face gives an exercise of; another level may")
    if case is not None:
        raise Impossible("kind", kind, "a kind that this face gives an exercise of; another level may")
    raise Fault(f"no face gave an exercise of {kind} at level {level} for seed {seed}")


def exercises(
    kind: DrillKind,
    seed: int,
    count: int,
    level: int,
    house: House,
    case: Case | None = None,
    judgement: str | None = None,
) -> list[Exercise]:
    """So many exercises of a kind, or of one judgement, no two alike."""
    found: list[Exercise] = []
    seen: set[str] = set()
    number = 0
    while len(found) < count:
        number += 1
        if number > 4 * count + MOST_FACES:
            raise Impossible("count", count, f"{len(found)} or fewer: this face gives no more that differ")
        made = exercise(kind, seed, number, level, house, case, judgement)
        alike = looks(made)
        if alike not in seen:
            seen.add(alike)
            found.append(made)
    return found


def looks(made: Exercise) -> str:
    """What tells an exercise from another: what it asks, of what, with which choices in any order."""
    said = sorted(choice.says for choice in made.choices)
    return repr((made.kind, made.asks, said, made.shows))


def mark(asked: Exercise, answer: Answer, house: House) -> Mark:
    """What an answer is worth. Refuses what the exercise does not ask for."""
    return KINDS[asked.kind].mark(asked, answer, house)


def _holds(made: Exercise, house: House) -> bool:
    if mark(made, made.answer, house).score != 1.0:
        return False
    others = (replace(made.answer, choice=each.id) for each in made.choices if each.id != made.answer.choice)
    return all(mark(made, other, house).score < 1.0 for other in others)
