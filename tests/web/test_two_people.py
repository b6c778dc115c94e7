"""Two people at one shelf, one house and one sitter: whoever is second is told, and nothing is lost in silence."""

from __future__ import annotations

import sqlite3
from collections import Counter
from contextlib import closing
from datetime import date
from threading import Barrier, Thread, Timer

import pytest

from nabrel.store.database import Database, migrate
from nabrel.store.tables import KitItemRow
from nabrel.web.app import create_app
from nabrel.web.shared.remembered import Remembered

ITEM = {
    "role": "foundation",
    "name": "Probe",
    "texture": "liquid",
    "base": "water",
    "lab": [60.0, 10.0, 15.0],
    "cover": 0.5,
}
TOOL = {"kind": "damp_sponge", "name": "Sponge", "state": "clean", "since": "2026-11-01"}
THINGS = {
    "item": ("/api/kit/items/probe", {"id": "probe", **ITEM}, {"name": "Other"}),
    "tool": ("/api/kit/tools/probe", {"id": "probe", **TOOL}, {"state": "used"}),
    "kit": ("/api/kit/kits/probe", {"id": "probe", "name": "Bag", "items": []}, {"name": "Case"}),
    "parameter": ("/api/house/parameters/foundation_film_um", {"value": 5.0, "note": ""}, {"value": 6.0}),
    "rule": ("/api/house/rules/thin-passes", {"off": True, "severity": None, "note": ""}, {"note": "mine"}),
}


@pytest.fixture
def app(demo_database):
    return create_app(demo_database)


def version(client, thing: str) -> int:
    """The version that the lists give; 0 where it is not there."""
    name = THINGS[thing][0].rsplit("/", 1)[1]
    if thing in ("item", "kit"):
        return client.get("/api/kit").json["versions" if thing == "item" else "kit_versions"].get(name, 0)
    if thing == "tool":
        return next((t["version"] for t in client.get("/api/kit/tools").json["tools"] if t["tool"]["id"] == name), 0)
    book = client.get("/api/house").json
    found = [each for each in book["rules"] if each["id"] == name] + [
        p for p in book["parameters"] if p["name"] == name
    ]
    return found[0]["version"]


@pytest.mark.parametrize("thing", THINGS)
def test_the_second_of_two_saves_is_refused_and_the_first_stands(app, thing):
    client = app.test_client()
    address, first, change = THINGS[thing]
    assert version(client, thing) == 0
    assert client.put(f"{address}?version=0", json=first).status_code == 200
    seen = version(client, thing)
    assert seen > 0
    assert client.put(f"{address}?version={seen}", json={**first, **change}).status_code == 200
    current = version(client, thing)
    assert current > seen
    stale = client.put(f"{address}?version={seen}", json=first)
    assert (stale.status_code, stale.json["field"]) == (409, "version")
    assert str(current) in stale.json["says"]
    assert version(client, thing) == current
    assert client.delete(f"{address}?version={seen}").status_code == 409
    assert client.delete(f"{address}?version={current}").status_code == 200


@pytest.mark.parametrize("thing", THINGS)
def test_what_somebody_removed_is_not_brought_back_by_a_stale_save(app, thing):
    client = app.test_client()
    address, first, _ = THINGS[thing]
    client.put(address, json=first)
    seen = version(client, thing)
    client.delete(address)
    gone = client.put(f"{address}?version={seen}", json=first)
    assert gone.status_code == 409
    assert "removed" in gone.json["says"]
    client.put(address, json=first)
    assert version(client, thing) != seen
    assert client.put(f"{address}?version={seen}", json=first).status_code == 409


@pytest.mark.parametrize("thing", THINGS)
def test_one_made_twice_at_once_is_made_once(app, thing):
    address, first, _ = THINGS[thing]
    answers: list[int] = []
    start = Barrier(6)

    def put() -> None:
        client = app.test_client()
        start.wait()
        answers.append(client.put(f"{address}?version=0", json=first).status_code)

    threads = [Thread(target=put) for _ in range(6)]
    for each in threads:
        each.start()
    for each in threads:
        each.join()
    assert Counter(answers) == {200: 1, 409: 5}


def test_things_made_at_once_stand_at_places_of_their_own(app, demo_database):
    answers: list[int] = []
    start = Barrier(8)

    def put(number: int) -> None:
        client = app.test_client()
        start.wait()
        for more in range(3):
            item = {"id": f"probe-{number}-{more}", **ITEM}
            answers.append(client.put(f"/api/kit/items/{item['id']}", json=item).status_code)
            body = {"nickname": f"Probe {number}", "skin": [60, 10, 15], "preset": "normal", "consent_on": None}
            answers.append(client.post("/api/faces", json=body).status_code)

    threads = [Thread(target=put, args=(number,)) for number in range(8)]
    for each in threads:
        each.start()
    for each in threads:
        each.join()
    assert Counter(answers) == {200: 24, 201: 24}
    with closing(sqlite3.connect(demo_database.path)) as raw:
        for table in ("kit_item", "sitter"):
            [(rows, places)] = raw.execute(f"SELECT count(*), count(DISTINCT position) FROM {table}")
            assert rows == places > 24


def test_a_run_takes_from_the_packs_and_makes_an_older_form_stale(app):
    client = app.test_client()
    sitter = client.get("/api/sitters").json["sitters"][0]
    before = client.get("/api/kit").json["versions"]
    plan = client.get(f"/api/sequences/{sitter['sequence_id']}").json
    body = {"revision": plan["revision"]}
    done = client.post(f"/api/sequences/{plan['id']}/runs", json=body)
    assert done.status_code == 201, done.json
    after = client.get("/api/kit").json
    changed = [item for item in after["items"] if after["versions"][item["id"]] != before[item["id"]]]
    assert changed
    item = changed[0]
    assert client.put(f"/api/kit/items/{item['id']}?version={before[item['id']]}", json=item).status_code == 409


def test_a_reading_makes_an_older_record_stale_and_is_taken_out_once(app):
    client = app.test_client()
    sitter = client.get("/api/sitters").json["sitters"][0]["id"]
    face = client.get(f"/api/sitters/{sitter}/face").json
    reading = {
        "day": date.today().isoformat(),
        "place": "face",
        "what": "colour",
        "source": "reader",
        "lab": [66.0, 9.0, 15.0],
    }
    stored = client.post(f"/api/sitters/{sitter}/readings", json={"readings": [reading]})
    assert stored.status_code == 200, stored.json
    body = {"version": face["version"], "record": face["record"], "intent": face["intent"]}
    stale = client.put(f"/api/sitters/{sitter}/face", json=body)
    assert (stale.status_code, stale.json["field"]) == (409, "version")
    ids = [each["id"] for course in stored.json["courses"] for each in course["readings"]]
    assert client.delete(f"/api/sitters/{sitter}/readings/{ids[-1]}").status_code == 200
    assert client.delete(f"/api/sitters/{sitter}/readings/{ids[-1]}").status_code == 404


def test_rows_that_an_older_version_left_at_one_place_get_places_of_their_own(tmp_path):
    database = Database(tmp_path / "new")
    with database.session() as session:
        assert session.query(KitItemRow).count() == 0
    database.close()
    path = tmp_path / "old" / "nabrel.sqlite"
    path.parent.mkdir()
    from sqlalchemy import create_engine

    engine = create_engine(f"sqlite:///{path}")
    migrate(engine, "0006")
    with engine.begin() as connection:
        for name in ("b", "a", "c"):
            connection.exec_driver_sql(
                "INSERT INTO tool (id, kind, position, document) VALUES (?, 'damp_sponge', 1, '{}')", (name,)
            )
    engine.dispose()
    Database(path.parent).close()
    with closing(sqlite3.connect(path)) as raw:
        assert raw.execute("SELECT id, position, version FROM tool ORDER BY position").fetchall() == [
            ("b", 1, 1),
            ("a", 2, 1),
            ("c", 3, 1),
        ]
        with pytest.raises(sqlite3.IntegrityError):
            raw.execute("UPDATE tool SET position = 2")


ANNOUNCED = {
    "title": "One more", "date": "2026-12-09", "start": "18:30", "stations": 2,
    "students": [{"name": "Ida"}, {"name": "Ned"}],
}  # fmt: skip


def test_who_announces_a_class_waits_for_whoever_writes(app, demo_database):
    """SQLite waits for nobody where a transaction has read first: announcing tries before it stores."""
    client = app.test_client()
    plan = client.get("/api/classes").json["plans"][0]["id"]
    with closing(sqlite3.connect(demo_database.path, isolation_level=None, check_same_thread=False)) as other:
        other.execute("BEGIN IMMEDIATE")
        other.execute("UPDATE kit_item SET name = name")
        done = Timer(0.5, lambda: other.execute("COMMIT"))
        done.start()
        made = client.post("/api/classes", json={**ANNOUNCED, "plan": plan})
        done.join()
    assert made.status_code == 201, made.json


def test_nobody_waits_for_what_is_worked_out_after_an_event(app, demo_database, monkeypatch):
    """The plan was changed as the class began: its lesson is worked out anew, and others write meanwhile."""
    client = app.test_client()
    plan = client.get("/api/classes").json["plans"][0]["id"]
    key = client.post("/api/classes", json={**ANNOUNCED, "plan": plan}).json["id"]
    wrote, own = [], Remembered.lesson

    def lesson(self, room, house, shelf):
        with closing(sqlite3.connect(demo_database.path, timeout=0)) as other, other:
            other.execute("UPDATE kit_item SET name = name")
            wrote.append(True)
        return own(self, room, house, shelf)

    monkeypatch.setattr(Remembered, "lesson", lesson)
    assert client.post(f"/api/classes/{key}/events", json={"event": "begin"}).status_code == 200
    assert len(wrote) >= 2
