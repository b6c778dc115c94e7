"""Light, shade, glow and colour, beneath the foundation or over it."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from nabrel.core.case import Product
from nabrel.core.face.placement import Sculpt
from nabrel.core.film.spectra import Floats
from nabrel.core.plan.draft import Draft, Hand, Share, fragile
from nabrel.core.plan.words import lead
from nabrel.core.solve.sculpt import Sculpting, solve_sculpt
from nabrel.core.vocabulary import Zone

SCULPT_UM: Floats = np.array([1.5, 2.0, 2.5, 3.0, 3.5, 4.0, 4.5, 5.0, 6.0, 7.0, 8.0])


def sculpt(draft: Draft, kind: Sculpt, share: Share, *, beneath: bool) -> tuple[Zone, ...]:
    """Light or shade in cream, beneath the foundation or over it; the zones it was laid on.

    The product and film are those whose step still shows as wanted once everything lies over it. Any item whose
    optics allow it may serve: a concealer as light, a deep foundation or concealer as shade.
    """
    house, reading = draft.house, draft.reading
    placed = reading.placement.of(kind)
    for left in placed.left_off:
        draft.leave(left.zone, "shade" if kind == "shade" else "light", left.why)
    zones = reading.workable(placed.zones)
    if not zones:
        return ()
    wanted = -house.wanted_shade_drop if kind == "shade" else house.wanted_light_lift
    found = _solve(draft, kind, zones, wanted, share, beneath)
    if found is None:
        what = (
            "a cream four or more shades deeper"
            if kind == "shade"
            else "a cream or concealer one to two shades lighter"
        )
        draft.missing(kind, f"{what} than the skin, matte, with cover about 0.6")
        return ()
    delicate = tuple(z for z in zones if fragile(draft, z))
    sound = tuple(z for z in zones if z not in delicate)
    for group, part in ((sound, 1.0), (delicate, house.fragile_share)):
        _add_sculpt(draft, kind, _with_room(draft, kind, group, found.film_um * part), found, part, beneath)
    return zones


def _solve(
    draft: Draft, kind: Sculpt, zones: tuple[Zone, ...], wanted: float, share: Share, beneath: bool
) -> Sculpting | None:
    reading = draft.reading
    level = reading.complexion[0]
    step = draft.house.shade_step_l
    if kind == "shade":
        own = draft.shelf.of("shade")
        others = [i for i in draft.shelf.of("concealer", "foundation") if i.lab and i.lab[0] < level - 1.5 * step]
    else:
        own = draft.shelf.of("light")
        others = [i for i in draft.shelf.of("concealer") if i.lab and i.lab[0] > level + 0.6 * step]
    candidates = [i for i in (*own, *others) if i.tinted and not i.dry and not i.shimmers]
    candidates = list(draft.of_role_now(candidates, zones))
    candidates = [i for i in candidates if i.lab and (i.lab[0] < level if kind == "shade" else i.lab[0] > level)]
    candidates = list(draft.sitting(draft.agreeing(candidates) if beneath else candidates, zones))
    mean_share = sum(share(z) for z in zones) / len(zones)
    return solve_sculpt(
        [reading.zones[z].lab for z in zones],
        wanted,
        candidates,
        draft.foundation,
        draft.foundation_um * mean_share,
        SCULPT_UM,
        draft.house,
        beneath=beneath,
        usual_film_um=draft.house.shade_film_um if kind == "shade" else draft.house.light_film_um,
        handicap={item.id: draft.house.role_handicap for item in others},
    )


def _with_room(draft: Draft, kind: Sculpt, zones: tuple[Zone, ...], film_um: float) -> tuple[Zone, ...]:
    """Those of the zones that still carry the film; the others are left bare, and it is said why."""
    fits = tuple(z for z in zones if film_um <= draft.room(z) - draft.house.reserve_um)
    for zone in zones:
        if zone not in fits:
            draft.leave(zone, "shade" if kind == "shade" else "light", "It carries no more film by now.")
    return fits


def _add_sculpt(
    draft: Draft, kind: Sculpt, zones: tuple[Zone, ...], found: Sculpting, part: float, beneath: bool
) -> None:
    if not zones:
        return
    house, reading = draft.house, draft.reading
    film = max(house.least_film_um, found.film_um * part)
    word = "drop" if kind == "shade" else "lift"
    cover = (
        f"As planned: bare it would show a {word} of {abs(found.bare_step):.1f} L*; under the foundation "
        f"{100 * found.read_through:.0f} % of that reads through, {abs(found.visible_step):.1f} L*."
        if beneath
        else f"As planned: over the foundation all of it shows, so it is laid for a {word} of only {abs(found.visible_step):.1f} L*."
    )
    thinner = ""
    if part < 1.0:
        thinner = lead(reading.cite(zones, "creping", "fine_lines", "deep_fold", least=2)) + "thinner here."
    role_note = ""
    if found.product.role != kind:
        role_note = f"A {found.product.role} serves as {kind}: its depth and cover allow it."
    draft.add(
        "shade" if kind == "shade" else "light",
        zones,
        [*reading.placement.of(kind).why, cover, thinner, role_note],
        product=found.product,
        film_um=film,
        hand=_sculpt_hand(draft, zones, kind),
        wait_s=house.cream_wait_s,
        rules=["shade-and-light-apart", "sculpt-reads-through" if beneath else "no-stripes", "gentle-on-fragile"],
        check=(
            "Darker than it should end up, soft at the upper edge, nothing carried towards the mouth."
            if kind == "shade" and beneath
            else "A shadow, not a stripe, straight on and turned."
            if kind == "shade"
            else "Lifted, not painted; nothing lies in the crease."
        ),
    )


def _sculpt_hand(draft: Draft, zones: tuple[Zone, ...], kind: Sculpt) -> Hand:
    if any(draft.reading.zones[z].lined >= 2 for z in zones):
        return ("fingers", "press")
    if kind == "shade":
        return draft.hand_for(zones, ("angled_brush", "feather"), ("angled_brush", "stipple"))
    return draft.hand_for(zones, ("dense_small_brush", "stipple"))


def glow(draft: Draft, *, beneath: bool) -> None:
    """Glow on the highest planes, left off wherever it would show texture."""
    house, reading = draft.house, draft.reading
    placed = reading.placement.glow
    for left in placed.left_off:
        draft.leave(left.zone, "glow", left.why)
    if draft.case.intent.finish == "matte":
        draft.note("No glow: a matte finish was asked for.")
        return
    zones = reading.workable(placed.zones)
    creams = [i for i in draft.shelf.of("glow") if i.tinted and not i.dry]
    creams = list(draft.sitting(draft.agreeing(creams) if beneath else creams, zones))
    if not zones or not creams:
        return
    draft.add(
        "glow",
        zones,
        [
            *placed.why,
            "Under the foundation it looks like the skin's own." if beneath else "Tapped on last, it stays clear.",
        ],
        product=nearest_by_depth(creams, reading.complexion[0] + 10),
        film_um=house.glow_film_um,
        hand=("fingers", "press"),
        wait_s=house.cream_wait_s,
        rules=["no-shimmer-on-texture", "gentle-on-fragile"],
        check="It moves with the light and shows no pore.",
    )


def nearest_by_depth(items: Iterable[Product], lightness: float) -> Product:
    """The item whose own L* is nearest; the first of equals."""
    return min(items, key=lambda item: abs((item.lab or (50.0, 0.0, 0.0))[0] - lightness))


def colour(draft: Draft) -> None:
    """Cream colour, started a little strong since a third of it fades within hours."""
    reading, house = draft.reading, draft.house
    placed = reading.placement.colour
    for left in placed.left_off:
        draft.leave(left.zone, "colour", left.why)
    zones = reading.workable(placed.zones)
    creams = [i for i in draft.shelf.of("colour") if i.tinted and not i.dry]
    creams = list(draft.of_role_now(draft.sitting(creams, zones), zones))
    if not zones:
        return
    if not creams:
        draft.missing("colour", "a cream or liquid colour whose base agrees with the foundation")
        return
    warm = reading.undertone in ("warm", "olive")
    chosen = min(creams, key=lambda i: _colour_cost(i, reading.complexion[0], warm))
    long_wear = "Started stronger, since about a third fades within hours." if draft.case.intent.wear_hours >= 6 else ""
    draft.add(
        "colour",
        zones,
        [*placed.why, long_wear],
        product=chosen,
        film_um=house.colour_film_um * (1.2 if draft.case.intent.wear_hours >= 6 else 1.0),
        hand=draft.hand_for(zones, ("stippling_brush", "stipple"), ("fingers", "press")),
        wait_s=house.cream_wait_s,
        rules=["colour-off-blemishes", "press-over-wet"],
        check="Both sides the same height, seen straight on.",
    )


def _colour_cost(item: Product, level: float, warm: bool) -> float:
    lab = item.lab or (50.0, 0.0, 0.0)
    wanted_yellow = 18.0 if warm else 9.0
    return abs(lab[0] - (level - 10)) + 0.5 * abs(lab[2] - wanted_yellow)
