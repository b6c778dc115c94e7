"""Looks that come in a table: each row is put to a record that is kept, or to a new one on the sitter's plan."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import datetime

from sqlalchemy.orm import Session

from nabrel.core.errors import Refused
from nabrel.core.house import House
from nabrel.core.learn.record import MOST_LOOKS, Look
from nabrel.core.terms.ids import Zone
from nabrel.core.terms.limits import SENTENCE_MOST
from nabrel.formats.wear_csv import LookRow, ZoneSeen
from nabrel.formats.workspace import StoredWear
from nabrel.store.repositories import Sequences, Sitters, StoredSitter
from nabrel.store.wear import Wears

Base = tuple[str, datetime, str]
"""Which base: whose, put on when, and the record that the table names, since the two halves of a trial are put on together."""


@dataclass(frozen=True, slots=True)
class _Place:
    """Where rows of one base go: a record that is kept, or the plan on which one is begun."""

    plan: str
    stored: StoredWear | None
    zones: frozenset[Zone]


class LooksIn:
    """A table of looks, held against the sitters and records that are here."""

    def __init__(self, session: Session, house: House) -> None:
        self._session, self._house = session, house
        self._wears, self._sequences = Wears(session), Sequences(session)
        self._by_name: dict[str, list[StoredSitter]] = {}
        for sitter in Sitters(session).all():
            self._by_name.setdefault(sitter.sitter.nickname, []).append(sitter)
        self._places: dict[Base, _Place] = {}
        self._by_sitter: dict[str, list[StoredWear]] = {}

    def judged(self, rows: Iterable[LookRow]) -> list[LookRow]:
        """The rows, those refused that say something of nobody here, or of a zone on which the plan does nothing."""
        return [self._judged(row) for row in rows]

    def take(self, rows: Iterable[LookRow]) -> int:
        """Put the good rows to their records, and say to how many. A look at the same minute is replaced."""
        by_base: dict[Base, list[ZoneSeen]] = {}
        for row in rows:
            if row.seen is not None:
                by_base.setdefault(_base(row.seen), []).append(row.seen)
        for base, own in by_base.items():
            self._write(self._place(own[0]), own)
            self._places.pop(base, None)
        return len(by_base)

    def _judged(self, row: LookRow) -> LookRow:
        if row.seen is None:
            return row
        try:
            place = self._place(row.seen)
            if row.seen.zone not in place.zones:
                raise Refused("zone", row.seen.zone, "a zone on which the plan does something")
            for field in ("note", "next_time"):
                if len(getattr(row.seen, field)) > SENTENCE_MOST:
                    raise Refused(field, len(getattr(row.seen, field)), f"at most {SENTENCE_MOST} characters")
        except Refused as refused:
            return replace(row, seen=None, refused=refused)
        return row

    def _place(self, seen: ZoneSeen) -> _Place:
        """Where a row goes. Refuses a sitter who is not here, or has no plan."""
        base = _base(seen)
        if base not in self._places:
            self._places[base] = self._found(seen, base)
        return self._places[base]

    def _found(self, seen: ZoneSeen, base: Base) -> _Place:
        owners = self._by_name.get(seen.sitter, [])
        if not owners:
            raise Refused("sitter", seen.sitter, "the nickname of a sitter who is here")
        for owner in owners:
            stored = self._record_of(owner.id, base)
            if stored is not None:
                sequence = self._sequences.at(stored.plan, stored.revision)
                return _Place(stored.plan, stored, frozenset(zone for step in sequence.steps for zone in step.zones))
        plan = next((each.sequence_ids[0] for each in owners if each.sequence_ids), None)
        if plan is None:
            raise Refused("sitter", seen.sitter, "a sitter with a plan, on which the record can be begun")
        steps = self._sequences.get(plan).sequence.steps
        return _Place(plan, None, frozenset(zone for step in steps for zone in step.zones))

    def _record_of(self, sitter_id: str, base: Base) -> StoredWear | None:
        """The record that the table names, else the one that begins at this moment."""
        if sitter_id not in self._by_sitter:
            self._by_sitter[sitter_id] = self._wears.all(sitter_id)
        own = [each for each in self._by_sitter[sitter_id] if _moment(each.worn.from_) == base[1]]
        return next((each for each in own if each.id == base[2]), next(iter(own), None))

    def _write(self, place: _Place, own: list[ZoneSeen]) -> None:
        stored = place.stored or self._wears.begin(place.plan, own[0].worn, self._house)
        looks = {look.after_min: look for look in stored.looks}
        by_minute: dict[float, list[ZoneSeen]] = {}
        for each in own:
            by_minute.setdefault(each.after_min, []).append(each)
        for minute, seen in by_minute.items():
            before = looks.get(minute, Look(minute))
            looks[minute] = replace(
                before,
                light=seen[0].light,
                seen=tuple(dict.fromkeys(each.zone for each in seen)),
                zones={each.zone: each.signs for each in seen if each.signs},
                note=next((each.note for each in seen if each.note), ""),
                next_time=next((each.next_time for each in seen if each.next_time), ""),
            )
        if len(looks) > MOST_LOOKS:
            raise Refused("after_min", len(looks), f"at most {MOST_LOOKS} looks at one base")
        self._wears.look_again(stored.id, tuple(looks.values()))


def _base(seen: ZoneSeen) -> Base:
    return seen.sitter, _moment(seen.worn.from_), seen.record


def _moment(text: str) -> datetime:
    return datetime.fromisoformat(text)
