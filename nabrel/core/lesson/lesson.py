"""The lesson: who does what where and when, what it takes, and what is too long."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from nabrel.core.ask.adapt import adapt
from nabrel.core.house import House
from nabrel.core.judge.evaluate import Evaluation, evaluate
from nabrel.core.lesson.duties import Duty, after_class, before_class, during_class
from nabrel.core.lesson.faces import Adapting, Face, faces_of
from nabrel.core.lesson.room import Room, checked_room
from nabrel.core.lesson.shorten import Shorter, shorter
from nabrel.core.lesson.timing import Doings, Phased, Timed, timed
from nabrel.core.lesson.tools import ToolsNeeded, tools_needed
from nabrel.core.lesson.weigh_out import Allergy, Saving, Weighed, allergies, costs_most, savings, weigh_out


@dataclass(frozen=True, slots=True)
class Round:
    """One thing an educator does: shows a block, checks a student at a station, or has a break."""

    doing: Literal["show", "check", "break"]
    start_s: int
    end_s: int
    block: int | None = None
    student: str = ""
    station: int | None = None


@dataclass(frozen=True)
class Lesson:
    """A class in time, with what it takes. ``too_long_s`` is by how much it goes beyond the room's hours, 0 where it does not."""

    room: Room
    model: Evaluation
    faces: Mapping[str, Face]
    timed: Timed
    weigh_out: tuple[Weighed, ...]
    tools: tuple[ToolsNeeded, ...]
    cost: float | None
    costs_most: str
    savings: tuple[Saving, ...]
    allergies: tuple[Allergy, ...]
    before_class: tuple[Duty, ...]
    during_class: tuple[Duty, ...]
    after_class: tuple[Duty, ...]
    too_long_s: int
    shorter: tuple[Shorter, ...]

    @property
    def blocks(self) -> tuple[Phased, ...]:
        """The parts of the lesson in time."""
        return self.timed.phases

    @property
    def students(self) -> Mapping[str, tuple[Doings, ...]]:
        """What every student does, by nickname."""
        return self.timed.students

    @property
    def proven(self) -> bool:
        """Whether every block is the shortest there is."""
        return self.timed.proven

    @property
    def length_s(self) -> int:
        """Seconds from the start to the end."""
        return self.timed.length_s

    @property
    def working(self) -> int:
        """How many students work on a face."""
        return sum(face.of is not None and face.student not in self.room.log.absent for face in self.faces.values())


def lesson(room: Room, house: House, model: Evaluation | None = None, adapting: Adapting = adapt) -> Lesson:
    """The lesson of a class: each block shown, then practised in the shortest time, everybody checked. Refuses what cannot be.

    ``model`` is the plan that is taught, evaluated, where that is known; ``adapting`` takes it to the students' faces.
    """
    checked_room(room)
    shown = model if model is not None else evaluate(room.sequence, house, try_fixes=False)
    faces = faces_of(room, shown, house, adapting)
    found = timed(room, faces, house)
    weighed = weigh_out(room, faces, house)
    tools = tools_needed(room, faces, found)
    costs = [each.cost for each in weighed if each.cost is not None]
    over = max(0, found.length_s - room.length_s) if room.length_s is not None else 0
    barred = tuple(allergies(room, faces))
    return Lesson(
        room=room,
        model=shown,
        faces=faces,
        timed=found,
        weigh_out=weighed,
        tools=tools,
        cost=sum(costs) if costs else None,
        costs_most=costs_most(weighed, room, house),
        savings=savings(room, faces, weighed, house),
        allergies=barred,
        before_class=tuple(before_class(room, faces, weighed, tools, barred)),
        during_class=tuple(sorted(during_class(room, found, tools), key=lambda each: each.at_s or 0)),
        after_class=tuple(after_class(room, tools, found.length_s)),
        too_long_s=over,
        shorter=shorter(room, faces, house) if over else (),
    )


def rounds(found: Timed, educators: int) -> tuple[tuple[Round, ...], ...]:
    """What every educator does, first to last: demonstrations are the first educator's, checks as the blocks have them."""
    own: list[list[Round]] = [[] for _ in range(educators)]
    number = -1
    for phase in found.phases:
        number += phase.phase == "demonstrate"
        if phase.phase == "demonstrate":
            own[0].append(Round("show", phase.start_s, phase.end_s, number))
        elif phase.phase == "break":
            for each in own:
                each.append(Round("break", phase.start_s, phase.end_s))
    for name, doings in found.students.items():
        for did in doings:
            if did.doing == "check" and did.educator is not None:
                own[did.educator - 1].append(Round("check", did.start_s, did.end_s, did.block, name, did.station))
    return tuple(tuple(sorted(each, key=lambda row: (row.start_s, row.student))) for each in own)
