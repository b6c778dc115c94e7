"""The corrector question for one zone of a case, under the foundation that its plan would give it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from nabrel.core.base.state import follow
from nabrel.core.case.case import Case
from nabrel.core.case.product import Product
from nabrel.core.errors import Impossible
from nabrel.core.face.reading import Reading, read
from nabrel.core.film.direction import direction
from nabrel.core.film.films import over
from nabrel.core.film.spectra import Floats, as_lab, lab_of, surface
from nabrel.core.house import House
from nabrel.core.house.tables import WORTH_A_WORD
from nabrel.core.house.viewing import seen
from nabrel.core.judge.evaluate import Evaluation
from nabrel.core.plan.edits import Add, Edit, Remove, SetZones
from nabrel.core.plan.sequence import Sequence
from nabrel.core.plan.step import Step
from nabrel.core.planner.draft import Draft, fragile
from nabrel.core.planner.foundation_stages import choose_foundation
from nabrel.core.planner.hues import correctors, stand_ins
from nabrel.core.planner.skin_stages import nearest
from nabrel.core.shelf.ladder import nearest_rung
from nabrel.core.shelf.optics import film_for
from nabrel.core.shelf.shelf import shelf_for
from nabrel.core.solve.corrector import (
    Above,
    CorrectorAnswer,
    Covering,
    as_laid,
    beneath_all,
    solve_corrector,
    unsuited,
)
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.ids import StepKind, Zone
from nabrel.core.terms.places import places
from nabrel.core.terms.schools import SCHOOL_INFO
from nabrel.core.terms.steps import LAYER_KINDS
from nabrel.core.terms.zones import EDGE_ZONES, NOT_BASE, ZONE_INDEX

PRESSED_WAIT_S = 20.0
"""A film pressed on with fingers is left alone for so long."""

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
    above: Above
    room_um: float
    answer: CorrectorAnswer
    worth_it: bool
    says: str
    products: tuple[Product, ...]
    offered: tuple[Product, ...]

    def misses(self, covering: Covering) -> str:
        """What is still off once covered, in words."""
        return direction(covering.lab, self.target)

    def alone(self, house: House) -> tuple[tuple[Product, Covering, str | None], ...]:
        """What each hue leaves by itself at its best, with no concealer, under all that lies above; the nearest first.

        Each with why the planner passes it over; None where it suits.
        """
        laid = as_laid(self.skin, self.target, self.offered, (), self.above, house, self.room_um)
        found = [(each.corrector, each) for each in laid if each.corrector is not None]
        found.sort(key=lambda row: (row[1].de, row[0].id))
        return tuple((item, each, unsuited(item, self.skin, self.target, house)) for item, each in found)


def correct_zone(case: Case, zone: Zone, house: House) -> ZoneCorrection:
    """Answer for one zone of a case, under the foundation that its plan would give it. Refuses skin that is left alone."""
    here = seen(case.intent.viewing, house)
    reading = read(case, here)
    _refuse_left_alone(reading, zone)
    draft = Draft(case=case, reading=reading, shelf=shelf_for(case, reading), house=here)
    choose_foundation(draft, beneath=case.intent.school is None or not SCHOOL_INFO[case.intent.school].sculpts_on_top)
    share = 0.0 if zone in NOT_BASE else here.edge_share if zone in EDGE_ZONES else 1.0
    if fragile(draft, zone):
        share = min(share, here.fragile_share)
    above: Above = ()
    if draft.foundation is not None and share > 0:
        above = ((draft.foundation, nearest_rung(draft.foundation_um * share, "um", here).amount),)
    return _answered(draft, zone, reading.zones[zone].lab, above)


def correct_in_plan(evaluation: Evaluation, zone: Zone) -> ZoneCorrection:
    """Answer for one zone where its corrector really lies in this plan: under all that the plan lays over it.

    What the plan does to even out the zone now (its own corrector and concealer) is what is asked about, and left out.
    """
    reading, case = evaluation.reading, evaluation.sequence.case
    _refuse_left_alone(reading, zone)
    draft = Draft(case=case, reading=reading, shelf=shelf_for(case, reading), house=evaluation.house)
    steps = evaluation.sequence.steps
    own = [step.id for step in steps if step.kind in EVENING and zone in step.zones]
    base = evaluation.course.after
    at = ZONE_INDEX[zone]
    place = _place_for(steps, zone)
    above: list[tuple[Product, float]] = []
    for index, done in enumerate(base.done):
        if index < place or done.mixed is None or done.mixed.film is None or done.step.id in own:
            continue
        amount = float(base.powder[index, at] if done.step.unit == "mg_cm2" else base.film[index, at])
        if amount > 0:
            above.append((done.mixed.product, amount))
    earlier = [step for step in steps[:place] if step.id not in own]
    beneath = follow(base.emptied(), earlier).after
    skin = as_lab(lab_of(beneath.shown[at]))
    foundation = next((product for product, _ in above if product.role == "foundation"), None)
    draft.foundation = foundation
    return _answered(draft, zone, skin, tuple(above))


EVENING: tuple[StepKind, ...] = ("correct", "conceal")


def _refuse_left_alone(reading: Reading, zone: Zone) -> None:
    if reading.zones[zone].left_alone:
        raise Impossible("zone", zone, "a zone whose skin is not broken: nothing is laid there")


def _place_for(steps: tuple[Step, ...], zone: Zone) -> int:
    """Where a corrector of the zone lies in the order: where the plan has it, else before the first layer of colour."""
    return next(
        (n for n, s in enumerate(steps) if s.kind == "correct" and zone in s.zones),
        next((n for n, s in enumerate(steps) if s.kind in LAYER_KINDS and s.kind not in EVENING), len(steps)),
    )


def _answered(draft: Draft, zone: Zone, skin: Lab, above: Above) -> ZoneCorrection:
    reading, house = draft.reading, draft.house
    laid = sum(amount for product, amount in above if not product.dry)
    room = max(house.rung_whisper_um, reading.zones[zone].film_limit_um - laid - house.primer_film_um)
    usable = draft.of_role_now(correctors(draft) or stand_ins(draft), [zone])
    concealers = nearest([i for i in draft.shelf.of("concealer") if not i.dry], draft, 3)
    answer = solve_corrector(skin, reading.complexion, usable, concealers, above, house, most_um=room)
    return ZoneCorrection(
        zone=zone,
        skin=skin,
        target=reading.complexion,
        foundation=draft.foundation,
        foundation_um=sum(amount for product, amount in above if product == draft.foundation),
        above=above,
        room_um=room,
        answer=answer,
        worth_it=answer.best.corrector is not None and answer.worth_it(house),
        says=_says(zone, answer, house),
        products=draft.shelf.items,
        offered=tuple(item for item in usable if item.lab is not None),
    )


def shows_from(correction: ZoneCorrection, corrector: Product, house: House) -> float | None:
    """The corrector's film in µm from which its own hue tints the zone under all that lies above; None where it never does."""
    film = film_for(corrector, house)
    shown = over(surface(correction.skin), film.ratio, film.s * np.concatenate([[0.0], SHOWING_UM])[:, None])
    shown = beneath_all(shown, correction.above, house)
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
    if answer.saving < house.corrector_worth:
        return f"{with_it} {where} comes to ΔE00 {best.de:.1f} off; concealer alone stays at {bare.de:.1f} with no less film."
    return f"{with_it} {where} saves {100 * answer.saving:.0f} % of the film that concealer alone would need."


def edits_for(sequence: Sequence, zone: Zone, covering: Covering) -> tuple[Edit, ...]:
    """The edits that bring a covering into a sequence: the zone leaves the steps that even it out now and gets its own.

    Corrector and concealer go where they were solved for.
    """
    edits: list[Edit] = []
    for step in sequence.steps:
        if step.kind in EVENING and zone in step.zones:
            rest = tuple(each for each in step.zones if each != zone)
            edits.append(SetZones(step.id, rest) if rest else Remove(step.id))
    place = _place_for(sequence.steps, zone)
    gone = {edit.step for edit in edits if isinstance(edit, Remove)}
    before = next((step.id for step in sequence.steps[place:] if step.id not in gone), None)
    parts: tuple[tuple[StepKind, Product | None, float], ...] = (
        ("correct", covering.corrector, covering.corrector_um),
        ("conceal", covering.concealer, covering.concealer_um),
    )
    for kind, product, film_um in parts:
        if product is not None and film_um > 0:
            edits.append(
                Add(kind, (zone,), before, product.id, film_um, tool="fingers", motion="press", wait_s=PRESSED_WAIT_S)
            )
    return tuple(edits)
