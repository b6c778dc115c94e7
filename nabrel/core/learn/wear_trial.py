"""Two ways tried against each other, on the halves of one face or on two days: which did better, by how much, how sure.

Each zone that was looked at under both ways says between which bounds ln(hours the second way / hours the first way) lies: the
mirrored zone of the other half, or the same zone on the other day. All zones of one pair of bases share an effect of that day, so that
many zones of one day cannot pass for many days.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from math import exp, inf, isfinite, log
from typing import Literal

from nabrel.core.ask.compare import Figure, compare
from nabrel.core.judge.evaluate import Evaluation
from nabrel.core.learn.fit import fitted
from nabrel.core.learn.record import WornBase
from nabrel.core.learn.seen import COMES, Looked, Observation, came_between, looked_at
from nabrel.core.terms.effects import ABOUT_INFO
from nabrel.core.terms.ids import EffectAbout, WearSign, Zone
from nabrel.core.terms.places import places
from nabrel.core.terms.signs import SIGN_INFO
from nabrel.core.terms.statistics import Z90
from nabrel.core.terms.words import counted, join_words, sentence
from nabrel.core.terms.zones import ZONES, in_order, mirrored

APART_LOG = 0.1
"""Forecasts that differ by less than a tenth are not told apart by looking."""

How = Literal["halves", "days"]
Side = Literal["left", "right", "first", "second"]
SIDES: Mapping[How, tuple[Side, Side]] = {"halves": ("left", "right"), "days": ("first", "second")}
WAY_SD, DAY_SD = 0.4, 0.2
"""Before anything is seen: how far two ways differ in hours, and how far one day differs from the next, in logarithms."""
LEAST_PAIRS = 6
"""So many zones looked at under both ways before anything is said."""
SECOND_LOOK_MIN = 25
MOST_LOOKS_SAID = 4


@dataclass(frozen=True, slots=True)
class Result:
    """What a trial says of one measure. ``factor`` is the second way's hours over the first's, ``low`` and ``high`` hold it in nine
    cases of ten; it rests on ``pairs`` zones in ``days`` pairs of bases. ``sure`` where that does not hold 1.
    """

    about: EffectAbout
    factor: float
    low: float
    high: float
    pairs: int
    days: int
    sure: bool
    says: str


@dataclass(frozen=True, slots=True)
class Differs:
    """What differs between two ways, in sentences and figures, and when and where to look."""

    says: tuple[str, ...]
    figures: tuple[Figure, ...]
    look_at: tuple[str, ...]


def zones_of(how: How, side: Side) -> frozenset[Zone]:
    """The zones that are looked at on one side: those of its half, or all."""
    if how == "days":
        return frozenset(ZONES)
    return frozenset(zone for zone in ZONES if zone.endswith("_l" if side == "left" else "_r"))


def results(pairs: Sequence[tuple[WornBase, WornBase]], how: How, ways: tuple[str, str]) -> tuple[Result, ...]:
    """What the pairs of bases, first way and second way, say of every measure of hours; and of signs, by counting."""
    return tuple(_result(about, sign, pairs, how, ways) for about, sign in COMES.items())


def _result(
    about: EffectAbout, sign: WearSign, pairs: Sequence[tuple[WornBase, WornBase]], how: How, ways: tuple[str, str]
) -> Result:
    seen = [each for day, pair in enumerate(pairs) for each in _pairs(about, sign, day, pair, how)]
    days = len({each.record for each in seen})
    if not seen:
        half = Z90 * WAY_SD
        what = ABOUT_INFO[about].words
        return Result(
            about, 1.0, exp(-half), exp(half), 0, 0, False, f"{sentence(what)}: no zone was looked at both ways yet."
        )
    fit = fitted(seen, {"way": WAY_SD, "day": DAY_SD})
    place = fit.names.index(("way", ""))
    middle, half = float(fit.effects[place]), Z90 * fit.sd(place)
    low, high = exp(middle - half), exp(middle + half)
    sure = len(seen) >= LEAST_PAIRS and not low <= 1.0 <= high
    says = _says(about, exp(middle), low, high, len(seen), days, sure, ways)
    return Result(about, exp(middle), low, high, len(seen), days, sure, says)


def _pairs(
    about: EffectAbout, sign: WearSign, day: int, pair: tuple[WornBase, WornBase], how: How
) -> Iterator[Observation]:
    first, second = (looked_at(wearing.looks) for wearing in pair)
    for zone, looked in first.items():
        other = mirrored(zone) if how == "halves" else zone
        if other not in second or (how == "halves" and other == zone):
            continue
        if about == "colour_hours" and not all(
            _coloured(wearing, at) for wearing, at in zip(pair, (zone, other), strict=True)
        ):
            continue
        low, high = _ratio(_came(looked, sign), _came(second[other], sign))
        yield Observation(about, day, low, high, (("way", ""), ("day", str(day))), zone)


def _coloured(wearing: WornBase, zone: Zone) -> bool:
    hours = wearing.forecast.get(zone)
    return hours is not None and hours.colour_hours is not None


def _came(looked: Looked, sign: WearSign) -> tuple[float, float]:
    low, high = came_between(looked, sign)
    return (log(low) if low > 0 else -inf, log(high) if isfinite(high) else inf)


def _ratio(first: tuple[float, float], second: tuple[float, float]) -> tuple[float, float]:
    """Bounds of ln(second / first), from the bounds of each."""
    low = second[0] - first[1] if isfinite(second[0]) and isfinite(first[1]) else -inf
    high = second[1] - first[0] if isfinite(second[1]) and isfinite(first[0]) else inf
    return low, high


def _says(
    about: EffectAbout, factor: float, low: float, high: float, pairs: int, days: int, sure: bool, ways: tuple[str, str]
) -> str:
    what, rests = ABOUT_INFO[about].words, f"{counted(pairs, 'zone')} on {counted(days, 'day')}"
    span = f"{low:.2f} to {high:.2f} in nine cases of ten, from {rests}"
    if not sure:
        why = (
            f"fewer than {LEAST_PAIRS} zones were looked at both ways"
            if pairs < LEAST_PAIRS
            else "it may be either way"
        )
        return f"{sentence(what)}: too early to say, {why} ({ways[1]} {factor:.2f} times {ways[0]}; {span})."
    better, worse = (ways[1], ways[0]) if factor > 1 else (ways[0], ways[1])
    times = max(factor, 1 / factor)
    least, most = (low, high) if factor > 1 else (1 / high, 1 / low)
    return (
        f"{sentence(what)}: {better} lasts longer than {worse}, {times:.2f} times "
        f"({least:.2f} to {most:.2f} in nine cases of ten, from {rests})."
    )


def graded(pairs: Sequence[tuple[WornBase, WornBase]], how: How, ways: tuple[str, str]) -> tuple[str, ...]:
    """Of signs that no hours are forecast for: on how many zones each way showed more of it than the other."""
    said = []
    for sign, row in SIGN_INFO.items():
        if sign in COMES.values():
            continue
        more = [0, 0]
        for pair in pairs:
            first, second = (looked_at(wearing.looks) for wearing in pair)
            for zone, looked in first.items():
                other = mirrored(zone) if how == "halves" else zone
                if other in second and (how == "days" or other != zone):
                    mine, theirs = (max(signs.get(sign, 0) for _, signs in own) for own in (looked, second[other]))
                    more[0] += mine > theirs
                    more[1] += theirs > mine
        if any(more):
            said.append(
                f"{row.words}: more with {ways[0]} on {counted(more[0], 'zone')}, with {ways[1]} on {counted(more[1], 'zone')}."
            )
    return tuple(said)


def differs(first: Evaluation, second: Evaluation, how: How) -> Differs:
    """What differs between the two ways, and what to look at when: where their forecasts lie furthest apart."""
    found = compare(first, second)
    return Differs(found.says, found.figures, tuple(_look_at(first, second, how)))


def _look_at(first: Evaluation, second: Evaluation, how: How) -> Iterator[str]:
    yield f"After {SECOND_LOOK_MIN} min: the second look, all over."
    for field, what in (("shine_hours", "shine"), ("colour_hours", "fading")):
        rows = {row.zone: getattr(row, field) for row in first.forecast if row.film_um > 0}
        others = {row.zone: getattr(row, field) for row in second.forecast if row.film_um > 0}
        apart = {zone: abs(log(hours / others[zone])) for zone, hours in rows.items() if hours and others.get(zone)}
        far = [zone for zone, by in apart.items() if by > APART_LOG and (how == "days" or mirrored(zone) != zone)]
        if not far:
            continue
        worst = in_order(sorted(far, key=lambda zone: -apart[zone])[:MOST_LOOKS_SAID])
        hours = sorted({round(value) or 1 for zone in worst for value in (rows[zone], others[zone])})
        when = join_words(f"{hour} h" for hour in hours[:MOST_LOOKS_SAID])
        yield f"After {when}: {what} {places(worst)}, where the two are forecast furthest apart."
