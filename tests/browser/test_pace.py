"""The Pace room in the real interface: the score, other hands, the time of day."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from nabrel.core.ask.recommend import plan
from nabrel.core.house import House
from nabrel.core.pace.tasks import work_of
from nabrel.core.pace.timetable import timetable
from nabrel.demo.kestrel_quay import sitters
from tests.browser.conftest import serious


@pytest.fixture(scope="module")
def length():
    """Seconds that the core finds for Bram's plan."""
    case = next(each for each in sitters() if each.sitter.nickname == "Bram")
    return timetable(work_of(plan(case, House()), House())).length_s


@pytest.fixture
def pace(quiet: Page, live: str) -> Page:
    quiet.goto(live)
    quiet.get_by_role("link", name=re.compile("Bram")).click()
    expect(quiet.get_by_role("heading", name="Bram", exact=True)).to_be_visible()
    quiet.get_by_role("button", name="Open the plan").click()
    expect(quiet.get_by_role("group", name="Section through the base")).to_be_visible()
    quiet.keyboard.press("t")
    expect(quiet.get_by_role("region", name="The score")).to_be_visible()
    return quiet


def said(seconds: int) -> str:
    return f"{seconds // 60}:{seconds % 60:02d}"


def test_the_score_says_the_cores_length_and_lists_every_task(pace: Page, length):
    expect(pace.get_by_role("region", name="How long it takes")).to_contain_text(said(length))
    expect(pace.get_by_role("region", name="How long it takes")).to_contain_text("The shortest there is: proven.")
    rows = pace.get_by_role("region", name="The order of the hands").get_by_role("row")
    expect(rows.first).to_be_visible()
    assert rows.count() > 15
    expect(pace.get_by_role("img", name=re.compile("The score"))).to_be_visible()
    expect(pace.get_by_role("link", name="Pace")).to_have_attribute("aria-current", "page")
    assert serious(pace) == []


def test_a_student_takes_longer_and_the_clock_counts_from_the_start(pace: Page, length):
    pace.get_by_role("combobox", name=re.compile("Whose hands")).click()
    pace.get_by_role("option", name=re.compile("A student")).click()
    long = pace.get_by_role("region", name="How long it takes")
    expect(long).not_to_contain_text(said(length))
    pace.get_by_label("Starts at").fill("09:10")
    expect(long).to_contain_text("From 09:10 to")
    expect(pace.get_by_role("region", name="The order of the hands").get_by_role("row").nth(1)).to_contain_text("09:10")


def test_a_second_pair_of_hands_is_a_key_away(pace: Page):
    button = pace.get_by_role("button", name="Second pair of hands", exact=True)
    expect(button).to_have_attribute("aria-pressed", "false")
    pace.keyboard.press("h")
    expect(button).to_have_attribute("aria-pressed", "true")
    expect(pace.get_by_role("region", name="How long it takes")).to_be_visible()


def test_on_a_phone_nothing_leaves_the_page(pace: Page):
    pace.set_viewport_size({"width": 390, "height": 800})
    expect(pace.get_by_role("region", name="The score")).to_be_visible()
    assert pace.evaluate("document.documentElement.scrollWidth") <= 390
    assert serious(pace) == []


def test_it_leads_back_to_the_layers(pace: Page):
    pace.keyboard.press("l")
    expect(pace.get_by_role("group", name="Section through the base")).to_be_visible()
