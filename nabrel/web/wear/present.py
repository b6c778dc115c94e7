"""How one base wore, as answers have it: forecast against seen, part by part of the face."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

import numpy as np

from nabrel.core.case.intent import Climate
from nabrel.core.face.proportions import proportions_of
from nabrel.core.film.spectra import to_hex
from nabrel.core.house.factors import factor_of, learnt_from, looks_of
from nabrel.core.judge.evaluate import Evaluation
from nabrel.core.learn.drivers import drivers
from nabrel.core.learn.record import Hours, look_says
from nabrel.core.learn.seen import COMES, came_between, looked_at
from nabrel.core.learn.settled import colours_seen
from nabrel.core.learn.wear_trial import SIDES
from nabrel.core.terms.ids import Region, WearSign, Zone
from nabrel.core.terms.words import join_words
from nabrel.core.terms.zones import REGION_INFO, ZONE_INFO, mirrored
from nabrel.core.wear.learnt import BARE, factors_on, laid_by
from nabrel.formats.values import filled
from nabrel.formats.workspace import StoredWear
from nabrel.store.repositories import Sequences
from nabrel.web.shared import present
from nabrel.web.shared.requests import (
    database,
    evaluated,
    evaluated_today,
    house,
)
from nabrel.web.wear import answers as ww


def worn_wire(saved: StoredWear) -> ww.WearWire:
    """One record: whose, the looks, and the forecast against what was seen."""
    with database().session() as session:
        stored = Sequences(session).get(saved.plan)
        sequence = Sequences(session).at(saved.plan, saved.revision)
    evaluation = evaluated(stored) if stored.revision == saved.revision else evaluated_today(sequence)
    climate = saved.worn.climate(sequence.case.intent.climate)
    # One look serves both halves of a trial; what lies in the middle belongs to neither.
    halved = saved.trial is not None and saved.trial.side in SIDES["halves"]
    own = {zone for zone in ZONE_INFO if not halved or mirrored(zone) != zone}
    return filled(
        ww.WearWire,
        saved,
        wear_id=saved.id,
        plan_id=saved.plan,
        sitter_id=stored.sitter_id,
        nickname=sequence.case.sitter.nickname,
        title=sequence.title or sequence.case.sitter.nickname,
        looks_say=[look_says(look) for look in saved.looks],
        zones=[zone for zone in ZONE_INFO if zone in own and any(zone in step.zones for step in sequence.steps)],
        hexes=present.finished_hexes(evaluation),
        proportions=proportions_of(sequence.case.sitter),
        spans=list(_spans(saved, evaluation, climate)),
        colours=[
            filled(
                ww.ColourSeenWire,
                each,
                words=ZONE_INFO[each.zone].words,
                forecast_hex=to_hex(np.array([each.forecast]))[0],
                read_hex=to_hex(np.array([each.read]))[0],
            )
            for each in colours_seen(sequence, house(), saved.looks)
        ],
        temperature_c=climate.temperature_c,
        humidity_pc=climate.humidity_percent,
    )


def _spans(saved: StoredWear, evaluation: Evaluation, climate: Climate) -> Iterator[ww.SpanWire]:
    """Forecast against seen, for each part of the face and each sign that comes: its first zone speaks for the part."""
    sitter, laid = evaluation.sequence.case.sitter.nickname, laid_by(evaluation.sequence.steps)
    looked = looked_at(saved.looks)
    hours = {zone: each.hours for zone, each in saved.forecast.items()}
    for about, sign in COMES.items():
        for region in REGION_INFO:
            expected = {
                zone: own
                for zone, each in hours.items()
                if ZONE_INFO[zone].region == region and (own := _hours(each, about)) is not None
            }
            if expected:
                seen = {zone: looked[zone] for zone in expected if zone in looked}
                zone, low, high = _first(expected, seen, sign)
                factors = factors_on(evaluation.house, about, sitter, laid.get(zone, BARE))
                learnt = factor_of(factors), looks_of(factors)
                counts_on = drivers(evaluation, zone, sign, climate)
                yield _span(region, sign, zone, expected[zone], low, high, learnt, counts_on)


def _hours(forecast: Hours, about: str) -> float | None:
    return forecast.shine_hours if about == "shine_hours" else forecast.colour_hours


def _first(
    expected: Mapping[Zone, float], seen: Mapping[Zone, list[tuple[float, Mapping[WearSign, int]]]], sign: WearSign
) -> tuple[Zone, float | None, float | None]:
    """The zone of a part that was the first to show a sign, and between which hours; where nobody looked, the soonest forecast."""
    between = {zone: came_between(own, sign) for zone, own in seen.items()}
    first = min(between, key=lambda zone: (between[zone][1], between[zone][0]), default=None)
    if first is None:
        return min(expected, key=lambda each: expected[each]), None, None
    low, high = between[first]
    return first, low, None if high == float("inf") else high


def _span(
    region: Region, sign: WearSign, zone: Zone, expected: float, low: float | None, high: float | None,
    learnt: tuple[float, int], counts_on: tuple[str, ...],
) -> ww.SpanWire:  # fmt: skip
    factor, looks = learnt
    return ww.SpanWire(
        region=region,
        words=REGION_INFO[region].words,
        sign=sign,
        forecast_h=round(expected, 2),
        learnt_h=round(expected * factor, 2) if looks else None,
        forecast_zone=ZONE_INFO[zone].words,
        from_h=None if low is None else round(low, 2),
        to_h=None if high is None else round(high, 2),
        looked=low is not None,
        says=_says(sign, expected, low, high, ZONE_INFO[zone].place, counts_on, learnt),
    )


def _says(
    sign: WearSign, expected: float, low: float | None, high: float | None, place: str, counts_on: tuple[str, ...],
    learnt: tuple[float, int],
) -> str:  # fmt: skip
    """Forecast and seen in a sentence; where the forecast was wrong, what it counts on."""
    factor, looks = learnt
    what = "Shine" if sign == "shine" else "Fading"
    forecast = f"forecast {place} after {expected:.1f} h"
    if looks:
        forecast += f" ({expected * factor:.1f} h now, {learnt_from(looks)})"
    if low is None:
        return f"{what} {forecast}; nobody looked yet."
    wrong = f" The forecast counts on {join_words(counts_on)}."
    if high is None:
        seen = f"{what} {forecast}; not seen by {low:.1f} h"
        return f"{seen}, later than forecast.{wrong}" if low > expected else f"{seen}."
    seen = f"{what} {forecast}; seen between {low:.1f} and {high:.1f} h"
    if high < expected:
        return f"{seen}, sooner than forecast.{wrong}"
    return f"{seen}, later than forecast.{wrong}" if low > expected else f"{seen}, as forecast."
