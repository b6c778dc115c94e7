"""Concealing: discoloured zones and marks, with the least concealer for what still shows."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from math import inf

import numpy as np

from nabrel.core.case.product import Product
from nabrel.core.film.difference import delta_e
from nabrel.core.film.films import over
from nabrel.core.film.spectra import Floats, lab_of, surface
from nabrel.core.planner.draft import Draft, Hand, PortionDraft, Share
from nabrel.core.shelf.ladder import film_ladder
from nabrel.core.shelf.optics import bank, film_for
from nabrel.core.solve.corrector import half_rung
from nabrel.core.terms.conditions import DISCOLORATIONS, MARKS
from nabrel.core.terms.ids import SpotOption, StepKind, Zone
from nabrel.core.terms.words import apart, apart_then, lead, sentence
from nabrel.core.terms.zones import ZONES, both, in_order

OffAfter = Callable[[Floats], Floats]
NOT_CONCEALED: frozenset[Zone] = frozenset({"lips", "neck", "under_jaw", *both("eyelid", "ear", "brow", "lash")})
"""Zones that concealing leaves alone."""


def off_complexion(draft: Draft, shown: Floats) -> Floats:
    """CIEDE2000 of reflectances (…, 31) from the complexion; shape (…)."""
    return delta_e(lab_of(shown), np.array(draft.reading.complexion))


@dataclass(frozen=True, slots=True)
class Coming:
    """What will still lie over a zone when it is concealed now: the planned foundation, or nothing."""

    draft: Draft
    share: Share | None = None

    def film_um(self, zone: Zone) -> float:
        """Film still to come on a zone, µm."""
        return 0.0 if self.share is None else self.draft.foundation_um * self.share(zone)

    def off(self, zones: Sequence[Zone], shown: Floats) -> Floats:
        """How far reflectances (…, zones, 31) end from the complexion once that lies over them, ΔE00; shape (…, zones)."""
        product = self.draft.foundation
        if product is not None and self.share is not None:
            film = film_for(product, self.draft.house)
            films_um = np.array([self.film_um(zone) for zone in zones])
            shown = over(shown, film.ratio, film.s * films_um[:, None])
        return off_complexion(self.draft, shown)


def conceal(draft: Draft, before_foundation: Share | None = None) -> None:
    """Discoloured zones that are not even by now, with the least concealer that does it.

    ``before_foundation`` is the share of foundation each zone will get, where concealing comes before it. Marks whose moment
    this is too are covered in the same step, since it is one concealer on one hand.
    """
    coming = Coming(draft, before_foundation)
    house, reading = draft.house, draft.reading
    needs: list[ConcealerNeed] = []
    zones = reading.workable(z for z in ZONES if z not in NOT_CONCEALED and reading.zones[z].discolorations)
    grounds = draft.shown(zones)
    for zone, before, off in zip(zones, grounds, coming.off(zones, grounds).tolist(), strict=True):
        sculpted = {step.kind for step in draft.steps if zone in step.zones and step.kind in ("light", "shade")}
        if off <= house.close_enough_de:
            draft.leave(zone, "conceal", f"{sentence(apart(off))} off the complexion by now: nothing left to hide.")
        elif _may_stand(draft, zone, off):
            draft.leave(zone, "conceal", "A slight flush that reads as colour: it may stand.")
        elif "shade" in sculpted or ("light" in sculpted and lab_of(before)[0] >= reading.complexion[0] - 1.0):
            draft.leave(zone, "conceal", "Sculpted here: concealer would cover it again.")
        else:
            needs.append(ConcealerNeed(zone, before, off))
    moment: SpotOption = "after_foundation" if before_foundation is None else "before_foundation"
    why: list[str] = []
    if draft.options.spot == moment:
        whole = {need.zone for need in needs}
        draft.marks_covered = True
        marks = [need for need in _marks(draft, coming) if need.zone not in whole]
        needs += marks
        why = _marks_why(moment) if marks else []
    _lay_concealer(draft, needs, why, coming)


@dataclass(frozen=True, slots=True)
class ConcealerNeed:
    """A zone to conceal: what it shows (reflectance), how far that ends from the complexion, and the share to cover."""

    zone: Zone
    before: Floats
    off: float
    patch: float = 1.0


def _may_stand(draft: Draft, zone: Zone, off: float) -> bool:
    """Whether a slight redness on the cheeks is left, since it reads as colour."""
    here = draft.reading.zones[zone]
    flush = zone in both("cheek_apple") and here.severity(*here.discolorations) == here.severity("redness") == 1
    return flush and draft.options.evenness == "let_stand" and off <= 2 * draft.house.close_enough_de


def spot_conceal_at(draft: Draft, moment: SpotOption, share: Share) -> None:
    """Marks and spots that still show, if this is their moment: concealer on the mark alone, pressed and feathered."""
    if draft.options.spot != moment or draft.marks_covered:
        return
    draft.marks_covered = True
    coming = Coming(draft, share if moment == "before_foundation" else None)
    _lay_concealer(draft, _marks(draft, coming), _marks_why(moment), coming)


def _marks(draft: Draft, coming: Coming) -> list[ConcealerNeed]:
    """The marks that still show and are not concealed yet."""
    house, reading = draft.house, draft.reading
    shown_at_most = house.close_enough_de * (1.0 if draft.options.evenness == "let_stand" else 0.5)
    done = {z for step in draft.steps if step.kind in ("conceal", "spot_conceal") for z in step.zones}
    needs: list[ConcealerNeed] = []
    zones = reading.workable(z for z in reading.where(*MARKS) if z not in NOT_CONCEALED and z not in done)
    grounds = draft.base.shown_with((zone, surface(reading.zones[zone].mark_lab), {}) for zone in zones)
    for zone, before, off in zip(zones, grounds, coming.off(zones, grounds).tolist(), strict=True):
        if off <= shown_at_most:
            draft.leave(zone, "spot_conceal", f"The marks are {apart(off)} off the complexion: they may stand.")
        else:
            needs.append(ConcealerNeed(zone, before, off, house.patch_share))
    return needs


def _marks_why(moment: SpotOption) -> list[str]:
    why = ["Matched to the foundation, never lighter: a pale spot advertises the mark."]
    if moment == "before_foundation":
        why.append("Before the foundation, for an even canvas that lets it be thin everywhere.")
    return why


def _lay_concealer(draft: Draft, needs: list[ConcealerNeed], more: list[str], coming: Coming) -> None:
    house = draft.house
    candidates = [i for i in draft.shelf.of("concealer") if i.tinted and not i.dry]
    found: dict[str, dict[float, list[tuple[ConcealerNeed, float]]]] = {}
    in_use: dict[str, Product] = {}
    # The worst first; what nobody can tell apart from forehead to neck, not by the last bit of a sum.
    for need in sorted(needs, key=lambda each: -round(each.off, 3)):
        kind: StepKind = "conceal" if need.patch == 1.0 else "spot_conceal"
        room = draft.room(need.zone) - house.reserve_um - coming.film_um(need.zone)
        if need.patch == 1.0:
            # A heavy layer of concealer is pressed on a mark, and nowhere else.
            room = min(room, house.rung_full_um)
        usable = list(draft.sitting(_for_marks(draft, candidates) if need.patch < 1.0 else candidates, [need.zone]))
        if coming.share is not None and draft.beading(usable):
            room = min(room, house.thin_underlayer_um - house.least_film_um)

        def off_after(shown: Floats, zone: Zone = need.zone) -> Floats:
            return coming.off((zone,), shown[..., None, :])[..., 0]

        answer = _least_concealer(draft, need.before, usable, room, off_after)
        if answer is None or answer[2] > need.off - house.conceal_helps_de:
            # With all the room that a press takes: does it fail for want of room, or of a fitting concealer?
            free = _least_concealer(draft, need.before, usable, house.rung_heavy_um, off_after)
            helps = free is not None and free[2] <= need.off - house.conceal_helps_de
            draft.leave(need.zone, kind, "It carries no more film by now." if helps else _no_concealer(need, usable))
            continue
        allowed = [item for item in in_use.values() if item in usable]
        product, film, after = _with_one_in_use(draft, need.before, allowed, room, answer, need.off, off_after)
        in_use[product.id] = product
        found.setdefault(product.id, {}).setdefault(film, []).append((need, after))
    for product_id, by_film in found.items():
        # Marks have a purpose and a hand of their own; and with an under-eye that is to be powdered soon nothing else hurries.
        for marks, soon in ((False, False), (True, False), (False, True), (True, True)):
            own = {
                film: worth_laying
                for film, rows in by_film.items()
                if (
                    worth_laying := [
                        row for row in rows if (row[0].patch < 1.0) == marks and _creases(draft, row[0].zone) == soon
                    ]
                )
            }
            if own:
                _conceal_with(draft, in_use[product_id], own, more if marks else [])


def _no_concealer(need: ConcealerNeed, usable: list[Product]) -> str:
    if not usable:
        return "The kit has no concealer that could lie here."
    return f"No concealer of the kit brings it nearer: it stays {apart(need.off)} off the complexion."


_EYES = frozenset(both("under_eye", "inner_corner"))


def _for_marks(draft: Draft, candidates: list[Product]) -> list[Product]:
    """Concealers as deep as the complexion or deeper, for marks: a pale spot advertises the mark; all where none is such."""
    most = draft.reading.complexion[0] + draft.house.mark_paler_l
    return [item for item in candidates if item.lab and item.lab[0] <= most] or candidates


def _conceal_with(
    draft: Draft, product: Product, by_film: dict[float, list[tuple[ConcealerNeed, float]]], more: list[str]
) -> None:
    """One take of a concealer, on whole zones or on marks, each in its amount and with its hand."""
    house, reading = draft.house, draft.reading
    rows = [row for films in by_film.values() for row in films]
    zones = in_order(need.zone for need, _ in rows)
    # The eyes have a hand of their own: what touched a blemish does not go there.
    portions: dict[tuple[float, float, bool], list[Zone]] = {}
    for film, own in by_film.items():
        for need, _ in own:
            portions.setdefault((need.patch, film, need.zone in _EYES), []).append(need.zone)
    whole = rows[0][0].patch == 1.0
    kind: StepKind = "conceal" if whole else "spot_conceal"
    evidence = reading.cite(zones, *(DISCOLORATIONS if whole else MARKS))
    worst, left = max(need.off for need, _ in rows), max(after for _, after in rows)
    draft.lay(
        kind,
        [
            PortionDraft(in_order(own), film, _concealing_hand(draft, tuple(own)), patch=patch)
            for (patch, film, _), own in sorted(portions.items(), reverse=True)
        ],
        [f"{lead(evidence)}still {apart_then(worst, left)}.", *more],
        product=product,
        wait_s=house.cream_wait_s,
        wait_at_most_s=house.under_eye_window_s if any(_creases(draft, z) for z in zones) else None,
        rules=["gentle-on-fragile"],
        check="Gone at arm's length, edge and all.",
    )


def _concealing_hand(draft: Draft, zones: tuple[Zone, ...]) -> Hand:
    """Fingers on lined skin; at the eyes a brush of its own, which touched no blemish."""
    if any(draft.reading.zones[z].lined >= 2 for z in zones):
        return ("fingers", "press")
    return ("dense_small_brush", "press") if set(zones) <= _EYES else ("detail_brush", "press")


def _creases(draft: Draft, zone: Zone) -> bool:
    """Whether a lined under-eye will be powdered, and so should not wait for it long."""
    lined = zone in both("under_eye") and draft.reading.zones[zone].lined > 0
    return lined and draft.case.intent.setting != "none"


def _least_concealer(
    draft: Draft, before: Floats, candidates: list[Product], room: float, off_after: OffAfter
) -> tuple[Product, float, float] | None:
    """The concealer and film that come near enough with the least film, else as near as may be: (item, µm, ΔE00)."""
    films = film_ladder(draft.house, min(room, draft.house.rung_heavy_um))
    if not len(films) or not candidates:
        return None
    ratio, s = bank(candidates, draft.house)
    off = off_after(over(before, ratio[:, None, :], s[:, None, :] * films[:, None]))
    near = off <= draft.house.close_enough_de
    # The least film among those that come near enough, and of equal films the nearest; else the nearest of all.
    by_film = np.where(near, films, inf).ravel()
    order = np.lexsort((off.ravel(), by_film))
    item, film = np.unravel_index(order[0], off.shape)
    return candidates[item], float(films[film]), float(off[item, film])


def _with_one_in_use(
    draft: Draft,
    before: Floats,
    in_use: list[Product],
    room: float,
    answer: tuple[Product, float, float],
    off_now: float,
    off_after: OffAfter,
) -> tuple[Product, float, float]:
    """Rather a concealer that is on the hand already, where it does about as well for at most two rungs more film.

    It must help by itself, too: what brings a zone no nearer is not laid because it is at hand.
    """
    product, film, after = answer
    films = film_ladder(draft.house, min(room, draft.house.rung_heavy_um))
    if not in_use or product in in_use or not len(films):
        return answer
    limit = max(after + draft.house.one_concealer_de, draft.house.close_enough_de)
    limit = min(limit, off_now - draft.house.conceal_helps_de)
    ratio, s = bank(in_use, draft.house)
    off = off_after(over(before, ratio[:, None, :], s[:, None, :] * films[:, None]))
    for place, used in enumerate(films):
        if used > film + 4 * half_rung(film, draft.house):
            break
        best = int(np.argmin(off[:, place]))
        if off[best, place] <= limit:
            return in_use[best], float(used), float(off[best, place])
    return answer
