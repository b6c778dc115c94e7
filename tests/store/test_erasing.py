"""Erasing leaves nothing: not in the tables, the write-ahead log, a backup, or anything else in the data folder."""

from __future__ import annotations

import json
import sqlite3
from contextlib import closing
from dataclasses import replace
from pathlib import Path

import pytest

from nabrel.store import backup
from nabrel.store import database as module
from nabrel.store.database import ERASING, Database
from nabrel.store.folder import FILE_NAME, Unusable
from nabrel.store.repositories import Sequences, Sitters
from nabrel.store.workspace import gather, replace_all
from nabrel.web.app import create_app

NICKNAME = "Zuleikha-Ottoline"


def bytes_of(folder: Path) -> dict[str, bytes]:
    return {file.relative_to(folder).as_posix(): file.read_bytes() for file in folder.rglob("*") if file.is_file()}


def found_in(folder: Path, *words: str) -> list[str]:
    return [name for name, held in bytes_of(folder).items() if any(word.encode() in held for word in words)]


@pytest.fixture
def sitter(demo_database):
    """A sitter whose name stands in nobody else's data, with plans, revisions, a backup, and edits in the log."""
    client = create_app(demo_database).test_client()
    case = client.get(f"/api/sitters/{client.get('/api/sitters').json['sitters'][0]['id']}/case").json
    case["sitter"]["nickname"] = NICKNAME
    made = client.post("/api/cases", json=case).json
    for place in range(3):
        plan = client.get(f"/api/sequences/{made['sequence_id']}").json
        step = next(each["id"] for each in plan["steps"] if each["kind"] == "foundation")
        body = {"edits": [{"edit": "wait", "step": step, "wait_s": 30 + place}], "revision": plan["revision"]}
        assert client.post(f"/api/sequences/{made['sequence_id']}/edits", json=body).status_code == 200
    demo_database.back_up("daily")
    assert len(found_in(demo_database.folder, NICKNAME)) >= 2
    return made["sitter_id"]


def test_nothing_of_an_erased_sitter_is_left_in_any_file(demo_database, sitter):
    with demo_database.session() as session:
        others = len(Sitters(session).all()) - 1
    answer = create_app(demo_database).test_client().delete(f"/api/sitters/{sitter}")
    assert answer.json["finished"]
    assert found_in(demo_database.folder, NICKNAME, sitter) == []
    [stored] = backup.backups_in(demo_database.folder)
    with closing(sqlite3.connect(stored)) as copy:
        assert copy.execute("select count(*) from sitter").fetchone() == (others,)
        assert copy.execute("select count(*) from revision").fetchone()[0] >= others


def test_replacing_the_workspace_leaves_nothing_in_the_log(demo_database, sitter):
    with demo_database.session() as session:
        held = gather(session)
        replace_all(session, replace(held, people=[person for person in held.people if person.id != sitter]))
    assert demo_database.checkpoint()
    files = bytes_of(demo_database.folder)
    assert not files.get(FILE_NAME + "-wal")
    assert NICKNAME.encode() not in files[FILE_NAME]


def test_closing_leaves_the_main_file_alone_a_whole_database(demo_database, sitter, tmp_path):
    demo_database.close()
    alone = tmp_path / "alone" / FILE_NAME
    alone.parent.mkdir()
    alone.write_bytes(demo_database.path.read_bytes())
    again = Database(alone.parent)
    with again.session() as session:
        assert NICKNAME in [stored.sitter.nickname for stored in Sitters(session).all()]
    again.close()


def test_what_a_reader_holds_up_is_said_and_finished_at_the_next_start(demo_database, sitter, monkeypatch):
    monkeypatch.setattr(module, "PATIENCE_S", 0.2)
    with closing(sqlite3.connect(demo_database.path)) as reader:
        reader.execute("begin")
        reader.execute("select count(*) from sitter").fetchone()
        answer = create_app(demo_database).test_client().delete(f"/api/sitters/{sitter}")
        assert answer.json["finished"] is False
        assert NICKNAME not in (demo_database.folder / ERASING).read_text(encoding="utf-8")
        reader.rollback()
    demo_database.close()
    again = Database(demo_database.folder)
    assert found_in(demo_database.folder, NICKNAME, sitter) == []
    assert not (again.folder / ERASING).exists()
    again.close()


def test_a_backup_that_cannot_be_rewritten_is_tried_again_at_the_next_start(demo_database, sitter, monkeypatch):
    def full(*_: object) -> None:
        raise Unusable("There is no room left.", "Free some.")

    monkeypatch.setattr(module.backup, "erase_from", full)
    assert create_app(demo_database).test_client().delete(f"/api/sitters/{sitter}").json["finished"] is False
    with demo_database.session() as session:
        assert sitter not in [stored.id for stored in Sitters(session).all()]
    monkeypatch.undo()
    demo_database.close()
    again = Database(demo_database.folder)
    assert found_in(again.folder, NICKNAME, sitter) == []
    again.close()


def test_an_unknown_sitter_erases_nothing(demo_database):
    client = create_app(demo_database).test_client()
    before = client.get("/api/sitters").json
    assert client.delete("/api/sitters/nobody").status_code == 404
    assert client.get("/api/sitters").json == before
    assert not (demo_database.folder / ERASING).exists()


def test_plans_of_others_are_read_as_before(demo_database, sitter):
    with demo_database.session() as session:
        others = {
            plan: Sequences(session).get(plan)
            for stored in Sitters(session).all()
            if stored.id != sitter
            for plan in stored.sequence_ids
        }
    assert demo_database.erase({sitter: NICKNAME})
    assert len(others) > 5
    with demo_database.session() as session:
        assert {plan: Sequences(session).get(plan) for plan in others} == others


def test_a_damaged_database_kept_aside_goes_with_a_sitter_it_holds(demo_database, sitter):
    mine, others = demo_database.folder / "damaged-1-nabrel.sqlite", demo_database.folder / "damaged-2-nabrel.sqlite"
    demo_database.checkpoint()
    mine.write_bytes(demo_database.path.read_bytes()[100:])
    others.write_bytes(b"nobody at all")
    assert NICKNAME.encode() in mine.read_bytes()
    assert demo_database.erase({sitter: NICKNAME})
    assert (mine.exists(), others.exists()) == (False, True)
    assert found_in(demo_database.folder, NICKNAME) == []


def test_a_name_goes_from_classes_however_it_was_written_and_typed(demo_database):
    """A student in other case and spacing; a nickname typed into a class without the link to the face."""
    client = create_app(demo_database).test_client()
    classes = [each["id"] for course in client.get("/api/classes").json["courses"] for each in course["classes"]]
    student = client.post("/api/drill/students", json={"name": "Ottoline Ash", "group": ""}).json["id"]
    tamsin = next(each["id"] for each in client.get("/api/sitters").json["sitters"] if each["nickname"] == "Tamsin")
    typed = ["OTTOLINE  ash", "ottoline ASH", "tAmSiN", "Tamsin Other", "Ottoline"]
    with demo_database.engine.begin() as connection:
        for number, name in enumerate(typed):
            connection.exec_driver_sql(
                "INSERT INTO class_student VALUES (?, ?, NULL, ?, json_object('name', ?))",
                (f"typed-{number}", classes[number % len(classes)], 90 + number, name),
            )
        connection.exec_driver_sql("INSERT INTO class_student VALUES ('odd', ?, NULL, 99, 'no json')", (classes[0],))
    stored = demo_database.back_up("daily")
    assert client.get(f"/api/drill/students/{student}").json["classes"] == 2
    assert client.get(f"/api/sitters/{tamsin}/belongings").json["named"] == 1
    assert client.delete(f"/api/drill/students/{student}").json["classes"] == 2
    assert client.delete(f"/api/sitters/{tamsin}").json["named"] == 1
    for file in (demo_database.path, stored):
        with closing(sqlite3.connect(file)) as found:
            left = {
                row[0] for row in found.execute("SELECT key FROM class_student WHERE key LIKE 'typed-%' OR key = 'odd'")
            }
        assert left == {"typed-3", "typed-4", "odd"}, "others of a like name stay, and what cannot be read"


def test_what_is_noted_of_an_erasing_names_nobody(demo_database, sitter, monkeypatch):
    def full(*_: object) -> None:
        raise Unusable("There is no room left.", "Free some.")

    monkeypatch.setattr(module.backup, "erase_from", full)
    demo_database.back_up("daily")
    assert not demo_database.erase({sitter: NICKNAME}, {"a" * 32: "Ottoline Ash"})
    note = (demo_database.folder / ERASING).read_text(encoding="utf-8")
    assert "a" * 32 in note
    assert not [word for word in (NICKNAME, "ttoline", "Ash") if word in note]


def test_the_notes_of_older_nabrels_are_finished(demo_database):
    client = create_app(demo_database).test_client()
    student = client.post("/api/drill/students", json={"name": "Ottoline Ash", "group": ""}).json["id"]
    sitter = client.get("/api/sitters").json["sitters"][0]["id"]
    demo_database.close()
    for note in ([sitter], {"sitters": [sitter], "students": {student: "Ottoline Ash"}}):
        (demo_database.folder / ERASING).write_text(json.dumps(note), encoding="utf-8")
        Database(demo_database.folder).close()
        assert not (demo_database.folder / ERASING).exists()
    with closing(sqlite3.connect(demo_database.path)) as found:
        assert found.execute("SELECT count(*) FROM student WHERE key = ?", (student,)).fetchone() == (0,)
        assert found.execute("SELECT count(*) FROM sitter WHERE id = ?", (sitter,)).fetchone() == (0,)
