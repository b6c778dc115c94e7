"""The sheet over HTTP: its pages, and the PDF."""

from __future__ import annotations

import re

import pytest

from nabrel.formats.sheet import _pages
from nabrel.web.app import create_app


@pytest.fixture
def client(demo_database):
    return create_app(demo_database).test_client()


def test_the_pages_are_served_as_they_are_printed(client):
    plan_id = next(each["sequence_id"] for each in client.get("/api/sitters").json["sitters"] if each["sequence_id"])
    address = f"/api/sequences/{plan_id}/sheet"
    assert client.get(address).json["pages"] == 1
    page = client.get(f"{address}/1")
    assert page.mimetype == "image/svg+xml"
    assert re.match(rb"\s*<svg", page.data)
    assert client.get(f"{address}/2").json["field"] == "page"
    assert client.get(f"{address}?paper=a3").status_code == 422
    pdf = client.get(f"{address}.pdf?paper=letter&large=true")
    assert pdf.data.startswith(b"%PDF")
    assert "attachment" in pdf.headers["Content-Disposition"]
    assert client.get(f"{address}?large=true").json["pages"] > 1


def test_no_sheet_of_a_sitter_who_is_erased_stays_in_memory(client):
    gone = client.get("/api/sitters").json["sitters"][0]
    assert client.get(f"/api/sequences/{gone['sequence_id']}/sheet").json["nickname"] == gone["nickname"]
    assert _pages.cache_info().currsize > 0
    assert client.delete(f"/api/sitters/{gone['id']}").status_code == 200
    assert _pages.cache_info().currsize == 0
    assert client.get(f"/api/sequences/{gone['sequence_id']}/sheet").status_code == 404
