"""Requests as nobody means them: half characters, names that nobody sees, addresses without end, codes that are guessed."""

from __future__ import annotations

import pytest

from nabrel.web.app import STATIC, create_app
from nabrel.web.shared.signing_in import CODES

UNSEEN = ["\u200b", "\u3164", " \u00a0 ", "\u2060\u2060", "\u2800", "\u00ad", "\u200d\u200c"]
HALVES = ['"\\ud800"', '"\\udfff x"', '"x\\uD83D"', '"\\ude00\\ud83d"']


@pytest.fixture
def client(demo_database):
    return create_app(demo_database).test_client()


def doors(client):
    """Where names come in: method, address, and a body with a place for the name."""
    plan = client.get("/api/plans").json["plans"][0]["id"]
    return [
        ("post", "/api/drill/students", '{"name": %s, "group": ""}'),
        ("put", "/api/kit/kits/probe", '{"id": "probe", "name": %s, "items": []}'),
        ("put", "/api/kit/items/probe", '{"id": "probe", "role": "foundation", "name": %s, "texture": "liquid", "base": "water"}'),
        ("post", "/api/classes", '{"title": %s, "plan": "' + plan + '"}'),
        ("post", "/api/drill/sets", '{"title": %s, "parts": [{"kind": "wait", "count": 1}], "same_for_all": false}'),
        ("post", "/api/session", '{"name": %s, "password": "x"}'),
        ("put", "/api/house/rules/thin-passes", '{"off": true, "severity": null, "note": %s}'),
    ]  # fmt: skip


@pytest.mark.parametrize("half", HALVES)
def test_half_a_character_is_refused_wherever_it_comes(client, half):
    asked = doors(client)
    assert len(asked) > 5
    for method, address, body in asked:
        answer = client.open(address, method=method.upper(), data=body % half, content_type="application/json")
        assert answer.status_code == 422, (address, answer.text)
    whole = client.post(
        "/api/drill/students", data='{"name": "\\ud83d\\ude00", "group": ""}', content_type="application/json"
    )
    assert whole.status_code == 201


@pytest.mark.parametrize("name", UNSEEN)
def test_a_name_of_which_nothing_can_be_seen_is_refused(client, name):
    before = len(client.get("/api/drill/students").json["members"])
    made = [
        client.post("/api/drill/students", json={"name": name, "group": ""}),
        client.put("/api/kit/items/probe", json={"id": "probe", "role": "foundation", "name": name, "texture": "liquid", "base": "water"}),
        client.put("/api/kit/kits/probe", json={"id": "probe", "name": name, "items": []}),
    ]  # fmt: skip
    assert {answer.status_code for answer in made} == {422}
    assert any("can be seen" in answer.json["says"] for answer in made)
    assert len(client.get("/api/drill/students").json["members"]) == before
    assert client.post("/api/drill/students", json={"name": f"{name}Ada{name}", "group": ""}).status_code == 201


@pytest.mark.parametrize("path", ["/" + "x" * 300, "/" + "x" * 300 + "/y", "/sitters/" + "é" * 200, "/api/sitters/" + "x" * 400,
                                  "/assets/" + "x" * 400, "/api/card/samples/" + "x" * 400, "/w/" + "x" * 400])  # fmt: skip
def test_an_address_may_be_as_long_as_it_likes(client, path):
    assert client.get(path).status_code in (200, 404, 422, 503)


def test_a_path_says_nothing_of_the_files_of_this_machine(client):
    there = STATIC.parent / "app.py"
    assert there.is_file()
    asked = [
        "/static/../app.py",
        "/../app.py",
        "/..%2fapp.py",
        "/%2e%2e/app.py",
        "/x/../../app.py",
        "/../nothing.py",
    ]
    answers = {(answer.status_code, answer.data) for answer in map(client.get, asked)}
    assert len(answers) == 1, "the same answer, whether there is such a file or not"
    assert b"create_app" not in answers.pop()[1]


def test_codes_are_not_guessed_for_ever(client):
    answers = [client.get(f"/api/drill/codes/ZZZ{number:03}").status_code for number in range(CODES.quickly.amount + 3)]
    assert answers[: CODES.quickly.amount] == [404] * CODES.quickly.amount
    assert answers[-2:] == [429] * 2
    begun = client.post("/api/drill/sessions", json={"code": "ZZZ999"})
    assert begun.status_code == 429
    code = client.get("/api/drill/sets").json["sets"][0]["code"]
    assert client.get(f"/api/drill/codes/{code}").status_code == 200
