"""Names are one line that shows as it reads, at every door; what older versions took is cleaned when it is opened."""

from __future__ import annotations

import json
import sqlite3
from contextlib import closing

import pytest

from nabrel.core.errors import Refused
from nabrel.formats.kit_csv import read_kit, write_kit
from nabrel.formats.loader import read_case
from nabrel.store.database import Database
from nabrel.store.repositories import Kit, Sequences, Sitters
from nabrel.store.workspace import gather
from nabrel.web.app import create_app

ODD = [
    "nul\0",
    "bare\rreturn",
    "new\nline",
    "tab\tstop",
    "\u202eturned",
    "\u2066apart",
    "\ufeffmark",
    "line\u2028break",
    "\x85next",
]
FINE = ["Zwnj‌inside", "joined\u200dwords", "Ünïcode — “quoted”", "名前", "a" * 60]
ITEM = {
    "id": "probe",
    "role": "foundation",
    "texture": "liquid",
    "base": "water",
    "lab": [60.0, 10.0, 15.0],
    "cover": 0.5,
}


@pytest.fixture
def client(demo_database):
    return create_app(demo_database).test_client()


@pytest.mark.parametrize("text", ODD)
def test_odd_text_is_refused_by_its_field_at_every_door(client, text):
    case = client.get(f"/api/sitters/{client.get('/api/sitters').json['sitters'][0]['id']}/case").json
    case["sitter"]["nickname"] = text
    kit = client.get("/api/kit").json
    doors = {
        "name": client.put("/api/kit/items/probe", json={**ITEM, "name": text}),
        "nickname": client.post("/api/cases", json=case),
    }
    for field, answer in doors.items():
        assert answer.status_code == 422, field
        assert field in answer.json["field"]
        assert "without control characters" in answer.json["allowed"]
    assert client.get("/api/kit").json == kit
    with pytest.raises(Refused, match="nickname"):
        read_case(json.dumps(case).encode())


@pytest.mark.parametrize("text", FINE)
def test_other_writing_is_kept_as_it_is(client, text):
    assert client.put("/api/kit/items/probe", json={**ITEM, "name": text}).status_code == 200
    [stored] = [item for item in client.get("/api/kit").json["items"] if item["id"] == "probe"]
    assert stored["name"] == text


def test_a_note_may_run_over_lines_and_hold_nothing_odd(client):
    case = client.get(f"/api/sitters/{client.get('/api/sitters').json['sitters'][0]['id']}/case").json
    for about, status in (("first\nsecond", 201), ("first\0second", 422), ("first\rsecond", 422)):
        case["sitter"]["about"] = about
        assert client.post("/api/cases", json=case).status_code == status, about


def as_it_was(old: sqlite3.Connection) -> None:
    """Take a database of today back to the schema before the text was cleaned."""
    old.executescript(
        "drop table sign_in; drop table account; alter table sequence drop column favourite;"
        "drop index ix_run_key; alter table run drop column key; drop table photo; drop table wear; drop table trial; drop table taken_over; drop table class_student; drop table class; drop table card; drop table answer; drop table student; drop table drill_set_face; drop table drill_set;"
    )
    for table in ("sitter", "kit_item", "tool", "named_kit"):
        old.execute(f"drop index ix_{table}_position")
    for table in ("kit_item", "tool", "named_kit", "decision"):
        old.execute(f"alter table {table} drop column version")
    old.execute("update alembic_version set version_num = '0004'")


def test_what_an_older_version_took_is_cleaned_and_can_be_exported(demo_database):
    """A database whose item, nickname and revision hold odd text, as the version before this one kept them."""
    with demo_database.session() as session:
        wren = Sitters(session).all()[0]
        sequence = wren.sequence_ids[0]
        item = Kit(session).all()[0].id
    demo_database.close()
    with closing(sqlite3.connect(demo_database.path)) as old:
        text = old.execute("select item from kit_item where id = ?", (item,)).fetchone()[0]
        old.execute(
            "update kit_item set item = ? where id = ?",
            (json.dumps({**json.loads(text), "name": "N\0ame\u202e"}), item),
        )
        text = old.execute("select sitter from sitter where id = ?", (wren.id,)).fetchone()[0]
        old.execute("update sitter set sitter = ?, nickname = ? where id = ?",
                    (json.dumps({**json.loads(text), "nickname": "W\rren", "about": "one\ntwo\0"}), "W\rren", wren.id))  # fmt: skip
        old.execute("update sequence set title = 'T\nitle' where id = ?", (sequence,))
        as_it_was(old)
        old.commit()
    again = Database(demo_database.folder)
    with again.session() as session:
        stored = Sitters(session).get(wren.id)
        assert (stored.sitter.nickname, stored.sitter.about) == ("W ren", "one\ntwo ")
        [clean] = [each for each in Kit(session).all() if each.id == item]
        assert clean.name == "N ame "
        assert Sequences(session).get(sequence).sequence.steps
        assert gather(session).people[0].plans[0].plan.title == "T itle"
    assert create_app(again).test_client().get("/api/workspace").status_code == 200
    again.close()


def test_a_table_refuses_odd_text_by_row_in_the_preview_as_in_the_import(client):
    rows = 'id,role,name,texture,base,lab_l,lab_a,lab_b,cover\nx-1,foundation,"two\nlines",liquid,water,60,10,15,0.5\n'
    [row] = read_kit(rows.encode())
    assert row.refused is not None
    assert row.refused.field.endswith("name")
    assert client.post("/api/kit/table", data=rows, content_type="text/csv").status_code == 422
    with_all = write_kit(item for item in [])
    assert with_all.startswith("id,role,name")
