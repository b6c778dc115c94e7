"""A sitter is erased only after it is said what goes, and goes completely."""

from __future__ import annotations

import re

from playwright.sync_api import Locator, Page, Route, expect

from tests.browser.conftest import serious


def test_a_sitter_is_erased_for_good_after_it_is_said_what_goes(quiet: Page, live: str):
    quiet.goto(live)
    quiet.get_by_role("navigation", name="Sitters").get_by_role("link", name="Tamsin").click()
    expect(quiet.get_by_role("heading", name="Tamsin", exact=True)).to_be_visible()
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


def test_whoever_is_shown_when_it_is_pressed_is_who_is_asked_about(quiet: Page, live: str):
    """The next sitter is on the way already: the dialog names, counts and erases the one that was shown."""
    quiet.goto(live)
    sitters = quiet.get_by_role("navigation", name="Sitters")
    expect(quiet.get_by_role("heading", name="Wren", exact=True)).to_be_visible()
    wren, tamsin = (record(sitters, name) for name in ("Wren", "Tamsin"))
    goes = quiet.request.get(f"{live}{wren}/belongings").json()
    assert (goes["plans"], goes["practice"]) == (1, 0)
    held: list[Route] = []
    quiet.route(f"{live}{tamsin}", lambda route: held.append(route))
    with quiet.expect_request(f"{live}{tamsin}"):
        sitters.get_by_role("link", name="Tamsin").click()
    quiet.get_by_role("button", name="Erase…").click()
    dialog = quiet.get_by_role("dialog", name="Erase Wren for good?")
    expect(dialog).to_contain_text("1 plan and 1 revision of it")
    expect(dialog).not_to_contain_text("practised in Drill")
    for each in held:
        each.continue_()
    expect(quiet).to_have_title(re.compile("^Tamsin"))
    expect(dialog.get_by_role("link", name="Export everything first")).to_have_attribute("href", f"{wren}/everything")
    dialog.get_by_role("button", name="Erase for good").click()
    expect(quiet.get_by_text("Wren is erased, with every plan and from every backup.")).to_be_visible()
    expect(sitters.get_by_role("link", name="Wren")).to_have_count(0)
    expect(sitters.get_by_role("link", name="Tamsin")).to_be_visible()


def test_an_answer_that_comes_late_does_not_bring_back_who_was_left(quiet: Page, live: str):
    quiet.goto(live)
    sitters = quiet.get_by_role("navigation", name="Sitters")
    tamsin = record(sitters, "Tamsin")
    held: list[Route] = []
    quiet.route(f"{live}{tamsin}", lambda route: held.append(route))
    with quiet.expect_request(f"{live}{tamsin}"):
        sitters.get_by_role("link", name="Tamsin").click()
    sitters.get_by_role("link", name="Merrick").click()
    expect(quiet.get_by_role("heading", name="Merrick", exact=True)).to_be_visible()
    with quiet.expect_response(f"{live}{tamsin}"):
        for each in held:
            each.continue_()
    quiet.wait_for_timeout(300)
    expect(quiet.get_by_role("heading", name="Merrick", exact=True)).to_be_visible()
    expect(quiet.get_by_role("heading", name="Tamsin", exact=True)).to_have_count(0)


def record(sitters: Locator, name: str) -> str:
    """Where the record of a sitter is asked for, by the link to it."""
    link = sitters.get_by_role("link", name=name).first
    return f"/api{link.get_attribute('href')}"


def test_titles_that_name_the_sitter_are_asked_about_where_the_words_could_be_something_else(quiet: Page, live: str):
    """A kit "Tamsin's case" is the name; "Tamsin rose" may be a colour, and stays as nobody ticks it."""
    for kit, name in (("t-case", "Tamsin's case"), ("t-rose", "Tamsin rose"), ("t-old", "Rose tamsin")):
        quiet.request.put(f"{live}/api/kit/kits/{kit}", data={"id": kit, "name": name, "items": []})
    quiet.goto(live)
    quiet.get_by_role("navigation", name="Sitters").get_by_role("link", name="Tamsin").click()
    expect(quiet.get_by_role("heading", name="Tamsin", exact=True)).to_be_visible()
    quiet.get_by_role("button", name="Erase…").click()
    asked = quiet.get_by_role("group", name="The name stands in titles of what stays")
    ticked = {
        name: asked.get_by_role("checkbox", name=name) for name in ("Tamsin's case", "Tamsin rose", "Rose tamsin")
    }
    expect(ticked["Tamsin's case"]).to_be_checked()
    expect(ticked["Tamsin rose"]).not_to_be_checked()
    expect(ticked["Rose tamsin"]).not_to_be_checked()
    assert serious(quiet) == []
    ticked["Rose tamsin"].check()
    quiet.get_by_role("button", name="Erase for good").click()
    expect(quiet.get_by_text("Tamsin is erased, with every plan and from every backup.")).to_be_visible()
    names = {each["id"]: each["name"] for each in quiet.request.get(f"{live}/api/kit").json()["kits"]}
    assert {names["t-case"], names["t-rose"], names["t-old"]} == {"Somebody's case", "Tamsin rose", "Rose somebody"}
