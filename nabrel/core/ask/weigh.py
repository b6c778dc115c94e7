"""Candidates on one face weighed against each other: the figures that differ, and which of them is best at each."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from nabrel.core.errors import Refused
from nabrel.core.house.factors import learnt_from
from nabrel.core.judge.evaluate import Evaluation
from nabrel.core.judge.figures import MEASURES
from nabrel.core.plan.edits import SetProduct
from nabrel.core.plan.sequence import Sequence as Planned
from nabrel.core.terms.zones import area_of

MOST_CANDIDATES = 4


@dataclass(frozen=True, slots=True)
class WeighedFigure:
    """One figure of every candidate, in their order, which way it is better and what was learnt in words, and the best's places.

    None is best where they differ in the figure but lie equally far from what is wanted.
    """

    figure: str
    name: str
    unit: str
    decimals: int
    wish: str
    values: tuple[float, ...]
    best: tuple[int, ...]


def with_foundation(sequence: Planned, product: str) -> tuple[SetProduct, ...]:
    """Edits that lay another foundation where most of the foundation lies; a second shade, as of two tones, stays.

    Empty where the sequence has no foundation.
    """
    area: dict[str | None, float] = {}
    steps = [step for step in sequence.steps if step.kind == "foundation"]
    for step in steps:
        area[step.item] = area.get(step.item, 0.0) + area_of(step.zones)
    main = max(area, key=lambda each: area[each], default=None)
    return tuple(SetProduct(step.id, product) for step in steps if step.item == main)


def weigh(candidates: Sequence[Evaluation]) -> tuple[WeighedFigure, ...]:
    """The figures in which candidates differ, told to the decimals worth showing. Refuses fewer than 2, more than 4."""
    if not 2 <= len(candidates) <= MOST_CANDIDATES:
        raise Refused("candidates", len(candidates), f"from 2 to {MOST_CANDIDATES} candidates")
    found: list[WeighedFigure] = []
    for each in MEASURES:
        values = tuple(each.told(one) for one in candidates)
        if len(set(values)) == 1:
            continue
        misses = [each.miss(one) for one in candidates]
        level = len(set(misses)) == 1
        best = () if level else tuple(place for place, miss in enumerate(misses) if miss == min(misses))
        learnt = learnt_from(max(each.looks(one) for one in candidates))
        wish = "; ".join(part for part in (each.wish(candidates[0]), learnt) if part)
        found.append(WeighedFigure(each.figure, each.name, each.unit, each.decimals, wish, values, best))
    return tuple(found)
