"""The figures of a whole plan by which two plans are told apart, and which way each of them is better."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Literal

from nabrel.core.judge.evaluate import Evaluation
from nabrel.core.judge.misses import mean_miss
from nabrel.core.terms.ids import EffectAbout

Better = Literal["lower", "higher", "nearer", "neither"]
Gain = Literal["better", "worse", ""]


@dataclass(frozen=True, slots=True)
class Measure:
    """One figure of a whole plan; ``figure`` says which of :data:`nabrel.core.terms.figures.FIGURE_INFO` explains it.

    ``of`` works it out, in ``unit``, told to ``decimals``. ``better`` is lower, higher, nearer to what ``aim`` says
    of the same plan (L*; within the house's ``wanted_within``), or neither where the figure only tells how it is.
    ``learnt`` is what wear records may have moved in it.
    """

    figure: str
    name: str
    unit: str
    decimals: int
    better: Better
    of: Callable[[Evaluation], float]
    aim: Callable[[Evaluation], float] | None = None
    learnt: EffectAbout | None = None

    def looks(self, evaluation: Evaluation) -> int:
        """On how many looks it rests; 0 where nothing learnt is in it."""
        if self.learnt is None:
            return 0
        return max((row.looks_behind(self.learnt) for row in evaluation.forecast), default=0)

    def told(self, evaluation: Evaluation) -> float:
        """The figure as it is told: to the decimals worth showing."""
        return round(self.of(evaluation), self.decimals)

    def miss(self, evaluation: Evaluation) -> float:
        """How far from the best this could be, for ordering: the lower the better. As told, so that alike is alike."""
        told = self.told(evaluation)
        if self.better == "neither":
            return 0.0
        if self.better == "lower":
            return told
        if self.better == "higher" or self.aim is None:
            return -told
        off = abs(told - round(self.aim(evaluation), self.decimals))
        return round(max(0.0, off - evaluation.house.wanted_within), self.decimals)

    def gain(self, before: Evaluation, after: Evaluation) -> Gain:
        """Whether the second is better at this than the first; empty where they are alike."""
        was, now = self.miss(before), self.miss(after)
        return "" if was == now else "better" if now < was else "worse"

    def wish(self, evaluation: Evaluation) -> str:
        """Which way is better, in words; empty where neither is."""
        if self.better == "nearer" and self.aim is not None:
            return f"{self.aim(evaluation):.{self.decimals}f} is wanted"
        return "" if self.better == "neither" else f"{self.better} is better"


def visible(evaluation: Evaluation, kind: str) -> float:
    """Mean visible step of one kind of sculpting in L*, 0 where there is none.

    Positive the way it is meant: darker for shade and bronze, lighter for light; negative where it does the opposite.
    """
    mean = _mean(row.visible_step for row in evaluation.appearance.read_through if row.kind == kind)
    return mean if kind == "light" else 0.0 - mean


def reads_through(evaluation: Evaluation) -> float:
    """Mean share, in percent, of the step that shade and light were laid with that still shows at the end."""
    rows = [row for row in evaluation.appearance.read_through if row.kind in ("shade", "light")]
    return 100 * max(0.0, _mean(row.share for row in rows))


def mean_film(evaluation: Evaluation) -> float:
    """Film over the zones that carry any, in µm, weighted alike."""
    return _mean(row.film_um for row in evaluation.forecast if row.film_um > 0)


def deepest_crease(evaluation: Evaluation) -> float:
    """Crease index of the zone that creases most; 0 where nothing lies."""
    return max((row.crease for row in evaluation.forecast), default=0.0)


MEASURES = (
    Measure("steps", "Steps", "", 0, "lower", lambda e: float(e.totals.steps)),
    Measure("time", "Time", "min", 0, "lower", lambda e: e.totals.minutes),
    Measure("film", "Film, mean of zones", "µm", 1, "lower", mean_film),
    Measure("load", "Fullest zone", "%", 0, "lower", lambda e: 100 * e.totals.worst_cake, learnt="cake"),
    Measure(
        "shade_shows",
        "Shade that shows",
        "L*",
        1,
        "nearer",
        lambda e: visible(e, "shade"),
        lambda e: e.house.wanted_shade_drop,
    ),
    Measure(
        "light_shows",
        "Light that shows",
        "L*",
        1,
        "nearer",
        lambda e: visible(e, "light"),
        lambda e: e.house.wanted_light_lift,
    ),
    Measure("read_through", "Sculpting that reads through", "%", 0, "neither", reads_through),
    Measure("off_aim", "Off its aim, mean by area", "ΔE00", 1, "lower", lambda e: mean_miss(e)),
    Measure("shine", "First shine", "h", 1, "higher", lambda e: e.totals.least_shine_hours, learnt="shine_hours"),
    Measure("powder", "Powder", "mg", 0, "lower", lambda e: 1000 * e.totals.powder_g),
    Measure("product", "Product", "ml", 2, "lower", lambda e: e.totals.film_ml),
    Measure("crease", "Deepest crease", "index", 2, "lower", deepest_crease, learnt="crease"),
    Measure("cost", "Cost of a face", "", 2, "lower", lambda e: e.totals.cost or 0.0),
    Measure("findings", "Findings", "", 0, "lower", lambda e: float(sum(not found.accepted for found in e.findings))),
)
"""In the order in which they are told."""


def _mean(values: Iterable[float]) -> float:
    found = list(values)
    return sum(found) / len(found) if found else 0.0
