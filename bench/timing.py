"""How figures are measured, and how a row of the report is written."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable
from dataclasses import dataclass

from bench.yardstick import yardstick

RUNS = 60


def times(work: Callable[[], object], runs: int = RUNS) -> list[float]:
    """Milliseconds of repeated runs, after three to warm up."""
    for _ in range(3):
        work()
    found = []
    for _ in range(runs):
        start = time.perf_counter()
        work()
        found.append((time.perf_counter() - start) * 1000)
    return found


def late(found: list[float], share: float = 0.95) -> float:
    """The run that this share of all runs is not slower than."""
    return sorted(found)[max(0, round(len(found) * share) - 1)]


@dataclass(frozen=True, slots=True)
class Figure:
    """One measured figure. ``multiple`` is of the yardstick run in turn with it, None where it waits for more than the core."""

    what: str
    measured: float
    budget: float
    unit: str = "ms"
    multiple: float | None = None
    most: float | None = None

    def row(self) -> str:
        """One line of the report. A multiple decides where there is one: it holds on a slow machine as well."""
        over = self.measured > self.budget
        if self.multiple is None or self.most is None:
            return (
                f"| {self.what} | {self.measured:.1f} {self.unit} | {self.budget:g} {self.unit} | | | {_mark(over)} |"
            )
        fits = self.multiple <= self.most
        said = f"{self.multiple:.1f} | {self.most:g} | {_mark(over and not fits)} |"
        return f"| {self.what} | {self.measured:.1f} {self.unit} | {self.budget:g} {self.unit} | {said}"


def _mark(over: bool) -> str:
    return "OVER" if over else "within"


def of_the_core(what: str, work: Callable[[], object], budget: float, most: float, runs: int = RUNS) -> Figure:
    """The median of runs that take turns with the yardstick, in milliseconds and as a multiple of its median."""
    yard, found = [], []
    for _ in range(3):
        work()
    for _ in range(runs):
        yard.extend(times(yardstick, 2))
        start = time.perf_counter()
        work()
        found.append((time.perf_counter() - start) * 1000)
    median = statistics.median(found)
    return Figure(what, median, budget, multiple=median / statistics.median(yard), most=most)
