"""The tools of a kit: whether each is clean, and whether a sponge is past its time."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date
from typing import Annotated

from annotated_types import MaxLen

from nabrel.core.case.tool import OwnedTool
from nabrel.core.house import House
from nabrel.core.shelf.age import months_open
from nabrel.core.terms.hands import TOOL_INFO
from nabrel.core.terms.ids import Tool
from nabrel.core.terms.limits import MOST_ITEMS, Ident, Text

SPONGES: frozenset[Tool] = frozenset({"damp_sponge", "dry_sponge"})
SINGLE_USE: frozenset[Tool] = frozenset({"disposable_wand"})
HANDS: frozenset[Tool] = frozenset({"fingers"})


@dataclass(frozen=True, slots=True)
class NamedKit:
    """A named part of the shelf: a student's kit, a travelling case; its items by id."""

    id: Ident
    name: Text
    items: Annotated[tuple[Ident, ...], MaxLen(MOST_ITEMS)] = ()


@dataclass(frozen=True, slots=True)
class ToolStanding:
    """Whether a tool may touch the next sitter, and why not."""

    ready: bool
    says: str


def tool_standing(tool: OwnedTool, day: date, house: House) -> ToolStanding:
    """Clean and within its time, or what is to be done first."""
    said: list[str] = []
    if tool.kind in SINGLE_USE and tool.state != "clean":
        said.append("Single use: throw it away.")
    elif tool.state == "used":
        said.append("Used: wash it before the next sitter.")
    elif tool.state == "washing":
        said.append("Washed, not dry yet: best left for hours.")
    if tool.kind in SPONGES and tool.since is not None:
        months = months_open(tool.since, day)
        if months >= house.sponge_keeps_months:
            said.append(f"In use for {months} months: replace it.")
    return ToolStanding(not said, " ".join(said) or "Clean.")


def none_ready(
    kinds: Iterable[Tool], owned: Iterable[OwnedTool], day: date, house: House
) -> dict[Tool, tuple[str, bool]]:
    """Of these kinds those of which something is owned and nothing is ready: what is to be done first, and whether it is the only one."""
    found: dict[Tool, tuple[str, bool]] = {}
    for kind in dict.fromkeys(kinds):
        own = [tool_standing(tool, day, house) for tool in owned if tool.kind == kind]
        if own and kind not in HANDS and not any(each.ready for each in own):
            found[kind] = own[0].says, len(own) == 1
    return found


def tool_words(tool: OwnedTool) -> str:
    """What it is called, or its kind."""
    return tool.name or TOOL_INFO[tool.kind].words


def spare_of(owned: Iterable[OwnedTool], day: date, house: House) -> tuple[Tool, ...]:
    """The kinds of which the shelf holds more than one that is ready, each named once for every one more; fingers never."""
    ready = Counter(tool.kind for tool in owned if tool_standing(tool, day, house).ready)
    return tuple(kind for kind, count in ready.items() if kind not in HANDS for _ in range(count - 1))


def lacking(kinds: Iterable[Tool], owned: Iterable[OwnedTool]) -> tuple[Tool, ...]:
    """The kinds of which the shelf holds none; nothing of a shelf whose tools nobody listed."""
    held = {tool.kind for tool in owned}
    return tuple(kind for kind in dict.fromkeys(kinds) if held and kind not in held | HANDS)
