"""What wear records teach: effects with their intervals, whether forecasts got better by them, and what could be changed.

Nothing learnt changes anything by itself: a proposal is shown with its interval and what it rests on, and the educator agrees or not.
"""

from __future__ import annotations

from collections.abc import Container, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import UTC, datetime
from math import exp, inf, isfinite, log
from typing import cast

import numpy as np

from nabrel.core.house.factors import Factor, parameter_of
from nabrel.core.learn.fit import PRIOR_SD, Fitted, fitted
from nabrel.core.learn.record import WornBase
from nabrel.core.learn.seen import COMES, Observation, observations
from nabrel.core.terms.effects import ABOUT_INFO, OF_INFO
from nabrel.core.terms.ids import EffectAbout, EffectOf
from nabrel.core.terms.limits import LIMITS
from nabrel.core.terms.statistics import Z90
from nabrel.core.terms.words import counted

SURE_SD = 3.0
"""So many standard deviations from none an effect lies before it is proposed: of effects that are none, fewer than 1 in 300."""
LEAST_RECORDS = 3
"""In so many records a sitter was seen before anything is proposed: what went wrong on one day is not the sitter."""
NOT_APART = " What of it is {}, and what the products, cannot be told apart yet."
NEWEST, NEWEST_AGAINST = 3, " The newest looks say the opposite: wait and look again."
"""Of so many of the newest records, most observations lie on the other side of the forecast."""
WORTH = 0.1
"""A tenth: a smaller effect is not worth a change."""
MEASURE = "mean |ln(observed/forecast)|, each record left out in turn"


@dataclass(frozen=True, slots=True)
class Effect:
    """One effect: ``factor`` multiplies the forecast, ``low`` and ``high`` bound it in nine cases of ten.

    ``of`` says whose it is and ``id`` which one (empty for the house); it rests on ``seen`` observations, a zone of a record each,
    from ``looks`` looks.
    """

    about: EffectAbout
    of: EffectOf
    id: str
    factor: float
    low: float
    high: float
    seen: int
    looks: int = 0


@dataclass(frozen=True, slots=True)
class Error:
    """How far forecasts of hours lay off: as they were, and with what the other records teach. None where no hours were seen."""

    before: float | None
    after: float | None


@dataclass(frozen=True, slots=True)
class Proposal:
    """A factor that could be taken over: from what, to what, what it rests on, and the sentence."""

    effect: Effect
    was: float
    to: float
    says: str

    @property
    def parameter(self) -> str:
        """The name of the factor: "shine_hours of sitter Wren"."""
        return self.factor.parameter

    @property
    def factor(self) -> Factor:
        """It as forecasts would use it."""
        return Factor(self.effect.about, self.effect.of, self.effect.id, self.to, self.effect.looks)


@dataclass(frozen=True, slots=True)
class Learnt:
    """What so many records with so many looks teach."""

    records: int
    looks: int
    effects: tuple[Effect, ...]
    error: Error
    proposals: tuple[Proposal, ...]

    def effect(self, about: EffectAbout, of: EffectOf, name: str) -> Effect:
        """The effect of one thing; where it was never seen, what is believed before anything is seen: none, and wide."""
        own = (each for each in self.effects if (each.about, each.of, each.id) == (about, of, name))
        half = Z90 * PRIOR_SD[of]
        return next(own, Effect(about, of, name, 1.0, exp(-half), exp(half), 0))


def learn(wearings: Sequence[WornBase], taken: Iterable[Factor] = (), names: Mapping[str, str] | None = None) -> Learnt:
    """What these wearings teach. ``taken`` are factors that were taken over already.

    ``names`` of products by id, for the sentences; one that is not there is named as its plan's kit has it.

    Forecasts in the wearings are as the core makes them, without any factor taken over.
    """
    seen = list(observations(wearings))
    named = {item.id: item.name for each in wearings for item in each.sequence.case.kit} | dict(names or {})
    was = {each.parameter: each.factor for each in taken}
    effects: list[Effect] = []
    off: list[tuple[float, float]] = []
    proposals: list[Proposal] = []
    for about in ABOUT_INFO:
        own = [each for each in seen if each.about == about]
        if not own:
            continue
        fit = fitted(own)
        found = list(_effects(about, fit, _counted(own, wearings)))
        effects += found
        if ABOUT_INFO[about].forecast:
            proposals += [
                replace(each, says=each.says + NEWEST_AGAINST) if _newest_against(each.effect, own, wearings) else each
                for each in _proposals(found, fit, own, was, named)
            ]
        if about in COMES:
            off += [(_off(each, 0.0), _off(each, without)) for each, without in zip(own, fit.without, strict=True)]
    error = Error(_mean(before for before, _ in off), _mean(after for _, after in off))
    looks = sum(len(each.looks) for each in wearings)
    return Learnt(len(wearings), looks, tuple(effects), error, tuple(proposals))


def _newest_against(effect: Effect, seen: Iterable[Observation], wearings: Sequence[WornBase]) -> bool:
    """Whether of the newest records in which an effect was at work more observations lie plainly on its other side than on its own."""
    of_it = [each for each in seen if (effect.of, effect.id) in each.effects]
    undated = datetime.min.replace(tzinfo=UTC)
    order = sorted({each.record for each in of_it}, key=lambda record: (wearings[record].from_ or undated, record))
    newest = set(order[-NEWEST:])
    if len(newest) < NEWEST:
        return False
    more = sum(each.low > 0 for each in of_it if each.record in newest)
    less = sum(each.high < 0 for each in of_it if each.record in newest)
    return more > less if effect.factor < 1 else less > more


def _counted(seen: Iterable[Observation], wearings: Sequence[WornBase]) -> dict[tuple[str, str], tuple[int, int]]:
    """On how many observations each effect rests, and on how many looks."""
    records: dict[tuple[str, str], list[int]] = {}
    for each in seen:
        for effect in each.effects:
            records.setdefault(effect, []).append(each.record)
    looks = [len(each.looks) for each in wearings]
    return {effect: (len(own), sum(looks[record] for record in set(own))) for effect, own in records.items()}


def _effects(about: EffectAbout, fit: Fitted, counted: Mapping[tuple[str, str], tuple[int, int]]) -> Iterator[Effect]:
    for place, (of, name) in enumerate(fit.names):
        middle, half = float(fit.effects[place]), Z90 * fit.sd(place)
        yield Effect(
            about, cast("EffectOf", of), name, exp(middle), exp(middle - half), exp(middle + half), *counted[of, name]
        )


def _proposals(
    effects: Sequence[Effect],
    fit: Fitted,
    seen: Sequence[Observation],
    was: Mapping[str, float],
    named: Mapping[str, str],
) -> Iterator[Proposal]:
    """Factors far enough from what is used now: of the house and of items by themselves, of sitters as they usually wear it."""
    shared = [place for place, each in enumerate(effects) if OF_INFO[each.of].taken and each.of != "sitter"]
    proposed = [place for place in shared if _far(float(fit.effects[place]), fit.sd(place), _was(effects[place], was))]
    for place in proposed:
        yield _proposal(effects[place], was, named, "")
    told = {*proposed, *(place for place in shared if _was(effects[place], was) != 1.0)}
    by_sitter = _by_sitter(seen)
    for place, each in enumerate(effects):
        if each.of != "sitter":
            continue
        middle, sd, records = _on_sitter(by_sitter[each.id], fit, told)
        if records >= LEAST_RECORDS and _far(middle, sd, _was(each, was)):
            half = Z90 * sd
            usual = replace(each, factor=exp(middle), low=exp(middle - half), high=exp(middle + half))
            alone = _far(float(fit.effects[place]), fit.sd(place), 1.0)
            yield _proposal(usual, was, named, "" if alone else NOT_APART.format(each.id))


def _was(effect: Effect, was: Mapping[str, float]) -> float:
    return was.get(parameter_of(effect.about, effect.of, effect.id), 1.0)


def _far(middle: float, sd: float, was: float) -> bool:
    """Whether an effect, as a logarithm, is plainly another one than the factor used now."""
    return abs(middle - log(was)) >= max(WORTH, SURE_SD * sd)


def _by_sitter(seen: Iterable[Observation]) -> Mapping[str, list[Observation]]:
    found: dict[str, list[Observation]] = {}
    for each in seen:
        found.setdefault(next(name for of, name in each.effects if of == "sitter"), []).append(each)
    return found


def _on_sitter(own: Sequence[Observation], fit: Fitted, told: Container[int]) -> tuple[float, float, int]:
    """What all effects come to on one sitter as this sitter usually wears it, its standard deviation, and in how many records.

    Six sitters who each wear their own foundation leave it open whose the effect is, and what it comes to is known well. Effects
    that are told by themselves are left out.
    """
    worn: dict[tuple[str, str], int] = {}
    for each in own:
        for effect in each.effects:
            worn[effect] = worn.get(effect, 0) + 1
    design = np.array(
        [worn.get(name, 0) / len(own) if place not in told else 0.0 for place, name in enumerate(fit.names)]
    )
    sd = float(np.sqrt(design @ fit.covariance @ design))
    return float(design @ fit.effects), sd, len({each.record for each in own})


def _proposal(effect: Effect, was: Mapping[str, float], named: Mapping[str, str], also: str) -> Proposal:
    to = min(LIMITS.factor.high, max(LIMITS.factor.low, round(effect.factor, 2)))
    return Proposal(effect, _was(effect, was), to, _says(effect, named) + also)


def _says(effect: Effect, named: Mapping[str, str]) -> str:
    whose = {"sitter": f"On {effect.id}", "item": f"With {named.get(effect.id, effect.id)}"}.get(
        effect.of, "In this house"
    )
    row = ABOUT_INFO[effect.about]
    return (
        f"{whose} {row.more if effect.factor > 1 else row.less} than forecast: {effect.factor:.2f} times, between "
        f"{effect.low:.2f} and {effect.high:.2f} in nine cases of ten, learnt from {counted(effect.looks, 'look')}."
    )


def _off(seen: Observation, expected: float) -> float:
    """How far an expectation lies from what was seen, in logarithms: from the middle of its bounds, else from the one there is."""
    if isfinite(seen.low) and isfinite(seen.high):
        return abs(expected - (seen.low + seen.high) / 2)
    return max(0.0, seen.low - expected if seen.high == inf else expected - seen.high)


def _mean(values: Iterable[float]) -> float | None:
    every = list(values)
    return sum(every) / len(every) if every else None
