"""Repositories: sitters, the kit, and sequences with their revisions, in and out of the tables."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import datetime
from functools import lru_cache
from hashlib import sha256
from uuid import uuid4

from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session, defer

from nabrel.core.case.case import Case
from nabrel.core.case.intent import Intent
from nabrel.core.case.product import Product
from nabrel.core.case.sitter import Sitter
from nabrel.core.errors import Refused
from nabrel.core.plan.sequence import Sequence
from nabrel.core.terms.limits import MOST_ITEMS, MOST_SITTERS
from nabrel.formats.loader import read_stored, stored_sitter, stored_text
from nabrel.formats.values import text_of, value_from_text
from nabrel.store.sound import readable, sound
from nabrel.store.tables import KitItemRow, KitSnapshotRow, RevisionRow, SequenceRow, SitterRow
from nabrel.store.versions import (
    Missing,
    Stale,
    claim,
    first_version,
    lock_for_update,
    next_place,
    now,
    require_capacity,
    versions,
)


@dataclass(frozen=True, slots=True)
class StoredSitter:
    """A stored sitter with what is wanted for them."""

    id: str
    sitter: Sitter
    intent: Intent
    sequence_ids: tuple[str, ...]
    version: int = 1


@dataclass(frozen=True, slots=True)
class StoredSequence:
    """A stored sequence at the revision that stands; undo and redo say what they would take back or bring again."""

    id: str
    sitter_id: str
    sequence: Sequence
    revision: int
    undo_says: str | None
    redo_says: str | None


@dataclass(frozen=True, slots=True)
class Version:
    """One revision as a list of versions shows it; ``name`` where somebody gave it one."""

    number: int
    name: str | None
    says: str
    made: datetime
    current: bool


@lru_cache(maxsize=256)
def _sequence_of(document: str, kit: str | None) -> Sequence:
    """The sequence that a revision's document holds, with its kit; a revision never changes, so it is read once."""
    return read_stored(document, () if kit is None else _kit_of(kit))


@lru_cache(maxsize=64)
def _kit_of(document: str) -> tuple[Product, ...]:
    return value_from_text(StoredKit, document).items


@dataclass(frozen=True, slots=True)
class StoredKit:
    """A kit as plans were made with it."""

    items: tuple[Product, ...]


class Sitters:
    """Sitters by id."""

    def __init__(self, session: Session) -> None:
        self._session = session

    def add(self, sitter: Sitter, intent: Intent) -> str:
        """Store a new sitter; its id."""
        require_capacity(self._session, SitterRow.id, MOST_SITTERS, "sitters")
        row = SitterRow(
            id=uuid4().hex,
            nickname=sitter.nickname,
            position=next_place(SitterRow.position),
            sitter=text_of(sitter),
            intent=text_of(intent),
            created_at=now(),
            changed_at=now(),
        )
        self._session.add(row)
        self._session.flush()
        return row.id

    def all(self) -> list[StoredSitter]:
        """All sitters, in the order they came."""
        rows = self._session.scalars(select(SitterRow).order_by(SitterRow.position)).all()
        plans: dict[str, list[str]] = {}
        for sequence_id, sitter_id in self._session.execute(
            select(SequenceRow.id, SequenceRow.sitter_id).order_by(SequenceRow.created_at.desc())
        ):
            plans.setdefault(sitter_id, []).append(sequence_id)
        return sound(rows, lambda row: sitter_of_row(row, plans.get(row.id, [])))

    def belongings(self, sitter_id: str) -> tuple[int, int]:
        """How many plans, and revisions of them, would go with a sitter. Refuses an unknown id."""
        if self._session.get(SitterRow, sitter_id) is None:
            raise Missing("sitter", sitter_id, "the id of a stored sitter")
        plans = select(SequenceRow.id).where(SequenceRow.sitter_id == sitter_id)
        revisions = select(func.count()).select_from(RevisionRow).where(RevisionRow.sequence_id.in_(plans))
        count = select(func.count()).select_from(SequenceRow).where(SequenceRow.sitter_id == sitter_id)
        return self._session.scalar(count) or 0, self._session.scalar(revisions) or 0

    def change(self, sitter_id: str, version: int, sitter: Sitter, intent: Intent) -> None:
        """Keep a changed record made on ``version``. Refuses where that one no longer stands."""
        row, held = claim(self._session, SitterRow, sitter_id, SitterRow.version == version)
        if row is None:
            raise Missing("sitter", sitter_id, "the id of a stored sitter")
        if not held:
            raise Stale("version", version, f"{row.version}, the current one: load the latest to see what changed")
        row.sitter, row.intent = text_of(sitter), text_of(intent)
        row.nickname, row.version, row.changed_at = sitter.nickname, row.version + 1, now()
        self._session.flush()

    def get(self, sitter_id: str) -> StoredSitter:
        """One sitter. Refuses an unknown id."""
        row = self._session.get(SitterRow, sitter_id)
        if row is None:
            raise Missing("sitter", sitter_id, "the id of a stored sitter")
        plans = self.plans_of(sitter_id)
        return readable("sitter", lambda: sitter_of_row(row, plans))

    def nickname(self, sitter_id: str) -> str:
        """The nickname of a sitter, also of one whose record is damaged. Refuses an unknown id."""
        row = self._session.get(SitterRow, sitter_id)
        if row is None:
            raise Missing("sitter", sitter_id, "the id of a stored sitter")
        return row.nickname

    def plans_of(self, sitter_id: str) -> list[str]:
        """The ids of a sitter's plans, the newest first."""
        wanted = select(SequenceRow.id).where(SequenceRow.sitter_id == sitter_id)
        return list(self._session.scalars(wanted.order_by(SequenceRow.created_at.desc())))


def sitter_of_row(row: SitterRow, plans: Iterable[str]) -> StoredSitter:
    """A sitter from their row, with the ids of their plans."""
    return StoredSitter(
        id=row.id,
        sitter=stored_sitter(row.sitter),
        intent=value_from_text(Intent, row.intent),
        sequence_ids=tuple(plans),
        version=row.version,
    )


class Kit:
    """The shelf."""

    def __init__(self, session: Session) -> None:
        self._session = session

    def all(self) -> tuple[Product, ...]:
        """Every item, in shelf order."""
        rows = self._session.scalars(select(KitItemRow).order_by(KitItemRow.position)).all()
        return tuple(sound(rows, lambda row: value_from_text(Product, row.item)))

    def names(self) -> dict[str, str]:
        """The name of every item, by id."""
        return dict(self._session.execute(select(KitItemRow.id, KitItemRow.name)).all())

    def versions(self) -> dict[str, int]:
        """The version of every item, by id: a change names the one it was made on."""
        return versions(self._session, KitItemRow)

    def put(self, item: Product, version: int | None = None) -> None:
        """Put an item on the shelf, in the place of the one with its id if there is one. Refuses a stale version."""
        row = lock_for_update(self._session, KitItemRow, item.id, version)
        if row is None:
            require_capacity(self._session, KitItemRow.id, MOST_ITEMS, "items")
            row = _new_item(item)
            self._session.add(row)
        row.role, row.name, row.item = item.role, item.name, text_of(item)
        self._session.flush()

    def remove(self, item_id: str, version: int | None = None) -> None:
        """Take an item off the shelf. Plans keep the kit they were made with. Refuses an unknown id and a stale version."""
        row = lock_for_update(self._session, KitItemRow, item_id, version)
        if row is None:
            raise Missing("item", item_id, "the id of an item on the shelf")
        self._session.delete(row)
        self._session.flush()

    def take_in(self, items: Iterable[Product]) -> tuple[str, ...]:
        """Put items on the shelf that are not there yet; the ids added.

        An item whose id is taken by a different one gets the next free id, so that neither is lost.
        """
        owned = {item.id: item for item in self.all()}
        added: list[str] = []
        for item in items:
            if _same_as_owned(item, owned):
                continue
            own = replace(item, id=_free_id(item.id, owned))
            if len(owned) >= MOST_ITEMS:
                raise Refused("items", len(owned) + 1, f"at most {MOST_ITEMS} on a shelf")
            self._session.add(_new_item(own))
            self._session.flush()
            owned[own.id] = own
            added.append(own.id)
        return tuple(added)


def _new_item(item: Product) -> KitItemRow:
    return KitItemRow(
        id=item.id,
        role=item.role,
        name=item.name,
        position=next_place(KitItemRow.position),
        item=text_of(item),
        version=first_version(),
        created_at=now(),
    )


def _same_as_owned(item: Product, owned: dict[str, Product]) -> bool:
    return any(
        replace(mine, id=item.id) == item
        for key, mine in owned.items()
        if key == item.id or key.startswith(f"{item.id}-")
    )


def _free_id(wanted: str, owned: dict[str, Product]) -> str:
    if wanted not in owned:
        return wanted
    number = 2
    while f"{wanted}-{number}" in owned:
        number += 1
    return f"{wanted}-{number}"


SHORT = 10
"""So many characters of a plan's id stand in the short address that is printed: of 2,000 plans two alike are one in 500,000."""


def short_code(sequence_id: str) -> str:
    """What stands for a plan in a short address."""
    return sequence_id[:SHORT]


class Sequences:
    """Sequences and their revisions. Nothing a person made is lost: undo only moves the head."""

    def __init__(self, session: Session) -> None:
        self._session = session
        self._taken: tuple[str, int] | None = None
        # A session forgets the rows that nobody holds, and would read them again.
        self._held: dict[str, SequenceRow] = {}

    def add(self, sitter_id: str, sequence: Sequence, says: str = "Planned") -> str:
        """Store a new sequence with its first revision; its id."""
        if self._session.get(SitterRow, sitter_id) is None:
            raise Missing("sitter", sitter_id, "the id of a stored sitter")
        row = SequenceRow(
            id=uuid4().hex,
            sitter_id=sitter_id,
            title=sequence.title,
            school=sequence.school,
            head=1,
            created_at=now(),
            changed_at=now(),
        )
        self._session.add(row)
        self._session.flush()
        self._add_revision(row.id, 1, None, says, sequence)
        self._session.flush()
        return row.id

    def get(self, sequence_id: str) -> StoredSequence:
        """A sequence at its head. Refuses an unknown id."""
        row = self._row(sequence_id)
        head = self._revision(sequence_id, row.head)
        redo = self._redo(sequence_id, row.head)
        return StoredSequence(
            id=row.id,
            sitter_id=row.sitter_id,
            sequence=self._sequence(head),
            revision=row.head,
            undo_says=head.says if head.parent is not None else None,
            redo_says=redo[1] if redo else None,
        )

    def called(self, code: str) -> str:
        """The id of the plan that a short code stands for. Refuses one that stands for none, or for more than one."""
        wanted = select(SequenceRow.id).where(func.substr(SequenceRow.id, 1, SHORT) == code)
        found = list(self._session.scalars(wanted))
        if len(found) != 1:
            raise Missing("code", code, "the short code of a plan that is kept, as its sheet has it")
        return found[0]

    def save(self, sequence_id: str, on_revision: int, sequence: Sequence, says: str) -> StoredSequence:
        """Add a revision made on ``on_revision``; the sequence as it then stands. Refuses where that one is not the head."""
        if (sequence_id, on_revision) != self._taken:
            self.assert_head_revision(sequence_id, on_revision)
        self._taken = None
        row = self._row(sequence_id)
        last = self._session.scalar(select(func.max(RevisionRow.number)).where(RevisionRow.sequence_id == sequence_id))
        number = (last or 0) + 1
        self._add_revision(sequence_id, number, row.head, says, sequence)
        row.head, row.school, row.title, row.changed_at = number, sequence.school, sequence.title, now()
        self._session.flush()
        return StoredSequence(row.id, row.sitter_id, sequence, number, undo_says=says[:300], redo_says=None)

    def add_version(self, sequence_id: str, sequence: Sequence, says: str) -> int:
        """Keep a sequence beside the one that stands, as a version that nothing leads to by undo or redo; its number.

        One that is the same as what stands is that.
        """
        row = self._row(sequence_id)
        if self._sequence(self._revision(sequence_id, row.head)).steps == sequence.steps:
            return row.head
        last = self._session.scalar(select(func.max(RevisionRow.number)).where(RevisionRow.sequence_id == sequence_id))
        number = (last or 0) + 1
        self._add_revision(sequence_id, number, None, says, sequence)
        self._session.flush()
        return number

    def assert_head_revision(self, sequence_id: str, revision: int) -> None:
        """Refuse where this revision is not the one that stands: another tab or person changed the sequence.

        Asked as a write, before anything is read: from here to the end of the session nobody else can change it.
        """
        row, held = claim(self._session, SequenceRow, sequence_id, SequenceRow.head == revision)
        if row is None:
            raise Missing("sequence", sequence_id, "the id of a stored sequence")
        self._held[sequence_id] = row
        if not held:
            raise Stale("revision", revision, f"{row.head}, the current one: load the latest to see what changed")
        self._taken = (sequence_id, revision)

    def versions(self, sequence_id: str) -> tuple[Version, ...]:
        """Every revision, the newest first. Refuses an unknown id."""
        head = self._row(sequence_id).head
        rows = self._session.scalars(
            select(RevisionRow)
            .where(RevisionRow.sequence_id == sequence_id)
            .order_by(RevisionRow.number.desc())
            .options(defer(RevisionRow.document))
        )
        return tuple(Version(row.number, row.name, row.says, row.created_at, row.number == head) for row in rows)

    def head(self, sequence_id: str) -> tuple[int, str]:
        """The number of the revision that stands, and what was done last. Refuses an unknown id."""
        head = self._row(sequence_id).head
        says = select(RevisionRow.says).where(RevisionRow.sequence_id == sequence_id, RevisionRow.number == head)
        return head, self._session.scalars(says).one()

    def call(self, sequence_id: str, number: int, name: str | None) -> None:
        """Give a revision a name to be found by, or take its name. Refuses an unknown one, and a name given twice."""
        row = self._known(sequence_id, number)
        for each in self.versions(sequence_id):
            if name and each.number != number and (each.name or "").casefold() == name.casefold():
                raise Refused("name", name, f"a name that no other version has; revision {each.number} has this one")
        row.name = name
        self._session.flush()

    def at(self, sequence_id: str, number: int) -> Sequence:
        """The sequence as one revision has it. Refuses an unknown one."""
        return self._sequence(self._known(sequence_id, number))

    def _known(self, sequence_id: str, number: int) -> RevisionRow:
        self._row(sequence_id)
        row = self._session.scalars(
            select(RevisionRow).where(RevisionRow.sequence_id == sequence_id, RevisionRow.number == number)
        ).first()
        if row is None:
            raise Missing("version", number, "the number of a revision of this plan")
        return row

    def undo(self, sequence_id: str) -> None:
        """Go back to the revision that the standing one was made from. Refuses at the first."""
        row = self._row(sequence_id)
        parent = self._revision(sequence_id, row.head).parent
        if parent is None:
            raise Refused("undo", "the first revision", "a sequence that was changed")
        self._stand_on(row, parent)

    def redo(self, sequence_id: str) -> None:
        """Bring back the newest revision made from the standing one. Refuses where there is none."""
        row = self._row(sequence_id)
        child = self._redo(sequence_id, row.head)
        if child is None:
            raise Refused("redo", "the newest revision", "a sequence with something undone")
        self._stand_on(row, child[0])

    def _stand_on(self, row: SequenceRow, number: int) -> None:
        row.head = number
        row.school = self._sequence(self._revision(row.id, number)).school
        row.changed_at = now()
        self._session.flush()

    def _row(self, sequence_id: str) -> SequenceRow:
        row = self._held.get(sequence_id) or self._session.get(SequenceRow, sequence_id)
        if row is None:
            raise Missing("sequence", sequence_id, "the id of a stored sequence")
        self._held[sequence_id] = row
        return row

    def _revision(self, sequence_id: str, number: int) -> RevisionRow:
        return self._session.scalars(
            select(RevisionRow).where(RevisionRow.sequence_id == sequence_id, RevisionRow.number == number)
        ).one()

    def _redo(self, sequence_id: str, head: int) -> tuple[int, str] | None:
        """The newest revision made on the head that was undone: its number, and what it did."""
        found = self._session.execute(
            select(RevisionRow.number, RevisionRow.says)
            .where(RevisionRow.sequence_id == sequence_id, RevisionRow.parent == head)
            .order_by(RevisionRow.number.desc())
            .limit(1)
        ).first()
        return (found.number, found.says) if found else None

    def _sequence(self, row: RevisionRow) -> Sequence:
        """The sequence of a revision, with the kit that it refers to."""
        kit = self._session.get(KitSnapshotRow, row.kit) if row.kit else None
        return readable("plan", lambda: _sequence_of(row.document, kit.document if kit else None))

    def _add_revision(self, sequence_id: str, number: int, parent: int | None, says: str, sequence: Sequence) -> None:
        self._session.add(
            RevisionRow(
                sequence_id=sequence_id,
                number=number,
                parent=parent,
                says=says[:300],
                document=stored_text(sequence),
                kit=store_kit(self._session, sequence.case.kit),
                created_at=now(),
            )
        )


def forget_read() -> None:
    """Keep nothing in memory of the sequences that were read: a sitter was erased."""
    _sequence_of.cache_clear()


def store_kit(session: Session, kit: tuple[Product, ...]) -> str | None:
    """Keep a kit by its content, once for all revisions that were made with it; its id, None for no kit."""
    if not kit:
        return None
    text = _kit_text(kit)
    kit_id = sha256(text.encode()).hexdigest()[:32]
    if session.get(KitSnapshotRow, kit_id) is None:
        session.add(KitSnapshotRow(id=kit_id, document=text))
        session.flush()
    return kit_id


@lru_cache(maxsize=64)
def _kit_text(kit: tuple[Product, ...]) -> str:
    return text_of(StoredKit(kit))


def forget_kits(session: Session) -> None:
    """Take out the kits that no revision refers to any more."""
    used = select(RevisionRow.kit).where(RevisionRow.kit.is_not(None))
    session.execute(delete(KitSnapshotRow).where(KitSnapshotRow.id.not_in(used)))


def take_in_case(session: Session, case: Case) -> tuple[str, tuple[str, ...]]:
    """Store an imported case: the sitter, and the items of its kit that the shelf lacks. Sitter id, item ids added."""
    added = Kit(session).take_in(case.kit)
    return Sitters(session).add(case.sitter, case.intent), added
