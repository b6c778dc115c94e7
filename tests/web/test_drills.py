"""The Drill room over HTTP: asked without an answer in it, marked by the exercise that is here, once and in time."""

from __future__ import annotations

import json
from datetime import UTC, datetime, timedelta

import pytest

from nabrel.core.drill.judgements import JUDGEMENTS, of_kind
from nabrel.core.drill.kinds import KINDS
from nabrel.core.drill.making import exercise
from nabrel.core.house import House
from nabrel.formats.drills import told
from nabrel.web.app import create_app

START = datetime(2026, 11, 3, 18, tzinfo=UTC)


class Clock:
    """The server's clock, put forward by hand."""

    def __init__(self):
        self.now = START

    def __call__(self):
        return self.now

    def on(self, **by):
        self.now += timedelta(**by)


@pytest.fixture(scope="module")
def app(tmp_path_factory):
    from nabrel.store.database import Database

    database = Database(tmp_path_factory.mktemp("drill"))
    made = create_app(database)
    made.extensions["nabrel_clock"] = Clock()
    yield made
    database.close()


@pytest.fixture
def clock(app):
    return app.extensions["nabrel_clock"]


@pytest.fixture
def client(app):
    return app.test_client()


def ok(answer):
    assert answer.status_code < 300, answer.text
    return answer.json


def begun(client, *, seed=5, **body):
    """A new session; what it asks is drawn from a seed where it is free."""
    drawn = {} if seed is None or "code" in body else {"seed": seed}
    return ok(client.post("/api/drill/sessions", json={"level": 2, **drawn, **body}))["id"]


def asked(client, session, **body):
    return ok(client.post(f"/api/drill/sessions/{session}/exercises", json=body))["exercise"]


def answer(client, session, exercise_id, given):
    return client.post(f"/api/drill/sessions/{session}/exercises/{exercise_id}/answer", json=given)


def made_of(kind, seed=5):
    """The exercise that a new session of a kind asks first."""
    return exercise(kind, seed, 1, 2, House(), judgement=of_kind(kind)[0].id)


@pytest.mark.parametrize("kind", list(KINDS))
def test_a_question_holds_no_answer_and_is_marked_once_as_the_core_marks_it(client, kind):
    session = begun(client, kinds=[kind])
    found = asked(client, session)
    made = made_of(kind)
    assert found["asks"] == made.asks
    assert [each["says"] for each in found["choices"]] == [each.says for each in made.choices]
    said = json.dumps({name: value for name, value in found.items() if name != "choices"})
    if kind not in ("order", "leave_bare", "powder_where", "placement", "fault"):
        assert not any(why in said for why in made.why)
    assert "answer" not in found
    assert "marking" not in found
    early = client.get(f"/api/drill/sessions/{session}/exercises/{found['id']}/follows")
    assert early.status_code == 422
    marked = ok(answer(client, session, found["id"], told(made.answer)))
    assert marked["mark"]["score"] == 1.0
    assert marked["answered"] == 1
    assert marked["mark"]["follows"]
    assert marked["mark"]["why"] == list(made.why)
    again = answer(client, session, found["id"], told(made.answer))
    assert again.status_code == 422
    assert "counts once" in again.json["says"]
    assert ok(client.post(f"/api/drill/sessions/{session}/end", json={}))["answered"] == 1


def test_what_would_follow_is_shown_of_every_choice(client):
    session = begun(client, kinds=["corrector"])
    found = asked(client, session)
    marked = ok(answer(client, session, found["id"], {"choice": found["choices"][0]["id"]}))["mark"]
    assert {each["choice"] for each in marked["leaves"]} == {each["id"] for each in found["choices"]}
    session = begun(client, kinds=["depth"])
    found = asked(client, session)
    marked = ok(answer(client, session, found["id"], {"drop": 30.0}))["mark"]
    assert [each["words"] for each in marked["looks"]] == ["no shade", "as you set it", "as it should be"]
    assert len({each["hex"] for each in marked["looks"]}) == 3


def test_both_plans_are_shown_with_figures_the_rule_book_and_the_step_that_was_asked_about(client):
    session = begun(client, kinds=["texture"])
    found, made = asked(client, session), made_of("texture")
    wrong = next(each.id for each in made.choices if each.id != made.answer.choice)
    ok(answer(client, session, found["id"], {"choice": wrong}))
    follows = ok(client.get(f"/api/drill/sessions/{session}/exercises/{found['id']}/follows"))
    assert [each["words"] for each in follows["plans"]] == ["As planned", "As answered"]
    assert follows["says"], "a wrong choice is one that the rule book speaks of"
    assert made.marking.held[wrong] in [each["says"] for each in follows["says"]] + [made.marking.held[wrong]]
    assert [each["id"] for each in follows["steps"] if each["asked"]] == [made.shows.step]
    assert all(row["planned"] != row["answered"] for row in follows["figures"])


@pytest.mark.parametrize(("kind", "given"), [
    ("wait", {"choice": "z"}), ("wait", {"order": []}), ("placement", {"zones": ["knee"]}), ("depth", {"drop": -3}),
    ("order", {"order": ["nothing"]}), ("wait", {"choice": 3}), ("wait", {"more": 1}), ("wait", {"choice": "a", "seconds": -4}),
])  # fmt: skip
def test_a_wrong_kind_of_answer_is_refused_and_the_exercise_stays_open(client, kind, given):
    session = begun(client, kinds=[kind], seed=9)
    found = asked(client, session)
    refused = answer(client, session, found["id"], given)
    assert refused.status_code == 422, refused.text
    right = told(made_of(kind, 9).answer)
    assert ok(answer(client, session, found["id"], right))["mark"]["score"] == 1.0


@pytest.mark.parametrize("body", [
    {"kinds": ["dance"]}, {"level": 0}, {"level": 6}, {"seed": -1}, {"seed": 2**40}, {"minutes": 0}, {"minutes": 1000},
    {"student": "nobody"}, {"code": "ZZZZZZ"}, {"code": ""}, {"kinds": ["wait"] * 40},
])  # fmt: skip
def test_what_cannot_be_begun_is_refused(client, body):
    assert client.post("/api/drill/sessions", json=body).status_code in (404, 422)


def test_an_exercise_of_another_session_is_not_here(client):
    one, other = begun(client, kinds=["base_pair"]), begun(client, kinds=["base_pair"])
    found = asked(client, one)
    assert answer(client, other, found["id"], {"choice": "a"}).status_code == 404
    assert answer(client, "0" * 32, found["id"], {"choice": "a"}).status_code == 404
    assert answer(client, one, "0" * 32, {"choice": "a"}).status_code == 404
    assert ok(client.get("/api/drill"))["kinds"][0]["id"] in KINDS


def test_no_two_exercises_of_a_session_of_twenty_look_alike(client):
    session = begun(client, kinds=["base_pair", "amount"], level=None)
    seen = set()
    for _ in range(20):
        found = asked(client, session)
        seen.add(
            json.dumps([found["asks"], sorted(c["says"] for c in found["choices"]), found["lower"], found["upper"]])
        )
        ok(answer(client, session, found["id"], {"choice": "a"}))
    assert len(seen) == 20


def test_an_answer_after_the_time_is_refused_and_counts_nothing(client, clock):
    student = ok(client.post("/api/drill/students", json={"name": "Late Lark"}))["id"]
    session = begun(client, student=student, kinds=["base_pair"], minutes=5)
    first = asked(client, session)
    clock.on(minutes=4)
    ok(answer(client, session, first["id"], {"choice": "a"}))
    second = asked(client, session)
    clock.on(minutes=1, seconds=10)
    refused = client.post(f"/api/drill/sessions/{session}/exercises", json={})
    assert refused.status_code == 422
    assert "time of this session is up" in refused.json["says"]
    # What was begun in time still counts for a moment.
    ok(answer(client, session, second["id"], {"choice": "a"}))
    session = begun(client, student=student, kinds=["base_pair"], minutes=5)
    third = asked(client, session)
    clock.on(minutes=6)
    assert answer(client, session, third["id"], {"choice": "a"}).status_code == 422
    assert ok(client.get(f"/api/drill/students/{student}"))["answers"] == 2


def test_the_time_of_a_test_runs_from_when_it_was_first_opened(client, clock):
    student = ok(client.post("/api/drill/students", json={"name": "Slow Snipe"}))["id"]
    body = {"title": "Timed", "parts": [{"kind": "base_pair", "count": 2}], "same_for_all": True, "minutes": 5}
    code = ok(client.post("/api/drill/sets", json=body))["code"]
    first = ok(client.post("/api/drill/sessions", json={"student": student, "code": code}))
    clock.on(minutes=3)
    again = ok(client.post("/api/drill/sessions", json={"student": student, "code": code}))
    assert again["ends"] == first["ends"]
    clock.on(minutes=3)
    late = client.post("/api/drill/sessions", json={"student": student, "code": code})
    assert late.status_code == 422
    assert "time of this session is up" in late.json["says"]


def test_time_is_counted_by_the_server_whatever_the_page_says(client, clock):
    student = ok(client.post("/api/drill/students", json={"name": "Hasty Heron"}))["id"]
    session = begun(client, student=student, kinds=["base_pair"])
    found = asked(client, session)
    clock.on(seconds=12)
    ok(answer(client, session, found["id"], {"choice": "a", "seconds": 4000}))
    file = json.loads(client.get(f"/api/drill/students/{student}/file").text)
    assert file["answers"][0]["seconds"] == 12.0


def test_what_is_judged_by_colour_is_set_aside_on_request(client):
    session = begun(client, kinds=["corrector", "base_pair"])
    assert any(asked(client, session)["by_colour"] for _ in range(3))
    for _ in range(4):
        assert not asked(client, session, set_aside=True)["by_colour"]
    only = begun(client, kinds=["corrector"])
    assert asked(client, only)["in_words"], "colours are said in words too"
    assert client.post(f"/api/drill/sessions/{only}/exercises", json={"set_aside": True}).status_code == 422
    assert {kind for kind, row in KINDS.items() if row.by_colour} == {"corrector", "diagnose"}


def test_a_guest_is_asked_what_fits_and_nothing_is_kept(client):
    before = ok(client.get("/api/drill/students"))
    session = begun(client, ungraded=True, level=None, kinds=["base_pair"])
    levels = []
    for _ in range(14):
        found = asked(client, session)
        levels.append(found["level"])
        right = next(
            each for each in found["choices"]
            if _is_right(found, each["says"])
        )  # fmt: skip
        ok(answer(client, session, found["id"], {"choice": right["id"]}))
    recap = ok(client.post(f"/api/drill/sessions/{session}/end", json={}))
    assert not recap["saved"]
    assert levels[0] == 1
    assert levels[-1] > 1, "the level follows what was answered"
    assert recap["fits"].startswith("Level ")
    assert ok(client.get("/api/drill/students")) == before
    refused = client.post(f"/api/drill/sessions/{session}/exercises", json={})
    assert refused.status_code == 422


def _is_right(found, says):
    """Whether a sentence about two bases is true, by the trade's own words: what cannot wet beads up."""
    from nabrel.core.shelf.bases import beads
    from nabrel.core.shelf.ingredients import base_of

    apart = beads(base_of(tuple(found["lower"]))[0], base_of(tuple(found["upper"]))[0])
    return says.startswith("No: ") == apart and ("cannot wet" in says or "spreads over" in says)


def test_every_judgement_has_its_words_and_its_kind(client):
    told = {each["id"]: each for each in ok(client.get("/api/drill"))["judgements"]}
    assert set(told) == set(JUDGEMENTS)
    assert all(each["words"] and each["kind"] in KINDS for each in told.values())
