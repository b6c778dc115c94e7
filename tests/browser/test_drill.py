"""The Drill room in the real interface: every kind answered by keys alone, and by touch on a phone."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Browser, Page, expect

from nabrel.core.drill.making import KINDS
from tests.browser.test_layer import serious


def choose_kind(page: Page, kind: str) -> None:
    page.get_by_role("combobox", name=re.compile("^Kind")).click()
    page.get_by_role("option", name=KINDS[kind].words, exact=True).click()
    expect(page.get_by_role("region", name="Question")).to_contain_text(f"{KINDS[kind].words}, level")


def tab_to(page: Page, role: str) -> None:
    """Move the focus on by Tab until it is on something of a role."""
    for _ in range(60):
        page.keyboard.press("Tab")
        found = page.evaluate(
            "role => { const at = document.activeElement;"
            " return at?.getAttribute('role') === role || (at instanceof HTMLInputElement && at.type === role); }",
            role,
        )
        if found:
            return
    raise AssertionError(f"nothing of role {role} is reached by Tab")


@pytest.mark.parametrize("kind", list(KINDS))
def test_every_kind_is_answered_by_keys_alone(quiet: Page, live: str, kind: str):
    quiet.goto(f"{live}/drill")
    choose_kind(quiet, kind)
    quiet.get_by_role("heading", level=1).click()
    question = quiet.get_by_role("region", name="Question")
    assert serious(quiet) == []
    if question.get_by_role("checkbox").count():
        tab_to(quiet, "checkbox")
        quiet.keyboard.press("Space")
    if kind in ("fault", "powder_where"):
        tab_to(quiet, "radio")
        quiet.keyboard.press("Space")
    if kind == "depth":
        tab_to(quiet, "range")
        quiet.keyboard.press("ArrowRight")
    quiet.evaluate("document.activeElement?.blur()")
    if question.get_by_role("radiogroup").count():
        quiet.keyboard.press("b")
        expect(question.get_by_role("radiogroup").get_by_role("radio").nth(1)).to_be_checked()
    quiet.keyboard.press("Enter")
    follows = quiet.get_by_role("region", name="What follows")
    expect(follows).to_contain_text("To remember")
    expect(quiet.get_by_role("status").filter(has_text="1 answered")).to_be_visible()
    assert serious(quiet) == []
    quiet.keyboard.press("Enter")
    expect(follows).to_have_count(0)
    expect(quiet.get_by_role("button", name="Answer", exact=True)).to_be_visible()


def test_steps_are_put_in_order_by_their_buttons(quiet: Page, live: str):
    quiet.goto(f"{live}/drill")
    choose_kind(quiet, "order")
    rows = quiet.get_by_role("list", name="Your order").get_by_role("listitem")
    first = rows.first.inner_text()
    rows.first.get_by_role("button", name=re.compile("^Later")).click()
    assert rows.nth(1).inner_text().splitlines()[1:] == first.splitlines()[1:]
    expect(rows.first.get_by_role("button", name=re.compile("^Earlier"))).to_be_disabled()


def test_a_phone_answers_by_touch_and_nothing_leaves_the_page(browser: Browser, browser_context_args, live: str):
    context = browser.new_context(
        **{**browser_context_args, "viewport": {"width": 390, "height": 844}, "has_touch": True}
    )
    page = context.new_page()
    page.goto(f"{live}/drill")
    for kind in ("corrector", "leave_bare", "order", "depth"):
        choose_kind(page, kind)
        question = page.get_by_role("region", name="Question")
        if kind == "corrector":
            question.get_by_role("radiogroup").get_by_role("radio").first.tap()
        if kind == "leave_bare":
            question.get_by_role("checkbox").first.tap()
        page.get_by_role("button", name="Answer", exact=True).tap()
        expect(page.get_by_role("region", name="What follows")).to_be_visible()
        assert page.evaluate("document.documentElement.scrollWidth <= innerWidth"), kind
        assert serious(page) == []
        page.get_by_role("button", name="Next", exact=True).tap()
        expect(page.get_by_role("region", name="What follows")).to_have_count(0)
    context.close()


def test_the_recap_of_a_class_leads_to_the_drill_that_practises_it(quiet: Page, live: str):
    held = quiet.request.get(f"{live}/api/classes").json()["courses"][0]["classes"][0]["id"]
    quiet.goto(f"{live}/recap/{held}")
    link = quiet.get_by_role("region", name="To practise").get_by_role("link", name="what to powder").first
    link.click()
    expect(quiet.get_by_role("region", name="Question")).to_contain_text("What to powder, level")
    expect(quiet.get_by_role("combobox", name="Kind: What to powder")).to_be_visible()
