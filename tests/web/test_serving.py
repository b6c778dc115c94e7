"""The server as a process: it starts or says in a line why not, serves beside slow connections, and stops clean."""

from __future__ import annotations

import json
import select
import signal
import socket
import ssl
import threading
import time
import urllib.error
import urllib.request
from pathlib import Path

import pytest

from nabrel.store.database import Database
from nabrel.store.folder import FILE_NAME, LOGS, Unusable
from nabrel.web.app import create_app
from nabrel.web.shared.heavy import Processes
from tests.conftest import copied
from tests.served import asked, command, free_port, serving


@pytest.mark.parametrize("number", [signal.SIGTERM, signal.SIGINT])
def test_a_signal_ends_it_clean_and_the_main_file_is_the_whole_database(demo_folder, tmp_path, number):
    with serving(demo_folder) as (process, address):
        sitter = asked(address, "/api/sitters")["sitters"][0]
        made = asked(address, f"/api/sitters/{sitter['id']}/sequences", {})["id"]
        process.send_signal(number)
        out, err = process.communicate(timeout=15)
        assert process.returncode == 0, err
        assert "Nabrel is closed." in out
    log = demo_folder / FILE_NAME
    assert not log.with_name(FILE_NAME + "-wal").exists() or not log.with_name(FILE_NAME + "-wal").stat().st_size
    alone = Database(copied(log, tmp_path / "alone"))
    assert create_app(alone).test_client().get(f"/api/sequences/{made}").status_code == 200
    alone.close()


def test_what_is_under_way_is_ended_before_it_stops(demo_folder):
    with serving(demo_folder) as (process, address):
        sitters = asked(address, "/api/sitters")["sitters"]
        plan = sitters[0]["sequence_id"]
        answers: list[object] = []

        def ask() -> None:
            try:
                answers.append(asked(address, f"/api/sequences/{plan}/schools"))
            except urllib.error.HTTPError as refused:
                # A machine that is busy may take longer than a stop waits.
                answers.append((refused.code, json.load(refused)["found"]))

        threads = [threading.Thread(target=ask) for _ in range(3)]
        for each in threads:
            each.start()
        time.sleep(0.15)
        process.send_signal(signal.SIGTERM)
        for each in threads:
            each.join(20)
        process.communicate(timeout=15)
        assert process.returncode == 0
        assert len(answers) == 3
        assert [each for each in answers if isinstance(each, tuple) and each != (503, "Nabrel is being closed.")] == []


def test_what_takes_longer_than_a_stop_waits_is_refused_with_the_reason():
    work = Processes(1)
    refused: list[str] = []

    def ask() -> None:
        try:
            work.run("schools", "somebody", None, select.select, [], [], [], 60)
        except Unusable as unusable:
            refused.append(str(unusable))

    threads = [threading.Thread(target=ask) for _ in range(2)]
    for each in threads:
        each.start()
    until = time.monotonic() + 30
    while not any(job.working for job, _ in work.jobs("somebody")) and time.monotonic() < until:
        time.sleep(0.05)
    work.close()
    for each in threads:
        each.join(20)
    assert refused == ["Nabrel is being closed. Ask again once it is open."] * 2


def test_a_port_that_is_taken_is_said_in_a_line(tmp_path):
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        process = command(tmp_path, taken.getsockname()[1])
        _, err = process.communicate(timeout=30)
    assert process.returncode == 2
    assert err.startswith("nabrel: Nabrel cannot listen on 127.0.0.1:")
    assert err.count("\n") == 1


def test_a_damaged_database_is_said_in_a_line(tmp_path):
    (tmp_path / FILE_NAME).write_bytes(b"no database" * 1000)
    process = command(tmp_path, free_port())
    _, err = process.communicate(timeout=30)
    assert process.returncode == 2
    assert "is damaged. Restore a backup" in err
    assert err.count("\n") == 1


def test_one_folder_has_one_server_which_fills_it_with_the_demo_where_asked(tmp_path):
    with serving(tmp_path, "--demo") as (_, address):
        assert len(asked(address, "/api/sitters")["sitters"]) == 8
        process = command(tmp_path, free_port())
        _, err = process.communicate(timeout=30)
    assert process.returncode == 2
    assert "Another Nabrel has" in err
    assert err.count("\n") == 1


def test_a_day_without_a_backup_gets_one_and_logs_hold_nobody(demo_folder):
    with serving(demo_folder) as (process, address):
        names = [each["nickname"] for each in asked(address, "/api/sitters")["sitters"]]
        for _ in range(100):
            if list((demo_folder / "backups").glob("*-daily.sqlite")):
                break
            time.sleep(0.1)
        assert list((demo_folder / "backups").glob("*-daily.sqlite"))
        process.terminate()
        process.communicate(timeout=15)
    logged = "".join(file.read_text(encoding="utf-8") for file in (demo_folder / LOGS).iterdir())
    assert "backed up to" in logged
    assert len(names) == 8
    assert not [name for name in names if name in logged]


def test_many_who_wait_for_their_turn_are_no_news_on_the_terminal(demo_folder):
    """Nobody empties the pipe that the warnings go to here: were each waiting request one, the server would stop at it."""
    with serving(demo_folder) as (process, address):
        plan = asked(address, "/api/sitters")["sitters"][0]["sequence_id"]
        threads = [
            threading.Thread(target=lambda: [asked(address, f"/api/sequences/{plan}/head") for _ in range(15)])
            for _ in range(16)
        ]
        for each in threads:
            each.start()
        for each in threads:
            each.join()
        process.terminate()
        _, err = process.communicate(timeout=15)
    assert err == ""


def test_a_hundred_slow_connections_leave_other_people_served(demo_folder):
    with serving(demo_folder) as (_, address):
        host, port = "127.0.0.1", int(address.rsplit(":", 1)[1])
        slow = []
        try:
            for _ in range(150):
                connection = socket.create_connection((host, port), timeout=10)
                connection.sendall(b"POST /api/faces HTTP/1.1\r\nHost: localhost\r\nContent-Length: 100000\r\n")
                slow.append(connection)
            start = time.monotonic()
            for _ in range(10):
                assert asked(address, "/api/sitters", timeout=10)["sitters"]
            assert time.monotonic() - start < 20
        finally:
            for connection in slow:
                connection.close()


def test_a_proxy_in_front_may_name_the_host_and_nobody_else(tmp_path):
    def status(address: str, host: str) -> int:
        request = urllib.request.Request(f"{address}/api/sitters", headers={"X-Forwarded-Host": host})
        try:
            return urllib.request.urlopen(request, timeout=10).status
        except urllib.error.HTTPError as error:
            return error.code

    with serving(tmp_path, "--trusted-proxy", "127.0.0.1", "--public-name", "studio.example") as (_, address):
        assert status(address, "studio.example") == 200
        assert status(address, "elsewhere.example") == 421
    with serving(tmp_path) as (_, address):
        assert status(address, "elsewhere.example") == 200


TLS = Path(__file__).parents[1] / "data" / "tls"


def test_it_speaks_tls_itself(demo_folder):
    port = free_port()
    pair = ("--certificate", str(TLS / "localhost.pem"), "--key", str(TLS / "localhost.key"))
    process = command(demo_folder, port, *pair)
    try:
        assert f"is open at https://127.0.0.1:{port}/" in process.stdout.readline()
        trusting = ssl.create_default_context(cafile=str(TLS / "localhost.pem"))
        answer = urllib.request.urlopen(f"https://localhost:{port}/api/sitters", timeout=20, context=trusting)
        assert answer.status == 200
        assert answer.headers["Strict-Transport-Security"]
    finally:
        process.terminate()
        process.communicate(timeout=20)


@pytest.mark.parametrize("more", [
    ("--certificate", str(TLS / "localhost.pem")), ("--key", str(TLS / "localhost.key")),
    ("--certificate", str(TLS / "nothing.pem"), "--key", str(TLS / "localhost.key")),
    ("--certificate", str(TLS / "localhost.key"), "--key", str(TLS / "localhost.pem")),
])  # fmt: skip
def test_a_certificate_without_its_key_is_said_in_a_line(tmp_path, more):
    process = command(tmp_path, free_port(), *more)
    _, err = process.communicate(timeout=60)
    assert (process.returncode, err.count("\n")) == (2, 1)
    assert err.startswith("nabrel: --")
