"""House rules in the store: what was decided otherwise, read as one house."""

from __future__ import annotations

from collections.abc import Collection, Iterable
from functools import lru_cache

from sqlalchemy import delete, select
from sqlalchemy.orm import Session

from nabrel.core.errors import Refused
from nabrel.core.house import House
from nabrel.core.house.factors import Factor, factor_named
from nabrel.formats.checks import house_of
from nabrel.formats.files import DecidedParameter, DecidedRule, HouseFile, TakenOver
from nabrel.formats.values import text_of, value_from_text
from nabrel.store.sound import sound
from nabrel.store.tables import DecisionRow, SitterRow, TakenOverRow
from nabrel.store.versions import Missing, first_version, lock_for_update, now

Decided = tuple[str, str, str]
"""A decision as it is kept: what it is about, its name, its document."""


TAKEN_OVER = "taken_over"
"""What a factor from wear records is about, among the decisions as they are kept; its name is its id."""


def _model_of(rows: tuple[Decided, ...]) -> HouseFile:
    found = HouseFile(nabrel="house", version=1)
    for name, value in sound(rows, lambda row: (row[1], decided(row[0], row[2]))):
        if isinstance(value, DecidedRule):
            found.rules[name] = value
        elif isinstance(value, TakenOver):
            found.decisions.append(value)
        else:
            found.parameters[name] = value
    return found


def decided(about: str, document: str) -> DecidedRule | DecidedParameter | TakenOver:
    """What was decided about a rule or a parameter, or taken over, from its document."""
    if about == "rule":
        return value_from_text(DecidedRule, document)
    if about == TAKEN_OVER:
        return TakenOver.model_validate_json(document)
    return value_from_text(DecidedParameter, document)


@lru_cache(maxsize=8)
def _house_of(rows: tuple[Decided, ...]) -> House:
    """The house of these decisions. Every request asks, and they seldom change."""
    return house_of(_model_of(rows))


def sitter_in(what: str) -> str | None:
    """The nickname in the name of a factor; None where it is not about a sitter."""
    factor = factor_named(what, 1.0)
    return factor.id if factor.of == "sitter" else None


class HouseRules:
    """Decisions by rule and by parameter, and factors taken over. Each change is held to the book before it is kept."""

    def __init__(self, session: Session) -> None:
        self._session = session

    def model(self) -> HouseFile:
        """All decisions as a house file."""
        return _model_of(self._rows())

    def house(self) -> House:
        """The house that plans and checks go by."""
        return _house_of(self._rows())

    def _rows(self) -> tuple[Decided, ...]:
        stored = select(DecisionRow.about, DecisionRow.name, DecisionRow.document)
        rows = self._session.execute(stored.order_by(DecisionRow.about, DecisionRow.name))
        taken = ((TAKEN_OVER, str(key), document) for key, document in self._taken_rows())
        return (*((about, name, document) for about, name, document in rows), *taken)

    def _taken_rows(self) -> list[tuple[int, str]]:
        rows = self._session.execute(select(TakenOverRow.id, TakenOverRow.document).order_by(TakenOverRow.id))
        return [(key, document) for key, document in rows]

    def taken_over(self) -> list[tuple[int, TakenOver]]:
        """Every factor that was ever taken over, with the number under which it can be undone, oldest first."""
        return sound(self._taken_rows(), lambda row: (row[0], TakenOver.model_validate_json(row[1])))

    def take_over(self, decision: TakenOver) -> None:
        """Take a factor over. Refuses what is no factor, and a sitter who is not here."""
        factor = self._checked(decision)
        owner = self._sitter_of(factor)
        if factor.of == "sitter" and owner is None:
            raise Refused("what", decision.what, "a factor of a sitter who is here")
        self._save_taken(decision, owner)

    def take_over_of(self, nicknames: Collection[str], decisions: Iterable[TakenOver]) -> None:
        """Those of the factors that are about these sitters, who came from elsewhere."""
        for decision in decisions:
            if sitter_in(decision.what) in nicknames:
                self.take_over(decision)

    def undo(self, key: int, when: str) -> None:
        """Undo a factor that was taken over: what stood before it counts again. Refuses an unknown one; twice is once."""
        row = self._session.get(TakenOverRow, key)
        if row is None:
            raise Missing("decision", key, "the number of a decision that is kept")
        decision = TakenOver.model_validate_json(row.document)
        if decision.undone is None:
            row.document = decision.model_copy(update={"undone": when}).model_dump_json(exclude_none=True)
            self._session.flush()

    def _checked(self, decision: TakenOver) -> Factor:
        return factor_named(decision.what, decision.to, decision.evidence.looks, "what")

    def _sitter_of(self, factor: Factor) -> str | None:
        if factor.of != "sitter":
            return None
        wanted = select(SitterRow.id).where(SitterRow.nickname == factor.id).order_by(SitterRow.position)
        return self._session.scalars(wanted).first()

    def _save_taken(self, decision: TakenOver, owner: str | None) -> None:
        self._session.add(TakenOverRow(sitter_id=owner, document=decision.model_dump_json(exclude_none=True)))
        self._session.flush()

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
        row = lock_for_update(self._session, DecisionRow, (about, name), version)
        if row is not None:
            self._session.delete(row)
            self._session.flush()

    def _decide(self, about: str, name: str, document: str, version: int | None) -> None:
        row = lock_for_update(self._session, DecisionRow, (about, name), version)
        if row is None:
            self._save(about, name, document)
        else:
            row.document, row.changed_at = document, now()
            self._session.flush()

    def reset_all(self, when: str) -> None:
        """Back to the book. Factors that were taken over are undone, and stay listed with what they rested on."""
        self._session.execute(delete(DecisionRow))
        for key, _ in self._taken_rows():
            self.undo(key, when)

    def replace(self, model: HouseFile) -> None:
        """All decisions at once, in place of those that stand. Refuses the whole file where any of it is wrong.

        Factors of sitters who are not here are left aside: they would say nothing, and could not be erased with them.
        """
        house_of(model)
        self._session.execute(delete(DecisionRow))
        self._session.execute(delete(TakenOverRow))
        for decision in model.decisions:
            factor = self._checked(decision)
            owner = self._sitter_of(factor)
            if factor.of != "sitter" or owner is not None:
                self._save_taken(decision, owner)
        for rule_id, rule in model.rules.items():
            self._save("rule", rule_id, text_of(rule))
        for name, parameter in model.parameters.items():
            self._save("parameter", name, text_of(parameter))

    def _save(self, about: str, name: str, document: str) -> None:
        row = DecisionRow(about=about, name=name, document=document, changed_at=now(), version=first_version())
        self._session.add(row)
        self._session.flush()
