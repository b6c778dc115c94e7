"""The first ten minutes: nobody owns a colorimeter, and everything starts from what an eye can tell."""

from __future__ import annotations

import re

from playwright.sync_api import Locator, Page, Route, expect

from tests.browser.conftest import hold_first, let_go, serious
from tests.browser.test_layer import order


def by_eye(page: Page) -> None:
    """Tap a cell of the grid, then its lighter, warmer neighbour."""
    page.get_by_role("group", name="Depth by undertone").get_by_role(
        "button", name=re.compile("^tan, neutral")
    ).first.click()
    near = page.get_by_role("group", name="Near neighbours").get_by_role("button")
    expect(near).to_have_count(9)
    near.nth(2).click()
    expect(near.nth(2)).to_have_attribute("aria-pressed", "true")


def first_sitter(page: Page, address: str) -> Locator:
    """The path begun, and its first sitter described but not made yet."""
    page.goto(address)
    page.get_by_role("button", name="Guide me through a first plan").click()
    dialog = page.get_by_role("dialog", name="New sitter")
    dialog.get_by_label("Nickname").fill("Tern")
    by_eye(page)
    return dialog


def test_the_path_leads_from_nothing_to_a_printed_plan(quiet: Page, live_empty: str):
    dialog = first_sitter(quiet, live_empty)
    assert serious(quiet) == []
    dialog.get_by_role("button", name="Read the face").click()
    path = quiet.get_by_role("region", name="Your first plan")
    expect(path).to_contain_text("paint it where you see it")
    path.get_by_role("button", name="Next").click()
    quiet.get_by_role("button", name="Start from the generic kit").click()
    by_eye(quiet)
    quiet.get_by_role("button", name="Put it on the shelf").click()
    expect(quiet.get_by_role("button", name="Generic sheer foundation", exact=True)).to_be_visible()
    expect(quiet.get_by_text("≈ guessed: read it from a photo").first).to_be_visible()
    assert serious(quiet) == []
    path.get_by_role("button", name="Plan the base").click()
    expect(order(quiet)).to_be_visible()
    quiet.get_by_text("How sure is this plan?").click()
    expect(quiet.get_by_text("judged by eye")).to_be_visible()
    assert serious(quiet) == []
    path.get_by_role("link", name="Sheet").click()
    expect(quiet.get_by_role("img", name="page 1 of 1")).to_be_visible()
    path.get_by_role("button", name="Leave the path").click()
    expect(path).to_have_count(0)
    quiet.reload()
    expect(quiet.get_by_role("img", name="page 1 of 1")).to_be_visible()
    expect(path).to_have_count(0)


def test_a_sitter_just_made_is_in_hand_before_the_face_is_read(quiet: Page, live_empty: str):
    dialog = first_sitter(quiet, live_empty)
    asked: list[Route] = []
    quiet.route("**/api/sitters/*/face", lambda route: asked.append(route))
    dialog.get_by_role("button", name="Read the face").click()
    path = quiet.get_by_role("region", name="Your first plan")
    expect(path).to_contain_text("paint it where you see it")
    path.get_by_role("button", name="Next").click()
    expect(quiet.get_by_role("button", name="Start from the generic kit")).to_be_visible()
    assert asked, "the face was read before the room was left"
    expect(quiet.get_by_role("link", name="In hand: Tern")).to_be_visible()
    quiet.unroute("**/api/sitters/*/face")
    path.get_by_role("button", name="Plan the base").click()
    expect(order(quiet)).to_be_visible()


def judging_by_a_stripe(page: Page, live: str) -> Locator:
    first = page.request.get(f"{live}/api/sitters").json()["sitters"][0]
    page.goto(f"{live}/read/{first['id']}")
    page.get_by_role("tab", name="Colour and probe").click()
    page.get_by_role("button", name="By eye or stripe").click()
    dialog = page.get_by_role("dialog", name="Colour without an instrument: Face")
    dialog.get_by_role("button", name="By a stripe of foundation").click()
    return dialog


def test_a_colour_by_a_stripe_says_how_sure_it_is(quiet: Page, live: str):
    dialog = judging_by_a_stripe(quiet, live)
    stripes = dialog.get_by_role("group", name="Stripes").get_by_role("button")
    stripes.nth(1).click()
    stripes.nth(3).click()
    dialog.get_by_role("button", name="warmer").click()
    expect(dialog).to_contain_text(re.compile("Between .* and .*, a little warmer: .* to within about ΔE00"))
    assert serious(quiet) == []
    dialog.get_by_role("button", name="Save this colour").click()
    expect(quiet.get_by_role("region", name="Colour in words")).to_contain_text("judged by a stripe of foundation")


def test_an_item_is_added_in_a_few_words(quiet: Page, live: str):
    quiet.goto(f"{live}/shelf")
    expect(quiet.get_by_role("button", name="Milk cleanser")).to_be_visible()
    quiet.keyboard.press("q")
    dialog = quiet.get_by_role("dialog", name="Quick add")
    dialog.get_by_label("Name").fill("Dune fluid")
    by_eye(quiet)
    dialog.get_by_role("button", name="Add, and another").click()
    expect(quiet.get_by_text("Dune fluid is on the shelf.")).to_be_visible()
    expect(dialog.get_by_label("Name")).to_have_value("")
    dialog.get_by_label("Name").fill("Dune cover")
    dialog.get_by_role("combobox", name="Shade: By eye").click()
    quiet.get_by_role("option", name="As deep as Dune fluid").click()
    dialog.get_by_role("group", name="A little").get_by_role("button", name="lighter").click()
    assert serious(quiet) == []
    dialog.get_by_role("button", name="Add to the shelf").click()
    expect(dialog).to_have_count(0)
    expect(quiet.get_by_role("row", name=re.compile("Dune cover ≈ shade by eye"))).to_be_visible()


def test_an_item_is_added_as_it_was_written_however_late_the_answers(quiet: Page, live: str):
    quiet.goto(f"{live}/shelf")
    expect(quiet.get_by_role("button", name="Milk cleanser")).to_be_visible()
    quiet.keyboard.press("q")
    dialog = quiet.get_by_role("dialog", name="Quick add")
    expect(dialog.get_by_text(re.compile("^≈ .*cover about"))).to_be_visible()
    held = hold_first(quiet, "**/api/kit/described")
    dialog.get_by_label("Name").fill("Heron fluid")
    dialog.get_by_role("button", name="Add, and another").click()
    expect(quiet.get_by_text("Heron fluid is on the shelf.")).to_be_visible()
    let_go(quiet, held)
    expect(quiet.get_by_role("row", name=re.compile("^Heron fluid "))).to_have_count(1)


def test_a_stripe_that_is_still_judged_saves_nothing(quiet: Page, live: str):
    dialog = judging_by_a_stripe(quiet, live)
    stripes = dialog.get_by_role("group", name="Stripes").get_by_role("button")
    stripes.nth(1).click()
    save = dialog.get_by_role("button", name="Save this colour")
    expect(save).to_be_enabled()
    held = hold_first(quiet, "**/api/by-stripe")
    dialog.get_by_role("button", name="warmer").click()
    expect(save).to_be_disabled()
    dialog.get_by_role("button", name="lighter").click()
    expect(save).to_be_enabled()
    words = dialog.inner_text()
    let_go(quiet, held)
    assert dialog.inner_text() == words


def test_a_list_is_pasted_read_and_added(quiet: Page, live: str):
    quiet.goto(f"{live}/shelf")
    quiet.get_by_role("button", name="Paste a list").click()
    dialog = quiet.get_by_role("dialog", name="Paste a list")
    dialog.get_by_label("List of items").fill("peach corrector, pot\nsomething odd\ncoral blush pan")
    dialog.get_by_role("button", name="Read the list").click()
    read = dialog.get_by_role("list", name="As it was understood").get_by_role("listitem")
    expect(read).to_have_count(3)
    expect(read.nth(1)).to_contain_text("▲ Say what it is")
    assert serious(quiet) == []
    dialog.get_by_role("button", name="Add 2 items").click()
    expect(quiet.get_by_role("button", name="peach corrector, pot", exact=True)).to_be_visible()


def test_amounts_are_told_in_the_words_of_the_hand_until_asked_otherwise(bench: Page):
    bench.get_by_role("button", name="Menu").click()
    bench.get_by_role("menuitem", name="Tell amounts in words").click()
    order(bench).get_by_role("button").filter(has_text="Foundation").click()
    step = bench.get_by_role("region", name="Chosen step")
    portion = step.get_by_role("group", name="Portion 1")
    expect(portion).to_contain_text("a medium layer")
    expect(portion.get_by_role("textbox")).to_have_count(0)
    portion.get_by_role("button", name="less").click()
    expect(portion).to_contain_text("a light layer")
    expect(portion.get_by_role("img", name=re.compile("brow bones"))).to_be_visible()
    assert "µm" not in order(bench).inner_text()
    assert serious(bench) == []
    bench.get_by_role("button", name="Menu").click()
    bench.get_by_role("menuitem", name="Tell amounts in µm").click()
    expect(portion.get_by_role("textbox")).to_have_value("3")


def test_a_chapter_folds_and_says_its_minutes(bench: Page):
    skin = order(bench).get_by_text(re.compile(r"^Skin · \d+ min"))
    expect(order(bench).get_by_role("button").filter(has_text="Cleanse")).to_be_visible()
    skin.click()
    expect(order(bench).get_by_role("button").filter(has_text="Cleanse")).to_be_hidden()
    expect(order(bench).get_by_role("button").filter(has_text="Foundation")).to_be_visible()
