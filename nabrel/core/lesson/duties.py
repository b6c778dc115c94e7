"""What is done before, during and after a class, by the clock: laying out, cleaning between students, and putting away."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from nabrel.core.lesson.clock import moment_at
from nabrel.core.lesson.faces import Face
from nabrel.core.lesson.room import Room
from nabrel.core.lesson.timing import Timed
from nabrel.core.lesson.tools import ToolsNeeded
from nabrel.core.lesson.weigh_out import Allergy, Weighed
from nabrel.core.shelf.tools import SINGLE_USE, SPONGES
from nabrel.core.terms.hands import TOOL_INFO
from nabrel.core.terms.words import counted, join_words

SETTING_UP = 1800
"""Seconds before the start at which stations are set up."""


@dataclass(frozen=True, slots=True)
class Duty:
    """One thing to do: when, in words and in seconds from the start (None: a day or more before), and what."""

    at_s: int | None
    when: str
    says: str


def before_class(
    room: Room,
    faces: Mapping[str, Face],
    weighed: Sequence[Weighed],
    tools: Sequence[ToolsNeeded],
    barred: Sequence[Allergy],
) -> Iterator[Duty]:
    """What is done before the class, in its order."""
    early, evening = "Two days before", "The evening before"
    yield Duty(
        None, early,
        "Ask everybody for allergies and sore skin, and have new products tested on the inner elbow or behind the ear for 24 to 48 h.",
    )  # fmt: skip
    for each in barred:
        yield Duty(None, early, f"{each.says}: {each.uses}.")
    for face in faces.values():
        if face.stop:
            yield Duty(None, early, " ".join((f"{face.student}: {face.stop}", *face.offers[:1])))
    washed = [each for each in tools if each.tool not in SINGLE_USE]
    if washed:
        yield Duty(None, evening, f"See that all tools are clean and dry: {_tools(washed)}.")
    at = f"{moment_at(room.date, room.start, room.zone, -SETTING_UP):%H:%M}"
    yield Duty(-SETTING_UP, at, "Wash hands.")
    yield Duty(
        -SETTING_UP,
        at,
        f"Wipe {counted(room.stations, 'station')}, and lay out mirror, light, tissues, spatula and palette at each.",
    )
    if weighed:
        pots = sum(len({part.item for step in face.plan.steps for part in step.mix}) for face in faces.values())
        yield Duty(
            -SETTING_UP,
            at,
            f"Weigh out {counted(len(weighed), 'item')} as listed, with a spatula, never from the pack to a face: {counted(pots, 'sample pot')} if each "
            "student gets their own.",
        )
    if tools:
        yield Duty(-SETTING_UP, at, f"Lay out tools: {_tools(tools)}.")
    single = [each for each in tools if each.tool in SINGLE_USE]
    students = sum(face.of is not None for face in faces.values())
    yield Duty(-SETTING_UP, at, "Single use: " + join_words(
        [*(f"{each.count} × {TOOL_INFO[each.tool].words}" for each in single), f"{students} × headband or clip", "tissues", "cotton pads"]
    ) + ".")  # fmt: skip
    for thing in room.shared:
        yield Duty(
            -SETTING_UP, at, f"Set up {thing.count} × {shared_words(room, thing.item)}, with who comes when beside it."
        )


def during_class(room: Room, found: Timed, tools: Sequence[ToolsNeeded]) -> Iterator[Duty]:
    """What is cleaned while the class runs: stations and tools that pass from one student to the next."""
    for number, part in enumerate(found.parts):
        begin = next(p.start_s for p in found.phases if p.phase == "practise" and p.steps == part.block.steps)
        uses = Counter(placed.station for placed in part.solved.placed)
        again = sorted(station for station, count in uses.items() if count > 1)
        if not again:
            continue
        changes = sum(count - 1 for count in uses.values())
        first = min(placed.end_s for placed in part.solved.placed)
        shared = [each for each in tools if each.cleaned]
        cleaned = f", clean {join_words(TOOL_INFO[each.tool].words for each in shared)}" if shared else ""
        yield Duty(
            begin + first, f"{moment_at(room.date, room.start, room.zone, begin + first):%H:%M}",
            f"Block {number + 1}: {counted(changes, 'change')} at {_stations(again)}. Each time wipe it, fresh palette{cleaned}, wash hands.",
        )  # fmt: skip
    for phase in found.phases:
        if phase.phase == "break":
            yield Duty(phase.start_s, f"{moment_at(room.date, room.start, room.zone, phase.start_s):%H:%M}",
                       "Break: clean tools, wipe stations, air the room of powder.")  # fmt: skip


def after_class(room: Room, tools: Sequence[ToolsNeeded], length_s: int) -> Iterator[Duty]:
    """What is done after the class."""
    at = f"{moment_at(room.date, room.start, room.zone, length_s):%H:%M}"
    yield Duty(
        length_s,
        at,
        "Remind everybody of the second look after 20 to 30 minutes, and of whom to ask if skin stings, swells or a rash comes.",
    )
    yield Duty(
        length_s, at, "Throw away single-use things, and what is left on palettes: nothing goes back into a pack."
    )
    washed = [each for each in tools if each.tool not in SINGLE_USE]
    if washed:
        sponges = any(each.tool in SPONGES for each in washed)
        yield Duty(
            length_s,
            at,
            f"Wash {_tools(washed)}, and dry them lying flat{'; sponges the same evening' if sponges else ''}.",
        )
    yield Duty(
        length_s,
        at,
        f"Wipe {counted(room.stations, 'station')} with what the local hygiene code asks for; wipe pans and close packs.",
    )


def shared_words(room: Room, item: str) -> str:
    """What a shared thing is called."""
    return next((each.name for each in room.sequence.case.kit if each.id == item), item)


def _stations(numbers: Sequence[int]) -> str:
    if len(numbers) == 1:
        return f"station {numbers[0]}"
    in_a_row = len(numbers) > 2 and numbers[-1] - numbers[0] == len(numbers) - 1
    return f"stations {numbers[0]} to {numbers[-1]}" if in_a_row else f"stations {join_words(map(str, numbers))}"


def _tools(tools: Sequence[ToolsNeeded]) -> str:
    return join_words(f"{each.count} × {TOOL_INFO[each.tool].words}" for each in tools)
