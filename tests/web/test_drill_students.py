"""Students who practise, sets and tests over HTTP: kept, told, put forward, exported and erased; who may do what."""

from __future__ import annotations

import csv
import io
import json

import pytest
from pypdf import PdfReader

from nabrel.core.drill.judgements import JUDGEMENTS
from nabrel.core.drill.sets import questions
from nabrel.core.house import House
from nabrel.demo.course import GUESTS
from nabrel.formats.practice import COLUMNS, DrillSetFile, PracticeFile
from nabrel.store.accounts import Accounts
from nabrel.web.app import create_app
from tests.web.test_drills import answer, asked, begun, ok


@pytest.fixture
def client(demo_database):
    return create_app(demo_database).test_client()


def students(client):
    return {each["name"]: each["id"] for each in ok(client.get("/api/drill/students"))["members"]}


def a_set(client, **more):
    body = {"title": "Evening", "parts": [{"kind": "base_pair", "count": 3}, {"kind": "amount", "count": 1}], **more}
    return ok(client.post("/api/drill/sets", json=body))


def test_nine_students_have_eight_weeks_behind_them_and_the_group_is_told_as_it_is(client):
    group = ok(client.get("/api/drill/students"))
    assert len(group["members"]) == 9
    for each in group["members"]:
        own = ok(client.get(f"/api/drill/students/{each['id']}"))
        assert own["answers"] > 50
        assert own["practised"] == each["practised"] == sum(row["standing"] != "new" for row in own["judgements"])
        assert own["remembered"] == pytest.approx(each["remembered"])
        assert each["due"] == sum(row["standing"] == "fades" for row in own["judgements"])
        assert len(own["judgements"]) == group["judgements"] == len(JUDGEMENTS)
        assert {row["id"] for row in each["weakest"]} <= {row["judgement"]["id"] for row in own["judgements"]}
    assert group["needs"], "eight weeks leave something to practise"
    named = {each["name"] for each in group["members"]}
    assert all(set(need["students"]) <= named for need in group["needs"])
    assert len({each["level"] for each in group["members"]}) > 1


def test_an_answer_changes_what_is_known_and_what_comes_next(client):
    student = students(client)["Pike"]
    before = ok(client.get(f"/api/drill/students/{student}"))
    session = begun(client, student=student, level=None, seed=3)
    found = asked(client, session)
    name = before["coming"][0]
    given = {"choice": "a"} if found["choices"] else {"zones": found["zones"][:1]} if found["zones"] else {}
    ok(answer(client, session, found["id"], given))
    after = ok(client.get(f"/api/drill/students/{student}"))
    assert after["answers"] == before["answers"] + 1
    assert after["coming"][0] != name
    row = next(each for each in after["judgements"] if each["judgement"]["words"] == name)
    assert row["answers"] == 1 + next(e for e in before["judgements"] if e["judgement"]["words"] == name)["answers"]


def test_what_went_wrong_in_class_is_asked_next(client):
    held = ok(client.get("/api/classes"))["courses"][0]["classes"][0]["id"]
    practise = ok(client.get(f"/api/classes/{held}/recap"))["practise"]
    assert practise
    row = next(each for each in practise if each["student"] in students(client))
    assert row["judgements"]
    student = students(client)[row["student"]]
    wanted = [each["id"] for each in row["judgements"]]
    after = ok(client.post(f"/api/drill/students/{student}/next", json={"judgements": wanted}))
    fades = {
        each["judgement"]["id"] for each in after["judgements"] if each["standing"] == "fades" or not each["answers"]
    }
    assert set(wanted) <= fades
    session = begun(client, student=student, level=1, kinds=[JUDGEMENTS[wanted[0]].kind], seed=2)
    assert asked(client, session)["kind"] == JUDGEMENTS[wanted[0]].kind
    for body in ({}, {"judgements": ["hunches"]}, {"kinds": ["dance"]}):
        assert client.post(f"/api/drill/students/{student}/next", json=body).status_code == 422


def test_a_name_is_one_students_alone(client):
    for name in (GUESTS[0], GUESTS[0].upper(), f" {GUESTS[0]} ", "", " ", "x" * 61, "a\nb"):
        assert client.post("/api/drill/students", json={"name": name}).status_code == 422, name
    new = ok(client.post("/api/drill/students", json={"name": "Quill", "group": "Mornings"}))
    changed = ok(client.put(f"/api/drill/students/{new['id']}", json={"name": "Quillon", "group": ""}))
    assert (changed["name"], changed["group"]) == ("Quillon", "")
    taken = client.put(f"/api/drill/students/{new['id']}", json={"name": GUESTS[1]})
    assert taken.status_code == 422
    assert ok(client.get("/api/drill/students?group=Mornings"))["members"] == []


def test_all_of_a_student_is_exported_and_erased_from_every_file(client, demo_database):
    demo_database.back_up("daily")
    student = students(client)["Ottoline"]
    file = PracticeFile.model_validate_json(client.get(f"/api/drill/students/{student}/file").text)
    assert file.student == "Ottoline"
    assert len(file.answers) == ok(client.get(f"/api/drill/students/{student}"))["answers"]
    assert {each.judgement for each in file.cards} == {each.judgement for each in file.answers}
    gone = ok(client.delete(f"/api/drill/students/{student}"))
    assert gone["finished"]
    assert gone["classes"] == 4
    assert "Ottoline" not in students(client)
    assert "Ottoline" not in client.get("/api/classes").text
    for held in ok(client.get("/api/classes"))["courses"][0]["classes"]:
        assert "Ottoline" not in client.get(f"/api/classes/{held['id']}").text
    files = [each for each in demo_database.folder.rglob("*") if each.is_file()]
    assert len(files) >= 2
    for each in files:
        assert b"Ottoline" not in each.read_bytes(), each
    assert client.get(f"/api/drill/students/{student}").status_code == 404


def test_a_student_who_is_a_sitter_goes_with_the_sitter(client):
    bram = next(each for each in ok(client.get("/api/sitters"))["sitters"] if each["nickname"] == "Bram")
    goes = ok(client.get(f"/api/sitters/{bram['id']}/belongings"))
    assert goes["practice"] == 1
    assert ok(client.delete(f"/api/sitters/{bram['id']}"))["practice"] == 1
    assert "Bram" not in students(client)
    assert len(students(client)) == 8


def test_results_are_a_table_of_every_answer_and_run_nothing(client):
    ok(client.post("/api/drill/students", json={"name": "=1+1"}))
    rows = list(csv.DictReader(io.StringIO(client.get("/api/drill/results").text)))
    assert tuple(rows[0]) == COLUMNS
    total = sum(ok(client.get(f"/api/drill/students/{each}"))["answers"] for each in students(client).values())
    assert len(rows) == total
    assert {row["set"] for row in rows} == {"", "After the third evening"}
    odd = students(client)["=1+1"]
    session = begun(client, student=odd, kinds=["base_pair"])
    ok(answer(client, session, asked(client, session)["id"], {"choice": "a"}))
    assert "\n'=1+1," in client.get("/api/drill/results").text


def test_a_test_is_the_same_for_all_counts_once_and_is_shown_at_its_end(client):
    made = a_set(client, same_for_all=True, minutes=20, seed=11)
    assert len(made["code"]) == 6
    found = ok(client.get(f"/api/drill/codes/{made['code'].lower()[:3]} {made['code'][3:]}"))
    assert (found["length"], found["test"], found["minutes"]) == (4, True, 20)
    said = []
    for name in ("Pike", "Posy"):
        student = students(client)[name]
        session = begun(client, student=student, code=made["code"])
        own = []
        for place in range(4):
            one = asked(client, session)
            assert asked(client, session)["id"] == one["id"], "no question is passed over"
            own.append(one["asks"] + json.dumps(one["choices"]))
            got = ok(answer(client, session, one["id"], {"choice": "b"}))
            assert got["mark"] is None
            assert got["answered"] == place + 1
            hidden = client.get(f"/api/drill/sessions/{session}/exercises/{one['id']}/follows")
            assert hidden.status_code == 422
            if place == 1:
                # Left and come back to: it goes on where it was.
                session = begun(client, student=student, code=made["code"])
        assert asked(client, session) is None
        recap = ok(client.post(f"/api/drill/sessions/{session}/end", json={}))
        assert recap["review"]
        assert all(each["right"] for each in recap["review"])
        said.append(own)
        again = client.post("/api/drill/sessions", json={"student": student, "code": made["code"]})
        assert again.status_code == 422
        assert "counts once" in again.json["says"]
    assert said[0] == said[1]
    expected = [each.asks for each in questions(_file(made).parts, 11, House())]
    assert [each.split("[")[0] for each in said[0]] == expected
    results = next(each for each in ok(client.get("/api/drill/sets"))["sets"] if each["id"] == made["id"])["results"]
    assert [each["student"]["name"] for each in results] == ["Posy", "Pike"]
    assert client.post("/api/drill/sessions", json={"code": made["code"], "ungraded": True}).status_code == 422
    other = client.put(f"/api/drill/sets/{made['id']}", json={**_body(made), "parts": [{"kind": "wait", "count": 2}]})
    assert other.status_code == 422
    assert (
        ok(client.put(f"/api/drill/sets/{made['id']}", json={**_body(made), "title": "Renamed"}))["title"] == "Renamed"
    )


def _file(made):
    wanted = ("id", "title", "code", "parts", "seed")
    return DrillSetFile.model_validate_json(json.dumps({name: made[name] for name in wanted}))


def _body(made):
    return {
        "title": made["title"],
        "parts": made["parts"],
        "same_for_all": made["same_for_all"],
        "minutes": made["minutes"],
    }


def test_a_set_is_on_faces_that_agreed_and_loses_those_that_are_erased(client):
    sitters = {each["nickname"]: each["id"] for each in ok(client.get("/api/sitters"))["sitters"]}
    made = a_set(client, parts=[{"kind": "placement", "count": 2}], faces=[sitters["Wren"], sitters["Posy"]])
    assert [each["name"] for each in made["faces"]] == ["Wren", "Posy"]
    ok(client.delete(f"/api/sitters/{sitters['Wren']}"))
    left = next(each for each in ok(client.get("/api/drill/sets"))["sets"] if each["id"] == made["id"])
    assert [each["name"] for each in left["faces"]] == ["Posy"]
    for faces in (["nobody"], [sitters["Posy"], sitters["Posy"]]):
        refused = client.post("/api/drill/sets", json={**_body(made), "faces": faces})
        assert refused.status_code in (404, 422), faces


@pytest.mark.parametrize("more", [
    {"parts": []}, {"parts": [{"kind": "dance"}]}, {"parts": [{"kind": "wait", "count": 0}]}, {"parts": [{"kind": "wait", "count": 21}]},
    {"parts": [{"kind": "wait", "count": 20}] * 4}, {"parts": [{"kind": "wait", "judgement": "read-through"}]}, {"title": ""},
    {"minutes": 0}, {"minutes": 181}, {"parts": [{"kind": "wait", "level": 6}]},
])  # fmt: skip
def test_a_set_that_cannot_be_asked_is_refused(client, more):
    body = {"title": "Evening", "parts": [{"kind": "base_pair"}], **more}
    assert client.post("/api/drill/sets", json=body).status_code == 422


def test_a_set_is_printed_with_its_answers_on_pages_of_their_own(client):
    made = a_set(client, same_for_all=True, seed=4, minutes=15)
    answered = client.get(f"/api/drill/sets/{made['id']}/paper")
    assert answered.mimetype == "application/pdf"
    pages = [page.extract_text() for page in PdfReader(io.BytesIO(answered.data)).pages]
    asked_of, answers = "\n".join(pages[:-1]), pages[-1]
    assert "Name" in asked_of
    assert "15 minutes" in asked_of
    assert answers.startswith("Answers")
    for each in questions(_file(made).parts, 4, House()):
        right = next(choice.says for choice in each.choices if choice.id == each.answer.choice)
        assert _plain(right) in _plain(answers)
        assert all(_plain(choice.says) in _plain(asked_of) for choice in each.choices)
        assert _plain(each.why[0]) not in _plain(asked_of)
    gone = client.delete(f"/api/drill/sets/{made['id']}")
    assert gone.status_code == 204
    assert client.get(f"/api/drill/codes/{made['code']}").status_code == 404


def _plain(text):
    return "".join(text.split()).replace("\u00ad", "")


def test_what_was_answered_in_a_set_stays_when_it_is_removed_and_a_closed_one_is_not_begun(client):
    sets = ok(client.get("/api/drill/sets"))["sets"]
    closed = next(each for each in sets if each["closed"])
    assert "closed" in client.post("/api/drill/sessions", json={"code": closed["code"]}).json["says"]
    pike = students(client)["Pike"]
    before = ok(client.get(f"/api/drill/students/{pike}"))["answers"]
    assert client.delete(f"/api/drill/sets/{closed['id']}").status_code == 204
    assert ok(client.get(f"/api/drill/students/{pike}"))["answers"] == before
    assert "After the third evening" not in client.get("/api/drill/results").text


@pytest.fixture
def guarded(demo_database):
    with demo_database.session() as session:
        Accounts(session).add("Pike", "student", "nine herons on a wet quay")
        Accounts(session).add("Vesper", "student", "nine herons on a wet quay")
    return create_app(demo_database, sign_in=True)


def signed_in(app, name):
    client = app.test_client()
    ok(client.post("/api/session", json={"name": name, "password": "nine herons on a wet quay"}))
    return client


def test_a_student_who_is_signed_in_practises_under_their_own_name_alone(guarded, demo_database):
    nobody = guarded.test_client()
    assert nobody.post("/api/drill/sessions", json={}).status_code == 401
    pike, vesper = signed_in(guarded, "Pike"), signed_in(guarded, "Vesper")
    told = ok(pike.get("/api/drill"))
    assert told["own"]["name"] == "Pike"
    assert told["students"] == []
    mine = told["own"]["id"]
    session = begun(pike, seed=None, kinds=["base_pair"])
    found = asked(pike, session)
    assert answer(vesper, session, found["id"], {"choice": "a"}).status_code == 404, "another's exercise"
    ok(answer(pike, session, found["id"], {"choice": "a"}))
    assert ok(pike.get(f"/api/drill/students/{mine}"))["name"] == "Pike"
    assert vesper.get(f"/api/drill/students/{mine}").status_code == 403
    assert vesper.post("/api/drill/sessions", json={"student": mine}).status_code == 403
    for address in ("/api/drill/students", "/api/drill/results", "/api/drill/sets", f"/api/drill/students/{mine}/file"):
        assert pike.get(address).status_code == 403, address
    assert pike.delete(f"/api/drill/students/{mine}").status_code == 403
    # Somebody new is a student from their first session on; one that is ungraded keeps nothing.
    assert ok(vesper.get("/api/drill"))["own"]["id"] == ""
    begun(vesper, seed=None, ungraded=True)
    assert ok(vesper.get("/api/drill"))["own"]["id"] == ""
    begun(vesper, seed=None, kinds=["base_pair"])
    assert ok(vesper.get("/api/drill"))["own"]["id"]


def test_sets_and_practice_come_in_from_their_files(client):
    pike = students(client)["Pike"]
    whole = client.get(f"/api/drill/students/{pike}/file").text
    before = ok(client.get(f"/api/drill/students/{pike}"))
    again = client.post("/api/drill/students/file", data=whole, content_type="application/json")
    assert again.status_code == 422, "the name is here"
    assert client.delete(f"/api/drill/students/{pike}").status_code == 200
    back = ok(client.post("/api/drill/students/file", data=whole, content_type="application/json"))
    assert (back["answers"], back["practised"]) == (before["answers"], before["practised"])
    other = ok(
        client.post(
            "/api/drill/students/file", data=whole.replace('"Pike"', '"Posy\'s twin"'), content_type="application/json"
        )
    )
    assert other["id"] != back["id"]
    made = a_set(client)
    file = client.get(f"/api/drill/sets/{made['id']}/file").text
    copy = ok(client.post("/api/drill/sets/file", data=file, content_type="application/json"))
    assert copy["id"] != made["id"]
    assert copy["code"] != made["code"]
    assert copy["parts"] == made["parts"]
    for bad in ("{}", "[]", file.replace("base_pair", "dance"), whole):
        refused = client.post("/api/drill/sets/file", data=bad, content_type="application/json")
        assert refused.status_code == 422, bad
