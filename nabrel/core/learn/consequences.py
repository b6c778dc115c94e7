"""What taking a factor over would change in a plan: its forecast, its touch-ups, and what would be laid if it were planned anew."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, replace

from nabrel.core.ask.recommend import plan
from nabrel.core.house import House
from nabrel.core.house.factors import Factor
from nabrel.core.judge.evaluate import Evaluation, evaluate
from nabrel.core.plan.sequence import Sequence
from nabrel.core.terms.effects import ABOUT_INFO
from nabrel.core.terms.ids import EffectAbout, Zone
from nabrel.core.terms.places import places
from nabrel.core.terms.words import sentence
from nabrel.core.terms.zones import in_order
from nabrel.core.wear.forecast import ZoneForecast
from nabrel.core.wear.learnt import BARE, items_about, laid_by
from nabrel.core.wear.touch_up import shine_is_minded

MOVED = 0.005
"""A figure is another one from here on: half of what is written of it."""

MOST_AMOUNTS_SAID = 3


@dataclass(frozen=True, slots=True)
class Consequence:
    """What would change in one plan: the figure on the zone where it is worst, before and after, and in sentences.

    The figure is hours, or an index; ``anew`` is what it would be once the case is planned anew, None where nothing else is laid.
    """

    zone: Zone
    before: float
    after: float
    anew: float | None
    says: tuple[str, ...]


def concerns(factor: Factor, sequence: Sequence) -> bool:
    """Whether a factor says anything of this plan."""
    if factor.of == "sitter":
        return sequence.case.sitter.nickname == factor.id
    if factor.of == "item":
        laid = laid_by(sequence.steps).values()
        return any(factor.id in items_about(factor.about, own) for own in laid)
    return True


def consequence(sequence: Sequence, house: House, factor: Factor) -> Consequence | None:
    """What taking this factor over would change in this plan; None where it changes nothing there.

    The plan is kept as it is for the forecast, and made anew from its case in its school for what would be laid.
    """
    if not concerns(factor, sequence):
        return None
    others = tuple(each for each in house.factors if each.parameter != factor.parameter)
    learnt = replace(house, factors=(*others, factor))
    was, now = evaluate(sequence, house, try_fixes=False), evaluate(sequence, learnt, try_fixes=False)
    moved = _moved(was, now, factor)
    if not moved:
        return None
    intent = replace(sequence.case.intent, school=sequence.school)
    case = replace(sequence.case, intent=intent)
    plain, other = plan(case, house), plan(case, learnt)
    changes = _changes(plain, other)
    amounts = tuple(_amounts(changes))
    minded = [z for z in moved if z in changes] or [z for z in moved if _minded(now, z, factor.about)] or moved
    zone = min(minded, key=lambda each: _figure(now, each, factor.about) * (1 if _is_hours(factor.about) else -1))
    anew = _figure(evaluate(other, learnt, try_fixes=False), zone, factor.about) if amounts else None
    before, after = _figure(was, zone, factor.about), _figure(now, zone, factor.about)
    return Consequence(
        zone, before, after, anew, tuple(_sentences(factor, zone, before, after, anew, amounts, was, now))
    )


def _is_hours(about: EffectAbout) -> bool:
    return about.endswith("_hours")


def _row(evaluation: Evaluation, zone: Zone) -> ZoneForecast:
    return next(row for row in evaluation.forecast if row.zone == zone)


def _figure(evaluation: Evaluation, zone: Zone, about: EffectAbout) -> float:
    found = getattr(_row(evaluation, zone), about)
    return 0.0 if found is None else float(found)


def _moved(was: Evaluation, now: Evaluation, factor: Factor) -> list[Zone]:
    """The zones that carry something and whose figure is another one by it."""
    laid = laid_by(now.sequence.steps)
    return [
        row.zone
        for row in now.forecast
        if laid.get(row.zone, BARE) != BARE
        and abs(_figure(now, row.zone, factor.about) - _figure(was, row.zone, factor.about)) > MOVED
    ]


def _minded(evaluation: Evaluation, zone: Zone, about: EffectAbout) -> bool:
    """Whether anybody would see to it there: a sheen is welcome on some faces."""
    if about != "shine_hours":
        return True
    return shine_is_minded(evaluation.reading.zones[zone], evaluation.sequence.case.intent.finish)


def _changes(plain: Sequence, other: Sequence) -> Mapping[Zone, tuple[float, float]]:
    """Where more or less powder is pressed, from how much to how much, mg/cm²."""
    old, new = _powder(plain), _powder(other)
    found = {zone: (old.get(zone, 0.0), new.get(zone, 0.0)) for zone in {*old, *new}}
    return {zone: change for zone, change in found.items() if change[0] != change[1]}


def _amounts(changes: Mapping[Zone, tuple[float, float]]) -> Iterator[str]:
    """What would be laid otherwise: "0.4 instead of 0.2 mg/cm² of powder on the forehead and nose"."""
    by_change: dict[tuple[float, float], list[Zone]] = {}
    for zone in in_order(changes):
        by_change.setdefault(changes[zone], []).append(zone)
    for (before, after), zones in sorted(by_change.items(), key=lambda row: -len(row[1]))[:MOST_AMOUNTS_SAID]:
        where = places(in_order(zones))
        if not after:
            yield f"no powder {where}"
        elif not before:
            yield f"{after:g} mg/cm² of powder {where}, where there is none"
        else:
            yield f"{after:g} instead of {before:g} mg/cm² of powder {where}"


def _powder(sequence: Sequence) -> Mapping[Zone, float]:
    """How much setting powder is pressed on each zone, mg/cm²."""
    found: dict[Zone, float] = {}
    for step in sequence.steps:
        if step.kind in ("set", "mute_shine") and step.unit == "mg_cm2":
            for zone, amount in step.amounts.items():
                found[zone] = found.get(zone, 0.0) + amount
    return found


def _sentences(
    factor: Factor, zone: Zone, before: float, after: float, anew: float | None, amounts: Iterable[str],
    was: Evaluation, now: Evaluation,
) -> Iterator[str]:  # fmt: skip
    unit = " h" if _is_hours(factor.about) else ""
    digits = 1 if unit else 2
    what = {"shine_hours": "Shine", "colour_hours": "Fading"}.get(
        factor.about, sentence(ABOUT_INFO[factor.about].words)
    )
    yield f"{what} forecast {places([zone])}: {after:.{digits}f}{unit} instead of {before:.{digits}f}{unit}."
    first = [visits[0].hour if visits else None for visits in (was.touch_ups, now.touch_ups)]
    if first[0] != first[1]:
        came, comes = ("none" if hour is None else f"{hour:g} h" for hour in first)
        yield f"First touch-up after {comes} instead of {came}." if first[1] is not None else "No touch-up any more."
    laid = list(amounts)
    if laid and anew is not None:
        yield f"Planned again it gets {'; '.join(laid)}: forecast {anew:.{digits}f}{unit}."
    else:
        yield "Planned again, the same is laid."
