"""The first ten minutes over HTTP: a colour by eye or by a stripe, items in few words, and how sure a plan is."""

from __future__ import annotations

import pytest

from nabrel.web.app import create_app


@pytest.fixture
def client(demo_database):
    return create_app(demo_database).test_client()


@pytest.fixture
def bare(database):
    return create_app(database).test_client()


def test_a_colour_by_eye_in_two_taps(client):
    first = client.post("/api/by-eye", json={}).json
    assert [len(row) for row in first["rows"]] == [12, 12, 12, 12]
    near = client.post("/api/by-eye", json={"near": first["rows"][1][4]["lab"]}).json
    assert near["rows"][1][1]["lab"] == first["rows"][1][4]["lab"]
    assert near["lab_sd"] < first["lab_sd"]
    assert "shades" in near["sure"]


def test_a_judged_colour_becomes_the_sitter_s_and_a_measured_one_replaces_it(client):
    sitter = client.get("/api/sitters").json["sitters"][0]["id"]
    reading = {"day": "2030-01-01", "place": "face", "lab": [60, 11, 17], "spread": 2.5, "source": "eye"}
    face = client.post(f"/api/sitters/{sitter}/readings", json={"readings": [reading]}).json
    assert face["record"]["skin"]["lab_sd"] == 2.5
    assert face["record"]["skin"]["source"] == "eye"
    assert "judged by eye, to within about ΔE00 2.5" in face["colours"][0]["sure"]
    measured = {**reading, "lab": [61, 11, 17], "spread": 0.4, "source": "reader"}
    face = client.post(f"/api/sitters/{sitter}/readings", json={"readings": [measured]}).json
    assert face["record"]["skin"]["source"] == "measured"


def test_a_stripe_names_its_items_or_is_refused(client):
    known = [item["id"] for item in client.get("/api/kit").json["items"] if item["role"] == "foundation"]
    found = client.post("/api/by-stripe", json={"first": known[0], "second": known[1], "nudges": ["warmer"]})
    assert found.json["lab_sd"] >= 1.5
    assert client.post("/api/by-stripe", json={"first": "nothing"}).status_code == 404
    assert client.post("/api/by-stripe", json={"first": known[0], "nudges": ["warmer", "cooler"]}).status_code == 422
    assert client.post("/api/by-stripe", json={"first": known[0], "nudges": ["bluer"]}).status_code == 422


def test_items_in_few_words_are_told_before_they_are_saved(client):
    before = len(client.get("/api/kit").json["items"])
    told = client.post("/api/kit/described", json={"name": "Silk", "role": "foundation", "cover": "full"}).json
    assert told["item"]["source"] == "guessed"
    pasted = client.post("/api/kit/pasted", json={"text": "peach corrector\nno idea\ncoral blush"}).json["lines"]
    assert [line["item"] is None for line in pasted] == [False, True, False]
    assert len(client.get("/api/kit").json["items"]) == before
    items = [told["item"], *(line["item"] for line in pasted if line["item"])]
    after = client.post("/api/kit/items", json={"items": items}).json["items"]
    assert len(after) == before + 3
    assert len(client.post("/api/kit/items", json={"items": [told["item"]]}).json["items"]) == before + 3, "as it was"


def test_items_are_added_all_or_none(client):
    before = len(client.get("/api/kit").json["items"])
    good = client.post("/api/kit/described", json={"name": "Silk", "role": "foundation"}).json["item"]
    bad = {**good, "id": "other", "lab": None}
    refused = client.post("/api/kit/items", json={"items": [good, bad]})
    assert (refused.status_code, refused.json["field"]) == (422, "items[1].lab")
    assert len(client.get("/api/kit").json["items"]) == before


def test_an_item_as_deep_as_another_a_little_warmer(client):
    kit = client.get("/api/kit").json["items"]
    like = next(item for item in kit if item["role"] == "foundation")
    told = client.post(
        "/api/kit/described", json={"name": "Near", "role": "concealer", "like": like["id"], "nudges": ["warmer"]}
    ).json["item"]
    assert told["lab"][0] == pytest.approx(like["lab"][0], abs=0.06)
    assert told["lab"][2] > like["lab"][2]
    assert client.post("/api/kit/described", json={"name": "X", "role": "shade", "like": "none"}).status_code == 404


def test_from_nothing_to_a_plan_that_says_how_sure_it_is(bare):
    cell = bare.post("/api/by-eye", json={}).json["rows"][1][9]
    made = bare.post(
        "/api/faces", json={"nickname": "New", "skin": cell["lab"], "lab_sd": 4.5, "source": "eye", "preset": "dry"}
    ).json
    kit = bare.post("/api/kit/generic", json={"skin": cell["lab"]}).json["items"]
    assert len(kit) > 20
    assert {item["source"] for item in kit} == {"guessed"}
    plan = bare.post(f"/api/sitters/{made['id']}/sequences", json={}).json
    assert plan["skin_sd"] == 4.5
    assert plan["guessed"] > 5
    sure = bare.get(f"/api/sequences/{plan['id']}/how-sure").json
    assert "judged by eye" in sure["says"]
    assert len(sure["guessed"]) == plan["guessed"]
