"""The Pace room over HTTP: the timetable of a plan with what its lanes say."""

from __future__ import annotations

import pytest

from nabrel.core.house import House
from nabrel.core.pace.tasks import work_of
from nabrel.core.pace.timetable import timetable
from nabrel.core.terms.places import places
from nabrel.formats.answers import timetable_to
from nabrel.formats.loader import read_sequence
from nabrel.web.app import create_app


@pytest.fixture
def client(demo_database):
    return create_app(demo_database).test_client()


@pytest.fixture
def bram(client):
    return next(each for each in client.get("/api/sitters").json["sitters"] if each["nickname"] == "Bram")


def asked(client, who, **body):
    return client.post(f"/api/sequences/{who['sequence_id']}/timetable", json=body)


def what_if(client, who, **body):
    return client.post(f"/api/sequences/{who['sequence_id']}/timetable/what-if", json=body).json["what_if"]


def test_it_is_the_cores_timetable_with_the_words_of_its_lanes(client, bram):
    found = asked(client, bram).json
    plan = read_sequence(client.get(f"/api/sequences/{bram['sequence_id']}/file").data)
    work = work_of(plan, House())
    assert found["timetable"] == timetable_to(timetable(work)).model_dump(mode="json")
    assert len(found["tasks"]) == len(found["timetable"]["tasks"])
    assert len(found["waits"]) == len(found["timetable"]["waits"])
    steps = {step.id: (number, step) for number, step in enumerate(plan.steps, start=1)}
    coloured = 0
    for said, task in zip(found["tasks"], found["timetable"]["tasks"], strict=True):
        number, step = steps[task["step"]]
        assert said["number"] == number
        coloured += said["hex"] is not None
        if task["what"] == "lay":
            zones = step.portions[task["portion"]].zones
            assert said["where"] == (places(zones) if zones else "")
    assert coloured > 3
    assert all(said["regions"] for said in found["waits"])
    assert (found["nickname"], found["sitter_id"]) == ("Bram", bram["id"])


def test_a_students_pace_takes_longer_and_a_second_pair_of_hands_does_not(client, bram):
    usual = asked(client, bram).json["timetable"]["length_s"]
    assert asked(client, bram).json["student_pace"] == House().student_pace
    assert asked(client, bram, pace=2.0).json["timetable"]["length_s"] > usual
    both = asked(client, bram, hands=2).json
    assert both["timetable"]["length_s"] <= usual
    assert all(each["hands"] != 2 or each["spare"] for each in what_if(client, bram, hands=2))


def test_what_would_shorten_it_is_what_asking_for_it_gives(client, bram):
    found = asked(client, bram).json
    shorter = what_if(client, bram)
    assert shorter
    checked = 0
    for each in shorter:
        assert each["length_s"] <= found["timetable"]["length_s"] - 30
        if each["hands"] is not None:
            then = asked(client, bram, hands=each["hands"], spare=each["spare"]).json
            assert then["timetable"]["length_s"] == each["length_s"]
            checked += 1
    assert checked or any("bake" in each["says"] for each in shorter)


@pytest.mark.parametrize(
    ("body", "field"), [({"pace": 0}, "pace"), ({"pace": "fast"}, "pace"), ({"hands": 3}, "hands"), ({"spare": ["spoon"]}, "spare.0")]
)  # fmt: skip
def test_hands_that_cannot_be_are_refused_by_field(client, bram, body, field):
    answer = asked(client, bram, **body)
    assert answer.status_code == 422
    assert field.split(".")[0] in str(answer.json)


def test_a_plan_that_is_not_there_is_not_found(client):
    assert client.post("/api/sequences/none/timetable", json={}).status_code == 404


def test_the_tools_of_the_shelf_count_as_spare_or_are_said_to_be_lacking(client, bram):
    plan = bram["sequence_id"]
    score = client.post(f"/api/sequences/{plan}/timetable", json={}).json
    used = {tool for task in score["timetable"]["tasks"] if (tool := task["tool"]) not in (None, "fingers")}
    owned = {row["tool"]["kind"] for row in client.get("/api/kit/tools").json["tools"]}
    assert {word.replace(" ", "_") for word in score["lacks"]} == used - owned
    assert score["owned_spare"] == []
    sponge = next(row["tool"] for row in client.get("/api/kit/tools").json["tools"] if row["tool"]["id"] == "sponge-a")
    client.put("/api/kit/tools/sponge-c", json={**sponge, "id": "sponge-c"})
    again = client.post(f"/api/sequences/{plan}/timetable", json={}).json
    assert again["owned_spare"] == ["damp sponge"]
    assert again["timetable"]["length_s"] <= score["timetable"]["length_s"]
    for row in client.get("/api/kit/tools").json["tools"]:
        client.delete(f"/api/kit/tools/{row['tool']['id']}")
    assert client.post(f"/api/sequences/{plan}/timetable", json={}).json["lacks"] == []


def test_a_shorter_bake_is_an_edit_that_gives_the_length_it_says(client, bram):
    plan = bram["sequence_id"]
    score = client.post(f"/api/sequences/{plan}/timetable", json={}).json
    (shorter,) = [each for each in what_if(client, bram) if each["edits"]]
    assert "bake" in shorter["says"]
    answer = client.post(
        f"/api/sequences/{plan}/edits", json={"revision": score["revision"], "edits": shorter["edits"]}
    )
    assert answer.status_code == 200
    again = client.post(f"/api/sequences/{plan}/timetable", json={}).json
    assert again["timetable"]["length_s"] == shorter["length_s"] < score["timetable"]["length_s"]
