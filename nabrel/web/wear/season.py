"""A season of wear over HTTP: where it wears short, and a sitter's course beside the readings of oil."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator
from math import isfinite
from pathlib import Path

from sqlalchemy.orm import Session

from nabrel.core.face.measuring import place_words
from nabrel.core.learn.season import Short, day_of, wears_short
from nabrel.core.plan.sequence import Sequence
from nabrel.core.terms.zones import REGION_INFO
from nabrel.formats.values import filled
from nabrel.formats.workspace import StoredWear
from nabrel.store.database import joined
from nabrel.store.repositories import Sequences, Sitters
from nabrel.store.skin_readings import SkinReadings
from nabrel.store.wear import Wears
from nabrel.web.shared.endpoints import Endpoints
from nabrel.web.shared.requests import database, heavy, remembered
from nabrel.web.wear import answers as ww

wear_season = Endpoints("wear_season", __name__, url_prefix="/api", tag="wear")


@wear_season.get("/wears/season", "season")
def get_season(query: ww.WearsQuery) -> ww.SeasonWire:
    """Where bases wear shorter than forecast; with a sitter also the course of their bases and of their oil."""
    with database().session() as session:
        if query.sitter is None:
            short = remembered().wears_short(
                Wears(session).documents(), lambda: heavy("learning", _short, database().folder)
            )
            return _wire(short, [], "", [])
        Sitters(session).get(query.sitter)
        records = _records(session, query.sitter)
        place, oil = _oil(session, query.sitter)
    short = wears_short([stored.wearing(sequence) for stored, sequence in records])
    return _wire(short, [day for stored, sequence in records for day in _days(stored, sequence)], place, oil)


def _records(session: Session, sitter: str | None = None) -> list[tuple[StoredWear, Sequence]]:
    """Records with the plans they are of, oldest first."""
    sequences = Sequences(session)
    return [(stored, sequences.at(stored.plan, stored.revision)) for stored in reversed(Wears(session).all(sitter))]


def _short(folder: Path) -> tuple[Short, ...]:
    with joined(folder) as session:
        return wears_short([stored.wearing(sequence) for stored, sequence in _records(session)])


def _wire(short: Iterable[Short], course: list[ww.CourseDayWire], place: str, oil: list[ww.OilWire]) -> ww.SeasonWire:
    return ww.SeasonWire(
        short=[filled(ww.ShortSpanWire, each, words=REGION_INFO[each.region].words) for each in short],
        course=course,
        oil_place=place,
        oil=oil,
    )


def _days(stored: StoredWear, sequence: Sequence) -> Iterator[ww.CourseDayWire]:
    climate = stored.worn.climate(sequence.case.intent.climate)
    for day in day_of(stored.wearing(sequence)):
        yield filled(
            ww.CourseDayWire,
            day,
            wear_id=stored.id,
            worn_from=stored.worn.from_,
            temperature_c=climate.temperature_c,
            to_h=round(day.to_h, 2) if isfinite(day.to_h) else None,
        )


def _oil(session: Session, sitter: str) -> tuple[str, list[ww.OilWire]]:
    """Readings of oil of the place that was read most often, in the order of their days."""
    read = [each for _, each in SkinReadings(session).of(sitter) if each.what == "oil" and each.value is not None]
    if not read:
        return "", []
    place = Counter(each.place for each in read).most_common(1)[0][0]
    rows = sorted((each for each in read if each.place == place), key=lambda each: each.day)
    return place_words(place), [ww.OilWire(day=each.day.isoformat(), value=each.value or 0.0) for each in rows]
