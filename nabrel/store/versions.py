"""What stands, and who may change it: rows are held before they are changed, and a change names the version it was made on."""

from __future__ import annotations

import time
from datetime import UTC, datetime
from typing import Any, TypeVar

from sqlalchemy import ColumnElement, CursorResult, ScalarSelect, func, inspect, select, true, update
from sqlalchemy.orm import InstrumentedAttribute, Session

from nabrel.core.errors import Refused
from nabrel.store.tables import Base, DecisionRow, KitItemRow, NamedKitRow, ToolRow

Row = TypeVar("Row", bound=Base)
Versioned = TypeVar("Versioned", KitItemRow, ToolRow, NamedKitRow, DecisionRow)
NOT_THERE = 0
"""The version of what is not kept yet."""


class Missing(Refused):
    """Something asked for by id is not there."""


class Stale(Refused):
    """A change was made on something that no longer stands as it was."""


def now() -> datetime:
    """This moment, UTC, as the tables keep it."""
    return datetime.now(UTC).replace(tzinfo=None)


def moment() -> str:
    """This moment with its offset from UTC, as files write it."""
    return datetime.now(UTC).isoformat(timespec="seconds")


def first_version() -> int:
    """The version of something new: this moment in ms, so that what comes in the place of something removed never has its version."""
    return time.time_ns() // 1_000_000


def next_place(column: InstrumentedAttribute[int]) -> ScalarSelect[int]:
    """The place after the last one, found as the row is written: two written at once never get the same."""
    return select(func.coalesce(func.max(column), 0) + 1).scalar_subquery()


def require_capacity(session: Session, counted: InstrumentedAttribute[Any], most: int, field: str) -> None:
    """Refuse one more than may be kept: what is kept can always be exported, and taken in again."""
    found = session.scalar(select(func.count(counted))) or 0
    if found >= most:
        raise Refused(field, found + 1, f"at most {most}")


def claim(
    session: Session, table: type[Row], key: str | tuple[str, ...], as_expected: ColumnElement[bool]
) -> tuple[Row | None, bool]:
    """A row as it is now (None: there is none), and whether it is as ``as_expected`` says.

    Asked as a write: whether it is or not, nobody else can change it before this session ends.
    """
    columns = inspect(table).primary_key
    keys = (key,) if isinstance(key, str) else key
    taken = session.execute(
        update(table)
        .where(*(column == part for column, part in zip(columns, keys, strict=True)), as_expected)
        .values({columns[0].name: columns[0]})
        .execution_options(synchronize_session=False)
    )
    hit = isinstance(taken, CursorResult) and taken.rowcount > 0
    return session.get(table, key, populate_existing=True), hit


def lock_row(session: Session, column: InstrumentedAttribute[Any], key: str) -> None:
    """Hold the row that a column finds: from here on it is as it is now, and nobody else can change it before this session ends.

    Whoever changes a part of a document holds it before reading: what another wrote meanwhile would be written over.
    """
    table = column.class_
    session.execute(
        update(table).where(column == key).values({column.key: column}).execution_options(synchronize_session=False)
    )
    session.scalars(select(table).where(column == key).execution_options(populate_existing=True)).first()


def lock_for_update(
    session: Session, table: type[Versioned], key: str | tuple[str, ...], version: int | None
) -> Versioned | None:
    """The row that is to be changed or removed, held, with its version raised; None where there is none yet.

    ``version`` is the one the change was made on, 0 where it was not there; None changes whatever stands. Refuses where another
    version stands by now.
    """
    row, hit = claim(session, table, key, true() if version is None else table.version == version)
    if row is None:
        if version not in (None, NOT_THERE):
            raise Stale("version", version, "nothing: somebody else removed it meanwhile")
        return None
    if version is not None and not hit:
        raise Stale("version", version, f"{row.version}, the current one: somebody else changed it meanwhile")
    row.version += 1
    return row


def versions(session: Session, table: type[Versioned]) -> dict[str, int]:
    """The version of every row, by its id."""
    key = inspect(table).primary_key[-1]
    return dict(session.execute(select(key, table.version)).all())
