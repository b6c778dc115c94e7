"""Versions of a plan and the Weigh room over HTTP."""

from __future__ import annotations

import pytest

from nabrel.web.app import create_app


@pytest.fixture
def client(demo_database):
    return create_app(demo_database).test_client()


@pytest.fixture
def bench(client):
    sequence = client.get("/api/sitters").json["sitters"][2]["sequence_id"]
    return client.get(f"/api/sequences/{sequence}").json


def edit(client, plan, **fields):
    return client.post(f"/api/sequences/{plan['id']}/edits", json={"revision": plan["revision"], "edits": [fields]})


def thicker(client, plan):
    step = next(step for step in plan["steps"] if step["kind"] == "foundation")
    return edit(client, plan, edit="amount", step=step["id"], film_um=11.0).json


def test_a_finding_is_accepted_kept_and_undone(client, bench):
    finding = bench["findings"][0]
    now = edit(client, bench, edit="accept", rule=finding["rule"], zones=finding["zones"], note="he blots").json
    assert now["findings"][-1]["accepted"] == "he blots"
    file = client.get(f"/api/sequences/{bench['id']}/file").json
    assert file["accepted"][0]["note"] == "he blots"
    body = {"revision": now["revision"], "school": "two_tone"}
    replanned = client.post(f"/api/sequences/{bench['id']}/replan", json=body).json
    assert client.get(f"/api/sequences/{bench['id']}/file").json["accepted"] == file["accepted"]
    back = client.post(f"/api/sequences/{bench['id']}/undo", json={"revision": replanned["revision"]}).json
    back = client.post(f"/api/sequences/{bench['id']}/undo", json={"revision": back["revision"]}).json
    assert back["findings"][0]["accepted"] == ""


def test_an_unknown_rule_is_not_accepted(client, bench):
    assert edit(client, bench, edit="accept", rule="no-such-rule", note="x").status_code == 422


def test_versions_are_named_compared_and_brought_back(client, bench):
    where = f"/api/sequences/{bench['id']}/versions"
    client.put(f"{where}/1", json={"name": "Opening night"})
    now = thicker(client, bench)
    listed = client.get(where).json["versions"]
    assert [(each["number"], each["name"], each["stands"]) for each in listed] == [
        (2, None, True),
        (1, "Opening night", False),
    ]
    changed = client.get(f"{where}/1/difference").json
    assert "Film, mean of zones" in {figure["name"] for figure in changed["figures"]}
    back = client.post(f"{where}/1/take", json={"revision": now["revision"]}).json
    assert back["revision"] == 3
    assert back["undo_says"] == "Back to Opening night"
    assert [step.get("film_um") for step in back["steps"]] == [step.get("film_um") for step in bench["steps"]]


def test_what_changed_is_told_between_any_two_versions(client, bench):
    where = f"/api/sequences/{bench['id']}/versions"
    heavier = thicker(client, bench)
    last = edit(client, heavier, edit="remove", step=heavier["steps"][-1]["id"]).json
    first, whole = (client.get(f"{where}/1/difference?until={number}").json for number in (2, last["revision"]))
    assert {figure["name"]: figure["after"] for figure in whole["figures"]}["Steps"] == len(last["steps"])
    assert "Steps" not in {figure["name"] for figure in first["figures"]}
    assert whole == client.get(f"{where}/1/difference").json
    back = client.get(f"{where}/2/difference?until=1").json
    assert [(row["name"], row["after"], row["before"]) for row in back["figures"]] == [
        (row["name"], row["before"], row["after"]) for row in first["figures"]
    ]
    assert client.get(f"{where}/2/difference?until=2").json == {"says": [], "figures": []}


@pytest.mark.parametrize(
    ("until", "status"), [("9", 404), ("0", 404), ("-1", 422), ("9" * 40, 422), ("last", 422), ("1.5", 422)]
)
def test_changes_until_no_version_are_refused(client, bench, until, status):
    answer = client.get(f"/api/sequences/{bench['id']}/versions/1/difference?until={until}")
    assert answer.status_code == status


@pytest.fixture
def aged(client):
    """A plan with a product that is long past its months, which only a day can tell."""
    sitter = client.get("/api/sitters").json["sitters"][2]
    item = next(each for each in client.get("/api/kit").json["items"] if each["id"] == "cle-1")
    old = {**item, "opened_on": "2019-01-01", "keeps_months": 6}
    assert client.put("/api/kit/items/cle-1", json=old).status_code == 200
    return client.post(f"/api/sitters/{sitter['id']}/sequences", json={}).json


def rules_of(findings):
    return {each["rule"] for each in findings}


def test_other_versions_schools_and_candidates_are_judged_by_the_same_day(client, aged):
    where = f"/api/sequences/{aged['id']}"
    assert "not-past-its-months" in rules_of(aged["findings"])
    assert client.get(f"{where}/versions/1/difference").json == {"says": [], "figures": []}
    preview = client.post(f"{where}/preview", json={"school": "two_tone"}).json
    assert "not-past-its-months" not in rules_of(preview["gone"])
    weighed = client.post(f"{where}/weigh", json={"candidates": [{}, {"school": "two_tone"}]}).json
    for candidate in weighed["candidates"]:
        assert "not-past-its-months" in rules_of(candidate["plan"]["findings"])


def test_a_name_is_given_once_and_taken_away(client, bench):
    where = f"/api/sequences/{bench['id']}/versions"
    client.put(f"{where}/1", json={"name": "One"})
    thicker(client, bench)
    assert client.put(f"{where}/2", json={"name": "one"}).status_code == 422
    assert client.put(f"{where}/9", json={"name": "Nine"}).status_code == 404
    assert client.put(f"{where}/1", json={"name": " "}).json["versions"][1]["name"] is None


def test_candidates_are_weighed_whole(client, bench):
    kit = client.get("/api/kit").json["items"]
    current = next(step["product"] for step in bench["steps"] if step["kind"] == "foundation")
    other = next(item["id"] for item in kit if item["role"] == "foundation" and item["id"] != current)
    body = {"candidates": [{}, {"school": "two_tone"}, {"foundation": other}, {"light": "warm_lamp"}]}
    found = client.post(f"/api/sequences/{bench['id']}/weigh", json=body).json
    assert [each["stands"] for each in found["candidates"]] == [True, False, False, True]
    assert found["candidates"][1]["words"] == "Two-tone"
    assert found["candidates"][3]["words"] == "As it stands, warm lamp"
    assert {step["product"] for step in found["candidates"][2]["plan"]["steps"] if step["kind"] == "foundation"} == {
        other
    }
    assert all(len(row["values"]) == 4 for row in found["figures"])
    assert found["says"]
    assert client.get(f"/api/sequences/{bench['id']}").json["revision"] == 1


def test_a_candidate_becomes_the_plan(client, bench):
    take = f"/api/sequences/{bench['id']}/weigh/take"
    now = client.post(take, json={"revision": 1, "candidate": {"school": "two_tone"}}).json
    assert (now["school"], now["undo_says"]) == ("two_tone", "Weighed: Two-tone")
    assert client.post(take, json={"revision": 1, "candidate": {}}).status_code == 409
    same = client.post(take, json={"revision": 2, "candidate": {}}).json
    assert same["revision"] == 2


@pytest.mark.parametrize(
    "candidates",
    [[], [{}], [{}] * 5, [{}, {"school": "seventh"}], [{}, {"foundation": "nothing"}], [{}, {"version": 99}]],
)
def test_what_cannot_be_weighed_is_refused(client, bench, candidates):
    answer = client.post(f"/api/sequences/{bench['id']}/weigh", json={"candidates": candidates})
    assert answer.status_code in (404, 422)


def test_every_stage_tells_how_each_zone_lies(client, bench):
    zones = [zone["id"] for zone in client.get("/api/vocabulary").json["zones"]]
    assert len(bench["states"]) == len(bench["steps"])
    assert {len(row) for row in bench["states"]} == {len(zones)}
    assert set("".join(bench["states"])) <= set("bwtsp")
    cheek = zones.index("cheek_apple_l")
    laid = next(n for n, step in enumerate(bench["steps"]) if step["kind"] == "foundation")
    powdered, own = next((n, step["zones"][0]) for n, step in enumerate(bench["steps"]) if step["kind"] == "set")
    assert bench["states"][0][cheek] == "b"
    assert bench["states"][laid][cheek] == "w"
    assert bench["states"][powdered][zones.index(own)] == "p"
