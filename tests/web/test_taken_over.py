"""Proposals that are agreed to: used in forecasts from then on, listed, undone, exported, erased with the sitter they are of."""

from __future__ import annotations

import io
import json
import zipfile

import pytest

from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate
from nabrel.formats.checks import house_of
from nabrel.formats.loader import read_house
from nabrel.store.database import Database
from nabrel.store.house_rules import HouseRules
from nabrel.store.repositories import Sequences
from nabrel.web.app import create_app
from tests.store.test_erasing import found_in

ON_BRAM = "shine_hours of sitter Bram"


@pytest.fixture
def client(demo_database):
    return create_app(demo_database).test_client()


@pytest.fixture
def bram(client):
    return next(each for each in client.get("/api/sitters").json["sitters"] if each["nickname"] == "Bram")


def proposed(client, parameter=ON_BRAM):
    return next(
        each for each in client.get("/api/learnt").json["learnt"]["proposals"] if each["parameter"] == parameter
    )


def take(client, parameter=ON_BRAM):
    proposal = proposed(client, parameter)
    answer = client.post("/api/learnt/taken-over", json={"parameter": parameter, "to": proposal["to"]})
    assert answer.status_code == 200, answer.json
    return answer.json


def first_shine(client, bram):
    return client.get(f"/api/sequences/{bram['sequence_id']}").json["totals"]


def test_what_is_agreed_to_is_in_every_forecast_from_then_on_and_says_from_how_many_looks(client, bram, demo_database):
    usual, proposal = first_shine(client, bram), proposed(client)
    assert usual["shine_looks"] == 0
    found = take(client)
    (taken,) = found["taken_over"]
    assert (taken["words"], taken["standing"], taken["undone"]) == ("Hours to shine on Bram", True, None)
    assert f"1 became {proposal['to']:g} times the forecast" in taken["says"]
    assert ON_BRAM not in [each["parameter"] for each in found["learnt"]["proposals"]]
    now = first_shine(client, bram)
    with demo_database.session() as session:
        sequence, house = Sequences(session).get(bram["sequence_id"]).sequence, HouseRules(session).house()
    assert now["shine_looks"] == house.factors[0].looks > 20
    assert now["least_shine_hours"] == round(evaluate(sequence, house).totals.least_shine_hours, 1)
    assert now["least_shine_hours"] < usual["least_shine_hours"]


def test_what_is_undone_is_in_no_forecast_and_stays_listed(client, bram):
    usual = first_shine(client, bram)
    number = take(client)["taken_over"][0]["number"]
    book = client.delete(f"/api/house/taken-over/{number}").json
    (stored,) = book["taken_over"]
    assert stored["undone"] is not None
    assert not stored["standing"]
    assert client.delete(f"/api/house/taken-over/{number}").json["taken_over"] == [stored]
    assert first_shine(client, bram) == usual
    assert proposed(client)["from"] == 1.0


def test_of_two_decisions_about_one_factor_the_last_counts_until_it_is_undone(demo_database):
    file = {"nabrel": "house", "version": 1, "decisions": [
        {"what": "crease of house", "to": 1.2, "on": "2026-11-03T10:00:00+00:00", "evidence": {"looks": 20}},
        {"what": "crease of house", "from": 1.2, "to": 1.4, "on": "2026-11-10T10:00:00+00:00", "evidence": {"looks": 40}},
    ]}  # fmt: skip
    client = create_app(demo_database).test_client()
    book = client.put("/api/house/file", json=file).json
    assert [(each["factor"], each["standing"]) for each in book["taken_over"]] == [(1.4, True), (1.2, False)]
    book = client.delete(f"/api/house/taken-over/{book['taken_over'][0]['number']}").json
    assert [(each["factor"], each["standing"]) for each in book["taken_over"]] == [(1.4, False), (1.2, True)]
    with demo_database.session() as session:
        assert [(each.factor, each.looks) for each in HouseRules(session).house().factors] == [(1.2, 20)]


@pytest.mark.parametrize(("body", "field"), [
    ({"parameter": "shine_hours of sitter Nobody", "to": 0.7}, "parameter"),
    ({"parameter": "press_mg", "to": 0.7}, "parameter"),
    ({"parameter": ON_BRAM, "to": 0.99}, "to"),
    ({"parameter": ON_BRAM, "to": 50}, "to"),
    ({"parameter": "x" * 500, "to": 1.0}, "parameter"),
    ({"to": 1.0}, "parameter"),
])  # fmt: skip
def test_only_what_is_proposed_can_be_agreed_to(client, body, field):
    answer = client.post("/api/learnt/taken-over", json=body)
    assert answer.status_code == 422
    assert answer.json["field"].endswith(field)
    assert client.get("/api/house").json["taken_over"] == []


def test_undoing_what_was_never_agreed_to_is_not_found(client):
    assert client.delete("/api/house/taken-over/999").status_code == 404
    assert client.delete("/api/house/taken-over/0").status_code == 422


def test_what_would_change_is_told_for_up_to_three_plans_that_it_concerns(client, bram):
    plans = client.post("/api/learnt/consequences", json={"parameter": ON_BRAM}).json["plans"]
    assert [each["plan_id"] for each in plans] == [bram["sequence_id"]]
    assert any("instead of" in line for line in plans[0]["says"])
    assert "Planned again it gets" in plans[0]["says"][-1]
    powder = client.post("/api/learnt/consequences", json={"parameter": "shine_hours of item pow-tan"}).json["plans"]
    assert len(powder) == 3
    assert client.post("/api/learnt/consequences", json={"parameter": "crease of house"}).status_code == 422


def test_the_workspace_holds_what_was_agreed_to_and_brings_it_back(client, bram, tmp_path):
    number = take(client)["taken_over"][0]["number"]
    client.delete(f"/api/house/taken-over/{number}")
    take(client)
    out = client.get("/api/workspace").data
    with zipfile.ZipFile(io.BytesIO(out)) as held:
        decisions = json.loads(held.read("house.json"))["decisions"]
    assert [(each["what"], each["from"], "undone" in each) for each in decisions] == [
        (ON_BRAM, 1.0, True),
        (ON_BRAM, 1.0, False),
    ]
    other = Database(tmp_path / "other")
    again = create_app(other).test_client()
    assert again.put("/api/workspace", data=out, content_type="application/zip").status_code == 200
    stored = again.get("/api/house").json["taken_over"]
    mine = client.get("/api/house").json["taken_over"]
    drop = [{**each, "number": 0} for each in stored]
    assert drop == [{**each, "number": 0} for each in mine]
    assert again.get("/api/workspace").data[:2] == out[:2] == b"PK"
    assert first_shine(again, bram) == first_shine(client, bram)
    other.close()


def test_one_sitter_goes_out_with_their_own_factors_and_comes_back_with_them(client, bram, tmp_path):
    take(client)
    take(client, "shine_hours of item pow-tan")
    wren = next(each for each in client.get("/api/sitters").json["sitters"] if each["nickname"] == "Wren")

    def sent(sitter):
        out = client.get(f"/api/sitters/{sitter['id']}/everything").data
        with zipfile.ZipFile(io.BytesIO(out)) as held:
            return out, [each["what"] for each in json.loads(held.read("house.json"))["decisions"]]

    assert sent(wren)[1] == ["shine_hours of item pow-tan"]
    out, decisions = sent(bram)
    assert decisions == [ON_BRAM, "shine_hours of item pow-tan"]
    other = Database(tmp_path / "other")
    again = create_app(other).test_client()
    assert again.post("/api/workspace/people", data=out, content_type="application/zip").status_code == 200
    assert [each["words"] for each in again.get("/api/house").json["taken_over"]] == ["Hours to shine on Bram"]
    other.close()


def test_a_house_file_with_a_sitter_who_is_not_here_leaves_that_aside(client):
    on = "2026-11-03T10:00:00+00:00"
    file = {"nabrel": "house", "version": 1, "decisions": [
        {"what": "shine_hours of sitter Somebody Else", "to": 0.7, "on": on}, {"what": "crease of house", "to": 1.2, "on": on},
    ]}  # fmt: skip
    book = client.put("/api/house/file", json=file).json
    assert [each["words"] for each in book["taken_over"]] == ["Creasing in this house"]


@pytest.mark.parametrize(("decision", "field"), [
    ({"what": "lift of house", "to": 1.2, "on": "2026-11-03T10:00:00+00:00"}, "decisions[0].what"),
    ({"what": "crease of house", "to": 20, "on": "2026-11-03T10:00:00+00:00"}, "decisions[0].to"),
    ({"what": "crease of house", "to": 1.2, "on": "yesterday"}, "decisions[0].on"),
    ({"what": "crease of house", "to": 1.2, "on": "2026-11-03T10:00:00"}, "decisions[0].on"),
    ({"what": "crease of house", "on": "2026-11-03T10:00:00+00:00"}, "decisions[0].to"),
    ({"what": "crease of house", "to": 1.2, "on": "2026-11-03T10:00:00+00:00", "because": "x"}, "decisions[0].because"),
])  # fmt: skip
def test_a_house_file_with_a_wrong_decision_is_refused_whole(client, decision, field):
    take(client)
    answer = client.put("/api/house/file", json={"nabrel": "house", "version": 1, "decisions": [decision]})
    assert (answer.status_code, answer.json["field"]) == (422, field)
    assert len(client.get("/api/house").json["taken_over"]) == 1


def test_reset_all_undoes_what_was_agreed_to_and_keeps_it_listed(client, bram):
    usual = first_shine(client, bram)
    take(client)
    book = client.delete("/api/house").json
    assert [each["undone"] is None for each in book["taken_over"]] == [False]
    assert first_shine(client, bram) == usual


def test_a_sitter_who_is_erased_takes_what_was_learnt_of_them_along(client, bram, demo_database):
    take(client)
    take(client, "shine_hours of item pow-tan")
    demo_database.back_up("daily")
    assert found_in(demo_database.folder, ON_BRAM)
    assert client.delete(f"/api/sitters/{bram['id']}").json["finished"]
    assert found_in(demo_database.folder, ON_BRAM) == []
    assert [each["words"] for each in client.get("/api/house").json["taken_over"]] == [
        "Hours to shine with Tan veil powder"
    ]
    assert all(each["parameter"] != ON_BRAM for each in client.get("/api/learnt").json["learnt"]["proposals"])


def test_the_exported_house_file_makes_the_command_line_forecast_alike(client, bram, demo_database):
    take(client)
    house = house_of(read_house(client.get("/api/house/file").data))
    with demo_database.session() as session:
        assert house.factors == HouseRules(session).house().factors
        sequence = Sequences(session).get(bram["sequence_id"]).sequence
    assert evaluate(sequence, house).forecast != evaluate(sequence, House()).forecast
