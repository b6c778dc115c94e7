"""Students who cheat: seeds, second goes, ends that are taken back, other people's tests; and a restart, which ends nothing."""

from __future__ import annotations

import json

import pytest

from nabrel.store.database import Database
from nabrel.store.drill_sessions import MOST_OPEN
from nabrel.web.app import create_app
from tests.web.test_drills import Clock, answer, asked, begun, ok
from tests.web.test_signing_in import PASSWORD, signed_in


@pytest.fixture
def database(demo_database):
    return demo_database


def app_on(database, **how):
    app = create_app(database, **how)
    app.extensions["nabrel_clock"] = Clock()
    return app


@pytest.fixture
def client(database):
    return app_on(database).test_client()


def student_named(client, name):
    return ok(client.post("/api/drill/students", json={"name": name}))["id"]


def new_set(client, *, test, count=3, **more):
    body = {"title": "A set", "parts": [{"kind": "base_pair", "count": count}], "same_for_all": test, **more}
    return ok(client.post("/api/drill/sets", json=body))


def take(client, student, code, count=9):
    """What a set asks somebody until it is through or ``count`` were answered, each answered by its first choice."""
    session, seen = begun(client, student=student, code=code), []
    for _ in range(count):
        found = asked(client, session)
        if found is None:
            break
        seen.append((found["asks"], json.dumps([found["lower"], found["upper"]])))
        ok(answer(client, session, found["id"], {"choice": "a"}))
    return session, seen


@pytest.mark.parametrize("test", [True, False])
def test_nobody_chooses_the_seed_of_a_set(client, test):
    made, student = new_set(client, test=test), student_named(client, "Choosy Chough")
    for body in ({"student": student}, {"ungraded": True}):
        refused = client.post("/api/drill/sessions", json={**body, "code": made["code"], "seed": 7})
        assert (refused.status_code, refused.json["field"]) == (422, "seed")


def test_a_student_who_is_signed_in_chooses_no_seed_at_all(database):
    from nabrel.store.accounts import Accounts

    with database.session() as session:
        Accounts(session).add("Mira", "educator", PASSWORD)
        Accounts(session).add("Pike", "student", PASSWORD)
    app = app_on(database, sign_in=True)
    refused = signed_in(app, "Pike").post("/api/drill/sessions", json={"kinds": ["wait"], "seed": 7})
    assert (refused.status_code, refused.json["field"]) == (422, "seed")
    assert begun(signed_in(app), kinds=["base_pair"], seed=7)


@pytest.mark.parametrize("test", [True, False])
def test_a_set_counts_once_however_it_ended(client, test):
    made, student = new_set(client, test=test), student_named(client, "Twice Tern")
    through, _ = take(client, student, made["code"])
    ok(client.post(f"/api/drill/sessions/{through}/end", json={}))
    again = client.post("/api/drill/sessions", json={"student": student, "code": made["code"]})
    assert again.status_code == 422
    assert "counts once" in again.json["says"]
    other = student_named(client, "Early Egret")
    session, seen = take(client, other, made["code"], count=1)
    assert len(seen) == 1
    ok(client.post(f"/api/drill/sessions/{session}/end", json={}))
    again = client.post("/api/drill/sessions", json={"student": other, "code": made["code"]})
    assert (again.status_code, "counts once" in again.json["says"]) == (422, True)


def test_a_test_that_was_ended_in_one_window_does_not_go_on_in_another(client):
    made, student = new_set(client, test=True), student_named(client, "Two Windows")
    one, other = (begun(client, student=student, code=made["code"]) for _ in range(2))
    open_there = asked(client, other)
    ok(answer(client, one, asked(client, one)["id"], {"choice": "a"}))
    assert ok(client.post(f"/api/drill/sessions/{one}/end", json={}))["review"]
    late = answer(client, other, open_there["id"], {"choice": "a"})
    more = client.post(f"/api/drill/sessions/{other}/exercises", json={})
    assert [late.status_code, more.status_code] == [422, 422]
    assert "counts once" in more.json["says"]


@pytest.mark.parametrize("test", [True, False])
def test_an_educator_may_allow_another_try_with_other_exercises(client, test):
    made, student = new_set(client, test=test), student_named(client, "Second Shearwater")
    _, first = take(client, student, made["code"])
    shown = ok(client.post(f"/api/drill/sets/{made['id']}/tries", json={"student": student}))
    assert student not in [each["student"]["id"] for each in shown["results"]]
    _, second = take(client, student, made["code"])
    assert len(first) == len(second) == 3
    assert first != second
    practised = ok(client.get(f"/api/drill/students/{student}"))
    assert practised["answers"] == 6
    refused = client.post("/api/drill/sessions", json={"student": student, "code": made["code"]})
    assert refused.status_code == 422
    assert client.post(f"/api/drill/sets/{made['id']}/tries", json={"student": "nobody"}).status_code == 404


def test_hundreds_of_new_sessions_of_one_account_cost_only_its_own(database):
    from nabrel.store.accounts import Accounts

    with database.session() as session:
        Accounts(session).add("Mira", "educator", PASSWORD)
        for name in ("Pike", "Vesper"):
            Accounts(session).add(name, "student", PASSWORD)
    app = app_on(database, sign_in=True)
    pike, vesper = signed_in(app, "Pike"), signed_in(app, "Vesper")
    session = begun(vesper, kinds=["base_pair"], seed=None)
    found = asked(vesper, session)
    first = begun(pike, kinds=["base_pair"], seed=None)
    for _ in range(MOST_OPEN + 300):
        ok(pike.post("/api/drill/sessions", json={"kinds": ["base_pair"], "ungraded": True}))
    assert pike.post(f"/api/drill/sessions/{first}/exercises", json={}).status_code == 404
    ok(answer(vesper, session, found["id"], {"choice": "a"}))
    with database.engine.connect() as connection:
        count = connection.exec_driver_sql("SELECT count(*) FROM drill_session").scalar()
    assert count == MOST_OPEN + 1


def test_a_restart_ends_no_session_and_loses_no_answer(database, tmp_path):
    client = app_on(database).test_client()
    made, student = new_set(client, test=True), student_named(client, "Restarted Ruff")
    free = begun(client, ungraded=True, kinds=["base_pair", "fault"])
    test = begun(client, student=student, code=made["code"])
    open_free, open_test = asked(client, free), asked(client, test)
    ok(answer(client, free, open_free["id"], {"choice": "a"}))
    folder = database.folder
    database.close()
    again = Database(folder)
    try:
        after = app_on(again).test_client()
        ok(answer(after, test, open_test["id"], {"choice": "a"}))
        assert asked(after, test)["id"] != open_test["id"]
        assert ok(after.get(f"/api/drill/sessions/{free}/exercises/{open_free['id']}/follows")) is not None
        twice = answer(after, free, open_free["id"], {"choice": "a"})
        assert "counts once" in twice.json["says"]
        recap = ok(after.post(f"/api/drill/sessions/{free}/end", json={}))
        assert (recap["answered"], recap["saved"]) == (1, False)
        assert after.post(f"/api/drill/sessions/{free}/exercises", json={}).status_code == 422
    finally:
        again.close()


def test_what_was_asked_about_a_face_goes_with_the_face(client, database):
    faces = ok(client.get("/api/drill/sets"))["faces"]
    made = ok(
        client.post(
            "/api/drill/sets",
            json={
                "title": "Faces",
                "parts": [{"kind": "fault", "count": 2}],
                "same_for_all": True,
                "faces": [faces[0]["id"]],
            },
        )
    )
    student = student_named(client, "Looking Lapwing")
    session = begun(client, student=student, code=made["code"])
    asked(client, session)
    with database.engine.connect() as connection:
        held = "".join(connection.exec_driver_sql("SELECT document FROM drill_asked").scalars())
    assert faces[0]["name"] in held
    assert client.delete(f"/api/sitters/{faces[0]['id']}").json["finished"]
    with database.engine.connect() as connection:
        assert connection.exec_driver_sql("SELECT count(*) FROM drill_asked").scalar() == 0
    assert client.post(f"/api/drill/sessions/{session}/exercises", json={}).status_code == 404
    assert begun(client, student=student, code=made["code"])
