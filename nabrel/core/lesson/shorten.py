"""A class that is too long: ways to shorten it, each timed anew, with what it costs."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace

from nabrel.core.house import House
from nabrel.core.lesson.blocks import blocks_of
from nabrel.core.lesson.faces import Face, half_of
from nabrel.core.lesson.room import Room
from nabrel.core.lesson.timing import BREAK_S, MINUTE, timed
from nabrel.core.terms.words import counted, spoken

NO_BREAK_MIN = 600.0
"""A break after so many minutes comes in no class."""

MOST_WAYS = 3


@dataclass(frozen=True, slots=True)
class Shorter:
    """One way to shorten a class: what it is, what it costs, and how many seconds it saves.

    ``change`` is what it sets in the room; empty where it changes what is taught.
    """

    says: str
    costs: str
    saves_s: int
    change: Mapping[str, object]


def shorter(room: Room, faces: Mapping[str, Face], house: House) -> tuple[Shorter, ...]:
    """The ways that save most, three at most: each is timed by a good order, as the class itself is for this."""
    length = timed(_free(room), faces, house, search=False).length_s
    found = []
    for says, costs, change, other, others in _ways(_free(room), faces, house):
        saved = length - timed(other, others, house, search=False).length_s
        if saved > 0:
            found.append(Shorter(f"{says}: about {max(1, round(saved / MINUTE))} min less.", costs, saved, change))
    return tuple(sorted(found, key=lambda each: -each.saves_s)[:MOST_WAYS])


def _free(room: Room) -> Room:
    """The class without its fixed moments: they would hide what is saved."""
    return replace(room, pins={})


Way = tuple[str, str, Mapping[str, object], Room, Mapping[str, Face]]


def _ways(room: Room, faces: Mapping[str, Face], house: House) -> Iterator[Way]:
    def changed(says: str, costs: str, **change: object) -> Way:
        return says, costs, change, replace(room, **change), faces  # type: ignore[arg-type]

    students = len(room.students)
    if room.stations < students:
        more = students - room.stations
        yield changed("A station each", f"{counted(more, 'more station')} to set up and to clean.", stations=students)
    yield changed("One more educator", "One more person who checks, and must see it the same way.",
                  educators=room.educators + 1)  # fmt: skip
    if room.check_s >= 2:
        yield changed(f"Checks of {spoken(room.check_s / 2)}", "Less is said to each.", check_s=room.check_s / 2)
    if room.half == "whole":
        halved = {name: replace(face, plan=half_of(face.plan)) for name, face in faces.items()}
        yield (
            "Practise one half of the face",
            "Nobody leaves with a finished face; the bare half shows what the base did.",
            {"half": "one_half"},
            replace(room, half="one_half"),
            halved,
        )
    if any(phase.phase == "break" for phase in timed(room, faces, house, search=False).phases):
        yield changed(
            "No break", f"{spoken(BREAK_S)} without rest, and no time to tidy stations.", break_after_min=NO_BREAK_MIN
        )
    blocks = blocks_of(room.sequence, house, room.cuts)
    if len(blocks) > 1:
        last = blocks[-1]
        rest = tuple(step for step in room.sequence.steps if step.id not in last.steps)
        cuts = None if room.cuts is None else tuple(cut for cut in room.cuts if cut not in last.steps)
        kinds = {step.kind for step in rest}
        less = {
            name: replace(face, plan=replace(face.plan, steps=tuple(s for s in face.plan.steps if s.kind in kinds)))
            for name, face in faces.items()
        }
        yield (
            f"Leave out {last.words}",
            "It is shown another time; nobody sees the base finished.",
            {},
            replace(room, sequence=replace(room.sequence, steps=rest), cuts=cuts),
            less,
        )
