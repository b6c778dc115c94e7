"""Measure the budgets, print them with the machine and the method, and write them down: ``python -m bench``."""

from __future__ import annotations

import gzip
import os
import platform
import re
import resource
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

import numpy as np

from bench.in_browser import edit_in_browser
from nabrel.core.ask.recommend import plan, rank_schools
from nabrel.core.case.case import Case
from nabrel.core.film.films import film_of
from nabrel.core.film.spectra import surface
from nabrel.core.film.stack import Layer, stack
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.plan.sequence import Sequence
from nabrel.core.solve.corrector import remembered, solve_corrector
from nabrel.core.solve.mix import solve_mix
from nabrel.demo.fill import fill
from nabrel.demo.kestrel_quay import sitters
from nabrel.store.database import Database
from nabrel.web.app import STATIC, create_app

HOUSE = House()
RUNS = 60
FIGURES = Path(__file__).parents[1] / "docs" / "benchmarks.md"
BEGIN, END = "<!-- figures: written by make bench -->", "<!-- end of figures -->"


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


def row(name: str, measured: float, budget: float, unit: str = "ms") -> str:
    """One line of the report."""
    mark = "within" if measured <= budget else "OVER"
    return f"| {name} | {measured:.1f} {unit} | {budget:g} {unit} | {mark} |"


def film_stack() -> float:
    """30 zones × 30 layers × 31 wavelengths."""
    ground = np.stack([surface((62.0, 11.0, 17.0))] * 30)
    layers = [Layer(film_of((60.0 - i, 11.0, 17.0), 0.5), np.full(30, 3.0)) for i in range(30)]
    return statistics.median(times(lambda: stack(ground, layers)))


def corrector() -> float:
    """One zone, the kit's correctors × its concealers."""
    kit = sitters()[0].kit
    correctors = [item for item in kit if item.role == "corrector"]
    correctors = (correctors + correctors)[:12]
    concealer = [item for item in kit if item.id == "press-3"]
    foundation = next(item for item in kit if item.id == "thin-satin-3")

    def solve() -> None:
        remembered.cache_clear()
        solve_corrector((54.0, 7.0, 9.0), (62.0, 11.0, 17.0), correctors, concealer, ((foundation, 5.0),), HOUSE)

    return statistics.median(times(solve))


def mix() -> float:
    """Best of 8 drops from 12 shades, up to 3 at once."""
    shades = [item for item in sitters()[0].kit if item.role == "foundation"][:12]
    return statistics.median(times(lambda: solve_mix((58.0, 11.0, 18.0), shades, HOUSE), 20))


def whole() -> tuple[float, float]:
    """Plan alone; plan, check, appearance, forecast and amounts of the demo's longest plan, colours known."""
    case = sitters()[0]

    def planned() -> Sequence:
        remembered.cache_clear()
        return plan(case, HOUSE)

    return statistics.median(times(planned, 30)), statistics.median(times(lambda: evaluate(planned(), HOUSE), 30))


def six_schools() -> float:
    """All six planned, evaluated and ranked, the slowest of the demo's sitters, nothing remembered."""

    def rank(case: Case) -> None:
        remembered.cache_clear()
        rank_schools(case, HOUSE)

    return max(statistics.median(times(lambda each=case: rank(each), 7)) for case in sitters())


Edits = dict[str, float]


def over_http() -> tuple[Edits, float, float]:
    """Edits through the application by where in the plan, 95th percentile; `nabrel check` cold; peak memory, MB."""
    with tempfile.TemporaryDirectory() as folder:
        environment = {**os.environ, "NABREL_DATA": folder}
        database = Database(Path(folder))
        fill(database)
        client = create_app(database).test_client()
        plan_id = client.get("/api/sitters").json["sitters"][0]["sequence_id"]
        bench = client.get(f"/api/sequences/{plan_id}").json
        state = {"revision": 1.0, "turn": 0.0}

        def edit(kind: str, amounts: tuple[float, float]) -> None:
            step = next(step for step in bench["steps"] if step["kind"] == kind)["id"]
            state["turn"] += 1
            body = {"edit": "amount", "step": step, "amount": amounts[int(state["turn"]) % 2]}
            answer = client.post(
                f"/api/sequences/{plan_id}/edits", json={"revision": int(state["revision"]), "edits": [body]}
            )
            assert answer.status_code == 200
            state["revision"] = answer.get_json()["revision"]

        places = {"early (prime)": ("prime", (2.0, 3.0)), "middle (foundation)": ("foundation", (4.5, 6.5)),
                  "late (set)": ("set", (0.1, 0.2))}  # fmt: skip
        edits = {
            where: sorted(times(lambda kind=kind, amounts=amounts: edit(kind, amounts), 60))[56]  # type: ignore[misc]
            for where, (kind, amounts) in places.items()
        }
        database.close()
        example = Path(__file__).parents[1] / "examples" / "wren.sequence.json"
        start = time.perf_counter()
        subprocess.run(
            [sys.executable, "-m", "nabrel.cli", "check", str(example)],
            capture_output=True,
            env=environment,
            check=False,
        )
        shell = (time.perf_counter() - start) * 1000
    return edits, shell, resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024


def in_browser() -> float:
    """Edit from press to paint, the median of three rounds' 95th percentiles: a shared machine has slow minutes."""
    return statistics.median(sorted(edit_in_browser())[94] for _ in range(3))


def first_screen_kb() -> float:
    """Gzipped JavaScript that the first screen loads."""
    page = (STATIC / "index.html").read_text(encoding="utf-8")
    names = re.findall(r'"/(assets/[^"]+\.js)"', page)
    return sum(len(gzip.compress((STATIC / name).read_bytes())) for name in names) / 1000


def report() -> list[str]:
    """The table of figures, line by line."""
    planned, everything = whole()
    edits, shell, memory = over_http()
    return [
        f"Machine: {platform.machine()}, {os.cpu_count()} cores, Python {platform.python_version()}.",
        f"Method: median of {RUNS} runs in one process after 3 to warm up, unless said otherwise.",
        "",
        "| what | measured | budget | |",
        "|---|---|---|---|",
        row("film stack, 30 zones × 30 layers × 31 wavelengths", film_stack(), 5),
        row("corrector, one zone, 12 correctors × a concealer", corrector(), 50),
        row("mix, best of 8 drops from 12 shades, up to 3 at once", mix(), 150),
        row("plan + check + appearance + forecast + amounts, demo's longest plan", everything, 60),
        row("of which the plan", planned, 60),
        row("all six schools ranked, slowest of the demo's sitters", six_schools(), 500),
        *(row(f"edit through the application, {where}, 95th percentile of 60", ms, 100) for where, ms in edits.items()),
        row("edit in the browser, press to paint, 95th percentile of 100", in_browser(), 100),
        row("`nabrel check`, cold process", shell, 3000),
        row("JavaScript of the first screen, gzip", first_screen_kb(), 150, "kB"),
        row("memory of this process, peak", memory, 350, "MB"),
    ]


def main() -> None:
    """Print the report, and write it into docs/benchmarks.md between its marks."""
    lines = report()
    print("\n".join(lines))
    page = FIGURES.read_text(encoding="utf-8")
    before, _, rest = page.partition(BEGIN)
    _, _, after = rest.partition(END)
    FIGURES.write_text(before + "\n".join([BEGIN, *lines, END]) + after, encoding="utf-8")


if __name__ == "__main__":
    main()
