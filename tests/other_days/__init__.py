"""The tests on other days: Debian's faketime sets the clock of a process and of all that it starts.

``python -m tests.other_days`` runs the tests that are named (all, where none are) on every one of them; a sample is part of
``make test`` (``tests/test_other_days.py``).
"""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

HERE = Path(__file__).parent
PINNED = "NABREL_OTHER_DAY"
"""Set where the clock is set already: the tests of that process do not set it once more."""


@dataclass(frozen=True)
class Day:
    """A moment on the clock, in a time zone."""

    words: str
    moment: str
    zone: str = "UTC"


DAYS = (
    Day("the last of February of a leap year", "2028-02-29 12:00:00"),
    Day("the last minutes of New Year's Eve", "2026-12-31 23:59:40"),
    Day("the night when summer time begins", "2027-03-28 01:59:40", "Europe/Berlin"),
    Day("the night when summer time ends", "2027-10-31 02:59:40", "Europe/Berlin"),
    Day("three years ahead", "2029-12-01 12:00:00"),
)


def run_on(day: Day, tests: Sequence[str], *more: str) -> subprocess.CompletedProcess[str]:
    """Run tests with the clock set to a day."""
    faketime = shutil.which("faketime")
    if faketime is None:
        raise RuntimeError("faketime is not installed: make faketime (Debian's package)")
    # faketime sets the clock of the day alone: what waits goes by the other one. The sleep of Python goes by neither then.
    environment = {
        **os.environ,
        "TZ": day.zone,
        "FAKETIME_DONT_FAKE_MONOTONIC": "1",
        "PYTHONPATH": str(HERE / "sleep"),
        PINNED: day.words,
    }
    command = [faketime, day.moment, sys.executable, "-m", "pytest", "-q", "-p", "no:cacheprovider", *more, *tests]
    return subprocess.run(
        command, env=environment, cwd=HERE.parents[1], capture_output=True, text=True, check=False, timeout=3000
    )
