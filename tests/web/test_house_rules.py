"""House rules over the API: decided, followed by plans and checks, exported, taken in again and reset."""

from __future__ import annotations

import pytest

from nabrel.web.app import create_app
from tests.making import zones_of


@pytest.fixture
def client(demo_database):
    return create_app(demo_database).test_client()


@pytest.fixture
def plan_id(client):
    sitters = client.get("/api/sitters").json["sitters"]
    return next(s["sequence_id"] for s in sitters if s["nickname"] == "Bram")


def findings(client, plan_id, rule):
    return [f for f in client.get(f"/api/sequences/{plan_id}").json["findings"] if f["rule"] == rule]


def rule(book, rule_id):
    return next(each for each in book["rules"] if each["id"] == rule_id)


def test_the_book_holds_every_rule_with_its_numbers(client):
    book = client.get("/api/house").json
    assert len(book["rules"]) >= 60
    names = {each["name"] for each in book["parameters"]}
    for each in book["rules"]:
        assert set(each["parameters"]) <= names
        assert each["decision"] is None
    for each in book["parameters"]:
        assert each["low"] <= each["value"] == each["default"] <= each["high"]


def test_a_rule_that_is_switched_off_no_longer_speaks(client, plan_id):
    assert findings(client, plan_id, "shine-before-time")
    book = client.put("/api/house/rules/shine-before-time", json={"off": True, "note": "we blot anyway"}).json
    assert rule(book, "shine-before-time")["decision"] == {"off": True, "severity": None, "note": "we blot anyway"}
    assert not findings(client, plan_id, "shine-before-time")
    client.delete("/api/house/rules/shine-before-time")
    assert findings(client, plan_id, "shine-before-time")


def test_a_changed_severity_is_shown_on_every_finding_with_its_note(client, plan_id):
    client.put("/api/house/rules/shine-before-time", json={"severity": "problem", "note": "guides are photographed"})
    (finding,) = findings(client, plan_id, "shine-before-time")
    assert finding["severity"] == "problem"
    assert finding["decided"] == "Decided here: advice became problem (guides are photographed)."


def test_plans_follow_a_changed_number(client, plan_id):
    client.put("/api/house/parameters/foundation_film_um", json={"value": 4.0, "note": "one thin press"})
    replanned = client.post(f"/api/sequences/{plan_id}/replan", json={"revision": 1}).json
    base = next(s for s in replanned["steps"] if s["kind"] == "foundation")
    assert max(portion["amount"] for portion in base["portions"]) == 4.5


def test_a_changed_number_is_told_on_the_findings_that_ask_about_it(client, plan_id):
    client.put("/api/house/parameters/short_shine_share", json={"value": 0.9})
    (finding,) = findings(client, plan_id, "shine-before-time")
    assert "short shine share is 0.9, not 0.4" in finding["decided"]


@pytest.mark.parametrize(
    ("path", "body", "field"),
    [
        ("rules/no-such-rule", {"off": True}, "rules"),
        ("rules/thin-passes", {"severity": "grave"}, "severity"),
        ("rules/thin-passes", {"off": "yes"}, "off"),
        ("rules/thin-passes", {"off": True, "note": "x" * 301}, "note"),
        ("parameters/no_such_number", {"value": 1.0}, "parameters"),
        ("parameters/foundation_film_um", {"value": 400.0}, "foundation_film_um"),
        ("parameters/foundation_film_um", {"value": "six"}, "value"),
        ("parameters/foundation_film_um", {}, "value"),
    ],
)
def test_what_cannot_be_decided_is_refused_and_nothing_changes(client, path, body, field):
    answer = client.put(f"/api/house/{path}", json=body)
    assert answer.status_code == 422
    assert field in answer.json["field"]
    book = client.get("/api/house").json
    assert all(each["decision"] is None for each in book["rules"])
    assert all(each["value"] == each["default"] for each in book["parameters"])


def test_decisions_go_out_and_come_in_again(client):
    client.put("/api/house/rules/thin-passes", json={"severity": "problem", "note": "always"})
    client.put("/api/house/parameters/bake_line_limit", json={"value": 3.0, "note": "camera days"})
    file = client.get("/api/house/file")
    assert file.headers["Content-Disposition"] == 'attachment; filename="house.json"'
    client.delete("/api/house")
    assert client.get("/api/house/file").json == {
        "nabrel": "house",
        "version": 1,
        "parameters": {},
        "rules": {},
        "decisions": [],
    }
    book = client.put("/api/house/file", data=file.data, content_type="application/json").json
    assert rule(book, "thin-passes")["decision"]["severity"] == "problem"
    assert next(p for p in book["parameters"] if p["name"] == "bake_line_limit")["note"] == "camera days"


@pytest.mark.parametrize(
    "file",
    [
        b"", b"{}", b'{"nabrel":"case","version":1}', b"not json",
        b'{"nabrel":"house","version":1,"rules":{"thin-passes":{"off":true},"no-such":{"off":true}}}',
        b'{"nabrel":"house","version":1,"parameters":{"bake_s":{"value":1e9}}}',
        b'{"nabrel":"house","version":1,"parameters":{"bake_s":{"value":NaN}}}',
    ],
)  # fmt: skip
def test_a_wrong_house_file_is_refused_whole(client, file):
    client.put("/api/house/rules/thin-glow", json={"off": True})
    answer = client.put("/api/house/file", data=file, content_type="application/json")
    assert answer.status_code == 422
    assert answer.json["says"]
    assert rule(client.get("/api/house").json, "thin-glow")["decision"]["off"]


def test_a_decision_that_changes_nothing_is_a_reset(client):
    client.put("/api/house/rules/thin-passes", json={"off": True})
    book = client.put("/api/house/rules/thin-passes", json={"off": False}).json
    assert rule(book, "thin-passes")["decision"] is None


# Which school, late steps, told


def test_all_six_schools_are_ranked_with_reasons(client, plan_id):
    ranked = client.get(f"/api/sequences/{plan_id}/schools").json["schools"]
    assert len({each["school"] for each in ranked}) == 6
    assert ranked[0]["school"] == "powder_sculpted"
    assert all(each["says"] for each in ranked)


def test_a_late_step_is_offered_its_places_and_can_be_taken(client, plan_id):
    places = client.post(f"/api/sequences/{plan_id}/late", json={"kind": "melting_mist", "zones": ["chin"]}).json[
        "places"
    ]
    edited = client.post(f"/api/sequences/{plan_id}/edits", json={"revision": 1, "edits": places[0]["edits"]}).json
    assert "melting_mist" in [step["kind"] for step in edited["steps"]]


@pytest.mark.parametrize(
    ("body", "field"),
    [({"kind": "set", "zones": []}, "zones"), ({"kind": "polish", "zones": ["chin"]}, "kind"),
     ({"kind": "set", "zones": ["knee"]}, "zones"), ({"zones": ["chin"]}, "kind")],
)  # fmt: skip
def test_a_late_step_that_is_none_is_refused(client, plan_id, body, field):
    answer = client.post(f"/api/sequences/{plan_id}/late", json=body)
    assert answer.status_code == 422
    assert field in answer.json["field"]


def test_the_told_sequence_comes_as_a_file(client, plan_id):
    told = client.get(f"/api/sequences/{plan_id}/told")
    assert told.mimetype == "text/markdown"
    assert "Bram-overpainted.md" in told.headers["Content-Disposition"]
    assert "## Hygiene and safety" in told.text


def test_wishes_and_ways_of_working_change_the_plan(client, plan_id):
    wish = {"viewing": "stage", "lights": ["stage_warm"], "options": {"brows": "last"},
            "climate": {"temperature_c": 31.0, "humidity_percent": 70.0}}  # fmt: skip
    preview = client.post(f"/api/sequences/{plan_id}/preview", json=wish).json
    assert preview["intent"]["viewing"] == "stage"
    assert preview["intent"]["options"]["brows"] == "last"
    stored = client.post(f"/api/sequences/{plan_id}/replan", json={"revision": 1, **wish}).json
    assert "brows last" in stored["undo_says"]
    assert "31 °C" in stored["undo_says"]
    kinds = [step["kind"] for step in stored["steps"]]
    assert kinds.index("brows") > kinds.index("set")
    once_more = client.post(
        f"/api/sequences/{plan_id}/replan",
        json={"revision": stored["revision"], "options": {"spot": "before_foundation"}},
    )
    assert once_more.json["intent"]["options"]["brows"] == "last"


@pytest.mark.parametrize(
    "wish",
    [{"options": {"brows": "never"}}, {"options": {"nothing": 1}}, {"climate": {"temperature_c": 99}}, {"lights": []},
     {"viewing": "moonlight"}],
)  # fmt: skip
def test_wishes_that_are_none_are_refused(client, plan_id, wish):
    assert client.post(f"/api/sequences/{plan_id}/preview", json=wish).status_code == 422


def test_split_and_merge_go_over_the_wire_with_their_undo(client, plan_id):
    steps = client.get(f"/api/sequences/{plan_id}").json["steps"]
    shade = next(s for s in steps if s["kind"] == "shade")
    split = {"edit": "split", "step": shade["id"], "zones": zones_of(shade)[:2]}
    after = client.post(f"/api/sequences/{plan_id}/edits", json={"revision": 1, "edits": [split]}).json
    parts = [s["id"] for s in after["steps"] if s["kind"] == "shade"]
    assert len(parts) == 2
    assert after["undo_says"].startswith("Split shade")
    merge = {"edit": "merge", "step": parts[0], "other": parts[1]}
    merged = client.post(f"/api/sequences/{plan_id}/edits", json={"revision": 2, "edits": [merge]}).json
    assert [sorted(zones_of(s)) for s in merged["steps"] if s["kind"] == "shade"] == [sorted(zones_of(shade))]


def test_files_without_options_open_with_the_usual_ones(client, plan_id):
    file = client.get(f"/api/sequences/{plan_id}/file").json
    case = file["case"]
    usual = case["intent"].pop("options")
    stored = client.post("/api/cases", json=case)
    assert stored.status_code == 201
    again = client.get(f"/api/sitters/{stored.json['sitter_id']}/case").json
    assert again["intent"]["options"] == usual
