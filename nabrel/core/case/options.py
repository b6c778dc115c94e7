"""Ways of working that practitioners dispute: each side with its words and the reason somebody works so.

A way of working is declared once, as a field of :class:`nabrel.core.case.intent.Options` or of the intent itself.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, fields
from typing import Any

SIDES = "sides"


@dataclass(frozen=True, slots=True)
class OptionSide:
    """One side of an option: its value (``true`` and ``false`` for a yes or no), what the screens call it, and why."""

    value: str
    words: str
    why: str


@dataclass(frozen=True, slots=True)
class OptionInfo:
    """One disputed way of working with its sides; the first is the usual one."""

    name: str
    words: str
    ways: tuple[OptionSide, ...]


def option(words: str, sides: Mapping[Any, tuple[str, str]]) -> Any:
    """A field for a disputed way of working: its words, and the words and reason of each side, the usual one first."""
    listed = tuple(
        OptionSide(str(value).lower() if isinstance(value, bool) else value, says, why)
        for value, (says, why) in sides.items()
    )
    return field(default=next(iter(sides)), metadata={SIDES: (words, listed)})


def options_of(holder: type) -> tuple[OptionInfo, ...]:
    """The ways of working that a class of values declares, in its order."""
    return tuple(OptionInfo(each.name, *each.metadata[SIDES]) for each in fields(holder) if SIDES in each.metadata)
