"""House rules in the store: what was decided otherwise, read as one house."""

from __future__ import annotations

from functools import lru_cache

from sqlalchemy import delete, select
from sqlalchemy.orm import Session

from nabrel.core.house import House
from nabrel.formats.checks import house_of
from nabrel.formats.files import DecidedParameter, DecidedRule, HouseFile
from nabrel.formats.values import text_of, value_from_text
from nabrel.store.standing import first_version, now, to_change
from nabrel.store.tables import DecisionRow

Decided = tuple[str, str, str]
"""A decision as it is kept: what it is about, its name, its document."""


def _model_of(rows: tuple[Decided, ...]) -> HouseFile:
    found = HouseFile(nabrel="house", version=1)
    for about, name, document in rows:
        if about == "rule":
            found.rules[name] = value_from_text(DecidedRule, document)
        else:
            found.parameters[name] = value_from_text(DecidedParameter, document)
    return found


@lru_cache(maxsize=8)
def _house_of(rows: tuple[Decided, ...]) -> House:
    """The house of these decisions. Every request asks, and they seldom change."""
    return house_of(_model_of(rows))


class HouseRules:
    """Decisions by rule and by parameter. Each change is held to the book before it is kept."""

    def __init__(self, session: Session) -> None:
        self._session = session

    def model(self) -> HouseFile:
        """All decisions as a house file."""
        return _model_of(self._rows())

    def house(self) -> House:
        """The house that plans and checks go by."""
        return _house_of(self._rows())

    def _rows(self) -> tuple[Decided, ...]:
        kept = select(DecisionRow.about, DecisionRow.name, DecisionRow.document)
        rows = self._session.execute(kept.order_by(DecisionRow.about, DecisionRow.name))
        return tuple((about, name, document) for about, name, document in rows)

    def versions(self, about: str) -> dict[str, int]:
        """The version of every decision about rules or about parameters, by name; what is not decided has none."""
        rows = self._session.execute(select(DecisionRow.name, DecisionRow.version).where(DecisionRow.about == about))
        return dict(rows.all())

    def decide_rule(self, rule_id: str, decision: DecidedRule, version: int | None = None) -> None:
        """Keep a decision about a rule; one that changes nothing is a reset. Refuses an unknown rule and a stale version."""
        house_of(HouseFile(nabrel="house", version=1, rules={rule_id: decision}))
        if decision.off or decision.severity is not None:
            self._decide("rule", rule_id, text_of(decision), version)
        else:
            self.reset("rule", rule_id, version)

    def decide_parameter(self, name: str, decision: DecidedParameter, version: int | None = None) -> None:
        """Keep a decision about a parameter. Refuses an unknown one, values out of range, and a stale version."""
        house_of(HouseFile(nabrel="house", version=1, parameters={name: decision}))
        self._decide("parameter", name, text_of(decision), version)

    def reset(self, about: str, name: str, version: int | None = None) -> None:
        """Back to the book. Refuses a stale version."""
        row = to_change(self._session, DecisionRow, (about, name), version)
        if row is not None:
            self._session.delete(row)
            self._session.flush()

    def _decide(self, about: str, name: str, document: str, version: int | None) -> None:
        row = to_change(self._session, DecisionRow, (about, name), version)
        if row is None:
            self._keep(about, name, document)
        else:
            row.document, row.changed_at = document, now()
            self._session.flush()

    def replace(self, model: HouseFile) -> None:
        """All decisions at once, in place of those that stand. Refuses the whole file where any of it is wrong."""
        house_of(model)
        self._session.execute(delete(DecisionRow))
        for rule_id, rule in model.rules.items():
            self._keep("rule", rule_id, text_of(rule))
        for name, parameter in model.parameters.items():
            self._keep("parameter", name, text_of(parameter))

    def _keep(self, about: str, name: str, document: str) -> None:
        row = DecisionRow(about=about, name=name, document=document, changed_at=now(), version=first_version())
        self._session.add(row)
        self._session.flush()
