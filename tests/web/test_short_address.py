"""From paper to the look: the short address and its QR code on the sheet, and the slip that a sitter fills in."""

from __future__ import annotations

import json
from datetime import UTC, datetime, timedelta

import pytest
import segno

from nabrel.core.documents.sheet import sheet_of
from nabrel.core.documents.slip import slip_of
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.terms.signs import SIGN_INFO
from nabrel.formats.sheet import Print, _said, qr_svg
from nabrel.store.repositories import SHORT, Sequences, short_code
from nabrel.web.app import create_app
from nabrel.web.shared.guard import Names

NAME = "base.kestrel-quay.example"


@pytest.fixture
def client(demo_database):
    return create_app(demo_database, names=Names.of("127.0.0.1", [NAME])).test_client()


@pytest.fixture
def posy(client):
    return next(each for each in client.get("/api/sitters").json["sitters"] if each["nickname"] == "Posy")


@pytest.fixture
def plan(client, posy, demo_database):
    with demo_database.session() as session:
        return Sequences(session).get(posy["sequence_id"]).sequence


def test_the_short_address_leads_to_the_plan_and_to_what_is_worn_today(client, posy):
    code = short_code(posy["sequence_id"])
    assert len(code) == SHORT
    found = client.get(f"/api/short/{code}").json
    assert (found["plan_id"], found["nickname"], found["wear_id"]) == (posy["sequence_id"], "Posy", None)
    old = (datetime.now(UTC) - timedelta(days=2)).isoformat(timespec="seconds")
    client.post(f"/api/sequences/{posy['sequence_id']}/wears", json={"worn_from": old})
    assert client.get(f"/api/short/{code}").json["wear_id"] is None
    fresh = client.post(f"/api/sequences/{posy['sequence_id']}/wears", json={}).json["wear_id"]
    assert client.get(f"/api/short/{code}").json["wear_id"] == fresh


@pytest.mark.parametrize("code", ["0000000000", "x", "%25", "..%2F..", "a" * 40])
def test_a_code_that_stands_for_nothing_is_not_found(client, code):
    assert client.get(f"/api/short/{code}").status_code in (404, 422)


def test_the_sheet_of_a_server_that_a_phone_reaches_has_the_address_and_its_code(plan):
    evaluation = evaluate(plan, House())
    link = f"https://{NAME}/w/0123456789"
    said = json.loads(_said(sheet_of(evaluation), Print(link=link, scanned=True)))
    assert link in said["look"]
    assert said["qr"] == qr_svg(link)
    assert said["qr"].startswith("<svg")
    bare = json.loads(_said(sheet_of(evaluation), Print()))
    assert (bare["look"], bare["qr"]) == ("", "")


def test_the_code_holds_the_address(plan):
    """Drawn dark modules are those that the standard asks for, for this very address."""
    link = f"https://{NAME}/w/0123456789"
    matrix = segno.make(link, error="m").matrix
    other = segno.make(link[:-1], error="m").matrix
    assert qr_svg(link).count("M") >= 1
    assert matrix != other
    assert qr_svg(link) != qr_svg(link[:-1])


def test_on_one_machine_the_sheet_has_no_code_and_elsewhere_its_pages_have(client, posy):
    address = f"/api/sequences/{posy['sequence_id']}/sheet/1"
    here = client.get(address).data
    there = client.get(address, base_url=f"https://{NAME}").data
    assert len(there) > len(here)
    assert client.get(address, base_url="https://elsewhere.example").status_code == 421


def test_the_slip_asks_for_every_sign_on_every_part_that_carries_something(plan):
    evaluation = evaluate(plan, House())
    slip = slip_of(evaluation)
    assert [sign.words for sign in slip.signs] == [row.words for row in SIGN_INFO.values()]
    assert slip.title == "Posy: how it wears"
    assert slip.regions == ("Forehead", "Eyes", "Nose", "Cheeks", "Mouth and chin", "Jaw and neck")
    assert slip.looks[0] == "After 20 to 30 minutes"
    assert slip.looks[-1] == f"After about {round(plan.case.intent.wear_hours)} h"
    assert 2 <= len(slip.looks) <= 4


@pytest.mark.parametrize("query", ["", "?paper=letter"])
def test_the_slip_is_a_pdf_of_one_page(client, posy, query):
    pdf = client.get(f"/api/sequences/{posy['sequence_id']}/slip.pdf{query}")
    assert (pdf.status_code, pdf.mimetype) == (200, "application/pdf")
    assert pdf.data.startswith(b"%PDF")
    assert pdf.data.count(b"/Type/Page") + pdf.data.count(b"/Type /Page") >= 1
    assert "Posy-slip.pdf" in pdf.headers["Content-Disposition"]
    assert client.get("/api/sequences/none/slip.pdf").status_code == 404
