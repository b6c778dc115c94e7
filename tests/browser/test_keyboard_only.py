"""The workbench without a mouse: reached, worked and left by keys alone, with the focus always in sight."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import serious, switch_room
from tests.browser.test_layer import AMOUNT, chosen, order


def focused(page: Page) -> str:
    """The name of what has the focus."""
    found: str = page.evaluate(
        "(document.activeElement?.getAttribute('aria-label') ?? document.activeElement?.innerText ?? '').trim()"
    )
    return found


def tab_to(page: Page, name: str, most: int = 160) -> None:
    """Press Tab until something of this name has the focus."""
    for _ in range(most):
        page.keyboard.press("Tab")
        if re.match(name, focused(page)):
            return
    raise AssertionError(f"{name} is not reached by Tab")


def to_step(page: Page, kind: str) -> None:
    """Go from the finished base down to the last step of a kind, by arrow keys."""
    page.keyboard.press("End")
    heading = chosen(page).get_by_role("heading", level=2)
    for _ in range(40):
        if kind in heading.inner_text():
            return
        before = heading.inner_text()
        page.keyboard.press("ArrowLeft")
        expect(heading).not_to_have_text(before)
    raise AssertionError(f"no {kind} in the order")


def swap_by_keys(page: Page) -> None:
    """A foundation of full cover instead, by keys alone."""
    to_step(page, "Foundation")
    tab_to(page, "Swap the product")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="Full matt 2")).to_be_visible()
    assert serious(page) == []
    tab_to(page, "Full matt 2|Use Full matt 2")
    page.keyboard.press("Enter")


def test_from_the_sitters_to_a_plan(quiet: Page, live: str):
    quiet.goto(live)
    expect(quiet.get_by_role("heading", name="Wren", exact=True)).to_be_visible()
    tab_to(quiet, "Open the plan")
    quiet.keyboard.press("Enter")
    expect(order(quiet)).to_be_visible()


def test_every_control_of_a_plan_shows_its_focus(bench: Page):
    """A ring of two pixels, or the room's own mark, on whatever Tab reaches in the first rounds."""
    for _ in range(30):
        bench.keyboard.press("Tab")
        outline = bench.evaluate(
            "(() => { const style = getComputedStyle(document.activeElement);"
            " return [style.outlineStyle, parseFloat(style.outlineWidth), style.boxShadow]; })()"
        )
        assert outline[0] != "none" or outline[2] != "none", focused(bench)
        assert outline[1] >= 1 or outline[2] != "none", focused(bench)


def test_an_amount_is_set_by_keys(bench: Page):
    to_step(bench, "Foundation")
    before = bench.get_by_label(AMOUNT).input_value()
    tab_to(bench, "Amount, portion 1: more$")
    bench.keyboard.press("Enter")
    expect(bench.get_by_label(AMOUNT)).not_to_have_value(before)
    bench.keyboard.press("Control+z")
    expect(bench.get_by_label(AMOUNT)).to_have_value(before)
    bench.keyboard.press("Control+y")
    expect(bench.get_by_label(AMOUNT)).not_to_have_value(before)


def test_a_tool_and_a_motion_are_chosen_by_keys(bench: Page):
    to_step(bench, "Foundation")
    tab_to(bench, "Tool, portion 1: ")
    bench.keyboard.press("Enter")
    expect(bench.get_by_role("listbox")).to_be_visible()
    bench.keyboard.press("Home")
    bench.keyboard.press("Enter")
    expect(chosen(bench).get_by_role("combobox", name="Tool, portion 1: fingers")).to_be_visible()
    expect(bench.get_by_role("button", name="Undo")).to_be_enabled()


def test_a_product_is_swapped_by_keys(bench: Page):
    swap_by_keys(bench)
    expect(chosen(bench)).to_contain_text("Full matt 2")


def test_a_dialog_keeps_the_focus_and_gives_it_back(bench: Page):
    tab_to(bench, "Wishes")
    bench.keyboard.press("Enter")
    dialog = bench.get_by_role("dialog", name=re.compile("Wishes"))
    expect(dialog).to_be_visible()
    for _ in range(60):
        bench.keyboard.press("Tab")
        assert bench.evaluate("Boolean(document.activeElement?.closest('[role=\"dialog\"]'))")
    bench.keyboard.press("Escape")
    expect(dialog).to_have_count(0)
    expect(bench.get_by_role("button", name="Wishes")).to_be_focused()


def test_a_finding_is_mended_by_keys(bench: Page):
    swap_by_keys(bench)
    findings = bench.get_by_role("region", name="Findings", exact=True)
    expect(findings).to_contain_text("is lost")
    fix = findings.get_by_role("button", name=re.compile("instead, cover")).first
    fix.focus()
    bench.keyboard.press("Enter")
    expect(findings).not_to_contain_text("The light is lost")


def test_the_base_is_built_before_a_class_by_keys(bench: Page):
    bench.keyboard.press("Home")
    bench.keyboard.press("p")
    shown = bench.get_by_role("region", name="The step shown")
    expect(shown).to_contain_text("Bare skin")
    bench.keyboard.press("b")
    expect(shown).to_contain_text("1. Cleanse")
    expect(shown).to_contain_text("2. ")
    bench.keyboard.press("b")
    bench.keyboard.press("Escape")
    expect(order(bench)).to_be_visible()


@pytest.mark.parametrize(("width", "height"), [(1280, 800), (1920, 1080)])
def test_candidates_are_weighed_and_taken_by_keys(bench: Page, width: int, height: int):
    bench.set_viewport_size({"width": width, "height": height})
    bench.keyboard.press("g")
    expect(bench.get_by_role("region", name="Candidate B")).to_be_visible()
    bench.keyboard.press("a")
    expect(bench.get_by_role("region", name="Candidate C")).to_be_visible()
    tab_to(bench, "School of C")
    bench.keyboard.press("Enter")
    bench.keyboard.press("End")
    bench.keyboard.press("Enter")
    expect(bench.get_by_role("combobox", name="School of C: Doubled")).to_be_visible()
    assert serious(bench) == []
    tab_to(bench, "Take C")
    bench.keyboard.press("Enter")
    expect(bench.get_by_role("combobox", name="School: Doubled")).to_be_visible()


def test_four_candidates_are_accessible_in_the_dark_room_and_on_paper(bench: Page):
    switch_room(bench)
    bench.keyboard.press("g")
    expect(bench.get_by_role("region", name="Candidate B")).to_be_visible()
    for letter in "CD":
        bench.keyboard.press("a")
        expect(bench.get_by_role("region", name=f"Candidate {letter}")).to_be_visible()
    assert serious(bench) == []
    bench.emulate_media(media="print")
    expect(bench.get_by_role("button", name="Take B")).to_be_hidden()
    expect(bench.get_by_role("region", name="Figures that differ")).to_be_visible()
    expect(bench.get_by_role("group", name="Section of D")).to_be_visible()
