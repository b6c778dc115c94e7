"""Colour: sculpting that shows as meant, values that stay skin, edges and lights."""

from __future__ import annotations

from collections.abc import Iterator
from math import hypot

import numpy as np

from nabrel.core.base.appearance import ReadThrough
from nabrel.core.base.possible import apply_edits
from nabrel.core.case.product import Product
from nabrel.core.film.difference import ashiness, delta_e
from nabrel.core.film.direction import direction
from nabrel.core.film.spectra import Floats, as_lab, lab_of
from nabrel.core.house.tables import VIEWING_EDGE, WORTH_A_WORD
from nabrel.core.judge.book import Breach, Fix, Judged, rule
from nabrel.core.judge.rules.material import nearest_swap
from nabrel.core.judge.ways_out import short, without
from nabrel.core.plan.edits import Add, SetAmount, SetProduct
from nabrel.core.plan.step import Step
from nabrel.core.shelf.ladder import film_ladder, powder_ladder, rung_words
from nabrel.core.shelf.optics import film_for, veil_greys, veil_of, veiled
from nabrel.core.terms.ids import Zone
from nabrel.core.terms.places import places
from nabrel.core.terms.steps import FADING_KINDS, LAYER_KINDS, SCULPT_KINDS, TINTING_KINDS
from nabrel.core.terms.zones import COMPLEXION_ZONES, ZONE_INDEX, both, in_order


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
    parameters=("wanted_shade_drop", "wanted_light_lift", "lost_share"),
)
def sculpt_reads_through(judged: Judged) -> Iterator[Breach]:
    for kind, wanted in (("shade", judged.house.wanted_shade_drop), ("light", judged.house.wanted_light_lift)):
        rows = [r for r in judged.appearance.read_through if r.kind == kind]
        if not rows:
            continue
        visible, bare = _mean_step(rows)
        meant = visible < 0 if kind == "shade" else visible > 0
        if meant and abs(visible) >= judged.house.lost_share * wanted:
            continue
        steps = [s for s in judged.sequence.steps if s.kind == kind and s.lays]
        above = _above(judged, steps)
        yield Breach(
            tuple(s.id for s in steps),
            in_order(r.zone for r in rows),
            f"The {kind} is lost: of {abs(bare):.1f} L* laid, {abs(visible):.1f} still shows; {wanted:g} is wanted."
            if above
            else f"The {kind} is lost: it shows {abs(visible):.1f} L*; {wanted:g} is wanted.",
            _let_it_through(judged, steps),
            None if _buried(judged, kind, visible, wanted, meant) else "advice",
            tuple(s.id for s in above),
            why="" if above else TOO_FAINT,
        )


TOO_FAINT = "Nothing lies over it: it is laid too thinly, or what is laid is too near the skin, to be read as form."


def _buried(judged: Judged, kind: str, visible: float, wanted: float, meant: bool) -> bool:
    """Whether the school's own aim is missed: an underpainted shade, or sculpting that hardly shows at all."""
    steps = [s for s in judged.sequence.steps if s.kind == kind and s.lays]
    underpainted = judged.school.sculpts_beneath and kind == "shade" and bool(_above(judged, steps))
    return underpainted or not meant or abs(visible) < judged.house.lost_share * 0.5 * wanted


def _above(judged: Judged, steps: list[Step]) -> list[Step]:
    """The foundation that goes over any of the zones of these steps once the first of them is on."""
    if not steps:
        return []
    zones = {zone for step in steps for zone in step.zones}
    later = judged.sequence.steps[judged.sequence.steps.index(steps[0]) + 1 :]
    return [s for s in later if s.kind == "foundation" and s.item and zones & set(s.zones)]


def _let_it_through(judged: Judged, steps: list[Step]) -> Fix | None:
    """A sheerer foundation of nearly the same colour, where it is the foundation over it that hides the sculpting."""
    above = _above(judged, steps)
    if not above:
        return None
    product = judged.product(above[0])
    if product is None or product.cover is None:
        return None
    least = product.cover - judged.house.same_cover
    other = nearest_swap(judged, product, lambda item: item.base == product.base and (item.cover or 1.0) <= least)
    if (
        other is None
        or other.lab is None
        or abs(other.lab[0] - judged.appearance.target[0]) > judged.house.same_depth_l
    ):
        return None
    edits = tuple(
        SetProduct(s.id, other.id) for s in judged.sequence.steps if s.item == product.id and s.kind == "foundation"
    )
    return Fix(f"{other.name} instead, cover {100 * (other.cover or 0):.0f} %", edits)


@rule(
    "no-stripes",
    "colour",
    "advice",
    "Sculpting reads as shadow and light, not as stripes.",
    "A step far beyond what light does on a face is seen as paint.",
    parameters=("stripe_factor", "wanted_shade_drop", "wanted_light_lift"),
)
def no_stripes(judged: Judged) -> Iterator[Breach]:
    for kind, wanted in (("shade", judged.house.wanted_shade_drop), ("light", judged.house.wanted_light_lift)):
        rows = [r for r in judged.appearance.read_through if r.kind == kind]
        strong = [r for r in rows if abs(r.visible_step) > judged.house.stripe_factor * wanted]
        steps = [s for s in judged.sequence.steps if s.kind == kind and s.lays]
        if not strong or not steps:
            continue
        worst = max(abs(r.visible_step) for r in strong)
        part = judged.house.stripe_factor * wanted / worst
        zones = in_order(r.zone for r in strong)
        edits = tuple(edit for s in steps for edit in _less(judged, s, part, zones))
        yield Breach(
            tuple(s.id for s in steps),
            zones,
            f"The {kind} shows {worst:.1f} L* {places(zones)}; about {wanted:g} reads as real.",
            Fix(
                f"Less of it: {rung_words(max(edit.amount for edit in edits), steps[0].unit or 'um', judged.house)}",
                edits,
            )
            if edits
            else None,
        )


def _less(judged: Judged, step: Step, part: float, zones: tuple[Zone, ...]) -> Iterator[SetAmount]:
    """At most a share of what a step lays on these zones, on a rung; no less than a hand can."""
    ladder = film_ladder(judged.house) if step.unit == "um" else powder_ladder(judged.house)
    for place, portion in enumerate(step.portions):
        if portion.amount and set(portion.zones) & set(zones):
            fitting = ladder[ladder <= portion.amount * part]
            less = float(fitting[-1] if len(fitting) else ladder[0])
            if less < portion.amount:
                yield SetAmount(step.id, less, place)


@rule(
    "face-meets-neck",
    "colour",
    "advice",
    "Finished face and neck join without a step.",
    "The jaw is where a mask shows first, in daylight and from the side.",
    parameters=("neck_step_de",),
)
def face_meets_neck(judged: Judged) -> Iterator[Breach]:
    if judged.reading.sitter.neck is None or not any(s.kind == "foundation" for s in judged.sequence.steps):
        return
    sculpting = SCULPT_KINDS | FADING_KINDS | {"glow"}
    sculpted = {z for s in judged.sequence.steps if s.kind in sculpting and s.lays for z in s.zones}
    # What was darkened or lightened on purpose says nothing of the foundation.
    cheeks = [z for z in both("jaw") if z not in sculpted] or [z for z in ("chin",) if z not in sculpted]
    if not cheeks:
        return
    neck = judged.appearance.last_lab("neck")
    worst = float(delta_e(np.stack([judged.appearance.last_lab(z) for z in cheeks]), np.asarray(neck)).max())
    if worst <= judged.house.neck_step_de:
        return
    yield Breach(
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
def edges_fade(judged: Judged) -> Iterator[Breach]:
    most = VIEWING_EDGE[judged.sequence.case.intent.viewing]
    hard = [edge for edge in judged.edges if edge.steepness > most]
    if not hard:
        return
    worst = hard[0]
    steps = [s for s in judged.sequence.steps if s.lays and s.kind in LAYER_KINDS and set(s.zones) & set(worst.zones)]
    closes = (s.id for s in judged.sequence.steps if s.kind == "crease_check" or s.powder_mg is not None)
    before = next(closes, None)
    zones = in_order(z for edge in hard for z in edge.zones)
    fix = None
    if not worst.softened and any(s.film_um for s in steps):
        soften = Add("soften_edges", zones, before, tool="damp_sponge", motion="press", active_s=judged.house.soften_s)
        fix = Fix("Soften the edges with the empty sponge", (soften,))
    yield Breach(
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
    parameters=("flare_limit", "flare_grave_factor", "flare_mg"),
    at_worst="problem",
)
def flash_flare(judged: Judged) -> Iterator[Breach]:
    if "flash" not in judged.sequence.case.intent.lights:
        return
    white = [row for row in judged.forecast.values() if row.flare > judged.house.flare_limit]
    if not white:
        return
    zones = in_order(row.zone for row in white)
    steps = [s for s in judged.sequence.steps if s.powder_mg and set(s.zones) & set(zones)]
    worst = max(white, key=lambda row: row.flare)
    yield Breach(
        tuple(s.id for s in steps),
        zones,
        f"Pale powder {places([worst.zone])} has a flare index of {worst.flare:.2f} under a flash"
        + (f", and {len(zones) - 1} more zones are over {judged.house.flare_limit:g}." if len(zones) > 1 else "."),
        None,
        "problem" if worst.flare > judged.house.flare_grave_factor * judged.house.flare_limit else None,
    )


@rule(
    "complexion-is-met",
    "colour",
    "problem",
    "The finished base has the complexion aimed at.",
    "A base shades off looks like a mask from across the room, and no powder mends it.",
    parameters=("complexion_off_de",),
)
def complexion_is_met(judged: Judged) -> Iterator[Breach]:
    based = {z for s in judged.sequence.steps if s.kind == "foundation" and s.lays for z in s.zones}
    meant = {z for s in judged.sequence.steps if s.lays and s.kind in TINTING_KINDS for z in s.zones}
    zones = [z for z in COMPLEXION_ZONES if z in based and z not in meant and not judged.here(z).discolorations]
    if judged.school.frames or len(zones) < 3:
        return
    off = sum(float(judged.appearance.de[-1, ZONE_INDEX[z]]) for z in zones) / len(zones)
    if off <= judged.house.complexion_off_de:
        return
    steps = [s for s in judged.sequence.steps if s.kind == "foundation" and s.lays]
    product = judged.product(steps[0])
    yield Breach(
        tuple(s.id for s in steps),
        in_order(zones),
        f"The finished complexion is ΔE00 {off:.1f} off"
        + (f" with {product.name}" if product else "")
        + f"; it should end {_direction(judged, zones)}.",
        _nearer(judged, steps, product),
    )


def _direction(judged: Judged, zones: list[Zone]) -> str:
    mean = np.mean([judged.appearance.last_lab(z) for z in zones], axis=0)
    return direction(judged.appearance.target, (float(mean[0]), float(mean[1]), float(mean[2])))


def _nearer(judged: Judged, steps: list[Step], product: Product | None) -> Fix | None:
    """The foundation of the same base and nearly the same cover that lies nearest to the complexion."""
    if product is None or product.lab is None:
        return None
    target = np.array(judged.appearance.target)
    own = float(delta_e(np.array(product.lab), target))
    fitting = [
        item
        for item in judged.products.values()
        if item.role == "foundation" and item.lab and item.base == product.base and not item.dry
        and abs((item.cover or 0.0) - (product.cover or 0.0)) < judged.house.same_cover
    ]  # fmt: skip
    best = min(fitting, key=lambda item: (float(delta_e(np.array(item.lab), target)), item.id), default=product)
    if best.id == product.id or float(delta_e(np.array(best.lab), target)) > own - 1.0:
        return None
    return Fix(f"{best.name} instead", tuple(SetProduct(s.id, best.id) for s in steps if s.item == product.id))


@rule(
    "shade-is-believable",
    "colour",
    "advice",
    "Shade is cooler than the skin, neither grey nor orange.",
    "A shadow loses light, not colour: too warm it is a stain, too grey it is dirt.",
)
def shade_is_believable(judged: Judged) -> Iterator[Breach]:
    target = judged.appearance.target
    chroma = hypot(target[1], target[2])
    # Where warmth or colour lies too, what is seen is theirs.
    warm = {z for s in judged.sequence.steps if s.kind in ("bronze", "colour") and s.lays for z in s.zones}
    for step in (s for s in judged.sequence.steps if s.kind == "shade" and s.lays):
        shown = {z: judged.appearance.last_lab(z) for z in step.zones if z not in warm}
        orange = tuple(z for z, lab in shown.items() if hypot(lab[1], lab[2]) > chroma + judged.house.shade_warm_chroma)
        grey = tuple(z for z, lab in shown.items() if hypot(lab[1], lab[2]) < judged.house.shade_grey_share * chroma)
        for zones, word in ((orange, "orange"), (grey, "grey")):
            if zones:
                product = judged.product(step)
                yield Breach(
                    (step.id,), zones, f"{product.name if product else 'The shade'} turns {word} {places(zones)}."
                )


@rule(
    "light-lifts",
    "colour",
    "advice",
    "Light lifts without turning grey.",
    "The wrong tone for the depth does nothing or turns ashen: rose on very light skin, yellow or peach on deeper.",
)
def light_lifts(judged: Judged) -> Iterator[Breach]:
    target = judged.appearance.target
    chroma = hypot(target[1], target[2])
    for step in (s for s in judged.sequence.steps if s.kind == "light" and s.lays):
        ashen = tuple(
            z
            for z in step.zones
            if (lab := judged.appearance.last_lab(z))[0] > target[0]
            and hypot(lab[1], lab[2]) < judged.house.light_ashen_share * chroma
        )
        if ashen:
            product = judged.product(step)
            yield Breach((step.id,), ashen, f"{product.name if product else 'The light'} turns ashen {places(ashen)}.")


@rule(
    "bronzer-near-the-skin",
    "colour",
    "advice",
    "Bronzer is warmth, a few shades deeper than the skin.",
    "Deeper than that, or cooler than the skin, it is a shade in the wrong place.",
    parameters=("bronzer_most_steps", "shade_step_l"),
)
def bronzer_near_the_skin(judged: Judged) -> Iterator[Breach]:
    level = judged.appearance.target[0]
    most = judged.house.bronzer_most_steps * judged.house.shade_step_l
    for _, step in judged.steps():
        product = judged.product(step)
        if step.kind != "bronze" or product is None or product.lab is None or level - product.lab[0] <= most:
            continue
        other = nearest_swap(judged, product, lambda item: item.lab is not None and 0 < level - item.lab[0] <= most)
        yield Breach(
            (step.id,),
            step.zones,
            f"{product.name} is {level - product.lab[0]:.0f} L* deeper than the skin; up to {most:.0f} is warmth.",
            Fix(f"Use {other.name}", (SetProduct(step.id, other.id),)) if other else None,
        )


@rule(
    "turns-grey",
    "colour",
    "problem",
    "No product turns grey on this skin.",
    "Pale, titania-rich films scatter blue light most: thin over a deeper ground they take its warmth away, and it looks ashen.",
    parameters=("grey_shows", "grey_is_plain"),
)
def turns_grey(judged: Judged) -> Iterator[Breach]:
    yield from _under_a_mineral_veil(judged)
    seen, house = judged.appearance, judged.house
    ash = ashiness(seen.lab, np.array(seen.target))
    darkened = {zone for step in judged.sequence.steps if step.kind in ("shade", "bronze") for zone in step.zones}
    by_step: dict[int, list[Zone]] = {}
    for zone in COMPLEXION_ZONES:
        course = ash[:, ZONE_INDEX[zone]]
        if zone in darkened or course[-1] <= house.grey_shows or len(course) < 2:
            continue
        gains = _net_gains(judged, np.diff(course), zone)
        worst = int(np.argmax(gains))
        # What was ashen before anything lay there is darkness that shows; light is judged by its own rule.
        by_product = course[-1] - course[0] > house.grey_shows / 2 < gains[worst]
        if by_product and judged.sequence.steps[worst].kind != "light":
            by_step.setdefault(worst, []).append(zone)
    for index, zones in by_step.items():
        step = judged.sequence.steps[index]
        product = judged.product(step)
        if product is None:
            continue
        lost = max(float(ash[-1, ZONE_INDEX[zone]]) for zone in zones)
        way_out = _warmer(judged, step, product, zones)
        yield Breach(
            (step.id,),
            in_order(zones),
            f"{product.name} turns grey on this skin {places(zones)}: {lost:.1f} of the complexion's chroma is lost.",
            way_out,
            # Where the kit has nothing warmer, it is something to know, not something to mend.
            None if way_out is not None and lost > house.grey_is_plain else "advice",
        )


def _net_gains(judged: Judged, gains: Floats, zone: Zone) -> Floats:
    """What each step adds of grey on a zone in the end: of a bake, only what dusting off leaves."""
    net = np.array(gains)
    baked: int | None = None
    for index, step in enumerate(judged.sequence.steps):
        if step.swept and zone in step.zones:
            baked = index
        elif step.kind == "dust_off" and baked is not None and zone in step.zones:
            net[baked] += net[index]
            net[index] = 0.0
    return net


def _under_a_mineral_veil(judged: Judged) -> Iterator[Breach]:
    """A mineral sunscreen that greys the skin so much that it still shows through all that lies over it."""
    house, after, target = judged.house, judged.course.after, np.array(judged.appearance.target)
    for _, step in judged.steps():
        product = judged.product(step)
        if step.kind != "sunscreen" or product is None or veil_of(product, house) is None:
            continue
        zones = tuple(zone for zone in step.zones if zone in COMPLEXION_ZONES)
        grounds = [after.ground[ZONE_INDEX[zone]] for zone in zones]
        rows: list[tuple[Zone, Floats | None, dict[str, float]]] = [
            (zone, veiled(ground, product, house), {}) for zone, ground in zip(zones, grounds, strict=True)
        ]
        if not rows:
            continue
        plain = ashiness(lab_of(after.shown_with([(zone, None, {}) for zone in zones])), target)
        ash = ashiness(lab_of(after.shown_with(rows)), target)
        grey = [
            z
            for z, now, bare in zip(zones, ash, plain, strict=True)
            if now > house.grey_shows and now - bare > WORTH_A_WORD
        ]
        if not grey:
            continue
        lost = max(float(now) for zone, now in zip(zones, ash, strict=True) if zone in grey)
        clear = nearest_swap(judged, product, lambda item: veil_greys(item, as_lab(target), house) <= house.ashy_chroma)
        yield Breach(
            (step.id,),
            in_order(grey),
            f"{product.name} turns grey on this skin {short(grey)}: its mineral filters leave a veil that shows through the "
            f"base, {lost:.1f} of the complexion's chroma is lost. Look for a tinted one, or one without mineral filters.",
            Fix(f"{clear.name} instead", (SetProduct(step.id, clear.id),)) if clear else None,
            None if clear is not None and lost > house.grey_is_plain else "advice",
        )


def _warmer(judged: Judged, step: Step, product: Product, zones: list[Zone]) -> Fix | None:
    """The nearest item of the kind under which the zones keep their warmth, tried in this very plan; else leave powder off."""

    columns, target = [ZONE_INDEX[zone] for zone in zones], np.array(judged.appearance.target)
    after, grey = judged.course.after, judged.house.grey_shows

    def keeps_warm(item: Product) -> bool:
        # Most are told by the film alone, lying as this one does: a tenth of the work of following the plan with it.
        if item.tinted:
            alone = lab_of(after.shown_as(columns, step.id, film_for(item, judged.house)))
            if (ashiness(alone, target) > grey + WORTH_A_WORD).any():
                return False
        # The finished colours alone: what else would be seen of that plan is not asked.
        shown = replace_item(judged, step, item).course.after.lab[columns]
        return bool((ashiness(shown, target) <= grey).all())

    other = nearest_swap(judged, product, keeps_warm)
    if other is not None:
        return Fix(f"{other.name} instead", (SetProduct(step.id, other.id),))
    return without(step, in_order(zones)) if product.dry else None


def replace_item(judged: Judged, step: Step, item: Product) -> Judged:
    """The plan with another item in one step, to be looked at."""
    edited = apply_edits(judged.sequence, (SetProduct(step.id, item.id),), judged.products)
    return Judged(edited, judged.reading, judged.products, judged.house, judged.course)
