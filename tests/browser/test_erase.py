"""A sitter is erased only after it is said what goes, and goes completely."""

from __future__ import annotations

from playwright.sync_api import Page, expect

from tests.browser.test_home import serious


def test_a_sitter_is_erased_for_good_after_it_is_said_what_goes(quiet: Page, live: str):
    quiet.goto(live)
    quiet.get_by_role("navigation", name="Sitters").get_by_role("link", name="Tamsin").click()
    quiet.get_by_role("button", name="Erase…").click()
    dialog = quiet.get_by_role("dialog", name="Erase Tamsin for good?")
    expect(dialog).to_contain_text(
        "1 plan and 1 revision of it, and a class that teaches it, and what they practised in Drill, all go"
    )
    assert serious(quiet) == []
    dialog.get_by_role("button", name="Close").click()
    expect(quiet.get_by_role("navigation", name="Sitters").get_by_role("link", name="Tamsin")).to_be_visible()
    quiet.get_by_role("button", name="Erase…").click()
    quiet.get_by_role("button", name="Erase for good").click()
    expect(quiet.get_by_role("navigation", name="Sitters").get_by_role("link", name="Tamsin")).to_have_count(0)
    expect(quiet.get_by_text("Tamsin is erased, with every plan and from every backup.")).to_be_visible()
    expect(quiet.get_by_role("heading", name="Wren", exact=True)).to_be_visible()
    expect(quiet.get_by_text("the id of a stored sitter")).to_have_count(0)
    quiet.reload()
    expect(quiet.get_by_role("heading", name="Wren", exact=True)).to_be_visible()
    expect(quiet.get_by_role("navigation", name="Sitters").get_by_role("link", name="Tamsin")).to_have_count(0)
