"""What stands, who may change it, and what a revision costs to read."""

from __future__ import annotations

from dataclasses import replace
from threading import Barrier, Thread

import pytest
from sqlalchemy import event

from nabrel.core.house import House
from nabrel.store import repositories
from nabrel.store.repositories import Sequences, Sitters
from nabrel.store.versions import Missing, Stale
from nabrel.web.app import create_app

HOUSE = House()


def changed(sequence, title):
    return replace(sequence, title=title)


def test_saving_answers_with_what_then_stands(stored):
    database, plan_id, sequence = stored
    with database.session() as session:
        saved = Sequences(session).save(plan_id, 1, changed(sequence, "Two"), "Second")
    with database.session() as session:
        read = Sequences(session).get(plan_id)
    assert saved == read
    assert (read.revision, read.undo_says, read.redo_says) == (2, "Second", None)


def test_what_stands_is_told_without_its_document(stored):
    database, plan_id, sequence = stored
    with database.session() as session:
        Sequences(session).save(plan_id, 1, changed(sequence, "Two"), "Second")
    said: list[str] = []

    @event.listens_for(database.engine, "before_cursor_execute")
    def note(_connection, _cursor, statement, *_rest):
        said.append(statement)

    with database.session() as session:
        assert Sequences(session).head(plan_id) == (2, "Second")
        assert [each.number for each in Sequences(session).versions(plan_id)] == [2, 1]
    event.remove(database.engine, "before_cursor_execute", note)
    assert said
    assert not any("document" in each for each in said)


def test_a_revision_is_read_once(stored, monkeypatch):
    database, plan_id, _ = stored
    read = []
    genuine = repositories.read_stored
    monkeypatch.setattr(repositories, "read_stored", lambda *saved: read.append(1) or genuine(*saved))
    repositories._sequence_of.cache_clear()
    for _ in range(3):
        with database.session() as session:
            Sequences(session).get(plan_id)
    assert len(read) == 1


def test_what_is_erased_is_not_kept_in_memory(stored):
    database, plan_id, _ = stored
    with database.session() as session:
        sitter = Sequences(session).get(plan_id).sitter_id
    assert repositories._sequence_of.cache_info().currsize
    assert create_app(database).test_client().delete(f"/api/sitters/{sitter}").status_code == 200
    assert repositories._sequence_of.cache_info().currsize == 0


def test_a_revision_that_does_not_stand_is_refused_before_anything_is_written(stored):
    database, plan_id, sequence = stored
    with database.session() as session:
        Sequences(session).save(plan_id, 1, changed(sequence, "Two"), "Second")
    with database.session() as session, pytest.raises(Stale, match="2, the current one"):
        Sequences(session).save(plan_id, 1, changed(sequence, "Three"), "Third")
    with database.session() as session, pytest.raises(Missing):
        Sequences(session).assert_head_revision("nothing", 1)
    with database.session() as session:
        assert Sequences(session).head(plan_id) == (2, "Second")


def test_two_that_saw_the_same_revision_cannot_both_save(stored):
    """Both read first and only then save: the second is told, whatever it has read."""
    database, plan_id, sequence = stored
    seen, outcomes = Barrier(2), []

    def save(title):
        try:
            with database.session() as session:
                sequences = Sequences(session)
                assert sequences.get(plan_id).revision == 1
                seen.wait(timeout=10)
                sequences.save(plan_id, 1, changed(sequence, title), title)
        except Stale:
            outcomes.append("told")
        else:
            outcomes.append("saved")

    hands = [Thread(target=save, args=(title,)) for title in ("One hand", "The other")]
    for hand in hands:
        hand.start()
    for hand in hands:
        hand.join()
    assert sorted(outcomes) == ["saved", "told"]


def test_two_records_of_a_face_cannot_both_be_kept(stored):
    database, plan_id, sequence = stored
    with database.session() as session:
        sitter = Sequences(session).get(plan_id).sitter_id
    person, intent = sequence.case.sitter, sequence.case.intent
    seen, outcomes = Barrier(2), []

    def decide(about):
        try:
            with database.session() as session:
                sitters = Sitters(session)
                assert sitters.get(sitter).version == 1
                seen.wait(timeout=10)
                sitters.change(sitter, 1, replace(person, about=about), intent)
        except Stale:
            outcomes.append("told")
        else:
            outcomes.append("kept")

    hands = [Thread(target=decide, args=(about,)) for about in ("one", "another")]
    for hand in hands:
        hand.start()
    for hand in hands:
        hand.join()
    assert sorted(outcomes) == ["kept", "told"]
    with database.session() as session:
        assert Sitters(session).get(sitter).version == 2
