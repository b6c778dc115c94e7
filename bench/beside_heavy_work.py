"""A simple read while papers, handouts, schools, timetables and exports are worked out: what it waits for."""

from __future__ import annotations

import json
import tempfile
import threading
import time
import urllib.error
import urllib.request
from itertools import cycle
from pathlib import Path

from bench.timing import Figure, late
from nabrel.core.drill.exercise import DrillKind
from nabrel.core.drill.sets import SetPart
from nabrel.demo.fill import fill
from nabrel.store.database import Database
from nabrel.store.practice import DrillSets
from tests.served import asked, serving

SECONDS, PEOPLE = 20.0, 6
BUDGET_MS = 200.0
KINDS_ASKED: tuple[DrillKind, ...] = ("fault", "order", "school")
READS = ("/api/sitters", "/api/kit", "/api/house")


def beside_heavy_work() -> Figure:
    """The 95th percentile of simple reads while six people ask for heavy work, one thing after another."""
    with tempfile.TemporaryDirectory() as folder:
        database = Database(Path(folder))
        fill(database)
        with database.session() as session:
            sets = DrillSets(session)
            paper = sets.all()[0]
            parts = tuple(SetPart(kind, count=20) for kind in KINDS_ASKED)
            sets.put_back(paper.model_copy(update={"parts": parts}))
        database.close()
        with serving(Path(folder), "--demo") as (_, address):
            return Figure(
                f"a simple read while {PEOPLE} people ask for papers of 60, handouts, schools, timetables and exports, 95th percentile",
                late(_waits(address)),
                BUDGET_MS,
            )


def _waits(address: str) -> list[float]:
    plans = [each["id"] for each in asked(address, "/api/plans")["plans"]]
    taught = [each["id"] for course in asked(address, "/api/classes")["courses"] for each in course["classes"]]
    paper = asked(address, "/api/drill/sets")["sets"][0]["id"]
    heavy = [
        (f"/api/drill/sets/{paper}/paper", None),
        (f"/api/classes/{taught[0]}/handouts.pdf", None),
        *((f"/api/sequences/{plan}/schools", None) for plan in plans[:3]),
        (f"/api/sequences/{plans[0]}/timetable", {"pace": 1.1}),
        ("/api/workspace", None),
    ]
    until = time.monotonic() + SECONDS

    def ask_for_more(first: int) -> None:
        for path, body in cycle(heavy[first:] + heavy[:first]):
            if time.monotonic() > until:
                return
            data = None if body is None else json.dumps(body).encode()
            request = urllib.request.Request(address + path, data, {"Content-Type": "application/json"})
            try:
                urllib.request.urlopen(request, timeout=300).read()
            except urllib.error.HTTPError:
                # Told to try again in a moment, as the page does.
                time.sleep(0.2)

    threads = [threading.Thread(target=ask_for_more, args=(number,), daemon=True) for number in range(PEOPLE)]
    for each in threads:
        each.start()
    time.sleep(1.0)
    waits = []
    for path in cycle(READS):
        if time.monotonic() > until:
            break
        begun = time.perf_counter()
        asked(address, path, timeout=300)
        waits.append((time.perf_counter() - begun) * 1000)
        time.sleep(0.05)
    for each in threads:
        each.join(300)
    return waits
