"""Whose face each student works on, and by which plan: the one that is taught, planned anew for that face."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace

from nabrel.core.ask.adapt import Adaptation, Adapted, adapt
from nabrel.core.case.case import Case
from nabrel.core.face.reading import Reading
from nabrel.core.house import House
from nabrel.core.judge.evaluate import Evaluation
from nabrel.core.lesson.room import Room, Student
from nabrel.core.pace.tasks import UNSPLIT
from nabrel.core.plan.sequence import Sequence
from nabrel.core.terms.places import places
from nabrel.core.terms.steps import STEP_INFO
from nabrel.core.terms.words import join_words
from nabrel.core.terms.zones import ZONE_INFO, in_order

Adapting = Callable[[Evaluation, Case, House], Adapted]
"""How a plan is taken to another face; a server remembers what it worked out."""


@dataclass(frozen=True)
class Face:
    """The face that one student works on.

    ``of`` is whose it is, None where the student observes; ``plan`` is what is worked there, ``adapted`` the same with what differs
    from the demonstrated one, None where the face is not known. ``stop`` says why a face is not worked, ``observes`` whom the
    student watches then, and ``offers`` what could be done about it.
    """

    student: str
    of: str | None
    plan: Sequence
    adapted: Adapted | None = None
    stop: str = ""
    observes: str = ""
    offers: tuple[str, ...] = ()

    @property
    def changes(self) -> tuple[Adaptation, ...]:
        """What differs from the demonstrated plan; nothing where the face is not known."""
        return self.adapted.changes if self.adapted is not None else ()


def faces_of(room: Room, model: Evaluation, house: House, adapting: Adapting = adapt) -> Mapping[str, Face]:
    """The face of every student, by nickname. ``model`` is the plan that is taught, evaluated."""
    partner = {one: other for pair in room.pairs for one, other in (pair, pair[::-1])}
    known = {student.name: student for student in room.students}
    stops: dict[str, str] = {}
    own: dict[str, Adapted] = {}
    for student in room.students:
        if student.case is not None:
            own[student.name] = adapting(model, _case(student, student, room), house)
            stops[student.name] = _stop(own[student.name])
    found = {}
    for student in room.students:
        name = student.name
        wanted = partner.get(name, name)
        stop = stops.get(wanted, "")
        # Where the partner's face must not be worked, one's own can be.
        of = name if stop and wanted != name and not stops.get(name) else wanted if not stop else None
        if of is None:
            found[name] = _observing(room, name, wanted, stop, stops)
            continue
        adapted = own.get(of)
        if of != name and adapted is not None and student.case is not None and student.case.kit:
            adapted = adapting(model, _case(known[of], student, room), house)
        plan = adapted.sequence if adapted is not None else model.sequence
        offers = (f"{name} practises on their own face.",) if stop else ()
        found[name] = Face(name, of, half_of(plan) if room.half == "one_half" else plan, adapted, stop, "", offers)
    return found


def half_of(plan: Sequence) -> Sequence:
    """A plan on one half of the face: the right side with the middle. Care, mists, looks and features are whole."""
    steps = []
    for step in plan.steps:
        if STEP_INFO[step.kind].nature in UNSPLIT or not step.zones:
            steps.append(step)
            continue
        own = tuple(zone for zone in step.zones if ZONE_INFO[zone].side != "l")
        if own:
            halved = step.with_zones(own)
            share = len(own) / len(step.zones)
            portions = tuple(replace(each, active_s=round(each.active_s * share, 1)) for each in halved.portions)
            steps.append(replace(halved, portions=portions))
    return replace(plan, steps=tuple(steps))


def _case(face: Student, worker: Student, room: Room) -> Case:
    """The face of one student worked with the kit of another: their own, else what the class works from."""
    assert face.case is not None
    brought = worker.case.kit if worker.case is not None else ()
    return Case(face.case.sitter, face.case.intent, brought or room.sequence.case.kit)


def _stop(adapted: Adapted) -> str:
    """Why nobody may work on a face, or nothing: skin that is broken, an eye that looks inflamed, or a plan that must stop."""
    reading: Reading = adapted.evaluation.reading
    alone = in_order(zone for zone, here in reading.zones.items() if here.left_alone)
    if alone:
        broken = [zone for zone in alone if reading.zones[zone].broken]
        what = "the skin is broken" if broken else "an eye looks inflamed"
        return f"Nobody works on this face today: {what} {places(broken or alone)}. A pharmacist or clinician should see it first."
    stopping = [each.says for each in adapted.evaluation.findings if each.severity == "stop"]
    return f"Nobody works on this face by this plan: {stopping[0]}" if stopping else ""


def _observing(room: Room, name: str, whose: str, stop: str, stops: Mapping[str, str]) -> Face:
    """A student without a face to work on: whom they watch, and what else could be done."""
    others = [each.name for each in room.students if each.name not in (name, whose) and not stops.get(each.name)]
    place = [each.name for each in room.students].index(name)
    watched = others[place % len(others)] if others else ""
    offers = []
    if watched:
        offers.append(f"{name} observes {watched}, and says what comes next.")
        paired = {each for pair in room.pairs for each in pair}
        free = [each for each in others if each not in paired]
        if free:
            offers.append(f"{name} practises on {join_words(free[:3], 'or')}: pair them in the room.")
    else:
        offers.append(f"{name} observes the demonstration.")
    return Face(name, None, replace(room.sequence, steps=()), None, stop, watched, tuple(offers))
