"""Run all parts, or those named, and write the figures into docs/reliability.md."""

from __future__ import annotations

import argparse
import os
import platform
import sys
import tempfile
import time
from collections.abc import Callable
from datetime import date
from pathlib import Path

from tests.torture.college import college
from tests.torture.contract import fuzz
from tests.torture.crowd import editors, slow_clients
from tests.torture.figures import Found
from tests.torture.power import power_loss
from tests.torture.violence import full_disk, kills, migrations_killed, restores, tidy

PAGE = Path(__file__).parents[2] / "docs" / "reliability.md"
BEGIN, END = "<!-- figures -->", "<!-- end of figures -->"
HEAD = "| part | what was done and seen | |"
PARTS: dict[str, Callable[[Path, float], Found]] = {
    "contract": lambda folder, share: fuzz(folder, round(10_000 * share)),
    "kills": lambda folder, share: kills(folder, round(80 * share)),
    "power": lambda folder, share: power_loss(folder, max(12, round(18 * share))),
    "migrations": lambda folder, _: migrations_killed(folder),
    "restores": lambda folder, share: restores(folder, round(50 * share)),
    "disk": lambda folder, _: full_disk(folder),
    "editors": lambda folder, share: editors(folder, 20, 30 * share),
    "slow": lambda folder, _: slow_clients(folder, 300),
    "college": college,
}


def main() -> int:
    """Exit 0 where every part held. Figures of parts that were run whole are kept."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("parts", nargs="*", metavar="PART", help="one or more of " + ", ".join(PARTS))
    parser.add_argument("--share", type=float, default=1.0, help="of the usual numbers, such as 0.1 for a look")
    given = parser.parse_args()
    asked = given.parts or list(PARTS)
    if unknown := [part for part in asked if part not in PARTS]:
        parser.error(f"no part {unknown[0]}; there are " + ", ".join(PARTS))
    rows: list[str] = []
    wrong = 0
    with tempfile.TemporaryDirectory() as name:
        for part in asked:
            folder = Path(name) / part
            folder.mkdir()
            start = time.monotonic()
            found = PARTS[part](folder, given.share)
            tidy(folder)
            wrong += len(found.wrong)
            rows.append(found.row())
            print(f"{rows[-1]} ({time.monotonic() - start:.0f} s)", flush=True)
            for each in found.wrong:
                print("   ", each, flush=True)
    if given.share == 1.0:
        _write(rows)
    return 1 if wrong else 0


def _write(rows: list[str]) -> None:
    """Write the rows of the parts that were run whole; those of other parts stay as they were."""
    page = PAGE.read_text(encoding="utf-8")
    before, _, rest = page.partition(BEGIN)
    stored, _, after = rest.partition(END)
    table = {
        row.split("|")[1]: row for row in (*stored.splitlines(), *rows) if row.startswith("| ") and "---" not in row
    }
    table.pop(HEAD.split("|")[1], None)
    head = [
        f"Last run {date.today():%Y-%m-%d}, {os.cpu_count()} cores, Python {platform.python_version()}.", "",
        HEAD, "|---|---|---|",
    ]  # fmt: skip
    rows = list(table.values())
    PAGE.write_text(before + "\n".join([BEGIN, *head, *rows, END]) + after, encoding="utf-8")


if __name__ == "__main__":
    sys.exit(main())
