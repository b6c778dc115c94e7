"""Stages of colour: light, shade, glow, foundation, spot concealing and colour, as every school may order them."""

from __future__ import annotations

from collections.abc import Callable, Iterable

import numpy as np

from nabrel.core.case import Lab, Product
from nabrel.core.face.placement import Sculpt
from nabrel.core.face.skin import DISCOLORATIONS, MARKS
from nabrel.core.film.films import over
from nabrel.core.film.spectra import Floats, delta_e, lab_of, surface
from nabrel.core.film.stack import lay
from nabrel.core.kit.optics import film_for, layer_for
from nabrel.core.plan.draft import Draft
from nabrel.core.solve.sculpt import Sculpting, solve_sculpt
from nabrel.core.solve.shade_match import match_foundation
from nabrel.core.vocabulary import COMPLEXION_ZONES, EDGE_ZONES, ZONES, Motion, StepKind, Tool, Zone, both, in_order

SCULPT_UM: Floats = np.array([1.5, 2.0, 2.5, 3.0, 3.5, 4.0, 4.5, 5.0, 6.0, 7.0, 8.0])
Share = Callable[[Zone], float]
Hand = tuple[Tool, Motion]
OTHER_ROLE_HANDICAP = 1.2
"""ΔL* by which an item sold for something else must do better to serve as shade or light (house)."""
NOT_CONCEALED: frozenset[Zone] = frozenset({"lips", "neck", "under_jaw", *both("eyelid", "ear")})
"""Zones that concealing leaves alone."""


def choose_foundation(draft: Draft, *, beneath: bool) -> None:
    """Settle the foundation before anything else: what lies beneath it is judged through it.

    ``beneath`` says that sculpting will lie under it, so its base must agree with the kit's creams.
    """
    reading, intent = draft.reading, draft.case.intent
    oily = len(reading.where("oily", least=2))
    dry = len(reading.where("dry", "fine_lines", "creping", least=2))
    lean = -0.8 if oily > 6 and oily > dry else 0.5 if dry > 4 else 0.0
    candidates = draft.shelf.of("foundation")
    if reading.where("active_blemish", least=2):
        candidates = tuple(item for item in candidates if item.base != "oil") or candidates
    needed = [i for i in draft.shelf.of("corrector", "shade", "light") if i.tinted and not i.dry]
    ranked = match_foundation(
        reading.sitter.skin,
        reading.complexion,
        intent,
        [item for item in candidates if not item.dry],
        draft.house.foundation_film_um,
        draft.house,
        finish_lean=lean,
        beneath=needed if beneath else [i for i in needed if i.role == "corrector"],
    )
    if not ranked:
        draft.missing(
            "a foundation", "a liquid or cream foundation near the complexion, L*a*b* " + _triple(reading.complexion)
        )
        return
    best = ranked[0]
    draft.foundation = best.product
    draft.foundation_um = draft.house.foundation_film_um
    if best.de > 2 * draft.house.close_enough_de:
        draft.note(
            f"The nearest foundation, {best.product.name}, ends ΔE00 {best.de:.1f} from the complexion: "
            "a mix in drops or another shade would join face to neck better."
        )


def fragile(draft: Draft, zone: Zone) -> bool:
    """Whether a zone gets a thinner film: clear lines, creping or flaking."""
    here = draft.reading.zones[zone]
    return here.lined >= 2 or here.severity("flaking") >= 2 or here.severity("deep_fold") >= 2


def foundation(draft: Draft, share: Share, *, over_sculpting: tuple[Zone, ...] = ()) -> None:
    """Foundation by zones: the middle first, thinner on fragile skin, the remainder rolled onto the edges."""
    product, house, reading = draft.foundation, draft.house, draft.reading
    if product is None:
        return
    middle = [z for z in COMPLEXION_ZONES if z not in over_sculpting and not fragile(draft, z)]
    covered = [z for z in COMPLEXION_ZONES if z in over_sculpting and not fragile(draft, z)]
    thin = [z for z in COMPLEXION_ZONES if fragile(draft, z)]
    match = f"{product.name} joins face to neck"
    film = draft.foundation_um

    def lay_on(zones: Iterable[Zone], why: list[str], check: str) -> None:
        by_share: dict[float, list[Zone]] = {}
        for zone in zones:
            by_share.setdefault(round(share(zone), 3), []).append(zone)
        for part, group in by_share.items():
            draft.add(
                "foundation",
                group,
                why,
                product=product,
                film_um=max(house.least_film_um, film * part),
                hand=_foundation_hand(draft, group),
                wait_s=house.foundation_wait_s,
                rules=["thin-passes", "gentle-on-fragile", "press-over-wet"],
                check=check,
            )

    lay_on(
        middle,
        [
            f"{match}; one thin pass where most is needed, from the middle outwards.",
            _skin_note(draft, middle),
        ],
        "Skin still shows; nothing sits on the surface.",
    )
    lay_on(
        covered,
        [
            "Over what was painted beneath, only pressed, with what is on the tool: its edges soften and its value "
            "comes through.",
        ],
        "The shape beneath still reads, without a line.",
    )
    lay_on(
        thin,
        [
            _lead(reading.cite(thin, "creping", "fine_lines", "deep_fold", "flaking", least=2))
            + f"only {house.fragile_share:.0%} of the film, since film gathers where skin moves or lifts."
        ],
        "No line is drawn by the film when the sitter smiles.",
    )
    edges = [z for z in EDGE_ZONES if z not in over_sculpting] + [z for z in EDGE_ZONES if z in over_sculpting]
    lay_on(
        edges,
        ["What is left on the tool is rolled onto the edges and down the neck, so that no line is left."],
        "No step at jaw, hairline or ears, straight on and from the side.",
    )


def _foundation_hand(draft: Draft, zones: Iterable[Zone]) -> Hand:
    listed = tuple(zones)
    reading = draft.reading
    if any(reading.zones[z].severity("active_blemish", "healing_blemish") for z in listed):
        return ("damp_sponge", "press")
    if any(reading.zones[z].lined >= 2 or reading.zones[z].dry >= 2 for z in listed):
        return ("fingers", "press")
    if any(draft.wet.get(z, 0.0) > 0 for z in listed) or any(reading.zones[z].textured for z in listed):
        return ("damp_sponge", "press")
    if draft.foundation is not None and (draft.foundation.cover or 0.0) >= 0.7:
        return draft.hand_for(listed, ("stippling_brush", "stipple"), ("damp_sponge", "bounce"))
    return draft.hand_for(listed, ("damp_sponge", "bounce"))


def _skin_note(draft: Draft, zones: Iterable[Zone]) -> str:
    listed = tuple(zones)
    textured = draft.reading.cite(listed, "raised_texture", "pitted_scar", "enlarged_pores", least=2)
    blemished = draft.reading.cite(listed, "active_blemish")
    if blemished:
        return f"{_lead(blemished)}light taps, with a sponge kept for this sitter."
    if textured:
        return f"{_lead(textured)}pressed, since a swipe leaves film on the high points and bares the low."
    return ""


def _lead(evidence: str) -> str:
    return f"{evidence[:1].upper()}{evidence[1:]}: " if evidence else ""


def _triple(lab: Lab) -> str:
    return " ".join(f"{value:.0f}" for value in lab)


def shown_on(draft: Draft, zone: Zone, skin: Lab) -> Lab:
    """The colour that skin on a zone shows after the steps drafted so far, L*a*b* in daylight."""
    products = {item.id: item for item in draft.shelf.items}
    state = surface(skin)[None, :]
    for step in draft.steps:
        product = products.get(step.product or "")
        if zone not in step.zones or product is None or not product.tinted or not step.lays:
            continue
        amount = step.film_um if step.film_um is not None else step.powder_mg_cm2 or 0.0
        state = lay(state, layer_for(product, np.array([amount]), draft.house))
    lab = lab_of(state)[0]
    return (float(lab[0]), float(lab[1]), float(lab[2]))


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
        if group:
            _add_sculpt(draft, kind, group, found, part, beneath)
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
        handicap={item.id: OTHER_ROLE_HANDICAP for item in others},
    )


def _add_sculpt(
    draft: Draft, kind: Sculpt, zones: tuple[Zone, ...], found: Sculpting, part: float, beneath: bool
) -> None:
    house, reading = draft.house, draft.reading
    film = max(house.least_film_um, found.film_um * part)
    word = "drop" if kind == "shade" else "lift"
    cover = (
        f"Bare it would show a {word} of {abs(found.bare_step):.1f} L*; under the foundation "
        f"{found.read_through:.0%} of that reads through, {abs(found.visible_step):.1f} L*."
        if beneath
        else f"Over the foundation all of it shows, so it is laid for a {word} of only {abs(found.visible_step):.1f} L*."
    )
    thinner = ""
    if part < 1.0:
        thinner = _lead(reading.cite(zones, "creping", "fine_lines", "deep_fold", least=2)) + "thinner here."
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


def conceal(draft: Draft) -> None:
    """Discoloured zones that the foundation did not even out, with the least concealer that does."""
    house, reading = draft.house, draft.reading
    target = np.array(reading.complexion)
    needs: dict[Zone, Lab] = {}
    for zone in reading.workable(z for z in ZONES if z not in NOT_CONCEALED):
        if not reading.zones[zone].discolorations:
            continue
        before = shown_on(draft, zone, reading.zones[zone].lab)
        off = float(delta_e(np.array(before), target))
        sculpted = {step.kind for step in draft.steps if zone in step.zones and step.kind in ("light", "shade")}
        if off <= house.close_enough_de:
            draft.leave(zone, "conceal", f"Only ΔE00 {off:.1f} from the complexion by now: nothing left to hide.")
        elif "shade" in sculpted or ("light" in sculpted and before[0] >= target[0] - 1.0):
            draft.leave(zone, "conceal", "Sculpted here, as meant: concealer would cover it again.")
        else:
            needs[zone] = before
    _lay_concealer(draft, "conceal", needs, [])


def spot_conceal(draft: Draft) -> None:
    """Marks and spots that still show get concealer on the mark alone: matched, pressed and feathered."""
    house, reading = draft.house, draft.reading
    target = np.array(reading.complexion)
    needs: dict[Zone, Lab] = {}
    for zone in reading.workable(z for z in reading.where(*MARKS) if z not in NOT_CONCEALED):
        before = shown_on(draft, zone, reading.zones[zone].mark_lab)
        off = float(delta_e(np.array(before), target))
        if off <= house.close_enough_de:
            draft.leave(zone, "spot_conceal", f"The marks are within ΔE00 {off:.1f} of the complexion: they may stand.")
        else:
            needs[zone] = before
    _lay_concealer(
        draft, "spot_conceal", needs, ["Matched to the foundation, never lighter: a pale spot advertises the mark."]
    )


def _lay_concealer(draft: Draft, kind: StepKind, needs: dict[Zone, Lab], more: list[str]) -> None:
    house, reading = draft.house, draft.reading
    target = np.array(reading.complexion)
    candidates = [i for i in draft.shelf.of("concealer") if i.tinted and not i.dry]
    found: dict[tuple[str, float], list[tuple[Zone, float, float]]] = {}
    for zone, before in needs.items():
        off = float(delta_e(np.array(before), target))
        answer = _least_concealer(
            draft, before, list(draft.sitting(candidates, [zone])), draft.room(zone) - house.primer_film_um
        )
        if answer is None or answer[2] > off - 0.4:
            draft.leave(zone, kind, "No concealer of the kit brings it nearer to the complexion.")
            continue
        product, film, after = answer
        found.setdefault((product.id, film), []).append((zone, off, after))
    products = {item.id: item for item in candidates}
    for (product_id, film), rows in found.items():
        zones = in_order(row[0] for row in rows)
        worst = max(row[1] for row in rows)
        marks = reading.cite(zones, *MARKS) if kind == "spot_conceal" else reading.cite(zones, *DISCOLORATIONS)
        draft.add(
            kind,
            zones,
            [
                f"{_lead(marks)}still ΔE00 {worst:.1f} from the complexion; {film:g} µm of concealer "
                f"brings it to {max(row[2] for row in rows):.1f}.",
                *more,
            ],
            product=products[product_id],
            film_um=film,
            hand=("fingers", "press") if any(reading.zones[z].lined >= 2 for z in zones) else ("detail_brush", "press"),
            wait_s=house.cream_wait_s,
            wait_at_most_s=house.under_eye_window_s if set(zones) & set(both("under_eye")) else None,
            rules=["conceal-what-shows", "gentle-on-fragile"],
            check="Gone at arm's length; its edge cannot be found.",
        )


def _least_concealer(
    draft: Draft, before: Lab, candidates: list[Product], room: float
) -> tuple[Product, float, float] | None:
    house = draft.house
    films = np.array([1.0, 1.5, 2.0, 3.0, 4.0, 5.0, 6.0, 8.0])
    films = films[films <= max(room, 1.0)]
    ground = surface((max(before[0], 1.0), before[1], before[2]))
    best: tuple[float, Product, float, float] | None = None
    for product in candidates:
        film = film_for(product, house)
        off = delta_e(
            lab_of(over(ground[None, :], film.ratio, film.s * films[:, None])), np.array(draft.reading.complexion)
        )
        cost = np.where(off <= house.close_enough_de, films, 100.0 + off * 10)
        index = int(np.argmin(cost))
        if best is None or float(cost[index]) < best[0]:
            best = (float(cost[index]), product, float(films[index]), float(off[index]))
    return None if best is None else best[1:]
