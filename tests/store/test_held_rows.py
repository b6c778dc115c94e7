"""A session holds the rows that it works on: it asks for them once, and they never hide what others did before it."""

from __future__ import annotations

from dataclasses import replace

import pytest
from sqlalchemy import event

from nabrel.core.house import House
from nabrel.store.repositories import Sequences
from nabrel.store.versions import Missing, Stale

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
