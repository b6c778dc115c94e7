"""How fast the machine was while the tests ran: the yardstick of the benchmark, laid on between tests.

The same tests take twice as long in a slow hour, and each of two workers is slowed by the other. A worker therefore takes
a yardstick after every tenth test, and the last line but one tells the time of the run in yardsticks, which that changes little.
"""

from __future__ import annotations

import statistics
import time

import pytest

from bench.yardstick import yardstick

EVERY = 10
"""Tests from one yardstick to the next: a thousandth of the time."""

NAME = "yardsticks_s"


class Pace:
    """The yardsticks that were taken in this process, or that its workers took; in seconds."""

    def __init__(self) -> None:
        self.begun = time.monotonic()
        self.tests = 0
        self.taken: list[float] = []

    @pytest.hookimpl(trylast=True)
    def pytest_runtest_teardown(self) -> None:
        self.tests += 1
        if self.tests % EVERY == 0:
            # The first of the two finds the caches as the test left them.
            self.taken.append(min(_timed() for _ in range(2)))

    def pytest_sessionfinish(self, session: pytest.Session) -> None:
        to_controller = getattr(session.config, "workeroutput", None)
        if to_controller is not None:
            to_controller[NAME] = self.taken

    @pytest.hookimpl(optionalhook=True)
    def pytest_testnodedown(self, node: object) -> None:
        self.taken.extend(getattr(node, "workeroutput", {}).get(NAME, ()))

    def pytest_terminal_summary(self, terminalreporter: pytest.TerminalReporter) -> None:
        if self.taken:
            terminalreporter.write_line(told(time.monotonic() - self.begun, self.taken))


def told(took_s: float, taken: list[float]) -> str:
    """The line on a run of so many seconds between whose tests these yardsticks were taken."""
    middle = statistics.median(taken)
    return f"{took_s:.0f} s are {took_s / middle / 1000:.0f} thousand yardsticks of {middle * 1000:.2f} ms as it took them meanwhile"


def _timed() -> float:
    begun = time.perf_counter()
    yardstick()
    return time.perf_counter() - begun
