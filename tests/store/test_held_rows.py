"""A session holds the rows that it works on: it asks for them once, and they never hide what others did before it."""

from __future__ import annotations

import time
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from datetime import date

import pytest
from sqlalchemy import event

from nabrel.core.house import House
from nabrel.core.judge.evaluate import course_of
from nabrel.core.learn.record import Look
from nabrel.core.pace.run import DoneTask, Log
from nabrel.formats.wear import Verdict, Worn
from nabrel.formats.workspace import WorkedRun
from nabrel.store.repositories import Kit, Sequences
from nabrel.store.run import Runs
from nabrel.store.versions import Missing, Stale
from nabrel.store.wear import Wears

HOUSE = House()


class Statements:
    """The statements that reach the database while it is noted."""

    def __init__(self, database) -> None:
        self._engine = database.engine
        self.said: list[str] = []

    def __enter__(self):
        event.listen(self._engine, "before_cursor_execute", self._note)
        return self

    def __exit__(self, *_raised):
        event.remove(self._engine, "before_cursor_execute", self._note)

    def _note(self, _connection, _cursor, statement, *_rest):
        self.said.append(statement)

    def count(self, start: str) -> int:
        return sum(each.startswith(start) for each in self.said)


def test_an_edit_reads_the_row_of_its_sequence_once(stored):
    database, plan_id, sequence = stored
    with Statements(database) as noted, database.session() as session:
        sequences = Sequences(session)
        sequences.assert_head_revision(plan_id, 1)
        sequences.get(plan_id)
        sequences.save(plan_id, 1, replace(sequence, title="Two"), "Second")
    assert noted.count("SELECT sequence.id") == 1
    assert noted.count("INSERT INTO revision") == 1
    assert noted.count("UPDATE sequence") == 2
    assert len(noted.said) <= 9


def test_a_row_read_before_another_session_changed_it_does_not_stand(stored):
    database, plan_id, sequence = stored
    with database.session() as session:
        early = Sequences(session)
        assert early.get(plan_id).revision == 1
    with database.session() as session:
        Sequences(session).save(plan_id, 1, replace(sequence, title="Two"), "Second")
    with database.session() as session:
        with pytest.raises(Stale, match="2, the current one"):
            Sequences(session).assert_head_revision(plan_id, 1)
        assert Sequences(session).get(plan_id).sequence.title == "Two"


def test_several_saves_in_one_session_each_make_a_revision(stored):
    database, plan_id, sequence = stored
    with database.session() as session:
        sequences = Sequences(session)
        for number, title in enumerate(("Two", "Three", "Four"), start=2):
            saved = sequences.save(plan_id, number - 1, replace(sequence, title=title), f"Made {title}")
            assert saved.revision == number
            assert sequences.get(plan_id) == saved
    with database.session() as session:
        assert [each.says for each in Sequences(session).versions(plan_id)] == [
            "Made Four",
            "Made Three",
            "Made Two",
            "Planned",
        ]


def test_redo_is_told_by_the_newest_of_what_was_undone(stored):
    database, plan_id, sequence = stored
    with database.session() as session:
        sequences = Sequences(session)
        sequences.save(plan_id, 1, replace(sequence, title="Left"), "Went left")
        sequences.undo(plan_id)
        assert sequences.get(plan_id).redo_says == "Went left"
        sequences.save(plan_id, 1, replace(sequence, title="Right"), "Went right")
        assert sequences.get(plan_id).redo_says is None
        sequences.undo(plan_id)
        assert sequences.get(plan_id).redo_says == "Went right"
        sequences.redo(plan_id)
        now = sequences.get(plan_id)
    assert (now.sequence.title, now.undo_says, now.redo_says) == ("Right", "Went right", None)


def test_what_fails_in_a_session_is_not_held_by_the_next(stored):
    database, plan_id, sequence = stored

    def fails() -> None:
        with database.session() as session:
            Sequences(session).save(plan_id, 1, replace(sequence, title="Two"), "Second")
            raise RuntimeError("the lamp fell")

    with pytest.raises(RuntimeError, match="the lamp fell"):
        fails()
    with database.session() as session:
        now = Sequences(session).get(plan_id)
    assert (now.revision, now.sequence.title) == (1, sequence.title)


def test_what_is_not_there_is_not_held(database):
    with database.session() as session:
        sequences = Sequences(session)
        for _ in range(2):
            with pytest.raises(Missing, match="sequence"):
                sequences.get("nothing")
            with pytest.raises(Missing, match="sequence"):
                sequences.assert_head_revision("nothing", 1)


# Two who change one document at once


def meanwhile(database, first, second):
    """What the second answers, who comes while the first is not done, and waits for it."""

    def change():
        with database.session() as session:
            return second(session)

    with ThreadPoolExecutor(1) as other:
        with database.session() as session:
            first(session)
            coming = other.submit(change)
            time.sleep(0.3)
            assert not coming.done()
        return coming.result(timeout=20)


def worn(**day):
    return Worn.model_validate({"from": "2026-06-01T09:00+00:00", **day})


@pytest.fixture
def put_on(stored):
    """A record of how the plan wears: the database and the id of the record."""
    database, plan_id, _ = stored
    with database.session() as session:
        return database, Wears(session).begin(plan_id, worn(), HOUSE).id


def test_a_day_and_a_verdict_that_come_together_are_both_there(put_on):
    database, key = put_on
    meanwhile(
        database,
        lambda session: Wears(session).worn_on(key, worn(temperature_c=33.0), HOUSE),
        lambda session: Wears(session).say(key, Verdict(again=True)),
    )
    with database.session() as session:
        found = Wears(session).get(key)
    assert (found.worn.temperature_c, found.verdict.again) == (33.0, True)


def test_two_looks_that_come_together_are_both_there(put_on, stored):
    database, key = put_on
    zone = next(zone for step in stored[2].steps for zone in step.zones)
    first, second = (Look(minute, seen=(zone,)) for minute in (60.0, 120.0))
    meanwhile(
        database, lambda session: Wears(session).look(key, first), lambda session: Wears(session).look(key, second)
    )
    with database.session() as session:
        assert [each.after_min for each in Wears(session).get(key).looks] == [60.0, 120.0]


@pytest.fixture
def pack(stored):
    """A step that takes from one pack alone, and what it takes as a share of the pack, which is full."""
    database, _, sequence = stored
    by_item = {}
    for done in course_of(sequence, HOUSE).done:
        if done.take is not None and done.mixed is not None:
            for item, share in done.mixed.items:
                by_item.setdefault(item.id, []).append((done.step.id, item, share * done.take.amount))
    [(step, item, amount)] = next(taken for taken in by_item.values() if len(taken) == 1 and taken[0][1].ml)
    with database.session() as session:
        Kit(session).put(replace(item, left=1.0))
    return step, item.id, amount / item.ml


def left_of(database, item_id):
    with database.session() as session:
        return next(item.left for item in Kit(session).all() if item.id == item_id)


def test_a_plan_that_is_done_twice_at_once_takes_twice_from_the_packs(stored, pack):
    (database, plan_id, _), (_, item, share) = stored, pack
    done = [lambda session: Runs(session).record(plan_id, date(2026, 6, 1), HOUSE)] * 2
    meanwhile(database, *done)
    assert left_of(database, item) == pytest.approx(1.0 - 2 * share)


def test_a_run_that_is_finished_twice_at_once_takes_from_the_packs_once(stored, pack):
    (database, plan_id, _), (step, item, share) = stored, pack
    with database.session() as session:
        Runs(session).begin(plan_id, WorkedRun(id="twice", started="2026-06-01T09:00:00+00:00"))
    log = Log((DoneTask(step, 0.0, 30.0),))
    finished = [lambda session: Runs(session).put("twice", log, HOUSE, finish=True)] * 2
    assert meanwhile(database, *finished).worked.finished
    assert left_of(database, item) == pytest.approx(1.0 - share)
