"""Contract fuzzing: schemathesis reads the served document and calls everything in it, sound and unsound."""

from __future__ import annotations

import json
import re
import subprocess
import sys
from pathlib import Path

from tests.served import serving
from tests.torture.figures import Found

EXAMPLES, SEED = 45, 13
NOT_ASKED = "positive_data_acceptance"
"""Left out: much of what the document allows by itself is refused for what it says together, such as an id that is not there."""


def fuzz(folder: Path, calls: int) -> Found:
    """At least so many calls; no failure of the server, and no answer that the document does not tell of."""
    found = Found("contract fuzzing")
    done = 0
    seen: dict[int, int] = {}
    seed = SEED
    with serving(folder / "fuzz", "--demo") as (process, address):
        while done < calls and len(found.wrong) == 0:
            report = folder / f"fuzz-{seed}.ndjson"
            command = [
                str(Path(sys.executable).with_name("schemathesis")), "run", f"{address}/api/openapi.json",
                "--phases", "coverage,fuzzing,stateful", "--max-examples", str(EXAMPLES), "--workers", "1",
                "--checks", "all", "--exclude-checks", NOT_ASKED, "--seed", str(seed), "--continue-on-failure",
                "--warnings", "off", "--report", "ndjson", "--report-ndjson-path", str(report),
            ]  # fmt: skip
            ran = subprocess.run(command, capture_output=True, text=True, check=False)
            made = re.search(r"([\d,]+) generated", ran.stdout)
            if made is None:
                found.wrong.append("schemathesis did not run: " + (ran.stdout + ran.stderr)[-300:])
                break
            done += int(made[1].replace(",", ""))
            for status in statuses(report):
                seen[status] = seen.get(status, 0) + 1
            if ran.returncode:
                found.wrong += re.findall(r"^  ❌ (.+)$", ran.stdout, re.MULTILINE) or [ran.stdout[-300:]]
            seed += 1
        if process.poll() is not None:
            found.wrong.append("the server ended")
    failures = sum(count for status, count in seen.items() if status >= 500 and status not in (503, 507))
    if failures:
        found.wrong.append(f"{failures} answers of 500 and more")
    told = ", ".join(f"{count:,} × {status}" for status, count in sorted(seen.items()))
    found.figures = f"{done:,} calls over {seed - SEED} seeds: {told or 'no statuses kept'}"
    return found


def statuses(report: Path) -> list[int]:
    """The status of every answer in a report."""
    found: list[int] = []

    def walk(node: object) -> None:
        if isinstance(node, dict):
            if isinstance(node.get("status_code"), int):
                found.append(node["status_code"])
            for each in node.values():
                walk(each)
        elif isinstance(node, list):
            for each in node:
                walk(each)

    if report.exists():
        for line in report.read_text(encoding="utf-8").splitlines():
            walk(json.loads(line))
    return found
