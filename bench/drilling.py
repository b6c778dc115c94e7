"""Exercises made and marked: every kind at every level."""

from __future__ import annotations

import time
from datetime import UTC, datetime, timedelta
from random import Random
from statistics import median

from bench.timing import Figure
from nabrel.core.drill.group import items, members, needs
from nabrel.core.drill.judgements import JUDGEMENTS
from nabrel.core.drill.kinds import KINDS
from nabrel.core.drill.making import LEVELS, exercise, mark
from nabrel.core.drill.practice import Answered, Practice, practised
from nabrel.core.drill.views import views
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate

ROUNDS = 2
STUDENTS, ANSWERS = 30, 300


def _practice(seed: int) -> Practice:
    """A student's answers of eight weeks."""
    rng, found, begun = Random(seed), Practice(), datetime(2026, 9, 1, tzinfo=UTC)
    names = list(JUDGEMENTS.values())
    for place in range(ANSWERS):
        judged = rng.choice(names)
        at = (begun + timedelta(hours=4 * place)).isoformat()
        found = practised(
            found, Answered(at, f"x-{seed}-{place}", judged.kind, judged.id, 2, float(rng.random() < 0.8), 20.0)
        )
    return found


def drilling() -> list[Figure]:
    """The median of all kinds, the slowest kind's median, and the slowest kind's marking."""
    house = House()
    made: dict[str, list[float]] = {}
    marked: dict[str, list[float]] = {}
    for kind in KINDS:
        for seed in range(ROUNDS):
            for level in LEVELS:
                started = time.perf_counter()
                found = exercise(kind, 100 + seed, 1, level, house)
                asked = time.perf_counter()
                assert mark(found, found.answer, house).score == 1.0
                made.setdefault(kind, []).append(1000 * (asked - started))
                marked.setdefault(kind, []).append(1000 * (time.perf_counter() - asked))
    told = []
    for seed in range(ROUNDS):
        found = exercise("texture", 100 + seed, 1, 2, house)
        wrong = next(each.id for each in found.choices if each.id != found.answer.choice)
        started = time.perf_counter()
        for view in views(found, {"choice": wrong}, house):
            evaluate(view.plan, house, try_fixes=False)
        told.append(1000 * (time.perf_counter() - started))
    group = {str(place): _practice(place) for place in range(STUDENTS)}
    now = datetime(2026, 11, 1, tzinfo=UTC)
    started = time.perf_counter()
    members(group, now), needs(group, now), items(group)
    glance = 1000 * (time.perf_counter() - started)
    slowest = max(made, key=lambda kind: median(made[kind]))
    longest = max(marked, key=lambda kind: median(marked[kind]))
    return [
        Figure(
            "one exercise made, median of all kinds and levels", median(t for own in made.values() for t in own), 200
        ),
        Figure(f"the same, of the slowest kind ({slowest})", median(made[slowest]), 200),
        Figure("what follows from an answer: both plans, evaluated (after it is marked)", median(told), 250),
        Figure(f"{STUDENTS} students with {ANSWERS} answers each at a glance", glance, 1000),
        Figure(f"one answer marked, of the slowest kind ({longest})", median(marked[longest]), 100),
    ]
