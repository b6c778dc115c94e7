"""Open to one person: by a link that works once, and by the owner's own token; nobody else on this computer."""

from __future__ import annotations

import stat
import urllib.error
import urllib.request

import pytest

from nabrel.core.errors import Refused
from nabrel.web.app import create_app
from nabrel.web.shared import only_me
from nabrel.web.shared.only_me import LINK, TOKEN, ServedAt
from tests.commands import run
from tests.served import asked, serving


@pytest.fixture
def app(demo_database):
    only_me.open_at(demo_database.folder, ServedAt("http", "127.0.0.1", 8765))
    return create_app(demo_database, alone=True)


@pytest.fixture
def link(app, demo_database):
    return only_me.new_link(demo_database.folder).removeprefix("http://127.0.0.1:8765")


def test_nobody_is_answered_without_the_link(app):
    client = app.test_client()
    asked_for = ["/api/sitters", "/api/session", "/api/openapi.json", "/api/workspace", "/api/nowhere"]
    answers = [client.get(path) for path in asked_for]
    assert [answer.status_code for answer in answers] == [401] * len(asked_for)
    assert "run nabrel link" in answers[0].json["says"]
    page = client.get("/")
    assert (page.status_code, b"open to one person" in page.data) == (401, True)


def test_the_link_works_once_and_its_browser_is_known(app, link):
    own, other = app.test_client(), app.test_client()
    opened = own.get(link)
    assert (opened.status_code, opened.headers["Location"]) == (302, "/")
    [said] = opened.headers.getlist("Set-Cookie")
    assert "HttpOnly" in said
    assert "SameSite=Strict" in said
    assert "Max-Age=2592000" in said
    assert own.get("/api/sitters").status_code == 200
    assert own.get(link).status_code == 302, "who is known is led in"
    assert other.get(link).status_code == 401
    assert other.get("/api/sitters").status_code == 401


@pytest.mark.parametrize("once", ["", "x", "x" * 500, "é"])
def test_a_guessed_link_opens_nothing_and_spoils_nothing(app, link, once):
    stranger = app.test_client()
    assert stranger.get(f"/open/{once}").status_code == 401
    assert app.test_client().get(link).status_code == 302


def test_a_new_link_ends_the_one_before(app, link, demo_database):
    second = only_me.new_link(demo_database.folder).removeprefix("http://127.0.0.1:8765")
    assert app.test_client().get(link).status_code == 401
    assert app.test_client().get(second).status_code == 302
    assert not (demo_database.folder / LINK).exists()


def test_a_cookie_of_another_folder_opens_nothing(app, link, database):
    own = app.test_client()
    own.get(link)
    only_me.open_at(database.folder, ServedAt("http", "127.0.0.1", 8766))
    elsewhere = create_app(database, alone=True).test_client()
    for cookie in own._cookies.values():
        elsewhere.set_cookie(cookie.key, cookie.value)
    assert own.get("/api/sitters").status_code == 200
    assert elsewhere.get("/api/sitters").status_code == 401


def test_the_command_line_brings_the_token_that_only_the_owner_reads(app, demo_database):
    file = demo_database.folder / TOKEN
    assert stat.S_IMODE(file.stat().st_mode) == 0o600
    client = app.test_client()
    bring = {"Authorization": f"Bearer {file.read_text(encoding='utf-8')}"}
    assert client.get("/api/sitters", headers=bring).status_code == 200
    assert client.get("/api/sitters", headers={"Authorization": "Bearer x"}).status_code == 401
    assert client.get("/api/sitters", headers={"Authorization": "Bearer "}).status_code == 401


def test_no_link_is_made_where_no_server_is_open(tmp_path):
    with pytest.raises(Refused, match="nabrel serve"):
        only_me.new_link(tmp_path)


def test_serve_without_the_demo_is_open_to_its_owner(demo_folder, monkeypatch):
    with serving(demo_folder, "--only-me") as (process, address):
        assert "works once" in process.stdout.readline()
        link = process.stdout.readline().strip()
        with pytest.raises(urllib.error.HTTPError) as refused:
            asked(address, "/api/sitters")
        assert refused.value.code == 401
        browser = urllib.request.build_opener(urllib.request.HTTPCookieProcessor())
        assert browser.open(link, timeout=20).status in (200, 503)
        assert b"nickname" in browser.open(f"{address}/api/sitters", timeout=20).read()
        monkeypatch.setenv("NABREL_DATA", str(demo_folder))
        again = run("link")
        assert again.returncode == 0
        assert again.stdout.startswith(f"{address}/open/")
        process.terminate()
        process.communicate(timeout=20)
    assert run("link").returncode == 2


def test_where_everybody_here_may_read_the_start_says_so(tmp_path):
    with serving(tmp_path, "--no-only-me") as (process, _):
        assert "Every account of this computer can read" in process.stdout.readline()
