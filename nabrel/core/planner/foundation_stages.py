"""The foundation: which one, how thin where, with which hand."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import replace
from functools import partial

from nabrel.core.case.product import Product
from nabrel.core.face.placement import COVERS
from nabrel.core.film.films import over
from nabrel.core.film.spectra import surface
from nabrel.core.planner.conceal_stages import off_complexion
from nabrel.core.planner.draft import Draft, Hand, PortionDraft, Share, fragile
from nabrel.core.shelf.doses import foundation_film
from nabrel.core.shelf.ladder import nearest_rung
from nabrel.core.shelf.optics import film_for, mixture
from nabrel.core.solve.mix import solve_mix
from nabrel.core.solve.shade_match import ShadeMatch, match_foundation
from nabrel.core.terms.colour import triple
from nabrel.core.terms.conditions import DISCOLORATIONS
from nabrel.core.terms.ids import Zone
from nabrel.core.terms.words import apart, join_words, lead
from nabrel.core.terms.zones import COMPLEXION_ZONES, EDGE_ZONES, area_of, in_order


def choose_foundation(draft: Draft, *, beneath: bool) -> None:
    """Settle the foundation before anything else: what lies beneath it is judged through it.

    ``beneath`` says that sculpting will lie under it, so its base must agree with the kit's creams.
    """
    reading, intent = draft.reading, draft.case.intent
    oily = len(reading.where("oily", least=2))
    dry = len(reading.where("dry", "fine_lines", "creping", least=2))
    house = draft.house
    if oily > house.many_oily_zones and oily > dry:
        lean = -house.oily_finish_lean
    else:
        lean = house.dry_finish_lean if dry > house.many_dry_zones else 0.0
    candidates = draft.shelf.of("foundation")
    if reading.where("active_blemish", least=2):
        candidates = tuple(item for item in candidates if item.base != "oil") or candidates
    needed = [i for i in draft.shelf.of("corrector", "shade", "light") if i.tinted and not i.dry]
    ranked = match_foundation(
        reading.sitter.skin.lab,
        reading.complexion,
        intent,
        [item for item in candidates if not item.dry],
        foundation_film(intent.cover, house),
        draft.house,
        finish_lean=lean,
        beneath=needed if beneath else [i for i in needed if i.role == "corrector"],
    )
    if not ranked:
        draft.missing(
            "a foundation", "a liquid or cream foundation near the complexion, L*a*b* " + triple(reading.complexion)
        )
        return
    best = ranked[0]
    draft.foundation = best.product
    draft.foundation_um = foundation_film(intent.cover, house)
    if _mix_is_better(draft, best, [each.product for each in ranked]):
        return
    if best.de > 2 * draft.house.close_enough_de:
        draft.note(
            f"The nearest foundation, {best.product.name}, comes out {apart(best.de)} off the complexion: "
            "a mix in drops or another shade would join face to neck better."
        )


def _mix_is_better(draft: Draft, best: ShadeMatch, ranked: list[Product]) -> bool:
    """Whether two foundations of one base are mixed, where alone the nearest is off in colour, or none has the finish asked for.

    The mix must gain what is seen, as drops really fall.
    """
    house, wish = draft.house, draft.case.intent.finish
    alike = [item for item in ranked if item.base == best.product.base][: house.mix_among]
    has_finish = any(item.finish == wish for item in ranked)
    off_finish = not has_finish and len({item.finish for item in alike}) > 1
    if len(alike) < 2 or not (best.de > house.mix_from_de or off_finish):
        return False
    answer = solve_mix(
        draft.reading.complexion, alike, house, most_drops=house.mix_drops_most, most_products=2,
        finish=wish if off_finish else None,
    )  # fmt: skip
    recipe = answer.best
    if len(recipe.parts) < 2 or recipe.warnings:
        return False
    mixed = mixture(tuple((part.product, part.drops / recipe.drops) for part in recipe.parts), house)
    mixed = replace(mixed, product=replace(mixed.product, finish=recipe.finish))
    (there,) = match_foundation(
        draft.reading.sitter.skin.lab, draft.reading.complexion, draft.case.intent, [mixed.product], draft.foundation_um, house
    )  # fmt: skip
    gains_finish = off_finish and recipe.finish == wish and there.de <= best.de + house.mix_alike_de
    if not gains_finish and there.de > best.de - house.mix_worth_de:
        return False
    draft.foundation = mixed.product
    draft.mixtures[mixed.product.id] = mixed
    drops = join_words(
        f"{part.drops} drop{'s' if part.drops > 1 else ''} of {part.product.name}" for part in recipe.parts
    )
    why = (
        f"{wish}, which no foundation of the kit is"
        if gains_finish
        else f"since alone {best.product.name} comes out {apart(best.de)} off"
    )
    draft.note(f"The foundation is mixed: {drops}, {why}.")
    return True


def even_share(draft: Draft, zone: Zone) -> float:
    """The share of the foundation film a zone gets where nothing was painted beneath it: less on fragile skin and edges."""
    if zone not in COMPLEXION_ZONES and zone not in EDGE_ZONES:
        return 0.0
    if zone in draft.hidden:
        return 0.0
    if draft.case.intent.foundation_on == "where_needed" and zone in COMPLEXION_ZONES and _even_already(draft, zone):
        draft.leave(zone, "foundation", "Even already: skin may show as it is.")
        return 0.0
    part = draft.house.fragile_share if fragile(draft, zone) or zone in rubbed(draft) else 1.0
    return min(part, draft.house.edge_share) if zone in EDGE_ZONES else part


def rubbed(draft: Draft) -> set[Zone]:
    """Zones that get less, since glasses or a mask rub there."""
    return {zone for thing in draft.reading.sitter.covered if thing in ("glasses", "mask") for zone in COVERS[thing][0]}


def _even_already(draft: Draft, zone: Zone) -> bool:
    """Whether bare skin here is as near to the complexion as a base would bring it."""
    here = draft.reading.zones[zone]
    off = float(off_complexion(draft, surface(here.lab)))
    return not here.discolorations and off <= draft.house.close_enough_de


def foundation(draft: Draft, share: Share, *, over_sculpting: tuple[Zone, ...] = ()) -> None:
    """Foundation in one take: the middle first, thinner on fragile skin, the remainder rolled onto the edges."""
    product = draft.foundation
    if product is None:
        return
    middle = [z for z in COMPLEXION_ZONES if z not in over_sculpting and not fragile(draft, z)]
    covered = [z for z in COMPLEXION_ZONES if z in over_sculpting and not fragile(draft, z)]
    thin = [z for z in COMPLEXION_ZONES if fragile(draft, z)]
    pressed = (
        "Over what was painted beneath, only pressed, with what is on the tool: its edges soften and its value comes "
        "through."
    )
    lay_foundation(
        draft,
        product,
        [
            *spread(draft, middle, share, partial(_skin_note, draft)),
            *spread(draft, covered, share, lambda _: pressed),
            *spread(draft, thin, share, partial(thinly, draft)),
            *rolled_out(draft, EDGE_ZONES, share),
        ],
        [
            f"{product.name} comes out {apart(_bare_match(draft, product))} off the complexion; most where it is needed, from the middle outwards."
        ],
        ("Even at arm's length" if draft.case.intent.cover == "full" else "You can still see skin")
        + ("; the shape reads, without a line." if over_sculpting else ", and no line anywhere."),
    )


def _bare_match(draft: Draft, product: Product) -> float:
    """ΔE00 from the complexion that the planned film leaves on the sitter's even skin."""
    film = film_for(product, draft.house)
    shown = over(surface(draft.reading.sitter.skin.lab), film.ratio, film.s * draft.foundation_um)
    return float(off_complexion(draft, shown))


def thinly(draft: Draft, zones: Iterable[Zone]) -> str:
    """Why fragile zones get less."""
    listed = tuple(zones)
    evidence = draft.reading.cite(listed, "creping", "fine_lines", "deep_fold", "flaking", least=2)
    return f"{lead(evidence)}least here, since film gathers where skin moves or lifts."


ROLLED_OUT = "What is left on the tool is rolled onto the edges and down the neck, so that no line is left."
TAKEN_FOR_EDGES = (
    "Too little is left on the tool: a little more is taken for the edges and down the neck, so that no line is left."
)


def spread(
    draft: Draft, zones: Iterable[Zone], share: Share, why: Callable[[tuple[Zone, ...]], str] = lambda _: ""
) -> list[PortionDraft]:
    """Portions of foundation: the zones by what they get and by hand, the largest first, each with why it is so on them."""
    found: dict[float, list[Zone]] = {}
    for zone in zones:
        if share(zone) <= 0:
            continue
        amount = nearest_rung(
            _no_cover_on_lines(draft, zone, draft.foundation_um * share(zone)), "um", draft.house
        ).amount
        found.setdefault(amount, []).append(zone)
    listed = sorted(found.items(), key=lambda row: -area_of(row[1]))
    return [
        PortionDraft(
            in_order(own),
            amount,
            _foundation_hand(draft, own),
            why=(why(draft.reading.workable(own)),),
            misted=tool_misted(draft),
        )
        for amount, own in listed
    ]


def _no_cover_on_lines(draft: Draft, zone: Zone, film_um: float) -> float:
    """Less of a foundation of much cover where skin is lined: the pigment would draw the line."""
    much = draft.foundation is not None and (draft.foundation.cover or 0.0) >= draft.house.full_cover_on_lines
    lined = draft.reading.zones[zone].lined >= 2
    return min(film_um, draft.house.rung_light_um) if much and lined else film_um


def rolled_out(draft: Draft, zones: Iterable[Zone], share: Share, also: str = "") -> list[PortionDraft]:
    """The portion of the edges, with what the tool still holds; ``also`` is said besides."""
    listed = in_order(zone for zone in zones if share(zone) > 0)
    part = max((share(zone) for zone in listed), default=0.0)
    sponge: Hand = ("damp_sponge", "press")
    return [
        PortionDraft(
            listed,
            draft.foundation_um * part,
            sponge,
            rest=True,
            why=(f"{ROLLED_OUT} {also}".strip(),),
            if_fresh=f"{TAKEN_FOR_EDGES} {also}".strip(),
            misted=tool_misted(draft),
        )
    ]


def tool_misted(draft: Draft) -> bool:
    """Whether the foundation's tool is dampened with a setting mist, since the base is worn long and the kit has one."""
    return draft.case.intent.wear_hours >= draft.house.misted_tool_from_h and bool(draft.shelf.of("setting_mist"))


def lay_foundation(draft: Draft, product: Product, portions: list[PortionDraft], why: list[str], check: str) -> None:
    """One take of a foundation."""
    misted = any(portion.misted and portion.hand and portion.hand[0] != "fingers" for portion in portions)
    hours = f"{draft.case.intent.wear_hours:g} h"
    longer = f"Worn for {hours}: the tool is dampened with setting mist, so that the film holds." if misted else ""
    draft.lay(
        "foundation",
        portions,
        [*why, longer],
        product=product,
        wait_s=draft.house.foundation_wait_s,
        rules=["thin-passes", "gentle-on-fragile", "press-over-wet"],
        check=check,
    )


def second_pass(draft: Draft) -> None:
    """Look, and add a little foundation only where the first thin press left it uneven."""
    product, house = draft.foundation, draft.house
    if not draft.options.second_pass or product is None:
        return
    sculpted = {z for step in draft.steps if step.kind in ("shade", "light", "glow") for z in step.zones}
    film = film_for(product, house)
    zones = draft.reading.workable(z for z in COMPLEXION_ZONES if z not in sculpted)
    before = draft.shown(zones)
    off = off_complexion(draft, before)
    after = off_complexion(draft, over(before, film.ratio, film.s * house.second_pass_um))
    helped = (off > 2 * house.close_enough_de) & (after < off - 0.5)
    wanted = [
        zone
        for zone, helps in zip(zones, helped.tolist(), strict=True)
        if helps and draft.room(zone) - house.reserve_um >= house.second_pass_um
    ]
    if not wanted:
        draft.note("No second pass: one thin press was even enough everywhere.")
        return
    draft.add(
        "foundation",
        wanted,
        [lead(draft.reading.cite(wanted, *DISCOLORATIONS)) + "a second thin press, only where it is still needed."],
        product=product,
        amount=house.second_pass_um,
        hand=("damp_sponge", "press"),
        wait_s=house.foundation_wait_s,
        rules=["thin-passes", "press-over-wet"],
        check="Even at arm's length; if not, concealer on the spot rather than a third pass.",
    )


def choose_two(draft: Draft) -> Product | None:
    """Settle a paler foundation for the middle and a deeper one around it; the deeper one, None where there is none.

    Both of one base, and a shade apart of each other in the same hue: the paler half a step above the complexion.
    """
    said = len(draft.notes)
    choose_foundation(draft, beneath=False)
    first = draft.foundation
    if first is None:
        return None
    level, red, yellow = draft.reading.complexion
    house = draft.house
    half = house.two_tone_step_l / 2

    def off(item: Product, wanted_l: float) -> float:
        lab = item.lab or (0.0, 0.0, 0.0)
        cover = abs((item.cover or 0.0) - (first.cover or 0.0))
        hue = abs(lab[1] - red) + abs(lab[2] - yellow)
        return abs(lab[0] - wanted_l) + house.range_hue_weight * hue + house.range_cover_cost * cover

    family = [i for i in draft.shelf.of("foundation") if i.tinted and not i.dry and i.base == first.base]
    paler = min(family, key=lambda i: (off(i, level + half - 1), i.id))
    deeper = [i for i in family if i.lab and paler.lab and i.lab[0] < paler.lab[0] - draft.house.shade_step_l]
    if not deeper:
        return None
    # What was said of one foundation, or of two mixed into one, is not what is laid.
    del draft.notes[said:]
    draft.foundation = paler
    return min(deeper, key=lambda i: (off(i, level - half - 1), i.id))


def _foundation_hand(draft: Draft, zones: Iterable[Zone]) -> Hand:
    listed = tuple(zones)
    reading = draft.reading
    if any(reading.zones[z].severity("active_blemish", "healing_blemish") for z in listed):
        return ("damp_sponge", "press")
    if any(reading.zones[z].lined >= 2 or reading.zones[z].dry >= 2 for z in listed):
        return ("fingers", "press")
    if any(draft.wet(z) > 0 for z in listed) or any(reading.zones[z].textured for z in listed):
        return ("damp_sponge", "press")
    if draft.foundation is not None and (draft.foundation.cover or 0.0) >= draft.house.stippled_cover_from:
        return draft.hand_for(listed, ("stippling_brush", "stipple"), ("damp_sponge", "bounce"))
    return draft.hand_for(listed, ("damp_sponge", "bounce"))


def _skin_note(draft: Draft, zones: Iterable[Zone]) -> str:
    listed = tuple(zones)
    textured = draft.reading.cite(listed, "raised_texture", "pitted_scar", "enlarged_pores", least=2)
    blemished = draft.reading.cite(listed, "active_blemish")
    if blemished:
        return f"{lead(blemished)}light taps, with a sponge kept for this sitter."
    if textured:
        return f"{lead(textured)}pressed, since a swipe leaves film on the high points and bares the low."
    return ""
