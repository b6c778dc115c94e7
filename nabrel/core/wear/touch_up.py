"""The touch-up timetable: what to do where, so many hours after, for the hours wanted."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping
from dataclasses import dataclass, replace

from nabrel.core.face.reading import Reading, ZoneReading
from nabrel.core.house import House
from nabrel.core.house.factors import learnt_from
from nabrel.core.plan.sequence import Sequence
from nabrel.core.terms.ids import EffectAbout, Finish, Zone
from nabrel.core.terms.zones import COMPLEXION_ZONES, T_ZONE, in_order
from nabrel.core.wear.forecast import ZoneForecast


@dataclass(frozen=True, slots=True)
class TouchUp:
    """Something to do at an hour after the base was finished; the hour rests on so many looks where it was learnt."""

    hour: float
    zones: tuple[Zone, ...]
    does: str
    looks: int = 0

    @property
    def says(self) -> str:
        """What is done, and what the hour was learnt from."""
        return f"{self.does} ({learnt_from(self.looks)})" if self.looks else self.does


BLOT = "Blot, then press a little powder; never powder over oil."
BLOT_ONLY = "Blot with a tissue; no powder was asked for."
REFRESH = "Tap a little colour on again, from the edge inwards."


def touch_ups(
    forecast: Iterable[ZoneForecast], sequence: Sequence, reading: Reading, house: House
) -> tuple[TouchUp, ...]:
    """What the wanted hours need, in the order of time: shine where it is minded, colour where colour was laid.

    One goes to the mirror when the first zone is due, and does every zone that would be due within the next hour too;
    each is then due again after its own hours. Nothing is told for the last half hour.
    """
    intent = sequence.case.intent
    coloured = {zone for step in sequence.steps if step.kind == "colour" and step.lays for zone in step.zones}
    rows = {row.zone: row for row in forecast if row.film_um > 0}
    blots = {
        row.zone: row.shine_hours for row in rows.values() if shine_is_minded(reading.zones[row.zone], intent.finish)
    }
    colours = {z: row.colour_hours for z, row in rows.items() if row.colour_hours is not None and z in coloured}
    blot = BLOT_ONLY if intent.setting == "none" else BLOT

    def looks(about: EffectAbout, zones: Collection[Zone]) -> int:
        return max(rows[zone].looks_behind(about) for zone in zones)

    found = [
        *(
            replace(each, looks=looks("shine_hours", each.zones))
            for each in _visits(blots, intent.wear_hours, blot, house)
        ),
        *(
            replace(each, looks=looks("colour_hours", each.zones))
            for each in _visits(colours, intent.wear_hours, REFRESH, house)
        ),
    ]
    return tuple(sorted(found, key=lambda each: (each.hour, each.does)))


def shine_is_minded(here: ZoneReading, finish: Finish) -> bool:
    """Whether a sheen on this zone would be seen to: never on dry skin, on oily skin always, elsewhere by the finish.

    A dewy base wants its sheen; a matt one minds it everywhere; a satin one where faces shine first.
    """
    if here.dry and here.oily < 2:
        return False
    if finish == "dewy":
        return here.oily >= 2
    return here.oily >= 1 or (here.zone in COMPLEXION_ZONES if finish == "matte" else here.zone in T_ZONE)


def _visits(every_h: Mapping[Zone, float], until_h: float, does: str, house: House) -> list[TouchUp]:
    due = {zone: max(hours, house.touch_up_grain_h) for zone, hours in every_h.items()}
    visits: list[TouchUp] = []
    while due and min(due.values()) < until_h - house.touch_up_grain_h:
        first = min(due.values())
        hour = max(house.touch_up_grain_h, int(first / house.touch_up_grain_h) * house.touch_up_grain_h)
        zones = [zone for zone, when in due.items() if when <= first + house.touch_up_together_h]
        visits.append(TouchUp(hour, in_order(zones), does))
        for zone in zones:
            due[zone] = first + max(every_h[zone], house.touch_up_grain_h)
    return visits
