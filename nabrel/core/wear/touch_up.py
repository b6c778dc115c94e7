"""The touch-up timetable: what to do where, so many hours after, for the hours wanted."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from nabrel.core.vocabulary import Zone, in_order
from nabrel.core.wear.forecast import ZoneForecast

GRAIN_H = 0.5
"""Touch-ups are told to the half hour, always before the forecast one."""
TOGETHER_H = 1.0
"""Zones due within this time of the first are done in the same visit."""


@dataclass(frozen=True, slots=True)
class TouchUp:
    """Something to do at an hour after the base was finished."""

    hour: float
    zones: tuple[Zone, ...]
    does: str


BLOT = "Blot, then press a little powder; never powder over oil."
REFRESH = "Tap a little colour on again, from the edge inwards."


def touch_ups(forecast: Iterable[ZoneForecast], wear_hours: float) -> tuple[TouchUp, ...]:
    """What the wanted hours need, in the order of time.

    One goes to the mirror when the first zone is due, and does every zone that would be due within the next hour too;
    each is then due again after its own hours. Nothing is told for the last half hour.
    """
    rows = [row for row in forecast if row.film_um > 0]
    blots = {row.zone: row.shine_hours for row in rows}
    colours = {row.zone: row.colour_hours for row in rows if row.colour_hours is not None}
    found = [*_visits(blots, wear_hours, BLOT), *_visits(colours, wear_hours, REFRESH)]
    return tuple(sorted(found, key=lambda each: (each.hour, each.does)))


def _visits(every_h: Mapping[Zone, float], until_h: float, does: str) -> list[TouchUp]:
    due = {zone: max(hours, GRAIN_H) for zone, hours in every_h.items()}
    visits: list[TouchUp] = []
    while due and min(due.values()) < until_h - GRAIN_H:
        first = min(due.values())
        hour = max(GRAIN_H, int(first / GRAIN_H) * GRAIN_H)
        zones = [zone for zone, when in due.items() if when <= first + TOGETHER_H]
        visits.append(TouchUp(hour, in_order(zones), does))
        for zone in zones:
            due[zone] = first + max(every_h[zone], GRAIN_H)
    return visits
