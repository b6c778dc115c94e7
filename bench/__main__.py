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
from pathlib import Path

import numpy as np

from bench.at_scale import at_scale
from bench.beside_heavy_work import beside_heavy_work
from bench.drilling import drilling
from bench.in_browser import edit_in_browser
from bench.learning import learning
from bench.pacing import start_of_a_run, timetables
from bench.photographing import photographing
from bench.teaching import teaching
from bench.timing import RUNS, Figure, late, of_the_core, times
from bench.yardstick import yardstick
from nabrel.core.ask.recommend import rank_schools
from nabrel.core.case.case import Case
from nabrel.core.film.films import film_of
from nabrel.core.film.spectra import surface
from nabrel.core.film.stack import Layer, finished
from nabrel.core.house import House
from nabrel.core.judge.evaluate import Evaluation, evaluate
from nabrel.core.planner.planner import Drafted, draft_in
from nabrel.core.solve.corrector import remembered, solve_corrector
from nabrel.core.solve.mix import solve_mix
from nabrel.demo.fill import fill
from nabrel.demo.kestrel_quay import sitters
from nabrel.store.database import Database
from nabrel.web.app import STATIC, create_app

HOUSE = House()
FIGURES = Path(__file__).parents[1] / "docs" / "benchmarks.md"
BEGIN, END = "<!-- figures: written by make bench -->", "<!-- end of figures -->"


def film_stack() -> Figure:
    """30 zones × 30 layers × 31 wavelengths."""
    ground = np.stack([surface((62.0, 11.0, 17.0))] * 30)
    layers = [Layer(film_of((60.0 - i, 11.0, 17.0), 0.5), np.full(30, 3.0)) for i in range(30)]
    what = "film stack, 30 zones × 30 layers × 31 wavelengths"
    return of_the_core(what, lambda: finished(ground, layers), 0.3, 0.6)


def corrector() -> Figure:
    """One zone, the kit's correctors × its concealers."""
    kit = sitters()[0].kit
    correctors = [item for item in kit if item.role == "corrector"]
    correctors = (correctors + correctors)[:12]
    concealer = [item for item in kit if item.id == "press-3"]
    foundation = next(item for item in kit if item.id == "thin-satin-3")

    def solve() -> None:
        remembered.cache_clear()
        solve_corrector((54.0, 7.0, 9.0), (62.0, 11.0, 17.0), correctors, concealer, ((foundation, 5.0),), HOUSE)

    return of_the_core("corrector, one zone, 12 correctors × a concealer", solve, 1.5, 3)


def mix() -> Figure:
    """Best of 8 drops from 12 shades, up to 3 at once."""
    shades = [item for item in sitters()[0].kit if item.role == "foundation"][:12]
    what = "mix, best of 8 drops from 12 shades, up to 3 at once"
    return of_the_core(what, lambda: solve_mix((58.0, 11.0, 18.0), shades, HOUSE), 10, 20, 20)


def whole() -> list[Figure]:
    """Plan alone; plan, check, appearance, forecast and amounts of the demo's longest plan, colours known."""
    case = sitters()[0]

    def drafted() -> Drafted:
        remembered.cache_clear()
        return draft_in("underpainted", case, HOUSE)

    def evaluated() -> Evaluation:
        draft = drafted()
        return evaluate(draft.sequence, HOUSE, former=draft)

    everything = "plan + check + appearance + forecast + amounts, demo's longest plan"
    return [
        of_the_core(everything, evaluated, 15, 30, 30),
        of_the_core("of which the plan", drafted, 15, 30, 30),
    ]


def six_schools() -> Figure:
    """All six planned, evaluated and ranked, the slowest of the demo's sitters, nothing remembered."""

    def rank(case: Case) -> None:
        remembered.cache_clear()
        rank_schools(case, HOUSE)

    what = "all six schools ranked, slowest of the demo's sitters"
    found = (of_the_core(what, lambda each=case: rank(each), 80, 160, 5) for case in sitters())  # type: ignore[misc]
    return max(found, key=lambda figure: figure.measured)


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
            where: late(times(lambda kind=kind, amounts=amounts: edit(kind, amounts)))  # type: ignore[misc]
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
    return statistics.median(late(edit_in_browser()) for _ in range(3))


def first_screen_kb() -> float:
    """Gzipped JavaScript that the first screen loads."""
    page = (STATIC / "index.html").read_text(encoding="utf-8")
    names = re.findall(r'"/(assets/[^"]+\.js)"', page)
    return sum(len(gzip.compress((STATIC / name).read_bytes())) for name in names) / 1000


def report() -> list[str]:
    """The table of figures, line by line."""
    edits, shell, memory = over_http()
    figures = [
        film_stack(),
        corrector(),
        mix(),
        *whole(),
        six_schools(),
        *timetables(),
        start_of_a_run(),
        learning(),
        *(
            Figure(f"edit through the application, {where}, 95th percentile of 60", ms, 10)
            for where, ms in edits.items()
        ),
        Figure("edit in the browser, press to paint, 95th percentile of 100", in_browser(), 50),
        Figure("`nabrel check`, cold process", shell, 350),
        Figure("JavaScript of the first screen, gzip", first_screen_kb(), 100, "kB"),
        Figure("memory of this process, peak", memory, 200, "MB"),
        beside_heavy_work(),
        *at_scale(),
        # Last: laying out a hundred pages takes memory that the peaks above are not to show.
        *drilling(),
        *teaching(),
        *photographing(),
    ]
    return [
        f"Machine: {platform.machine()}, {os.cpu_count()} cores, Python {platform.python_version()}. The yardstick took "
        f"{statistics.median(times(yardstick)):.2f} ms (0.5 ms when quiet).",
        f"Method: median of {RUNS} runs in one process after 3 to warm up, unless said otherwise; rows of the core take turns "
        "with the yardstick, and are within when either the time or the multiple is.",
        "",
        "| what | measured | budget | multiple | budget | |",
        "|---|---|---|---|---|---|",
        *(figure.row() for figure in figures),
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
