"""No page on the web reaches in, whatever it makes a browser send, and no name that is made to lead here."""

from __future__ import annotations

import pytest

from nabrel.web.app import create_app
from nabrel.web.shared.guard import Names

ROW = "id,role,name,texture,base,lab_l,lab_a,lab_b,cover\nx-1,foundation,Probe,liquid,water,60,10,15,0.5\n"
FOREIGN = [
    {"Origin": "https://elsewhere.example"},
    {"Origin": "null"},
    {"Origin": "http://localhost:3000"},
    {"Origin": "http://["},
    {"Sec-Fetch-Site": "cross-site"},
    {"Sec-Fetch-Site": "same-site"},
    {"Sec-Fetch-Site": "cross-site", "Origin": "http://localhost"},
    {"Referer": "https://elsewhere.example/page"},
]
OWN = [
    {},
    {"Origin": "http://localhost"},
    {"Sec-Fetch-Site": "same-origin", "Origin": "http://localhost"},
    {"Sec-Fetch-Site": "none"},
    {"Referer": "http://localhost/shelf"},
    {"Sec-Fetch-Site": "same-origin", "Referer": "http://localhost/"},
]


@pytest.fixture
def client(demo_database):
    return create_app(demo_database).test_client()


@pytest.mark.parametrize("headers", FOREIGN, ids=str)
def test_a_foreign_page_reads_and_writes_nothing(client, headers):
    before = client.get("/api/kit").json
    asked = [
        client.get("/api/workspace", headers=headers),
        client.get("/api/sitters", headers=headers),
        client.post("/api/kit/table", data=ROW, content_type="text/csv", headers=headers),
        client.post("/api/kit/table", data=ROW, content_type="text/plain", headers=headers),
        client.post("/api/faces", json={}, headers=headers),
        client.delete("/api/sitters/x", headers=headers),
    ]
    assert [answer.status_code for answer in asked] == [403] * len(asked)
    assert {answer.json["field"] for answer in asked} <= set(headers)
    assert client.get("/api/kit").json == before


@pytest.mark.parametrize("headers", OWN, ids=str)
def test_our_own_pages_and_the_command_line_are_served(client, headers):
    assert client.get("/api/sitters", headers=headers).status_code == 200
    assert client.post("/api/kit/table", data=ROW, content_type="text/csv", headers=headers).status_code == 200


@pytest.mark.parametrize("kind", ["text/plain", "application/x-www-form-urlencoded", "multipart/form-data", ""])
def test_a_table_does_not_come_as_what_any_page_may_send(client, kind):
    answer = client.post("/api/kit/table", data=ROW, headers={"Content-Type": kind})
    assert answer.status_code == 415
    assert answer.json["field"] == "Content-Type"


def test_a_page_of_ours_may_be_linked_to_from_elsewhere(client):
    assert client.get("/shelf", headers={"Sec-Fetch-Site": "cross-site"}).status_code != 403


@pytest.mark.parametrize(
    "host", ["localhost", "LOCALHOST:8765", "localhost.", "127.0.0.1:8765", "127.8.8.8", "[::1]:80"]
)
def test_loopback_is_our_name(client, host):
    assert client.get("/api/sitters", headers={"Host": host}).status_code == 200


@pytest.mark.parametrize(
    "host",
    ["rebound.example", "localhost.example", "192.168.1.7", "nabrel@localhost", "", "a b", "[::2]", "localhost:x"],
)
def test_another_host_gets_nothing_at_all(client, host):
    for path in ("/api/sitters", "/", "/assets/x.js"):
        answer = client.get(path, headers={"Host": host})
        assert answer.status_code == 421, path
        assert answer.json["field"] == "Host"
        assert "--public-name" in answer.json["says"]


def test_a_server_answers_to_its_own_address_and_its_public_names(demo_database):
    names = Names.of("192.168.1.7", ["Studio.Example"])
    client = create_app(demo_database, names).test_client()
    for host in ("192.168.1.7:8765", "studio.example", "127.0.0.1"):
        assert client.get("/api/sitters", headers={"Host": host}).status_code == 200, host
    for host in ("192.168.1.8", "other.example"):
        assert client.get("/api/sitters", headers={"Host": host}).status_code == 421, host


def test_a_server_on_every_address_answers_to_addresses_and_no_foreign_name():
    names = Names.of("0.0.0.0", ["studio.example"])
    assert all(names.hold(host) for host in ("10.0.0.4:8765", "[fe80::1]:80", "studio.example", "localhost"))
    assert not any(names.hold(host) for host in ("rebound.example", "10.0.0.4.example", "1"))
