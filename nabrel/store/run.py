"""The times that plans were done: recorded at once, or worked to the clock and kept while they go on."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import replace
from datetime import date, datetime
from uuid import uuid4

from sqlalchemy import select
from sqlalchemy.orm import Session

from nabrel.core.base.spending import after_taking, taken
from nabrel.core.case.tool import OwnedTool
from nabrel.core.errors import Impossible
from nabrel.core.house import House
from nabrel.core.judge.evaluate import course_of
from nabrel.core.pace.run import Log, checked_log, tools_used, used
from nabrel.core.shelf.tools import HANDS, SINGLE_USE
from nabrel.core.terms.ids import Tool
from nabrel.formats.workspace import Run, WorkedRun
from nabrel.store.repositories import Kit, Sequences
from nabrel.store.shelf import Tools
from nabrel.store.sound import readable, sound
from nabrel.store.tables import RunRow
from nabrel.store.versions import Missing, lock_row


class Runs:
    """The times that plans were done."""

    def __init__(self, session: Session) -> None:
        self._session = session

    def record(self, sequence_id: str, day: date, house: House, sitters: int = 1) -> Run:
        """Record that the standing plan was done: packs lose what it took, and its tools are used."""
        stored = Sequences(self._session).get(sequence_id)
        amounts = taken(course_of(stored.sequence, house), sitters)
        run = Run(plan=sequence_id, revision=stored.revision, day=day.isoformat(), taken=_amounts(amounts))
        # Written first: from here on nobody else takes from the packs, which are read next.
        self.save(run)
        self._spend(amounts, {tool for step in stored.sequence.steps for tool in step.tools})
        return run

    def begin(self, sequence_id: str, worked: WorkedRun) -> Run:
        """Begin to work the standing plan to the clock."""
        stored = Sequences(self._session).get(sequence_id)
        day = datetime.fromisoformat(worked.started).date().isoformat()
        run = Run(
            plan=sequence_id,
            revision=stored.revision,
            day=day,
            worked=worked,
        )
        self.save(run)
        return run

    def get(self, key: str) -> Run:
        """A run that is or was worked to the clock. Refuses an unknown one."""
        row = self._row(key)
        return readable("run", lambda: Run.model_validate_json(row.document))

    def put(self, key: str, log: Log, house: House, *, finish: bool, revision: int | None = None) -> Run:
        """Keep what was done so far. Sent again it changes nothing more; finishing takes from the packs, once.

        ``revision`` is the plan as it is worked from now on, where it was changed during the run. Refuses a log that cannot be
        of this plan, and a finished run that is changed.
        """
        # Held before it is read: a run that is finished twice at once takes from the packs once.
        lock_row(self._session, RunRow.key, key)
        row = self._row(key)
        run = Run.model_validate_json(row.document)
        assert run.worked is not None
        plan = Sequences(self._session).at(run.plan, revision or run.revision)
        checked_log(plan, log)
        if run.worked.finished:
            if log != run.worked.log:
                raise Impossible("run", key, "a run that goes on: this one is finished")
            return run
        amounts: Mapping[str, tuple[float, str]] = {}
        if finish:
            amounts = used(course_of(plan, house), log)
            self._spend(amounts, tools_used(plan, log))
        run = run.model_copy(
            update={
                "revision": revision or run.revision,
                "taken": _amounts(amounts),
                "worked": run.worked.model_copy(update={"log": log, "finished": finish}),
            }
        )
        row.revision, row.document = run.revision, run.model_dump_json(exclude_none=True)
        self._session.flush()
        return run

    def remove(self, key: str) -> None:
        """Forget a run; what it took stays taken. Refuses an unknown one."""
        self._session.delete(self._row(key))
        self._session.flush()

    def save(self, run: Run) -> None:
        """Keep a run as it is, without taking anything. A key that another run has already is made anew."""
        if run.worked is not None and self._find(run.worked.id) is not None:
            run = run.model_copy(update={"worked": run.worked.model_copy(update={"id": uuid4().hex})})
        self._session.add(
            RunRow(
                sequence_id=run.plan,
                revision=run.revision,
                day=date.fromisoformat(run.day),
                key=run.worked.id if run.worked else None,
                document=run.model_dump_json(exclude_none=True),
            )
        )
        self._session.flush()

    def of(self, sequence_ids: Iterable[str]) -> list[Run]:
        """The runs of some plans, oldest first."""
        rows = self._session.scalars(
            select(RunRow).where(RunRow.sequence_id.in_(list(sequence_ids))).order_by(RunRow.day, RunRow.id)
        )
        return sound(rows, lambda row: Run.model_validate_json(row.document))

    def _find(self, key: str) -> RunRow | None:
        return self._session.scalars(select(RunRow).where(RunRow.key == key)).first()

    def _row(self, key: str) -> RunRow:
        row = self._find(key)
        if row is None:
            raise Missing("run", key, "the id of a run that is kept")
        return row

    def _spend(self, amounts: Mapping[str, tuple[float, str]], used_tools: Iterable[Tool]) -> None:
        """Take amounts from the packs, and count tools as used."""
        kit = Kit(self._session)
        for item in after_taking(kit.all(), amounts):
            kit.put(item)
        kinds = set(used_tools) - HANDS - SINGLE_USE
        tools = Tools(self._session)
        for tool in tools.all():
            if tool.kind in kinds:
                tools.put(_used(tool))


def _amounts(amounts: Mapping[str, tuple[float, str]]) -> dict[str, float]:
    return {item: round(amount, 5) for item, (amount, _) in amounts.items()}


def _used(tool: OwnedTool) -> OwnedTool:
    return replace(tool, state="used")
