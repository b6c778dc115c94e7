"""A served Nabrel under load and ill will: reading goes on beside heavy work, and nobody is shut out by those who say nothing."""

from __future__ import annotations

import http.client
import json
import socket
import threading
import time
import urllib.error
import urllib.request
from pathlib import Path

import pytest

from nabrel.web import connections
from nabrel.web.shared.heavy import MOST_OF_ONE
from tests.served import asked, serving


def parts_of(address: str) -> tuple[str, int]:
    host, port = address.removeprefix("http://").split(":")
    return host, int(port)


def status(address: str, path: str, method: str = "GET", data: bytes | None = None, **headers: str) -> int:
    request = urllib.request.Request(address + path, data, headers, method=method)
    try:
        return urllib.request.urlopen(request, timeout=60).status
    except urllib.error.HTTPError as error:
        return error.code


@pytest.fixture(scope="module")
def address(tmp_path_factory, filled_file):
    from tests.conftest import copied

    with serving(copied(filled_file, tmp_path_factory.mktemp("attacked") / "data")) as (_, where):
        yield where


class TestConnections:
    def test_more_connections_than_there_are_places_shut_nobody_out(self, address):
        host, port = parts_of(address)
        slow = []
        try:
            for number in range(connections.MOST_OF_ADDRESS + 120):
                one = socket.create_connection((host, port), timeout=10)
                one.sendall(b"GET /api/sitters HTTP/1.1\r\nHost: localhost\r\nX-Slow: ")
                slow.append(one)
                if number % 60 == 0:
                    assert asked(address, "/api/sitters", timeout=10)["sitters"]
            for each in slow[-20:]:
                each.sendall(b"a")
            assert asked(address, "/api/sitters", timeout=10)["sitters"]
        finally:
            for each in slow:
                each.close()

    def test_a_head_has_a_deadline_however_often_a_byte_of_it_comes(self, address, monkeypatch):
        host, port = parts_of(address)
        begun = time.monotonic()
        with socket.create_connection((host, port), timeout=60) as slow:
            slow.sendall(b"GET / HTTP/1.1\r\nHost: localhost\r\n")
            slow.settimeout(2)
            while time.monotonic() - begun < connections.HEAD_S + 15:
                try:
                    slow.sendall(b"x")
                    if slow.recv(1) == b"":
                        break
                except TimeoutError:
                    continue
                except OSError:
                    break
            else:
                pytest.fail("the connection was never ended")
        assert time.monotonic() - begun < connections.HEAD_S + 10

    def test_a_head_is_no_file(self, address):
        host, port = parts_of(address)
        sent = 0
        with socket.create_connection((host, port), timeout=20) as one:
            try:
                for _ in range(200):
                    sent += one.send(b"X: " + b"a" * 50_000)
                    time.sleep(0.01)
            except OSError:
                pass
        assert sent < 100 * 50_000
        assert status(address, "/api/sitters") == 200

    def test_a_body_that_is_too_long_is_refused_by_its_head(self, address):
        host, port = parts_of(address)
        connection = http.client.HTTPConnection(host, port, timeout=20)
        connection.putrequest("PUT", "/api/kit/items/probe")
        connection.putheader("Content-Type", "application/json")
        connection.putheader("Content-Length", str(400_000_000))
        connection.endheaders(b"{")
        answer = connection.getresponse()
        assert (answer.status, json.load(answer)["field"]) == (413, "request")
        connection.close()
        assert status(address, "/api/sitters", "GET", b"x" * 100_000) == 413
        whole = status(address, "/api/kit/table", "POST", b"x" * 5_000_000, **{"Content-Type": "text/csv"})
        assert whole == 413

    def test_chunks_are_counted_as_they_come(self, address):
        host, port = parts_of(address)
        connection = http.client.HTTPConnection(host, port, timeout=20)
        connection.putrequest("POST", "/api/drill/students")
        connection.putheader("Content-Type", "application/json")
        connection.putheader("Transfer-Encoding", "chunked")
        connection.endheaders()
        try:
            for _ in range(60):
                connection.send(b"%x\r\n" % 100_000 + b"a" * 100_000 + b"\r\n")
        except OSError:
            pass
        assert connection.getresponse().status == 413


class TestHeavyWork:
    def test_reading_goes_on_beside_a_full_queue_and_who_is_refused_is_told_when_to_try_again(self, address):
        plans = [each["id"] for each in asked(address, "/api/plans")["plans"]]
        sets = [each["id"] for each in asked(address, "/api/drill/sets")["sets"]]
        asked(address, f"/api/sequences/{plans[0]}/schools")
        codes, after = [], []

        def work(number):
            path = (
                f"/api/drill/sets/{sets[0]}/paper"
                if number % 2
                else f"/api/sequences/{plans[number % len(plans)]}/schools"
            )
            try:
                codes.append(urllib.request.urlopen(address + path, timeout=120).status)
            except urllib.error.HTTPError as error:
                codes.append(error.code)
                after.append(error.headers["Retry-After"])

        threads = [threading.Thread(target=work, args=(number,)) for number in range(MOST_OF_ONE + 4)]
        for each in threads:
            each.start()
        waits, seen = [], []
        while any(each.is_alive() for each in threads):
            begun = time.monotonic()
            assert asked(address, "/api/sitters", timeout=20)["sitters"]
            waits.append(time.monotonic() - begun)
            seen += asked(address, "/api/waiting")["jobs"]
            time.sleep(0.02)
        assert codes.count(200) >= MOST_OF_ONE
        assert set(codes) == {200, 503}
        assert set(after) == {"3"}
        assert {each["words"] for each in seen} & {"exercises on paper", "all schools on this face"}
        assert len(waits) > 3, "how long they take is a figure of the benchmarks"

    def test_what_is_worked_on_can_be_cancelled_and_its_process_ends(self, address):
        sets = [each["id"] for each in asked(address, "/api/drill/sets")["sets"]]
        answers = []

        def work():
            try:
                answers.append(urllib.request.urlopen(f"{address}/api/drill/sets/{sets[0]}/paper", timeout=120).status)
            except urllib.error.HTTPError as error:
                answers.append((error.code, json.load(error)["says"]))

        thread = threading.Thread(target=work)
        thread.start()
        for _ in range(200):
            jobs = asked(address, "/api/waiting")["jobs"]
            if jobs and jobs[0]["working"]:
                break
            time.sleep(0.02)
        assert asked(address, f"/api/waiting/{jobs[0]['id']}", method="DELETE") is not None
        thread.join(30)
        assert answers == [(409, "It was cancelled. Nothing was changed.")]
        assert asked(address, "/api/waiting")["jobs"] == []
        assert status(address, f"/api/waiting/{jobs[0]['id']}", "DELETE") == 404

    def test_who_has_gone_is_not_worked_for(self, address):
        host, port = parts_of(address)
        sets = [each["id"] for each in asked(address, "/api/drill/sets")["sets"]]
        with socket.create_connection((host, port), timeout=10) as leaving:
            leaving.sendall(f"GET /api/drill/sets/{sets[0]}/paper HTTP/1.1\r\nHost: localhost\r\n\r\n".encode())
            for _ in range(200):
                if asked(address, "/api/waiting")["jobs"]:
                    break
                time.sleep(0.02)
            else:
                pytest.fail("nothing was begun")
        for _ in range(200):
            if not asked(address, "/api/waiting")["jobs"]:
                break
            time.sleep(0.02)
        else:
            pytest.fail("it was worked on for nobody")

    def test_a_refusal_of_another_process_is_told_as_any_other(self, address):
        refused = status(address, "/api/workspace/preview", "POST", b"no zip", **{"Content-Type": "application/zip"})
        assert refused == 422
        picture = status(address, "/api/card/picture", "POST", b"no picture", **{"Content-Type": "image/jpeg"})
        assert picture == 422

    def test_what_is_worked_on_ends_with_a_server_that_is_killed(self, tmp_path, filled_file):
        """An import that went on would be laid over what the next server has taken in meanwhile."""
        from tests.conftest import copied

        with serving(copied(filled_file, tmp_path / "data")) as (process, address):
            parts = [{"kind": kind, "count": 10} for kind in ("base_pair", "depth", "amount", "placement", "wait")]
            told = {"title": "Long", "parts": parts, "same_for_all": True}
            long = asked(address, "/api/drill/sets", told)["id"]
            thread = threading.Thread(target=lambda: status_or_gone(address, f"/api/drill/sets/{long}/paper"))
            thread.start()
            for _ in range(400):
                if any(job["working"] for job in asked(address, "/api/waiting")["jobs"]):
                    break
                time.sleep(0.02)
            else:
                pytest.fail("nothing was begun")
            below = descendants(process.pid)
            assert len(below) >= 2
            process.kill()
            process.wait()
            for _ in range(40):
                if not any(alive(each) for each in below):
                    break
                time.sleep(0.05)
            assert [each for each in below if alive(each)] == []
            thread.join(10)


def status_or_gone(address: str, path: str) -> int:
    try:
        return status(address, path)
    except (OSError, http.client.HTTPException):
        return 0


def alive(pid: int) -> bool:
    """Whether a process works; one that has ended and was not fetched yet does not."""
    try:
        return Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()[0] != "Z"
    except OSError:
        return False


def descendants(pid: int) -> list[int]:
    parents = {}
    for place in Path("/proc").iterdir():
        if place.name.isdigit():
            try:
                parents[int(place.name)] = int((place / "stat").read_text().rpartition(")")[2].split()[1])
            except OSError:
                continue
    found, left = [], [pid]
    while left:
        above = left.pop()
        own = [each for each, parent in parents.items() if parent == above]
        found += own
        left += own
    return found
