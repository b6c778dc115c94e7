"""Runs over HTTP: begun, kept as they go on, sent twice, finished once, listed, compared, exported, forgotten, erased."""

from __future__ import annotations

import json
from datetime import UTC, datetime, timedelta

import pytest
from icalendar import Calendar

from nabrel.formats.loader import read_run
from nabrel.web.app import create_app

START = "2026-11-03T09:10:00+00:00"


@pytest.fixture
def client(demo_database):
    return create_app(demo_database).test_client()


@pytest.fixture
def wren(client):
    return client.get("/api/sitters").json["sitters"][0]


@pytest.fixture
def plan(wren):
    return wren["sequence_id"]


@pytest.fixture
def live(client, plan):
    answer = client.post(f"/api/sequences/{plan}/run", json={"started": START})
    assert answer.status_code == 201
    return answer.json


def worked(live, times=1.0, count=None):
    """What is sent once so many blocks are done, each taking so many times its planned seconds."""
    done, at = [], 0.0
    for block in live["blocks"][:count]:
        end = at + times * block["seconds"]
        done.append(
            {"step": block["step"], "from_s": at, "to_s": end, "state": "done", "portion": None, "side": block["side"]}
        )
        at = end
    return {"done": done}


def save(client, live, log, **fields):
    return client.put(f"/api/runs/{live['run_id']}", json={"log": log, **fields})


def packs(client):
    return {item["id"]: item.get("left") for item in client.get("/api/kit").json["items"]}


def test_a_run_begins_in_the_order_of_the_timetable_and_names_nobody(client, live, wren, plan):
    table = client.post(f"/api/sequences/{plan}/timetable", json={}).json["timetable"]
    assert live["length_s"] == table["length_s"]
    assert live["blocks"][0]["title"] == "Cleanse"
    assert [block["start_s"] for block in live["blocks"]] == sorted(block["start_s"] for block in live["blocks"])
    assert wren["nickname"] not in json.dumps(live)
    assert client.get(f"/api/runs/{live['run_id']}").json == live


def test_what_was_done_is_kept_and_sent_again_changes_nothing_more(client, live):
    before = packs(client)
    log = worked(live, count=9)
    first = save(client, live, log, now_s=5000)
    assert first.status_code == 200
    assert save(client, live, log, now_s=5000).json == first.json
    assert first.json["late"]
    assert client.get(f"/api/runs/{live['run_id']}").json["log"]["done"] == log["done"]
    assert packs(client) == before


def test_creams_are_made_ready_in_a_wait_and_neither_care_nor_powder_is(client, live):
    kit = {item["name"]: item for item in client.get("/api/kit").json["items"]}
    said = [block for block in live["blocks"] if block["make_ready"]]
    assert len(said) >= 3
    for block in said:
        assert block["make_ready"].startswith("Mix " if len(block["products"]) > 1 else "Lay out ")
        assert block["take"] in block["make_ready"]
        assert not any(kit[name]["texture"].endswith("powder") for name in block["products"])
    left = [block for block in live["blocks"] if block["products"] and not block["make_ready"]]
    assert {"Cleanse", "Moisturise", "Set"} <= {block["title"] for block in left}


def test_finishing_takes_from_the_packs_once_and_a_finished_run_is_not_changed(client, live):
    log = worked(live)
    before = packs(client)
    said = save(client, live, log, finish=True).json
    assert said["finished"]
    after = packs(client)
    assert {row["item"] for row in said["used"]} >= {item for item in after if after[item] != before[item]} != set()
    assert save(client, live, log, finish=True).status_code == 200
    assert packs(client) == after
    other = save(client, live, worked(live, count=3))
    assert other.status_code == 422
    assert "finished" in other.json["says"]
    tools = {row["tool"]["kind"]: row["tool"]["state"] for row in client.get("/api/kit/tools").json["tools"]}
    assert tools["damp_sponge"] == "used"


def test_runs_are_listed_and_teach_the_pace_of_the_hand(client, live, plan):
    assert client.get(f"/api/sequences/{plan}/run").json["hand"] is None
    save(client, live, worked(live, 1.6), finish=True)
    found = client.get(f"/api/sequences/{plan}/run").json
    (row,) = found["runs"]
    assert (row["run_id"], row["finished"], row["steps"]) == (live["run_id"], True, row["of"])
    assert found["hand"]["pace"] == pytest.approx(1.6, abs=0.02)
    assert "1.6 times" in found["hand"]["says"]


def test_a_run_is_held_against_the_one_before_it(client, live, plan):
    save(client, live, worked(live, 2.0), finish=True)
    later = client.post(f"/api/sequences/{plan}/run", json={"started": "2026-11-05T09:00:00+00:00"}).json
    said = save(client, later, worked(later, 1.0), finish=True).json
    assert any(line.startswith("Foundation") and "quicker than on 3 November" in line for line in said["compared"])


def test_a_run_goes_out_as_a_file_that_is_read_back(client, live):
    save(client, live, worked(live), finish=True)
    data = client.get(f"/api/runs/{live['run_id']}/file").data
    found = read_run(data)
    assert found.id == live["run_id"]
    assert len(found.log.done) == len(live["blocks"])
    assert {used.item for used in found.used} == {
        row["item"] for row in client.get(f"/api/runs/{live['run_id']}/says").json["used"]
    }


def test_a_run_goes_with_the_workspace_and_comes_back(client, live):
    save(client, live, {**worked(live, count=4), "notes": [{"at_s": 9, "text": "less"}]})
    out = client.get("/api/workspace").data
    assert client.put("/api/workspace", data=out, content_type="application/zip").status_code == 200
    back = client.get(f"/api/runs/{live['run_id']}").json
    assert [note["text"] for note in back["log"]["notes"]] == ["less"]
    assert client.get("/api/workspace").data == out


def test_a_run_is_forgotten_and_erased_with_its_sitter(client, live, wren, plan):
    assert client.delete(f"/api/runs/{live['run_id']}").status_code == 204
    assert client.get(f"/api/runs/{live['run_id']}").status_code == 404
    other = client.post(f"/api/sequences/{plan}/run", json={}).json
    client.delete(f"/api/sitters/{wren['id']}")
    assert client.get(f"/api/runs/{other['run_id']}").status_code == 404


def test_a_plan_changed_meanwhile_does_not_disturb_a_run_and_the_run_may_go_on_with_it(client, live, plan):
    shade = next(block["step"] for block in live["blocks"] if block["title"] == "Shade")
    edited = client.post(
        f"/api/sequences/{plan}/edits",
        json={"revision": live["revision"], "edits": [{"edit": "remove", "step": shade}]},
    ).json
    assert any(block["step"] == shade for block in client.get(f"/api/runs/{live['run_id']}").json["blocks"])
    assert save(client, live, worked(live, count=2)).status_code == 200
    assert save(client, live, worked(live, count=2), revision=edited["revision"]).status_code == 200
    assert not any(block["step"] == shade for block in client.get(f"/api/runs/{live['run_id']}").json["blocks"])
    gone = save(client, live, worked(live))
    assert gone.status_code == 422
    assert gone.json["field"].startswith("done[")


@pytest.mark.parametrize(
    ("fields", "field"),
    [
        ({"pace": 0}, "pace"),
        ({"pace": -1}, "pace"),
        ({"hands": 3}, "hands"),
        ({"spare": ["trowel"]}, "spare"),
        ({"started": "yesterday"}, "started"),
        ({"started": "2026-11-03T09:10:00"}, "started"),
        ({"timing": {"pins": [{"step": "s99", "start_s": 5}]}}, "timing"),
        ({"timing": {"ready": "25:00", "start": "09:00"}}, "timing"),
    ],
)
def test_a_run_that_cannot_be_is_refused_and_nothing_is_kept(client, plan, fields, field):
    answer = client.post(f"/api/sequences/{plan}/run", json=fields)
    assert answer.status_code == 422
    assert field in answer.json["field"]
    assert client.get(f"/api/sequences/{plan}/run").json["runs"] == []


def test_pins_that_contradict_say_why_there_is_no_timetable(client, plan, live):
    first, last = live["blocks"][0]["step"], live["blocks"][-1]["step"]
    pins = [{"step": first, "start_s": 600}, {"step": last, "start_s": 30}]
    answer = client.post(f"/api/sequences/{plan}/run", json={"timing": {"pins": pins}})
    assert answer.status_code == 422
    assert "pinned" in answer.json["says"]


@pytest.mark.parametrize(
    "log",
    [
        {"done": [{"step": "s1", "from_s": -1, "to_s": 2}]},
        {"done": [{"step": "s1", "from_s": 1, "to_s": 1e9}]},
        {"done": [{"step": "s1", "from_s": 1, "to_s": 2, "state": "perhaps"}]},
        {"notes": [{"at_s": 1, "text": "x" * 601}]},
        {"pauses": [{"from_s": 5, "to_s": 1}]},
        {"done": "all"},
    ],
)
def test_a_log_that_cannot_be_is_refused_and_what_was_kept_stays(client, live, log):
    good = worked(live, count=2)
    save(client, live, good)
    assert save(client, live, log).status_code == 422
    assert client.get(f"/api/runs/{live['run_id']}").json["log"]["done"] == good["done"]


def test_the_second_look_goes_into_a_calendar_twenty_minutes_after_the_last_layer(client, live):
    log = worked(live)
    save(client, live, log, finish=True)
    data = client.get(f"/api/runs/{live['run_id']}/calendar").data
    (event,) = Calendar.from_ical(data).walk("VEVENT")
    end = datetime.fromisoformat(START) + timedelta(seconds=log["done"][-1]["to_s"])
    assert abs(event["DTSTART"].dt - (end + timedelta(minutes=20))) < timedelta(seconds=1)
    assert event["DTEND"].dt - event["DTSTART"].dt == timedelta(minutes=10)
    (alarm,) = event.walk("VALARM")
    assert alarm["TRIGGER"].dt == timedelta(0)
    assert event["DTSTART"].dt.utcoffset() == datetime.now(UTC).utcoffset()


def test_a_plan_goes_into_a_calendar_on_the_clock_of_whoever_asks(client, plan, live):
    data = client.get(f"/api/sequences/{plan}/calendar?start=2026-11-20T18:30:00").data
    base, look = Calendar.from_ical(data).walk("VEVENT")
    assert base["DTSTART"].dt == datetime(2026, 11, 20, 18, 30)
    assert base["DTEND"].dt - base["DTSTART"].dt == timedelta(seconds=live["length_s"])
    assert look["DTSTART"].dt - base["DTEND"].dt == timedelta(minutes=20)
    assert "Wren" in base["SUMMARY"]
    assert client.get(f"/api/sequences/{plan}/calendar?start=soon").status_code == 422
