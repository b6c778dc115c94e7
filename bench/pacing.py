"""Timetables of made-up work: thirty steps with forty-five portions, waits of both kinds, and tools that clash."""

from __future__ import annotations

import random
import tempfile
import time
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path

from bench.timing import Figure, late, times
from nabrel.core.ask.recommend import plan
from nabrel.core.house import House
from nabrel.core.pace.tasks import work_of
from nabrel.core.pace.timetable import timetable
from nabrel.core.plan.sequence import Sequence
from nabrel.core.plan.step import MixPart, Portion, Step
from nabrel.core.terms.ids import StepKind, Tool, Zone
from nabrel.core.terms.zones import COMPLEXION_ZONES
from nabrel.demo.fill import fill
from nabrel.demo.kestrel_quay import sitters
from nabrel.store.database import Database
from nabrel.web.app import create_app

INSTANCES, STEPS, PORTIONS = 50, 30, 45
TOOLS: tuple[Tool, ...] = ("damp_sponge", "stippling_brush", "angled_brush", "fingers", "dense_small_brush")
FEATURES: tuple[StepKind, ...] = ("brows", "eyes", "lips")
MADE: dict[StepKind, tuple[Zone, ...]] = {
    "brows": ("brow_l", "brow_r"),
    "eyes": ("eyelid_l", "eyelid_r"),
    "lips": ("lips",),
}


def instances() -> Iterator[Sequence]:
    """So many plans of so many steps and portions, the same every time."""
    rng = random.Random(5)
    like = plan(sitters()[0], House())
    kinds: tuple[StepKind, ...] = ("foundation", "light", "shade", "conceal", "soften_edges")
    items = {"foundation": "thin-satin-2", "light": "light-2", "shade": "shade-1", "conceal": "press-2"}
    for _ in range(INSTANCES):
        steps: list[Step] = []
        extra = set(rng.sample(range(STEPS - len(FEATURES)), PORTIONS - STEPS))
        for number in range(STEPS - len(FEATURES)):
            kind = rng.choice(kinds)
            zones = rng.sample(COMPLEXION_ZONES, rng.randint(2, 8))
            cut = len(zones) // 2 if number in extra else len(zones)
            lays = kind in items
            portions = tuple(
                Portion(tuple(own), 3.0 if lays else None, rng.choice(TOOLS), "press", float(rng.randint(10, 60)))
                for own in (zones[:cut], zones[cut:])
                if own
            )
            wait = float(rng.choice([0, 0, 20, 60, 120, 300]))
            most = wait + rng.choice([900.0, 1200.0, 2400.0]) if rng.random() < 0.05 else None
            mix = (MixPart(items[kind]),) if lays else ()
            steps.append(
                Step(f"s{number}", kind, portions, mix, "um" if lays else None, None, wait, most, why=("Made up.",))
            )
        for place, kind in enumerate(FEATURES):
            portion = Portion(MADE[kind], None, None, None, float(rng.randint(60, 240)))
            steps.insert(rng.randint(0, len(steps)), Step(f"f{place}", kind, (portion,), why=("Made up.",)))
        yield replace(like, steps=tuple(steps))


def timetables() -> list[Figure]:
    """Median, 95th percentile and worst of the made-up instances, those proven among them counted; and the demo's longest plan."""
    house, took, proven, possible = House(), [], 0, 0
    for sequence in instances():
        started = time.perf_counter()
        found = timetable(work_of(sequence, house))
        took.append(1000 * (time.perf_counter() - started))
        possible += found.possible
        proven += found.proven
    took.sort()
    what = f"timetable, {INSTANCES} made-up plans of {PORTIONS} tasks and more ({possible} possible, {proven} proven)"
    return [
        Figure(f"{what}: median", took[len(took) // 2], 1000),
        Figure("the same: 95th percentile", took[int(0.95 * len(took))], 2000),
        Figure("the same: worst", took[-1], 5000),
    ]


def start_of_a_run() -> Figure:
    """A run begun from the Pace room, whose timetable is known, and its page laid out."""
    with tempfile.TemporaryDirectory() as folder:
        database = Database(Path(folder))
        fill(database)
        client = create_app(database).test_client()
        plan_id = client.get("/api/sitters").json["sitters"][0]["sequence_id"]
        client.post(f"/api/sequences/{plan_id}/timetable", json={})

        def begin() -> None:
            begun = client.post(f"/api/sequences/{plan_id}/run", json={})
            assert begun.status_code == 201
            assert client.get(f"/api/runs/{begun.json['run_id']}").status_code == 200

        took = times(begin, 20)
        database.close()
    return Figure("start of a run, 95th percentile of 20", late(took), 200)
