"""Plans as lists and searches show them: never a document is read for it."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Any, Literal

from sqlalchemy import ColumnElement, case, func, select
from sqlalchemy.orm import Session

from nabrel.store.tables import KitItemRow, RevisionRow, SequenceRow, SitterRow
from nabrel.store.versions import Missing


@dataclass(frozen=True, slots=True)
class PlanRow:
    """One plan in a list: whose, in which school, when it was changed, how many versions and how many of them named."""

    id: str
    sitter_id: str
    nickname: str
    title: str
    school: str
    made: datetime
    changed: datetime
    versions: int
    named: int
    favourite: bool


@dataclass(frozen=True, slots=True)
class Hit:
    """Something that a search found: a sitter, a plan or an item, by its id and in words."""

    kind: Literal["sitter", "plan", "item"]
    id: str
    words: str
    about: str


class Plans:
    """Plans in lists."""

    def __init__(self, session: Session) -> None:
        self._session = session

    def all(self, sitter_id: str | None = None) -> tuple[PlanRow, ...]:
        """Every plan, or those of one sitter: favourites first, then the one changed last."""
        counted = (
            select(
                RevisionRow.sequence_id,
                func.count().label("versions"),
                func.sum(case((RevisionRow.name.is_not(None), 1), else_=0)).label("named"),
            )
            .group_by(RevisionRow.sequence_id)
            .subquery()
        )
        wanted = (
            select(SequenceRow, SitterRow.nickname, counted.c.versions, counted.c.named)
            .join(SitterRow, SitterRow.id == SequenceRow.sitter_id)
            .join(counted, counted.c.sequence_id == SequenceRow.id)
            .order_by(SequenceRow.favourite.desc(), SequenceRow.changed_at.desc(), SequenceRow.id)
        )
        if sitter_id is not None:
            wanted = wanted.where(SequenceRow.sitter_id == sitter_id)
        return tuple(
            PlanRow(
                row.id, row.sitter_id, nickname, row.title or nickname, row.school, row.created_at, row.changed_at,
                versions, named or 0, row.favourite,
            )
            for row, nickname, versions, named in self._session.execute(wanted)
        )  # fmt: skip

    def favour(self, sequence_id: str, favourite: bool) -> None:
        """Mark a plan as a favourite, or no more. Refuses an unknown id."""
        row = self._session.get(SequenceRow, sequence_id)
        if row is None:
            raise Missing("sequence", sequence_id, "the id of a stored sequence")
        row.favourite = favourite
        self._session.flush()

    def search(self, text: str, most: int) -> tuple[Hit, ...]:
        """Sitters, plans and items of the shelf whose name holds every word of the text; at most so many of each."""
        words = [f"%{_plain(word)}%" for word in text.split()]
        if not words:
            return ()

        def holding(column: Any) -> list[ColumnElement[bool]]:
            return [column.ilike(word, escape="\\") for word in words]

        sitters = self._session.execute(
            select(SitterRow.id, SitterRow.nickname)
            .where(*holding(SitterRow.nickname))
            .order_by(SitterRow.position)
            .limit(most)
        )
        plans = self._session.execute(
            select(SequenceRow.id, SequenceRow.title, SequenceRow.school, SitterRow.nickname)
            .join(SitterRow, SitterRow.id == SequenceRow.sitter_id)
            .where(
                *holding(
                    SequenceRow.title + " " + SitterRow.nickname + " " + func.replace(SequenceRow.school, "_", " ")
                )
            )
            .order_by(SequenceRow.favourite.desc(), SequenceRow.changed_at.desc())
            .limit(most)
        )
        items = self._session.execute(
            select(KitItemRow.id, KitItemRow.name, KitItemRow.role)
            .where(*holding(KitItemRow.name + " " + func.replace(KitItemRow.role, "_", " ")))
            .order_by(KitItemRow.position)
            .limit(most)
        )
        return (
            *(Hit("sitter", row.id, row.nickname, "") for row in sitters),
            *(
                Hit("plan", row.id, row.title or row.nickname, f"{row.nickname}, {row.school.replace('_', ' ')}")
                for row in plans
            ),
            *(Hit("item", row.id, row.name, row.role.replace("_", " ")) for row in items),
        )


def _plain(word: str) -> str:
    """A word in which nothing stands for other letters."""
    return word.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_")
