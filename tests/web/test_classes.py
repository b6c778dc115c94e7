"""The Class room over HTTP: announced, changed, refused, gone through, held, and erased with whose face it is."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, datetime, timedelta

import pytest

from nabrel.core.lesson.room import MOST_QUESTIONS, AskedQuestion
from nabrel.store.classes import Classes
from nabrel.store.repositories import Kit, Sitters
from nabrel.store.workspace import gather, replace_all
from nabrel.web.app import create_app
from tests.store.test_erasing import found_in

START = datetime(2026, 12, 2, 18, 30, tzinfo=UTC)
POST = {"headers": {"Content-Type": "application/json"}}


class Hall:
    """The demo's application, with a clock that a test sets, and its class to come."""

    def __init__(self, database):
        self.database = database
        self.app = create_app(database)
        self.at = START
        self.app.extensions["nabrel_clock"] = lambda: self.at
        self.client = self.app.test_client()
        self.lists = self.get("/api/classes")
        self.id = self.lists["next"]

    def get(self, path):
        answer = self.client.get(path)
        assert answer.status_code == 200, answer.text
        return answer.json

    @property
    def shown(self):
        return self.get(f"/api/classes/{self.id}")

    def change(self, **changed):
        now = self.shown
        return self.client.put(f"/api/classes/{self.id}", json={**now["room"], **changed, "version": now["version"]})

    def event(self, event, **about):
        answer = self.client.post(f"/api/classes/{self.id}/events", json={"event": event, **about})
        assert answer.status_code == 200, answer.text
        return answer.json

    def later(self, seconds):
        self.at += timedelta(seconds=seconds)


@pytest.fixture
def hall(demo_database):
    return Hall(demo_database)


def test_the_demo_holds_a_course_of_three_classes_held_and_one_to_come(hall):
    [course] = hall.lists["courses"]
    assert [each["standing"] for each in course["classes"]] == ["held", "held", "held", "to_come"]
    assert {(each["students"], each["stations"]) for each in course["classes"]} == {(9, 5)}
    assert course["held"] == 3
    assert course["taught"]
    assert course["classes"][-1]["id"] == hall.lists["next"]
    assert hall.shown["lesson"]["length_s"] <= hall.shown["room_s"]


def test_a_class_is_announced_changed_and_deleted(hall):
    plan = hall.lists["plans"][0]["id"]
    body = {"title": "One more", "date": "2026-12-09", "start": "18:30", "plan": plan, "stations": 2,
            "students": [{"name": "Ida"}, {"name": "Ned", "pace": 3.0}]}  # fmt: skip
    made = hall.client.post("/api/classes", json=body)
    assert made.status_code == 201
    key = made.json["id"]
    assert [each["name"] for each in made.json["lesson"]["students"]] == ["Ida", "Ned"]
    changed = hall.client.put(
        f"/api/classes/{key}", json={**made.json["room"], "stations": 1, "version": made.json["version"]}
    ).json
    assert {task["station"] for each in changed["lesson"]["students"] for task in each["tasks"]} == {None, 1}
    stale = hall.client.put(f"/api/classes/{key}", json={**made.json["room"], "version": made.json["version"]})
    assert stale.status_code == 409
    assert hall.client.delete(f"/api/classes/{key}").status_code == 204
    assert hall.client.get(f"/api/classes/{key}").status_code == 404


@pytest.mark.parametrize(("changed", "field"), [
    ({"students": []}, "students"),
    ({"students": [{"name": "A"}, {"name": "A"}]}, "students"),
    ({"students": [{"name": "x" * 200}]}, "students[0].name"),
    ({"students": [{"name": "A", "sitter": "nobody"}]}, "sitter"),
    ({"students": [{"name": "A", "kit": "none"}], "pairs": []}, "students[0].kit"),
    ({"pairs": [["Bram", "Nobody"]]}, "pairs[0]"),
    ({"stations": 0}, "stations"),
    ({"start": "half past"}, "start"),
    ({"zone": "Nowhere/At-all"}, "zone"),
    ({"plan": "0" * 32}, "sequence"),
    ({"half": "mistake", "mistake": "none"}, "mistake"),
    ({"cuts": ["nothing"]}, "cuts[0]"),
    ({"pins": {"nothing": 60}}, "pins.nothing"),
])  # fmt: skip
def test_what_cannot_be_is_refused_by_its_field_and_changes_nothing(hall, changed, field):
    before = hall.shown
    answer = hall.change(**changed)
    assert answer.status_code in (404, 422), answer.text
    assert answer.json["field"] == field
    assert hall.shown == before


def test_a_block_that_cannot_begin_there_says_why(hall):
    held = next(each for each in hall.shown["borders"] if each["why_not"])
    refused = hall.change(cuts=[held["step"]])
    assert refused.status_code == 422
    assert held["why_not"] in refused.json["says"]
    free = next(each for each in hall.shown["borders"] if not each["why_not"] and not each["begins"])
    cuts = [each["step"] for each in hall.shown["borders"] if each["begins"]]
    assert hall.change(cuts=[*cuts, free["step"]]).status_code == 200
    assert next(each for each in hall.shown["borders"] if each["step"] == free["step"])["begins"]


def test_a_class_is_gone_through_by_the_servers_clock_and_the_same_for_everybody(hall):
    assert hall.get(f"/api/classes/{hall.id}/now")["now_s"] is None
    hall.event("absent", student="Pike")
    now = hall.event("begin")
    assert now["begun"] == START.isoformat()
    assert hall.event("begin")["begun"] == now["begun"], "begun once"
    first = now["phases"][0]
    hall.later(first["end_s"] + 120)
    late = hall.get(f"/api/classes/{hall.id}/now")
    assert late["now_s"] == first["end_s"] + 120
    assert late["until_s"] == first["end_s"] + 120
    on = hall.event("next", phase=first["phase"], step=first["step"])
    assert on["current"] == 1
    assert on == hall.event("next", phase=first["phase"], step=first["step"]), "sent twice it counts once"
    assert "Pike" not in {turn["student"] for turn in on["turns"]}
    name = on["turns"][0]["student"]
    hall.later(30)
    looked = hall.event("check", student=name, step=first["step"])
    assert {turn["student"]: turn["state"] for turn in looked["turns"]}[name] == "checked"
    assert hall.event("ask", text="Why so little?", step=first["step"])["questions"][0]["text"] == "Why so little?"
    other = create_app(hall.database)
    other.extensions["nabrel_clock"] = lambda: hall.at
    assert other.test_client().get(f"/api/classes/{hall.id}/now").json == hall.get(f"/api/classes/{hall.id}/now")
    assert hall.event("forget_question", place=0)["questions"] == []
    assert hall.event("uncheck", student=name, step=first["step"])["checks"] == []
    assert hall.event("back")["current"] == 0
    assert hall.event("skip", phase=first["phase"], step=first["step"])["phases"][0]["standing"] == "left_out"


def test_a_class_from_which_many_stay_away_is_still_gone_through_to_its_end(hall):
    """With fewer students a break may no longer be due: the parts that are gone through stay those that were announced."""
    for name in ("Pike", "Ottoline", "Tamsin", "Bram", "Isolde", "Merrick"):
        hall.event("absent", student=name)
    now = hall.event("begin")
    parts = [(each["phase"], each["step"]) for each in now["phases"]]
    assert any(phase == "break" for phase, _ in parts)
    for phase, step in parts:
        assert (now["phases"][now["current"]]["phase"], now["phases"][now["current"]]["step"]) == (phase, step)
        hall.later(60)
        now = hall.event("next", phase=phase, step=step)
    assert now["current"] is None
    recap = hall.get(f"/api/classes/{hall.id}/recap")
    assert len(recap["absent"]) == 6
    assert len(recap["blocks"]) == len(now["blocks"])


@pytest.mark.parametrize("body", [
    {"event": "next"}, {"event": "check", "student": "Nobody", "step": "s1"}, {"event": "check", "student": "Bram"},
    {"event": "ask", "text": "Why?", "step": "nothing"}, {"event": "forget_question", "place": 3}, {"event": "dance"},
    {"event": "absent", "student": "Nobody"}, {"event": "back"},
])  # fmt: skip
def test_what_cannot_have_happened_is_refused_and_nothing_is_noted(hall, body):
    if body["event"] != "next":
        hall.event("begin")
    before = hall.get(f"/api/classes/{hall.id}/now")
    answer = hall.client.post(f"/api/classes/{hall.id}/events", json=body)
    assert answer.status_code == 422, answer.text
    after = hall.get(f"/api/classes/{hall.id}/now")
    assert (after["checks"], after["questions"], after["current"]) == (
        before["checks"], before["questions"], before["current"],
    )  # fmt: skip


def test_a_class_that_was_held_takes_from_the_packs_once_and_is_kept_as_it_was(hall):
    weighed = {each["item"]: each["amount"] for each in hall.shown["lesson"]["weigh_out"]}
    with hall.database.session() as session:
        before = {item.id: item for item in Kit(session).all()}
    version = hall.shown["version"]
    assert hall.client.post(f"/api/classes/{hall.id}/held", json={"version": version + 7}).status_code == 409
    held = hall.client.post(f"/api/classes/{hall.id}/held", json={"version": version}).json
    assert held["held"]
    assert held["taken"] == pytest.approx(weighed, abs=1e-4)
    assert hall.client.post(f"/api/classes/{hall.id}/held", json={"version": version}).json["taken"] == held["taken"]
    with hall.database.session() as session:
        after = {item.id: item for item in Kit(session).all()}
    assert weighed
    for item, amount in weighed.items():
        content = before[item].ml or before[item].g
        left = 1.0 if before[item].left is None else before[item].left
        assert after[item].left == pytest.approx(max(0.0, left - amount / content), abs=1e-4)
    assert hall.change(stations=9).status_code == 422
    assert hall.client.post(f"/api/classes/{hall.id}/events", json={"event": "begin"}).status_code == 422


def test_a_plan_that_changes_changes_the_class_until_it_begins(hall):
    plan = hall.shown["room"]["plan"]
    stored = hall.get(f"/api/sequences/{plan}")
    step = next(each["id"] for each in stored["steps"] if each["kind"] == "glow")
    steps = len(hall.shown["steps"])
    hall.event("absent", student="Pike")
    edit = {"edits": [{"edit": "remove", "step": step}], "revision": stored["revision"]}
    assert hall.client.post(f"/api/sequences/{plan}/edits", json=edit).status_code == 200
    assert len(hall.shown["steps"]) == steps - 1
    hall.event("begin")
    now = hall.get(f"/api/sequences/{plan}")
    hall.client.post(f"/api/sequences/{plan}/undo", json={"revision": now["revision"]})
    assert len(hall.shown["steps"]) == steps - 1, "a class that began goes on as it began"
    other = next(each["id"] for each in hall.lists["plans"] if each["id"] != plan)
    assert hall.change(plan=other).json["field"] == "plan"
    assert hall.change(cuts=[hall.shown["steps"][4]["id"]]).json["field"] == "cuts"
    assert hall.change(check_s=30.0).status_code == 200


def test_whose_face_is_erased_is_in_no_class_and_in_no_file(hall):
    now = hall.shown
    name = "Zenobia-of-the-Slip"
    case = hall.get(f"/api/sitters/{hall.lists['sitters'][1]['id']}/case")
    case["sitter"]["nickname"] = name
    sitter = hall.client.post("/api/cases", json=case).json["sitter_id"]
    students = [*now["room"]["students"], {"name": name, "pace": 2.0, "sitter": sitter}]
    assert hall.change(students=students, pairs=[["Ottoline", name]]).status_code == 200
    hall.event("begin")
    hall.event("check", student=name, step=now["steps"][0]["id"])
    assert name in {each["name"] for each in hall.shown["lesson"]["students"]}
    hall.database.back_up("daily")
    assert found_in(hall.database.folder, name)
    assert hall.client.delete(f"/api/sitters/{sitter}").json["finished"]
    left = hall.shown
    assert [each["name"] for each in left["room"]["students"]] == [each["name"] for each in now["room"]["students"]]
    assert left["room"]["pairs"] == []
    assert hall.get(f"/api/classes/{hall.id}/now")["checks"] == []
    assert found_in(hall.database.folder, name) == []


def test_classes_go_with_the_sitter_whose_plan_they_teach_and_come_back_with_the_workspace(hall, tmp_path):
    with hall.database.session() as session:
        saved = Classes(session).all()
        workspace = gather(session)
    assert workspace.classes == saved
    assert len(saved) == 4
    model = next(each for each in hall.lists["sitters"] if each["name"] == "Wren")["id"]
    hall.client.delete(f"/api/sitters/{model}")
    with hall.database.session() as session:
        assert [each.id for each in Classes(session).all()] == [each.id for each in saved[:3]]
        replace_all(session, workspace)
        assert Classes(session).all() == saved
        assert len(Sitters(session).all()) == 8


def test_the_zip_holds_the_classes_and_refuses_what_is_not_in_it(hall):
    zipped = hall.client.get("/api/workspace").data
    preview = hall.client.post("/api/workspace/preview", data=zipped, content_type="application/zip").json
    assert preview["comes"]["classes"] == preview["goes"]["classes"] == 4
    assert hall.client.put("/api/workspace", data=zipped, content_type="application/zip").status_code == 200
    assert len(hall.get("/api/classes")["courses"][0]["classes"]) == 4
    assert hall.client.get("/api/workspace").data == zipped


def test_handouts_calendar_and_file_of_a_class(hall):
    pdf = hall.client.get(f"/api/classes/{hall.id}/handouts.pdf?paper=letter&mirrored=true")
    assert pdf.data.startswith(b"%PDF")
    assert hall.get("/api/handouts/progress") == {"what": None, "done": 0, "of": 0}
    assert hall.client.get(f"/api/classes/{hall.id}/calendar").data.startswith(b"BEGIN:VCALENDAR")
    file = hall.get(f"/api/classes/{hall.id}/file")
    assert file["nabrel"] == "class"
    assert len(file["students"]) == 9
    assert hall.client.get(f"/api/classes/{hall.id}/handouts.pdf?paper=a3").status_code == 422


def test_handouts_that_are_cancelled_stop_and_a_second_waits(hall, monkeypatch):
    way = hall.app.extensions["nabrel_handouts"]
    with way.begin("handouts"):
        assert hall.client.get(f"/api/classes/{hall.id}/handouts.pdf").status_code == 503
    counted = way.count

    def count_and_cancel():
        counted()
        hall.client.delete("/api/handouts/progress", **POST)

    monkeypatch.setattr(way, "count", count_and_cancel)
    stopped = hall.client.get(f"/api/classes/{hall.id}/handouts.pdf")
    assert stopped.status_code >= 400
    assert "cancelled" in stopped.json["says"]


def test_a_plan_says_its_branches_camps_and_mistakes(hall):
    found = hall.get(f"/api/sequences/{hall.shown['room']['plan']}/adapting")
    assert len(found["branches"]) > 5
    assert len(found["mistakes"]) > 6
    deep = next(each for each in found["mistakes"] if each["id"] == "shade_too_deep")
    assert deep["right"] != deep["wrong"]
    assert any(card["question"] == "Light or shade first" for card in found["camps"])


def test_one_question_more_than_a_class_may_have_is_refused_and_the_class_goes_on(hall):
    hall.event("begin")
    step = hall.shown["steps"][0]["id"]
    with hall.database.session() as session:
        full = tuple(AskedQuestion(1.0, f"Why {number}?", step) for number in range(MOST_QUESTIONS - 1))
        Classes(session).log(hall.id, lambda log: replace(log, questions=full))
    hall.event("ask", step=step, text="The last?")
    refused = hall.client.post(f"/api/classes/{hall.id}/events", json={"event": "ask", "step": step, "text": "More?"})
    assert (refused.status_code, refused.json["field"]) == (422, "text")
    assert f"at most {MOST_QUESTIONS} questions" in refused.json["allowed"]
    hall.event("forget_question", place=0)
    hall.event("ask", step=step, text="More?")
    assert hall.shown["begun"]
