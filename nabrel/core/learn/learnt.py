"""What wear records teach: effects with their intervals, whether forecasts got better by them, and what could be changed.

Nothing learnt changes anything by itself: a proposal is shown with its interval and what it rests on, and the educator agrees or not.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from math import exp, inf, isfinite, log

from nabrel.core.learn.fit import PRIOR_SD, Z90, Fitted, fitted
from nabrel.core.learn.record import Wearing
from nabrel.core.learn.seen import COMES, About, Of, Seen, observations

SURE_SD = 3.0
"""So many standard deviations from none an effect lies before it is proposed: of effects that are none, fewer than 1 in 300."""
WORTH = 0.1
"""A tenth: a smaller effect is not worth a change."""
ABOUT_WORDS: Mapping[About, str] = {
    "shine_hours": "hours to shine",
    "colour_hours": "hours of colour",
    "crease": "creasing",
    "cake": "caking",
    "lift": "lifting",
    "shift": "shift of colour",
}
MEASURE = "mean |ln(observed/forecast)|, each record left out in turn"


@dataclass(frozen=True, slots=True)
class Effect:
    """One effect: ``factor`` multiplies the forecast, ``low`` and ``high`` bound it in nine cases of ten.

    ``of`` says whose it is and ``id`` which one (empty for the house); it rests on ``seen`` observations: a zone of a record each.
    """

    about: About
    of: Of
    id: str
    factor: float
    low: float
    high: float
    seen: int


@dataclass(frozen=True, slots=True)
class Error:
    """How far forecasts of hours lay off: as they were, and with what the other records teach. None where no hours were seen."""

    before: float | None
    after: float | None


@dataclass(frozen=True, slots=True)
class Proposal:
    """A factor that could be taken over: its name, from what to what, and the sentence."""

    parameter: str
    was: float
    to: float
    says: str


@dataclass(frozen=True, slots=True)
class Learnt:
    """What so many records with so many looks teach."""

    records: int
    looks: int
    effects: tuple[Effect, ...]
    error: Error
    proposals: tuple[Proposal, ...]

    def effect(self, about: About, of: Of, name: str) -> Effect:
        """The effect of one thing; where it was never seen, what is believed before anything is seen: none, and wide."""
        own = (each for each in self.effects if (each.about, each.of, each.id) == (about, of, name))
        half = Z90 * PRIOR_SD[of]
        return next(own, Effect(about, of, name, 1.0, exp(-half), exp(half), 0))


def learn(
    wearings: Sequence[Wearing], taken: Mapping[str, float] | None = None, names: Mapping[str, str] | None = None
) -> Learnt:
    """What these wearings teach. ``taken`` are factors that were taken over already, by the name of their proposal.

    ``names`` of products by id, for the sentences; one that is not there is named as its plan's kit has it.

    Forecasts in the wearings are as the core makes them, without any factor taken over.
    """
    seen = list(observations(wearings))
    named = {item.id: item.name for each in wearings for item in each.sequence.case.kit} | dict(names or {})
    effects: list[Effect] = []
    off: list[tuple[float, float]] = []
    proposals: list[Proposal] = []
    for about in ABOUT_WORDS:
        own = [each for each in seen if each.about == about]
        if not own:
            continue
        fit = fitted(own)
        counted = _counted(own)
        found = list(_effects(about, fit, counted))
        effects += found
        proposals += _proposals(found, fit, taken or {}, named)
        if about in COMES:
            off += [(_off(each, 0.0), _off(each, without)) for each, without in zip(own, fit.without, strict=True)]
    error = Error(_mean(before for before, _ in off), _mean(after for _, after in off))
    looks = sum(len(each.looks) for each in wearings)
    return Learnt(len(wearings), looks, tuple(effects), error, tuple(proposals))


def parameter_of(about: About, of: Of, name: str) -> str:
    """The name under which a factor is taken over: "shine_hours of sitter Wren"."""
    return f"{about} of {of} {name}".strip()


def _counted(seen: Iterable[Seen]) -> dict[tuple[Of, str], int]:
    counted: dict[tuple[Of, str], int] = {}
    for each in seen:
        for effect in each.effects:
            counted[effect] = counted.get(effect, 0) + 1
    return counted


def _effects(about: About, fit: Fitted, counted: Mapping[tuple[Of, str], int]) -> Iterator[Effect]:
    for place, (of, name) in enumerate(fit.names):
        middle, half = float(fit.effects[place]), Z90 * fit.sd(place)
        yield Effect(about, of, name, exp(middle), exp(middle - half), exp(middle + half), counted[of, name])


def _proposals(
    effects: Sequence[Effect], fit: Fitted, taken: Mapping[str, float], named: Mapping[str, str]
) -> Iterator[Proposal]:
    for place, effect in enumerate(effects):
        # Zone groups and schools are shown, not proposed: the first is the house's own forecast, the second is for Weigh to rank by.
        if effect.of not in ("house", "sitter", "item"):
            continue
        name = parameter_of(effect.about, effect.of, effect.id)
        was = taken.get(name, 1.0)
        away = abs(float(fit.effects[place]) - log(was))
        if away < WORTH or away < SURE_SD * fit.sd(place):
            continue
        yield Proposal(name, was, round(effect.factor, 2), _says(effect, named))


def _says(effect: Effect, named: Mapping[str, str]) -> str:
    whose = {"sitter": f"On {effect.id}", "item": f"With {named.get(effect.id, effect.id)}"}.get(
        effect.of, "In this house"
    )
    more = effect.factor > 1
    what = {
        "shine_hours": "it shines later" if more else "it shines sooner",
        "colour_hours": f"colour lasts {'longer' if more else 'shorter'}",
    }.get(effect.about, f"{ABOUT_WORDS[effect.about]} is {'more' if more else 'less'}")
    return (
        f"{whose} {what} than forecast: {effect.factor:.2f} times, between {effect.low:.2f} and {effect.high:.2f} in nine "
        f"cases of ten, from {effect.seen} zones seen."
    )


def _off(seen: Seen, expected: float) -> float:
    """How far an expectation lies from what was seen, in logarithms: from the middle of its bounds, else from the one there is."""
    if isfinite(seen.low) and isfinite(seen.high):
        return abs(expected - (seen.low + seen.high) / 2)
    return max(0.0, seen.low - expected if seen.high == inf else expected - seen.high)


def _mean(values: Iterable[float]) -> float | None:
    every = list(values)
    return sum(every) / len(every) if every else None
