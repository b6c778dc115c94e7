"""The corrector question for one zone of a case, under the foundation that its plan would give it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from nabrel.core.case.case import Case
from nabrel.core.case.product import Product
from nabrel.core.errors import Impossible
from nabrel.core.face.reading import read
from nabrel.core.film.direction import direction
from nabrel.core.film.films import over
from nabrel.core.film.spectra import Floats, lab_of, surface
from nabrel.core.house import House
from nabrel.core.house.tables import WORTH_A_WORD
from nabrel.core.house.viewing import house_for
from nabrel.core.plan.edits import Add, Edit, Remove, SetZones
from nabrel.core.plan.sequence import Sequence
from nabrel.core.planner.draft import Draft, fragile
from nabrel.core.planner.foundation_stages import choose_foundation
from nabrel.core.planner.skin_stages import nearest
from nabrel.core.shelf.optics import film_for
from nabrel.core.shelf.shelf import shelf_for
from nabrel.core.solve.corrector import CorrectorAnswer, Covering, solve_corrector
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.ids import StepKind, Zone
from nabrel.core.terms.places import places
from nabrel.core.terms.zones import EDGE_ZONES, NOT_BASE

SHOWING_UM: Floats = np.arange(0.5, 12.01, 0.25)
"""Films tried for the one at which a corrector starts to show."""


@dataclass(frozen=True, slots=True)
class ZoneCorrection:
    """The answer for one zone with all that it depends on: its skin, the target, the foundation over it, the room."""

    zone: Zone
    skin: Lab
    target: Lab
    foundation: Product | None
    foundation_um: float
    room_um: float
    answer: CorrectorAnswer
    worth_it: bool
    says: str
    products: tuple[Product, ...]

    def misses(self, covering: Covering) -> str:
        """What is still off once covered, in words."""
        return direction(covering.lab, self.target)


def correct_zone(case: Case, zone: Zone, house: House) -> ZoneCorrection:
    """Answer for one zone of a case. Refuses a zone of broken skin, which is left alone."""
    house = house_for(case.intent.viewing, house)
    reading = read(case, house)
    here = reading.zones[zone]
    if here.left_alone:
        raise Impossible("zone", zone, "a zone whose skin is not broken: nothing is laid there")
    draft = Draft(case=case, reading=reading, shelf=shelf_for(case, reading), house=house)
    choose_foundation(draft, beneath=case.intent.school != "overpainted")
    share = 0.0 if zone in NOT_BASE else house.edge_share if zone in EDGE_ZONES else 1.0
    if fragile(draft, zone):
        share = min(share, house.fragile_share)
    film_um = draft.foundation_um * share
    room = max(1.0, here.film_limit_um - film_um - house.primer_film_um)
    usable = draft.of_role_now([i for i in draft.shelf.of("corrector") if i.tinted and not i.dry], [zone])
    concealers = nearest([i for i in draft.shelf.of("concealer") if not i.dry], draft, 3)
    answer = solve_corrector(
        here.lab, reading.complexion, usable, concealers, draft.foundation, film_um, house, most_um=room
    )
    return ZoneCorrection(
        zone=zone,
        skin=here.lab,
        target=reading.complexion,
        foundation=draft.foundation,
        foundation_um=film_um,
        room_um=room,
        answer=answer,
        worth_it=answer.best.corrector is not None and answer.worth_it(house),
        says=_says(zone, answer, house),
        products=draft.shelf.items,
    )


def shows_from(correction: ZoneCorrection, corrector: Product, house: House) -> float | None:
    """The corrector's film in µm from which its own hue tints the zone under the foundation; None where it never does."""
    film = film_for(corrector, house)
    shown = over(surface(correction.skin), film.ratio, film.s * np.concatenate([[0.0], SHOWING_UM])[:, None])
    if correction.foundation is not None:
        base = film_for(correction.foundation, house)
        shown = over(shown, base.ratio, base.s * correction.foundation_um)
    own = np.array((corrector.lab or correction.target)[1:]) - np.array(correction.target[1:])
    towards = own / max(float(np.hypot(*own)), 1e-9)
    cast = (lab_of(shown)[:, 1:] - np.array(correction.target[1:])) @ towards
    # Skin that leans this way by itself is not the corrector's doing.
    tinted = np.flatnonzero((cast[1:] > house.corrector_cast) & (cast[1:] > cast[0] + WORTH_A_WORD))
    return float(SHOWING_UM[tinted[0]]) if len(tinted) else None


def _says(zone: Zone, answer: CorrectorAnswer, house: House) -> str:
    best, bare = answer.best, answer.without_corrector
    where = places([zone])
    if best.total_um == 0:
        return f"The foundation alone is enough {where}: ΔE00 {best.de:.1f} from the complexion."
    if not best.near_enough:
        return (
            f"Nothing in the kit evens out what is {where} within what the zone carries: the nearest stays "
            f"ΔE00 {best.de:.1f} off. More cover over it, or a corrector of more cover, could."
        )
    if best.corrector is None or not answer.worth_it(house):
        return f"No corrector is worth its step {where}: {bare.concealer_um:g} µm of concealer alone does it."
    with_it = f"{best.corrector_um:g} µm of {best.corrector.name}"
    if best.concealer is not None:
        with_it += f" and {best.concealer_um:g} µm of {best.concealer.name}"
    if not bare.near_enough:
        return f"{with_it} {where}; without a corrector nothing comes near enough."
    return f"{with_it} {where} saves {100 * answer.saving:.0f} % of the film that concealer alone would need."


def edits_for(sequence: Sequence, zone: Zone, covering: Covering) -> tuple[Edit, ...]:
    """The edits that bring a covering into a sequence: the zone leaves the steps that even it out now and gets its own.

    Corrector and concealer go where they were solved for: before the first layer of light, shade or foundation.
    """
    edits: list[Edit] = []
    for step in sequence.steps:
        if step.kind in ("correct", "conceal") and zone in step.zones:
            rest = tuple(each for each in step.zones if each != zone)
            edits.append(SetZones(step.id, rest) if rest else Remove(step.id))
    before = next((step.id for step in sequence.steps if step.kind in ("light", "shade", "glow", "foundation")), None)
    parts: tuple[tuple[StepKind, Product | None, float], ...] = (
        ("correct", covering.corrector, covering.corrector_um),
        ("conceal", covering.concealer, covering.concealer_um),
    )
    for kind, product, film_um in parts:
        if product is not None and film_um > 0:
            edits.append(Add(kind, (zone,), before, product.id, film_um, tool="fingers", motion="press", wait_s=20.0))
    return tuple(edits)
