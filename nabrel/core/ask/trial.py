"""Edits tried before they are kept: what changes in words and figures, which findings come and go, how the look moves."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import numpy as np

from nabrel.core.ask.compare import Difference, compare
from nabrel.core.base.possible import apply_edits
from nabrel.core.film.difference import delta_e
from nabrel.core.house import House
from nabrel.core.judge.book import Finding
from nabrel.core.judge.evaluate import Evaluation, evaluate
from nabrel.core.plan.edits import Edit
from nabrel.core.terms.ids import Severity, Zone
from nabrel.core.terms.zones import ZONES


@dataclass(frozen=True, slots=True)
class Trial:
    """What edits would do. come and gone are findings, gravest first.

    look_de is the largest CIEDE2000 between a zone's finished colour now and then, on look_zone.
    """

    after: Evaluation
    difference: Difference
    come: tuple[Finding, ...]
    gone: tuple[Finding, ...]
    look_de: float
    look_zone: Zone

    @property
    def worst(self) -> Severity | None:
        """The gravest finding that comes, None where none does."""
        return self.come[0].severity if self.come else None


def try_edits(now: Evaluation, edits: Iterable[Edit], house: House) -> Trial:
    """Try edits on an evaluated sequence; nothing is kept. Refuses what the edits refuse."""
    edited = apply_edits(now.sequence, edits, now.products)
    return against(now, evaluate(edited, house, now.appearance.light, now, try_fixes=False))


def against(now: Evaluation, after: Evaluation) -> Trial:
    """The trial of one evaluation against another of the same face and light."""
    moved = delta_e(now.appearance.lab[-1], after.appearance.lab[-1])
    place = int(np.argmax(moved))
    return Trial(
        after=after,
        difference=compare(now, after),
        come=_beyond(after.findings, now.findings),
        gone=_beyond(now.findings, after.findings),
        look_de=float(moved[place]),
        look_zone=ZONES[place],
    )


def _beyond(ones: Sequence[Finding], others: Sequence[Finding]) -> tuple[Finding, ...]:
    """The findings of one check that the other does not have: a rule that speaks of the same zones is the same."""
    left = Counter((each.rule, each.severity, each.zones) for each in others)
    found: list[Finding] = []
    for each in ones:
        key = (each.rule, each.severity, each.zones)
        if left[key]:
            left[key] -= 1
        else:
            found.append(each)
    return tuple(found)
