"""Glow and colour in cream: what catches light, and what reads as blood beneath the skin."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from functools import partial
from itertools import combinations
from math import inf

from nabrel.core.case.product import Product
from nabrel.core.face.placement import LeftOff
from nabrel.core.planner.draft import Draft, Hand, PortionDraft
from nabrel.core.planner.finish_stages import setting_zones
from nabrel.core.planner.sculpt_stages import nearest_by_depth
from nabrel.core.planner.texture import SUN_ZONES, creams, glows, laid, only_in_pans, pans, takes_a_pan, takes_warmth
from nabrel.core.shelf.optics import Mixture, mixture
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.ids import GlowOption, Zone
from nabrel.core.terms.places import places
from nabrel.core.terms.wishes import GLOW_POINT_INFO
from nabrel.core.terms.words import join_words, share_words
from nabrel.core.terms.zones import COMPLEXION_ZONES

GLOW_WHY: dict[GlowOption, str] = {
    "under": "Under the foundation it looks like the skin's own.",
    "mixed": "Stirred into what comes next, about one part in ten: a sheen that has no edge.",
    "after_colour": "Tapped on while the colour is still wet, it joins it.",
    "last": "Tapped on last, it stays clear.",
}


def glow_at(draft: Draft, moment: GlowOption, usual: GlowOption) -> None:
    """Glow, if this is its moment: the one asked for, else the school's own."""
    if not glows(draft):
        none = draft.options.glow == "none"
        draft.note("No glow: none was asked for." if none else "No glow: a matte finish was asked for.")
        return
    if _moment(draft, usual) == moment and not laid(draft, "glow"):
        _glow(draft, moment)


def _moment(draft: Draft, usual: GlowOption) -> GlowOption:
    """When the glow comes: as asked, unless the kit has it only as a pan, or only as a cream for zones that get powder."""
    asked = usual if draft.options.glow == "school" else draft.options.glow
    if only_in_pans(draft, "glow"):
        if asked != "last" and draft.options.glow == asked:
            draft.note("The kit has glow only as a pan: it comes last, over powder, not where it was asked for.")
        return "last"
    if asked in ("under", "mixed") and draft.beading(creams(draft, "glow")):
        draft.note("The glow comes after the colour: the foundation would bead on it.")
        return "after_colour"
    press, bake = setting_zones(draft)
    if asked == "last" and not pans(draft, "glow") and set(draft.reading.placement.glow.zones) & {*press, *bake}:
        return "after_colour"
    return asked


def _glow(draft: Draft, moment: GlowOption) -> None:
    house, reading = draft.house, draft.reading
    placed = reading.placement.glow
    for left in placed.left_off:
        draft.leave(left.zone, "glow", left.why)
    zones = reading.workable(placed.zones)
    film = house.glow_film_um
    if moment == "mixed":
        zones = tuple(z for z in COMPLEXION_ZONES if _smooth(draft, z))
        film = house.least_film_um

    def why(on: tuple[Zone, ...]) -> list[str]:
        if moment == "mixed":
            return [GLOW_WHY["mixed"]]
        return [*placed.why_on(on), GLOW_WHY[moment], _spared(placed.left_off)]

    beneath = moment in ("under", "mixed")
    if zones and not creams(draft, "glow") and not pans(draft, "glow"):
        draft.missing("glow", "a fine shimmer a little lighter than the skin, in cream, or in powder over set zones")
        return
    dry = [z for z in zones if (takes_a_pan(draft, z) if only_in_pans(draft, "glow") else draft.powdered(z))]
    if dry and not _powder_glow(draft, tuple(dry), why(tuple(dry))):
        for zone in dry:
            draft.leave(zone, "glow", "Powder lies here by now, and the kit has no powder glow: a cream would grab.")
    zones = tuple(z for z in zones if z not in dry)
    if zones and only_in_pans(draft, "glow"):
        draft.missing("glow over a wet base", "a setting powder, so that the pan glides, or a cream glow")
        return
    found = list(draft.sitting(draft.agreeing(creams(draft, "glow")) if beneath else creams(draft, "glow"), zones))
    slides = tuple(z for z in zones if reading.zones[z].oily >= 2 and moment != "mixed")
    for zone in slides:
        draft.leave(
            zone,
            "glow",
            "Oil gives this plane its own shine, and glow in cream would slide on it"
            + ("; a pan glides only over powder, and none lies here." if pans(draft, "glow") else "."),
        )
    zones = tuple(z for z in zones if z not in slides)
    if slides and not zones and not pans(draft, "glow"):
        draft.missing("glow on oily skin", "a powder glow, which is pressed on over powder")
    if not zones or not found:
        return
    draft.lay(
        "glow",
        [
            PortionDraft(own, film, ("fingers", "press"), patch=patch)
            for patch, own in ([(1.0, zones)] if moment == "mixed" else _by_patch(draft, zones))
        ],
        why(zones),
        product=nearest_by_depth(found, reading.complexion[0] + draft.house.glow_lift_l),
        wait_s=house.cream_wait_s,
        rules=["no-shimmer-on-texture", "gentle-on-fragile"],
        check="It moves with the light; no pore shows.",
    )


def _by_patch(draft: Draft, zones: tuple[Zone, ...]) -> list[tuple[float, tuple[Zone, ...]]]:
    """The zones by the share of them that a glow point covers: a dot is not a whole zone."""
    patch = dict.fromkeys(zones, 1.0)
    for point in draft.case.intent.glow_points:
        info = GLOW_POINT_INFO[point]
        patch.update({zone: info.patch for zone in info.zones if zone in patch})
    shares = sorted(set(patch.values()), reverse=True)
    return [(share, tuple(zone for zone in zones if patch[zone] == share)) for share in shares]


def _spared(left_off: tuple[LeftOff, ...]) -> str:
    """Which planes it was left off on this face, and the first reason why."""
    if not left_off:
        return "Every high plane of this face is smooth enough for it."
    why = left_off[0].why
    return f"Left off {places(left.zone for left in left_off)}: {why[:1].lower()}{why[1:]}"


def _smooth(draft: Draft, zone: Zone) -> bool:
    here = draft.reading.zones[zone]
    return not (
        here.textured or here.lined >= 2 or here.oily >= 2 or here.severity("active_blemish", "healing_blemish")
    )


def _powder_glow(draft: Draft, zones: tuple[Zone, ...], why: list[str]) -> bool:
    """Glow in powder where powder lies already; whether the kit has one."""
    found = pans(draft, "glow")
    if not found:
        return False
    misted = draft.case.intent.finish == "dewy" and bool(draft.shelf.of("melting_mist", "setting_mist"))
    hands: list[Hand] = [("fan_brush", "press" if misted else "whisk"), ("fluffy_brush", "press")]
    hand = draft.hand_for(zones, *hands)
    amount = draft.house.powder_colour_mg / 2
    deeper = "Dewy was asked for: the brush is dampened with mist, which makes the glow denser." if misted else ""
    over = "Powder lies here" if all(draft.powdered(zone) for zone in zones) else "Nothing lies wet here"
    draft.lay(
        "glow",
        [PortionDraft(own, amount, hand, patch=patch, misted=misted) for patch, own in _by_patch(draft, zones)],
        [*why, f"{over}, so this one is a powder.", deeper],
        product=nearest_by_depth(found, draft.reading.complexion[0] + draft.house.glow_lift_l),
        rules=["no-shimmer-on-texture"],
        check="It moves with the light and shows no grain.",
    )
    return True


def colour(draft: Draft) -> None:
    """Cream colour, started a little strong since a third of it fades within hours."""
    reading, house = draft.reading, draft.house
    placed = reading.placement.colour
    for left in placed.left_off:
        draft.leave(left.zone, "colour", left.why)
    zones = not_red(draft, reading.workable(placed.zones))
    found = list(draft.of_role_now(draft.sitting(creams(draft, "colour"), zones), zones))
    if not zones:
        return
    if not found:
        if not pans(draft, "colour"):
            draft.missing(
                "colour", "a cream colour whose base agrees with the foundation, or a pan and a setting powder"
            )
        return
    draft.add(
        "colour",
        zones,
        [*placed.why_on(zones), hue_why(draft), long_wear(draft)],
        product=best_colour(draft, found),
        amount=house.colour_film_um * (house.colour_lasting_factor if must_last(draft) else 1.0),
        hand=_colour_hand(draft, zones),
        wait_s=house.cream_wait_s,
        rules=["colour-off-blemishes", "press-over-wet"],
        check="Both sides the same height.",
    )


def not_red(draft: Draft, zones: Iterable[Zone]) -> tuple[Zone, ...]:
    """The zones whose own redness does not show any more: where it does, it reads as colour already."""
    remaining: list[Zone] = []
    for zone in zones:
        red = draft.reading.zones[zone].severity("redness") >= 2
        if red and draft.seen(zone)[1] - draft.reading.complexion[1] > draft.house.redness_shows_a:
            draft.leave(zone, "colour", "Its own redness still shows through the base, and reads as colour.")
        else:
            remaining.append(zone)
    return tuple(remaining)


def warm(draft: Draft) -> None:
    """Warmth asked for last, in cream before anything is powdered, where the kit has no pan for it."""
    if draft.options.bronzer != "last" or pans(draft, "bronze") or laid(draft, "bronze"):
        return
    shaded = {zone for step in draft.steps if step.kind == "shade" for zone in step.zones}
    zones = draft.reading.workable(zone for zone in SUN_ZONES if zone not in shaded and takes_warmth(draft, zone))
    found = list(draft.of_role_now(draft.sitting(creams(draft, "bronze"), zones), zones))
    if not found:
        return
    draft.add(
        "bronze",
        zones,
        ["Warmth where the sun would reach, in cream before the powder, since the kit has no pan for it."],
        product=nearest_by_depth(
            found, draft.reading.complexion[0] - draft.house.bronzer_steps * draft.house.shade_step_l
        ),
        amount=draft.house.colour_film_um,
        hand=draft.hand_for(zones, ("stippling_brush", "stipple"), ("fingers", "press")),
        wait_s=draft.house.cream_wait_s,
        rules=["bronzer-near-the-skin"],
        check="Warmer, not darker.",
    )


def _colour_hand(draft: Draft, zones: tuple[Zone, ...]) -> Hand:
    """A brush on oily cheeks, warm fingers elsewhere: they melt the edge away."""
    if any(draft.reading.zones[z].oily >= 2 for z in zones):
        return draft.hand_for(zones, ("stippling_brush", "stipple"), ("fingers", "press"))
    return draft.hand_for(zones, ("fingers", "warm_melt"), ("fingers", "press"))


def long_wear(draft: Draft) -> str:
    """Why a colour starts strong, where it must last."""
    fades = share_words(draft.house.colour_fade_share)
    return f"Started stronger, since about {fades} fades within hours." if must_last(draft) else ""


def must_last(draft: Draft) -> bool:
    """Whether a cream colour would fade before the day is over."""
    return draft.case.intent.wear_hours >= draft.house.colour_lasts_from_h


def hue_why(draft: Draft) -> str:
    """Why this hue, from the undertone and depth that were read."""
    reading = draft.reading
    hue = "a warm hue" if reading.undertone in ("warm", "olive") else "a cool or soft rose hue"
    return f"{reading.undertone.capitalize()} undertone on {reading.depth} skin: {hue}, deep enough to show."


def best_colour(draft: Draft, items: list[Product]) -> Product:
    """The colour nearest in depth, warm on warm skin and cool on cool; two of them mixed where that is plainly nearer."""
    items = sorted(items, key=lambda item: item.id)
    best = min(items, key=partial(_off_colour, draft))
    off, house = _off_colour(draft, best), draft.house
    if off <= house.colour_close_l:
        return best
    found = min(_pairs(draft, items), key=lambda each: _off_colour(draft, each.product), default=None)
    if found is None or _off_colour(draft, found.product) > off - house.colour_mix_worth_l:
        return best
    draft.mixtures[found.product.id] = found
    parts = join_words(f"{item.name} ({share_words(share)})" for item, share in found.items)
    draft.note(f"The colour is mixed: {parts}; alone {best.name} is {_how_off(draft, best)} for this skin.")
    return found.product


def _off_colour(draft: Draft, item: Product) -> float:
    """How far a colour lies from the one wanted: steps of L*, and half as much for its yellow."""
    if item.lab is None:
        return inf
    level, _, yellow = _wanted_colour(draft)
    return abs(item.lab[0] - level) + 0.5 * abs(item.lab[2] - yellow)


def _wanted_colour(draft: Draft) -> Lab:
    """The depth and yellow of the colour that suits this skin; its red is not judged."""
    warm = draft.reading.undertone in ("warm", "olive")
    yellow = draft.house.warm_colour_b if warm else draft.house.cool_colour_b
    return draft.reading.complexion[0] - draft.house.colour_drop_l, 0.0, yellow


def _how_off(draft: Draft, item: Product) -> str:
    """In which way a colour alone is off: the larger of depth and warmth."""
    level, _, yellow = _wanted_colour(draft)
    light, _, own = item.lab or (level, 0.0, yellow)
    if abs(light - level) >= 0.5 * abs(own - yellow):
        return "too pale" if light > level else "too deep"
    return "too warm" if own > yellow else "too cool"


def _pairs(draft: Draft, items: list[Product]) -> Iterator[Mixture]:
    """Every two of the colours that mix: both wet on one base or both pans, of one finish, in halves and thirds."""
    for one, other in combinations(items, 2):
        if one.dry == other.dry and one.base == other.base and one.finish == other.finish:
            for share in (1 / 2, 1 / 3, 2 / 3):
                yield mixture(((one, share), (other, 1 - share)), draft.house)
