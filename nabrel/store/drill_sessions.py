"""Drill sessions as they go on, kept so that a restart ends none; and the one time that a set counts for a student."""

from __future__ import annotations

import secrets
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Annotated

from pydantic import Field
from sqlalchemy import delete, select, update
from sqlalchemy.orm import Session

from nabrel.core.drill.exercise import Level
from nabrel.core.drill.practice import Answered
from nabrel.core.drill.spacing import Known
from nabrel.core.terms.ids import DrillKind
from nabrel.formats.drills import ExerciseFile, MarkFile
from nabrel.formats.files import Document
from nabrel.formats.practice import DrillSetFile
from nabrel.formats.values import value_from_text
from nabrel.store.sound import readable
from nabrel.store.tables import AnswerRow, DrillAskedRow, DrillSessionRow, DrillTakeRow
from nabrel.store.versions import Missing, now

MOST_SEED, MOST_ASKED = 2**31, 500
MOST_OPEN, MOST_UNSIGNED = 20, 300
"""Sessions that one account may have open, and all together where nobody signs in: the one used longest ago goes for a new one."""
LONGEST_UNUSED = timedelta(days=2)


class StoredAsked(Document):
    """One exercise of a session, and how it was answered."""

    exercise: ExerciseFile
    since: datetime
    place: int | None = None
    answer: dict[str, object] | None = None
    mark: MarkFile | None = None
    seconds: float = 0.0


class StoredSession(Document):
    """A session without what was asked in it. ``known`` and ``answers`` are what a guest did."""

    begun: datetime
    ends: datetime | None = None
    kinds: tuple[DrillKind, ...] = ()
    level: Level | None = None
    seed: Annotated[int, Field(ge=0, le=MOST_SEED)]
    place: int = 0
    ended: bool = False
    known: tuple[Known, ...] = ()
    answers: tuple[Answered, ...] = ()


@dataclass(frozen=True, slots=True)
class Owned:
    """Whose a session is, and of which set."""

    student: str | None
    set: str | None
    account: str | None


class DrillSessions:
    """The sessions that go on."""

    def __init__(self, session: Session) -> None:
        self._session = session

    def add(self, key: str, owned: Owned, stored: StoredSession) -> None:
        """A new session. Those of the account that were not used for long go, and the oldest where there are too many."""
        self._session.execute(delete(DrillSessionRow).where(DrillSessionRow.used_at < now() - LONGEST_UNUSED))
        most = MOST_UNSIGNED if owned.account is None else MOST_OPEN
        own = DrillSessionRow.account.is_(None) if owned.account is None else DrillSessionRow.account == owned.account
        open_ones = self._session.scalars(
            select(DrillSessionRow.id).where(own).order_by(DrillSessionRow.used_at.desc(), DrillSessionRow.id)
        ).all()
        if len(open_ones) >= most:
            self._session.execute(delete(DrillSessionRow).where(DrillSessionRow.id.in_(open_ones[most - 1 :])))
        self._session.add(
            DrillSessionRow(
                id=key,
                student_key=owned.student,
                set_key=owned.set,
                account=owned.account,
                used_at=now(),
                document=stored.model_dump_json(exclude_none=True),
            )
        )
        self._session.flush()

    def get(self, key: str) -> tuple[Owned, StoredSession, list[tuple[int, str, StoredAsked]]]:
        """A session with what was asked in it, in order. Refuses an unknown one."""
        row = self._session.get(DrillSessionRow, key)
        if row is None:
            raise Missing("session", key, "a session of yours that goes on: begin another")
        rows = self._session.scalars(
            select(DrillAskedRow).where(DrillAskedRow.session_id == key).order_by(DrillAskedRow.number)
        ).all()
        return readable(
            "session",
            lambda: (
                Owned(row.student_key, row.set_key, row.account),
                StoredSession.model_validate_json(row.document),
                [(each.number, each.key, StoredAsked.model_validate_json(each.document)) for each in rows],
            ),
        )

    def save(self, key: str, stored: StoredSession, *asked: tuple[int, str, StoredAsked]) -> None:
        """Keep a session as it is by now, with exercises of it that are new or answered, by their number and key."""
        wanted = update(DrillSessionRow).where(DrillSessionRow.id == key)
        self._session.execute(wanted.values(document=stored.model_dump_json(exclude_none=True), used_at=now()))
        oldest = max((number for number, _, _ in asked), default=0) - MOST_ASKED
        self._session.execute(
            delete(DrillAskedRow).where(DrillAskedRow.session_id == key, DrillAskedRow.number <= oldest)
        )
        for number, asked_key, each in asked:
            document = each.model_dump_json(exclude_none=True)
            self._session.merge(DrillAskedRow(key=asked_key, session_id=key, number=number, document=document))
        self._session.flush()


@dataclass(frozen=True, slots=True)
class SetTake:
    """The one time that a set counts for a student: from which seed, since when, and whether it has ended."""

    seed: int
    begun: datetime
    ended: bool


class Takes:
    """Which student is at which set, or has done it."""

    def __init__(self, session: Session) -> None:
        self._session = session

    def begin(self, file: DrillSetFile, student: str, moment: datetime) -> SetTake:
        """The take of a student, begun now where it never was. A test is of the set's own seed the first time; all else is drawn here."""
        row = self._row(file.id, student)
        if row is None:
            seed = file.seed if file.same_for_all else secrets.randbelow(MOST_SEED)
            row = DrillTakeRow(set_key=file.id, student_key=student, seed=seed, ended=False)
            self._session.add(row)
        if row.begun_at is None:
            # A set that was begun before there were takes says so by its first answer.
            first = self._session.scalars(
                select(AnswerRow.document)
                .where(AnswerRow.student_key == student, AnswerRow.set_key == file.id)
                .order_by(AnswerRow.id)
                .limit(1)
            ).first()
            row.begun_at = _utc(moment) if first is None else min(_utc(moment), _begun_by(first))
        self._session.flush()
        return SetTake(row.seed, row.begun_at.replace(tzinfo=UTC), row.ended)

    def end(self, set_key: str, student: str) -> None:
        """It has ended for this student, and stays ended."""
        row = self._row(set_key, student)
        if row is not None:
            row.ended = True
            self._session.flush()

    def ended(self, set_key: str, student: str) -> bool:
        """Whether it has ended for this student."""
        row = self._row(set_key, student)
        return row is not None and row.ended

    def allow_another(self, set_key: str, student: str) -> None:
        """Another try, with other exercises; what was answered before stays with the student, and counts to the set no more."""
        for answer in self._session.scalars(
            select(AnswerRow).where(AnswerRow.student_key == student, AnswerRow.set_key == set_key)
        ):
            answer.set_key = answer.place = None
        self._session.merge(
            DrillTakeRow(
                set_key=set_key, student_key=student, seed=secrets.randbelow(MOST_SEED), begun_at=None, ended=False
            )
        )
        self._session.execute(
            delete(DrillSessionRow).where(DrillSessionRow.set_key == set_key, DrillSessionRow.student_key == student)
        )
        self._session.flush()

    def _row(self, set_key: str, student: str) -> DrillTakeRow | None:
        return self._session.get(DrillTakeRow, (set_key, student), populate_existing=True)


def _utc(moment: datetime) -> datetime:
    return moment.astimezone(UTC).replace(tzinfo=None)


def _begun_by(document: str) -> datetime:
    answer = value_from_text(Answered, document)
    return _utc(datetime.fromisoformat(answer.at) - timedelta(seconds=answer.seconds))
