"""The JSON API: what each endpoint answers, and how it refuses."""

from __future__ import annotations

import gzip
import io
import json
import re
import zipfile
from pathlib import Path

import pytest
from sqlalchemy import text

from nabrel.core.terms.zones import ZONES
from nabrel.formats.loader import read_stored
from nabrel.store.repositories import Kit, Sitters
from nabrel.web.app import DOCUMENT, create_app
from nabrel.web.layer import endpoints
from nabrel.web.openapi_build import document_text
from tests.making import item_of, zones_of

EXAMPLES = Path(__file__).parents[2] / "examples"
CASE = (EXAMPLES / "posy.case.json").read_bytes()


@pytest.fixture
def client(demo_database):
    return create_app(demo_database).test_client()


@pytest.fixture
def empty_client(database):
    return create_app(database).test_client()


@pytest.fixture
def plan_id(client):
    return client.get("/api/sitters").json["sitters"][0]["sequence_id"]


def step(workbench, kind):
    return next(each for each in workbench["steps"] if each["kind"] == kind)


def post(client, url, body):
    return client.post(url, json=body)


def test_the_demo_sitters_are_listed(client):
    sitters = client.get("/api/sitters").json["sitters"]
    assert [each["nickname"] for each in sitters][:3] == ["Wren", "Tamsin", "Bram"]
    assert all(re.fullmatch("#[0-9a-f]{6}", each["skin_hex"]) for each in sitters)


def test_a_sitter_is_read_zone_by_zone(client):
    sitter_id = client.get("/api/sitters").json["sitters"][0]["id"]
    sitter = client.get(f"/api/sitters/{sitter_id}").json
    assert len(sitter["zones"]) == len(ZONES)
    assert any("Creping 2" in line for line in sitter["read_words"])
    assert sitter["neck_de"] > 0


def test_the_vocabulary_has_words_for_everything(client):
    found = client.get("/api/vocabulary").json
    assert len({s["id"] for s in found["schools"]}) == 6
    assert all(zone["words"] for zone in found["zones"])
    assert len(found["rules"]) >= 30


def test_the_workbench_holds_the_plan_and_all_that_follows(client, plan_id):
    bench = client.get(f"/api/sequences/{plan_id}").json
    zones, steps = len(ZONES), len(bench["steps"])
    assert len(bench["stages"]) == steps + 1
    assert all(len(row) == zones for row in bench["stages"])
    assert len(bench["film"]) == len(bench["powder"]) == steps
    assert bench["powder_um_per_mg"] > 0
    assert bench["totals"]["minutes"] > 15
    assert bench["undo_says"] is None


def test_light_changes_what_is_shown(client, plan_id):
    day = client.get(f"/api/sequences/{plan_id}").json
    lamp = client.get(f"/api/sequences/{plan_id}?light=warm_lamp").json
    assert lamp["light"] == "warm_lamp"
    assert lamp["stages"] != day["stages"]


def test_an_edit_recomputes_and_can_be_taken_back(client, plan_id):
    before = client.get(f"/api/sequences/{plan_id}").json
    foundation = step(before, "foundation")
    edit = {"edit": "amount", "step": foundation["id"], "amount": 20.0}
    after = post(client, f"/api/sequences/{plan_id}/edits", {"revision": 1, "edits": [edit]}).json
    assert after["revision"] == 2
    says = after["undo_says"]
    assert re.fullmatch("Foundation .+: 4.5 to 20 µm", says)
    assert after["totals"]["film_ml"] > before["totals"]["film_ml"]
    assert {f["name"] for f in after["difference"]["figures"]} >= {"Product"}
    undone = post(client, f"/api/sequences/{plan_id}/undo", {"revision": 2}).json
    assert undone["steps"] == before["steps"]
    assert undone["redo_says"] == says
    redone = post(client, f"/api/sequences/{plan_id}/redo", {"revision": 1}).json
    assert redone["steps"] == after["steps"]


def test_a_fix_from_a_finding_is_applied_as_it_came(client, plan_id):
    bench = client.get(f"/api/sequences/{plan_id}").json
    edit = {"edit": "hand", "step": step(bench, "foundation")["id"], "motion": "drag"}
    broken = post(client, f"/api/sequences/{plan_id}/edits", {"revision": 1, "edits": [edit]}).json
    finding = next(f for f in broken["findings"] if f["rule"] == "gentle-on-fragile")
    mended = post(client, f"/api/sequences/{plan_id}/edits", {"revision": 2, "edits": finding["fix"]["edits"]}).json
    assert "gentle-on-fragile" not in [f["rule"] for f in mended["findings"]]


def test_a_school_is_previewed_without_a_change_and_then_kept(client, plan_id):
    preview = post(client, f"/api/sequences/{plan_id}/preview", {"school": "overpainted"}).json
    assert "Underpainted becomes Overpainted." in preview["difference"]["says"]
    assert client.get(f"/api/sequences/{plan_id}").json["revision"] == 1
    stored = post(client, f"/api/sequences/{plan_id}/replan", {"revision": 1, "school": "overpainted"}).json
    assert stored["school"] == "overpainted"
    assert stored["undo_says"] == "Planned anew: Overpainted"
    undone = post(client, f"/api/sequences/{plan_id}/undo", {"revision": 2}).json
    assert undone["school"] == "underpainted"


def test_a_wish_is_taken_back_by_null_and_stays_where_it_is_left_out(client, plan_id):
    changed = {
        "wear_hours": 11,
        "climate": {"temperature_c": 31, "humidity_percent": 80},
        "options": {"bronzer": "last", "spot": "before_foundation"},
    }
    stored = post(client, f"/api/sequences/{plan_id}/replan", {"revision": 1, **changed}).json["intent"]
    assert (stored["wear_hours"], stored["options"]["bronzer"], stored["climate"]["temperature_c"]) == (11, "last", 31)
    body = {"revision": 2, "climate": None, "options": {"bronzer": None}}
    answer = post(client, f"/api/sequences/{plan_id}/replan", body).json
    back = answer["intent"]
    assert (back["wear_hours"], back["options"]["spot"]) == (11, "before_foundation")
    assert (back["options"]["bronzer"], back["climate"]["temperature_c"]) == ("none", 22)
    assert answer["undo_says"] == "Planned anew: climate as usual, bronzer as usual"
    body = {"revision": 3, "wear_hours": None, "options": None}
    bare = post(client, f"/api/sequences/{plan_id}/replan", body).json["intent"]
    assert bare["options"]["spot"] == "after_foundation"
    assert bare["wear_hours"] != 11


def test_setting_alone_may_change(client, plan_id):
    stored = post(client, f"/api/sequences/{plan_id}/replan", {"revision": 1, "setting": "none"}).json
    assert not [s for s in stored["steps"] if s["kind"] == "set"]
    assert stored["school"] == "underpainted"


def test_candidates_are_tried_on_this_face(client, plan_id):
    bench = client.get(f"/api/sequences/{plan_id}").json
    foundation = step(bench, "foundation")["id"]
    found = client.get(f"/api/sequences/{plan_id}/steps/{foundation}/candidates").json["candidates"]
    assert found[0]["current"]
    by_id = {each["product"]["id"]: each for each in found}
    assert (
        by_id["full-matt-2"]["shade_shows"] < by_id["thin-satin-2"]["shade_shows"] < by_id["silk-veil-2"]["shade_shows"]
    )
    assert by_id["water-veil-2"]["beads"]


def test_a_new_plan_is_made_with_changed_wishes(client):
    sitter_id = client.get("/api/sitters").json["sitters"][1]["id"]
    answer = post(client, f"/api/sitters/{sitter_id}/sequences", {"cover": "full"})
    assert answer.status_code == 201
    assert answer.json["intent"]["cover"] == "full"


def test_a_case_goes_in_and_comes_out(empty_client):
    answer = empty_client.post("/api/cases", data=CASE, content_type="application/json")
    assert answer.status_code == 201
    exported = empty_client.get(f"/api/sitters/{answer.json['sitter_id']}/case")
    assert exported.json == json.loads(CASE)
    assert exported.headers["Content-Disposition"] == 'attachment; filename="Posy.case.json"'


def test_a_sequence_file_is_one_the_command_line_reads(client, plan_id):
    answer = client.get(f"/api/sequences/{plan_id}/file")
    assert answer.json["nabrel"] == "sequence"
    assert "Wren-underpainted.sequence.json" in answer.headers["Content-Disposition"]


def test_a_nickname_cannot_break_the_file_name(empty_client):
    document = json.loads(CASE)
    document["sitter"]["nickname"] = 'A"; Set-Cookie: x=1 /../é'
    answer = empty_client.post("/api/cases", data=json.dumps(document), content_type="application/json")
    exported = empty_client.get(f"/api/sitters/{answer.json['sitter_id']}/case")
    assert re.fullmatch(r'attachment; filename="[A-Za-z0-9._-]+"', exported.headers["Content-Disposition"])


def bomb() -> bytes:
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("case.json", b"0" * 20_000_000)
    return packed.getvalue()


@pytest.mark.parametrize(
    ("data", "content_type", "headers", "status", "said"),
    [
        (b"{", "application/json", {}, 422, "not JSON"),
        (b"", "application/json", {}, 422, "nothing"),
        (CASE, "text/plain", {}, 415, "application/json"),
        (CASE, "multipart/form-data; boundary=x", {}, 415, "application/json"),
        (CASE.replace(b'"dry"', b'"wet"'), "application/json", {}, 422, "sitter.preset"),
        (CASE.replace(b'"cover": 0.28', b'"cover": 1.28', 1), "application/json", {}, 422, "cover"),
        (b" " * 50_000_000, "application/json", {}, 413, "smaller"),
        (bomb(), "application/json", {}, 422, "compressed"),
        (gzip.compress(CASE), "application/json", {"Content-Encoding": "gzip"}, 415, "no compression"),
        (b"[" * 100_000, "application/json", {}, 422, "at most 64 levels"),
    ],
    ids=["cut", "empty", "text", "form", "unknown-id", "range", "huge", "zip-bomb", "gzip", "nested"],
)
def test_a_bad_case_is_refused_and_nothing_is_saved(empty_client, database, data, content_type, headers, status, said):
    answer = empty_client.post("/api/cases", data=data, content_type=content_type, headers=headers)
    assert answer.status_code == status
    assert set(answer.json) == {"field", "found", "allowed", "says"}
    assert said in answer.json["says"]
    with database.session() as session:
        assert Sitters(session).all() == []
        assert Kit(session).all() == ()


@pytest.mark.parametrize(
    ("body", "field"),
    [
        ({"edits": []}, "revision"),
        ({"revision": 1, "edits": []}, "edits"),
        ({"revision": "1", "edits": [{"edit": "remove", "step": "s1"}]}, "revision"),
        ({"revision": 1, "edits": [{"edit": "bake", "step": "s1"}]}, "edits[0]"),
        ({"revision": 1, "edits": [{"edit": "remove"}]}, "edits[0].step"),
        ({"revision": 1, "edits": [{"edit": "remove", "step": "s99"}]}, "edits[0].step"),
        ({"revision": 1, "edits": [{"edit": "zones", "step": "s1", "zones": ["nose"]}]}, "edits[0].zones[0]"),
        ({"revision": 1, "edits": [{"edit": "amount", "step": "s14", "amount": 1e9}]}, "edits[0].amount"),
        ({"revision": 1, "edits": "all"}, "edits"),
        ([], "request"),
    ],
)
def test_bad_edits_are_refused_by_field_and_change_nothing(client, plan_id, body, field):
    answer = post(client, f"/api/sequences/{plan_id}/edits", body)
    assert answer.status_code == 422
    assert answer.json["field"] == field
    assert client.get(f"/api/sequences/{plan_id}").json["revision"] == 1


def test_one_bad_edit_among_good_ones_changes_nothing(client, plan_id):
    edits = [{"edit": "remove", "step": "s1"}, {"edit": "remove", "step": "s1"}]
    answer = post(client, f"/api/sequences/{plan_id}/edits", {"revision": 1, "edits": edits})
    assert answer.status_code == 422
    assert answer.json["field"] == "edits[1].step"
    assert client.get(f"/api/sequences/{plan_id}").json["revision"] == 1


def test_a_stale_edit_is_a_conflict(client, plan_id):
    edit = {"edit": "remove", "step": "s1"}
    assert post(client, f"/api/sequences/{plan_id}/edits", {"revision": 1, "edits": [edit]}).status_code == 200
    stale = post(client, f"/api/sequences/{plan_id}/edits", {"revision": 1, "edits": [edit]})
    assert stale.status_code == 409
    assert "load the latest" in stale.json["says"]
    assert post(client, f"/api/sequences/{plan_id}/undo", {"revision": 1}).status_code == 409


@pytest.mark.parametrize(
    ("method", "url", "status"),
    [
        ("get", "/api/sequences/nothing", 404),
        ("get", "/api/sitters/nobody", 404),
        ("get", "/api/sitters/nobody/case", 404),
        ("get", "/api/nowhere", 404),
        ("delete", "/api/sitters", 405),
        ("get", "/api/sequences/" + "x" * 500, 422),
    ],
)
def test_unknown_addresses_are_refused_plainly(client, method, url, status):
    answer = getattr(client, method)(url)
    assert answer.status_code == status
    assert "says" in answer.json


def test_an_unknown_light_is_refused(client, plan_id):
    answer = client.get(f"/api/sequences/{plan_id}?light=moon")
    assert answer.status_code == 422
    assert answer.json["field"] == "light"


def test_a_body_that_is_not_json_is_refused(client, plan_id):
    url = f"/api/sequences/{plan_id}/edits"
    assert client.post(url, data=b"a=1", content_type="application/x-www-form-urlencoded").status_code == 415
    assert client.post(url, data=b"{", content_type="application/json").status_code == 422


def test_our_own_mistake_is_a_plain_500(client, plan_id, monkeypatch):
    def fail(*_):
        raise RuntimeError("secret detail")

    monkeypatch.setattr(endpoints, "evaluated", fail)
    answer = client.get(f"/api/sequences/{plan_id}")
    assert answer.status_code == 500
    assert "secret detail" not in answer.text


def test_pages_come_with_a_strict_policy_and_never_leave_the_machine(client):
    answer = client.get("/")
    policy = answer.headers["Content-Security-Policy"]
    assert "default-src 'self'" in policy
    assert "unsafe" not in policy
    assert "http" not in policy
    assert client.get("/plans/anything").status_code == answer.status_code


def test_files_outside_the_front_end_are_not_served(client):
    for path in ("/../app.py", "/assets/../../app.py", "/%2e%2e/app.py"):
        answer = client.get(path)
        assert b"create_app" not in answer.data


def test_the_openapi_document_is_current(client):
    assert DOCUMENT.read_text(encoding="utf-8") == document_text()
    served = client.get("/api/openapi.json")
    assert served.mimetype == "application/json"
    assert served.json == json.loads(DOCUMENT.read_text(encoding="utf-8"))


def test_the_corrector_question_is_answered_with_edits_that_work(client):
    dunstan = next(s for s in client.get("/api/sitters").json["sitters"] if s["nickname"] == "Dunstan")["sequence_id"]
    found = client.get(f"/api/sequences/{dunstan}/corrector/nose_side_l").json
    rows = found["rows"]
    assert "best" in rows[0]["label"]
    assert any(row["covering"].get("corrector") is None for row in rows)
    other = next(row for row in rows if row["covering"].get("corrector") not in (None, "cor-green"))
    taken = post(client, f"/api/sequences/{dunstan}/edits", {"revision": 1, "edits": other["take"]}).json
    here = [s for s in taken["steps"] if s["kind"] == "correct" and "nose_side_l" in zones_of(s)]
    assert [item_of(s) for s in here] == [other["covering"]["corrector"]]
    kinds = [s["kind"] for s in taken["steps"]]
    assert kinds.index("correct") < kinds.index("foundation")


def test_what_reaches_the_wanted_step_is_told_and_works(client, plan_id):
    bench = client.get(f"/api/sequences/{plan_id}").json
    shade = step(bench, "shade")["id"]
    found = client.get(f"/api/sequences/{plan_id}/steps/{shade}/reach?wanted=5.5").json
    assert found["wanted"] == 5.5
    assert found["edits"]
    after = post(client, f"/api/sequences/{plan_id}/edits", {"revision": 1, "edits": found["edits"]}).json
    # The ladder has no rung between: it is the first that shows at least so much.
    assert 5.5 * 0.95 <= after["totals"]["shade_shows"] < 2 * 5.5
    foundation = step(bench, "foundation")["id"]
    refused = client.get(f"/api/sequences/{plan_id}/steps/{foundation}/reach")
    assert refused.status_code == 422
    assert refused.json["field"] == "step"


def test_single_shades_that_join_face_and_body_come_with_the_mix(client, plan_id):
    joining = client.get(f"/api/sequences/{plan_id}/mix").json["joining"]
    assert len(joining) == 4
    assert all(each["neck_de"] is not None for each in joining)
    assert "neck" in joining[0]["says"]


def test_the_workbench_tells_touch_ups_and_borders(client, plan_id):
    bench = client.get(f"/api/sequences/{plan_id}").json
    hours = [each["hour"] for each in bench["touch_ups"]]
    assert hours == sorted(hours)
    assert all(edge["steepness"] >= 0 for edge in bench["edges"])
    assert bench["totals"]["tested_dose_share"] == pytest.approx(0.225)


def test_the_well_tells_what_drops_give(client, plan_id):
    recipe = client.get(f"/api/sequences/{plan_id}/mix?drops=6").json["mix"]["best"]
    parts = [{"product": p["product"], "drops": p["drops"]} for p in recipe["parts"]]
    poured = post(client, f"/api/sequences/{plan_id}/well", {"parts": parts}).json
    assert poured["recipe"]["de"] == recipe["de"]
    assert poured["recipe"]["hex"] == recipe["hex"] == poured["seen_hex"]
    lamp = post(client, f"/api/sequences/{plan_id}/well?light=warm_lamp", {"parts": parts}).json
    assert lamp["seen_hex"] != poured["seen_hex"]
    assert sum(poured["batch_ml"]) == pytest.approx(sum(lamp["batch_ml"]))


@pytest.mark.parametrize(
    ("url", "body", "field"),
    [
        ("well", {"parts": []}, "parts"),
        ("well", {"parts": [{"product": "nothing", "drops": 1}]}, "parts[0].product"),
        ("well", {"parts": [{"product": "cor-green", "drops": 1}]}, "parts[0].product"),
        ("well", {"parts": [{"product": "thin-satin-1", "drops": 0}]}, "parts[0].drops"),
        ("well", {"parts": [{"product": "thin-satin-1", "drops": 1.5}]}, "parts[0].drops"),
        ("mix?drops=99", None, "drops"),
        ("mix?finish=glue", None, "finish"),
        ("corrector/nose", None, "zone"),
    ],
)
def test_questions_that_cannot_be_are_refused_by_field(client, plan_id, url, body, field):
    address = f"/api/sequences/{plan_id}/{url}"
    answer = client.get(address) if body is None else post(client, address, body)
    assert answer.status_code == 422
    assert answer.json["field"] == field


def test_a_mix_may_stand_in_for_a_foundation_and_is_scaled_to_a_class(client, plan_id):
    mix = client.get(f"/api/sequences/{plan_id}/mix?replaces=thin-satin-3").json
    parts = [{"product": part["product"], "drops": part["drops"]} for part in mix["mix"]["best"]["parts"]]
    assert all(part["product"] != "thin-satin-3" for part in parts)
    one = post(client, f"/api/sequences/{plan_id}/well", {"parts": parts, "replaces": "thin-satin-3"}).json
    class_of_8 = post(client, f"/api/sequences/{plan_id}/well", {"parts": parts, "faces": 8}).json
    assert one["recipe"]["de"] == mix["mix"]["best"]["de"]
    assert sum(class_of_8["batch_ml"]) == pytest.approx(8 * sum(one["batch_ml"]), rel=0.02)


@pytest.mark.parametrize(("replaced", "status"), [("cor-green", 422), ("nothing", 422), ("x" * 61, 422)])
def test_only_a_foundation_of_the_kit_is_stood_in_for(client, plan_id, replaced, status):
    assert client.get(f"/api/sequences/{plan_id}/mix?replaces={replaced}").status_code == status


def test_a_foundation_step_offers_its_mix_and_others_do_not(client, plan_id):
    steps = client.get(f"/api/sequences/{plan_id}").json["steps"]
    for kind, offered in (("foundation", True), ("set", False)):
        step = next(each["id"] for each in steps if each["kind"] == kind)
        found = client.get(f"/api/sequences/{plan_id}/steps/{step}/candidates").json
        assert (found["mix"] is not None) == offered


def test_an_erased_sitter_is_gone_with_every_revision(client, plan_id, demo_database):
    plan = client.get(f"/api/sequences/{plan_id}").json
    first = next(step["id"] for step in plan["steps"] if step["unit"] == "um")
    post(
        client,
        f"/api/sequences/{plan_id}/edits",
        {"revision": 1, "edits": [{"edit": "amount", "step": first, "amount": 3.0}]},
    )
    assert client.get(f"/api/sitters/{plan['sitter_id']}/belongings").json == {
        "plans": 1,
        "revisions": 2,
        "classes": 1,
        "practice": 0,
        "named": 0,
        "mentions": [],
    }
    assert client.delete(f"/api/sitters/{plan['sitter_id']}").json == {
        "plans": 1,
        "revisions": 2,
        "classes": 1,
        "practice": 0,
        "named": 0,
        "titles": 0,
        "finished": True,
    }
    assert client.get(f"/api/sequences/{plan_id}").status_code == 404
    assert client.delete(f"/api/sitters/{plan['sitter_id']}").status_code == 404
    with demo_database.session() as session:
        left = list(session.execute(text("select document from revision")).scalars())
        assert left
        assert plan["nickname"] not in {read_stored(document, ()).case.sitter.nickname for document in left}


def test_wishes_asked_of_the_face_are_planned_and_told_in_words(client, plan_id):
    revision = client.get(f"/api/sequences/{plan_id}").json["revision"]
    wish = {"effects": {"nose": ["narrower"], "lips": ["fuller"]}, "bake_zones": ["under_eye_l", "under_eye_r"],
            "glow_points": ["bridge_dots"], "colour_effect": "slim", "already_done": []}  # fmt: skip
    now = client.post(f"/api/sequences/{plan_id}/replan", json={"revision": revision, **wish}).json
    assert now["intent"]["effects"] == wish["effects"]
    assert {"nose_side_l", "below_lip"} <= {
        z for s in now["steps"] if s["kind"] == "shade" for p in s["portions"] for z in p["zones"]
    }
    said = now["undo_says"]
    assert "effects lips fuller and nose narrower" in said
    assert "bake zones under both eyes" in said
    assert "glow points bridge dots" in said
    assert not set("[]{}'_") & set(said)
    refused = client.post(
        f"/api/sequences/{plan_id}/replan", json={"revision": now["revision"], "effects": {"lips": ["lower"]}}
    )
    assert refused.status_code == 422
    assert refused.json["field"] == "effects.lips[0]"
