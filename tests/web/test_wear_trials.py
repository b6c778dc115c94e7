"""Trials over HTTP: set up from two candidates, worn on halves or on two days, looked at, told, kept and erased."""

from __future__ import annotations

import pytest

from nabrel.core.learn.wear_trial import zones_of
from nabrel.store.database import Database
from nabrel.web.app import create_app

WORN = "2026-11-03T09:50:00+00:00"


@pytest.fixture
def client(demo_database):
    return create_app(demo_database).test_client()


@pytest.fixture
def posy(client):
    return next(each for each in client.get("/api/sitters").json["sitters"] if each["nickname"] == "Posy")


def begun(client, sitter, how, second="overpainted"):
    body = {"candidates": [{}, {"school": second}], "how": how}
    return client.post(f"/api/sequences/{sitter['sequence_id']}/trials", json=body)


def test_a_trial_says_what_differs_and_what_to_look_at_and_leaves_the_plan_as_it_stands(client, posy):
    before = client.get(f"/api/sequences/{posy['sequence_id']}").json
    trial = begun(client, posy, "halves").json
    assert trial["sides"] == ["left", "right"]
    assert trial["ways"][1] == "Overpainted"
    assert "Underpainted becomes Overpainted." in trial["differs"]
    assert any("After 25 min" in line for line in trial["look_at"])
    assert [each["sure"] for each in trial["results"]] == [False, False]
    after = client.get(f"/api/sequences/{posy['sequence_id']}").json
    assert {name: after[name] for name in ("revision", "undo_says", "redo_says", "steps")} == {
        name: before[name] for name in ("revision", "undo_says", "redo_says", "steps")
    }
    assert client.get("/api/trials").json["trials"][0]["trial_id"] == trial["trial_id"]


def test_one_look_at_both_halves_goes_to_two_records_each_with_its_own_half(client, posy):
    trial = begun(client, posy, "halves").json
    on = client.post(f"/api/trials/{trial['trial_id']}/wears", json={"worn_from": WORN}).json
    records = [client.get(f"/api/wears/{each['wear_id']}").json for each in on["worn"]]
    assert [each["trial"]["side"] for each in records] == ["left", "right"]
    for record in records:
        assert record["zones"]
        assert set(record["zones"]) <= zones_of("halves", "left") | zones_of("halves", "right")
    both = [zone for zone in records[0]["zones"] if zone.endswith("_l")][:8]
    assert len(both) >= 6
    for minutes in (60, 120, 180, 240):
        seen = [*both, *(zone[:-2] + "_r" for zone in both)]
        shines = {zone: {"shine": 2} for zone in seen if zone.endswith("_l") or minutes > 200}
        body = {"look": {"after_min": minutes, "seen": seen, "zones": shines}}
        assert client.put(f"/api/wears/{on['worn'][0]['wear_id']}/look", json=body).status_code == 200
    told = client.get(f"/api/trials/{trial['trial_id']}")
    shine = told.json["results"][0]
    assert (shine["pairs"], shine["days"], shine["factor"] > 1.2) == (len(both), 1, True)
    assert [each["looks"] for each in told.json["worn"]] == [4, 4]
    left = client.get(f"/api/wears/{on['worn'][0]['wear_id']}").json
    assert all(zone.endswith("_l") for look in left["looks"] for zone in look["seen"])
    again = {"look": {"after_min": 300, "seen": [both[0], both[0][:-2] + "_r"]}}
    own = client.put(f"/api/wears/{left['wear_id']}/look", json=again).json
    assert own["looks"][-1]["seen"] == [both[0]]
    right = client.get(f"/api/wears/{on['worn'][1]['wear_id']}").json
    assert right["looks"][-1]["seen"] == [both[0][:-2] + "_r"]


def test_on_two_days_each_way_is_put_on_by_itself(client, posy):
    trial = begun(client, posy, "days").json
    address = f"/api/trials/{trial['trial_id']}/wears"
    refused = client.post(address, json={"worn_from": WORN})
    assert (refused.status_code, refused.json["field"]) == (422, "side")
    assert client.post(address, json={"side": "left"}).status_code == 422
    on = client.post(address, json={"worn_from": WORN, "side": "second"}).json
    assert [each["side"] for each in on["worn"]] == ["second"]


@pytest.mark.parametrize("body", [
    {"candidates": [{}], "how": "halves"}, {"candidates": [{}, {}, {}], "how": "halves"}, {"candidates": [{}, {}], "how": "thirds"},
    {"candidates": [{}, {}], "how": "days"}, {"how": "days"}, {},
])  # fmt: skip
def test_a_trial_that_cannot_be_is_refused(client, posy, body):
    assert client.post(f"/api/sequences/{posy['sequence_id']}/trials", json=body).status_code == 422
    assert client.get("/api/trials").json["trials"] == []


def test_what_is_not_there_is_not_found(client, posy):
    assert client.get("/api/trials/none").status_code == 404
    assert client.post("/api/trials/none/wears", json={}).status_code == 404
    assert client.delete("/api/trials/none").status_code == 404
    assert client.get("/api/trials?plan=none").status_code == 422


def test_a_trial_goes_out_and_comes_back_with_its_records_and_forgetting_it_leaves_them(client, posy, tmp_path):
    trial = begun(client, posy, "halves").json
    client.post(f"/api/trials/{trial['trial_id']}/wears", json={"worn_from": WORN})
    out = client.get(f"/api/sitters/{posy['id']}/everything").data
    other = Database(tmp_path / "other")
    there = create_app(other).test_client()
    assert there.post("/api/workspace/people", data=out, content_type="application/zip").status_code == 200
    back = there.get(f"/api/trials/{trial['trial_id']}").json
    assert (back["ways"], len(back["worn"])) == (trial["ways"], 2)
    assert there.get(f"/api/sitters/{posy['id']}/everything").data == out
    other.close()
    assert client.delete(f"/api/trials/{trial['trial_id']}").status_code == 204
    stored = client.get(f"/api/wears?sitter={posy['id']}").json["wears"]
    assert len(stored) == 2
    look = {"look": {"after_min": 60, "seen": ["chin"]}}
    assert client.put(f"/api/wears/{stored[0]['wear_id']}/look", json=look).json["trial"] is None


def test_erasing_the_sitter_takes_the_trial(client, posy, demo_database):
    begun(client, posy, "days")
    client.delete(f"/api/sitters/{posy['id']}")
    assert client.get("/api/trials").json["trials"] == []
    with demo_database.session() as session:
        assert session.connection().exec_driver_sql("select count(*) from trial").scalar() == 0


def test_the_looks_of_both_halves_go_out_as_a_table_and_come_back_each_to_its_own(client, posy):
    trial = begun(client, posy, "halves").json
    on = client.post(f"/api/trials/{trial['trial_id']}/wears", json={"worn_from": WORN}).json
    first = on["worn"][0]["wear_id"]
    seen = [
        zone
        for zone in client.get(f"/api/wears/{first}").json["zones"]
        if zone.startswith(("cheek_apple", "under_eye"))
    ]
    client.put(
        f"/api/wears/{first}/look", json={"look": {"after_min": 60, "seen": seen, "zones": {seen[0]: {"shine": 1}}}}
    )
    before = [client.get(f"/api/wears/{each['wear_id']}").json["looks"] for each in on["worn"]]
    assert all(looks and looks[0]["seen"] for looks in before)
    table = client.get(f"/api/wears/table?sitter={posy['id']}").data
    assert client.post("/api/wears/table", data=table, content_type="text/csv").json["records"] == 2
    after = [client.get(f"/api/wears/{each['wear_id']}").json["looks"] for each in on["worn"]]
    assert after == before
    assert client.get(f"/api/wears?sitter={posy['id']}").json["total"] == 2
