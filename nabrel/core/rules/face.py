"""Placement, correcting and colour: what suits this face and still shows as meant."""

from __future__ import annotations

from collections.abc import Iterator
from math import hypot

import numpy as np

from nabrel.core.appearance import ReadThrough, zone_with
from nabrel.core.case import Product
from nabrel.core.film.spectra import Floats, delta_e
from nabrel.core.house.tables import VIEWING_EDGE
from nabrel.core.plan.edits import Add, Remove, SetAmount, SetProduct
from nabrel.core.plan.step import Step
from nabrel.core.rules.book import Fix, Found, Judged, rule
from nabrel.core.rules.material import nearest_swap, without
from nabrel.core.vocabulary import Zone, both, in_order, places

LESS_SHARES = (0.75, 0.5, 0.35, 0.25, 0.15, 0.1)


@rule(
    "placed-for-this-face",
    "placement",
    "advice",
    "Sculpting goes where this face asks for it.",
    "A copied placement draws attention to what another person needed.",
)
def placed_for_this_face(judged: Judged) -> Iterator[Found]:
    for _, step in judged.steps():
        if step.kind not in ("shade", "light") or not step.lays:
            continue
        placed = judged.reading.placement.shade if step.kind == "shade" else judged.reading.placement.light
        against = {left.zone: left.why for left in placed.left_off}
        zones = tuple(z for z in step.zones if z in against)
        if zones:
            yield Found(
                (step.id,),
                zones,
                f"{step.kind.capitalize()} {places(zones)}. {against[zones[0]]}",
                without(step, zones),
            )


@rule(
    "colour-off-blemishes",
    "placement",
    "problem",
    "Colour stays off active blemishes.",
    "Pink over red draws the eye to what it should leave.",
)
def colour_off_blemishes(judged: Judged) -> Iterator[Found]:
    for _, step in judged.steps():
        if step.kind != "colour" or not step.lays:
            continue
        zones = tuple(z for z in step.zones if judged.here(z).severity("active_blemish"))
        if zones:
            yield Found(
                (step.id,),
                zones,
                f"Colour on {judged.reading.cite(zones, 'active_blemish')}.",
                without(step, zones),
            )


@rule(
    "corrector-within-patch",
    "correcting",
    "advice",
    "Only the discoloured patch is corrected.",
    "A hue laid where nothing needed cancelling is a discoloration of its own.",
)
def corrector_within_patch(judged: Judged) -> Iterator[Found]:
    for _, step in judged.steps():
        if step.kind != "correct" or not step.lays:
            continue
        zones = tuple(z for z in step.zones if not judged.here(z).discolorations and not judged.here(z).measured)
        if zones:
            yield Found((step.id,), zones, f"Nothing was read to correct {places(zones)}.", without(step, zones))


@rule(
    "corrector-hidden",
    "correcting",
    "problem",
    "The corrector's own hue does not show in the end.",
    "Too much corrector trades one cast for another.",
)
def corrector_hidden(judged: Judged) -> Iterator[Found]:
    for _, step in judged.steps():
        product = judged.product(step)
        if step.kind != "correct" or product is None or product.lab is None or not step.film_um:
            continue
        shown = {z: _cast(judged, product, judged.appearance.last_lab(z)) for z in step.zones}
        tinted = {z: cast for z, cast in shown.items() if cast > judged.house.corrector_cast}
        if tinted:
            yield Found(
                (step.id,),
                in_order(tinted),
                f"{product.name} still tints the finished base {places(tinted)} by {max(tinted.values()):.1f} in a*b*.",
                _less_of_it(judged, step, product, max(tinted, key=lambda z: tinted[z])),
            )


def _cast(judged: Judged, product: Product, lab: Floats) -> float:
    """How far a colour is off the complexion towards a corrector's own hue, in a*b*."""
    target, own = judged.appearance.target, product.lab or judged.appearance.target
    away = (own[1] - target[1], own[2] - target[2])
    length = hypot(*away) or 1.0
    return ((float(lab[1]) - target[1]) * away[0] + (float(lab[2]) - target[2]) * away[1]) / length


def _less_of_it(judged: Judged, step: Step, product: Product, worst: Zone) -> Fix:
    """The largest smaller film whose hue no longer shows on the worst zone, tried on the film model."""
    for share in LESS_SHARES:
        film = round((step.film_um or 0.0) * share, 2)
        if film < judged.house.least_film_um:
            break
        lab = zone_with(judged.sequence, judged.reading, judged.products, judged.house, worst, {step.id: film})
        if _cast(judged, product, lab) <= judged.house.corrector_cast:
            return Fix(f"{film:g} µm of it", (SetAmount(step.id, film_um=film),))
    return Fix("Leave it out", (Remove(step.id),))


@rule(
    "spot-not-lighter",
    "correcting",
    "problem",
    "Concealer on a mark is matched, never lighter.",
    "A pale spot advertises the mark it covers.",
)
def spot_not_lighter(judged: Judged) -> Iterator[Found]:
    for _, step in judged.steps():
        product = judged.product(step)
        if step.kind != "spot_conceal" or product is None or product.lab is None:
            continue
        marks = tuple(z for z in step.zones if z not in both("under_eye", "inner_corner"))
        level = judged.appearance.target[0]
        pale = tuple(z for z in marks if float(judged.appearance.last_lab(z)[0]) > level + judged.house.pale_spot_l)
        if pale and product.lab[0] > level + judged.house.pale_spot_l:
            other = nearest_swap(judged, product, lambda item: _as_dark_as(item, judged.appearance.target[0] + 1.5))
            yield Found(
                (step.id,),
                pale,
                f"{product.name} is {product.lab[0] - level:.0f} L* lighter than the complexion {places(pale)}.",
                Fix(f"Use {other.name}", (SetProduct(step.id, other.id),)) if other else None,
            )


def _as_dark_as(item: Product, lightness: float) -> bool:
    return item.lab is not None and item.lab[0] <= lightness


def _mean_step(rows: list[ReadThrough]) -> tuple[float, float]:
    return (
        sum(r.visible_step for r in rows) / len(rows),
        sum(r.bare_step for r in rows) / len(rows),
    )


@rule(
    "sculpt-reads-through",
    "colour",
    "problem",
    "Sculpting still shows once everything lies over it.",
    "A foundation scatters light back before it reaches the paint beneath, so shade and light fade as cover rises.",
)
def sculpt_reads_through(judged: Judged) -> Iterator[Found]:
    for kind, wanted in (("shade", judged.house.wanted_shade_drop), ("light", judged.house.wanted_light_lift)):
        rows = [r for r in judged.appearance.read_through if r.kind == kind]
        if not rows:
            continue
        visible, bare = _mean_step(rows)
        meant = visible < 0 if kind == "shade" else visible > 0
        if meant and abs(visible) >= judged.house.lost_share * wanted:
            continue
        steps = [s for s in judged.sequence.steps if s.kind == kind and s.lays]
        yield Found(
            tuple(s.id for s in steps),
            in_order(r.zone for r in rows),
            f"The {kind} is lost: of {abs(bare):.1f} L* laid, {abs(visible):.1f} still shows; {wanted:g} is wanted.",
            _let_it_through(judged, steps),
        )


def _let_it_through(judged: Judged, steps: list[Step]) -> Fix | None:
    """A sheerer foundation of nearly the same colour, where it is the foundation over it that hides the sculpting."""
    order = {s.id: i for i, s in enumerate(judged.sequence.steps)}
    above = [
        s
        for s in judged.sequence.steps
        if s.kind == "foundation" and steps and order[s.id] > order[steps[0].id] and s.product
    ]
    if not above:
        return None
    product = judged.product(above[0])
    if product is None or product.cover is None:
        return None
    least = product.cover - 0.15
    other = nearest_swap(judged, product, lambda item: item.base == product.base and (item.cover or 1.0) <= least)
    if other is None or other.lab is None or abs(other.lab[0] - judged.appearance.target[0]) > 6:
        return None
    edits = tuple(
        SetProduct(s.id, other.id) for s in judged.sequence.steps if s.product == product.id and s.kind == "foundation"
    )
    return Fix(f"{other.name} instead, cover {100 * (other.cover or 0):.0f} %", edits)


@rule(
    "no-stripes",
    "colour",
    "advice",
    "Sculpting reads as shadow and light, not as stripes.",
    "A step far beyond what light does on a face is seen as paint.",
)
def no_stripes(judged: Judged) -> Iterator[Found]:
    for kind, wanted in (("shade", judged.house.wanted_shade_drop), ("light", judged.house.wanted_light_lift)):
        rows = [r for r in judged.appearance.read_through if r.kind == kind]
        strong = [r for r in rows if abs(r.visible_step) > judged.house.stripe_factor * wanted]
        steps = [s for s in judged.sequence.steps if s.kind == kind and s.film_um]
        if not strong or not steps:
            continue
        worst = max(abs(r.visible_step) for r in strong)
        part = judged.house.stripe_factor * wanted / worst * 0.85
        zones = in_order(r.zone for r in strong)
        edits = tuple(
            SetAmount(s.id, film_um=max(0.5, round((s.film_um or 0.0) * part, 1)))
            for s in steps
            if set(s.zones) & set(zones)
        )
        yield Found(
            tuple(s.id for s in steps),
            zones,
            f"The {kind} shows {worst:.1f} L* {places(zones) if len(zones) <= 4 else ''}; about {wanted:g} reads as real.",
            Fix(f"Less of it, about {100 * part:.0f} %", edits) if edits else None,
        )


@rule(
    "face-meets-neck",
    "colour",
    "advice",
    "Finished face and neck join without a step.",
    "The jaw is where a mask shows first, in daylight and from the side.",
)
def face_meets_neck(judged: Judged) -> Iterator[Found]:
    if judged.reading.sitter.neck is None or not any(s.kind == "foundation" for s in judged.sequence.steps):
        return
    shaded = {z for s in judged.sequence.steps if s.kind in ("shade", "bronze") for z in s.zones}
    cheeks = [z for z in both("jaw") if z not in shaded] or list(both("chin"))
    neck = judged.appearance.last_lab("neck")
    steps = [float(delta_e(judged.appearance.last_lab(z), np.asarray(neck))) for z in cheeks]
    worst = max(steps)
    if worst <= judged.house.neck_step_de:
        return
    yield Found(
        tuple(s.id for s in judged.sequence.steps if s.kind == "foundation")[-1:],
        in_order([*cheeks, "neck"]),
        f"Face and neck end ΔE00 {worst:.1f} apart; up to {judged.house.neck_step_de:g} passes unseen. "
        "Carry the shade further down, or mix nearer to the neck.",
    )


@rule(
    "edges-fade",
    "colour",
    "advice",
    "No border can be followed with the eye.",
    "A colour step over a few millimetres is read as a line; the same step over a centimetre is read as form.",
)
def edges_fade(judged: Judged) -> Iterator[Found]:
    most = VIEWING_EDGE[judged.sequence.case.intent.viewing]
    hard = [edge for edge in judged.edges if edge.steepness > most]
    if not hard:
        return
    worst = hard[0]
    steps = [s for s in judged.sequence.steps if s.film_um and set(s.zones) & set(worst.zones)]
    closes = (s.id for s in judged.sequence.steps if s.kind == "crease_check" or s.powder_mg_cm2 is not None)
    before = next(closes, None)
    zones = in_order(z for edge in hard for z in edge.zones)
    fix = None
    if not any(s.kind == "soften_edges" for s in judged.sequence.steps):
        soften = Add("soften_edges", zones, before, tool="damp_sponge", motion="press", active_s=40)
        fix = Fix("Soften the edges with the empty sponge", (soften,))
    yield Found(
        tuple(s.id for s in steps[-2:]),
        zones,
        f"The {worst.kind} border steps ΔE00 {worst.step_de:.1f} over {worst.width_mm:g} mm, {worst.steepness:.2f} per mm; "
        f"up to {most:g} passes unseen here.",
        fix,
    )


@rule(
    "flash-flare",
    "colour",
    "advice",
    "Very pale powder is kept thin where a flash will fire.",
    "Fine pale powder throws a flash straight back, and the zone photographs white.",
)
def flash_flare(judged: Judged) -> Iterator[Found]:
    if "flash" not in judged.sequence.case.intent.lights:
        return
    white = [row for row in judged.forecast.values() if row.flare > judged.house.flare_limit]
    if not white:
        return
    zones = in_order(row.zone for row in white)
    steps = [s for s in judged.sequence.steps if s.powder_mg_cm2 and set(s.zones) & set(zones)]
    worst = max(white, key=lambda row: row.flare)
    yield Found(
        tuple(s.id for s in steps),
        zones,
        f"Pale powder {places([worst.zone])} has a flare index of {worst.flare:.2f} under a flash"
        + (f", and {len(zones) - 1} more zones are over {judged.house.flare_limit:g}." if len(zones) > 1 else "."),
    )
