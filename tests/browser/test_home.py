"""The home: sitters, what was read, and case files in and out."""

from __future__ import annotations

import json
from pathlib import Path

from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page, expect

from tests.browser.conftest import serious
from tests.web.test_under_way import Gate

EXAMPLES = Path(__file__).parents[2] / "examples"


def test_home_opens_on_a_demo_sitter(quiet: Page, live: str):
    quiet.goto(live)
    expect(quiet.get_by_role("heading", name="Wren", exact=True)).to_be_visible()
    expect(quiet.get_by_text("Creping 2 on both eyelids, under both eyes and on the neck", exact=False)).to_be_visible()
    expect(quiet.get_by_role("img", name="Wren, bare skin as read")).to_be_visible()
    expect(quiet.get_by_role("navigation", name="Sitters").get_by_role("link")).to_have_count(8)
    assert serious(quiet) == []


def test_another_sitter_has_an_address_of_their_own(quiet: Page, live: str):
    quiet.goto(live)
    quiet.get_by_role("link", name="Merrick").click()
    expect(quiet.get_by_role("heading", name="Merrick", exact=True)).to_be_visible()
    quiet.reload()
    expect(quiet.get_by_role("heading", name="Merrick", exact=True)).to_be_visible()


def test_pointing_at_a_zone_says_what_was_read(quiet: Page, live: str):
    quiet.goto(live)
    face = quiet.get_by_role("img", name="Wren, bare skin as read")
    box = face.bounding_box()
    assert box
    quiet.mouse.move(box["x"] + box["width"] * 0.35, box["y"] + box["height"] * 0.47)
    expect(quiet.get_by_text("Under-eye, right: dryness 2", exact=False)).to_be_visible()


def test_an_empty_home_says_what_to_do(quiet: Page, live_empty: str):
    quiet.goto(live_empty)
    expect(quiet.get_by_role("heading", name="No sitters yet")).to_be_visible()
    assert serious(quiet) == []


def test_a_case_file_is_imported_and_planned(quiet: Page, live_empty: str):
    quiet.goto(live_empty)
    quiet.get_by_label("Case file").set_input_files(EXAMPLES / "isolde.case.json")
    expect(quiet.get_by_role("group", name="Section through the base")).to_be_visible()
    expect(quiet.get_by_role("heading", name="Isolde, imported")).to_be_visible()
    expect(quiet.get_by_role("combobox", name="School: Underpainted")).to_be_visible()


def test_a_bad_case_file_is_refused_with_the_field(quiet: Page, live_empty: str, tmp_path: Path):
    document = json.loads((EXAMPLES / "isolde.case.json").read_text(encoding="utf-8"))
    document["sitter"]["skin"]["lab"][0] = 462
    bad = tmp_path / "bad.case.json"
    bad.write_text(json.dumps(document), encoding="utf-8")
    quiet.goto(live_empty)
    quiet.get_by_label("Case file").set_input_files(bad)
    expect(quiet.get_by_role("alert")).to_contain_text("sitter.skin.lab[0]: found 462; allowed: 100 or less")
    expect(quiet.get_by_role("heading", name="No sitters yet")).to_be_visible()


def test_the_case_file_comes_out(quiet: Page, live: str, tmp_path: Path):
    quiet.goto(live)
    with quiet.expect_download() as download:
        quiet.get_by_role("link", name="Case file").click()
    saved = tmp_path / "wren.json"
    download.value.save_as(saved)
    assert json.loads(saved.read_text(encoding="utf-8"))["sitter"]["nickname"] == "Wren"


def test_a_long_nickname_stays_within_the_page(quiet: Page, live_empty: str, tmp_path: Path):
    document = json.loads((EXAMPLES / "isolde.case.json").read_text(encoding="utf-8"))
    document["sitter"]["nickname"] = "Wilhelmina" * 6
    path = tmp_path / "long.case.json"
    path.write_text(json.dumps(document), encoding="utf-8")
    quiet.set_viewport_size({"width": 1024, "height": 768})
    quiet.goto(live_empty)
    quiet.get_by_label("Case file").set_input_files(path)
    expect(quiet.get_by_role("group", name="Section through the base")).to_be_visible()
    assert quiet.evaluate("document.documentElement.scrollWidth") <= 1024
    quiet.get_by_role("link", name="Nabrel, to the sitters").click()
    expect(quiet.get_by_role("heading", name="Wilhelmina", exact=False)).to_be_visible()
    assert quiet.evaluate("document.documentElement.scrollWidth") <= 1024


def test_a_wrong_address_leads_back(quiet: Page, live: str):
    quiet.goto(f"{live}/nowhere/at/all")
    expect(quiet.get_by_role("heading", name="There is nothing at this address.")).to_be_visible()
    quiet.get_by_role("link", name="Go to the sitters").click()
    expect(quiet.get_by_role("heading", name="Wren", exact=True)).to_be_visible()


def test_a_long_export_shows_how_far_it_is_and_can_be_cancelled(quiet: Page, live: str, monkeypatch):
    gate = Gate(monkeypatch)
    quiet.goto(live)
    quiet.get_by_role("button", name="Export workspace").click()
    dialog = quiet.get_by_role("dialog", name="Exporting the workspace")
    expect(dialog).to_contain_text("13 % is done")
    results = Axe().run(quiet)
    assert results.violations_count == 0, results.generate_report()
    with quiet.expect_response(lambda each: each.request.method == "DELETE"):
        dialog.get_by_role("button", name="Cancel").click()
        expect(dialog.get_by_role("button", name="Cancelling")).to_be_disabled()
    gate.go.set()
    expect(quiet.get_by_text("It was cancelled. Nothing was changed.")).to_be_visible()
    expect(dialog).to_have_count(0)
    with quiet.expect_download() as download:
        quiet.get_by_role("button", name="Export workspace").click()
    assert download.value.suggested_filename == "nabrel-workspace.zip"
