"""What is tried before it is kept, over HTTP."""

from __future__ import annotations

import re
from concurrent.futures import ThreadPoolExecutor

import pytest

from nabrel.core.ask.palette import GROUPS
from nabrel.core.terms.steps import STEP_INFO
from nabrel.core.terms.zones import NOT_BASE, ZONES
from nabrel.web.app import create_app
from tests.making import item_of, zones_of


@pytest.fixture
def client(demo_database):
    return create_app(demo_database).test_client()


@pytest.fixture
def bench(client):
    sequence = client.get("/api/sitters").json["sitters"][0]["sequence_id"]
    return client.get(f"/api/sequences/{sequence}").json


def step_of(bench, kind):
    return next(step for step in bench["steps"] if step["kind"] == kind)


def where(bench, tail):
    return f"/api/sequences/{bench['id']}/{tail}"


def attempt(client, bench, *edits):
    return client.post(where(bench, "try"), json={"edits": list(edits)})


def test_a_tried_edit_tells_its_findings_and_stores_nothing(client, bench):
    whole = step_of(bench, "foundation")
    step, most = whole["id"], max(portion["amount"] for portion in whole["portions"] if portion["amount"])
    thick = {"edit": "amount", "step": step, "amount": 30.0}
    found = attempt(client, bench, thick).json
    assert {each["severity"] for each in found["come"]} >= {"problem"}
    assert found["gone"] == []
    assert found["look_de"] > 0
    assert client.get(where(bench, "head")).json["revision"] == bench["revision"]
    done = client.post(where(bench, "edits"), json={"revision": bench["revision"], "edits": [thick]}).json
    assert done["difference"] == found["difference"]
    assert client.get(where(bench, "head")).json == {"revision": done["revision"], "says": done["undo_says"]}
    assert re.fullmatch(rf"Foundation .*: {most:g} to 30 µm", done["undo_says"])


def test_a_place_that_cannot_be_worked_is_refused_with_the_reason(client, bench):
    soften, clean = step_of(bench, "crease_check")["id"], step_of(bench, "cleanse")["id"]
    gaps = client.get(where(bench, f"steps/{soften}/gaps")).json["gaps"]
    assert gaps[0]["before"] == clean
    assert "could crease" in gaps[0]["refused"]
    answer = attempt(client, bench, {"edit": "move", "step": soften, "before": clean})
    assert answer.status_code == 422
    assert gaps[0]["refused"] in answer.json["says"]


@pytest.mark.parametrize(
    "body",
    [{}, {"edits": []}, {"edits": [{"edit": "fly"}]}, {"edits": [{"edit": "remove", "step": "s999"}]}, {"edits": 3}],
)
def test_what_is_no_edit_is_refused(client, bench, body):
    assert client.post(where(bench, "try"), json=body).status_code == 422


def test_the_palette_offers_every_kind_with_items_and_zones(client, bench):
    offered = client.get(where(bench, "palette")).json["offered"]
    assert [each["kind"] for each in offered] == [
        kind for group in GROUPS for kind, info in STEP_INFO.items() if info.group == group
    ]
    foundation = next(each for each in offered if each["kind"] == "foundation")
    assert foundation["products"][0]["id"] == item_of(step_of(bench, "foundation"))
    assert foundation["products"][0]["hex"].startswith("#")


def test_a_step_from_the_palette_is_placed(client, bench):
    offered = client.get(where(bench, "palette")).json["offered"]
    bronze = next(each for each in offered if each["kind"] == "bronze")
    body = {"kind": "bronze", "zones": bronze["zones"], "product": bronze["products"][-1]["id"]}
    best = client.post(where(bench, "late"), json=body).json["places"][0]
    done = client.post(where(bench, "edits"), json={"revision": bench["revision"], "edits": best["edits"]}).json
    assert item_of(step_of(done, "bronze")) == body["product"]


def test_the_aim_is_told_by_zone_and_step(client, bench):
    bare = client.get(where(bench, "aim?after=-1")).json
    done = client.get(where(bench, "aim")).json
    assert [each["zone"] for each in done["zones"]] == [zone for zone in ZONES if zone not in NOT_BASE]
    assert done["mean_de"] < bare["mean_de"]
    assert done["says"].startswith(f"On average {done['mean_de']}")
    assert client.get(where(bench, "aim?after=99")).status_code == 422
    lamp = client.get(where(bench, "aim?light=warm_lamp")).json
    assert lamp["zones"][0]["aim_hex"] != done["zones"][0]["aim_hex"]


def test_a_version_is_looked_at_without_taking_it(client, bench):
    step = step_of(bench, "foundation")["id"]
    edit = {"edit": "amount", "step": step, "amount": 20.0}
    now = client.post(where(bench, "edits"), json={"revision": bench["revision"], "edits": [edit]}).json
    first = client.get(where(bench, f"versions/{bench['revision']}/look")).json
    assert first["colours"] == bench["stages"][-1] != now["stages"][-1]
    assert first["words"] == f"Revision {bench['revision']}"
    assert client.get(where(bench, "versions/999/look")).status_code == 404


def test_a_candidate_is_looked_at_on_one_zone(client, bench):
    step = step_of(bench, "foundation")
    found = client.get(where(bench, f"steps/{step['id']}/candidates?zone={zones_of(step)[0]}")).json["candidates"]
    assert {each["zone"] for each in found} == {zones_of(step)[0]}
    assert len({each["beneath_hex"] for each in found}) == 1
    assert len({each["result_hex"] for each in found}) > 3
    water = next(each for each in found if each["product"]["base"] == "water")
    assert water["agreement"].startswith(("agrees with", "beads on", "nothing unset"))
    assert water["beads"] == water["agreement"].startswith("beads")
    outside = next(zone for zone in ZONES if zone not in zones_of(step))
    assert client.get(where(bench, f"steps/{step['id']}/candidates?zone={outside}")).status_code == 422


def test_of_edits_made_at_the_same_moment_one_stands_and_the_others_are_told(client, bench, demo_database):
    step = step_of(bench, "foundation")["id"]
    application = create_app(demo_database)

    def send(film):
        body = {"revision": bench["revision"], "edits": [{"edit": "amount", "step": step, "amount": film}]}
        return application.test_client().post(where(bench, "edits"), json=body).status_code

    with ThreadPoolExecutor(4) as hands:
        codes = sorted(hands.map(send, [3.0, 4.0, 5.0, 7.0]))
    assert codes == [200, 409, 409, 409]
    assert client.get(where(bench, "head")).json["revision"] == bench["revision"] + 1


def test_of_undo_and_edit_made_at_the_same_moment_one_stands(client, bench, demo_database):
    step = step_of(bench, "foundation")["id"]
    edit = {"edit": "amount", "step": step, "amount": 3.0}
    now = client.post(where(bench, "edits"), json={"revision": bench["revision"], "edits": [edit]}).json
    application = create_app(demo_database)

    def send(tail):
        body = {"revision": now["revision"]} | ({"edits": [{**edit, "amount": 4.0}]} if tail == "edits" else {})
        return application.test_client().post(where(bench, tail), json=body).status_code

    with ThreadPoolExecutor(2) as hands:
        assert sorted(hands.map(send, ["edits", "undo"])) == [200, 409]


def test_the_telling_has_every_step_and_the_hygiene(client, bench):
    told = client.get(where(bench, "telling")).json
    assert told["title"] == "Wren for the season: a base, underpainted"
    steps = [line for part in told["parts"] if part["numbered"] for line in part["lines"]]
    assert len(steps) == len(bench["steps"])
    assert all(line["details"] for line in steps)
    assert told["parts"][-1]["title"] == "Hygiene and safety"
    text = client.get(where(bench, "told")).text
    for part in told["parts"]:
        assert f"## {part['title']}" in text
        for line in part["lines"]:
            assert line["lead"] in text
            assert line["rest"] in text
            assert all(detail in text for detail in line["details"])


def test_an_accepted_finding_is_told_with_its_reason(client, bench):
    step = step_of(bench, "foundation")["id"]
    thick = {"edit": "amount", "step": step, "amount": 30.0}
    now = client.post(where(bench, "edits"), json={"revision": bench["revision"], "edits": [thick]}).json
    advice = next(each for each in now["findings"] if each["severity"] == "advice")
    edit = {"edit": "accept", "rule": advice["rule"], "zones": advice["zones"], "note": "for the stage"}
    client.post(where(bench, "edits"), json={"revision": now["revision"], "edits": [edit]})
    told = client.get(where(bench, "telling")).json
    lines = next(part for part in told["parts"] if part["title"] == "What the rule book says")["lines"]
    assert any(line["rest"].endswith("Accepted: for the stage.") for line in lines)


def test_a_swap_is_said_once_for_all_its_steps(client, bench):
    base = step_of(bench, "foundation")
    split = {"edit": "split", "step": base["id"], "zones": zones_of(base)[:3]}
    bench = client.post(where(bench, "edits"), json={"revision": bench["revision"], "edits": [split]}).json
    steps = [step["id"] for step in bench["steps"] if step["kind"] == "foundation"]
    edits = [{"edit": "product", "step": step, "product": "full-matt-2"} for step in steps]
    now = client.post(where(bench, "edits"), json={"revision": bench["revision"], "edits": edits}).json
    assert len(steps) > 1
    assert now["undo_says"] == "Foundation: Full matt 2"


def test_a_clash_is_told_with_its_steps(client, bench):
    steps = [step["id"] for step in bench["steps"] if step["kind"] == "foundation"]
    edits = [{"edit": "product", "step": step, "product": "full-matt-2"} for step in steps]
    now = client.post(where(bench, "edits"), json={"revision": bench["revision"], "edits": edits}).json
    lost = next(each for each in now["findings"] if each["rule"] == "sculpt-reads-through")
    assert set(lost["against"]) <= set(steps)
    assert lost["against"]
