"""A last look at a drafted plan: correctors that turned out not to be needed are left out again.

What comes after a corrector is only known once the whole plan is drafted: a light or a paler foundation may do its
work. Where a zone ends as near without it, the corrector is spared.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from nabrel.core.base.appearance import zones_with
from nabrel.core.film.difference import ashiness, delta_e
from nabrel.core.plan.step import Step
from nabrel.core.planner.draft import Draft
from nabrel.core.terms.ids import Zone
from nabrel.core.terms.words import sentence


def spare_correctors(draft: Draft) -> None:
    """Take zones out of correct steps where they end as near to the complexion without, or grey with it, and say so."""
    remaining: list[Step] = []
    spared = False
    for step in draft.steps:
        if step.kind != "correct" or not step.film_um:
            remaining.append(step)
            continue
        spared_here = _spared(draft, step)
        spared = spared or bool(spared_here)
        for zone, why in spared_here.items():
            draft.leave(zone, "correct", why)
        needed = tuple(zone for zone in step.zones if zone not in spared_here)
        if needed:
            remaining.append(step if needed == step.zones else _on_fewer(draft, step, needed))
    if spared:
        draft.start_again(remaining)


def _on_fewer(draft: Draft, step: Step, zones: tuple[Zone, ...]) -> Step:
    """The step on these zones only, with the reasons that hold for them."""
    why, check = draft.says_on[step.id](zones)
    return replace(step.with_zones(zones), why=tuple(sentence(said) for said in why if said), check=check)


def _spared(draft: Draft, corrector: Step) -> dict[Zone, str]:
    """The zones of a corrector that would end no further from the complexion without it, or that it turns grey, and why."""
    house, target = draft.house, np.array(draft.reading.complexion)
    asked = [(zone, changes) for zone in corrector.zones for changes in ({}, {corrector.id: 0.0})]
    shown = zones_with(draft.base, asked)
    off = delta_e(shown, target).reshape(-1, 2)
    grey = ashiness(shown, target).reshape(-1, 2)
    enough = house.spare_share * house.close_enough_de
    found: dict[Zone, str] = {}
    for zone, (with_it, without), (ashen, before) in zip(corrector.zones, off, grey, strict=True):
        if zone in draft.case.intent.correct_anyway:
            continue
        if without <= max(with_it, enough):
            found[zone] = "What comes over it evens the zone out by itself."
        elif ashen > house.grey_shows and ashen - before > house.grey_shows / 2:
            found[zone] = "No corrector of the kit cancels it without turning grey on this skin."
    return found
