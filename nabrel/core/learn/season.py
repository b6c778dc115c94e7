"""A season of wear: where bases wear shorter than forecast, and the hours until shine or fading day by day."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from nabrel.core.learn.record import Hours, WornBase
from nabrel.core.learn.seen import COMES, came_between, looked_at
from nabrel.core.terms.ids import EffectAbout, Region, WearSign
from nabrel.core.terms.words import counted
from nabrel.core.terms.zones import REGION_INFO, ZONE_INFO


@dataclass(frozen=True, slots=True)
class Short:
    """Of one part of the face and one sign: on how many zones of records it was looked for, and on how many it came sooner or later."""

    region: Region
    sign: WearSign
    zones: int
    sooner: int
    later: int

    @property
    def says(self) -> str:
        """It in a sentence."""
        rest = self.zones - self.sooner - self.later
        return (
            f"sooner than forecast on {self.sooner} of {counted(self.zones, 'zone')}, later on {self.later}, "
            f"as forecast or not known on {rest}"
        )


@dataclass(frozen=True, slots=True)
class Day:
    """One base: hours until the first zone showed the sign, as forecast and as seen. ``to_h`` is infinite where none did."""

    sign: WearSign
    forecast_h: float
    from_h: float
    to_h: float


def wears_short(wearings: Sequence[WornBase]) -> tuple[Short, ...]:
    """Where it wears short, the part with the largest share of zones that came too soon first; parts nobody looked at are left out."""
    counts: dict[tuple[Region, WearSign], list[int]] = {}
    for wearing in wearings:
        for region, sign, low, high, expected in _seen(wearing):
            row = counts.setdefault((region, sign), [0, 0, 0])
            row[0] += 1
            row[1] += high < expected
            row[2] += low > expected
    found = (Short(region, sign, *row) for (region, sign), row in counts.items())
    parts, signs = list(REGION_INFO), list(COMES.values())
    return tuple(
        sorted(found, key=lambda each: (-each.sooner / each.zones, parts.index(each.region), signs.index(each.sign)))
    )


def day_of(wearing: WornBase) -> Iterator[Day]:
    """The hours until a base first shone, and until its colour first faded; nothing of a sign that was not looked for."""
    for sign in COMES.values():
        rows = [(low, high, expected) for _, each, low, high, expected in _seen(wearing) if each == sign]
        if rows:
            low, high, expected = (min(each) for each in zip(*rows, strict=True))
            yield Day(sign, expected, low, high)


def _seen(wearing: WornBase) -> Iterator[tuple[Region, WearSign, float, float, float]]:
    """Of every zone that was looked at and has a forecast: part, sign, between which hours it came, and the hours forecast."""
    for zone, looked in looked_at(wearing.looks).items():
        hours = wearing.forecast.get(zone)
        if hours is None:
            continue
        for about, sign in COMES.items():
            expected = _expected(hours, about)
            if expected is not None:
                low, high = came_between(looked, sign)
                yield ZONE_INFO[zone].region, sign, low, high, expected


def _expected(hours: Hours, about: EffectAbout) -> float | None:
    return hours.shine_hours if about == "shine_hours" else hours.colour_hours
