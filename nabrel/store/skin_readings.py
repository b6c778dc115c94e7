"""Dated skin readings in the store. The newest of each place counts: it becomes the sitter's colour there."""

from __future__ import annotations

from collections.abc import Iterable

from sqlalchemy import select
from sqlalchemy.orm import Session

from nabrel.core.errors import Refused
from nabrel.core.face.measuring import SkinReading, newest, read_into
from nabrel.core.house import House
from nabrel.core.terms.limits import MOST_READINGS
from nabrel.formats.values import text_of, value_from_text
from nabrel.store.repositories import Sitters
from nabrel.store.sound import sound
from nabrel.store.tables import ReadingRow
from nabrel.store.versions import Missing


class SkinReadings:
    """The readings of sitters."""

    def __init__(self, session: Session) -> None:
        self._session = session

    def of(self, sitter_id: str) -> tuple[tuple[int, SkinReading], ...]:
        """All readings of a sitter with their ids, oldest first. Refuses an unknown sitter."""
        Sitters(self._session).get(sitter_id)
        rows = self._session.scalars(
            select(ReadingRow).where(ReadingRow.sitter_id == sitter_id).order_by(ReadingRow.day, ReadingRow.id)
        )
        return tuple(sound(rows, lambda row: (row.id, value_from_text(SkinReading, row.document))))

    def add(self, sitter_id: str, readings: Iterable[SkinReading]) -> int:
        """Keep readings that are not kept yet; how many were added."""
        known = {reading for _, reading in self.of(sitter_id)}
        added = 0
        for reading in readings:
            if reading in known:
                continue
            if len(known) >= MOST_READINGS:
                raise Refused("readings", len(known) + 1, f"at most {MOST_READINGS} of one sitter")
            known.add(reading)
            added += 1
            self._session.add(
                ReadingRow(
                    sitter_id=sitter_id,
                    day=reading.day,
                    place=reading.place,
                    what=reading.what,
                    document=text_of(reading),
                )
            )
        self._session.flush()
        return added

    def remove(self, sitter_id: str, reading_id: int) -> None:
        """Take a reading out. Refuses one that is not this sitter's."""
        row = self._session.get(ReadingRow, reading_id)
        if row is None or row.sitter_id != sitter_id:
            raise Missing("reading", reading_id, "the id of a reading of this sitter")
        self._session.delete(row)
        self._session.flush()

    def let_newest_count(self, sitter_id: str, house: House) -> None:
        """Bring the newest reading of each place into the sitter's record."""
        stored = Sitters(self._session).get(sitter_id)
        sitter = stored.sitter
        for reading in newest(each for _, each in self.of(sitter_id)).values():
            sitter = read_into(sitter, reading, house)
        if sitter != stored.sitter:
            Sitters(self._session).change(sitter_id, stored.version, sitter, stored.intent)
