"""How Kestrel Quay's bases wore through the season: looks made up from a known truth, the same every time."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta
from hashlib import sha256
from math import exp
from random import Random

from nabrel.core.case.intent import Climate
from nabrel.core.house import House
from nabrel.core.learn.record import Hours, Look, WornBase
from nabrel.core.learn.seen import COMES, Observation, observations
from nabrel.core.learn.unlearnt import forecast_hours
from nabrel.core.plan.sequence import Sequence
from nabrel.core.terms.ids import EffectOf, WearSign, Zone
from nabrel.formats.wear import Verdict, Worn, WornForecast
from nabrel.formats.workspace import StoredWear

WORN_BY = ("Wren", "Tamsin", "Bram", "Isolde", "Dunstan", "Halcyon")
"""Wren and Dunstan wear the same foundation, Bram and Dunstan the same school: what is a guide's own can be told from what is not."""
DAYS_AGO = tuple(range(9, 230, 23))
LOOKS_MIN = (25.0, 180.0, 330.0, 480.0)
SEEN_ZONES: tuple[Zone, ...] = (
    "forehead_centre", "nose_tip", "nose_side_l", "nose_side_r", "under_eye_l", "under_eye_r", "cheek_apple_l", "cheek_apple_r",
    "cheek_hollow_l", "cheek_hollow_r", "chin", "upper_lip",
)  # fmt: skip
MILD, WARM = Climate(18.0, 55.0), Climate(28.0, 65.0)
NOISE = 0.18


@dataclass(frozen=True, slots=True)
class Truth:
    """By how much one thing really lasts longer or shorter than forecast."""

    sign: WearSign
    of: EffectOf
    id: str
    factor: float


TRUTH = (
    Truth("shine", "sitter", "Bram", 0.55),
    Truth("shine", "item", "pow-tan", 1.45),
    Truth("fade", "item", "shade-3", 0.55),
)
"""One guide shines early, one powder outlasts its forecast, one shade fades."""
SAID = {
    "Bram": "Shone at the nose before the tide turned.",
    "Tamsin": "The shade was nearly gone by the afternoon.",
    "Wren": "Nothing moved until the boats were in.",
}
NEXT_TIME = {"Bram": "Powder the forehead and nose a little more.", "Tamsin": "Shade one step darker."}


def wears(nickname: str, plan_id: str, sequence: Sequence, today: date) -> Iterator[StoredWear]:
    """The records of one guide, oldest first; none of those who kept none."""
    if nickname not in WORN_BY:
        return
    rng = Random(f"worn by {nickname}")
    forecasts = {climate: forecast_hours(sequence, House(), climate) for climate in (MILD, WARM)}
    for number, ago in enumerate(reversed(DAYS_AGO)):
        climate = WARM if rng.random() < 0.5 else MILD
        forecast = forecasts[climate]
        begun = datetime.combine(today - timedelta(days=ago), time(8, 5 * rng.randrange(12)), UTC)
        looks = tuple(_looks(nickname, sequence, forecast, rng, number))
        yield StoredWear(
            id=sha256(f"{nickname} {number}".encode()).hexdigest()[:32],
            plan=plan_id,
            revision=1,
            worn=Worn(
                from_=begun.isoformat(timespec="seconds"),
                temperature_c=climate.temperature_c,
                humidity_pc=climate.humidity_percent,
            ),
            looks=looks,
            verdict=Verdict(again=True, comfort=2 + number % 2) if number % 3 == 0 else None,
            forecast={zone: WornForecast.of(each) for zone, each in forecast.items()},
        )


def _looks(
    nickname: str, sequence: Sequence, forecast: Mapping[Zone, Hours], rng: Random, number: int
) -> Iterator[Look]:
    came: dict[tuple[Zone, WearSign], float] = {}
    probe = WornBase(nickname, sequence, forecast, (Look(60, seen=SEEN_ZONES),))
    for each in observations([probe]):
        sign = COMES.get(each.about)
        if sign is None:
            continue
        hours = forecast[each.zone]
        expected = hours.shine_hours if sign == "shine" else hours.colour_hours or 0.0
        came[each.zone, sign] = expected * _truly(each, sign) * exp(rng.gauss(0, NOISE))
    # Now and then somebody forgets one.
    stored = [minutes for minutes in LOOKS_MIN if rng.random() < 0.85] or [LOOKS_MIN[-1]]
    for minutes in stored:
        zones: dict[Zone, dict[WearSign, int]] = {}
        for (zone, sign), at in came.items():
            since = minutes / 60 - at
            if since >= 0:
                zones.setdefault(zone, {})[sign] = 1 if since < 1.5 else 2
        last = minutes == stored[-1]
        yield Look(
            minutes,
            "daylight",
            SEEN_ZONES,
            zones,
            note=SAID.get(nickname, "") if last and number % 4 == 0 else "",
            next_time=NEXT_TIME.get(nickname, "") if last and number == len(DAYS_AGO) - 1 else "",
        )


def _truly(seen: Observation, sign: WearSign) -> float:
    factor = 1.0
    for each in TRUTH:
        if each.sign == sign and (each.of, each.id) in seen.effects:
            factor *= each.factor
    return factor
