"""The whole workspace, or one sitter of it, out of the store and back in."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Iterator
from dataclasses import replace
from datetime import datetime

from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session

from nabrel.core.errors import Fault
from nabrel.formats.loader import stored_text
from nabrel.formats.practice import PracticeFile
from nabrel.formats.values import text_of
from nabrel.formats.workspace import Counts, PlanFile, Revision, StoredClass, StoredPerson, StoredPlan, Workspace
from nabrel.store.classes import Classes
from nabrel.store.damaged import LeftOut
from nabrel.store.house_rules import HouseRules, sitter_in
from nabrel.store.practice import DrillSets, Students
from nabrel.store.repositories import Kit, Sequences, Sitters, StoredSitter, forget_kits, store_kit
from nabrel.store.run import Runs
from nabrel.store.shelf import NamedKits, Tools
from nabrel.store.skin_readings import SkinReadings
from nabrel.store.tables import (
    Base,
    ClassRow,
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
    ToolRow,
    WearRow,
)
from nabrel.store.versions import next_place, now
from nabrel.store.wear import Wears
from nabrel.store.wear_trial import Trials


def gather(session: Session) -> Workspace:
    """Everything that the store keeps."""
    shared, _, people = gather_shared(session)
    return replace(shared, people=list(people))


NOTHING = LeftOut()


def gather_shared(session: Session, without: LeftOut = NOTHING) -> tuple[Workspace, list[str], Iterator[StoredPerson]]:
    """What all share, the ids of the people, and the people, each gathered when they are asked for; without what is damaged."""
    stored = Sitters(session).all()
    here = {each.id for each in stored}
    sets = DrillSets(session).all()
    shared = Workspace(
        house=HouseRules(session).model(),
        kit=Kit(session).all(),
        kits=NamedKits(session).all(),
        tools=Tools(session).all(),
        classes=[
            _of_who_is_here(each, here)
            for each in Classes(session).all()
            if each.plan not in without.plans and (each.plan, each.revision) not in without.revisions
        ],
        students=[
            _with(Students(session).file(each.key), here, {made.id for made in sets})
            for each in Students(session).all()
        ],
        sets=[each.model_copy(update={"faces": tuple(face for face in each.faces if face in here)}) for each in sets],
        damaged=without.texts,
    )
    return shared, [each.id for each in stored], (_gather_person(session, each, without) for each in stored)


def _of_who_is_here(stored: StoredClass, here: Collection[str]) -> StoredClass:
    """A class in which nobody has the face of a sitter who is not here: a damaged record has none."""
    students = tuple(
        each if each.sitter is None or each.sitter in here else each.model_copy(update={"sitter": None})
        for each in stored.students
    )
    return stored.model_copy(update={"students": students})


def _with(file: PracticeFile, sitters: Collection[str], sets: Collection[str]) -> PracticeFile:
    """A practice that names these sitters and sets alone."""
    answers = tuple(
        each if each.set is None or each.set in sets else replace(each, set=None, place=None) for each in file.answers
    )
    return file.model_copy(update={"answers": answers, "sitter": file.sitter if file.sitter in sitters else None})


def counted(session: Session) -> Counts:
    """How much the store keeps, without reading any of it."""

    def of(table: type[Base]) -> int:
        return session.scalar(select(func.count()).select_from(table)) or 0

    return Counts(
        nicknames=tuple(session.scalars(select(SitterRow.nickname).order_by(SitterRow.position))),
        plans=of(SequenceRow), revisions=of(RevisionRow), readings=of(ReadingRow), runs=of(RunRow), wears=of(WearRow),
        items=of(KitItemRow), kits=of(NamedKitRow), tools=of(ToolRow),
        classes=of(ClassRow), students=of(StudentRow), sets=of(DrillSetRow),
    )  # fmt: skip


def gather_one(session: Session, sitter_id: str) -> Workspace:
    """One sitter with everything that is kept of them, and the shelf and house rules that their plans went by.

    What was learnt of other sitters stays here.
    """
    stored = Sitters(session).get(sitter_id)
    house = HouseRules(session).model()
    own = [each for each in house.decisions if sitter_in(each.what) in (None, stored.sitter.nickname)]
    return Workspace(
        house=house.model_copy(update={"decisions": own}),
        kit=Kit(session).all(),
        # The sets that they were asked in stay here.
        students=[
            _with(Students(session).file(each.key), {sitter_id}, ()) for each in Students(session).of_sitter(sitter_id)
        ],
        people=[_gather_person(session, stored)],
    )


def _gather_person(session: Session, stored: StoredSitter, without: LeftOut = NOTHING) -> StoredPerson:
    # Oldest plan first, so that bringing them back in order keeps their order.
    ids = [each for each in reversed(stored.sequence_ids) if each not in without.plans]
    plans = [_gather_plan(session, sequence_id, without) for sequence_id in ids]

    def whole(plan: str, *revisions: int) -> bool:
        return not any((plan, number) in without.revisions for number in revisions)

    return StoredPerson(
        id=stored.id,
        sitter=stored.sitter,
        intent=stored.intent,
        readings=tuple(reading for _, reading in SkinReadings(session).of(stored.id)),
        plans=plans,
        runs=[each for each in Runs(session).of(ids) if whole(each.plan, each.revision)],
        wears=[each for each in Wears(session).of(ids) if whole(each.plan, each.revision)],
        trials=[each for each in Trials(session).of(ids) if whole(each.plan, *each.revisions)],
        photos=Wears(session).pictures(ids),
    )


def _gather_plan(session: Session, sequence_id: str, without: LeftOut = NOTHING) -> StoredPlan:
    row = session.get(SequenceRow, sequence_id)
    if row is None:
        raise Fault(f"plan {sequence_id} is listed and not there")
    rows = session.scalars(
        select(RevisionRow).where(RevisionRow.sequence_id == sequence_id).order_by(RevisionRow.number)
    ).all()
    made_from = {each.number: each.parent for each in rows}
    rows = [each for each in rows if (sequence_id, each.number) not in without.revisions]

    def parent(number: int | None) -> int | None:
        """The nearest one before that is not left out."""
        while number is not None and (sequence_id, number) in without.revisions:
            number = made_from.get(number)
        return number

    return StoredPlan(
        plan=PlanFile(
            id=row.id,
            title=row.title,
            head=row.head,
            made=row.created_at.isoformat(),
            changed=row.changed_at.isoformat(),
            favourite=row.favourite,
            revisions=[
                Revision(
                    number=each.number,
                    parent=parent(each.parent),
                    says=each.says,
                    name=each.name,
                    made=each.created_at.isoformat(),
                )
                for each in rows
            ],
        ),
        sequences=[Sequences(session).at(row.id, each.number) for each in rows],
    )


def replace_all(session: Session, workspace: Workspace, people: Iterable[StoredPerson] | None = None) -> None:
    """Put a workspace in the place of everything that the store keeps. In one session: all of it, or nothing.

    ``people`` are those of the workspace, where they come one by one.
    """
    for table in (SitterRow, NamedKitRow, ToolRow, KitItemRow, DecisionRow, StudentRow, DrillSetRow):
        session.execute(delete(table))
    session.expire_all()
    forget_kits(session)
    kit = Kit(session)
    for item in workspace.kit:
        kit.put(item)
    tools = Tools(session)
    for tool in workspace.tools:
        tools.put(tool)
    kits = NamedKits(session)
    for named in workspace.kits:
        kits.put(named)
    take_in_people(session, workspace.people if people is None else people)
    for each in workspace.classes:
        Classes(session).put_back(each)
    for made in workspace.sets:
        DrillSets(session).put_back(made)
    for student in workspace.students:
        Students(session).take_in(student)
    # Last: what was learnt of a sitter is kept with the sitter.
    HouseRules(session).replace(workspace.house)


def take_in_people(session: Session, people: Iterable[StoredPerson]) -> None:
    """Put sitters with all that is kept of them into the store, in their order."""
    for person in people:
        session.add(
            SitterRow(
                id=person.id,
                nickname=person.sitter.nickname,
                position=next_place(SitterRow.position),
                sitter=text_of(person.sitter),
                intent=text_of(person.intent),
                created_at=now(),
                changed_at=now(),
            )
        )
        session.flush()
        SkinReadings(session).add(person.id, person.readings)
        for stored in person.plans:
            _take_in_plan(session, person.id, stored)
        for run in person.runs:
            Runs(session).save(run)
        for trial in person.trials:
            Trials(session).save(trial)
        for wear in person.wears:
            Wears(session).save(wear, person.photos)


def _take_in_plan(session: Session, sitter_id: str, stored: StoredPlan) -> None:
    head = next(
        s for s, row in zip(stored.sequences, stored.plan.revisions, strict=True) if row.number == stored.plan.head
    )
    session.add(
        SequenceRow(
            id=stored.plan.id,
            sitter_id=sitter_id,
            title=stored.plan.title,
            school=head.school,
            head=stored.plan.head,
            created_at=datetime.fromisoformat(stored.plan.made),
            changed_at=datetime.fromisoformat(stored.plan.changed),
            favourite=stored.plan.favourite,
        )
    )
    session.flush()
    for row, sequence in zip(stored.plan.revisions, stored.sequences, strict=True):
        session.add(
            RevisionRow(
                sequence_id=stored.plan.id,
                number=row.number,
                parent=row.parent,
                says=row.says,
                name=row.name,
                document=stored_text(sequence),
                kit=store_kit(session, sequence.case.kit),
                created_at=datetime.fromisoformat(row.made),
            )
        )
    session.flush()
