"""One damaged document: it is shown as damaged, exported as it is, erased, and nothing beside it suffers."""

from __future__ import annotations

import io
import zipfile

import pytest
from sqlalchemy import inspect, text

from nabrel.store.damaged import KINDS, damaged
from nabrel.store.repositories import forget_read
from nabrel.web.app import create_app

LISTS = ["/api/sitters", "/api/classes", "/api/kit", "/api/kit/tools", "/api/kit/kits", "/api/house", "/api/wears", "/api/drill/sets",
         "/api/drill/students", "/api/plans", "/api/trials"]  # fmt: skip
ODD = ["{}", "", "[]", "null", "zlib:!!!", "\x00", '{"nickname": 3}', "zlib:c-muNWpi"]
EMPTY_IN_THE_DEMO = {"decision", "factor", "trial", "run"}
"""Made for their test: the demo has none of them."""


@pytest.fixture
def client(demo_database):
    return create_app(demo_database).test_client()


def prepare(client, database, word):
    """Something of this kind, where the demo has nothing."""
    if word == "decision":
        body = {"value": 5.0, "note": "", "version": 0}
        assert (
            client.put("/api/house/parameters/foundation_film_um", json={"value": 5.0, "note": ""}).status_code == 200
        ), body
    if word not in EMPTY_IN_THE_DEMO - {"decision"}:
        return
    plan = client.get("/api/plans").json["plans"][0]
    rows = {
        "factor": "INSERT INTO taken_over (id, document) VALUES (1, 'x')",
        "trial": f"INSERT INTO trial VALUES ('t', '{plan['id']}', 'x')",
        "run": f"INSERT INTO run (id, sequence_id, revision, day, document) VALUES (1, '{plan['id']}', 1, '2026-11-01', 'x')",
    }
    with database.engine.begin() as connection:
        connection.execute(text(rows[word]))


def spoil(database, word, document):
    """Put something else in the place of one document; the key of its record."""
    kind = KINDS[word]
    table = kind.table.__table__
    with database.engine.begin() as connection:
        keys = [column.name for column in inspect(kind.table).primary_key]
        # The last plan: what belongs to the first sitter, who is damaged too, is not listed beside them.
        order = [column.desc() for column in inspect(kind.table).primary_key] if word == "plan" else []
        row = connection.execute(table.select().order_by(*order).limit(1)).mappings().first()
        assert row is not None, word
        where = [table.c[name] == row[name] for name in keys]
        connection.execute(table.update().where(*where).values({kind.columns[0]: document}))
    forget_read()
    return ".".join(str(row[name]) for name in keys)


@pytest.fixture
def spoilt(client, demo_database):
    """One record of each kind, damaged one after the other: what the lists answered before, the key of each, and what lists refused."""
    for word in KINDS:
        prepare(client, demo_database, word)
    before = {path: client.get(path).status_code for path in LISTS}
    assert set(before.values()) <= {200, 404}
    keys, wrong = {}, []
    for word in KINDS:
        keys[word] = spoil(demo_database, word, "{}")
        wrong += [(word, path, now) for path in LISTS if (now := client.get(path).status_code) != before[path]]
    return keys, wrong


def test_whatever_is_damaged_lists_and_export_go_on_and_it_is_exported_raw_and_erased(client, spoilt):
    keys, wrong = spoilt
    assert len(keys) == len(KINDS) >= 15
    assert wrong == []
    told = client.get("/api/damaged?whole=true").json["records"]
    assert sorted((each["kind"], each["key"]) for each in told) == sorted(keys.items())
    export = client.get("/api/workspace")
    assert export.status_code == 200
    names = zipfile.ZipFile(io.BytesIO(export.data)).namelist()
    assert [word for word, key in keys.items() if names.count(f"damaged/{word}-{key}.txt") != 1] == []
    assert client.post("/api/workspace/preview", data=export.data, content_type="application/zip").status_code == 200
    # Owners last: all that is theirs goes with them.
    owners = ("plan", "class", "sitter")
    for word in [*(each for each in keys if each not in owners), *owners]:
        key = keys[word]
        raw = client.get(f"/api/damaged/{word}/{key}")
        assert (word, raw.status_code, raw.get_data(as_text=True)[:3]) == (word, 200, "{}\n")
        assert client.delete(f"/api/damaged/{word}/{key}").status_code == 204, word
        assert client.delete(f"/api/damaged/{word}/{key}").status_code == 404, word
    assert client.get("/api/damaged?whole=true").json["records"] == []
    assert client.get("/api/workspace").status_code == 200


@pytest.mark.parametrize("document", ODD)
def test_whatever_stands_in_the_row_of_a_sitter_the_others_are_listed(client, demo_database, document):
    everybody = [each["id"] for each in client.get("/api/sitters").json["sitters"]]
    key = spoil(demo_database, "sitter", document)
    assert [each["id"] for each in client.get("/api/sitters").json["sitters"]] == [
        each for each in everybody if each != key
    ]
    one = client.get(f"/api/sitters/{key}")
    assert (one.status_code, "is damaged" in one.json["says"]) == (422, True)
    with demo_database.session() as session:
        [record] = damaged(session)
        assert (record.kind, record.key, bool(record.name)) == ("sitter", key, True)


def test_a_damaged_sitter_can_be_erased_in_the_usual_way_and_leaves_nothing(client, demo_database):
    key = spoil(demo_database, "sitter", "{}")
    assert client.get(f"/api/sitters/{key}/belongings").json["plans"] >= 1
    assert client.delete(f"/api/sitters/{key}").json["finished"] is True
    assert client.get("/api/damaged?whole=true").json["records"] == []
    assert key.encode() not in demo_database.path.read_bytes()


def test_a_plan_whose_standing_revision_is_damaged_says_so_and_goes_on_with_the_one_before(client, demo_database):
    plan = client.get("/api/plans").json["plans"][0]["id"]
    whole = client.get(f"/api/sequences/{plan}").json
    step = next(each["id"] for each in whole["steps"] if each["kind"] == "foundation")
    body = {"edits": [{"edit": "wait", "step": step, "wait_s": 33}], "revision": whole["revision"]}
    assert client.post(f"/api/sequences/{plan}/edits", json=body).status_code == 200
    with demo_database.engine.begin() as connection:
        connection.execute(
            text("UPDATE revision SET document = '{}' WHERE sequence_id = :p AND number = 2"), {"p": plan}
        )
    forget_read()
    said = create_app(demo_database).test_client().get(f"/api/sequences/{plan}")
    assert (said.status_code, said.json["field"]) == (422, "plan")
    assert "Sitters lists it" in said.json["says"]
    [record] = client.get("/api/damaged").json["records"]
    assert "revision 2" in record["name"]
    assert client.delete(f"/api/damaged/plan/{record['key']}").status_code == 204
    again = create_app(demo_database).test_client().get(f"/api/sequences/{plan}")
    assert (again.status_code, again.json["revision"]) == (200, 1)


@pytest.mark.parametrize("path", ["nothing/x", "sitter/x", "card/x", "decision/a.b.c", "run/x", "sitter/" + "x" * 300])
def test_what_is_not_there_or_not_damaged_is_refused(client, path):
    for answer in (client.get(f"/api/damaged/{path}"), client.delete(f"/api/damaged/{path}")):
        assert answer.status_code in (404, 422)
    sitter = client.get("/api/sitters").json["sitters"][0]["id"]
    assert client.delete(f"/api/damaged/sitter/{sitter}").status_code == 404
    assert client.get(f"/api/sitters/{sitter}").status_code == 200
