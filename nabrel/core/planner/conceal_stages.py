"""Concealing: discoloured zones and marks, with the least concealer for what still shows."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass

import numpy as np

from nabrel.core.case.product import Product
from nabrel.core.film.difference import delta_e
from nabrel.core.film.films import over
from nabrel.core.film.spectra import Floats, lab_of, surface
from nabrel.core.film.stack import lay
from nabrel.core.planner.draft import Draft, Hand, Share
from nabrel.core.shelf.optics import bank, film_for, layer_for
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.conditions import DISCOLORATIONS, MARKS
from nabrel.core.terms.ids import SpotWay, StepKind, Zone
from nabrel.core.terms.words import lead
from nabrel.core.terms.zones import ZONES, both, in_order

OffAfter = Callable[[Floats], Floats]
CONCEALER_UM: Floats = np.array([1.0, 2.0, 3.0, 5.0, 7.0])
NOT_CONCEALED: frozenset[Zone] = frozenset({"lips", "neck", "under_jaw", *both("eyelid", "ear")})
"""Zones that concealing leaves alone."""


def shown_on(draft: Draft, zone: Zone, skin: Lab) -> Floats:
    """The reflectance (31,) that skin on a zone shows after the steps drafted so far."""
    products = {item.id: item for item in draft.shelf.items}
    state = surface(skin)[None, :]
    for step in draft.steps:
        product = products.get(step.product or "")
        if zone not in step.zones or product is None or not product.tinted or not step.lays:
            continue
        amount = step.film_um if step.film_um is not None else step.powder_mg_cm2 or 0.0
        state = lay(state, layer_for(product, np.array([amount]), draft.house))
    return np.asarray(state[0])


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

    def over(self, zone: Zone, shown: Floats) -> Floats:
        """What a reflectance on a zone shows once that lies over it."""
        product = self.draft.foundation
        if product is None or self.share is None:
            return shown
        film = film_for(product, self.draft.house)
        return over(shown, film.ratio, film.s * self.film_um(zone))


def conceal(draft: Draft, before_foundation: Share | None = None) -> None:
    """Discoloured zones that are not even by now, with the least concealer that does it.

    ``before_foundation`` is the share of foundation each zone will get, where concealing comes before it.
    """
    coming = Coming(draft, before_foundation)
    house, reading = draft.house, draft.reading
    needs: dict[Zone, tuple[Floats, float]] = {}
    for zone in reading.workable(z for z in ZONES if z not in NOT_CONCEALED):
        if not reading.zones[zone].discolorations:
            continue
        before = shown_on(draft, zone, reading.zones[zone].lab)
        off = float(off_complexion(draft, coming.over(zone, before)))
        sculpted = {step.kind for step in draft.steps if zone in step.zones and step.kind in ("light", "shade")}
        if off <= house.close_enough_de:
            draft.leave(zone, "conceal", f"Only ΔE00 {off:.1f} from the complexion by now: nothing left to hide.")
        elif _may_stand(draft, zone, off):
            draft.leave(zone, "conceal", "A slight flush that reads as colour: it may stand.")
        elif "shade" in sculpted or ("light" in sculpted and lab_of(before)[0] >= reading.complexion[0] - 1.0):
            draft.leave(zone, "conceal", "Sculpted here, as meant: concealer would cover it again.")
        else:
            needs[zone] = (before, off)
    _lay_concealer(draft, "conceal", needs, [], coming)


def _may_stand(draft: Draft, zone: Zone, off: float) -> bool:
    """Whether a slight redness on the cheeks is left, since it reads as colour."""
    here = draft.reading.zones[zone]
    flush = zone in both("cheek_apple") and here.severity(*here.discolorations) == here.severity("redness") == 1
    return flush and draft.options.evenness == "let_stand" and off <= 2 * draft.house.close_enough_de


def spot_conceal_at(draft: Draft, moment: SpotWay, share: Share) -> None:
    """Marks and spots that still show, if this is their moment: concealer on the mark alone, pressed and feathered."""
    if draft.options.spot != moment:
        return
    coming = Coming(draft, share if moment == "before_foundation" else None)
    house, reading = draft.house, draft.reading
    stands = house.close_enough_de * (1.0 if draft.options.evenness == "let_stand" else 0.5)
    needs: dict[Zone, tuple[Floats, float]] = {}
    for zone in reading.workable(z for z in reading.where(*MARKS) if z not in NOT_CONCEALED):
        before = shown_on(draft, zone, reading.zones[zone].mark_lab)
        off = float(off_complexion(draft, coming.over(zone, before)))
        if off <= stands:
            draft.leave(zone, "spot_conceal", f"The marks are within ΔE00 {off:.1f} of the complexion: they may stand.")
        else:
            needs[zone] = (before, off)
    why = ["Matched to the foundation, never lighter: a pale spot advertises the mark."]
    if moment == "before_foundation":
        why.append("Before the foundation, for an even canvas that lets it be thin everywhere.")
    _lay_concealer(draft, "spot_conceal", needs, why, coming)


def _lay_concealer(
    draft: Draft, kind: StepKind, needs: dict[Zone, tuple[Floats, float]], more: list[str], coming: Coming
) -> None:
    house, reading = draft.house, draft.reading
    candidates = [i for i in draft.shelf.of("concealer") if i.tinted and not i.dry]
    found: dict[tuple[str, float], list[tuple[Zone, float, float]]] = {}
    for zone, (before, off) in sorted(needs.items(), key=lambda row: -row[1][1]):
        room = draft.room(zone) - house.reserve_um - coming.film_um(zone)

        def off_after(shown: Floats, zone: Zone = zone) -> Floats:
            return off_complexion(draft, coming.over(zone, shown))

        answer = _least_concealer(draft, before, list(draft.sitting(candidates, [zone])), room, off_after)
        if answer is None or answer[2] > off - 0.4:
            draft.leave(zone, kind, "It carries no more film, or no concealer of the kit brings it nearer.")
            continue
        product, film, after = _with_one_in_use(draft, before, candidates, found, answer, off_after)
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
                f"{lead(marks)}as planned, still ΔE00 {worst:.1f} from the complexion; {film:g} µm of concealer "
                f"brings it to {max(row[2] for row in rows):.1f}.",
                *more,
            ],
            product=products[product_id],
            film_um=film,
            hand=_concealing_hand(draft, zones),
            wait_s=house.cream_wait_s,
            wait_at_most_s=house.under_eye_window_s if any(_creases(draft, z) for z in zones) else None,
            rules=["gentle-on-fragile"],
            check="Gone at arm's length; its edge cannot be found.",
        )


def _concealing_hand(draft: Draft, zones: tuple[Zone, ...]) -> Hand:
    """Fingers on lined skin; at the eyes a brush of its own, which touched no blemish."""
    if any(draft.reading.zones[z].lined >= 2 for z in zones):
        return ("fingers", "press")
    eyes = set(both("under_eye", "inner_corner"))
    return ("dense_small_brush", "press") if set(zones) <= eyes else ("detail_brush", "press")


def _creases(draft: Draft, zone: Zone) -> bool:
    """Whether a lined under-eye will be powdered, and so should not wait for it long."""
    lined = zone in both("under_eye") and draft.reading.zones[zone].lined > 0
    return lined and draft.case.intent.setting != "none"


def _least_concealer(
    draft: Draft, before: Floats, candidates: list[Product], room: float, off_after: OffAfter
) -> tuple[Product, float, float] | None:
    """The concealer and film that come near enough with the least film, else as near as may be: (item, µm, ΔE00)."""
    films = CONCEALER_UM[room >= CONCEALER_UM]
    if not len(films) or not candidates:
        return None
    ratio, s = bank(candidates, draft.house)
    off = off_after(over(before, ratio[:, None, :], s[:, None, :] * films[:, None]))
    cost = np.where(off <= draft.house.close_enough_de, films + 0.1 * off, 100.0 + off * 10)
    item, film = np.unravel_index(int(np.argmin(cost)), cost.shape)
    return candidates[item], float(films[film]), float(off[item, film])


def _with_one_in_use(
    draft: Draft,
    before: Floats,
    candidates: list[Product],
    found: Mapping[tuple[str, float], object],
    answer: tuple[Product, float, float],
    off_after: OffAfter,
) -> tuple[Product, float, float]:
    """Rather a concealer and film already on the hand, where it does about as well for at most 1 µm more."""
    product, film, after = answer
    if not found:
        return answer
    limit = max(after + 0.3, draft.house.close_enough_de)
    by_id = {item.id: item for item in candidates}
    ratio, s = bank([by_id[product_id] for product_id, _ in found], draft.house)
    used_um = np.array([used for _, used in found])
    off = off_after(over(before, ratio, s * used_um[:, None]))
    for (product_id, used), left in zip(found, off, strict=True):
        if left <= limit and used <= film + 1.0:
            return by_id[product_id], used, float(left)
    return product, film, after
