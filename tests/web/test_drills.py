"""The Drill room over HTTP: asked without an answer in it, marked by the exercise that is here, once."""

from __future__ import annotations

import json

import pytest

from nabrel.core.drill.making import KINDS, exercise
from nabrel.core.house import House
from nabrel.web.app import create_app


@pytest.fixture(scope="module")
def client(tmp_path_factory):
    from nabrel.store.database import Database

    database = Database(tmp_path_factory.mktemp("drill"))
    yield create_app(database).test_client()
    database.close()


def asked(client, kind, seed=5, level=2):
    answer = client.post("/api/drill/exercises", json={"kind": kind, "seed": seed, "level": level})
    assert answer.status_code == 201, answer.text
    return answer.json


@pytest.mark.parametrize("kind", list(KINDS))
def test_a_question_holds_no_answer_and_is_marked_once_as_the_core_marks_it(client, kind):
    found = asked(client, kind)
    made = exercise(kind, 5, 1, 2, House())
    assert found["asks"] == made.asks
    assert [each["says"] for each in found["choices"]] == [each.says for each in made.choices]
    said = json.dumps({name: value for name, value in found.items() if name != "choices"})
    if kind not in ("order", "leave_bare", "powder_where", "placement", "fault"):
        assert not any(why in said for why in made.why)
    assert "answer" not in found
    assert "marking" not in found
    marked = client.post(f"/api/drill/exercises/{found['id']}/answer", json=dict(made.answer))
    assert marked.status_code == 200, marked.text
    assert marked.json["score"] == 1.0
    assert marked.json["follows"]
    assert marked.json["why"] == list(made.why)
    again = client.post(f"/api/drill/exercises/{found['id']}/answer", json=dict(made.answer))
    assert again.status_code == 422
    assert "counts once" in again.json["says"]


def test_what_would_follow_is_shown_of_every_choice(client):
    found = asked(client, "corrector")
    marked = client.post(f"/api/drill/exercises/{found['id']}/answer", json={"choice": found["choices"][0]["id"]}).json
    assert {each["choice"] for each in marked["leaves"]} == {each["id"] for each in found["choices"]}
    face = asked(client, "diagnose")
    assert face["face"]
    planned = client.post(f"/api/drill/exercises/{face['id']}/answer", json={"choice": "a"}).json["as_planned"]
    assert planned != face["face"]


@pytest.mark.parametrize(("kind", "answer"), [
    ("wait", {"choice": "z"}), ("wait", {"order": []}), ("placement", {"zones": ["knee"]}), ("depth", {"drop": -3}),
    ("order", {"order": ["nothing"]}), ("wait", {"choice": 3}), ("wait", {"more": 1}),
])  # fmt: skip
def test_a_wrong_kind_of_answer_is_refused_and_the_exercise_stays_open(client, kind, answer):
    found = asked(client, kind, seed=9)
    refused = client.post(f"/api/drill/exercises/{found['id']}/answer", json=answer)
    assert refused.status_code == 422, refused.text
    right = dict(exercise(kind, 9, 1, 2, House()).answer)
    assert client.post(f"/api/drill/exercises/{found['id']}/answer", json=right).json["score"] == 1.0


@pytest.mark.parametrize("body", [{"kind": "dance"}, {"level": 0}, {"level": 6}, {"seed": -1}, {"seed": 2**40}])
def test_what_cannot_be_asked_is_refused(client, body):
    assert client.post("/api/drill/exercises", json=body).status_code == 422


def test_an_exercise_that_nobody_asked_is_not_here(client):
    assert client.post(f"/api/drill/exercises/{'0' * 32}/answer", json={"choice": "a"}).status_code == 404
    assert {each["id"] for each in client.get("/api/drill").json["kinds"]} == set(KINDS)


def test_the_level_follows_what_was_answered_and_says_how_sure_that_is(client):
    def at(answered):
        return client.post("/api/drill/exercises", json={"kind": "base_pair", "seed": 3, "answered": answered}).json

    fresh = at([])
    assert (fresh["level"], fresh["fits"]) == (1, "")
    able = at([{"level": 3, "score": 1.0}] * 20)
    assert able["level"] >= 3
    assert able["fits"].startswith(f"Level {able['level']} fits")
    assert at([{"level": 1, "score": 0.0}] * 20)["level"] == 1
    refused = client.post("/api/drill/exercises", json={"answered": [{"level": 9, "score": 1.0}]})
    assert refused.status_code == 422
