"""What is found out of a pack, or happens to it, is known at once in the plans that use it."""

from __future__ import annotations

from datetime import date

import pytest

from nabrel.web.app import create_app


@pytest.fixture
def client(demo_database):
    return create_app(demo_database).test_client()


def dunstan(client):
    """The sitter who avoids fragrance and lanolin, with their plan."""
    sitter = next(each for each in client.get("/api/sitters").json["sitters"] if each["nickname"] == "Dunstan")
    return sitter["id"], client.get(f"/api/sitters/{sitter['id']}").json["sequence_id"]


def said(client, plan, rule):
    return [each for each in client.get(f"/api/sequences/{plan}").json["findings"] if each["rule"] == rule]


def put(client, item, **change):
    kit = client.get("/api/kit").json
    own = next(each for each in kit["items"] if each["id"] == item)
    answer = client.put(f"/api/kit/items/{item}?version={kit['versions'][item]}", json={**own, **change})
    assert answer.status_code == 200
    return answer.json


def laid(client, plan):
    steps = client.get(f"/api/sequences/{plan}").json["steps"]
    return [part["item"] for step in steps for part in step["mix"]]


def test_a_plan_knows_at_once_what_was_recorded_of_a_pack(client):
    _, plan = dunstan(client)
    first = laid(client, plan)[0]
    assert said(client, plan, "contents-are-known") == []
    assert put(client, first, ingredients=[])["open_facts"][first] == ["contents"]
    (finding,) = said(client, plan, "contents-are-known")
    assert finding["unsettled"] == [{"item": first, "fact": "contents"}]
    assert finding["severity"] == "problem"
    caution = client.get(f"/api/sequences/{plan}/telling").json["caution"]
    assert caution["lead"] == "Avoid fragrance and lanolin."
    assert caution["says"] == finding["says"]
    assert first not in put(client, first, ingredients=["Aqua"])["open_facts"]
    assert said(client, plan, "contents-are-known") == []
    put(client, first, ingredients=["Aqua", "Adeps Lanae"])
    assert [each["severity"] for each in said(client, plan, "nothing-avoided")] == ["stop"]


def test_a_run_begins_with_what_is_avoided(client):
    _, plan = dunstan(client)
    put(client, laid(client, plan)[0], ingredients=[])
    live = client.post(f"/api/sequences/{plan}/run", json={}).json
    assert live["caution"]["lead"] == "Avoid fragrance and lanolin."
    assert "unknown" in live["caution"]["says"]


def test_a_pack_that_ran_out_or_expired_is_named_in_the_plan_that_has_it_and_passed_over_by_the_next(client):
    sitter, plan = dunstan(client)
    steps = client.get(f"/api/sequences/{plan}").json["steps"]
    item = next(step["mix"][0]["item"] for step in steps if step["kind"] == "foundation")
    old = date.today().replace(year=date.today().year - 5, day=1).isoformat()
    for change, rule in (({"left": 0.0}, "enough-is-left"), ({"opened_on": old, "keeps_months": 12, "left": None}, "not-past-its-months")):  # fmt: skip
        put(client, item, **change)
        assert said(client, plan, rule), change
        anew = client.post(f"/api/sitters/{sitter}/sequences", json={}).json
        assert item not in [part["item"] for step in anew["steps"] for part in step["mix"]], change
        assert any(note.startswith("Left out since") for note in anew["notes"]), change
        assert [each for each in anew["findings"] if each["rule"] == rule] == []


def test_a_base_that_was_guessed_is_settled_on_the_shelf(client):
    kit = client.get("/api/kit").json
    guessed = client.post("/api/kit/described", json={"name": "Sun cream", "role": "sunscreen"}).json["item"]
    assert guessed["base_source"] == "guessed"
    assert client.post("/api/kit/items", json={"items": [guessed]}).json["open_facts"][guessed["id"]] == [
        "contents",
        "base",
    ]
    assert len(client.get("/api/kit").json["items"]) == len(kit["items"]) + 1
    assert put(client, guessed["id"], base_source="pack")["open_facts"][guessed["id"]] == ["contents"]


def test_tools_of_the_shelf_are_judged_with_the_plan(client):
    _, plan = dunstan(client)
    kinds = {hand["tool"] for step in client.get(f"/api/sequences/{plan}").json["steps"] for hand in step["portions"]}
    kind = sorted(kinds - {None, "fingers"})[0]
    for tool in client.get("/api/kit/tools").json["tools"]:
        if tool["tool"]["kind"] == kind:
            body = {**tool["tool"], "state": "used"}
            client.put(f"/api/kit/tools/{body['id']}?version={tool['version']}", json=body)
    client.put("/api/kit/tools/own?version=0", json={"id": "own", "kind": kind, "state": "used"})
    assert any("Used: wash it" in each["says"] for each in said(client, plan, "tools-are-clean"))
