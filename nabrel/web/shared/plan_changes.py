"""What colours that were measured anew change in plans that stand, told before anything is saved."""

from __future__ import annotations

from collections.abc import Callable

from nabrel.core.ask.measured import Changed
from nabrel.core.judge.evaluate import Evaluation
from nabrel.core.terms.ids import Severity
from nabrel.formats.values import filled
from nabrel.store.plans import PlanRow, Plans
from nabrel.store.repositories import Sequences, StoredSequence
from nabrel.web.shared.requests import database, evaluated
from nabrel.web.shared.wire import AnswerModel

MOST_LOOKED_AT, MOST_SAID = 80, 24
"""Plans, those changed last first, that are looked at, and of those that are told of."""


class PlanChangeWire(AnswerModel):
    """What measured colours change in one plan: ``what`` are the items or places that it has otherwise."""

    id: str
    revision: int
    nickname: str
    title: str
    school: str
    what: list[str]
    says: list[str]
    look_de: float
    worst: Severity | None


class PlanChangesWire(AnswerModel):
    """What measured colours change in plans that stand: those told of, and how many of the newest plans were looked at."""

    plans: list[PlanChangeWire]
    looked_at: int
    all_plans: int


def plan_changes(sitter: str | None, change: Callable[[Evaluation], Changed | None]) -> PlanChangesWire:
    """What a change does to every plan, or to those of one sitter. Refuses nobody: an unknown sitter has no plans."""
    with database().session() as session:
        rows = sorted(Plans(session).all(sitter), key=lambda row: row.changed, reverse=True)
        saved = [(row, Sequences(session).get(row.id)) for row in rows[:MOST_LOOKED_AT]]
    found: list[PlanChangeWire] = []
    for row, stored in saved:
        changed = change(evaluated(stored)) if len(found) < MOST_SAID else None
        if changed is not None:
            found.append(_told(row, stored, changed))
    return PlanChangesWire(plans=found, looked_at=len(saved), all_plans=len(rows))


def _told(row: PlanRow, stored: StoredSequence, changed: Changed) -> PlanChangeWire:
    return filled(
        PlanChangeWire,
        row,
        revision=stored.revision,
        what=list(changed.what),
        says=list(changed.says),
        look_de=round(changed.trial.look_de, 1),
        worst=changed.trial.worst,
    )
