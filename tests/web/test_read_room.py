"""The Read room's API, named kits, runs and the workspace over HTTP."""

from __future__ import annotations

import pytest

from nabrel.web.app import create_app


@pytest.fixture
def client(demo_database):
    return create_app(demo_database).test_client()


@pytest.fixture
def wren(client):
    return client.get("/api/sitters").json["sitters"][0]["id"]


def face(client, sitter):
    return client.get(f"/api/sitters/{sitter}/face").json


def save(client, sitter, **fields):
    now = face(client, sitter)
    body = {"version": now["version"], "record": {**now["record"], **fields}, "intent": now["intent"]}
    return client.put(f"/api/sitters/{sitter}/face", json=body)


def test_a_face_is_told_whole(client, wren):
    found = face(client, wren)
    assert found["shape_reading"]["shape"] == "oval"
    assert any("neck" in line for line in found["tone_says"])
    assert {each["place"] for each in found["colours"]} == {"face", "neck"}
    assert found["courses"][0]["readings"][-1]["reading"]["lab"] == found["record"]["skin"]["lab"]
    assert {stroke["kind"] for stroke in found["strokes"]} >= {"shade", "light", "colour"}


def test_a_changed_record_is_read_anew(client, wren):
    answer = save(client, wren, zones={"chin": {"conditions": {"redness": 3}}}, moved={"light.chin": [0, -20]})
    assert answer.status_code == 200
    chin = next(zone for zone in answer.json["zones"] if zone["zone"] == "chin")
    assert {"id": "redness", "words": "redness", "severity": 3} in chin["conditions"]
    stroke = next(each for each in answer.json["strokes"] if each["id"] == "light.chin")
    assert stroke["moved_mm"] == [0, -20]
    assert stroke["zones"] != ["chin"]


def test_a_record_that_was_changed_elsewhere_is_not_overwritten(client, wren):
    now = face(client, wren)
    body = {"version": now["version"], "record": now["record"], "intent": now["intent"]}
    assert client.put(f"/api/sitters/{wren}/face", json=body).status_code == 200
    assert client.put(f"/api/sitters/{wren}/face", json=body).status_code == 409


@pytest.mark.parametrize(
    ("fields", "said"),
    [
        ({"nickname": ""}, "nickname"),
        ({"zones": {"chinn": {}}}, "zones"),
        ({"zones": {"chin": {"conditions": {"redness": 4}}}}, "redness"),
        ({"moved": {"shade.chinn": [1, 1]}}, "moved"),
        ({"moved": {"light.chin": [100, 1]}}, "moved"),
        ({"consent_on": "2026-02-30"}, "consent_on"),
        ({"skin": {"lab": [50, 120, -120]}}, "skin"),
        ({"measures": {"face_length_mm": 3}}, "face_length_mm"),
    ],
)
def test_a_record_that_cannot_be_is_refused_by_field_and_nothing_changes(client, wren, fields, said):
    before = face(client, wren)
    answer = save(client, wren, **fields)
    assert answer.status_code == 422
    assert said in answer.json["field"]
    assert face(client, wren) == before


def test_a_new_sitter_is_begun_and_planned(client):
    body = {"nickname": "Tern", "skin": [50, 14, 19], "preset": "oily", "consent_on": "2026-10-01"}
    found = client.post("/api/faces", json=body)
    assert found.status_code == 201
    assert found.json["record"]["consent_on"] == "2026-10-01"
    planned = client.post(f"/api/sitters/{found.json['id']}/sequences", json={})
    assert planned.status_code == 201


@pytest.mark.parametrize("body", [{"nickname": "  ", "skin": [50, 14, 19]}, {"nickname": "T", "skin": [50, 120, -120]}])
def test_a_new_sitter_that_cannot_be_is_refused(client, body):
    count = len(client.get("/api/sitters").json["sitters"])
    assert client.post("/api/faces", json=body).status_code == 422
    assert len(client.get("/api/sitters").json["sitters"]) == count


def test_a_reading_counts_from_when_it_is_kept_until_it_is_taken_out(client, wren):
    body = {"readings": [{"day": "2090-01-01", "place": "face", "what": "colour", "lab": [60, 11, 17]}]}
    found = client.post(f"/api/sitters/{wren}/readings", json=body).json
    assert found["record"]["skin"]["lab"] == [60, 11, 17]
    newest = found["courses"][0]["readings"][-1]
    back = client.delete(f"/api/sitters/{wren}/readings/{newest['id']}").json
    assert back["record"]["skin"]["lab"] == [71, 10, 14]
    assert client.delete(f"/api/sitters/{wren}/readings/{newest['id']}").status_code == 404


def test_the_reader_takes_again_what_went_wrong(client, wren):
    body = {"place": "face", "takes": [[71, 10, 14], [71.2, 10, 14], [63, 11, 12]], "more": 0}
    first = client.post(f"/api/sitters/{wren}/reader", json=body).json
    assert [take["far"] for take in first["takes"]] == [False, False, True]
    assert "take it again" in first["says"]
    again = client.post(f"/api/sitters/{wren}/reader", json={**body, "takes": body["takes"][:2], "more": 1, "seed": 5})
    assert len(again.json["takes"]) == 3
    assert client.post(f"/api/sitters/{wren}/reader", json={"place": "face", "more": 0}).status_code == 422


@pytest.mark.parametrize("place", ["neck", "chest", "chin"])
def test_the_reader_reads_every_place(client, wren, place):
    found = client.post(f"/api/sitters/{wren}/reader", json={"place": place, "more": 9, "seed": 11}).json
    assert found["spread"] < 2
    assert 55 < found["mean"][0] < 85


def test_the_probe_says_its_band(client, wren):
    found = client.post(f"/api/sitters/{wren}/probe", json={"zone": "under_eye_l", "what": "oil", "seed": 1}).json
    assert found["condition"] == "dry"
    assert found["severity"] >= 1
    found = client.post(f"/api/sitters/{wren}/probe", json={"zone": "chin", "what": "moisture", "seed": 1}).json
    assert "units" in found["says"]


@pytest.mark.parametrize("form", ["csv", "cgats"])
def test_readings_go_out_and_come_into_another_record(client, wren, form):
    other = client.get("/api/sitters").json["sitters"][3]["id"]
    out = client.get(f"/api/sitters/{wren}/readings/table?form={form}")
    assert out.status_code == 200
    looked = client.post(f"/api/sitters/{other}/readings/preview", data=out.data, content_type="text/csv").json
    assert [row["status"] for row in looked["rows"]] == ["good"] * 4
    assert face(client, other)["courses"] == []
    taken = client.post(f"/api/sitters/{other}/readings/table", data=out.data, content_type="text/csv").json
    assert taken["record"]["skin"]["lab"] == [71, 10, 14]


def test_a_table_with_a_bad_row_is_kept_whole_or_without_it(client, wren):
    table = b"place,lab_l,lab_a,lab_b\nchin,60,11,17\nchinn,60,11,17\n"
    where = f"/api/sitters/{wren}/readings/table"
    refused = client.post(where, data=table, content_type="text/csv")
    assert (refused.status_code, refused.json["field"]) == (422, "line 3: place")
    assert "chin" not in {each["place"] for each in face(client, wren)["colours"]}
    taken = client.post(f"{where}?leave_out=true", data=table, content_type="text/csv").json
    assert "chin" in {each["place"] for each in taken["colours"]}


def test_only_tables_are_taken(client, wren):
    assert client.post(f"/api/sitters/{wren}/readings/table", json={}).status_code == 415


def test_colours_are_understood_as_typed(client):
    assert client.post("/api/colour", json={"text": "62,5; 11; 17"}).json["lab"] == [62.5, 11, 17]
    assert client.post("/api/colour", json={"text": "beige"}).status_code == 422


def test_a_plan_is_made_from_a_named_kit_only(client, wren):
    kit = client.get("/api/kit").json["kits"][1]
    plan = client.post(f"/api/sitters/{wren}/sequences?kit={kit['id']}", json={}).json
    used = {step["product"] for step in plan["steps"] if step.get("product")}
    assert used <= set(kit["items"])
    assert client.post(f"/api/sitters/{wren}/sequences?kit=nothing", json={}).status_code == 404


def test_a_run_is_recorded_on_the_revision_that_stands(client, wren):
    plan = client.get(f"/api/sitters/{wren}").json["sequence_id"]
    run = client.post(f"/api/sequences/{plan}/runs", json={"revision": 1, "sitters": 2})
    assert run.status_code == 201
    assert run.json["items"] > 5
    assert client.post(f"/api/sequences/{plan}/runs", json={"revision": 7}).status_code == 409


def test_tools_kits_and_twins_over_http(client):
    tool = {"id": "t", "kind": "damp_sponge", "name": "Small", "state": "used", "since": "2020-01-01"}
    found = client.put("/api/kit/tools/t", json=tool).json["tools"][-1]
    assert not found["ready"]
    assert "replace it" in found["says"]
    assert client.put("/api/kit/tools/other", json=tool).status_code == 422
    assert client.delete("/api/kit/tools/t").status_code == 200
    item = client.get("/api/kit").json["items"][0]
    twin = {**item, "id": "twin"}
    assert client.put("/api/kit/items/twin", json=twin).json["twins"][0]["other"] == "twin"
    assert client.put("/api/kit/kits/k", json={"id": "k", "name": "K", "items": ["twin"]}).status_code == 200
    merged = client.post("/api/kit/merge", json={"into": item["id"], "other": "twin"}).json
    assert merged["twins"] == []
    assert next(kit for kit in merged["kits"] if kit["id"] == "k")["items"] == [item["id"]]
    assert client.post("/api/kit/merge", json={"into": item["id"], "other": item["id"]}).status_code == 422
    assert client.delete("/api/kit/kits/k").status_code == 200


def test_a_workspace_goes_out_is_looked_at_and_comes_back(client, wren):
    out = client.get("/api/workspace").data
    client.delete(f"/api/sitters/{wren}")
    looked = client.post("/api/workspace/preview", data=out, content_type="application/zip").json
    assert (looked["comes"]["sitters"], looked["goes"]["sitters"]) == (8, 7)
    assert client.put("/api/workspace", data=out, content_type="application/zip").json["sitters"] == 8
    assert client.get("/api/workspace").data == out


def test_an_exported_sitter_comes_back_after_being_erased_and_not_twice(client, wren):
    out = client.get(f"/api/sitters/{wren}/everything").data
    twice = client.post("/api/workspace/people", data=out, content_type="application/zip")
    assert twice.status_code == 422
    assert "Wren" in twice.json["found"]
    client.delete(f"/api/sitters/{wren}")
    assert client.post("/api/workspace/people", data=out, content_type="application/zip").status_code == 200
    assert face(client, wren)["nickname"] == "Wren"
    assert len(face(client, wren)["courses"][0]["readings"]) == 3


@pytest.mark.parametrize("data", [b"", b"not a zip", b"PK\x05\x06" + bytes(18)])
def test_what_is_no_workspace_changes_nothing(client, data):
    before = client.get("/api/workspace").data
    assert client.put("/api/workspace", data=data, content_type="application/zip").status_code == 422
    assert client.get("/api/workspace").data == before


def test_presets_say_what_they_set(client):
    presets = {each["id"]: each for each in client.get("/api/vocabulary").json["presets"]}
    assert len(presets) == 8
    assert presets["normal"]["sets"] == []
    assert any("oil 3" in line.lower() for line in presets["oily"]["sets"])
    assert presets["oily"]["zones"]["nose_tip"]["oily"] == 3


def test_every_condition_is_in_one_group(client):
    found = client.get("/api/vocabulary").json
    grouped = [condition for group in found["condition_groups"] for condition in group["conditions"]]
    assert sorted(grouped) == sorted(each["id"] for each in found["conditions"])


def test_placements_follow_what_is_wished_for_and_nothing_is_kept(client, wren):
    before = face(client, wren)

    def placed(**wishes):
        intent = {**before["intent"], **wishes}
        answer = client.post(f"/api/sitters/{wren}/placements", json={"intent": intent})
        assert answer.status_code == 200
        return {(each["kind"], zone) for each in answer.json["strokes"] for zone in each["zones"]}, answer.json

    usual, answered = placed(effects={})
    assert (answered["strokes"], answered["left_off"]) == (before["strokes"], before["left_off"])
    softer, _ = placed(effects={"chin": ["softer"]})
    assert ("light", "chin") in usual - softer
    narrower, _ = placed(effects={"nose": ["narrower"]})
    assert {("shade", "nose_side_l"), ("shade", "nose_side_r")} <= narrower - usual
    dots, _ = placed(glow_points=["chin"])
    assert {zone for kind, zone in dots if kind == "glow"} == {"chin"}
    assert face(client, wren) == before
    bad = client.post(f"/api/sitters/{wren}/placements", json={"intent": {"effects": {"nose": ["bigger"]}}})
    assert bad.status_code == 422
    assert "effects" in bad.json["field"]
