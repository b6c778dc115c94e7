"""Erasing leaves nothing: not in the tables, the write-ahead log, a backup, or anything else in the data folder."""

from __future__ import annotations

import json
import sqlite3
from contextlib import closing
from dataclasses import replace
from pathlib import Path

import pytest

from nabrel.core.shelf.tools import NamedKit
from nabrel.formats.loader import unpacked
from nabrel.store import backup
from nabrel.store import database as module
from nabrel.store.database import ERASING, Database
from nabrel.store.erasing import PLACES, of_sitter, of_student
from nabrel.store.folder import FILE_NAME, Unusable
from nabrel.store.names import unmentioned, words_digest
from nabrel.store.repositories import Sequences, Sitters
from nabrel.store.shelf import NamedKits
from nabrel.store.workspace import gather, replace_all
from nabrel.web.app import create_app

NICKNAME = "Zuleikha-Ottoline"
FOUNDATION = {"role": "foundation", "texture": "liquid", "base": "water", "lab": [60.0, 10.0, 15.0], "cover": 0.5}


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

    monkeypatch.setattr(module, "erase_from", full)
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
    assert demo_database.erase(of_sitter(sitter, NICKNAME))
    assert len(others) > 5
    with demo_database.session() as session:
        assert {plan: Sequences(session).get(plan) for plan in others} == others


def test_a_damaged_database_kept_aside_goes_with_a_sitter_it_holds(demo_database, sitter):
    mine, others = demo_database.folder / "damaged-1-nabrel.sqlite", demo_database.folder / "damaged-2-nabrel.sqlite"
    demo_database.checkpoint()
    mine.write_bytes(demo_database.path.read_bytes()[100:])
    others.write_bytes(b"nobody at all")
    assert NICKNAME.encode() in mine.read_bytes()
    assert demo_database.erase(of_sitter(sitter, NICKNAME))
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

    monkeypatch.setattr(module, "erase_from", full)
    demo_database.back_up("daily")
    assert not demo_database.erase(of_sitter(sitter, NICKNAME).with_(of_student("a" * 32, "Ottoline Ash")))
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


@pytest.fixture
def named_all_over(demo_database):
    """Titles of others that name Tamsin: certainly, or in words that could mean something else. An older title stands in a backup alone."""
    client = create_app(demo_database).test_client()
    sitters = {each["nickname"]: each for each in client.get("/api/sitters").json["sitters"]}
    merrick = sitters["Merrick"]["sequence_id"]
    with demo_database.session() as session:
        stored = Sequences(session).get(merrick)
        titled = replace(stored.sequence, title="Merrick, as Tamsin")
        Sequences(session).save(merrick, stored.revision, titled, "Adapted from Tamsin")
        NamedKits(session).put(NamedKit(id="tamsins", name="TAMSIN's case"))
    key = client.get("/api/classes").json["courses"][0]["classes"][0]["id"]

    def entitle(title: str, course: str) -> None:
        with demo_database.engine.begin() as connection:
            connection.exec_driver_sql(
                "UPDATE class SET document = json_set(document, '$.title', ?, '$.course', ?) WHERE key = ?",
                (title, course, key),
            )

    entitle("An evening for Tamsin and Wren", "tamsin in lower case")
    demo_database.back_up("daily")
    entitle("Tamsin", "Thursdays")
    return client, sitters["Tamsin"]["id"], merrick, key


def texts_with(folder: Path, word: str) -> list[str]:
    """What the columns of titles hold with a word in it, in every database file of a folder."""
    found = []
    for file in [folder / FILE_NAME, *backup.all_of(folder)]:
        with closing(sqlite3.connect(file)) as opened:
            for place in PLACES:
                for (held,) in opened.execute(f'SELECT {place.column} FROM "{place.table}"'):
                    said = "" if held is None else unpacked(held)
                    found += [said] if word.lower() in said.lower() else []
    return found


def test_titles_that_name_who_is_erased_are_listed_with_those_that_could_mean_something_else(named_all_over):
    client, tamsin, merrick, key = named_all_over
    found = client.get(f"/api/sitters/{tamsin}/belongings").json["mentions"]
    assert {(each["id"], each["text"], each["sure"]) for each in found} == {
        (f"plan:{merrick}", "Merrick, as Tamsin", True),
        (f"plan:{merrick}", "Adapted from Tamsin", True),
        (f"class:{key}", "An evening for Tamsin and Wren", True),
        (f"class:{key}", "tamsin in lower case", False),
        (f"class:{key}", "Tamsin", False),
        ("kit:tamsins", "TAMSIN's case", False),
    }
    client.put("/api/kit/items/tamsin", json={"id": "tamsin", "name": "Tamsin rose", **FOUNDATION})
    again = client.get(f"/api/sitters/{tamsin}/belongings").json["mentions"]
    assert len(again) == len(found)
    assert not any(each["sure"] for each in again), "a word of the shelf too"


def test_names_go_from_titles_in_every_file_but_where_they_are_to_stay(named_all_over, demo_database):
    client, tamsin, merrick, key = named_all_over
    version = client.get(f"/api/classes/{key}").json["version"]
    assert len(texts_with(demo_database.folder, "tamsin")) > 6
    gone = client.delete(f"/api/sitters/{tamsin}?leave=kit:tamsins&leave=plan:nobody")
    assert (gone.json["titles"], gone.json["finished"]) == (2, True)
    left = texts_with(demo_database.folder, "tamsin")
    assert {json.loads(each)["name"] if each.startswith("{") else each for each in left} == {"TAMSIN's case"}
    assert client.get(f"/api/sequences/{merrick}").json["undo_says"] == "Adapted from somebody"
    shown = client.get(f"/api/classes/{key}")
    assert (shown.json["room"]["title"], shown.json["version"]) == ("Somebody", version + 1)
    assert "An evening for somebody and Wren" in "".join(texts_with(demo_database.folder, "an evening for"))


def test_a_students_name_goes_from_titles_too(named_all_over, demo_database):
    client, *_ = named_all_over
    student = client.post("/api/drill/students", json={"name": "Thursdays Ash", "group": ""}).json["id"]
    with demo_database.engine.begin() as connection:
        change = "UPDATE drill_set SET document = json_set(document, '$.title', 'For thursdays  ASH, once more')"
        connection.exec_driver_sql(change)
    listed = client.get(f"/api/drill/students/{student}/mentions").json["mentions"]
    assert [(each["kind"], each["sure"]) for each in listed] == [("set", False)] * len(listed) != []
    assert client.delete(f"/api/drill/students/{student}").json["titles"] == len(listed)
    assert texts_with(demo_database.folder, "for thursdays") == []
    assert len(texts_with(demo_database.folder, "For somebody, once more")) == len(listed)
    assert texts_with(demo_database.folder, "Thursdays") != [], "another word alone is not the name"


@pytest.mark.parametrize(
    ("name", "text", "without"),
    [
        ("Tamsin", "TAMSIN’s evening", "Somebody’s evening"),
        ("Zoë", "For Zoe\u0308, zoé and ZOË", "For somebody, zoé and somebody"),
        ("Zuleikha-Ottoline", "As zuleikha ottoline", "As somebody"),
        ("Ash", "Ashen; Nash; ash-blond", "Ashen; Nash; somebody-blond"),
        ("Jo Jo", "Jo Jo Jo Jo Jo", "Somebody somebody Jo"),
        ("🌸", "For 🌸", "For 🌸"),
        ("Al", "x" * 78 + " Al", "x" * 78 + " so"),
        ("Al", "Al\n\x00Al", "Somebody\n\x00somebody"),
    ],
)
def test_a_name_is_taken_out_of_a_text_as_a_whole_word(name, text, without):
    assert unmentioned(text, words_digest(name)) == without
    assert unmentioned("Ease", words_digest(name)) == "Ease"
