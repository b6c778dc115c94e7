"""Documents that cannot be read any more: one of them is named as damaged, and nothing beside it suffers."""

from __future__ import annotations

import zlib
from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from threading import Event
from typing import TypeVar

from nabrel.core.errors import Told

Row = TypeVar("Row")
Read = TypeVar("Read")
UNREADABLE = (ValueError, KeyError, TypeError, AttributeError, zlib.error)
"""What reading a document raises that is not what Nabrel wrote. A refusal and a failed validation are values that are wrong."""


met = Event()
"""Set once something damaged was met, of whatever kind: from then on all that is kept is looked through where damage is listed."""
_left_out: ContextVar[list[object] | None] = ContextVar("left_out", default=None)


@contextmanager
def noting_left_out() -> Iterator[list[object]]:
    """Collects what :func:`sound` leaves out within, for who must know that all was read."""
    rows: list[object] = []
    token = _left_out.set(rows)
    try:
        yield rows
    finally:
        _left_out.reset(token)


class Damaged(Told):
    """What is kept of something cannot be read."""

    def __init__(self, kind: str) -> None:
        super().__init__(
            kind, f"What is kept of this {kind} is damaged.", "Sitters lists it: export it as it is, or erase it."
        )


def readable(kind: str, read: Callable[[], Read]) -> Read:
    """What is read. Refuses what cannot be, as damaged."""
    try:
        return read()
    except Damaged:
        raise
    except UNREADABLE:
        met.set()
        raise Damaged(kind) from None


def sound(rows: Iterable[Row], read: Callable[[Row], Read]) -> list[Read]:
    """Those of the rows that can be read, in their order; what is damaged is told elsewhere (:mod:`nabrel.store.damaged`)."""
    found: list[Read] = []
    for row in rows:
        try:
            found.append(read(row))
        except UNREADABLE:
            met.set()
            noted = _left_out.get()
            if noted is not None:
                noted.append(row)
    return found
