"""Where a sign-in is demanded nobody reaches the API without one, and a student only what is for students."""

from __future__ import annotations

import json
import logging
import re
import threading
import time

import pytest

from nabrel.store.accounts import Accounts
from nabrel.web.app import DOCUMENT, create_app
from nabrel.web.shared.signing_in import FOR_STUDENTS, OPEN
from tests.commands import run
from tests.served import command, free_port

PASSWORD, OTHER = "quiet turnip bridge 4", "paper lantern over kelp"


@pytest.fixture
def app(demo_database):
    with demo_database.session() as session:
        Accounts(session).add("Mira", "educator", PASSWORD)
        Accounts(session).add("Student 1", "student", PASSWORD)
    return create_app(demo_database, sign_in=True)


def signed_in(app, name="Mira", password=PASSWORD):
    client = app.test_client()
    answer = client.post("/api/session", json={"name": name, "password": password})
    assert answer.status_code == 200, answer.json
    return client


def filled(rule) -> str:
    return re.sub(r"<(?:int:)?\w+>", "1", rule.rule)


def endpoints(app):
    for rule in app.url_map.iter_rules():
        if rule.rule.startswith("/api"):
            for method in sorted(rule.methods - {"HEAD", "OPTIONS"}):
                yield rule, method


def test_nothing_of_the_api_is_answered_without_a_sign_in(app):
    client = app.test_client()
    asked = [(rule, method) for rule, method in endpoints(app) if rule.endpoint not in OPEN]
    assert len(asked) > 60
    answers = {client.open(filled(rule), method=method, json={}).status_code for rule, method in asked}
    assert answers == {401}
    assert client.get("/api/nowhere").status_code == 401
    assert client.get("/api/session").json == {"demanded": True, "name": None, "role": None}
    assert client.get("/").status_code in (200, 503)


def test_an_educator_reaches_everything(app):
    client = signed_in(app)
    assert client.get("/api/session").json == {"demanded": True, "name": "Mira", "role": "educator"}
    assert client.get("/api/sitters").status_code == 200
    asked = [(rule, method) for rule, method in endpoints(app) if method == "GET"]
    answers = [client.open(filled(rule), method=method).status_code for rule, method in asked]
    assert len(answers) > 20
    assert not {401, 403} & set(answers)


def test_a_student_reaches_only_what_is_for_students(app):
    client = signed_in(app, "Student 1")
    asked = [(rule, method) for rule, method in endpoints(app) if rule.endpoint not in FOR_STUDENTS]
    answers = {client.open(filled(rule), method=method, json={}).status_code for rule, method in asked}
    assert answers == {403}
    assert client.get("/api/vocabulary").status_code == 200


def test_what_students_may_ask_is_there(app):
    assert {rule.endpoint for rule, _ in endpoints(app)} >= FOR_STUDENTS


def test_the_cookie_is_for_this_server_alone_and_no_script_reads_it(app):
    answer = app.test_client().post("/api/session", json={"name": "Mira", "password": PASSWORD})
    cookie = answer.headers["Set-Cookie"]
    assert "HttpOnly" in cookie
    assert "SameSite=Strict" in cookie
    assert "Secure" not in cookie
    over_tls = app.test_client().post(
        "/api/session", json={"name": "Mira", "password": PASSWORD}, base_url="https://localhost"
    )
    assert "Secure" in over_tls.headers["Set-Cookie"]


def test_a_cookie_kept_by_somebody_is_worth_nothing_after_signing_out(app):
    client = signed_in(app)
    stored = client.get_cookie("nabrel").value
    assert client.delete("/api/session").status_code == 200
    assert client.get("/api/sitters").status_code == 401
    thief = app.test_client()
    thief.set_cookie("nabrel", stored)
    assert thief.get("/api/sitters").status_code == 401


def test_signing_out_everywhere_reaches_every_browser(app):
    first, second, student = signed_in(app), signed_in(app), signed_in(app, "Student 1")
    assert first.delete("/api/session/everywhere").status_code == 200
    assert [client.get("/api/sitters").status_code for client in (first, second)] == [401, 401]
    assert student.get("/api/vocabulary").status_code == 200


def test_another_password_needs_the_old_one_and_signs_out_elsewhere(app):
    first, second = signed_in(app), signed_in(app)
    wrong = first.put("/api/session/password", json={"now": OTHER, "new": OTHER})
    assert (wrong.status_code, wrong.json["field"]) == (422, "now")
    weak = first.put("/api/session/password", json={"now": PASSWORD, "new": "password1234"})
    assert (weak.status_code, weak.json["field"]) == (422, "password")
    assert first.put("/api/session/password", json={"now": PASSWORD, "new": OTHER}).status_code == 200
    assert first.get("/api/sitters").status_code == 200
    assert second.get("/api/sitters").status_code == 401
    signed_in(app, password=OTHER)


def test_a_late_answer_to_the_former_cookie_does_not_bring_it_back(app):
    client = signed_in(app)
    late = app.test_client()
    late.set_cookie("nabrel", client.get_cookie("nabrel").value)
    before = late.get("/api/sitters")
    assert client.put("/api/session/password", json={"now": PASSWORD, "new": OTHER}).status_code == 200
    after = late.get("/api/sitters")
    assert (before.status_code, after.status_code) == (200, 401)
    assert [answer.headers.getlist("Set-Cookie") for answer in (before, after)] == [[], []]


def wrong_tries(client, count, name="Mira"):
    """How so many wrong passwords are answered."""
    return [
        client.post("/api/session", json={"name": name, "password": f"wrong {tried}"}).status_code
        for tried in range(count)
    ]


def test_after_a_few_wrong_passwords_each_more_has_to_wait_a_little(app):
    client = app.test_client()
    answers = wrong_tries(client, 9)
    assert answers[:6] == [401] * 6
    assert answers[7:] == [429] * 2
    right = client.post("/api/session", json={"name": "Mira", "password": PASSWORD})
    assert (right.status_code, right.headers["Retry-After"]) == (429, "20")
    assert "Try again in 20 seconds." in right.json["says"]
    signed_in(app, "Student 1")


def test_who_signed_in_with_this_browser_before_is_let_in_whoever_else_tries_the_name(app):
    own = signed_in(app)
    own.delete("/api/session")
    for number in range(12):
        elsewhere = app.test_client()
        elsewhere.environ_base = {**elsewhere.environ_base, "REMOTE_ADDR": f"10.0.0.{number}"}
        wrong_tries(elsewhere, 7)
    stranger = app.test_client()
    body = {"name": "Mira", "password": PASSWORD}
    assert stranger.post("/api/session", json=body).status_code == 429
    assert own.post("/api/session", json=body).status_code == 200


def test_a_browser_that_is_known_has_tries_of_its_own_and_no_more(app):
    own = signed_in(app)
    answers = wrong_tries(own, 13)
    assert answers[:10] == [401] * 10
    assert answers[11:] == [429] * 2
    # For another name it is as any other browser.
    assert wrong_tries(own, 9, "Student 1")[7:] == [429] * 2


def test_a_whole_school_behind_one_address_signs_in_slower_and_is_not_shut_out(app):
    client = app.test_client()
    answers = [
        client.post("/api/session", json={"name": f"name {tried}", "password": "x"}).status_code for tried in range(33)
    ]
    assert answers[:30] == [401] * 30
    assert answers[31:] == [429] * 2
    refused = client.post("/api/session", json={"name": "Mira", "password": PASSWORD})
    assert refused.headers["Retry-After"] == "2"
    time.sleep(2.1)
    signed_in(app)


def test_tries_at_the_same_moment_are_all_counted(app):
    answers, start = [], threading.Barrier(16)

    def attempt(number):
        client = app.test_client()
        start.wait()
        answers.append(client.post("/api/session", json={"name": "Mira", "password": f"wrong {number}"}).status_code)

    threads = [threading.Thread(target=attempt, args=(number,)) for number in range(16)]
    for each in threads:
        each.start()
    for each in threads:
        each.join()
    assert answers.count(401) <= 7
    assert answers.count(429) == 16 - answers.count(401)


def test_signing_in_again_ends_the_former_session_of_this_browser(app):
    client = signed_in(app)
    former = app.test_client()
    former.set_cookie("nabrel", client.get_cookie("nabrel").value)
    assert former.get("/api/sitters").status_code == 200
    assert client.post("/api/session", json={"name": "Student 1", "password": PASSWORD}).status_code == 200
    assert former.get("/api/sitters").status_code == 401
    assert client.get("/api/session").json["role"] == "student"


def test_a_sign_in_of_a_time_to_come_is_none(app, demo_database):
    client = signed_in(app)
    with demo_database.engine.begin() as connection:
        connection.exec_driver_sql("UPDATE sign_in SET since = '2199-01-01 00:00:00', seen = '2199-01-01 00:00:00'")
    assert client.get("/api/sitters").status_code == 401


def test_a_wrong_name_and_a_wrong_password_are_answered_alike(app):
    client = app.test_client()
    answers = [
        client.post("/api/session", json={"name": name, "password": "not the right one"}) for name in ("Mira", "Nobody")
    ]
    assert answers[0].json == answers[1].json


def test_a_foreign_page_signs_nobody_in_or_out(app):
    client = signed_in(app)
    foreign = {"Sec-Fetch-Site": "cross-site"}
    body = {"name": "Mira", "password": PASSWORD}
    assert client.post("/api/session", json=body, headers=foreign).status_code == 403
    assert client.delete("/api/session", headers=foreign).status_code == 403
    assert client.get("/api/sitters").status_code == 200


def test_without_a_demand_there_is_nothing_to_sign_in_to(demo_database):
    client = create_app(demo_database).test_client()
    assert client.get("/api/session").json == {"demanded": False, "name": None, "role": None}
    body = {"name": "Mira", "password": PASSWORD}
    answers = [
        client.post("/api/session", json=body),
        client.delete("/api/session"),
        client.delete("/api/session/everywhere"),
        client.put("/api/session/password", json={"now": PASSWORD, "new": OTHER}),
    ]
    assert [answer.status_code for answer in answers] == [422] * 4
    assert client.get("/api/sitters").status_code == 200


def test_the_trail_says_who_did_what_with_ids_only(app, caplog):
    client = signed_in(app)
    sitter = client.get("/api/sitters").json["sitters"][0]
    made = client.post(f"/api/sitters/{sitter['id']}/sequences", json={}).json
    with caplog.at_level(logging.INFO, "nabrel.trail"):
        client.get("/api/sitters")
        client.get(f"/api/sequences/{made['id']}")
        client.get(f"/api/sitters/{sitter['id']}/case")
        client.delete(f"/api/sitters/{sitter['id']}")
        app.test_client().get(f"/api/sitters/{sitter['nickname']}")
        client.delete("/api/session")
    lines = [json.loads(record.message) for record in caplog.records if record.name == "nabrel.trail"]
    assert [(line["did"], line["answer"]) for line in lines] == [
        ("GET /api/sitters/<id>/case", 200),
        ("DELETE /api/sitters/<id>", 200),
        ("GET /api/sitters/<id>", 401),
        ("DELETE /api/session", 200),
    ]
    assert len({lines[0]["by"], lines[1]["by"], lines[3]["by"]}) == 1
    assert lines[0]["by"]
    assert lines[2]["by"] is None
    assert lines[1]["about"] == {"id": sitter["id"]}
    everything = json.dumps(lines)
    assert sitter["nickname"] not in everything
    assert "Mira" not in everything


def test_what_was_made_stands_in_the_trail(app, caplog):
    client = signed_in(app)
    sitter = client.get("/api/sitters").json["sitters"][0]
    with caplog.at_level(logging.INFO, "nabrel.trail"):
        made = client.post(f"/api/sitters/{sitter['id']}/sequences", json={}).json
    [line] = [json.loads(record.message) for record in caplog.records if record.name == "nabrel.trail"]
    assert line["about"]["id"] == made["id"]


def test_the_document_tells_of_the_cookie():
    told = json.loads(DOCUMENT.read_text(encoding="utf-8"))
    assert told["components"]["securitySchemes"]["session"]["name"] == "nabrel"
    assert "401" in told["paths"]["/api/sitters"]["get"]["responses"]


@pytest.mark.parametrize("more", [("--sign-in",), ("--host", "0.0.0.0")])
def test_it_does_not_start_beyond_this_machine_while_nobody_can_sign_in(tmp_path, more):
    process = command(tmp_path, free_port(), *more)
    _, err = process.communicate(timeout=60)
    assert process.returncode == 2
    [line] = err.strip().splitlines()
    assert "nabrel account add NAME" in line


def test_accounts_are_made_on_the_command_line(tmp_path, monkeypatch):
    monkeypatch.setenv("NABREL_DATA", str(tmp_path))

    def account(*words: str, typed: str = "") -> tuple[int, str]:
        done = run("account", *words, text=typed)
        return done.returncode, done.stdout + done.stderr

    assert account("list") == (0, "No accounts yet.\n")
    assert account("add", "Mira", typed=PASSWORD + "\n") == (0, "Mira may sign in as educator.\n")
    assert account("add", "Ivo", "--role", "student", typed=PASSWORD + "\n")[0] == 0
    code, says = account("add", "Lotte", "--role", "owner", typed=PASSWORD + "\n")
    assert code == 2
    assert "educator, student" in says
    assert account("password", "Mira", typed=OTHER + "\n")[0] == 0
    assert account("sign-out", "Mira")[0] == 0
    assert account("remove", "Ivo")[0] == 0
    assert account("remove", "Ivo")[0] == 2
    assert account("list") == (0, "Mira (educator)\n")
