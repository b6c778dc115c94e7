"""Exercises made and marked: every kind at every level."""

from __future__ import annotations

import time
from statistics import median

from bench.timing import Figure
from nabrel.core.drill.making import KINDS, LEVELS, exercise, mark
from nabrel.core.house import House

ROUNDS = 2


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
    slowest = max(made, key=lambda kind: median(made[kind]))
    longest = max(marked, key=lambda kind: median(marked[kind]))
    return [
        Figure(
            "one exercise made, median of all kinds and levels", median(t for own in made.values() for t in own), 200
        ),
        Figure(f"the same, of the slowest kind ({slowest})", median(made[slowest]), 200),
        Figure(f"one answer marked, of the slowest kind ({longest})", median(marked[longest]), 100),
    ]
