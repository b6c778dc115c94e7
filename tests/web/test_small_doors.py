"""Small holes that stay closed: formulas in tables, deep JSON, caches, numbers and days that do not exist, two at once."""

from __future__ import annotations

import io
import json
import threading
import zipfile

import pytest
from flask import url_for

from nabrel.core.errors import Refused
from nabrel.formats.kit_csv import read_kit, write_kit
from nabrel.formats.refusing import MOST_NESTED, refuse_deep
from nabrel.store import repositories
from nabrel.store.repositories import Kit
from nabrel.web.app import create_app
from nabrel.web.shared.uploads import UPLOADS

ITEM = {
    "id": "probe",
    "role": "foundation",
    "texture": "liquid",
    "base": "water",
    "lab": [60.0, 10.0, 15.0],
    "cover": 0.5,
}
RUN = ["=1+1", "+cmd|'/c calc'!A0", "-2+3", "@SUM(A1)", "'=1", "''@x", "'plain", "plain"]


@pytest.fixture
def client(demo_database):
    return create_app(demo_database).test_client()


@pytest.mark.parametrize("name", RUN)
def test_no_cell_is_run_by_a_spreadsheet_and_each_comes_back_as_it_was(client, demo_database, name):
    assert client.put("/api/kit/items/probe", json={**ITEM, "name": name, "contains": [name]}).status_code == 200
    table = client.get("/api/kit/table").data
    [row] = [each for each in table.decode().splitlines() if each.startswith("probe,")]
    assert not any(
        cell.startswith(tuple("=+-@")) and not cell[1:2].isdigit() for cell in row.replace('"', "").split(",")
    )
    with demo_database.session() as session:
        stored = Kit(session).all()
    assert [each.item for each in read_kit(write_kit(stored).encode())] == list(stored)


@pytest.mark.parametrize("deep", [65, 2000, 100_000])
@pytest.mark.parametrize("path", ["/api/faces", "/api/cases", "/api/house/file"])
def test_deep_json_is_refused_before_it_is_followed(client, deep, path):
    method = client.put if path == "/api/house/file" else client.post
    for text in ("[" * deep, '{"a":' * deep + "1" + "}" * deep):
        answer = method(path, data=text, content_type="application/json")
        assert answer.status_code in (422, 405), answer.status_code
        if answer.status_code == 422:
            assert str(MOST_NESTED) in answer.json["says"]


def test_brackets_in_text_are_not_levels():
    refuse_deep(json.dumps({"a": "[" * 500 + '\\"{'}).encode())
    refuse_deep(json.dumps([[1]] * 500).encode())
    with pytest.raises(Refused):
        refuse_deep(b"[" * (MOST_NESTED + 1))


def test_what_the_api_answers_is_kept_by_nobody(client):
    for path in ("/api/sitters", "/api/kit", "/api/workspace", "/api/nothing"):
        assert client.get(path).headers["Cache-Control"] == "no-store"
    assert client.get("/").headers.get("Cache-Control") != "no-store"


@pytest.mark.parametrize(
    ("file", "was", "now"),
    [
        ("plan.json", '"number": 1', '"number": 100000000000000000000'),
        ("plan.json", '"made": "20', '"made": "2026-13-45T10:00:00", "x": "20'),
        ("runs.json", '"runs": []', '"runs": [{"plan": "x", "revision": 1, "day": "2026-13-45"}]'),
    ],
)
def test_preview_and_import_of_a_workspace_judge_alike(client, file, was, now):
    held = zipfile.ZipFile(io.BytesIO(client.get("/api/workspace").data))
    out, changed = io.BytesIO(), 0
    with zipfile.ZipFile(out, "w") as changing:
        for name in held.namelist():
            text = held.read(name)
            if name.endswith(file) and was.encode() in text and not changed:
                text, changed = text.replace(was.encode(), now.encode(), 1), 1
                if "13-45T" in now:
                    text = text.replace(b'", "x": "20', b'", "unread": "20', 1)
            changing.writestr(name, text)
    assert changed
    codes = [
        client.post("/api/workspace/preview", data=out.getvalue(), content_type="application/zip").status_code,
        client.put("/api/workspace", data=out.getvalue(), content_type="application/zip").status_code,
    ]
    assert codes == [422, 422]


def test_two_who_make_one_id_at_once_are_both_answered(demo_database):
    app = create_app(demo_database)
    codes: list[int] = []

    def put(place: int) -> None:
        with app.test_client() as client:
            codes.append(client.put("/api/kit/items/probe", json={**ITEM, "name": f"Probe {place}"}).status_code)

    threads = [threading.Thread(target=put, args=(place,)) for place in range(12)]
    for each in threads:
        each.start()
    for each in threads:
        each.join()
    assert len(codes) == 12
    assert set(codes) <= {200, 409}
    assert 200 in codes


def test_the_openapi_document_tells_uploads_and_holds_nothing_empty(client):
    found = client.get("/api/openapi.json").json
    assert None not in found["components"].values()
    told = 0
    for address, upload in UPLOADS.items():
        for operation in found["paths"][address.replace("<", "{").replace(">", "}")].values():
            if "requestBody" in operation:
                assert set(operation["requestBody"]["content"]) == set(upload.kinds)
                told += 1
    assert told == len(UPLOADS)
    assert all("405" in each["responses"] for methods in found["paths"].values() for each in methods.values())


def test_what_is_logged_of_a_failure_names_nobody(client, demo_database, monkeypatch, caplog):
    sitter = client.get("/api/sitters").json["sitters"][0]

    def fail(_self, sitter_id):
        try:
            {}[sitter["nickname"]]
        except KeyError as error:
            raise RuntimeError(f"no plan for {sitter['nickname']}") from error

    monkeypatch.setattr(repositories.Sitters, "get", fail)
    answer = client.get(f"/api/sitters/{sitter['id']}")
    assert answer.status_code == 500
    assert "RuntimeError from KeyError" in caplog.text
    assert "get_sitter" in caplog.text
    assert sitter["nickname"] not in caplog.text + answer.text


@pytest.mark.parametrize("nickname", [" ", "\u3000\u00a0"])
def test_a_nickname_is_more_than_spaces(client, nickname):
    sitter = client.get("/api/sitters").json["sitters"][0]["id"]
    face = client.get(f"/api/sitters/{sitter}/face").json
    body = {"version": face["version"], "record": {**face["record"], "nickname": nickname}, "intent": face["intent"]}
    answers = [
        client.put(f"/api/sitters/{sitter}/face", json=body),
        client.post("/api/faces", json={"nickname": nickname, "skin": [60, 10, 15]}),
    ]
    assert [answer.status_code for answer in answers] == [422, 422]
    assert all(answer.json["field"].endswith("nickname") for answer in answers)


def test_an_address_is_written_when_it_is_asked_for(demo_database):
    with create_app(demo_database).test_request_context():
        assert url_for("front_end.asset", name="a b.js", q=1) == "/assets/a%20b.js?q=1"
        assert url_for("front_end.page", path="plans/1") == "/plans/1"
