"""Tools for a class: how many of each kind at once, which are cleaned in between, and what the shelf lacks."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import date

from nabrel.core.case.tool import OwnedTool
from nabrel.core.house import House
from nabrel.core.lesson.blocks import parts_like
from nabrel.core.lesson.faces import Face
from nabrel.core.lesson.room import Room, Student
from nabrel.core.lesson.timing import Timed
from nabrel.core.plan.sequence import Sequence
from nabrel.core.shelf.doses import passed_on
from nabrel.core.shelf.tools import HANDS, SINGLE_USE, SPONGES, tool_standing
from nabrel.core.terms.hands import STAND_INS, TOOL_INFO
from nabrel.core.terms.ids import Tool
from nabrel.core.terms.steps import STEP_INFO
from nabrel.core.terms.words import counted, join_words, sentence

WORTH_TELLING = 0.1
"""A tool that passes on a share this much more or less asks for another take."""


@dataclass(frozen=True, slots=True)
class ToolsNeeded:
    """One kind of tool: how many are used at once, and how many of them are cleaned for the next student."""

    tool: Tool
    count: int
    cleaned: int


@dataclass(frozen=True, slots=True)
class ToolStock:
    """One kind of tool against the shelf: wanted at once, ready there, used or drying, too old, and to buy."""

    tool: Tool
    wanted: int
    ready: int
    to_wash: int
    old: int
    buy: int


@dataclass(frozen=True, slots=True)
class StandIn:
    """A tool that a student does not have, what they use for it, and what to mind then."""

    tool: Tool
    by: Tool
    says: str


def tools_needed(room: Room, faces: Mapping[str, Face], found: Timed) -> tuple[ToolsNeeded, ...]:
    """Tools by kind: one for everybody who works with it at once; who comes after them gets one that was cleaned.

    Single-use tools are never cleaned. Tools that a student has brought are theirs.
    """
    blocks = tuple(part.block for part in found.parts)
    users: dict[Tool, set[str]] = {}
    at_once: dict[Tool, int] = {}
    for name, face in faces.items():
        if name not in room.log.absent:
            for tool in _tools(room.student(name), face.plan):
                users.setdefault(tool, set()).add(name)
    for tool, names in users.items():
        for number in range(len(blocks)):
            with_it = {
                name
                for name in names
                if any(tool in step.tools for step in parts_like(faces[name].plan, room.sequence, blocks)[number].steps)
            }
            spans = [
                (placed.start_s, placed.end_s) for placed in found.parts[number].solved.placed if placed.name in with_it
            ]
            at_once[tool] = max(at_once.get(tool, 0), most_at_once(spans))
    kinds = dict.fromkeys(tool for step in room.sequence.steps for tool in step.tools)
    kinds.update(dict.fromkeys(users))
    return tuple(
        ToolsNeeded(tool, len(users[tool]), 0)
        if tool in SINGLE_USE
        else ToolsNeeded(tool, max(at_once[tool], 1), len(users[tool]) - max(at_once[tool], 1))
        for tool in kinds
        if tool in users and tool not in HANDS
    )


def tool_stock(
    needed: Iterable[ToolsNeeded], owned: Iterable[OwnedTool], day: date, house: House
) -> tuple[ToolStock, ...]:
    """The tools against those of the shelf; nothing to buy is said of a shelf whose tools nobody listed."""
    listed = list(owned)
    found = []
    for each in needed:
        own = [tool for tool in listed if tool.kind == each.tool]
        standing = [(tool, tool_standing(tool, day, house)) for tool in own]
        ready = sum(now.ready for _, now in standing)
        old = sum(tool.state == "clean" and not now.ready for tool, now in standing)
        to_wash = len(own) - ready - old
        buy = max(0, each.count - ready - to_wash) if listed else 0
        found.append(ToolStock(each.tool, each.count, ready, to_wash, old, buy))
    return tuple(found)


def old_sponges(stock: Iterable[ToolStock]) -> str:
    """Sponges in use for too long, or nothing."""
    old = {each.tool: each.old for each in stock if each.tool in SPONGES and each.old}
    if not old:
        return ""
    return (
        sentence(join_words(counted(count, TOOL_INFO[tool].words) for tool, count in old.items()))
        + " in use for too long: replace."
    )


def stand_ins(student: Student, plan: Sequence, house: House) -> tuple[StandIn, ...]:
    """What a student uses for the tools they do not have: the nearest that they do, fingers at last, and what to mind."""
    if student.tools is None:
        return ()
    own = {*student.tools, *HANDS}
    found = []
    for tool in dict.fromkeys(tool for step in plan.steps for tool in step.tools):
        if tool in own:
            continue
        by: Tool = next((each for each in STAND_INS[tool] if each in own), "fingers")
        kinds = dict.fromkeys(STEP_INFO[step.kind].laid for step in plan.steps if tool in step.tools)
        found.append(StandIn(tool, by, _minding(tool, by, list(kinds), house)))
    return tuple(found)


def _minding(tool: Tool, by: Tool, kinds: list[str], house: House) -> str:
    """What the other tool asks for: it passes on more or less of what it takes up."""
    said = f"{sentence(TOOL_INFO[by].words)} for the {TOOL_INFO[tool].words}: {join_words(kinds)}"
    ratio = passed_on(tool, house) / passed_on(by, house)
    if ratio < 1 - WORTH_TELLING:
        return f"{said}. It passes on more: take about {round(100 * (1 - ratio))} % less."
    if ratio > 1 + WORTH_TELLING:
        return f"{said}. It keeps more: take about {round(100 * (ratio - 1))} % more."
    return f"{said}. Take the same."


def most_at_once(spans: Iterable[tuple[int, int]]) -> int:
    """The most spans that hold one moment; one that ends as another begins does not meet it."""
    edges = sorted(edge for start, end in spans if end > start for edge in ((start, 1), (end, -1)))
    now = most = 0
    for _, by in edges:
        now += by
        most = max(most, now)
    return most


def _tools(student: Student | None, plan: Sequence) -> tuple[Tool, ...]:
    kinds = dict.fromkeys(tool for step in plan.steps for tool in step.tools)
    brings = set(student.tools or ()) if student is not None else set()
    return tuple(tool for tool in kinds if tool not in brings)
