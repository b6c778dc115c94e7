"""Candidates on one face weighed against each other: the figures that differ, and which of them is best at each."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from nabrel.core.compare import MEASURES, Better
from nabrel.core.errors import Refused
from nabrel.core.evaluate import Evaluation

MOST_CANDIDATES = 4


@dataclass(frozen=True, slots=True)
class WeighedFigure:
    """One figure of every candidate, in their order, and the places of the best; none where better has no direction."""

    name: str
    unit: str
    decimals: int
    better: Better
    values: tuple[float, ...]
    best: tuple[int, ...]


def weigh(candidates: Sequence[Evaluation]) -> tuple[WeighedFigure, ...]:
    """The figures in which candidates differ, told to the decimals worth showing. Refuses fewer than 2, more than 4."""
    if not 2 <= len(candidates) <= MOST_CANDIDATES:
        raise Refused("candidates", len(candidates), f"from 2 to {MOST_CANDIDATES} candidates")
    found: list[WeighedFigure] = []
    for name, unit, decimals, better, measure in MEASURES:
        values = tuple(round(measure(each), decimals) for each in candidates)
        if len(set(values)) == 1:
            continue
        wanted = {"lower": min(values), "higher": max(values)}.get(better)
        best = tuple(place for place, value in enumerate(values) if value == wanted)
        found.append(WeighedFigure(name, unit, decimals, better, values, best))
    return tuple(found)
