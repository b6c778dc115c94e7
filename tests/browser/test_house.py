"""The House rules room: read, searched, decided otherwise, followed by plans, and reset."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Locator, Page, expect

from tests.browser.conftest import each_screen, serious, switch_room


@pytest.fixture
def book(quiet: Page, live: str) -> Page:
    """The House rules room with nothing decided."""
    quiet.goto(f"{live}/house")
    expect(quiet.get_by_role("searchbox", name="Search the rule book")).to_be_visible()
    return quiet


def card(page: Page, statement: str) -> Locator:
    return page.get_by_role("article", name=statement)


def plan_of(page: Page, live: str, nickname: str) -> str:
    sitters = page.request.get(f"{live}/api/sitters").json()["sitters"]
    return next(each["sequence_id"] for each in sitters if each["nickname"] == nickname)


def test_the_book_is_searched_and_filtered(book: Page):
    expect(book.get_by_text(re.compile(r"^\d+ of \d+ rules, all as in the book"))).to_be_visible()
    book.keyboard.press("/")
    expect(book.get_by_role("searchbox")).to_be_focused()
    book.keyboard.type("lavender")
    expect(book.get_by_role("article")).to_have_count(1)
    expect(card(book, "Lavender under the eye is judged on this skin.")).to_contain_text("Another view")
    book.get_by_role("searchbox").fill("no such thing anywhere")
    expect(book.get_by_text("No rule says that.")).to_be_visible()
    book.get_by_role("searchbox").fill("")
    book.get_by_role("combobox", name=re.compile("^Family")).click()
    book.get_by_role("option", name="bases").click()
    expect(book.get_by_role("article")).to_have_count(1)


def test_a_decision_with_its_note_is_shown_on_the_finding_and_can_be_reset(quiet: Page, live: str):
    plan = plan_of(quiet, live, "Bram")
    quiet.goto(f"{live}/plans/{plan}")
    quiet.get_by_role("region", name="Findings").get_by_text("Accepted (1)").click()
    quiet.get_by_role("link", name=re.compile("In the rule book.*Oily zones")).click()
    statement = "Oily zones are given enough powder for the hours wanted."
    rule = card(quiet, statement)
    expect(rule).to_contain_text("Speaks once in Bram")
    rule.get_by_role("combobox", name=re.compile("^Severity")).click()
    quiet.get_by_role("option", name="Problem").click()
    note = rule.get_by_role("textbox", name="Why this rule is decided so here")
    note.fill("they are photographed all day")
    # The note leaves once the severity is answered: who goes back before sees the finding as it was.
    with quiet.expect_response(lambda answer: "photographed" in (answer.request.post_data or "")):
        note.press("Tab")
    expect(rule).to_contain_text("Decided here: advice in the book")
    quiet.get_by_role("link", name=re.compile("^Back to Bram")).click()
    findings = quiet.get_by_role("region", name="Findings")
    expect(findings).to_contain_text("Decided here: advice became problem (they are photographed all day).")
    quiet.go_back()
    card(quiet, statement).get_by_role("button", name="As in the book").click()
    expect(quiet.get_by_text(re.compile("all as in the book"))).to_be_visible()


def test_a_rule_is_switched_off_and_speaks_no_more(quiet: Page, live: str):
    plan = plan_of(quiet, live, "Bram")
    quiet.goto(f"{live}/house?rule=shine-before-time&plan={plan}")
    rule = card(quiet, "Oily zones are given enough powder for the hours wanted.")
    rule.get_by_role("checkbox", name="On").uncheck()
    expect(rule).to_contain_text("Switched off")
    quiet.goto(f"{live}/plans/{plan}")
    findings = quiet.get_by_role("region", name="Findings", exact=True)
    expect(findings).to_contain_text("Nothing to fix")
    expect(findings).not_to_contain_text("Shine is expected")


def test_a_number_is_slid_with_the_keyboard_within_its_range(book: Page):
    book.get_by_role("searchbox").fill("bake line limit")
    rule = card(book, "No bake under lined, creped or dry eyes.")
    rule.get_by_text("1 number it asks about").click()
    slider = rule.get_by_role("slider", name="bake line limit")
    # The note leaves once the number is answered: a page that is left sends nothing that still waits for its turn.
    with book.expect_response(lambda answer: answer.request.method == "PUT"):
        slider.press("End")
    expect(rule).to_contain_text("4 severity")
    expect(rule).to_contain_text("the book has 2")
    note = rule.get_by_role("textbox", name="Why bake line limit is decided so here")
    note.fill("stage week")
    with book.expect_response(lambda answer: "stage week" in (answer.request.post_data or "")):
        note.press("Tab")
    book.reload()
    book.get_by_role("checkbox", name="Decided here only").check()
    expect(book.get_by_role("article")).to_have_count(1)
    expect(rule.get_by_role("textbox", name="Why bake line limit is decided so here")).to_have_value("stage week")
    book.get_by_role("button", name="Reset all").click()
    expect(book.get_by_role("article")).to_have_count(0)


def test_decisions_come_out_as_a_file(book: Page, tmp_path):
    with book.expect_download() as download:
        book.get_by_role("link", name="Export decisions").click()
    download.value.save_as(tmp_path / "house.json")
    assert '"nabrel": "house"' in (tmp_path / "house.json").read_text(encoding="utf-8")


def test_nothing_serious_for_accessibility_in_either_room(book: Page):
    assert serious(book) == []
    switch_room(book)
    assert serious(book) == []


def test_the_page_never_overflows_sideways(book: Page):
    for _ in each_screen(book):
        expect(book.get_by_role("main")).to_be_visible()
