"""Versions of a plan and the Weigh room over HTTP."""

from __future__ import annotations

import pytest

from nabrel.web.app import create_app
from tests.making import item_of, zones_of


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
    return edit(client, plan, edit="amount", step=step["id"], amount=11.0).json


def test_a_finding_is_accepted_kept_and_undone(client, bench):
    finding = bench["findings"][0]
    now = edit(client, bench, edit="accept", rule=finding["rule"], zones=finding["zones"], note="he blots").json
    assert now["findings"][-1]["accepted"] == "he blots"
    file = client.get(f"/api/sequences/{bench['id']}/file").json
    assert "he blots" in {each["note"] for each in file["accepted"] if each["rule"] == finding["rule"]}
    body = {"revision": now["revision"], "school": "two_tone"}
    replanned = client.post(f"/api/sequences/{bench['id']}/replan", json=body).json
    stored = client.get(f"/api/sequences/{bench['id']}/file").json["accepted"]
    assert [each for each in stored if each in file["accepted"]] == file["accepted"]
    back = client.post(f"/api/sequences/{bench['id']}/undo", json={"revision": replanned["revision"]}).json
    back = client.post(f"/api/sequences/{bench['id']}/undo", json={"revision": back["revision"]}).json
    assert back["findings"][0]["accepted"] == finding["accepted"] != "he blots"


def test_an_unknown_rule_is_not_accepted(client, bench):
    assert edit(client, bench, edit="accept", rule="no-such-rule", note="x").status_code == 422


def test_versions_are_named_compared_and_brought_back(client, bench):
    where = f"/api/sequences/{bench['id']}/versions"
    client.put(f"{where}/1", json={"name": "Opening night"})
    now = thicker(client, bench)
    listed = client.get(where).json["versions"]
    assert [(each["number"], each["name"], each["current"]) for each in listed] == [
        (2, None, True),
        (1, "Opening night", False),
    ]
    changed = client.get(f"{where}/1/difference").json
    assert "Film, mean of zones" in {figure["name"] for figure in changed["figures"]}
    back = client.post(f"{where}/1/take", json={"revision": now["revision"]}).json
    assert back["revision"] == 3
    assert back["undo_says"] == "Back to Opening night"
    assert back["steps"] == bench["steps"]


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
    current = next(item_of(step) for step in bench["steps"] if step["kind"] == "foundation")
    other = next(item["id"] for item in kit if item["role"] == "foundation" and item["id"] != current)
    body = {"candidates": [{}, {"school": "two_tone"}, {"foundation": other}, {"light": "warm_lamp"}]}
    found = client.post(f"/api/sequences/{bench['id']}/weigh", json=body).json
    assert [each["current"] for each in found["candidates"]] == [True, False, False, True]
    assert found["candidates"][1]["words"] == "Two-tone"
    assert found["candidates"][3]["words"] == "Current version, warm lamp"
    assert {item_of(step) for step in found["candidates"][2]["plan"]["steps"] if step["kind"] == "foundation"} == {
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
    powdered, own = next((n, zones_of(step)[0]) for n, step in enumerate(bench["steps"]) if step["kind"] == "set")
    assert bench["states"][0][cheek] == "b"
    assert bench["states"][laid][cheek] in "wt"
    assert bench["states"][powdered][zones.index(own)] == "p"


# What suits best


def weighed(client, plan, *candidates):
    answer = client.post(f"/api/sequences/{plan['id']}/weigh", json={"candidates": list(candidates)})
    assert answer.status_code == 200, answer.json
    return answer.json


def test_the_candidate_that_suits_best_is_named_with_its_reasons(client, bench):
    found = weighed(client, bench, {"school": "doubled"}, {"school": "light_led"}, {})
    best = found["candidates"][found["recommended"]]
    assert best["speaks_for"] or best["speaks_against"]
    for reason in (*best["speaks_for"], *best["speaks_against"]):
        assert reason in found["says"]


@pytest.mark.parametrize("turned", [False, True])
def test_what_suits_best_does_not_hang_on_the_order_of_candidates(client, bench, turned):
    specs = [{"school": school} for school in ("overpainted", "two_tone", "light_led", "doubled")]
    found = weighed(client, bench, *(reversed(specs) if turned else specs))
    schools = [each["plan"]["school"] for each in found["candidates"]]
    ranked = client.get(f"/api/sequences/{bench['id']}/schools").json["schools"]
    assert schools[found["recommended"]] == next(each["school"] for each in ranked if each["school"] in schools)


def test_reasons_tell_candidates_apart(client, bench):
    found = weighed(client, bench, {}, {"light": "flash"}, {"school": "two_tone"})
    told = [set(each["speaks_for"]) | set(each["speaks_against"]) for each in found["candidates"]]
    assert not set.intersection(*told)
    assert told[2]


def test_the_same_candidate_twice_differs_in_nothing(client, bench):
    found = weighed(client, bench, {}, {})
    assert found["figures"] == []
    assert found["recommended"] == 0
    assert [each["current"] for each in found["candidates"]] == [True, True]


def test_every_figure_has_a_value_for_each_and_marks_only_candidates(client, bench):
    found = weighed(client, bench, {}, {"school": "two_tone"}, {"school": "doubled"}, {"light": "stage_warm"})
    assert found["figures"]
    for row in found["figures"]:
        assert len(row["values"]) == 4
        assert set(row["best"]) <= {0, 1, 2, 3}
        assert len(row["best"]) < 4
        if not row["wish"]:
            assert row["best"] == []
    names = [row["name"] for row in found["figures"]]
    assert len(names) == len(set(names))


def test_light_changes_the_look_and_not_the_work(client, bench):
    found = weighed(client, bench, {}, {"light": "warm_lamp"})
    day, lamp = (each["plan"] for each in found["candidates"])
    assert day["stages"] != lamp["stages"]
    assert day["steps"] == lamp["steps"]
    assert {row["name"] for row in found["figures"]} <= {
        "Shade that shows",
        "Light that shows",
        "Sculpting that reads through",
        "Off its aim, mean by area",
    }


def test_foundations_are_those_the_plan_may_use(client, bench):
    found = weighed(client, bench, {}, {"school": "two_tone"})
    kit = {item["id"]: item for item in client.get("/api/kit").json["items"]}
    assert found["foundations"]
    for each in found["foundations"]:
        assert kit[each["id"]]["role"] == "foundation"
        assert kit[each["id"]]["name"] == each["name"]


def test_a_plan_on_the_generic_kit_is_weighed_with_its_foundations(client, database):
    empty = create_app(database).test_client()
    case = client.get(f"/api/sitters/{client.get('/api/sitters').json['sitters'][1]['id']}/case").json
    case["kit"] = []
    sequence = empty.post("/api/cases", json=case).json["sequence_id"]
    plan = empty.get(f"/api/sequences/{sequence}").json
    found = weighed(empty, plan, {}, {"school": "overpainted"})
    assert found["foundations"]
    other = found["foundations"][0]["id"]
    swapped = weighed(empty, plan, {}, {"foundation": other})["candidates"][1]["plan"]
    assert other in {item_of(step) for step in swapped["steps"] if step["kind"] == "foundation"}


def test_two_tones_keep_their_second_tone_with_another_foundation(client, bench):
    kit = client.get("/api/kit").json["items"]
    two = weighed(client, bench, {}, {"school": "two_tone"})["candidates"][1]["plan"]
    tones = {item_of(step) for step in two["steps"] if step["kind"] == "foundation"}
    other = next(item["id"] for item in kit if item["role"] == "foundation" and item["id"] not in tones)
    now = weighed(client, bench, {}, {"school": "two_tone", "foundation": other})["candidates"][1]["plan"]
    after = {item_of(step) for step in now["steps"] if step["kind"] == "foundation"}
    assert other in after
    assert len(after & tones) == len(tones) - 1


def test_a_version_in_another_school_is_weighed_and_taken(client, bench):
    where = f"/api/sequences/{bench['id']}"
    client.put(f"{where}/versions/1", json={"name": "Rehearsal"})
    now = thicker(client, bench)
    spec = {"version": 1, "school": "doubled", "light": "flash"}
    found = weighed(client, now, {}, spec)
    assert found["candidates"][1]["words"] == "Rehearsal, Doubled, flash"
    assert found["revision"] == now["revision"]
    taken = client.post(f"{where}/weigh/take", json={"revision": found["revision"], "candidate": spec}).json
    assert taken["school"] == "doubled"
    assert taken["undo_says"] == "Weighed: Rehearsal, Doubled, flash"
    back = client.post(f"{where}/undo", json={"revision": taken["revision"]}).json
    assert back["steps"] == now["steps"]


def test_a_change_tells_of_each_figure_whether_it_gained(client, bench):
    rows = {row["name"]: row for row in thicker(client, bench)["difference"]["figures"]}
    assert rows["Film, mean of zones"]["gain"] == "worse"
    assert {row["gain"] for row in rows.values()} <= {"better", "worse", ""}


def test_weighing_stores_nothing_and_answers_the_same_twice(client, bench):
    specs = ({}, {"school": "two_tone"}, {"light": "led"})
    assert weighed(client, bench, *specs) == weighed(client, bench, *specs)
    assert client.get(f"/api/sequences/{bench['id']}").json["revision"] == bench["revision"]
    assert len(client.get(f"/api/sequences/{bench['id']}/versions").json["versions"]) == 1
