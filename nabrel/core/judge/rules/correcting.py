"""Correcting: the right hue, on the patch alone, and no more than earns its step."""

from __future__ import annotations

from collections.abc import Iterator
from math import hypot
from typing import cast

import numpy as np

from nabrel.core.base.appearance import zones_with
from nabrel.core.case.product import Product
from nabrel.core.film.difference import delta_e
from nabrel.core.film.spectra import Floats
from nabrel.core.judge.book import Breach, Fix, Judged, rule
from nabrel.core.judge.rules.material import nearest_swap
from nabrel.core.judge.ways_out import no_more_than, without
from nabrel.core.plan.edits import Remove, SetProduct
from nabrel.core.plan.step import Step
from nabrel.core.shelf.ladder import film_ladder
from nabrel.core.terms.conditions import MARKS
from nabrel.core.terms.ids import Zone
from nabrel.core.terms.places import places
from nabrel.core.terms.zones import both, in_order


@rule(
    "corrector-within-patch",
    "correcting",
    "advice",
    "Only the discoloured patch is corrected.",
    "A hue laid where nothing needed cancelling is a discoloration of its own.",
    parameters=("corrector_harms_de",),
    at_worst="problem",
)
def corrector_within_patch(judged: Judged) -> Iterator[Breach]:
    asked = set(judged.sequence.case.intent.correct_anyway)
    for _, step in judged.steps():
        if step.kind != "correct" or not step.lays:
            continue
        zones = tuple(
            z
            for z in step.zones
            if z not in asked and not judged.here(z).discolorations and not judged.here(z).measured
        )
        if not zones:
            continue
        off = _with_and_without(judged, step)
        shows = max(off[z][0] - off[z][1] for z in zones) if off else 0.0
        seen = shows > judged.house.corrector_harms_de
        yield Breach(
            (step.id,),
            zones,
            f"Nothing was read to correct {places(zones)}"
            + (f", and the hue shows there in the end: ΔE00 {shows:.1f} further off than without it." if seen else "."),
            without(step, zones),
            "problem" if seen else None,
        )


@rule(
    "corrector-hidden",
    "correcting",
    "problem",
    "The corrector's own hue does not show in the end.",
    "Too much corrector trades one cast for another.",
    parameters=("corrector_cast",),
)
def corrector_hidden(judged: Judged) -> Iterator[Breach]:
    for _, step in judged.steps():
        product = judged.product(step)
        if step.kind != "correct" or product is None or product.lab is None or not step.film_um:
            continue
        # Where colour is laid on purpose over it, what is seen is that.
        coloured = {
            z for s in judged.sequence.steps if s.kind in ("shade", "bronze", "colour", "glow") and s.lays for z in s.zones
        }  # fmt: skip
        shown = {z: _cast(judged, product, judged.appearance.last_lab(z)) for z in step.zones if z not in coloured}
        tinted = {z: cast for z, cast in shown.items() if cast > judged.house.corrector_cast}
        if tinted:
            yield Breach(
                (step.id,),
                in_order(tinted),
                f"{product.name} still tints the finished base {places(tinted)} by {max(tinted.values()):.1f} in a*b*.",
                _less_of_it(judged, step, product, max(tinted, key=lambda z: tinted[z])),
                None
                if max(tinted.values()) > judged.house.grave_cast_factor * judged.house.corrector_cast
                else "advice",
            )


def _cast(judged: Judged, product: Product, lab: Floats) -> float:
    """How far a colour is off the complexion towards a corrector's own hue, in a*b*."""
    target, own = judged.appearance.target, product.lab or judged.appearance.target
    away = (own[1] - target[1], own[2] - target[2])
    length = hypot(*away) or 1.0
    return ((float(lab[1]) - target[1]) * away[0] + (float(lab[2]) - target[2]) * away[1]) / length


def _less_of_it(judged: Judged, step: Step, product: Product, worst: Zone) -> Fix:
    """The largest smaller film whose hue no longer shows on the worst zone, tried on the film model."""
    own = step.amounts[worst]
    for film in (float(rung) for rung in reversed(film_ladder(judged.house)) if rung < own):
        lab = zones_with(judged.course.after, [(worst, {step.id: film})])[0]
        if _cast(judged, product, lab) <= judged.house.corrector_cast:
            return Fix(f"{film:g} µm of it", no_more_than(step, film, [worst]))
    return Fix("Leave it out", (Remove(step.id),))


@rule(
    "spot-not-lighter",
    "correcting",
    "problem",
    "Concealer on a mark is matched, never lighter.",
    "A pale spot advertises the mark it covers.",
    parameters=("pale_spot_l",),
)
def spot_not_lighter(judged: Judged) -> Iterator[Breach]:
    for _, step in judged.steps():
        product = judged.product(step)
        if step.kind != "spot_conceal" or product is None or product.lab is None:
            continue
        marks = tuple(z for z in step.zones if z not in both("under_eye", "inner_corner"))
        level = judged.appearance.target[0]
        pale = tuple(z for z in marks if float(judged.appearance.last_lab(z)[0]) > level + judged.house.pale_spot_l)
        if pale and product.lab[0] > level + judged.house.pale_spot_l:
            other = nearest_swap(
                judged, product, lambda item: _as_dark_as(item, judged.appearance.target[0] + judged.house.pale_spot_l)
            )
            yield Breach(
                (step.id,),
                pale,
                f"{product.name} is {product.lab[0] - level:.0f} L* lighter than the complexion {places(pale)}.",
                Fix(f"Use {other.name}", (SetProduct(step.id, other.id),)) if other else None,
            )


def _as_dark_as(item: Product, lightness: float) -> bool:
    return item.lab is not None and item.lab[0] <= lightness


@rule(
    "corrector-helps",
    "correcting",
    "problem",
    "A corrector brings the zone nearer to the complexion than it would be without.",
    "A hue that does not oppose the discoloration adds a second one.",
    parameters=("close_enough_de",),
)
def corrector_helps(judged: Judged) -> Iterator[Breach]:
    for step, product in _correctors(judged):
        off = _with_and_without(judged, step)
        worse = tuple(z for z, (now, without_it) in off.items() if without_it < now - judged.house.corrector_harms_de)
        if worse:
            z = max(worse, key=lambda each: off[each][0] - off[each][1])
            yield Breach(
                (step.id,),
                worse,
                f"{product.name} leaves ΔE00 {off[z][0]:.1f} {places([z])}; without it {off[z][1]:.1f}.",
                without(step, worse),
            )


@rule(
    "corrector-earns-its-step",
    "correcting",
    "advice",
    "Where one thin layer covers, no corrector is needed.",
    "Every layer that is left out cannot cake, crease or show its hue.",
    parameters=("close_enough_de",),
)
def corrector_earns_its_step(judged: Judged) -> Iterator[Breach]:
    limit = judged.house.close_enough_de * judged.house.spare_share
    for step, product in _correctors(judged):
        if step.zones and all(bare <= limit for _, bare in _with_and_without(judged, step).values()):
            yield Breach(
                (step.id,),
                step.zones,
                f"Without {product.name} every zone would be within ΔE00 {limit:.1f} as it is.",
                Fix("Leave it out", (Remove(step.id),)),
            )


def _correctors(judged: Judged) -> Iterator[tuple[Step, Product]]:
    for _, step in judged.steps():
        product = judged.product(step)
        if step.kind == "correct" and product is not None and product.tinted and step.film_um:
            yield step, product


def _with_and_without(judged: Judged, step: Step) -> dict[Zone, tuple[float, float]]:
    """ΔE00 of each of a step's zones from the complexion in the end, as it is and if the step laid nothing.

    Worked out for all correctors of the plan at once.
    """
    known = cast("dict[str, dict[Zone, tuple[float, float]]] | None", judged.worked_out.get("without each corrector"))
    if known is None:
        asked = [(each.id, zone) for each, _ in _correctors(judged) for zone in each.zones]
        rows = [(zone, films) for each, zone in asked for films in ({}, {each: 0.0})]
        known = {}
        if rows:
            labs = zones_with(judged.course.after, rows)
            off = delta_e(labs, np.array(judged.appearance.target)).reshape(-1, 2)
            for (each, zone), (now, bare) in zip(asked, off, strict=True):
                known.setdefault(each, {})[zone] = (float(now), float(bare))
        judged.worked_out["without each corrector"] = known
    return known.get(step.id, {})


@rule(
    "thin-corrector",
    "correcting",
    "advice",
    "Less corrector than seems right.",
    "A corrector cancels a hue; covering is the next layer's work.",
    parameters=("most_corrector_um",),
)
def thin_corrector(judged: Judged) -> Iterator[Breach]:
    most = judged.house.most_corrector_um
    for _, step in judged.steps():
        if step.kind == "correct" and step.film_um is not None and step.film_um > most:
            yield Breach(
                (step.id,),
                step.zones,
                f"{step.film_um:g} µm of corrector; {most:g} is seldom needed.",
                Fix(f"{most / 2:g} µm, then look", no_more_than(step, most / 2)),
            )


@rule(
    "lavender-judged-by-eye",
    "correcting",
    "advice",
    "Lavender under the eye is judged on this skin.",
    "It lifts yellow-brown dullness, and turns blue or violet darkness grey.",
    other_view="One school uses lavender under the eye by habit, for dullness; the film model says whether it helps here.",
)
def lavender_judged_by_eye(judged: Judged) -> Iterator[Breach]:
    for _, step in judged.steps():
        product = judged.product(step)
        if step.kind != "correct" or product is None or product.lab is None or product.lab[2] > 0:
            continue
        zones = tuple(z for z in step.zones if z in both("under_eye", "inner_corner"))
        if zones:
            off = _with_and_without(judged, step)
            now, bare = max(off[z][0] for z in zones), max(off[z][1] for z in zones)
            if now < bare - judged.house.corrector_helps_de:
                continue
            yield Breach(
                (step.id,),
                zones,
                f"{product.name} under the eye: ΔE00 {now:.1f} with it, {bare:.1f} without, on this face.",
            )


@rule(
    "spot-on-the-spot",
    "correcting",
    "advice",
    "Spot concealer goes where a mark was read.",
    "Where nothing shows, cover is film for nothing.",
)
def spot_on_the_spot(judged: Judged) -> Iterator[Breach]:
    for _, step in judged.steps():
        if step.kind != "spot_conceal" or not step.lays:
            continue
        zones = tuple(
            z
            for z in step.zones
            if not judged.here(z).severity(*MARKS) and not judged.here(z).discolorations and not judged.here(z).measured
        )
        if zones:
            yield Breach((step.id,), zones, f"No mark was read {places(zones)}.", without(step, zones))
