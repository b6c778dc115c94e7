"""From looks to observations: when a sign came, which is known only to lie between two looks, and how plain it became."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from math import inf, log
from types import MappingProxyType

from nabrel.core.learn.record import Hours, Look, WornBase
from nabrel.core.terms.ids import EffectAbout, EffectOf, WearSign, Zone
from nabrel.core.terms.zones import ZONE_INFO
from nabrel.core.wear.learnt import BARE, Laid, items_about, laid_by

COMES: Mapping[EffectAbout, WearSign] = MappingProxyType({"shine_hours": "shine", "colour_hours": "fade"})
"""Forecast hours, and the sign whose coming ends them."""
FROM_GRADE: Mapping[WearSign, int] = MappingProxyType({"shine": 1, "fade": 1})
"""From which grade on a sign is there."""
GRADED: Mapping[EffectAbout, tuple[WearSign, tuple[float, float, float]]] = MappingProxyType(
    {
        "crease": ("crease", (0.35, 0.6, 0.8)),
        "cake": ("cake", (1.0, 1.3, 1.7)),
        "lift": ("lift", (1.0, 1.3, 1.7)),
        "shift": ("shift", (1.6, 2.5, 4.0)),
    }
)
"""Forecast indices, the sign they forecast, and the index from which it is seen as 1, 2 and 3. Lift is forecast by the load, like cake;
of a shift nothing is forecast, so that its index is 1. The house's effect moves all three together, the noise spreads them."""
LEAST_INDEX = 0.02
"""A zone with less of an index carries nothing that could be seen."""


@dataclass(frozen=True, slots=True)
class Observation:
    """One observation of one zone of one wearing: the logarithm of observed over forecast lies between ``low`` and ``high``.

    ``effects`` are what may have moved it.
    """

    about: EffectAbout
    record: int
    low: float
    high: float
    effects: tuple[tuple[str, str], ...]
    zone: Zone


Signs = Mapping[WearSign, int]
Looked = list[tuple[float, Signs]]
"""The looks at one zone, in the order of time: hours after, and what was seen."""
NOTHING: Signs = MappingProxyType({})


def observations(wearings: Iterable[WornBase]) -> Iterator[Observation]:
    """What these wearings say, of every measure."""
    laid: dict[int, Mapping[Zone, Laid]] = {}
    for number, wearing in enumerate(wearings):
        # Many records are of one plan.
        own = laid.get(id(wearing.sequence))
        if own is None:
            own = laid[id(wearing.sequence)] = laid_by(wearing.sequence.steps)
        for zone, looked in looked_at(wearing.looks).items():
            hours = wearing.forecast.get(zone)
            if hours is not None:
                yield from _of_zone(number, wearing, zone, hours, looked, own.get(zone, BARE))


def looked_at(looks: Iterable[Look]) -> dict[Zone, Looked]:
    """Of each zone that was looked at, its looks in the order of time."""
    found: dict[Zone, Looked] = {}
    for look in sorted(looks, key=lambda each: each.after_min):
        hours = look.after_min / 60.0
        for zone in dict.fromkeys((*look.seen, *look.zones)):
            found.setdefault(zone, []).append((hours, look.zones.get(zone, NOTHING)))
    return found


def _of_zone(
    number: int, wearing: WornBase, zone: Zone, hours: Hours, looked: Looked, laid: Laid
) -> Iterator[Observation]:
    shared: tuple[tuple[EffectOf, str], ...] = (
        ("house", ""),
        ("zone_group", ZONE_INFO[zone].region),
        ("sitter", wearing.sitter),
        ("school", wearing.sequence.school),
    )

    def effects(about: EffectAbout) -> tuple[tuple[EffectOf, str], ...]:
        return (*shared, *(("item", each) for each in items_about(about, laid)))

    for about, sign in COMES.items():
        expected = hours.shine_hours if about == "shine_hours" else hours.colour_hours
        if expected is None or expected <= 0:
            continue
        low, high = (_against(each, expected) for each in came_between(looked, sign))
        yield Observation(about, number, low, high, effects(about), zone)
    for about, (sign, cuts) in GRADED.items():
        index = {"crease": hours.crease, "cake": hours.cake, "lift": hours.cake, "shift": 1.0}[about]
        if index < LEAST_INDEX:
            continue
        worst = max(signs.get(sign, 0) for _, signs in looked)
        low = log(cuts[worst - 1] / index) if worst else -inf
        high = log(cuts[worst] / index) if worst < len(cuts) else inf
        yield Observation(about, number, low, high, effects(about), zone)


def _against(hours: float, expected: float) -> float:
    return -inf if hours == 0 else inf if hours == inf else log(hours / expected)


def came_between(looked: Looked, sign: WearSign) -> tuple[float, float]:
    """Hours between which a sign came on a zone: 0 where it was there at the first look, infinity where it never came.

    Gone again after it was there counts as come: somebody blotted, or the light differed.
    """
    low, least = 0.0, FROM_GRADE[sign]
    for hours, signs in looked:
        if signs.get(sign, 0) >= least:
            return low, hours
        low = hours
    return low, inf
