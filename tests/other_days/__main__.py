"""``python -m tests.other_days [TEST …]``: the tests on every other day, one day after another."""

from __future__ import annotations

import sys

from tests.other_days import DAYS, run_on

WHOLE = ("tests/core", "tests/web", "tests/store", "tests/formats", "tests/golden", "tests/browser")


def main() -> int:
    """Run, and say how each day went."""
    bad = 0
    for day in DAYS:
        found = run_on(day, sys.argv[1:] or WHOLE, "-n", "2", "--dist", "worksteal")
        bad += found.returncode != 0
        print(f"{day.words}: {'green' if not found.returncode else 'RED'}\n{found.stdout[-1500:]}", flush=True)
    return bad


if __name__ == "__main__":
    sys.exit(main())
