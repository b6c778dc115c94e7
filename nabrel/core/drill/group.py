"""A group at a glance: who needs what, and which exercises are too easy, too hard, or disputed by the answers."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from math import sqrt
from statistics import mean, median
from typing import Literal

from nabrel.core.drill.judgements import JUDGEMENTS, Judgement
from nabrel.core.drill.practice import Answered, Practice, Progress, level_of, progress_of, remembered, weak
from nabrel.core.drill.spacing import Skill, chance

A_WEEK_DAYS = 7
"""So many days count as this week."""
LEAST_VARIANCE = 0.01
"""The variance of answers that are nearly all right, or all wrong: so few of them say no more."""

LEAST_ANSWERS, LEAST_STUDENTS = 6, 3
"""Fewer answers, or by fewer students, say nothing of an exercise."""
TOO_EASY, TOO_HARD = 0.97, 0.35
OFF, SURE = 0.2, 2.0
"""So much better or worse than these students' skill would have it, and an exercise is too easy or too hard."""
WEAKEST = 3
Verdict = Literal["too_easy", "too_hard", "disputed"]
VERDICT_WORDS: Mapping[Verdict, str] = {"too_easy": "Too easy", "too_hard": "Too hard", "disputed": "Disputed"}


@dataclass(frozen=True, slots=True)
class Member:
    """One student at a glance: how able, at which level, how much is recalled and is due, what is needed most, when last here."""

    student: str
    able: Skill
    level: int
    remembered: float
    practised: int
    due: int
    weakest: tuple[Progress, ...]
    last: str
    this_week: int


@dataclass(frozen=True, slots=True)
class GroupNeed:
    """A judgement that somebody needs: how much of it the group recalls, and who needs it, the weakest first."""

    judgement: Judgement
    recalled: float
    students: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Item:
    """What was asked of several, with the share right, what their skill would have it, and what is the matter with it.

    One exercise of a set that is the same for all (``set``), or all exercises of a judgement at a level. ``commonest_wrong`` is the answer
    that was given most beside the right one.
    """

    judgement: Judgement
    level: int
    exercise: str
    set: str | None
    answers: int
    students: int
    right: float
    expected: float
    verdict: Verdict
    commonest_wrong: str


def members(group: Mapping[str, Practice], now: datetime) -> tuple[Member, ...]:
    """Every student at a glance, in the order given."""
    found = []
    for student, practice in group.items():
        rows = progress_of(practice, now)
        last = practice.answers[-1].at if practice.answers else ""
        week = sum((now - datetime.fromisoformat(each.at)).days < A_WEEK_DAYS for each in practice.answers)
        found.append(
            Member(
                student, practice.able, level_of(practice), remembered(rows),
                sum(each.standing != "new" for each in rows), sum(each.standing == "fades" for each in rows),
                weak(rows, WEAKEST), last, week,
            )
        )  # fmt: skip
    return tuple(found)


def needs(group: Mapping[str, Practice], now: datetime) -> tuple[GroupNeed, ...]:
    """What the group needs: judgements by how many need them, then by how little is recalled."""
    found: dict[str, list[tuple[float, str]]] = {}
    recalled: dict[str, list[float]] = {}
    for student, practice in group.items():
        rows = progress_of(practice, now)
        for row in weak(rows, len(rows)):
            found.setdefault(row.judgement.id, []).append((row.recall * row.right, student))
        for row in rows:
            if row.answers:
                recalled.setdefault(row.judgement.id, []).append(row.recall)
    rows_found = [
        GroupNeed(JUDGEMENTS[name], mean(recalled[name]), tuple(student for _, student in sorted(own)))
        for name, own in found.items()
    ]
    return tuple(sorted(rows_found, key=lambda each: (-len(each.students), each.recalled, each.judgement.id)))


def items(group: Mapping[str, Practice]) -> tuple[Item, ...]:
    """What is the matter with exercises, by the answers: hardest and most disputed first."""
    asked: dict[tuple[str, int, str, str | None], list[tuple[str, Answered]]] = {}
    for student, practice in group.items():
        for each in practice.answers:
            if each.judgement in JUDGEMENTS:
                same = each.exercise if each.set is not None else ""
                asked.setdefault((each.judgement, each.level, same, each.set), []).append((student, each))
    able = {student: practice.able for student, practice in group.items()}
    found = []
    for (judgement, level, exercise, own_set), answers in asked.items():
        students = {student for student, _ in answers}
        if len(answers) < LEAST_ANSWERS or len(students) < LEAST_STUDENTS:
            continue
        right = mean(each.score for _, each in answers)
        expected = mean(chance(able[student].ability, each.level) for student, each in answers)
        wrong = Counter(each.given for _, each in answers if each.score < 1.0 and each.given)
        commonest_wrong, _ = wrong.most_common(1)[0] if wrong else ("", 0)
        verdict = _verdict(answers, able, right, expected, exercise=bool(exercise))
        if verdict is not None:
            found.append(
                Item(
                    JUDGEMENTS[judgement], level, exercise, own_set, len(answers), len(students), right, expected,
                    verdict, commonest_wrong,
                )
            )  # fmt: skip
    order = {"disputed": 0, "too_hard": 1, "too_easy": 2}
    return tuple(sorted(found, key=lambda each: (order[each.verdict], each.right, each.judgement.id, each.exercise)))


def _verdict(
    answers: list[tuple[str, Answered]], able: Mapping[str, Skill], right: float, expected: float, *, exercise: bool
) -> Verdict | None:
    middle = median(able[student].ability for student, _ in answers)
    abler = [each for student, each in answers if able[student].ability > middle]
    others = [each for student, each in answers if able[student].ability <= middle]
    if len(abler) >= LEAST_STUDENTS and len(others) >= LEAST_STUDENTS:
        spread = SURE * sqrt(max(right * (1 - right), LEAST_VARIANCE) * (1 / len(abler) + 1 / len(others)))
        if mean(each.score for each in others) - mean(each.score for each in abler) >= max(OFF, spread):
            return "disputed"
        given = Counter(each.given for each in abler if each.score < 1.0 and each.given)
        if exercise and given and given.most_common(1)[0][1] > sum(each.score >= 1.0 for each in abler):
            return "disputed"
    # What chance alone would do to so many answers is nothing that an exercise is blamed for.
    by_chance = SURE * sqrt(max(expected * (1 - expected), LEAST_VARIANCE) / len(answers))
    if right >= TOO_EASY and right - expected >= max(OFF / 2, by_chance):
        return "too_easy"
    if expected - right >= max(OFF, by_chance) or (right <= TOO_HARD and expected - right >= by_chance):
        return "too_hard"
    return None
