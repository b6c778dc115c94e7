"""The planner: a case becomes a sequence in a school of order. Which school is :mod:`nabrel.core.ask.recommend`'s question."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, replace

from nabrel.core.base.state import Course
from nabrel.core.case.case import Case
from nabrel.core.face.effects import wished
from nabrel.core.face.reading import Reading, read
from nabrel.core.house import House
from nabrel.core.house.viewing import SeenHouse, seen
from nabrel.core.plan.sequence import LeftBare, Sequence
from nabrel.core.plan.step import Step
from nabrel.core.planner.draft import Draft
from nabrel.core.planner.left_unset import not_laid_after_all, say_what_is_left_unset
from nabrel.core.planner.schools import doubled, light_led, overpainted, powder_sculpted, two_tone, underpainted
from nabrel.core.planner.schools.school import SchoolOfOrder
from nabrel.core.planner.spare import spare_correctors
from nabrel.core.shelf.allergens import named
from nabrel.core.shelf.shelf import shelf_for
from nabrel.core.terms.ids import School, StepKind, Zone
from nabrel.core.terms.looks import VIEWING_INFO
from nabrel.core.terms.steps import STEP_INFO
from nabrel.core.terms.wishes import GLOW_POINT_INFO

SCHOOLS: Mapping[School, SchoolOfOrder] = {
    each.id: each
    for each in (
        underpainted.SCHOOL, overpainted.SCHOOL, two_tone.SCHOOL, light_led.SCHOOL, powder_sculpted.SCHOOL,
        doubled.SCHOOL,
    )
}  # fmt: skip
"""The schools the planner drafts, by id."""


@dataclass(frozen=True, slots=True)
class Drafted:
    """A plan with what was worked out on the way: the reading, the house as judged, and the base after every step."""

    sequence: Sequence
    reading: Reading
    course: Course
    house: SeenHouse


def plan_in(school_id: School, case: Case, house: House, reading: Reading | None = None) -> Sequence:
    """Plan a case in a school. The same case and house always give the same sequence."""
    return draft_in(school_id, case, house, reading).sequence


def draft_in(school_id: School, case: Case, house: House, reading: Reading | None = None) -> Drafted:
    """Plan a case in a school, and keep what an evaluation of the plan would work out again."""
    here = seen(case.intent.viewing, house)
    reading = reading or read(case, here)
    notes: list[str] = []
    school = SCHOOLS[school_id]
    shelf = shelf_for(case, reading)
    if shelf.generic:
        notes.append(
            "No kit was given, so this is planned with a generic kit whose colours follow from the sitter's own: "
            "read it as properties to look for."
        )
    notes.extend(f"Left out {why}: {named(items)}." for why, items in shelf.left_out.items())
    if case.intent.viewing != "in_person":
        notes.append(
            f"{VIEWING_INFO[case.intent.viewing].words}: {VIEWING_INFO[case.intent.viewing].why} It will look heavy in person."
        )
    draft = Draft(case=case, reading=reading, shelf=shelf, house=here)
    school.plan(draft)
    spare_correctors(draft)
    _say_what_was_not_done(draft)
    if any(here.left_alone for here in reading.zones.values()):
        draft.note(
            "Broken skin or a sore eye was read: those zones are left alone. Refer to a pharmacist or clinician."
        )
    laid = Sequence(school=school_id, case=case, steps=draft.steps)
    say_what_is_left_unset(draft, laid)
    sequence = replace(
        laid, left_bare=_by_reason(not_laid_after_all(draft.left_bare, laid)), notes=(*notes, *draft.notes)
    )
    return Drafted(sequence, reading, draft.base.course, here)


def painted_beneath(steps: Iterable[Step]) -> bool:
    """Whether shade or light lies beneath the foundation."""
    kinds = [step.kind for step in steps]
    return "foundation" in kinds and bool({"shade", "light"} & set(kinds[: kinds.index("foundation")]))


def _by_reason(left: Iterable[LeftBare]) -> tuple[LeftBare, ...]:
    """Zones left bare with those of one reason together, in the order in which the reasons came."""
    found: dict[tuple[StepKind, str], list[LeftBare]] = {}
    for each in left:
        found.setdefault((each.kind, each.why), []).append(each)
    return tuple(each for group in found.values() for each in group)


def _say_what_was_not_done(draft: Draft) -> None:
    """Ways of working that were asked for and have no place in this order: said, never dropped in silence."""
    options, kinds = draft.options, {step.kind for step in draft.steps}
    products = {item.id: item.role for item in draft.shelf.items}
    shades = "shade" in kinds
    bronzers = any(item.role == "bronzer" for item in draft.shelf.items)
    mists = any(item.role == "melting_mist" for item in draft.shelf.items)
    asked: tuple[tuple[str, str, bool, bool], ...] = (
        (
            "a bronzer",
            "what the kit has serves as the shade or would not glide here" if bronzers else "the kit has none",
            options.bronzer != "none",
            "bronze" in kinds,
        ),
        (
            "a melting mist",
            "no powder lies that it could melt" if mists else "the kit has none",
            options.melting_mist not in ("school", "none"),
            "melting_mist" in kinds,
        ),
        (
            "a crisp edge",
            "nothing can sharpen the lower edge of this shade" if shades else "no shade is laid",
            options.shade_edge == "crisp",
            "clean_edge" in kinds,
        ),
        (
            "a border pass",
            "no shade lies wet that it could blend" if shades else "no shade is laid",
            options.border_pass,
            any(s.kind == "soften_edges" and {"angled_brush", "fingers"} & set(s.tools) for s in draft.steps),
        ),
        (
            "placing all before blending",
            "light and shade are not both laid in cream here",
            draft.case.intent.blend == "place_all",
            any(why.startswith("Everything was placed first") for s in draft.steps for why in s.why),
        ),
        (
            "powder foundation",
            "the kit has none that suits",
            options.powder_foundation != "none",
            any(products.get(s.item or "") == "powder_foundation" for s in draft.steps),
        ),
    )
    if draft.case.intent.foundation_on == "gaps" and not painted_beneath(draft.steps):
        draft.note(
            "Asked for, and left out: foundation mostly in the gaps. Nothing is painted beneath it in this order."
        )
    for name, why, wanted, done in (*asked, *_effects(draft)):
        if wanted and not done:
            draft.note(f"Asked for, and left out: {name}, since {why}.")


def _effects(draft: Draft) -> Iterator[tuple[str, str, bool, bool]]:
    """Every layer that an effect or a place of glow asks for, with why it is not laid where it is not."""
    intent = draft.case.intent
    for (region, effect), change in wished(intent.effects, draft.case.sitter.measures):
        name = f"the {change.layer} of “{region} {effect}”"
        yield name, *_laid_or_why(draft, change.layer, change.zones, wanted=not change.off)
    for point in intent.glow_points:
        info = GLOW_POINT_INFO[point]
        yield f"glow, {info.words.lower()}", *_laid_or_why(draft, "glow", info.zones, wanted=True)


def _laid_or_why(draft: Draft, kind: StepKind, zones: tuple[Zone, ...], *, wanted: bool) -> tuple[str, bool, bool]:
    """Why a layer lies on none of these zones, in the middle of a sentence; whether it is wanted, and whether it lies there."""
    done = any(step.kind == kind and set(step.zones) & set(zones) for step in draft.steps)
    own = (bare.why for bare in draft.left_bare if bare.kind == kind and bare.zone in zones)
    why = next(own, f"no {STEP_INFO[kind].laid} is laid there").rstrip(".")
    return why[:1].lower() + why[1:], wanted, done
