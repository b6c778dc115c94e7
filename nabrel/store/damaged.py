"""Damaged records: found, exported as they are, and erased. Lists and exports leave them out (:mod:`nabrel.store.sound`)."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field
from typing import Any

from sqlalchemy import inspect, select
from sqlalchemy.orm import Session

from nabrel.core.case.product import Product
from nabrel.core.case.tool import OwnedTool
from nabrel.core.drill.practice import Answered
from nabrel.core.drill.spacing import Known
from nabrel.core.face.measuring import SkinReading
from nabrel.core.shelf.tools import NamedKit
from nabrel.formats.loader import unpacked
from nabrel.formats.practice import DrillSetFile
from nabrel.formats.values import value_from_text
from nabrel.formats.workspace import Run, StoredTrial, StoredWear
from nabrel.store.classes import Classes
from nabrel.store.house_rules import TAKEN_OVER, decided
from nabrel.store.repositories import Sequences, sitter_of_row
from nabrel.store.sound import UNREADABLE, sound
from nabrel.store.tables import (
    AnswerRow,
    Base,
    CardRow,
    ClassRow,
    ClassStudentRow,
    DecisionRow,
    DrillSetRow,
    KitItemRow,
    NamedKitRow,
    ReadingRow,
    RevisionRow,
    RunRow,
    SequenceRow,
    SitterRow,
    StudentRow,
    TakenOverRow,
    ToolRow,
    TrialRow,
    WearRow,
)
from nabrel.store.versions import Missing

Reads = Callable[[Session, Any], object]


@dataclass(frozen=True, slots=True)
class Kind:
    """One kind of record: its table, how a row is read, and what a row is called. ``many``: looked through only when asked for."""

    table: type[Base]
    read: Reads
    name: Callable[[Session, Any], str]
    columns: tuple[str, ...] = ("document",)
    many: bool = False


def _plan_title(session: Session, row: Any) -> str:
    plan = session.get(SequenceRow, row.sequence_id)
    return plan.title if plan is not None else ""


def _student_name(session: Session, row: Any) -> str:
    student = session.get(StudentRow, row.student_key)
    return student.name if student is not None else ""


KINDS: Mapping[str, Kind] = {
    "sitter": Kind(
        SitterRow, lambda _, row: sitter_of_row(row, ()), lambda _, row: row.nickname, columns=("sitter", "intent")
    ),
    "class": Kind(
        ClassRow, lambda session, row: Classes(session).get(row.key), lambda s, row: f"{_plan_title(s, row)}, {row.day}"
    ),
    "item": Kind(KitItemRow, lambda _, row: value_from_text(Product, row.item), lambda _, row: row.name, ("item",)),
    "tool": Kind(ToolRow, lambda _, row: value_from_text(OwnedTool, row.document), lambda _, row: row.kind),
    "kit": Kind(NamedKitRow, lambda _, row: value_from_text(NamedKit, row.document), lambda _, row: row.name),
    "set": Kind(DrillSetRow, lambda _, row: DrillSetFile.model_validate_json(row.document), lambda _, row: row.code),
    "decision": Kind(DecisionRow, lambda _, row: decided(row.about, row.document), lambda _, row: row.name),
    "factor": Kind(TakenOverRow, lambda _, row: decided(TAKEN_OVER, row.document), lambda _, row: f"number {row.id}"),
    "trial": Kind(TrialRow, lambda _, row: StoredTrial.model_validate_json(row.document), _plan_title),
    "plan": Kind(
        RevisionRow,
        lambda session, row: Sequences(session).at(row.sequence_id, row.number),
        lambda session, row: f"{_plan_title(session, row)}, revision {row.number}",
        many=True,
    ),
    "reading": Kind(
        ReadingRow, lambda _, row: value_from_text(SkinReading, row.document), lambda _, row: str(row.day), many=True
    ),
    "run": Kind(
        RunRow, lambda _, row: Run.model_validate_json(row.document), lambda s, row: f"{_plan_title(s, row)}, {row.day}", many=True
    ),
    "record": Kind(
        WearRow, lambda _, row: StoredWear.model_validate_json(row.document), lambda _, row: row.worn_from, many=True
    ),
    "card": Kind(CardRow, lambda _, row: value_from_text(Known, row.document), _student_name, many=True),
    "answer": Kind(AnswerRow, lambda _, row: value_from_text(Answered, row.document), _student_name, many=True),
}  # fmt: skip
"""Every kind of record that holds documents, by the word for it."""


@dataclass(frozen=True, slots=True)
class DamagedRecord:
    """One record that cannot be read: its kind, its key in that kind's table, and what it is called."""

    kind: str
    key: str
    name: str


def damaged(session: Session, *, whole: bool = False) -> list[DamagedRecord]:
    """Every record that cannot be read, of the kinds that rooms list; of all kinds where the whole is asked for."""
    found = []
    for word, kind in KINDS.items():
        if kind.many and not whole:
            continue
        for row in session.scalars(select(kind.table)):
            try:
                kind.read(session, row)
            except UNREADABLE:
                found.append(DamagedRecord(word, _key_of(row), kind.name(session, row)))
    return found


@dataclass(frozen=True, slots=True)
class LeftOut:
    """What an export leaves out since it is damaged: whole plans, single revisions by plan and number, and each in its own words."""

    plans: frozenset[str] = frozenset()
    revisions: frozenset[tuple[str, int]] = frozenset()
    texts: Mapping[str, str] = field(default_factory=dict)


def left_out(session: Session) -> LeftOut:
    """What an export of everything has to leave out, with what is kept of it as it stands."""
    plans, revisions, texts = set(), set(), {}
    for record in damaged(session, whole=True):
        texts[f"{record.kind}-{_file_name(record.key)}.txt"] = raw_text(session, record.kind, record.key)
        if record.kind == "plan":
            row = _row(session, record.kind, record.key)
            plan = session.get_one(SequenceRow, row.sequence_id)
            revisions.add((plan.id, row.number))
            if plan.head == row.number:
                plans.add(plan.id)
        if record.kind == "sitter":
            # Their plans have nobody to stand with, and come along in their own words.
            for row in session.scalars(
                select(RevisionRow).join(SequenceRow).where(SequenceRow.sitter_id == record.key)
            ):
                plans.add(row.sequence_id)
                texts[f"plan-{row.sequence_id}-{row.number}.txt"] = raw_text(session, "plan", str(row.id))
    return LeftOut(frozenset(plans), frozenset(revisions), texts)


def raw_text(session: Session, word: str, key: str) -> str:
    """The documents of a record as they are kept, whatever is in them. Refuses an unknown one."""
    row = _row(session, word, key)
    return "\n".join(_texts(session, word, row)) + "\n"


def _texts(session: Session, word: str, row: Any) -> Iterator[str]:
    for column in KINDS[word].columns:
        document = str(getattr(row, column))
        yield next(iter(sound([document], unpacked)), document)
    if word == "class":
        yield from session.scalars(select(ClassStudentRow.document).where(ClassStudentRow.class_key == row.key))


def erase_record(session: Session, word: str, key: str) -> None:
    """Erase one damaged record; a sitter is erased otherwise, from every file. Refuses an unknown one, and one that can be read.

    A plan goes on without the revision: with the one it was made from where that was the one that stands, and not at all where
    there is no other.
    """
    row = _row(session, word, key)
    if isinstance(row, RevisionRow):
        _erase_revision(session, row)
    else:
        session.delete(row)
    session.flush()


def assert_damaged(session: Session, word: str, key: str) -> None:
    """Refuse a record that can be read: it is changed and erased in its own room."""
    row = _row(session, word, key)
    try:
        KINDS[word].read(session, row)
    except UNREADABLE:
        return
    raise Missing(word, key, "the key of a damaged record")


def _erase_revision(session: Session, row: RevisionRow) -> None:
    plan = session.get_one(SequenceRow, row.sequence_id)
    others = select(RevisionRow).where(RevisionRow.sequence_id == plan.id, RevisionRow.id != row.id)
    for child in session.scalars(others.where(RevisionRow.parent == row.number)):
        child.parent = row.parent
    if plan.head == row.number:
        heads = list(session.scalars(others.order_by(RevisionRow.number.desc())))
        current = next((each for each in heads if each.number == row.parent), next(iter(heads), None))
        if current is None:
            session.delete(plan)
            return
        plan.head = current.number
    session.delete(row)


def _key_of(row: Any) -> str:
    return ".".join(str(part) for part in inspect(row).identity or ())


def _file_name(key: str) -> str:
    return "".join(letter if letter.isalnum() or letter in "._-" else "-" for letter in key)


def _row(session: Session, word: str, key: str) -> Any:
    kind = KINDS.get(word)
    if kind is None:
        raise Missing("kind", word, "one of " + ", ".join(KINDS))
    columns = inspect(kind.table).primary_key
    parts: list[Any] = key.split(".", len(columns) - 1)
    if len(parts) == len(columns):
        numbered = [
            int(part) if column.type.python_type is int and part.isdigit() else part
            for column, part in zip(columns, parts, strict=True)
        ]
        row = session.get(kind.table, tuple(numbered))
        if row is not None:
            return row
    raise Missing(word, key, "the key of a damaged record")
