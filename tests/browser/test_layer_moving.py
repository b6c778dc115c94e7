"""Moving layers in the order and in the section, adding them from the palette, and what a cell tells."""

from __future__ import annotations

import re

from playwright.sync_api import Locator, Page, expect

from tests.browser.conftest import each_screen, serious
from tests.browser.test_layer import choose, chosen, order
from tests.making import zones_of


def held(page: Page) -> Locator:
    return page.get_by_role("status", name="The step that is held")


def names(page: Page) -> list[str]:
    return [text.split("\n")[1] for text in order(page).get_by_role("button").all_inner_texts()[1:]]


def row(page: Page, kind: str) -> Locator:
    return order(page).get_by_role("button").filter(has_text=kind).first


def middle(place: Locator) -> tuple[float, float]:
    box = place.bounding_box()
    assert box
    return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2


def drag(page: Page, start: tuple[float, float], *to: tuple[float, float]) -> None:
    """Press, wait until the step is picked up, and hold it over the last place."""
    page.mouse.move(*start)
    page.mouse.down()
    page.mouse.move(start[0], start[1] + 8)
    expect(held(page)).to_be_visible()
    for x, y in to:
        page.mouse.move(x, y)


def test_a_step_is_carried_with_the_keyboard_and_tried_on_its_way(bench: Page):
    choose(bench, "Shade")
    before = names(bench)
    bench.keyboard.press("x")
    expect(held(bench)).to_contain_text("where it stands")
    bench.keyboard.press("ArrowDown")
    bench.keyboard.press("ArrowDown")
    expect(held(bench)).to_contain_text("Advice comes: ")
    expect(held(bench)).to_contain_text("The look moves by up to")
    expect(order(bench)).to_contain_text("here")
    assert serious(bench) == []
    bench.keyboard.press("Enter")
    expect(held(bench)).to_have_count(0)
    expect(bench.get_by_role("button", name="Undo")).to_have_attribute("title", "Undo: Moved shade")
    after = names(bench)
    assert after.index("Shade") == before.index("Shade") + 2
    expect(row(bench, "Shade")).to_contain_text("clashes with 9")


def test_an_impossible_place_is_refused_with_its_reason(bench: Page):
    choose(bench, "Crease check")
    bench.keyboard.press("x")
    expect(held(bench)).to_be_visible()
    bench.keyboard.press("Home")
    expect(held(bench)).to_contain_text("Not possible. Crease check: nothing lies")
    expect(order(bench)).to_contain_text("not here")
    expect(bench.get_by_role("button", name="Put it there")).to_be_disabled()
    assert serious(bench) == []
    bench.keyboard.press("Enter")
    expect(bench.get_by_role("alert")).to_contain_text("Not there. Crease check")
    expect(bench.get_by_role("button", name="Undo")).to_be_disabled()


def test_a_held_step_is_left_where_it_was(bench: Page):
    choose(bench, "Glow")
    bench.keyboard.press("x")
    expect(held(bench)).to_be_visible()
    bench.get_by_role("button", name="Earlier", exact=True).last.click()
    expect(held(bench)).to_contain_text("before")
    bench.get_by_role("button", name="Leave it where it was").click()
    expect(held(bench)).to_have_count(0)
    expect(bench.get_by_role("button", name="Undo")).to_be_disabled()


def test_a_step_is_dragged_in_the_order(bench: Page):
    before = names(bench)
    row(bench, "Glow").scroll_into_view_if_needed()
    x, y = middle(row(bench, "Colour"))
    drag(bench, middle(row(bench, "Glow")), (x, y - 6))
    expect(held(bench)).to_contain_text(re.compile("before 14, colour"))
    bench.mouse.up()
    expect(bench.get_by_role("button", name="Undo")).to_have_attribute("title", "Undo: Moved glow")
    after = names(bench)
    assert after.index("Glow") == before.index("Colour")
    assert sorted(after) == sorted(before)


def test_a_drag_over_an_impossible_place_is_put_back(bench: Page):
    before = names(bench)
    row(bench, "Crease check").scroll_into_view_if_needed()
    start = middle(row(bench, "Crease check"))
    drag(bench, start, (start[0], 110))
    expect(held(bench)).to_contain_text("before")
    order(bench).evaluate("list => list.scrollTo(0, 0)")
    bench.mouse.move(start[0], 112)
    expect(held(bench)).to_contain_text("Not possible.")
    bench.mouse.up()
    expect(bench.get_by_role("alert")).to_contain_text("Not there.")
    assert names(bench) == before


def test_escape_ends_a_drag(bench: Page):
    row(bench, "Glow").scroll_into_view_if_needed()
    x, y = middle(row(bench, "Glow"))
    drag(bench, (x, y), (x, y - 90))
    expect(held(bench)).to_contain_text("before")
    bench.keyboard.press("Escape")
    expect(held(bench)).to_have_count(0)
    bench.mouse.up()
    expect(bench.get_by_role("button", name="Undo")).to_be_disabled()


def test_a_layer_is_dragged_in_the_section(bench: Page):
    cell = bench.get_by_role("group", name="Section through the base").locator("g.cursor-grab:has(rect[fill])")
    # The colour on the left cheek apple is the topmost cell of its column.
    choose(bench, "Colour")
    marked = cell.filter(has=bench.locator("rect[stroke='var(--accent)']")).first
    x, y = middle(marked)
    drag(bench, (x, y), (x, y + 40))
    expect(held(bench)).to_contain_text("Colour")
    expect(held(bench)).to_contain_text(re.compile(r"before \d+, (foundation|spot conceal|conceal)"))
    bench.mouse.up()
    expect(bench.get_by_role("button", name="Undo")).to_have_attribute("title", "Undo: Moved colour")


def test_a_cell_tells_its_whole_story(bench: Page):
    section = bench.get_by_role("group", name="Section through the base")
    section.focus()
    for _ in range(11):
        bench.keyboard.press("ArrowRight")
    bench.keyboard.press("ArrowUp")
    expect(section).to_contain_text(re.compile(r"layer \d of \d here"))
    expect(section).to_contain_text("Why here. Read:")
    expect(section).to_contain_text("of what this zone carries, all layers together")
    expect(section).to_contain_text(re.compile("#[0-9a-f]{6} → #[0-9a-f]{6}"))
    assert serious(bench) == []


def test_zones_are_picked_in_the_section_and_split_off(bench: Page):
    choose(bench, "Shade")
    section = bench.get_by_role("group", name="Section through the base")
    section.locator('[data-zone="temple_l"]').click()
    expect(chosen(bench).get_by_role("button", name="Temple, left")).to_have_attribute("aria-pressed", "true")
    section.focus()
    bench.keyboard.press("ArrowRight")
    bench.keyboard.press("ArrowRight")
    bench.keyboard.press("ArrowRight")
    bench.keyboard.press("ArrowRight")
    bench.keyboard.press("Space")
    expect(chosen(bench).get_by_role("button", name="Temple, right")).to_have_attribute("aria-pressed", "true")
    chosen(bench).get_by_role("button", name="Split into a step").click()
    expect(order(bench).get_by_role("button").filter(has_text="Shade")).to_have_count(2)


def test_a_step_comes_from_the_palette(bench: Page):
    bench.keyboard.press("a")
    dialog = bench.get_by_role("dialog", name="Add a step")
    kinds = dialog.get_by_role("group", name="Kinds of step")
    expect(kinds.get_by_role("button", name="Foundation")).to_contain_text("×1")
    assert serious(bench) == []
    kinds.get_by_role("button", name="Setting mist").click()
    places = dialog.get_by_role("list", name="Places").get_by_role("listitem")
    expect(places.first).to_be_visible()
    expect(dialog.get_by_role("combobox", name=re.compile("^With"))).to_be_visible()
    kinds.get_by_role("button", name="Melting mist").click()
    expect(places.last).to_contain_text("Not possible.")
    expect(places.last.get_by_role("button")).to_have_count(0)
    kinds.get_by_role("button", name="Setting mist").click()
    expect(places.last).to_contain_text("for the mist to hold")
    places.first.get_by_role("button").click()
    expect(chosen(bench).get_by_role("heading", level=2)).to_contain_text("Setting mist")


def test_the_palette_says_what_the_kit_lacks(bench: Page, live: str):
    mists = [
        item["id"] for item in bench.request.get(f"{live}/api/kit").json()["items"] if item["role"] == "setting_mist"
    ]
    for each in mists:
        assert bench.request.delete(f"{live}/api/kit/items/{each}").ok
    sitter = bench.request.get(f"{live}/api/sitters").json()["sitters"][0]["id"]
    plan = bench.request.post(f"{live}/api/sitters/{sitter}/sequences", data={}).json()["id"]
    bench.goto(f"{live}/plans/{plan}")
    expect(order(bench)).to_be_visible()
    bench.keyboard.press("a")
    dialog = bench.get_by_role("dialog", name="Add a step")
    expect(dialog).to_contain_text("Not offered: setting mist (the kit has no setting mist)")
    expect(dialog.get_by_role("button", name="Setting mist")).to_be_disabled()


def test_carrying_a_step_fits_every_screen(bench: Page):
    choose(bench, "Glow")
    bench.keyboard.press("x")
    expect(held(bench)).to_be_visible()
    bench.keyboard.press("ArrowUp")
    expect(held(bench)).to_contain_text("The look")
    for width, _ in each_screen(bench):
        box = held(bench).bounding_box()
        assert box
        assert box["x"] >= 0
        assert box["x"] + box["width"] <= width


def test_a_zone_picked_in_the_section_is_added_to_the_step(bench: Page):
    choose(bench, "Colour")
    section = bench.get_by_role("group", name="Section through the base")
    section.locator('[data-zone="cheekbone_l"]').click()
    chosen(bench).get_by_role("button", name="Lay it on cheekbone, left, too").click()
    expect(chosen(bench).get_by_role("button", name="Cheekbone, left", exact=True)).to_be_visible()
    expect(bench.get_by_role("button", name="Undo")).to_have_attribute("title", re.compile("^Undo: Colour: on both"))


def test_a_wait_is_set_and_judged(bench: Page):
    choose(bench, "Moisturise")
    wait = bench.get_by_label("Wait in s")
    expect(wait).to_have_value("60")
    wait.fill("30")
    wait.press("Enter")
    expect(bench.get_by_role("button", name="Undo")).to_have_attribute("title", "Undo: Moisturise: wait 30 s")
    expect(wait).to_have_value("30")
    expect(row(bench, "Moisturise")).to_contain_text("30 s")
    wait.fill("99999")
    wait.press("Enter")
    expect(wait).to_have_value("30")
    chosen(bench).get_by_role("button", name="Wait: more").click()
    expect(wait).to_have_value("40")


def test_forty_steps_stay_readable(bench: Page, live: str):
    """A plan split into forty steps: the order scrolls, every layer has a cell, and nothing runs over."""
    plan = bench.url.rsplit("/", 1)[1]
    now = bench.request.get(f"{live}/api/sequences/{plan}").json()
    while len(now["steps"]) < 40:
        wide = max((s for s in now["steps"] if s["unit"] == "um"), key=lambda step: len(zones_of(step)))
        edit = {"edit": "split", "step": wide["id"], "zones": zones_of(wide)[: len(zones_of(wide)) // 2]}
        body = {"revision": now["revision"], "edits": [edit]}
        now = bench.request.post(f"{live}/api/sequences/{plan}/edits", data=body).json()
    bench.reload()
    expect(order(bench).get_by_role("button")).to_have_count(41)
    expect(bench.get_by_role("slider", name="Layer shown")).to_have_attribute("max", "39")
    assert bench.evaluate("[document.documentElement.scrollWidth, document.documentElement.scrollHeight]") == [
        1280,
        800,
    ]
    row(bench, "Light check").scroll_into_view_if_needed()
    bench.get_by_role("combobox", name=re.compile("^Scale")).click()
    bench.get_by_role("option", name="To the films").click()
    tall = bench.locator("g.cursor-grab > rect:first-child").evaluate_all(
        "cells => cells.map((cell) => cell.getBoundingClientRect().height)"
    )
    laid = sum(film > 0 for row in now["film"] for film in row) + sum(mg > 0 for row in now["powder"] for mg in row)
    assert len(tall) == laid
    assert sorted(tall)[len(tall) // 10] > 4
    assert serious(bench) == []
