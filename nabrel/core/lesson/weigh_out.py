"""What a class takes: product for the room with its spare, tools by kind, and what there is to do before and after."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from nabrel.core.base.spending import taken
from nabrel.core.case.product import Product
from nabrel.core.house import House
from nabrel.core.judge.evaluate import course_of
from nabrel.core.lesson.room import Room
from nabrel.core.plan.sequence import Sequence
from nabrel.core.shelf.allergens import avoided
from nabrel.core.shelf.doses import take, take_words
from nabrel.core.terms.hands import TOOL_INFO
from nabrel.core.terms.ids import Tool
from nabrel.core.terms.words import counted, join_words


@dataclass(frozen=True, slots=True)
class Weighed:
    """One item for the room: how much in all, in words for each student and in all, and what that costs."""

    item: str
    name: str
    amount: float
    unit: Literal["ml", "g"]
    words: str
    cost: float | None


@dataclass(frozen=True, slots=True)
class ToolsNeeded:
    """One kind of tool: how many are used at once, and how many of them are cleaned for the next student."""

    tool: Tool
    count: int
    cleaned: int


def weigh_out(room: Room, house: House) -> tuple[Weighed, ...]:
    """Product for everybody and the class's spare, item by item as it is first used, by the plan that is taught."""
    sequence = room.sequence
    products = {item.id: item for item in sequence.case.kit}
    students = len(room.students)
    found = []
    for item, (amount, unit) in taken(course_of(sequence, house)).items():
        product = products.get(item)
        whole = amount * students * (1.0 + room.spare)
        measured: Literal["ml", "g"] = "ml" if unit == "ml" else "g"
        found.append(
            Weighed(
                item, product.name if product else item, whole, measured,
                _words(amount, whole, measured, students, product, house), _cost(whole, measured, product),
            )
        )  # fmt: skip
    return tuple(found)


def _words(
    each: float, whole: float, unit: Literal["ml", "g"], students: int, product: Product | None, house: House
) -> str:
    """ "a pump each, for 9 students 2.3 ml"."""
    own = take_words(take(each, unit, product.dose_ml if product else None), house)
    return f"{own} each, for {counted(students, 'student')} {whole:.2g} {unit}"


def _cost(amount: float, unit: str, product: Product | None) -> float | None:
    if product is None or not product.price:
        return None
    content = product.ml if unit == "ml" else product.g
    return product.price * amount / content if content else None


def tools_needed(sequence: Sequence, students: int, at_once: int) -> tuple[ToolsNeeded, ...]:
    """Tools by kind: one for everybody who works at once; the rest of the students get one that was cleaned."""
    kinds = dict.fromkeys(tool for step in sequence.steps for tool in step.tools if tool != "fingers")
    return tuple(ToolsNeeded(tool, min(students, at_once), max(0, students - at_once)) for tool in kinds)


def before_class(room: Room, weighed: tuple[Weighed, ...], tools: tuple[ToolsNeeded, ...]) -> Iterator[str]:
    """What is done before the class, in its order."""
    yield "A day or two before: ask everybody for allergies and sore skin, and have new products tested on the inner arm for 24 to 48 h."
    used = {part.item for step in room.sequence.steps for part in step.mix}
    items = [item for item in room.sequence.case.kit if item.id in used]
    for student in room.students:
        avoid = student.case.sitter.avoid if student.case else ()
        told = [f"{item.name} ({join_words(found)})" for item in items if (found := avoided(item, avoid))]
        if told:
            yield f"{student.name} must not have {join_words(told)}: have something else ready."
    yield f"Clean {counted(room.stations, 'station')}, and lay out mirror, light, tissues and a palette at each."
    for each in weighed:
        yield f"Weigh out {each.name}: {each.words}."
    if tools:
        yield "Lay out tools: " + join_words(f"{each.count} × {TOOL_INFO[each.tool].words}" for each in tools) + "."
    for thing in room.shared:
        yield f"Set up {thing.count} × {_shared_words(room, thing.item)}, with who comes when beside it."


def after_class(room: Room, tools: tuple[ToolsNeeded, ...]) -> Iterator[str]:
    """What is done after the class."""
    yield "Throw away single-use things, and what is left on palettes: nothing goes back into a pack."
    washed = [each for each in tools if TOOL_INFO[each.tool].words]
    if washed:
        yield (
            "Wash "
            + join_words(f"{each.count} × {TOOL_INFO[each.tool].words}" for each in washed)
            + ", and dry them lying flat."
        )
    yield f"Wipe {counted(room.stations, 'station')} with what the local hygiene code asks for."
    yield "Remind everybody of the second look after 20 to 30 minutes, and of whom to ask if skin stings or swells."


def _shared_words(room: Room, item: str) -> str:
    return next((each.name for each in room.sequence.case.kit if each.id == item), item)
