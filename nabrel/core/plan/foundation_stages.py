"""The foundation: which one, how thin where, with which hand."""

from __future__ import annotations

from collections.abc import Iterable

from nabrel.core.plan.draft import Draft, Hand, Share, fragile
from nabrel.core.plan.words import lead, triple
from nabrel.core.solve.shade_match import match_foundation
from nabrel.core.vocabulary import COMPLEXION_ZONES, EDGE_ZONES, Zone


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
            "a foundation", "a liquid or cream foundation near the complexion, L*a*b* " + triple(reading.complexion)
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


def foundation(draft: Draft, share: Share, *, over_sculpting: tuple[Zone, ...] = ()) -> None:
    """Foundation by zones: the middle first, thinner on fragile skin, the remainder rolled onto the edges."""
    product, house, reading = draft.foundation, draft.house, draft.reading
    if product is None:
        return
    middle = [z for z in COMPLEXION_ZONES if z not in over_sculpting and not fragile(draft, z)]
    covered = [z for z in COMPLEXION_ZONES if z in over_sculpting and not fragile(draft, z)]
    thin = [z for z in COMPLEXION_ZONES if fragile(draft, z)]
    match = f"As planned, {product.name} joins face to neck"
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
            lead(reading.cite(thin, "creping", "fine_lines", "deep_fold", "flaking", least=2))
            + f"only {100 * house.fragile_share:.0f} % of the film, since film gathers where skin moves or lifts."
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
        return f"{lead(blemished)}light taps, with a sponge kept for this sitter."
    if textured:
        return f"{lead(textured)}pressed, since a swipe leaves film on the high points and bares the low."
    return ""
