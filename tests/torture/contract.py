"""Contract fuzzing: schemathesis calls everything in the served document, sound and unsound, as everybody who may knock."""

from __future__ import annotations

import json
import re
import subprocess
import sys
import urllib.request
from collections import Counter
from pathlib import Path

from nabrel.store.accounts import Accounts
from nabrel.store.database import Database
from tests.served import serving
from tests.torture.figures import Found

SEED = 13
DOCUMENT = Path(__file__).parents[2] / "nabrel" / "web" / "openapi.json"
PASSWORD = "quiet turnip bridge 4"
SHARES = {"where nobody signs in": 0.45, "unsigned": 0.1, "as a student": 0.2, "as an educator": 0.25}
"""Who calls, and which share of all calls is theirs."""
EXAMPLES = 12
"""Of each operation in a run."""
EVERYTHING, AT_RANDOM = "coverage,fuzzing,stateful", "fuzzing"
"""Every boundary of every field, and walks from one operation to the next, are tried where nobody signs in: they are the same for all."""
NOT_ASKED = "positive_data_acceptance"
"""Left out: much of what the document allows by itself is refused for what it says together, such as an id that is not there."""
NOT_ASKED_SIGNED_IN = f"{NOT_ASKED},negative_data_rejection"
"""Left out where a sign-in is demanded besides: 413, which the unsigned get sooner, is no refusal in its book."""
ENDS_IT = ("sign_in", "sign_out", "sign_out_everywhere", "change_password")
"""Left out of calls with a sign-in, which they would end, be it as a try with a wrong password."""


def fuzz(folder: Path, calls: int) -> Found:
    """At least so many calls; no failure of the server, and no answer that the document does not tell of."""
    found = Found("contract fuzzing")
    told = []
    for place, (who, share) in enumerate(SHARES.items()):
        data = folder / f"fuzz-{place}"
        with serving(data, "--demo"):
            pass
        if place:
            database = Database(data)
            with database.session() as session:
                for name in ("student", "educator"):
                    Accounts(session).add(name.capitalize(), "student" if name == "student" else "educator", PASSWORD)
            database.close()
        with serving(data, "--sign-in" if place else "--demo") as (process, address):
            cookie = _signed_in(address, who.split()[-1].capitalize()) if who.startswith("as ") else None
            phases = AT_RANDOM if place else EVERYTHING
            done, seen = _calls(found, folder, address, round(calls * share), cookie, phases)
            if process.poll() is not None:
                found.wrong.append(f"{who}: the server ended")
        statuses = ", ".join(f"{count:,} × {status}" for status, count in sorted(seen.items()))
        told.append(f"{who} {done:,} calls ({statuses})")
        if who != "unsigned" and not any(status < 300 for status in seen):
            found.wrong.append(f"{who}: nothing was let in")
    found.figures = "; ".join(told)
    return found


def _document(folder: Path) -> Path:
    """The document without its sign-in: of that cookie something would be made up, in the place of the one that is sent."""
    document = json.loads(DOCUMENT.read_text(encoding="utf-8"))
    del document["security"], document["components"]["securitySchemes"]
    file = folder / "openapi.json"
    file.write_text(json.dumps(document), encoding="utf-8")
    return file


def _signed_in(address: str, name: str) -> str:
    """The cookie of a sign-in."""
    body = json.dumps({"name": name, "password": PASSWORD}).encode()
    request = urllib.request.Request(f"{address}/api/session", body, {"Content-Type": "application/json"})
    with urllib.request.urlopen(request) as answer:
        return "; ".join(each.partition(";")[0] for each in answer.headers.get_all("Set-Cookie"))


def _calls(
    found: Found, folder: Path, address: str, calls: int, cookie: str | None, phases: str
) -> tuple[int, Counter[int]]:
    """Run until so many calls were made: how many, and the statuses that came."""
    done, seed = 0, SEED
    seen: Counter[int] = Counter()
    while done < calls and not found.wrong:
        report = folder / f"fuzz-{seed}.ndjson"
        command = [
            str(Path(sys.executable).with_name("schemathesis")), "run", str(_document(folder)), "--url", address,
            "--phases", phases, "--max-examples", str(EXAMPLES), "--workers", "1",
            "--checks", "all", "--exclude-checks", NOT_ASKED if phases == EVERYTHING else NOT_ASKED_SIGNED_IN, "--seed", str(seed), "--continue-on-failure",
            "--request-timeout", "120", "--warnings", "off", "--report", "ndjson", "--report-ndjson-path", str(report),
        ]  # fmt: skip
        if cookie is not None:
            command += ["-H", f"Cookie: {cookie}", *(f"--exclude-operation-id={each}" for each in ENDS_IT)]
        # It leaves what it found lying about where it runs.
        ran = subprocess.run(command, capture_output=True, text=True, check=False, cwd=folder)
        made = re.search(r"([\d,]+) generated", ran.stdout)
        if made is None:
            found.wrong.append("schemathesis did not run: " + (ran.stdout + ran.stderr)[-300:])
            break
        done += int(made[1].replace(",", ""))
        seen.update(statuses(report))
        if ran.returncode:
            found.wrong += re.findall(r"^  ❌ (.+)$", ran.stdout, re.MULTILINE) or [ran.stdout[-300:]]
        seed += 1
    failures = sum(count for status, count in seen.items() if status >= 500 and status not in (503, 507))
    if failures:
        found.wrong.append(f"{failures} answers of 500 and more")
    return done, seen


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
