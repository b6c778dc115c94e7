"""Learning from a house's years: made-up records with looks that follow drawn effects."""

from __future__ import annotations

import random
import time
from math import exp
from statistics import median

from bench.timing import Figure
from nabrel.core.ask.recommend import plan
from nabrel.core.house import House
from nabrel.core.learn.learnt import learn
from nabrel.core.learn.record import Hours, Look, WornBase
from nabrel.core.learn.unlearnt import forecast_hours
from nabrel.demo.kestrel_quay import sitters

RECORDS, SITTERS, ZONES, LOOKS_MIN = 2000, 200, 7, (120.0, 240.0, 360.0, 480.0)


def records() -> list[WornBase]:
    """So many records, the same every time: their forecasts are stored, as the store keeps them."""
    rng = random.Random(11)
    house = House()
    plans = [plan(case, house) for case in sitters()]
    forecasts = [forecast_hours(each, house) for each in plans]
    habit = [rng.gauss(0, 0.35) for _ in range(SITTERS)]
    found = []
    for number in range(RECORDS):
        which = number % len(plans)
        zones = rng.sample(sorted(forecasts[which]), ZONES)
        forecast = {zone: Hours(forecasts[which][zone].shine_hours) for zone in zones}
        who = rng.randrange(SITTERS)
        came = {zone: 60 * each.shine_hours * exp(habit[who] + rng.gauss(0, 0.25)) for zone, each in forecast.items()}
        looks = tuple(
            Look(at, "daylight", tuple(zones), {zone: {"shine": 1} for zone in zones if at >= came[zone]})
            for at in LOOKS_MIN
        )
        found.append(WornBase(f"Sitter {who}", plans[which], forecast, looks))
    return found


def learning() -> Figure:
    """What 2,000 records with 56,000 zone looks teach, every measure, each record left out in turn."""
    wearings = records()
    looked = sum(len(look.seen) for each in wearings for look in each.looks)
    took = []
    for _ in range(5):
        started = time.perf_counter()
        found = learn(wearings)
        took.append(1000 * (time.perf_counter() - started))
    assert found.error.before is not None
    assert found.error.after is not None
    assert found.error.after < found.error.before
    return Figure(f"learning from {RECORDS:,} wear records ({looked:,} zone looks), median of 5", median(took), 1000)
