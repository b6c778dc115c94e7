"""A last look at a drafted plan: correctors that turned out not to be needed are left out again.

What comes after a corrector is only known once the whole plan is drafted: a light or a paler foundation may do its
work. Where a zone ends as near without it, the corrector is spared.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from nabrel.core.base.appearance import zones_with
from nabrel.core.film.difference import delta_e
from nabrel.core.plan.step import Step
from nabrel.core.planner.draft import Draft
from nabrel.core.terms.ids import Zone
from nabrel.core.terms.words import sentence


def spare_correctors(draft: Draft) -> None:
    """Take zones out of correct steps where they end as near to the complexion without, and say so."""
    kept: list[Step] = []
    spared = False
    for step in draft.steps:
        if step.kind != "correct" or not step.film_um:
            kept.append(step)
            continue
        needed = _needed(draft, step)
        for zone in step.zones:
            if zone not in needed:
                spared = True
                draft.leave(zone, "correct", "What comes over it evens the zone out by itself.")
        if needed:
            kept.append(step if needed == step.zones else _on_fewer(draft, step, needed))
    if spared:
        draft.start_again(kept)


def _on_fewer(draft: Draft, step: Step, zones: tuple[Zone, ...]) -> Step:
    """The step on these zones only, with the reasons that hold for them."""
    why, check = draft.says_on[step.id](zones)
    return replace(step.with_zones(zones), why=tuple(sentence(said) for said in why if said), check=check)


def _needed(draft: Draft, corrector: Step) -> tuple[Zone, ...]:
    """The zones of a corrector that would end further from the complexion without it."""
    asked = [(zone, changes) for zone in corrector.zones for changes in ({}, {corrector.id: 0.0})]
    off = delta_e(zones_with(draft.base, asked), np.array(draft.reading.complexion)).reshape(-1, 2)
    anyway = draft.case.intent.correct_anyway
    enough = draft.house.spare_share * draft.house.close_enough_de
    return tuple(
        zone
        for zone, (with_it, without) in zip(corrector.zones, off, strict=True)
        if without > max(with_it, enough) or zone in anyway
    )
