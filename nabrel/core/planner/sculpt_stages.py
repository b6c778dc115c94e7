"""Light and shade in cream, beneath the foundation or over it."""

from __future__ import annotations

from collections.abc import Iterable
from math import inf

from nabrel.core.case.product import Product
from nabrel.core.face.placement import Sculpt
from nabrel.core.plan.step import Then
from nabrel.core.planner.draft import Draft, Hand, PortionDraft, Share, fragile
from nabrel.core.planner.texture import creams, laid, only_in_pans, pans, takes_warmth
from nabrel.core.shelf.bases import beads
from nabrel.core.shelf.ladder import film_ladder
from nabrel.core.solve.sculpt import Sculpting, solve_sculpt
from nabrel.core.terms.ids import Zone
from nabrel.core.terms.products import ROLE_INFO
from nabrel.core.terms.words import lead
from nabrel.core.terms.zones import both, in_order

NOSE: tuple[Zone, ...] = ("nose_bridge", *both("nose_side"), "nose_tip")
BRIDGE_ZONES: tuple[Zone, ...] = both("temple", "cheekbone")


def sculpt(draft: Draft, kind: Sculpt, share: Share, *, beneath: bool, part_wanted: float = 1.0) -> tuple[Zone, ...]:
    """Light or shade in cream, beneath the foundation or over it; the zones it was laid on.

    The product and film are those whose step still shows as wanted once everything lies over it. Any item whose
    optics allow it may serve: a concealer as light, a deep foundation or concealer as shade. ``part_wanted`` asks for
    a part of the wanted step only, where powder doubles it later.
    """
    house, reading = draft.house, draft.reading
    placed = reading.placement.of(kind)
    for left in placed.left_off:
        draft.leave(left.zone, "shade" if kind == "shade" else "light", left.why)
    zones = reading.workable(placed.zones)
    in_pans = kind == "shade" and only_in_pans(draft, "shade")
    made_for_it = any(product.role == "shade" for product in pans(draft, "shade"))
    others = _deep_others(draft) if beneath or not made_for_it else []
    if not zones or (in_pans and not others and not (beneath and creams(draft, "shade"))):
        return ()
    wanted = -house.wanted_shade_drop if kind == "shade" else house.wanted_light_lift
    # Powder all over it takes a little of the step away again.
    if draft.case.intent.setting in ("whole_face", "bake_wide"):
        wanted *= house.under_powder_gain
    # At the edges less foundation lies over it, and as much would show as a stripe.
    edge = tuple(z for z in zones if beneath and share(z) <= house.edge_share and not fragile(draft, z))
    middle = tuple(z for z in zones if z not in edge)
    found = _solve(draft, kind, middle or zones, wanted * part_wanted, share, beneath)
    if found is None:
        what = (
            "a cream four or more shades deeper"
            if kind == "shade"
            else "a cream or concealer one to two shades lighter"
        )
        draft.missing(kind, f"{what} than the skin, matte, with cover about 0.6")
        return ()
    if beneath and _better_over(draft, kind, found, wanted * part_wanted):
        return ()
    delicate = tuple(z for z in zones if fragile(draft, z))
    nose = tuple(z for z in zones if kind == "shade" and z in NOSE and z not in delicate)
    sound = tuple(z for z in zones if z not in delicate and z not in nose)
    sound = tuple(z for z in sound if z not in edge)
    there = _solve(draft, kind, edge, wanted * part_wanted, share, beneath, found.product) if edge else None
    less = min(1.0, there.amount / found.amount) if there is not None else 1.0
    parts = ((sound, 1.0), (edge, less), (delicate, house.fragile_share), (nose, house.nose_shade_share))
    fitting = [(_with_room(draft, kind, group, found.amount * part), part) for group, part in parts]
    _add_sculpt(draft, kind, [row for row in fitting if row[0]], found, beneath)
    return zones


def both_sculpts(draft: Draft, share: Share, *, beneath: bool, part_wanted: float = 1.0) -> None:
    """Light and shade in the order asked for; placed one by one, or both placed and then blended.

    ``part_wanted`` holds back the shade alone.
    """
    kinds: tuple[Sculpt, Sculpt] = (
        ("light", "shade") if draft.case.intent.order == "light_first" else ("shade", "light")
    )
    placed: list[Zone] = []
    for kind in kinds:
        if kind == "shade":
            bridge(draft, beneath=beneath)
        placed += sculpt(draft, kind, share, beneath=beneath, part_wanted=part_wanted if kind == "shade" else 1.0)
    if draft.case.intent.blend == "place_all" and placed:
        draft.add(
            "soften_edges",
            placed,
            ["Everything was placed first to see the whole map; now it is blended, the pale shades before the dark."],
            hand=draft.hand_for(placed, ("damp_sponge", "bounce"), ("damp_sponge", "press")),
            active_s=draft.house.blend_all_s,
            rules=["place-all-needs-slow-creams", "press-over-wet"],
            check="Nothing has dried where it was placed.",
        )


def bridge(draft: Draft, *, beneath: bool) -> None:
    """A cream bronzer as the tone between skin and shade, laid just above the shade before it."""
    if draft.options.bronzer != "bridge":
        return
    shaded = {zone for step in draft.steps if step.kind == "shade" for zone in step.zones}
    zones = draft.reading.workable(z for z in BRIDGE_ZONES if draft.reading.placement.shade.zones and z not in shaded)
    zones = tuple(z for z in zones if takes_warmth(draft, z))
    found = creams(draft, "bronze")
    found = list(draft.of_role_now(draft.sitting(draft.agreeing(found) if beneath else found, zones), zones))
    if not found or not zones or laid(draft, "bronze"):
        return
    if {item.id for item in creams(draft, "shade")} <= {item.id for item in found} and not _deep_others(draft):
        draft.note("Warmth: the bronzer serves as the shade, so there is no other tone to bridge to.")
        return
    if beneath and draft.beading(found):
        draft.note("The bronzer comes over the foundation, which would bead on it.")
        return
    level = draft.reading.complexion[0]
    draft.add(
        "bronze",
        zones,
        ["A tone between skin and shade makes the step between them gentle."],
        product=nearest_by_depth(found, level - draft.house.bridge_steps * draft.house.shade_step_l),
        amount=draft.house.colour_film_um,
        hand=draft.hand_for(zones, ("stippling_brush", "stipple"), ("fingers", "press")),
        wait_s=draft.house.cream_wait_s,
        rules=["bronzer-near-the-skin"],
        check="Warm, not dark; the shade will sit below it.",
    )


def nearest_by_depth(items: Iterable[Product], lightness: float) -> Product:
    """The item whose own L* is nearest; the first of equals."""
    return min(items, key=lambda item: abs(item.lab[0] - lightness) if item.lab else inf)


def _solve(
    draft: Draft,
    kind: Sculpt,
    zones: tuple[Zone, ...],
    wanted: float,
    share: Share,
    beneath: bool,
    only: Product | None = None,
) -> Sculpting | None:
    reading = draft.reading
    level = reading.complexion[0]
    lighter = draft.house.borrowed_light_steps * draft.house.shade_step_l
    if kind == "shade":
        own = draft.shelf.of("shade")
        others = [*draft.shelf.of("bronzer"), *_deep_others(draft)]
    else:
        own = draft.shelf.of("light")
        others = [i for i in draft.shelf.of("concealer") if i.lab and i.lab[0] > level + lighter]
    candidates = [i for i in (*own, *others) if i.tinted and not i.dry and not i.shimmers]
    candidates = [only] if only is not None else list(draft.of_role_now(candidates, zones))
    candidates = [i for i in candidates if i.lab and (i.lab[0] < level if kind == "shade" else i.lab[0] > level)]
    candidates = list(draft.sitting(draft.agreeing(candidates) if beneath else candidates, zones))
    mean_share = sum(share(z) for z in zones) / len(zones)
    return solve_sculpt(
        [reading.zones[z].lab if beneath else draft.seen(z) for z in zones],
        wanted,
        candidates,
        draft.foundation if beneath else None,
        draft.foundation_um * mean_share if beneath else 0.0,
        film_ladder(draft.house, draft.house.rung_heavy_um),
        draft.house,
        beneath=beneath,
        usual=draft.house.shade_film_um if kind == "shade" else draft.house.light_film_um,
        handicap={item.id: draft.house.role_handicap for item in others},
    )


def _better_over(draft: Draft, kind: Sculpt, found: Sculpting, wanted: float) -> bool:
    """Whether this is laid over the foundation after all: beneath it, the foundation would bead on it or hide it."""
    foundation = draft.foundation
    if foundation is None:
        return False
    if beads(found.product.base, foundation.base) and found.amount >= draft.house.thin_underlayer_um:
        draft.note(
            f"The {kind} comes over the foundation: {found.product.name} is {found.product.base}, and {foundation.name}, "
            f"{foundation.base}-based, would bead on it. A {kind} of the foundation's own base could lie beneath."
        )
        return True
    # Rounded to what a hand lays, a little less of it will show.
    if abs(found.visible_step) < (draft.house.lost_share + draft.house.lost_margin) * abs(wanted):
        draft.note(
            f"The {kind} comes over the foundation: beneath {foundation.name} only {abs(found.visible_step):.1f} L* of it "
            "would still show."
        )
        return True
    return False


def sculpt_over(draft: Draft, share: Share) -> None:
    """Over the foundation, what could not lie beneath it."""
    kinds: tuple[Sculpt, Sculpt] = (
        ("light", "shade") if draft.case.intent.order == "light_first" else ("shade", "light")
    )
    bridge(draft, beneath=False)
    for kind in kinds:
        if not laid(draft, kind):
            sculpt(draft, kind, share, beneath=False)


def _deep_others(draft: Draft) -> list[Product]:
    """Concealers and foundations deep enough to shade with."""
    most = draft.reading.complexion[0] - draft.house.borrowed_shade_steps * draft.house.shade_step_l
    return [i for i in draft.shelf.of("concealer", "foundation") if i.lab and i.lab[0] < most and not i.dry]


def role_note(product: Product, kind: Sculpt) -> str:
    """Why an item sold for something else serves here; nothing to say for one sold for it."""
    if product.role == kind:
        return ""
    return f"A {ROLE_INFO[product.role].words} serves as {kind}: its depth and cover allow it."


def _with_room(draft: Draft, kind: Sculpt, zones: tuple[Zone, ...], film_um: float) -> tuple[Zone, ...]:
    """Those of the zones that still carry the film; the others are left bare, and it is said why."""
    fits = tuple(z for z in zones if film_um <= draft.room(z) - draft.house.reserve_um)
    for zone in zones:
        if zone not in fits:
            draft.leave(zone, "shade" if kind == "shade" else "light", "It carries no more film by now.")
    return fits


def _add_sculpt(
    draft: Draft, kind: Sculpt, parts: list[tuple[tuple[Zone, ...], float]], found: Sculpting, beneath: bool
) -> None:
    if not parts:
        return
    house, reading = draft.house, draft.reading
    word = "drop" if kind == "shade" else "lift"
    cover = (
        f"Bare it would show a {word} of {abs(found.bare_step):.1f} L*; under the foundation "
        f"{100 * found.read_through:.0f} % of that reads through, {abs(found.visible_step):.1f} L*."
        if beneath
        else f"Over the foundation all of it shows, so it is laid for a {word} of only {abs(found.visible_step):.1f} L*."
    )
    place_all = draft.case.intent.blend == "place_all"
    portions = []
    for zones, part in parts:
        lined = reading.cite(zones, "creping", "fine_lines", "deep_fold", "flaking", least=2) if part < 1.0 else ""
        on_nose = (
            "Lighter on the nose than on the cheek, in narrow lines."
            if kind == "shade" and set(zones) <= set(NOSE)
            else ""
        )
        less = "Less foundation lies over it here, so less of it will do."
        thinner = on_nose or (f"{lead(lined)}thinner here." if lined else less if part < 1.0 else "")
        placing: Hand = ("angled_brush" if kind == "shade" else "dense_small_brush", "press")
        hand = placing if place_all else _sculpt_hand(draft, zones, kind)
        portions.append(PortionDraft(zones, max(house.least_film_um, found.amount * part), hand, why=(thinner,)))
    pressed = _pressed_in(draft, portions) if kind == "light" and not beneath and not place_all else ()
    draft.lay(
        "shade" if kind == "shade" else "light",
        portions,
        [
            *reading.placement.of(kind).why_on(in_order(zone for zones, _ in parts for zone in zones)),
            cover,
            role_note(found.product, kind),
            "Placed with a brush, then pressed with a damp sponge, which takes off what would show as an edge."
            if pressed
            else "",
        ],
        product=found.product,
        then=Then("damp_sponge", "press", float(round(draft.pace(pressed))), pressed) if pressed else None,
        wait_s=0.0 if place_all else house.cream_wait_s,
        rules=["shade-and-light-apart", "sculpt-reads-through" if beneath else "no-stripes", "gentle-on-fragile"],
        check=(
            "Darker than it should end up; nothing towards the mouth."
            if kind == "shade" and beneath
            else "A shadow, not a stripe."
            if kind == "shade"
            else "Lifted, not painted."
        ),
    )


def _pressed_in(draft: Draft, portions: Iterable[PortionDraft]) -> tuple[Zone, ...]:
    """The zones that a brush lays so thick that its edge would show: a damp sponge presses it in."""
    least = draft.house.pressed_in_from_um
    thick = [each for each in portions if each.hand and each.hand[0] == "dense_small_brush"]
    return in_order(zone for each in thick if (each.amount or 0.0) >= least for zone in each.zones)


def _sculpt_hand(draft: Draft, zones: tuple[Zone, ...], kind: Sculpt) -> Hand:
    if any(draft.reading.zones[z].lined >= 2 for z in zones):
        return ("fingers", "press")
    if kind == "shade":
        return draft.hand_for(
            zones, ("angled_brush", "feather"), ("angled_brush", "stipple"), ("angled_brush", "press")
        )
    return draft.hand_for(zones, ("dense_small_brush", "stipple"))
