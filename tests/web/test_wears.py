"""Wear records over HTTP: a base is put on, looked at, held against its forecast, learnt from, exported and erased."""

from __future__ import annotations

import csv
import io
import json
from datetime import UTC, datetime, timedelta

import pytest

from nabrel.core.learn.learnt import learn
from nabrel.demo.worn import DAYS_AGO, TRUTH, WORN_BY
from nabrel.formats.wear import learnt_to, read_wear
from nabrel.formats.workspace import read_workspace
from nabrel.store.repositories import Sequences
from nabrel.store.wear import Wears
from nabrel.web.app import create_app

WORN = "2026-11-03T09:50:00+00:00"
NOSE = ("nose_tip", "nose_bridge")


@pytest.fixture
def client(demo_database):
    return create_app(demo_database).test_client()


@pytest.fixture
def posy(client):
    """A guide whose bases nobody has looked at in the demo's season."""
    return next(each for each in client.get("/api/sitters").json["sitters"] if each["nickname"] == "Posy")


@pytest.fixture
def worn(client, posy):
    body = {"worn_from": WORN, "temperature_c": 30, "humidity_pc": 70}
    answer = client.post(f"/api/sequences/{posy['sequence_id']}/wears", json=body)
    assert answer.status_code == 201
    return answer.json


def look(client, worn, minutes, zones=None, **more):
    body = {"look": {"after_min": minutes, "light": "daylight", "seen": list(NOSE), "zones": zones or {}, **more}}
    return client.put(f"/api/wears/{worn['wear_id']}/look", json=body)


def shine(record, region="nose"):
    return next(span for span in record["spans"] if (span["sign"], span["region"]) == ("shine", region))


def test_a_base_that_was_put_on_has_the_forecast_of_its_day(client, posy, worn):
    assert (worn["nickname"], worn["looks"], worn["worn"]["from"]) == ("Posy", [], WORN)
    assert {span["sign"] for span in worn["spans"]} == {"shine", "fade"}
    assert all(not span["looked"] and "nobody looked yet" in span["says"] for span in worn["spans"])
    mild = client.post(f"/api/sequences/{posy['sequence_id']}/wears", json={"temperature_c": 10}).json
    assert shine(worn)["forecast_h"] < shine(mild)["forecast_h"]


def test_a_base_from_a_run_is_the_plan_as_it_was_worked(client, posy):
    plan = posy["sequence_id"]
    begun = client.post(f"/api/sequences/{plan}/run", json={}).json
    step = client.get(f"/api/sequences/{plan}").json["steps"][0]["id"]
    edit = {"edit": "wait", "step": step, "wait_s": 77.0, "wait_at_most_s": None}
    edited = client.post(f"/api/sequences/{plan}/edits", json={"revision": begun["revision"], "edits": [edit]}).json
    worn = client.post(f"/api/sequences/{plan}/wears", json={"run": begun["run_id"]}).json
    assert (worn["revision"], worn["run"]) == (begun["revision"], begun["run_id"])
    assert (
        client.post(f"/api/sequences/{plan}/wears", json={}).json["revision"] == edited["revision"] > begun["revision"]
    )
    other = client.get("/api/sitters").json["sitters"][0]["sequence_id"]
    assert client.post(f"/api/sequences/{other}/wears", json={"run": begun["run_id"]}).status_code == 422
    assert client.post(f"/api/sequences/{plan}/wears", json={"run": "nothing"}).status_code == 404


def test_looks_say_between_which_hours_it_came_and_whether_that_was_sooner_than_forecast(client, worn):
    forecast = shine(worn)["forecast_h"]
    after = look(client, worn, 25).json
    assert "not seen by 0.4 h" in shine(after)["says"]
    late = 60 * (forecast + 3)
    look(client, worn, late - 60)
    now = look(client, worn, late, {"nose_tip": {"shine": 2}}).json
    assert (shine(now)["from_h"], shine(now)["to_h"]) == pytest.approx((forecast + 2, forecast + 3), abs=0.02)
    assert shine(now)["says"].count("later than forecast. The forecast counts on dryness 2")
    soon = look(client, worn, 10, {"nose_tip": {"shine": 1}}).json
    assert shine(soon)["says"].count("sooner than forecast. The forecast counts on")
    assert [each["after_min"] for each in soon["looks"]] == pytest.approx([10, 25, late - 60, late])


def test_a_look_sent_twice_counts_once_and_can_be_taken_back(client, worn):
    look(client, worn, 25, {"nose_tip": {"crease": 1}})
    again = look(client, worn, 25, {"nose_tip": {"crease": 2}}, note="Plainer in daylight.").json
    assert len(again["looks"]) == 1
    assert again["looks"][0]["zones"] == {"nose_tip": {"crease": 2}}
    left = client.delete(f"/api/wears/{worn['wear_id']}/look?after_min=25")
    assert left.json["looks"] == []
    assert client.delete(f"/api/wears/{worn['wear_id']}/look?after_min=25").status_code == 422


@pytest.mark.parametrize(
    ("fields", "named"),
    [({"after_min": -1}, "after_min"), ({"after_min": 99999}, "after_min"), ({"zones": {"nose_tip": {"shine": 7}}}, "shine"),
     ({"zones": {"elbow": {"shine": 1}}}, "zones"), ({"light": "moon"}, "light"), ({"seen": ["elbow"]}, "seen")],
)  # fmt: skip
def test_a_look_that_cannot_be_is_refused_and_nothing_is_kept(client, worn, fields, named):
    body = {"look": {"after_min": 25, "seen": list(NOSE), **fields}}
    answer = client.put(f"/api/wears/{worn['wear_id']}/look", json=body)
    assert answer.status_code == 422
    assert named in json.dumps(answer.json)
    assert client.get(f"/api/wears/{worn['wear_id']}").json["looks"] == []


def test_the_list_says_what_was_seen_newest_first_and_of_one_sitter(client, posy, worn):
    later = client.post(
        f"/api/sequences/{posy['sequence_id']}/wears", json={"worn_from": "2026-11-09T09:00:00+00:00"}
    ).json
    look(client, worn, 240, {"nose_tip": {"shine": 1}, "nose_bridge": {"cake": 1, "lift": 0}})
    rows = client.get(f"/api/wears?sitter={posy['id']}").json["wears"]
    assert [row["wear_id"] for row in rows] == [later["wear_id"], worn["wear_id"]]
    assert (rows[1]["signs"], rows[1]["looks"], rows[1]["last_min"]) == (["shine", "cake"], 1, 240)
    whole = client.get("/api/wears").json["wears"]
    assert len(whole) == 2 + len(WORN_BY) * len(DAYS_AGO)
    begun = [datetime.fromisoformat(row["worn_from"]) for row in whole]
    assert begun == sorted(begun, reverse=True)
    assert {row["nickname"] for row in whole} == {"Posy", *WORN_BY}
    assert client.get("/api/wears?sitter=nobody").status_code == 404


def test_what_was_learnt_is_what_the_core_learns_from_the_records(client, demo_database, posy):
    for day in range(4, 9):
        each = client.post(
            f"/api/sequences/{posy['sequence_id']}/wears", json={"worn_from": f"2026-11-0{day}T09:00:00+00:00"}
        ).json
        for minutes in (120, 240):
            look(client, each, minutes, {"nose_tip": {"shine": 2}, "nose_bridge": {"shine": 1}})
    answer = client.get("/api/learnt").json
    with demo_database.session() as session:
        wearings = [k.wearing(Sequences(session).at(k.plan, k.revision)) for k in Wears(session).all()]
    assert answer["learnt"] == learnt_to(learn(wearings)).model_dump(mode="json")
    assert answer["learnt"]["records"] == 5 + len(WORN_BY) * len(DAYS_AGO)
    mine = next(each for each in answer["effects"] if (each["about"], each["name"]) == ("shine_hours", "Posy"))
    assert (mine["of"], mine["seen"]) == ("sitter", 10)
    names = {item["name"] for item in client.get("/api/kit").json["items"]}
    assert {each["name"] for each in answer["effects"] if each["of"] == "item"} <= names


def test_a_record_goes_out_as_a_file_that_reads_back(client, worn):
    look(client, worn, 240, {"nose_tip": {"shine": 1}}, next_time="More powder on the nose.")
    client.put(
        f"/api/wears/{worn['wear_id']}/verdict", json={"verdict": {"again": True, "comfort": 3, "text": "Light."}}
    )
    answer = client.get(f"/api/wears/{worn['wear_id']}/file")
    assert "Posy-2026-11-03.wear.json" in answer.headers["Content-Disposition"]
    found = read_wear(answer.data)
    assert found.looks[0].next_time == "More powder on the nose."
    assert found.verdict is not None
    assert found.verdict.comfort == 3
    assert found.forecast is not None


def test_records_go_out_with_the_workspace_and_come_back(client, worn):
    look(client, worn, 240, {"nose_tip": {"shine": 1}})
    before = client.get(f"/api/wears/{worn['wear_id']}").json
    whole = client.get("/api/workspace").data
    stored = [wear.id for person in read_workspace(whole).people for wear in person.wears]
    assert worn["wear_id"] in stored
    assert len(stored) == 1 + len(WORN_BY) * len(DAYS_AGO)
    client.delete(f"/api/wears/{worn['wear_id']}")
    assert client.get(f"/api/wears/{worn['wear_id']}").status_code == 404
    answer = client.put("/api/workspace", data=whole, content_type="application/zip")
    assert (answer.status_code, answer.json["wears"]) == (200, len(stored))
    assert client.get(f"/api/wears/{worn['wear_id']}").json == before


def test_erasing_the_sitter_leaves_nothing_of_what_was_seen(client, demo_database, posy, worn):
    look(client, worn, 240, note="Zanzibarine at the nose by noon.")
    assert client.delete(f"/api/sitters/{posy['id']}").status_code == 200
    assert "Posy" not in {row["nickname"] for row in client.get("/api/wears").json["wears"]}
    for file in demo_database.folder.rglob("*"):
        assert not file.is_file() or b"Zanzibarine" not in file.read_bytes(), file


def test_what_was_noted_comes_up_when_the_sitter_is_planned_again_newest_first(client, posy, worn):
    later = client.post(
        f"/api/sequences/{posy['sequence_id']}/wears", json={"worn_from": "2026-11-09T09:00:00+00:00"}
    ).json
    for minutes, text in ((25, "Less glow."), (240, ""), (480, "Another primer.")):
        look(client, worn, minutes, next_time=text)
    look(client, later, 60, next_time="More shade.")
    notes = client.get(f"/api/sequences/{posy['sequence_id']}/next-time").json["notes"]
    assert [(note["says"], note["after_min"]) for note in notes] == [
        ("More shade.", 60), ("Another primer.", 480), ("Less glow.", 25),
    ]  # fmt: skip
    assert notes[0]["wear_id"] == later["wear_id"]
    (offer,) = notes[1]["offers"]
    assert "instead of" in offer["says"]
    plan = client.get(f"/api/sequences/{posy['sequence_id']}").json
    body = {"edits": offer["edits"], "revision": plan["revision"]}
    assert client.post(f"/api/sequences/{posy['sequence_id']}/edits", json=body).status_code == 200
    for minutes in range(600, 610):
        look(client, later, minutes, next_time=f"Note {minutes}.")
    assert len(client.get(f"/api/sequences/{posy['sequence_id']}/next-time").json["notes"]) == 5
    assert client.get("/api/sequences/nobody/next-time").status_code == 404


def test_looks_go_out_as_a_table_that_no_spreadsheet_runs(client, posy, worn):
    look(client, worn, 240, {"nose_tip": {"shine": 2}}, note="=1+1")
    answer = client.get(f"/api/wears/table?sitter={posy['id']}")
    assert answer.mimetype == "text/csv"
    rows = list(csv.DictReader(io.StringIO(answer.text)))
    assert [(row["zone"], row["shine"], row["crease"]) for row in rows] == [
        ("nose_bridge", "0", "0"),
        ("nose_tip", "2", "0"),
    ]
    assert {(row["sitter"], row["after_min"], row["temperature_c"]) for row in rows} == {("Posy", "240.0", "30.0")}
    assert {row["note"] for row in rows} == {"'=1+1"}
    whole = list(csv.DictReader(io.StringIO(client.get("/api/wears/table").text)))
    assert {row["sitter"] for row in whole} == {"Posy", *WORN_BY}
    assert client.get("/api/wears/table?sitter=nobody").status_code == 404


def test_a_plan_or_record_that_is_not_there_is_not_found(client):
    assert client.post("/api/sequences/none/wears", json={}).status_code == 404
    assert client.get("/api/wears/none").status_code == 404
    assert client.put("/api/wears/none/look", json={"look": {"after_min": 1}}).status_code == 404


def test_the_demos_season_teaches_what_was_built_into_it(client):
    """Two products and a guide are found and proposed; the guide's own effect has the width that always wearing the same leaves."""
    found = client.get("/api/learnt").json
    effects = {(e["about"], e["of"], e["id"]): e for e in found["learnt"]["effects"]}
    about = {"shine": "shine_hours", "fade": "colour_hours"}
    built_in = {(about[each.sign], each.of, each.id): each.factor for each in TRUTH}
    for name, factor in built_in.items():
        assert effects[name]["low"] <= factor <= effects[name]["high"], name
    names = {" ".join((a, "of", of, name)) for (a, of, name) in built_in}
    assert {each["parameter"] for each in found["learnt"]["proposals"]} == names
    bram = next(each for each in found["learnt"]["proposals"] if each["parameter"] == "shine_hours of sitter Bram")
    assert bram["to"] == pytest.approx(built_in["shine_hours", "sitter", "Bram"], abs=0.07)
    assert "cannot be told apart yet" in bram["says"]
    sitters = {name: e["factor"] for (a, of, name), e in effects.items() if (a, of) == ("shine_hours", "sitter")}
    assert min(sitters, key=sitters.__getitem__) == "Bram"
    assert found["learnt"]["error"]["after"] < 0.95 * found["learnt"]["error"]["before"]


def test_the_season_of_one_sitter_has_every_base_beside_the_readings_of_oil(client):
    whole = client.get("/api/wears/season").json
    assert whole["course"] == []
    assert {each["region"] for each in whole["short"]} == {"forehead", "eyes", "nose", "cheeks", "mouth"}
    bram = next(each for each in client.get("/api/sitters").json["sitters"] if each["nickname"] == "Bram")
    own = client.get(f"/api/wears/season?sitter={bram['id']}").json
    records = client.get(f"/api/wears?sitter={bram['id']}").json["wears"]
    shone = [each for each in own["course"] if each["sign"] == "shine"]
    assert [each["wear_id"] for each in shone] == [each["wear_id"] for each in reversed(records)]
    assert own["oil"]
    assert own["oil"] == sorted(own["oil"], key=lambda each: each["day"])
    zones = {(each["region"], each["sign"]): each["zones"] for each in own["short"]}
    assert all(each["zones"] >= zones.get((each["region"], each["sign"]), 0) for each in whole["short"])
    assert client.get("/api/wears/season?sitter=nobody").status_code == 404


def test_the_list_is_filtered_and_comes_a_hundred_at_a_time(client, posy, demo_database):
    whole = client.get("/api/wears").json
    assert (whole["total"], len(whole["wears"])) == (60, 60)
    assert {each["name"] for each in whole["owners"]} == set(WORN_BY)
    faded = client.get("/api/wears?sign=fade").json
    assert 0 < faded["total"] == sum("fade" in each["signs"] for each in whole["wears"]) < 60
    assert [each["wear_id"] for each in faded["wears"]] == [
        e["wear_id"] for e in whole["wears"] if "fade" in e["signs"]
    ]
    assert client.get("/api/wears?sign=lift").json["wears"] == []
    for hour in range(45):
        worn = f"2026-10-{hour % 28 + 1:02d}T{hour % 24:02d}:30:00+00:00"
        client.post(f"/api/sequences/{posy['sequence_id']}/wears", json={"worn_from": worn})
    first, rest = client.get("/api/wears").json, client.get("/api/wears?skip=100").json
    assert (len(first["wears"]), len(rest["wears"]), first["total"]) == (100, 5, 105)
    both = [each["wear_id"] for each in first["wears"] + rest["wears"]]
    assert len(set(both)) == 105
    assert client.get("/api/wears?skip=-1").status_code == 422
    assert client.get("/api/wears?sign=sparkle").status_code == 422


def test_a_look_at_a_time_that_has_not_come_is_refused_and_nothing_is_kept(client, posy):
    put_on = datetime.now(UTC) - timedelta(minutes=30)
    wear = client.post(f"/api/sequences/{posy['sequence_id']}/wears", json={"worn_from": put_on.isoformat()}).json
    at = f"/api/wears/{wear['wear_id']}"
    refused = client.put(f"{at}/look", json={"look": {"after_min": 480, "seen": ["chin"]}})
    assert refused.status_code == 422
    told = json.dumps(refused.json)
    assert "look.after_min" in told
    assert "8 h after it was put on is still to come" in told
    assert client.get(at).json["looks"] == []
    assert client.put(f"{at}/look", json={"look": {"after_min": 25, "seen": ["chin"]}}).status_code == 200
    later = datetime.now(UTC) - timedelta(minutes=5)
    moved = client.put(f"{at}/day", json={"worn": {"from": later.isoformat()}})
    assert moved.status_code == 422
    assert "worn.from" in json.dumps(moved.json)
    earlier = datetime.now(UTC) - timedelta(hours=9)
    assert client.put(f"{at}/day", json={"worn": {"from": earlier.isoformat()}}).status_code == 200
    assert client.put(f"{at}/look", json={"look": {"after_min": 480, "seen": ["chin"]}}).status_code == 200
