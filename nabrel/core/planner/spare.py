"""A last look at a drafted plan: correctors that turned out not to be needed are left out again.

What comes after a corrector is only known once the whole plan is drafted: a light or a paler foundation may do its
work. Where a zone ends as near without it, the corrector is spared.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from nabrel.core.film.difference import delta_e
from nabrel.core.film.films import over
from nabrel.core.film.spectra import Floats, lab_of, surface
from nabrel.core.film.stack import lay
from nabrel.core.plan.step import Step, take_for
from nabrel.core.planner.draft import Draft
from nabrel.core.shelf.optics import film_for, layer_for
from nabrel.core.terms.ids import Zone

NEAR_SHARE = 0.8
"""Within this share of near enough without it, a corrector is spared however little it changes."""


def spare_correctors(draft: Draft) -> None:
    """Take zones out of correct steps where they end as near to the complexion without, and say so."""
    products = {item.id: item for item in draft.shelf.items}
    kept: list[Step] = []
    for step in draft.steps:
        if step.kind != "correct" or not step.film_um:
            kept.append(step)
            continue
        needed = tuple(z for z in step.zones if _needed(draft, step, z))
        for zone in step.zones:
            if zone not in needed:
                draft.leave(zone, "correct", "What comes over it evens the zone out by itself.")
        if needed == step.zones:
            kept.append(step)
        elif needed:
            fewer = replace(step, zones=needed)
            kept.append(replace(fewer, take=take_for(fewer, products.get(step.product or ""), draft.house)))
    draft.steps[:] = [replace(step, id=f"s{number}") for number, step in enumerate(kept, start=1)]


def _needed(draft: Draft, corrector: Step, zone: Zone) -> bool:
    target = np.array(draft.reading.complexion)
    shown = np.stack([_finished(draft, zone, None), _finished(draft, zone, corrector.id)])
    with_it, without = (float(each) for each in delta_e(lab_of(shown), target))
    return without > max(with_it, NEAR_SHARE * draft.house.close_enough_de)


def _finished(draft: Draft, zone: Zone, left_out: str | None) -> Floats:
    """The reflectance (31,) of a zone once the whole draft is laid, but for one step."""
    products = {item.id: item for item in draft.shelf.items}
    state = surface(draft.reading.zones[zone].lab)
    for step in draft.steps:
        product = products.get(step.product or "")
        if step.id == left_out or zone not in step.zones or product is None or not product.tinted or not step.lays:
            continue
        if product.dry:
            left = min(step.powder_mg_cm2 or 0.0, draft.house.bake_left_mg if step.kind == "bake" else 2.0)
            state = lay(state[None, :], layer_for(product, np.array([left]), draft.house))[0]
        else:
            film = film_for(product, draft.house)
            state = over(state, film.ratio, film.s * (step.film_um or 0.0))
    return state
