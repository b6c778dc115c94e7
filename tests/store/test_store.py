"""The store: migrations, revisions with undo and redo, and nothing half-saved."""

from __future__ import annotations

from dataclasses import replace

import pytest
from sqlalchemy import inspect, text

from nabrel.core.ask.recommend import plan
from nabrel.core.errors import Refused
from nabrel.core.house import House
from nabrel.demo.fill import fill
from nabrel.store.database import Database
from nabrel.store.erasing import of_sitter
from nabrel.store.folder import data_folder
from nabrel.store.repositories import Kit, Sequences, Sitters, take_in_case
from nabrel.store.tables import Base
from nabrel.store.versions import Missing, Stale

HOUSE = House()


@pytest.fixture
def stored(database, people):
    """A database with one sitter and one plan."""
    with database.session() as session:
        sitter_id, _ = take_in_case(session, people["Tamsin"])
        sequence_id = Sequences(session).add(sitter_id, plan(people["Tamsin"], HOUSE))
    return database, sitter_id, sequence_id


def changed(sequence, title):
    return replace(sequence, title=title)


def test_migrations_give_the_tables_of_the_models(database):
    found = inspect(database.engine)
    for table in Base.metadata.sorted_tables:
        assert {c["name"] for c in found.get_columns(table.name)} == set(table.columns.keys())


def test_foreign_keys_are_on_and_the_log_is_write_ahead(database):
    with database.engine.connect() as connection:
        assert connection.execute(text("PRAGMA foreign_keys")).scalar() == 1
        assert connection.execute(text("PRAGMA journal_mode")).scalar() == "wal"


def test_opening_twice_keeps_what_is_there(stored, tmp_path):
    database, sitter_id, _ = stored
    again = Database(database.path.parent)
    with again.session() as session:
        assert Sitters(session).get(sitter_id).sitter.nickname == "Tamsin"
    again.close()


def test_the_data_folder_follows_the_environment(monkeypatch, tmp_path):
    monkeypatch.setenv("NABREL_DATA", str(tmp_path / "here"))
    assert data_folder() == tmp_path / "here"
    monkeypatch.delenv("NABREL_DATA")
    assert data_folder().name == "nabrel"


def test_a_case_comes_back_as_it_went_in(stored, people):
    database, sitter_id, sequence_id = stored
    with database.session() as session:
        assert Sitters(session).get(sitter_id).sitter == people["Tamsin"].sitter
        assert Kit(session).all() == people["Tamsin"].kit
        assert Sequences(session).get(sequence_id).sequence == plan(people["Tamsin"], HOUSE)


def test_undo_and_redo_walk_the_revisions(stored):
    database, _, sequence_id = stored
    with database.session() as session:
        sequences = Sequences(session)
        first = sequences.get(sequence_id)
        sequences.save(sequence_id, 1, changed(first.sequence, "two"), "made it two")
        sequences.save(sequence_id, 2, changed(first.sequence, "three"), "made it three")
    with database.session() as session:
        sequences = Sequences(session)
        assert sequences.get(sequence_id).undo_says == "made it three"
        sequences.undo(sequence_id)
        sequences.undo(sequence_id)
        back = sequences.get(sequence_id)
        assert (back.sequence.title, back.undo_says, back.redo_says) == ("", None, "made it two")
        sequences.redo(sequence_id)
        assert sequences.get(sequence_id).sequence.title == "two"


def test_an_edit_after_undo_starts_a_new_branch_and_loses_nothing(stored):
    database, _, sequence_id = stored
    with database.session() as session:
        sequences = Sequences(session)
        first = sequences.get(sequence_id).sequence
        sequences.save(sequence_id, 1, changed(first, "two"), "two")
        sequences.undo(sequence_id)
        sequences.save(sequence_id, 1, changed(first, "other"), "other")
        assert sequences.get(sequence_id).sequence.title == "other"
        sequences.undo(sequence_id)
        assert sequences.get(sequence_id).redo_says == "other"
        rows = session.execute(text("select count(*) from revision")).scalar()
        assert rows == 3


def test_there_is_an_end_to_undo_and_redo(stored):
    database, _, sequence_id = stored
    with database.session() as session, pytest.raises(Refused, match="undo"):
        Sequences(session).undo(sequence_id)
    with database.session() as session, pytest.raises(Refused, match="redo"):
        Sequences(session).redo(sequence_id)


def test_an_edit_on_an_old_revision_is_stale(stored):
    database, _, sequence_id = stored
    with database.session() as session:
        first = Sequences(session).get(sequence_id).sequence
        Sequences(session).save(sequence_id, 1, changed(first, "theirs"), "theirs")
    with database.session() as session, pytest.raises(Stale):
        Sequences(session).save(sequence_id, 1, changed(first, "mine"), "mine")
    with database.session() as session:
        assert Sequences(session).get(sequence_id).sequence.title == "theirs"


def test_unknown_ids_are_missing(database):
    with database.session() as session:
        with pytest.raises(Missing):
            Sitters(session).get("nobody")
        with pytest.raises(Missing):
            Sequences(session).get("nothing")


def test_a_failure_in_the_middle_leaves_the_state_before_it(database, people):
    def cut_short() -> None:
        with database.session() as session:
            take_in_case(session, people["Wren"])
            raise RuntimeError("the power went")

    with pytest.raises(RuntimeError):
        cut_short()
    with database.session() as session:
        assert Sitters(session).all() == []
        assert Kit(session).all() == ()


def test_the_same_kit_is_taken_in_once_and_a_different_twin_gets_its_own_id(database, people):
    kit = people["Wren"].kit
    with database.session() as session:
        assert len(Kit(session).take_in(kit)) == len(kit)
        assert Kit(session).take_in(kit) == ()
        other = replace(kit[0], name="Something else")
        assert Kit(session).take_in([other]) == (f"{kit[0].id}-2",)
        assert Kit(session).take_in([other]) == ()
        assert len(Kit(session).all()) == len(kit) + 1


def test_erasing_a_sitter_erases_plans_and_revisions(stored):
    database, sitter_id, _ = stored
    with database.session() as session:
        session.execute(text("delete from sitter where id = :id"), {"id": sitter_id})
    with database.session() as session:
        assert session.execute(text("select count(*) from revision")).scalar() == 0


def test_the_demo_fills_an_empty_store_once(database):
    assert fill(database)
    assert not fill(database)
    with database.session() as session:
        saved = Sitters(session).all()
    assert len(saved) == 8
    assert all(len(each.sequence_ids) == 1 for each in saved)


def test_an_erased_sitter_leaves_no_trace_in_the_file(stored):
    database, sitter_id, sequence_id = stored
    with database.session() as session:
        assert Sitters(session).belongings(sitter_id) == (1, 1)
    assert database.erase(of_sitter(sitter_id, "Somebody"))
    with database.session() as session, pytest.raises(Missing):
        Sequences(session).get(sequence_id)
    assert b"Tamsin" not in b"".join(file.read_bytes() for file in database.folder.rglob("*") if file.is_file())


def test_house_rules_survive_and_are_reset_one_by_one(database):
    from nabrel.formats.files import DecidedParameter, DecidedRule
    from nabrel.store.house_rules import HouseRules

    with database.session() as session:
        HouseRules(session).decide_rule("thin-passes", DecidedRule(off=True, note="n"))
        HouseRules(session).decide_parameter("bake_s", DecidedParameter(value=600.0))
    with database.session() as session:
        house = HouseRules(session).house()
        assert house.on_rule("thin-passes").off
        assert house.bake_s == 600.0
        HouseRules(session).reset("parameter", "bake_s")
    with database.session() as session:
        house = HouseRules(session).house()
        assert house.bake_s == HOUSE.bake_s
        assert house.on_rule("thin-passes").off


def test_a_refused_decision_leaves_the_ones_that_stand(database):
    from nabrel.formats.files import DecidedParameter, HouseFile
    from nabrel.store.house_rules import HouseRules

    with database.session() as session:
        HouseRules(session).decide_parameter("bake_s", DecidedParameter(value=600.0))
    wrong = HouseFile(nabrel="house", version=1, parameters={"bake_s": DecidedParameter(value=-1.0)})
    with pytest.raises(Refused, match="bake_s"), database.session() as session:
        HouseRules(session).replace(wrong)
    with database.session() as session:
        assert HouseRules(session).house().bake_s == 600.0


def test_a_kit_is_kept_once_and_a_revision_is_small(demo_database):
    """Twenty edits of a plan add twenty revisions of a few kilobytes, and no kit."""
    with demo_database.session() as session:
        sequences = Sequences(session)
        plan_id = Sitters(session).all()[0].sequence_ids[0]
        kits = session.execute(text("select count(*) from kit_snapshot")).scalar()
        assert kits == 1
        for number in range(1, 21):
            current = sequences.get(plan_id)
            sequences.save(plan_id, current.revision, replace(current.sequence, title=f"Take {number}"), "Renamed")
        assert session.execute(text("select count(*) from kit_snapshot")).scalar() == kits
        sizes = list(session.execute(text("select length(document) from revision")).scalars())
    assert len(sizes) > 20
    assert max(sizes) < 8000
