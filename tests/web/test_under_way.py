"""Long exports and imports say how far they have come, can be cancelled, and change nothing when they are."""

from __future__ import annotations

import io
import zipfile
from threading import Event, Thread

import pytest

from nabrel.web.app import create_app
from nabrel.web.home import workspace

NOTHING = {"what": None, "done": 0, "of": 0}


@pytest.fixture
def app(demo_database):
    return create_app(demo_database)


class Gate:
    """Holds work up before the third sitter, until it is let through."""

    def __init__(self, monkeypatch):
        self.reached, self.go = Event(), Event()
        genuine = workspace.follow
        gate = self

        def follow(people, step):
            def held():
                for number, person in enumerate(people):
                    if number == 2 and not gate.go.is_set():
                        gate.reached.set()
                        assert gate.go.wait(20)
                    yield person

            return genuine(held(), step)

        monkeypatch.setattr(workspace, "follow", follow)


def doing(work):
    """Work begun in a thread, and where its answer will lie."""
    answers = []
    thread = Thread(target=lambda: answers.append(work()))
    thread.start()
    return thread, answers


def test_an_export_says_how_far_it_has_come(app, monkeypatch):
    gate = Gate(monkeypatch)
    other = app.test_client()
    assert other.get("/api/workspace/progress").json == NOTHING
    thread, answers = doing(lambda: app.test_client().get("/api/workspace"))
    assert gate.reached.wait(20)
    people = len(other.get("/api/sitters").json["sitters"])
    assert other.get("/api/workspace/progress").json == {"what": "export", "done": 2, "of": 2 * people}
    assert other.get("/api/workspace").status_code == 503
    gate.go.set()
    thread.join()
    assert answers[0].status_code == 200
    assert zipfile.ZipFile(io.BytesIO(answers[0].data)).testzip() is None
    assert other.get("/api/workspace/progress").json == NOTHING


@pytest.mark.parametrize("address", ["/api/workspace", "/api/workspace/people", "/api/workspace/preview"])
def test_a_cancelled_import_changes_nothing(app, demo_database, monkeypatch, address):
    client = app.test_client()
    data = client.get("/api/workspace").data
    if address.endswith("people"):
        for sitter in client.get("/api/sitters").json["sitters"]:
            client.delete(f"/api/sitters/{sitter['id']}")
    before = [client.get(path).data for path in ("/api/sitters", "/api/kit", "/api/house")]
    gate = Gate(monkeypatch)

    def send():
        asking = app.test_client()
        put = asking.put if address == "/api/workspace" else asking.post
        return put(address, data=data, content_type="application/zip")

    thread, answers = doing(send)
    assert gate.reached.wait(20)
    assert client.delete("/api/workspace/progress").json["what"] in ("import", "preview")
    gate.go.set()
    thread.join()
    assert (answers[0].status_code, answers[0].json["says"]) == (409, "It was cancelled. Nothing was changed.")
    assert [client.get(path).data for path in ("/api/sitters", "/api/kit", "/api/house")] == before
    assert client.get("/api/workspace/progress").json == NOTHING
    assert [file.name for file in demo_database.folder.iterdir() if file.name.startswith("sending-")] == []
    again = send()
    assert again.status_code == 200, again.json


def test_cancelling_nothing_does_not_cancel_what_comes_next(app):
    client = app.test_client()
    assert client.delete("/api/workspace/progress").json == NOTHING
    assert client.get("/api/workspace").status_code == 200


def test_what_failed_is_not_under_way_any_more(app):
    client = app.test_client()
    assert client.put("/api/workspace", data=b"no zip", content_type="application/zip").status_code == 422
    assert client.get("/api/workspace/progress").json == NOTHING
    assert client.get("/api/workspace").status_code == 200
