"""How bases wore: a record a wearing, with every look at it."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from datetime import UTC, datetime
from typing import TypeVarTuple
from uuid import uuid4

from sqlalchemy import Select, delete, func, select
from sqlalchemy.orm import Session, defer

from nabrel.core.errors import Refused
from nabrel.core.house import House
from nabrel.core.learn.record import Look, checked_looks
from nabrel.core.learn.unlearnt import forecast_hours
from nabrel.core.terms.ids import WearSign
from nabrel.core.terms.signs import SIGN_INFO
from nabrel.formats.wear import TrialSide, Verdict, WearFile, Worn, WornForecast
from nabrel.formats.workspace import StoredWear
from nabrel.store.repositories import Sequences, Sitters
from nabrel.store.run import Runs
from nabrel.store.sound import readable, sound
from nabrel.store.tables import PhotoRow, SequenceRow, SitterRow, WearRow
from nabrel.store.versions import Missing, lock_row

Row = TypeVarTuple("Row")
PICTURE = ".jpg"
MOST_LISTED = 100


@dataclass(frozen=True, slots=True)
class WearListed:
    """One record in a list."""

    wear_id: str
    plan_id: str
    sitter_id: str
    nickname: str
    title: str
    worn_from: str
    looks: int
    last_min: float | None
    signs: tuple[WearSign, ...]


class Wears:
    """The wear records of every sitter."""

    def __init__(self, session: Session) -> None:
        self._session = session

    def begin(self, sequence_id: str, worn: Worn, house: House, run: str | None = None) -> StoredWear:
        """A base was put on, with its forecast for that day: the standing plan, or the plan as it was worked in a run.

        Refuses a run that is unknown, or of another plan.
        """
        revision = Sequences(self._session).get(sequence_id).revision
        if run is not None:
            worked = Runs(self._session).get(run)
            if worked.plan != sequence_id:
                raise Refused("run", run, "a run of this plan")
            revision = worked.revision
        sequence = Sequences(self._session).at(sequence_id, revision)
        forecast = forecast_hours(sequence, house, worn.climate(sequence.case.intent.climate))
        stored = StoredWear(
            id=uuid4().hex,
            plan=sequence_id,
            revision=revision,
            worn=worn,
            forecast={zone: WornForecast.of(hours) for zone, hours in forecast.items()},
            run=run,
        )
        self.save(stored)
        return stored

    def begin_way(self, plan: str, revision: int, worn: Worn, house: House, trial: TrialSide) -> StoredWear:
        """One way of a trial was put on."""
        sequence = Sequences(self._session).at(plan, revision)
        forecast = forecast_hours(sequence, house, worn.climate(sequence.case.intent.climate))
        own = {zone: WornForecast.of(hours) for zone, hours in forecast.items()}
        stored = StoredWear(id=uuid4().hex, plan=plan, revision=revision, worn=worn, forecast=own, trial=trial)
        self.save(stored)
        return stored

    def release(self, key: str) -> StoredWear:
        """It is on trial no more."""
        return self._change(self._held(key), trial=None)

    def get(self, key: str) -> StoredWear:
        """One record. Refuses an unknown one."""
        row = self._row(key)
        return readable("record", lambda: StoredWear.model_validate_json(row.document))

    def look(self, key: str, look: Look) -> StoredWear:
        """Keep a look; it takes the place of another one at the same minute, so that sending twice counts once."""
        stored = self._held(key)
        before = next((each for each in stored.looks if each.after_min == look.after_min), None)
        others = tuple(each for each in stored.looks if each is not before)
        # A photograph comes by its own way, and stays when its look is noted again.
        look = replace(look, photo="" if before is None else before.photo)
        return self._change(stored, looks=self._checked(stored, (*others, look)))

    def look_again(self, key: str, looks: tuple[Look, ...]) -> StoredWear:
        """Keep these looks in place of those there were."""
        stored = self._held(key)
        return self._change(stored, looks=self._checked(stored, looks))

    def worn_on(self, key: str, worn: Worn, house: House) -> StoredWear:
        """It was put on at another moment, or on another kind of day: the forecast is that day's."""
        stored = self.get(key)
        sequence = Sequences(self._session).at(stored.plan, stored.revision)
        forecast = forecast_hours(sequence, house, worn.climate(sequence.case.intent.climate))
        # Held only now: nobody waits for a forecast.
        stored, row = self._held(key), self._row(key)
        row.worn, row.worn_from = _utc(worn), worn.from_
        return self._change(
            stored, worn=worn, forecast={zone: WornForecast.of(each) for zone, each in forecast.items()}
        )

    def take_in(self, sitter_id: str, file: WearFile, house: House) -> StoredWear:
        """Keep a record that came as a file, with one of the sitter's plans: the one that is the same, or the file's own.

        The run, the trial and the photographs that the file names stay where it came from. Refuses a record that is kept already: the same moment, on the same plan.
        """
        sequence = file.sequence.sequence
        sequences = Sequences(self._session)
        owned = [sequences.get(each) for each in Sitters(self._session).get(sitter_id).sequence_ids]
        same = next((each for each in owned if each.sequence.steps == sequence.steps), None)
        plan = sequences.add(sitter_id, sequence, "Came with how it wore") if same is None else same.id
        if any(_utc(each.worn) == _utc(file.worn) for each in self.of([plan])):
            raise Refused(
                "worn.from",
                file.worn.from_,
                "a moment at which no record of this plan begins: this one is kept already",
            )
        begun = self.begin(plan, file.worn, house)
        own = begun.forecast if file.forecast is None else file.forecast
        changed = begun.model_copy(update={"verdict": file.verdict, "forecast": own})
        looks = tuple(replace(look, photo="") for look in file.looks)
        return self._change(changed, looks=self._checked(begun, looks))

    def unlook(self, key: str, after_min: float) -> StoredWear:
        """Forget the look at this minute. Refuses one at which nobody looked."""
        stored = self._held(key)
        others = tuple(each for each in stored.looks if each.after_min != after_min)
        if len(others) == len(stored.looks):
            raise Refused("after_min", after_min, "the minute of a look that is kept")
        self._drop(look.photo for look in stored.looks if look not in others)
        return self._change(stored, looks=others)

    def say(self, key: str, verdict: Verdict) -> StoredWear:
        """Keep what the sitter says of it in the end."""
        return self._change(self._held(key), verdict=verdict)

    def remove(self, key: str) -> None:
        """Forget a record. Refuses an unknown one."""
        self._session.delete(self._row(key))
        self._session.flush()

    def attach(self, key: str, after_min: float, picture: bytes) -> StoredWear:
        """Keep a photograph beside the look at this minute, in place of another one. Refuses a minute at which nobody looked."""
        stored = self._held(key)
        look = next((each for each in stored.looks if each.after_min == after_min), None)
        if look is None:
            raise Refused("after_min", after_min, "the minute of a look that is kept")
        self._drop([look.photo])
        name = f"{uuid4().hex}{PICTURE}"
        self._session.add(PhotoRow(key=_photo_key(name), wear_id=self._row(key).id, picture=picture))
        return self._change(
            stored, looks=tuple(replace(each, photo=name) if each is look else each for each in stored.looks)
        )

    def detach(self, key: str, after_min: float) -> StoredWear:
        """Forget the photograph beside a look. Refuses a look without one."""
        stored = self._held(key)
        look = next((each for each in stored.looks if each.after_min == after_min and each.photo), None)
        if look is None:
            raise Refused("after_min", after_min, "the minute of a look with a photograph")
        self._drop([look.photo])
        return self._change(
            stored, looks=tuple(replace(each, photo="") if each is look else each for each in stored.looks)
        )

    def picture(self, key: str, name: str) -> bytes:
        """A photograph of a record. Refuses one that is not of it."""
        row = self._session.get(PhotoRow, _photo_key(name))
        if row is None or row.wear_id != self._row(key).id:
            raise Missing("photo", name, "the name of a photograph beside one of its looks")
        return row.picture

    def pictures(self, sequence_ids: Iterable[str]) -> dict[str, bytes]:
        """Every photograph of some plans' records, by its name."""
        wanted = (
            select(PhotoRow.key, PhotoRow.picture)
            .join(WearRow, WearRow.id == PhotoRow.wear_id)
            .where(WearRow.sequence_id.in_(list(sequence_ids)))
            .order_by(WearRow.id, PhotoRow.key)
        )
        return {f"{key}{PICTURE}": picture for key, picture in self._session.execute(wanted)}

    def _drop(self, names: Iterable[str]) -> None:
        keys = [_photo_key(name) for name in names if name]
        if keys:
            self._session.execute(delete(PhotoRow).where(PhotoRow.key.in_(keys)))

    def save(self, stored: StoredWear, pictures: Mapping[str, bytes] | None = None) -> None:
        """Keep a record as it is, with the photographs that its looks name; what has an id that another has already gets a new one."""
        if self._find(stored.id) is not None:
            stored = stored.model_copy(update={"id": uuid4().hex})
        row = WearRow(sequence_id=stored.plan, key=stored.id, worn=_utc(stored.worn), worn_from=stored.worn.from_)
        held = {look.photo: (pictures or {}).get(look.photo) for look in stored.looks if look.photo}
        names = {
            name: f"{uuid4().hex}{PICTURE}" if self._pictured(name) else name for name, found in held.items() if found
        }
        looks = tuple(replace(look, photo=names.get(look.photo, "")) for look in stored.looks)
        _write(row, stored.model_copy(update={"looks": looks}))
        self._session.add(row)
        self._session.flush()
        for name, picture in held.items():
            if picture is not None:
                self._session.add(PhotoRow(key=_photo_key(names[name]), wear_id=row.id, picture=picture))
        self._session.flush()

    def _pictured(self, name: str) -> bool:
        return self._session.get(PhotoRow, _photo_key(name)) is not None

    def of(self, sequence_ids: Iterable[str]) -> list[StoredWear]:
        """The records of some plans, oldest first."""
        rows = self._session.scalars(
            select(WearRow).where(WearRow.sequence_id.in_(list(sequence_ids))).order_by(WearRow.worn, WearRow.id)
        )
        return sound(rows, lambda row: StoredWear.model_validate_json(row.document))

    def all(self, sitter_id: str | None = None) -> list[StoredWear]:
        """Every record, or those of one sitter, newest first."""
        wanted = select(WearRow).order_by(WearRow.worn.desc(), WearRow.id.desc())
        if sitter_id is not None:
            wanted = wanted.join(SequenceRow, SequenceRow.id == WearRow.sequence_id).where(
                SequenceRow.sitter_id == sitter_id
            )
        return sound(self._session.scalars(wanted), lambda row: StoredWear.model_validate_json(row.document))

    def documents(self) -> tuple[str, ...]:
        """Every record as it is kept, newest first: what is the same in all of them teaches the same."""
        return tuple(self._session.scalars(select(WearRow.document).order_by(WearRow.worn.desc(), WearRow.id.desc())))

    def listed(
        self, sitter_id: str | None = None, sign: WearSign | None = None, skip: int = 0, most: int = MOST_LISTED
    ) -> list[WearListed]:
        """Records as lists have them, newest first, of one sitter or with one sign seen where asked; no document is read for it."""
        wanted = (
            self._filtered(select(WearRow, SequenceRow.title, SitterRow.id, SitterRow.nickname), sitter_id, sign)
            .options(defer(WearRow.document))
            .join(SitterRow, SitterRow.id == SequenceRow.sitter_id)
            .order_by(WearRow.worn.desc(), WearRow.id.desc())
            .offset(skip)
            .limit(most)
        )
        return [
            WearListed(
                row.key, row.sequence_id, owner, nickname, title, row.worn_from, row.looks, row.last_min,
                tuple(sign for sign in SIGN_INFO if sign in row.signs.split()),
            )
            for row, title, owner, nickname in self._session.execute(wanted)
        ]  # fmt: skip

    def counted(self, sitter_id: str | None = None, sign: WearSign | None = None) -> int:
        """How many records there are, of one sitter or with one sign seen where asked."""
        return self._session.scalar(self._filtered(select(func.count(WearRow.id)), sitter_id, sign)) or 0

    def owners(self) -> list[tuple[str, str]]:
        """The sitters of whom there are records, by id and nickname, in their order."""
        wanted = (
            select(SitterRow.id, SitterRow.nickname)
            .where(SitterRow.id.in_(select(SequenceRow.sitter_id).join(WearRow, WearRow.sequence_id == SequenceRow.id)))
            .order_by(SitterRow.position)
        )
        return [(key, nickname) for key, nickname in self._session.execute(wanted)]

    def nicknames(self) -> dict[str, str]:
        """Whose each record is, by its id."""
        wanted = (
            select(WearRow.key, SitterRow.nickname)
            .join(SequenceRow, SequenceRow.id == WearRow.sequence_id)
            .join(SitterRow, SitterRow.id == SequenceRow.sitter_id)
        )
        return dict(self._session.execute(wanted).all())

    def _filtered(self, wanted: Select[*Row], sitter_id: str | None, sign: WearSign | None) -> Select[*Row]:
        found = wanted.join(SequenceRow, SequenceRow.id == WearRow.sequence_id)
        if sitter_id is not None:
            found = found.where(SequenceRow.sitter_id == sitter_id)
        if sign is not None:
            found = found.where((" " + WearRow.signs + " ").contains(f" {sign} "))
        return found

    def _checked(self, stored: StoredWear, looks: tuple[Look, ...]) -> tuple[Look, ...]:
        return checked_looks(looks, Sequences(self._session).at(stored.plan, stored.revision))

    def _change(self, stored: StoredWear, **fields: object) -> StoredWear:
        changed = stored.model_copy(update=fields)
        _write(self._row(stored.id), changed)
        self._session.flush()
        return changed

    def _find(self, key: str) -> WearRow | None:
        return self._session.scalars(select(WearRow).where(WearRow.key == key)).first()

    def _row(self, key: str) -> WearRow:
        row = self._find(key)
        if row is None:
            raise Missing("wear", key, "the id of a record that is kept")
        return row

    def _held(self, key: str) -> StoredWear:
        """One record that is about to be changed, held until the session ends. Refuses an unknown one."""
        lock_row(self._session, WearRow.key, key)
        return self.get(key)


def _photo_key(name: str) -> str:
    return name.removesuffix(PICTURE)[:32]


def _utc(worn: Worn) -> datetime:
    """The moment, as rows are ordered by."""
    return datetime.fromisoformat(worn.from_).astimezone(UTC).replace(tzinfo=None)


def _write(row: WearRow, stored: StoredWear) -> None:
    """The document of a record, and what lists say of it."""
    seen = {sign for look in stored.looks for signs in look.zones.values() for sign, grade in signs.items() if grade}
    row.document = stored.model_dump_json(exclude_none=True)
    row.looks = len(stored.looks)
    row.last_min = stored.looks[-1].after_min if stored.looks else None
    row.signs = " ".join(sign for sign in SIGN_INFO if sign in seen)
