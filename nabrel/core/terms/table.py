"""What a table of terms is: rows by their id, in order."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Any, Protocol, TypeVar

from nabrel.core.errors import Fault


@dataclass(frozen=True, slots=True)
class Term:
    """One term with its words. Where more is told of a kind of term, its row adds it."""

    id: str
    words: str


@dataclass(frozen=True, slots=True)
class Wish(Term):
    """Something that may be wished for, with what is done for it."""

    why: str


class Row(Protocol):
    """A row of a table of terms."""

    @property
    def id(self) -> Any:
        """What files and code call it."""


Key = TypeVar("Key", bound=str)
Kind = TypeVar("Kind", bound=Row)


def table(rows: Iterable[Kind]) -> Mapping[Any, Kind]:
    """The rows by id, in the order given. An id that stands twice is our own mistake."""
    found: dict[Any, Kind] = {}
    for row in rows:
        if row.id in found:
            raise Fault(f"the term {row.id} stands twice in its table")
        found[row.id] = row
    return MappingProxyType(found)
