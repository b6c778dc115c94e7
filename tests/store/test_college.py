"""What a college keeps fits: it is taken at the door, planned with, exported and taken in again; one more is refused there."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta

import pytest

from nabrel.core.case.tool import OwnedTool
from nabrel.core.errors import Refused
from nabrel.core.face.measuring import SkinReading
from nabrel.core.shelf.tools import NamedKit
from nabrel.core.terms import limits
from nabrel.formats.kit_csv import read_kit, write_kit
from nabrel.formats.skin_readings import read_readings, write_readings
from nabrel.formats.workspace import read_workspace, write_workspace
from nabrel.store import repositories, shelf, skin_readings
from nabrel.store.repositories import Kit, Sitters
from nabrel.store.shelf import NamedKits, Tools
from nabrel.store.skin_readings import SkinReadings
from nabrel.store.workspace import gather
from nabrel.web.app import create_app

ITEMS, TOOLS, KITS, READINGS = 2000, 501, 205, 2404


def test_a_shelf_of_two_thousand_items_is_planned_with_exported_and_taken_in(demo_database):
    with demo_database.session() as session:
        kit = Kit(session)
        owned = kit.all()
        for place in range(ITEMS - len(owned)):
            kit.put(replace(owned[place % len(owned)], id=f"more-{place}", name=f"Item {place}"))
    client = create_app(demo_database).test_client()
    sitter = client.get("/api/sitters").json["sitters"][0]["id"]
    planned = client.post(f"/api/sitters/{sitter}/sequences", json={})
    assert planned.status_code == 201
    assert client.get(f"/api/sequences/{planned.json['id']}").status_code == 200
    table = client.get("/api/kit/table").data
    assert len(read_kit(table)) == ITEMS
    answer = client.put("/api/kit/items/beyond", json={**owned_json(client), "id": "beyond"})
    assert answer.status_code == 422
    assert str(limits.MOST_ITEMS) in answer.json["says"]
    case = client.get(f"/api/sitters/{sitter}/case")
    assert client.post("/api/cases", data=case.data, content_type="application/json").status_code == 201


def owned_json(client):
    return {key: value for key, value in client.get("/api/kit").json["items"][0].items() if value is not None}


def test_tools_kits_and_readings_of_a_college_come_back_whole(demo_database):
    with demo_database.session() as session:
        for place in range(TOOLS):
            Tools(session).put(OwnedTool(id=f"tool-{place}", kind="damp_sponge", name=f"Sponge {place}"))
        item = Kit(session).all()[0].id
        for place in range(KITS):
            NamedKits(session).put(NamedKit(id=f"kit-{place}", name=f"Kit {place}", items=(item,)))
        wren = Sitters(session).all()[0].id
        first = date(2000, 1, 1)
        SkinReadings(session).add(
            wren,
            [
                SkinReading(
                    day=first + timedelta(days=day), place="neck", what="colour", lab=(62.0, 10.0, 16.0), takes=1
                )
                for day in range(READINGS)
            ],
        )
        held = gather(session)
    again = read_workspace(write_workspace(held))
    assert len(again.tools) >= TOOLS
    assert len(again.kits) >= KITS
    assert len(again.people[0].readings) >= READINGS
    assert again == held
    readings = write_readings(held.people[0].readings).encode()
    assert len(read_readings(readings, date(2026, 1, 1))) == len(held.people[0].readings)
    assert read_kit(write_kit(held.kit).encode())


@pytest.mark.parametrize("what", ["items", "tools", "kits", "sitters", "readings"])
def test_one_more_than_may_be_kept_is_refused_where_it_comes_in(demo_database, monkeypatch, what):
    with demo_database.session() as session:
        wren = Sitters(session).all()[0]
        now = {
            "items": len(Kit(session).all()),
            "tools": len(Tools(session).all()),
            "kits": len(NamedKits(session).all()),
            "sitters": len(Sitters(session).all()),
            "readings": len(SkinReadings(session).of(wren.id)),
        }[what]
        module = {"tools": shelf, "kits": shelf, "readings": skin_readings}.get(what, repositories)
        monkeypatch.setattr(module, f"MOST_{what.upper()}", now)
        item = Kit(session).all()[0]
        add = {
            "items": lambda: Kit(session).put(replace(item, id="beyond")),
            "tools": lambda: Tools(session).put(OwnedTool(id="beyond", kind="damp_sponge")),
            "kits": lambda: NamedKits(session).put(NamedKit(id="beyond", name="Beyond", items=(item.id,))),
            "sitters": lambda: Sitters(session).add(wren.sitter, wren.intent),
            "readings": lambda: SkinReadings(session).add(
                wren.id,
                [SkinReading(day=date(1999, 1, 1), place="neck", what="colour", lab=(60.0, 10.0, 16.0), takes=1)],
            ),
        }[what]
        with pytest.raises(Refused, match=f"at most {now}"):
            add()
