"""Plans in lists, favourites, plans taken to another face, search, and what this Nabrel is."""

from __future__ import annotations

import pytest

from nabrel import __version__
from nabrel.core.house import PARAMETERS
from nabrel.core.terms.hands import hand_words
from nabrel.store.plans import Plans
from nabrel.web.app import create_app


@pytest.fixture
def client(demo_database):
    return create_app(demo_database).test_client()


def people(client):
    return {each["nickname"]: each for each in client.get("/api/sitters").json["sitters"]}


def test_plans_are_listed_with_dates_versions_and_favourites_first(client):
    wren = people(client)["Wren"]
    first = wren["sequence_id"]
    second = client.post(f"/api/sitters/{wren['id']}/sequences", json={}).json["id"]
    client.put(f"/api/sequences/{first}/versions/1", json={"name": "The one we liked"})
    listed = client.get(f"/api/plans?sitter={wren['id']}").json["plans"]
    assert listed[0]["id"] == second, "the one changed last"
    old = next(each for each in listed if each["id"] == first)
    assert (old["named"], old["favourite"], old["nickname"]) == (1, False, "Wren")
    assert old["versions"] >= 1
    listed = client.put(f"/api/plans/{first}/favourite", json={"favourite": True}).json["plans"]
    assert (listed[0]["id"], listed[0]["favourite"]) == (first, True)
    assert len(client.get("/api/plans").json["plans"]) == len(listed) + 7
    assert client.put("/api/plans/nothing/favourite", json={"favourite": True}).status_code == 404


def test_a_favourite_comes_back_with_the_workspace(client):
    wren = people(client)["Wren"]
    client.put(f"/api/plans/{wren['sequence_id']}/favourite", json={"favourite": True})
    out = client.get("/api/workspace").data
    assert client.put("/api/workspace", data=out, content_type="application/zip").status_code == 200
    assert client.get(f"/api/plans?sitter={wren['id']}").json["plans"][0]["favourite"]


@pytest.mark.parametrize(
    ("sought", "kind", "words"),
    [("wre", "sitter", "Wren"), ("tamsin season", "plan", "Tamsin for the season"), ("thin satin 3", "item", "Thin satin 3"),
     ("CORRECTOR green", "item", "Leaf green corrector")],
)  # fmt: skip
def test_a_search_finds_things_of_every_kind_by_words_in_any_order(client, sought, kind, words):
    hits = client.get("/api/search", query_string={"q": sought}).json["hits"]
    assert (kind, words) in [(each["kind"], each["words"]) for each in hits]


@pytest.mark.parametrize("sought", ["", "   ", "%", "_", "\\", "nothing is called this", "' or 1=1 --"])
def test_a_search_finds_nothing_where_nothing_is_meant(client, sought):
    assert client.get("/api/search", query_string={"q": sought}).json["hits"] == []


def test_a_search_answers_few_of_each_kind(demo_database):
    with demo_database.session() as session:
        found = Plans(session).search("a", 6)
    for kind in ("sitter", "plan", "item"):
        assert 0 < len([each for each in found if each.kind == kind]) <= 6


def test_a_plan_is_taken_to_another_face_and_says_what_changed_and_why(client):
    them = people(client)
    plan = them["Wren"]["sequence_id"]
    told = client.post(f"/api/sequences/{plan}/adapt", json={"sitter": them["Isolde"]["id"]}).json
    assert told["id"] is None
    assert len(told["changes"]) > 5
    for change in told["changes"]:
        assert change["says"].endswith(".")
        assert change["why"]
    assert any(
        change["says"].startswith("Foundation: ") and "instead of Thin satin 2" in change["says"]
        for change in told["changes"]
    )
    before = len(client.get(f"/api/plans?sitter={them['Isolde']['id']}").json["plans"])
    stored = client.post(f"/api/sequences/{plan}/adapt", json={"sitter": them["Isolde"]["id"], "save": True}).json
    assert stored["changes"] == told["changes"]
    made = client.get(f"/api/sequences/{stored['id']}").json
    assert (made["nickname"], made["school"], made["title"]) == ("Isolde", "underpainted", "Isolde, as Wren")
    assert len(client.get(f"/api/plans?sitter={them['Isolde']['id']}").json["plans"]) == before + 1
    assert client.post(f"/api/sequences/{plan}/adapt", json={"sitter": "nobody"}).status_code == 404


def test_what_changed_is_true_of_the_new_plan(client):
    them = people(client)
    plan = them["Bram"]["sequence_id"]
    stored = client.post(f"/api/sequences/{plan}/adapt", json={"sitter": them["Posy"]["id"], "save": True}).json
    made = client.get(f"/api/sequences/{stored['id']}").json
    names = {made["products"][part["item"]]["name"] for step in made["steps"] for part in step.get("mix", [])}
    hands = {
        hand_words(portion.get("tool"), portion.get("motion")) for step in made["steps"] for portion in step["portions"]
    }
    told = by_hand = 0
    for change in stored["changes"]:
        if any(change["says"].endswith(f"{each}.") for each in hands - {""}):
            by_hand += 1
        elif ": " in change["says"]:
            come = change["says"].split(": ", 1)[1].rstrip(".").split(" instead of ")[0]
            assert all(name in names for name in come.replace(" and ", ", ").split(", ")), change
            told += 1
    assert told > 2
    assert by_hand


def test_the_same_face_asks_for_nothing_else(client):
    wren = people(client)["Wren"]
    fresh = client.post(f"/api/sitters/{wren['id']}/sequences", json={"school": "underpainted"}).json["id"]
    told = client.post(f"/api/sequences/{fresh}/adapt", json={"sitter": wren["id"]}).json
    assert told["changes"] == []


def test_about_names_the_version_the_data_and_every_licence(client, demo_database):
    about = client.get("/api/about").json
    assert about["version"] == __version__
    assert about["data"] == str(demo_database.path.parent.resolve())
    assert about["parameters"] == len(PARAMETERS)
    named = {each["name"] for each in about["parts"]}
    assert {"flask", "numpy", "typst", "svelte", "bits-ui", "Atkinson Hyperlegible Next"} <= named
    assert all(each["licence"] for each in about["parts"])


def test_where_the_data_lie_is_no_business_of_others(demo_database):
    guarded = create_app(demo_database, sign_in=True).test_client()
    assert guarded.get("/api/about").status_code == 401
