"""Everyday: things are found, plans are listed, favoured and taken to another face, and every figure says what it is."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from tests.browser.conftest import serious
from tests.browser.test_layer import order


def test_ctrl_k_finds_a_sitter_a_plan_and_an_item(quiet: Page, live: str):
    quiet.goto(live)
    expect(quiet.get_by_role("heading", name="Wren", exact=True)).to_be_visible()
    for sought, said, arrived in (
        ("tamsin", re.compile("^Tamsin for the season"), "/plans/"),
        ("isolde", re.compile("^Isolde ?sitter"), "/sitters/"),
        ("leaf green", re.compile("^Leaf green corrector"), "/shelf?item="),
    ):
        quiet.keyboard.press("Control+k")
        quiet.get_by_role("combobox", name="Find or do").fill(sought)
        found = quiet.get_by_role("option", name=said)
        expect(found).to_be_visible()
        assert serious(quiet) == []
        found.click()
        expect(quiet).to_have_url(re.compile(re.escape(arrived)))
    expect(quiet.get_by_role("region", name="Item").get_by_label("Name")).to_have_value("Leaf green corrector")


def test_a_plan_is_favoured_and_adapted_to_another_sitter(quiet: Page, live: str):
    quiet.goto(live)
    plans = quiet.get_by_role("region", name="Plans")
    expect(plans.get_by_role("link")).to_have_text(["Wren for the season"])
    expect(plans).to_contain_text(re.compile(r"Underpainted · changed \d{4}-\d\d-\d\d · \d+\s+version"))
    star = plans.get_by_role("button", name="Favourite: Wren for the season")
    star.click()
    expect(star).to_have_attribute("aria-pressed", "true")
    plans.get_by_role("button", name="Adapt to").click()
    dialog = quiet.get_by_role("dialog", name="Adapt “Wren for the season”")
    dialog.get_by_role("combobox", name="Sitter").click()
    quiet.get_by_role("option", name="Isolde").click()
    changes = dialog.get_by_role("list", name="What changes").get_by_role("listitem")
    expect(changes.filter(has_text="instead of Thin satin 2")).to_have_count(1)
    assert serious(quiet) == []
    dialog.get_by_role("button", name="Save as a plan of Isolde").click()
    expect(order(quiet)).to_be_visible()
    expect(quiet.get_by_role("heading", level=1)).to_have_text("Isolde, as Wren")


def test_a_figure_says_what_it_is(bench: Page):
    bench.get_by_role("button", name="What is “Load, % of limit”?").click()
    told = bench.get_by_text("How near the fullest zone is to looking like makeup.")
    expect(told).to_be_visible()
    assert serious(bench) == []
    bench.keyboard.press("Escape")
    expect(told).to_have_count(0)


def test_the_guide_and_about_are_in_the_menu(quiet: Page, live: str):
    quiet.goto(live)
    quiet.get_by_role("button", name="Menu").click()
    quiet.get_by_role("menuitem", name="About Nabrel").click()
    about = quiet.get_by_role("dialog", name="About Nabrel")
    expect(about).to_contain_text("SIL Open Font License")
    expect(about).to_contain_text("flask")
    assert serious(quiet) == []
    quiet.keyboard.press("Escape")
    quiet.get_by_role("button", name="Menu").click()
    quiet.get_by_role("menuitem", name="Guide", exact=True).click()
    expect(quiet.get_by_role("heading", name="A first plan, step by step")).to_be_visible()
    pictures = quiet.locator("article img")
    assert pictures.count() >= 6
    for picture in pictures.all():
        assert picture.evaluate("each => each.decode().then(() => each.naturalWidth)") > 600
    assert serious(quiet) == []


def test_the_swap_list_shows_what_one_would_consider_and_folds_the_rest(bench: Page):
    order(bench).get_by_role("button").filter(has_text="Foundation").click()
    bench.get_by_role("button", name="Swap the product").click()
    rows = bench.get_by_role("row")
    expect(bench.get_by_role("button", name="Thin satin 3")).to_be_visible()
    few = rows.count()
    bench.get_by_role("button", name=re.compile(r"\d+ more: another depth")).click()
    expect(bench.get_by_role("button", name="Thin satin 8")).to_be_visible()
    assert rows.count() > few


def test_the_rule_book_has_an_index_with_what_speaks_first(quiet: Page, live: str):
    first = quiet.request.get(f"{live}/api/sitters").json()["sitters"][0]
    plan = quiet.request.get(f"{live}/api/sequences/{first['sequence_id']}").json()
    step = next(each for each in plan["steps"] if each["kind"] == "foundation")
    quiet.request.post(
        f"{live}/api/sequences/{plan['id']}/edits",
        data={
            "revision": plan["revision"],
            "edits": [{"edit": "hand", "step": step["id"], "portion": 0, "motion": "drag"}],
        },
    )
    quiet.goto(f"{live}/house?plan={plan['id']}")
    index = quiet.get_by_role("navigation", name="Families")
    speaking = index.get_by_role("button", name=re.compile("▲"))
    expect(speaking.first).to_be_visible()
    family = speaking.first.inner_text().split("▲")[0].strip().lower()
    expect(quiet.locator("main section h2").first).to_have_text(re.compile(family, re.I))
    whole = quiet.locator("main section").count()
    speaking.first.click()
    expect(quiet.locator("main section")).to_have_count(1)
    assert whole > 5
    assert serious(quiet) == []
