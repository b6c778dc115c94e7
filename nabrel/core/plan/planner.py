"""The planner: a case becomes a sequence, in the school asked for or the one that suits this face best."""

from __future__ import annotations

from collections.abc import Mapping

from nabrel.core.case import Case
from nabrel.core.errors import Refused
from nabrel.core.face.reading import Reading, read
from nabrel.core.house import House
from nabrel.core.kit.shelf import shelf_for
from nabrel.core.plan.draft import Draft
from nabrel.core.plan.schools import overpainted, underpainted
from nabrel.core.plan.schools.school import SchoolOfOrder
from nabrel.core.plan.step import Sequence
from nabrel.core.vocabulary import VIEWING_WORDS, School, join_words
from nabrel.core.wear.viewing import SEEN_WHY, house_for

SCHOOLS: Mapping[School, SchoolOfOrder] = {each.id: each for each in (underpainted.SCHOOL, overpainted.SCHOOL)}
"""The schools the planner can draft, by id."""


def plan(case: Case, house: House, reading: Reading | None = None) -> Sequence:
    """Plan a case. The same case and house always give the same sequence.

    Refuses a school that is known but cannot be planned yet, naming those that can.
    """
    house = house_for(case.intent.viewing, house)
    reading = reading or read(case, house)
    notes: list[str] = []
    school_id = case.intent.school
    if school_id is None:
        school_id, reason = suggest_school(case, reading, house)
        notes.append(reason)
    school = SCHOOLS.get(school_id)
    if school is None:
        raise Refused("intent.school", school_id, "a school this version plans: " + join_words(SCHOOLS))
    shelf = shelf_for(case, reading)
    if shelf.generic:
        notes.append(
            "No kit was given, so this is planned with a generic kit whose colours follow from the sitter's own: "
            "read it as properties to look for."
        )
    elif len(shelf.items) < len(case.kit):
        left_out = [item.name for item in case.kit if item not in shelf.items]
        notes.append(f"Left out for what the sitter avoids: {join_words(left_out)}.")
    if case.intent.viewing != "in_person":
        notes.append(
            f"{VIEWING_WORDS[case.intent.viewing]}: {SEEN_WHY[case.intent.viewing]} It will look heavy in person."
        )
    if case.intent.blend == "place_all":
        notes.append(
            "Placing all and then blending was asked for; this version still blends each step before the next. If you "
            "place all first, take slow creams: late blending needs force."
        )
    draft = Draft(case=case, reading=reading, shelf=shelf, house=house)
    school.plan(draft)
    broken = reading.where("broken_skin")
    if broken:
        draft.note("Broken skin was read: those zones are left alone. Refer to a pharmacist or clinician.")
    return Sequence(
        school=school_id,
        case=case,
        steps=tuple(draft.steps),
        left_bare=tuple(draft.left_bare),
        notes=(*notes, *draft.notes),
    )


def suggest_school(case: Case, reading: Reading, house: House) -> tuple[School, str]:
    """The school that suits, with the reason: full cover or long wear on oily skin goes on top, else beneath."""
    if case.intent.cover_ratio > house.underpaint_cover_most:
        return (
            "overpainted",
            f"No school was asked for. {case.intent.cover.capitalize()} cover would hide what is painted beneath "
            "the foundation, so the sculpting goes on top: overpainted.",
        )
    oily = reading.where("oily", least=2)
    if len(oily) >= 10 and case.intent.wear_hours >= 8:
        return (
            "overpainted",
            f"No school was asked for. Oil is clear or strong on {len(oily)} zones and {case.intent.wear_hours:g} "
            "hours are wanted; oil rises through buried layers, so the sculpting goes on top: overpainted.",
        )
    return (
        "underpainted",
        f"No school was asked for. {case.intent.cover.capitalize()} cover lets the sculpting through, and painting "
        "beneath uses the least product: underpainted.",
    )
