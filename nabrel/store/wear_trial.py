"""Trials: two ways of one plan, worn against each other on halves of a face or on two days."""

from __future__ import annotations

from collections.abc import Iterable
from uuid import uuid4

from sqlalchemy import select
from sqlalchemy.orm import Session

from nabrel.core.errors import Refused
from nabrel.core.house import House
from nabrel.core.learn.record import Look
from nabrel.core.learn.wear_trial import SIDES, How, Side, zones_of
from nabrel.core.plan.sequence import Sequence
from nabrel.formats.wear import TrialSide, Worn
from nabrel.formats.workspace import StoredTrial, StoredWear
from nabrel.store.repositories import Sequences
from nabrel.store.sound import readable, sound
from nabrel.store.tables import TrialRow
from nabrel.store.versions import Missing, moment
from nabrel.store.wear import Wears

Way = tuple[Sequence, str]
"""One of the two: the plan as it would be worked, and what it is called."""


class Trials:
    """The trials of every sitter."""

    def __init__(self, session: Session) -> None:
        self._session = session

    def begin(self, plan: str, ways: tuple[Way, Way], how: How) -> StoredTrial:
        """Set up a trial of two ways of a plan. Refuses two that are the same."""
        if ways[0][0].steps == ways[1][0].steps:
            raise Refused("ways", ways[1][1], "two ways that differ")
        sequences = Sequences(self._session)
        first, second = (sequences.add_version(plan, sequence, f"On trial: {words}") for sequence, words in ways)
        trial = StoredTrial(
            id=uuid4().hex,
            plan=plan,
            how=how,
            revisions=(first, second),
            words=(ways[0][1][:120], ways[1][1][:120]),
            made=moment(),
        )
        self.save(trial)
        return trial

    def get(self, key: str) -> StoredTrial:
        """One trial. Refuses an unknown one."""
        row = self._row(key)
        return readable("trial", lambda: StoredTrial.model_validate_json(row.document))

    def of(self, plans: Iterable[str]) -> list[StoredTrial]:
        """The trials of some plans, in the order they were set up."""
        wanted = select(TrialRow.document).where(TrialRow.sequence_id.in_(list(plans)))
        found = sound(self._session.scalars(wanted), StoredTrial.model_validate_json)
        return sorted(found, key=lambda trial: (trial.made, trial.id))

    def all(self) -> list[StoredTrial]:
        """Every trial, newest first."""
        found = sound(self._session.scalars(select(TrialRow.document)), StoredTrial.model_validate_json)
        return sorted(found, key=lambda trial: (trial.made, trial.id), reverse=True)

    def save(self, trial: StoredTrial) -> None:
        """Keep a trial as it is."""
        self._session.add(TrialRow(key=trial.id, sequence_id=trial.plan, document=trial.model_dump_json()))
        self._session.flush()

    def remove(self, key: str) -> None:
        """Forget a trial; its records stay, as any other. Refuses an unknown one."""
        for stored in self.worn(self.get(key)):
            Wears(self._session).release(stored.id)
        self._session.delete(self._row(key))
        self._session.flush()

    def put_on(self, key: str, worn: Worn, house: House, side: Side | None = None) -> list[StoredWear]:
        """Both halves were put on, or one of the two ways on its day. Refuses a side that this trial does not have."""
        trial = self.get(key)
        sides = SIDES[trial.how]
        wanted = sides if trial.how == "halves" else tuple(each for each in sides if each == side)
        if not wanted:
            raise Refused("side", side, " or ".join(sides))
        wears = Wears(self._session)
        return [
            wears.begin_way(trial.plan, trial.revisions[sides.index(each)], worn, house, TrialSide(id=key, side=each))
            for each in wanted
        ]

    def look(self, half: StoredWear, look: Look) -> list[StoredWear]:
        """Keep one look at both halves: what is on the left goes to the first way, what is on the right to the second."""
        assert half.trial is not None
        both = self.worn(self.get(half.trial.id))
        return [self._look_at(each, look) for each in both if each.worn.from_ == half.worn.from_]

    def _look_at(self, stored: StoredWear, look: Look) -> StoredWear:
        assert stored.trial is not None
        sequence = Sequences(self._session).at(stored.plan, stored.revision)
        own = zones_of("halves", stored.trial.side) & {zone for step in sequence.steps for zone in step.zones}
        mine = Look(
            look.after_min,
            look.light,
            tuple(zone for zone in look.seen if zone in own),
            {zone: signs for zone, signs in look.zones.items() if zone in own},
            look.note,
            look.next_time,
            colours={zone: lab for zone, lab in look.colours.items() if zone in own},
        )
        return Wears(self._session).look(stored.id, mine)

    def worn(self, trial: StoredTrial) -> list[StoredWear]:
        """The records of a trial, oldest first."""
        return [each for each in Wears(self._session).of([trial.plan]) if each.trial and each.trial.id == trial.id]

    def pairs(self, trial: StoredTrial) -> list[tuple[StoredWear, StoredWear]]:
        """Records of the first way beside records of the second: of halves those put on together, of days one after the other."""
        sides = SIDES[trial.how]
        first, second = (
            [each for each in self.worn(trial) if each.trial is not None and each.trial.side == side] for side in sides
        )
        if trial.how == "days":
            return list(zip(first, second, strict=False))
        by_moment = {each.worn.from_: each for each in second}
        return [(each, by_moment[each.worn.from_]) for each in first if each.worn.from_ in by_moment]

    def _row(self, key: str) -> TrialRow:
        row = self._session.get(TrialRow, key)
        if row is None:
            raise Missing("trial", key, "the id of a trial that is kept")
        return row
