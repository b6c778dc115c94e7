"""The Shelf room: searched, an item written with its film in view, a table looked at before it is taken in."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from playwright.sync_api import Locator, Page, expect

from tests.browser.conftest import each_screen, serious


@pytest.fixture
def shelf(quiet: Page, live: str) -> Page:
    """The Shelf room with the demo's kit box."""
    quiet.goto(f"{live}/shelf")
    expect(quiet.get_by_role("searchbox", name="Search the shelf")).to_be_visible()
    return quiet


def rows(page: Page) -> Locator:
    return page.get_by_role("table").get_by_role("row")


def test_the_shelf_is_searched_and_filtered_by_role(shelf: Page):
    shelf.keyboard.press("/")
    shelf.keyboard.type("thin satin")
    expect(shelf.get_by_text(re.compile("^8 of "))).to_be_visible()
    shelf.get_by_role("searchbox").fill("")
    shelf.get_by_role("combobox", name=re.compile("^Role")).click()
    shelf.get_by_role("option", name="corrector").click()
    expect(rows(shelf)).to_have_count(9)


def test_an_item_is_written_with_its_film_in_view_and_kept(shelf: Page):
    shelf.keyboard.press("n")
    form = shelf.get_by_role("region", name="Item")
    expect(form.get_by_role("button", name="Save item")).to_be_disabled()
    expect(form.get_by_role("img", name=re.compile("contrast ratio 50 %"))).to_be_visible()
    form.get_by_role("spinbutton", name="Cover in percent").fill("80")
    form.get_by_role("spinbutton", name="Cover in percent").press("Tab")
    expect(form.get_by_role("img", name=re.compile("contrast ratio 80 %"))).to_be_visible()
    form.get_by_label("Name").fill("Harbour satin")
    form.get_by_label("Ingredients, pasted from the pack").fill("Aqua, Glycerin, Parfum")
    form.get_by_label("Ingredients, pasted from the pack").press("Tab")
    expect(form).to_contain_text("Water-based, read from Aqua")
    expect(form).to_contain_text("fragrance")
    expect(form.get_by_role("combobox", name="Base: water")).to_be_visible()
    assert serious(shelf) == []
    form.get_by_role("button", name="Save item").click()
    expect(shelf.get_by_role("button", name="Harbour satin")).to_be_visible()
    shelf.reload()
    shelf.get_by_role("button", name="Harbour satin").click()
    shelf.get_by_role("button", name="Remove item").click()
    expect(shelf.get_by_role("button", name="Harbour satin")).to_have_count(0)


def test_a_table_is_looked_at_before_it_is_taken_in(shelf: Page, tmp_path: Path):
    table = tmp_path / "from-the-office.csv"
    table.write_text(
        "id;role;name;texture;base;lab_l;lab_a;lab_b;cover\n"
        "quay-1;foundation;Quay satin;liquid;silicone;64;10,5;17;0,5\n"
        "quay-2;foundatoin;Quay matt;liquid;silicone;64;10;17;0,5\n",
        encoding="utf-8",
    )
    shelf.get_by_label("Kit table").set_input_files(table)
    dialog = shelf.get_by_role("dialog", name="Before the import")
    expect(dialog).to_contain_text("1 row can be taken in, 1 cannot")
    expect(dialog).to_contain_text("nearest: foundation")
    assert serious(shelf) == []
    dialog.get_by_role("button", name="Take in 1 row").click()
    expect(shelf.get_by_role("button", name="Quay satin")).to_be_visible()
    expect(shelf.get_by_role("button", name="Quay matt")).to_have_count(0)


def test_the_shelf_goes_out_as_a_table(shelf: Page, tmp_path: Path):
    with shelf.expect_download() as download:
        shelf.get_by_role("link", name="Export CSV").click()
    download.value.save_as(tmp_path / "kit.csv")
    assert (tmp_path / "kit.csv").read_text(encoding="utf-8").startswith("id,role,name")


def test_an_empty_shelf_says_what_happens_then(quiet: Page, live_empty: str):
    quiet.goto(f"{live_empty}/shelf")
    expect(quiet.get_by_text("The shelf is empty: plans use a generic kit")).to_be_visible()
    assert serious(quiet) == []


def test_the_page_never_overflows_sideways(shelf: Page):
    for _ in each_screen(shelf):
        shelf.get_by_role("button", name="Thin satin 3").click()
        expect(shelf.get_by_role("region", name="Item")).to_be_visible()


def test_cover_is_measured_instead_of_guessed(shelf: Page):
    shelf.get_by_role("button", name="Thin satin 3").click()
    form = shelf.get_by_role("region", name="Item")
    form.get_by_text("Measured instead of guessed").click()
    form.get_by_role("spinbutton", name="L* over black").fill("30")
    form.get_by_role("spinbutton", name="L* over black").press("Tab")
    form.get_by_role("button", name="Work out colour and cover").click()
    expect(form.get_by_role("spinbutton", name="Cover in percent")).not_to_have_value("50")


def test_an_item_that_scatters_more_blue_greys_deep_skin_in_its_picture(shelf: Page):
    shelf.get_by_role("button", name="Thin satin 3").click()
    form = shelf.get_by_role("region", name="Item")
    on_deep_skin = form.get_by_role("img", name=re.compile("on light and deep skin")).locator("rect").last
    usual = on_deep_skin.get_attribute("fill")
    exponent = form.get_by_role("spinbutton", name=re.compile("^Scattering exponent"))
    expect(exponent).to_have_value("")
    exponent.fill("3.5")
    exponent.press("Tab")
    expect(on_deep_skin).not_to_have_attribute("fill", str(usual))
    greyer = on_deep_skin.get_attribute("fill")
    red, _, blue = (int(str(usual)[at : at + 2], 16) for at in (1, 3, 5))
    red_then, _, blue_then = (int(str(greyer)[at : at + 2], 16) for at in (1, 3, 5))
    assert red_then - blue_then < red - blue
    with shelf.expect_response(lambda answer: answer.request.method == "PUT"):
        form.get_by_role("button", name="Save item").click()
    shelf.reload()
    shelf.get_by_role("button", name="Thin satin 3").click()
    expect(exponent).to_have_value("3.5")


def choose(page: Page, box: str, option: str) -> None:
    page.get_by_role("combobox", name=re.compile(f"^{box}")).click()
    page.get_by_role("option", name=option).click()


def test_the_shelf_is_filtered_by_texture_base_and_depth(shelf: Page):
    choose(shelf, "Texture", "pressed powder")
    for row in rows(shelf).all()[1:]:
        expect(row).to_contain_text("pressed powder, powder")
    choose(shelf, "Texture", "Every texture")
    choose(shelf, "Depth", "very light")
    expect(shelf.get_by_role("button", name="Thin satin 8")).to_have_count(0)
    choose(shelf, "Base", "water")
    expect(rows(shelf).filter(has_text="silicone")).to_have_count(0)


def test_what_ends_soon_is_over_or_runs_low_is_said(shelf: Page):
    expect(rows(shelf).filter(has_text="Clear sunscreen")).to_contain_text("◆ Use within")
    expect(rows(shelf).filter(has_text="Calm lotion")).to_contain_text("▲ Expired")
    expect(rows(shelf).filter(has_text="Thinning balm")).to_contain_text("● Running low: 10 % left")
    assert serious(shelf) == []


def test_a_kit_is_named_filled_and_taken_apart(shelf: Page):
    shelf.get_by_role("button", name="New kit").click()
    shelf.get_by_label("Name of the kit").fill("Lamp room")
    shelf.get_by_role("button", name="Begin it").click()
    shelf.get_by_role("checkbox", name="Milk cleanser in Lamp room").check()
    expect(shelf.get_by_text("1 item", exact=True)).to_be_visible()
    shelf.get_by_role("checkbox", name="Only what is in it").check()
    expect(rows(shelf)).to_have_count(2)
    assert serious(shelf) == []
    shelf.get_by_role("button", name="Delete kit").click()
    expect(shelf.get_by_role("combobox", name="Kit: Whole shelf")).to_be_visible()


def test_tools_say_whether_they_are_ready_and_are_washed(shelf: Page):
    expect(shelf.get_by_role("button", name="Tools ▲ 2 not ready")).to_be_visible()
    shelf.keyboard.press("t")
    dialog = shelf.get_by_role("dialog", name="Tools")
    feather = dialog.get_by_role("row").filter(has_text="Feathery brush")
    expect(feather).to_contain_text("not dry yet")
    feather.get_by_role("combobox").click()
    shelf.get_by_role("option", name="Clean").click()
    expect(feather).to_contain_text("✓")
    assert serious(shelf) == []
    dialog.get_by_role("button", name="Add tool").click()
    expect(dialog.get_by_role("row")).to_have_count(12)


def test_two_items_that_are_one_are_offered_for_merging(shelf: Page, tmp_path: Path):
    table = tmp_path / "twin.csv"
    table.write_text("id,role,name,texture,base,ml\ncle-9,cleanser,Milk cleanser,liquid,water,200\n", encoding="utf-8")
    shelf.get_by_label("Kit table").set_input_files(table)
    shelf.get_by_role("dialog").get_by_role("button", name="Take in 1 row").click()
    shelf.get_by_text("Two items may be one and the same").click()
    shelf.get_by_role("button", name="Merge, keep cle-1").click()
    expect(shelf.get_by_text("Two items may be one and the same")).to_have_count(0)
    expect(shelf.get_by_role("button", name="Milk cleanser")).to_have_count(1)
