"""The Layer workbench, driven as an educator would."""

from __future__ import annotations

import json
import re
from pathlib import Path

from playwright.sync_api import Locator, Page, expect

from tests.browser.conftest import each_screen, hold_first, let_go, serious, switch_room

AMOUNT = "Amount, portion 1 in µm"
"""The amount of the first of several portions, as it is labelled."""
MORE = "Amount, portion 1: more"
LESS = "Amount, portion 1: less"


def order(page: Page) -> Locator:
    return page.get_by_role("list", name="Order of steps")


def choose(page: Page, kind: str) -> None:
    order(page).get_by_role("button").filter(has_text=kind).first.click()
    expect(page.get_by_role("region", name="Chosen step").get_by_role("heading", level=2)).to_contain_text(kind)


def school(page: Page, name: str) -> None:
    page.get_by_role("combobox", name=re.compile("^School")).click()
    page.get_by_role("option", name=name).click()


def chosen(page: Page) -> Locator:
    return page.get_by_role("region", name="Chosen step")


def test_a_step_says_why_it_is_there_on_this_face(bench: Page):
    choose(bench, "Eye cream")
    expect(chosen(bench)).to_contain_text("Creping 2 and fine lines 2 under both eyes")
    expect(chosen(bench)).to_contain_text("Before going on, look for")
    expect(chosen(bench)).to_contain_text("Dry zones are moisturised before anything covers them.")


def test_the_shade_fades_when_a_fuller_foundation_is_chosen(bench: Page):
    choose(bench, "Shade")
    through = chosen(bench).get_by_text("Reads through:")
    before = int(re.search(r"(\d+) %", through.inner_text()).group(1))
    choose(bench, "Foundation")
    bench.get_by_role("button", name="Swap the product").click()
    bench.get_by_role("button", name="Full matt 2").click()
    expect(bench.get_by_role("region", name="Findings")).to_contain_text("The light is lost")
    expect(bench.get_by_text("Foundation: Thin satin 2 becomes Full matt 2.")).to_be_visible()
    choose(bench, "Shade")
    expect(through).not_to_contain_text(f"{before} %")
    after = int(re.search(r"(\d+) %", through.inner_text()).group(1))
    assert after <= before / 1.5


def test_a_fix_is_one_action(bench: Page):
    choose(bench, "Foundation")
    bench.get_by_role("button", name="Swap the product").click()
    bench.get_by_role("button", name="Full matt 2").click()
    findings = bench.get_by_role("region", name="Findings")
    findings.get_by_role("button", name=re.compile("instead, cover")).first.click()
    expect(findings).to_contain_text("Nothing to fix")


def test_an_amount_is_edited_and_everything_follows(bench: Page):
    choose(bench, "Foundation")
    amount = bench.get_by_label(AMOUNT)
    amount.fill("30")
    amount.press("Enter")
    expect(bench.get_by_role("region", name="Findings")).to_contain_text("carries")
    expect(bench.get_by_role("region", name="Findings")).to_contain_text("30 µm of foundation in one pass.")
    bench.get_by_role("button", name="Undo").click()
    expect(bench.get_by_role("region", name="Findings")).to_contain_text("Nothing to fix")
    expect(amount).to_have_value("4.5")
    bench.get_by_role("button", name="Redo").click()
    expect(amount).to_have_value("30")


def test_an_impossible_amount_is_put_back_and_a_decimal_comma_understood(bench: Page):
    choose(bench, "Foundation")
    amount = bench.get_by_label(AMOUNT)
    for typed in ("-3", "abc", "", "99999"):
        amount.fill(typed)
        amount.press("Enter")
        expect(amount).to_have_value("4.5")
        expect(bench.get_by_role("button", name="Undo")).to_be_disabled()
    amount.fill("4,5")
    amount.press("Enter")
    expect(amount).to_have_value("4.5")


def test_a_motion_is_changed_and_the_rule_speaks(bench: Page):
    choose(bench, "Foundation")
    bench.get_by_role("combobox", name="Motion, portion 1: press").click()
    bench.get_by_role("option", name="drag").click()
    expect(bench.get_by_role("region", name="Findings")).to_contain_text("Drag has shear 3")
    expect(bench.get_by_role("combobox", name="Motion, portion 1: drag")).to_be_visible()


def test_a_school_is_seen_before_it_is_kept(bench: Page):
    school(bench, "Overpainted")
    dialog = bench.get_by_role("dialog")
    expect(dialog).to_contain_text("Shade goes over the foundation.")
    assert serious(bench) == []
    dialog.get_by_role("button", name="Leave it as it is").click()
    expect(bench.get_by_role("combobox", name="School: Underpainted")).to_be_visible()
    school(bench, "Overpainted")
    bench.get_by_role("button", name="Take it").click()
    expect(bench.get_by_role("combobox", name="School: Overpainted")).to_be_visible()
    names = order(bench).get_by_role("button").all_inner_texts()
    assert next(i for i, n in enumerate(names) if "Shade" in n) > next(
        i for i, n in enumerate(names) if "Foundation" in n
    )
    bench.get_by_role("button", name="Undo").click()
    expect(bench.get_by_role("combobox", name="School: Underpainted")).to_be_visible()


def test_setting_is_one_control(bench: Page):
    bench.get_by_role("combobox", name=re.compile("^Setting")).click()
    bench.get_by_role("option", name="No powder").click()
    expect(bench.get_by_role("dialog")).to_contain_text("Leaves out")
    bench.get_by_role("button", name="Take it").click()
    expect(order(bench).get_by_role("button").filter(has_text="Fine veil powder")).to_have_count(0)


def test_layers_are_scrubbed_with_the_keyboard(bench: Page):
    slider = bench.get_by_role("slider", name="Layer shown")
    bench.keyboard.press("Home")
    expect(bench.get_by_role("region", name="Bare skin")).to_be_visible()
    expect(bench.get_by_role("img", name="Wren, bare skin, in daylight")).to_be_visible()
    bench.keyboard.press("ArrowRight")
    expect(chosen(bench).get_by_role("heading", level=2)).to_have_text("1. Cleanse")
    bench.keyboard.press("End")
    expect(slider).to_have_attribute("aria-valuetext", "after light check")


def test_the_section_is_walked_with_the_keyboard(bench: Page):
    section = bench.get_by_role("group", name="Section through the base")
    section.focus()
    bench.keyboard.press("ArrowRight")
    bench.keyboard.press("ArrowRight")
    expect(bench.get_by_text("Hairline · Foundation, Thin satin 2 · 0.7 µm", exact=False)).to_be_visible()
    bench.keyboard.press("Enter")
    expect(chosen(bench)).to_contain_text("what the tool still holds")


def test_steps_are_moved_and_taken_out_by_keyboard(bench: Page):
    choose(bench, "Colour")
    bench.keyboard.press("Alt+ArrowDown")
    expect(bench.get_by_role("button", name="Undo")).to_have_attribute("title", "Undo: Moved colour")
    bench.keyboard.press("Delete")
    expect(order(bench).get_by_role("button").filter(has_text="Soft rose colour")).to_have_count(0)
    bench.keyboard.press("Control+z")
    expect(order(bench).get_by_role("button").filter(has_text="Soft rose colour")).to_have_count(1)


def test_another_light_recolours_the_face(bench: Page):
    swatch = bench.locator("svg[role=img] path[fill^='#']").nth(3)
    before = swatch.get_attribute("fill")
    bench.get_by_role("combobox", name=re.compile("^Light")).click()
    bench.get_by_role("option", name="Warm lamp").click()
    expect(bench.get_by_role("img", name="in warm lamp", exact=False)).to_be_visible()
    expect(swatch).not_to_have_attribute("fill", before or "")


def test_a_plan_survives_a_reload(bench: Page):
    choose(bench, "Foundation")
    bench.get_by_label(AMOUNT).fill("5")
    bench.get_by_label(AMOUNT).press("Enter")
    expect(bench.get_by_role("button", name="Undo")).to_be_enabled()
    bench.reload()
    expect(bench.get_by_role("button", name="Undo")).to_have_attribute(
        "title", re.compile("^Undo: Foundation .*: 4.5 to 5 µm")
    )


def test_a_stale_tab_is_told_and_overwrites_nothing(bench: Page):
    other = bench.context.new_page()
    other.goto(bench.url)
    choose(other, "Foundation")
    other.get_by_label(AMOUNT).fill("5")
    other.get_by_label(AMOUNT).press("Enter")
    expect(other.get_by_role("button", name="Undo")).to_be_enabled()
    choose(bench, "Colour")
    bench.get_by_role("button", name="Take this step out").click()
    expect(bench.get_by_role("alert")).to_contain_text("changed in another tab")
    bench.get_by_role("button", name="Show the newest").click()
    expect(bench.get_by_role("button", name="Undo")).to_have_attribute(
        "title", re.compile("^Undo: Foundation .*: 4.5 to 5 µm")
    )
    expect(order(bench).get_by_role("button").filter(has_text="Soft rose colour")).to_have_count(1)


def exporting(bench: Page, form: str) -> None:
    bench.get_by_role("button", name="Export").click()
    bench.get_by_role("menuitem", name=form).click()


def test_the_sequence_file_comes_out(bench: Page, tmp_path: Path):
    with bench.expect_download() as download:
        exporting(bench, "Plan as a file")
    saved = tmp_path / "sequence.json"
    download.value.save_as(saved)
    assert json.loads(saved.read_text(encoding="utf-8"))["school"] == "underpainted"


def test_an_unknown_plan_says_so(quiet: Page, live: str):
    quiet.goto(f"{live}/plans/nothing")
    expect(quiet.get_by_role("alert")).to_contain_text("sequence: found 'nothing'")
    quiet.get_by_role("link", name="Go to the sitters").click()
    expect(quiet.get_by_role("heading", name="Wren", exact=True)).to_be_visible()


def test_what_was_left_bare_is_told(bench: Page):
    bench.get_by_text("Left bare on purpose").click()
    expect(bench.get_by_text("Shade ends behind a soft jowl", exact=False).first).to_be_visible()


def test_shortcuts_are_listed_as_they_are_declared(bench: Page):
    bench.keyboard.press("?")
    sheet = bench.get_by_role("dialog")
    expect(sheet).to_contain_text("Next layer")
    expect(sheet).to_contain_text("Alt+ArrowUp")
    bench.keyboard.press("Escape")
    expect(sheet).not_to_be_visible()


def test_nothing_serious_for_accessibility_in_either_room(bench: Page):
    choose(bench, "Foundation")
    assert serious(bench) == []
    switch_room(bench)
    assert serious(bench) == []


def test_the_page_never_overflows_sideways(bench: Page):
    for _ in each_screen(bench):
        choose(bench, "Foundation")
        choose(bench, "Colour")


def test_correctors_are_weighed_and_one_is_taken(bench: Page):
    choose(bench, "Correct")
    bench.keyboard.press("c")
    dialog = bench.get_by_role("dialog")
    expect(dialog.get_by_role("heading", name="Which corrector here?")).to_be_visible()
    dialog.get_by_role("combobox", name=re.compile("^Zone")).click()
    bench.get_by_role("option", name="Nose side, left").click()
    expect(dialog.get_by_role("cell", name=re.compile("Leaf green corrector")).first).to_be_visible()
    assert serious(bench) == []
    dialog.get_by_role("row").filter(has_text="no corrector").get_by_role("button", name="Take").click()
    expect(dialog).not_to_be_visible()
    expect(bench.get_by_role("button", name="Undo")).to_be_enabled()


def test_an_answer_about_another_zone_that_comes_late_is_not_shown(bench: Page):
    choose(bench, "Correct")
    held = hold_first(bench, "**/corrector/*")
    bench.keyboard.press("c")
    dialog = bench.get_by_role("dialog")
    dialog.get_by_role("combobox", name=re.compile("^Zone")).click()
    bench.get_by_role("option", name="Nose side, left").click()
    expect(dialog.get_by_role("cell", name=re.compile("Leaf green corrector")).first).to_be_visible()
    shown = dialog.get_by_role("table").inner_text()
    let_go(bench, held)
    expect(dialog.get_by_role("combobox", name="Zone: Nose side, left")).to_be_visible()
    assert dialog.get_by_role("table").inner_text() == shown


def test_a_corrector_question_that_was_not_answered_is_asked_again(bench: Page):
    choose(bench, "Correct")
    bench.route("**/corrector/*", lambda route: route.abort())
    bench.keyboard.press("c")
    dialog = bench.get_by_role("dialog")
    expect(dialog.get_by_text("No answer came.")).to_be_visible()
    bench.unroute("**/corrector/*")
    dialog.get_by_role("button", name="Ask again").click()
    expect(dialog.get_by_role("table")).to_be_visible()


def test_the_mixing_well_follows_each_drop(bench: Page):
    bench.get_by_role("button", name="Mix a shade").click()
    dialog = bench.get_by_role("dialog")
    expect(dialog.get_by_role("list", name="In the well").get_by_role("listitem").first).to_be_visible()
    result = dialog.get_by_text(re.compile("^ΔE00 .* Cover", re.DOTALL))
    before = result.inner_text()
    dialog.get_by_role("button", name=re.compile("One drop more")).first.click()
    expect(result).not_to_have_text(before)
    assert serious(bench) == []
    dialog.get_by_role("combobox", name=re.compile("^Add a drop of")).click()
    bench.get_by_role("option", name="Water veil 4").click()
    expect(dialog.get_by_text("These separate in the mix", exact=False)).to_be_visible()
    dialog.get_by_role("button", name="Pour it : fewest drops").click()
    expect(dialog.get_by_text("These separate in the mix", exact=False)).not_to_be_visible()


def test_the_wanted_step_is_asked_for_and_taken(bench: Page):
    choose(bench, "Foundation")
    bench.get_by_role("button", name="Swap the product").click()
    bench.get_by_role("button", name="Full matt 2").click()
    expect(bench.get_by_text("Foundation: Thin satin 2 becomes Full matt 2.")).to_be_visible()
    order(bench).get_by_role("button").filter(has_text="Matt light").click()
    expect(chosen(bench).get_by_role("heading", level=2)).to_have_text("8. Light")
    chosen(bench).get_by_role("button", name="How to reach this contrast").click()
    expect(chosen(bench).get_by_role("status")).to_contain_text("L*")
    chosen(bench).get_by_role("button", name="Take that").click()
    expect(bench.get_by_role("region", name="Findings")).not_to_contain_text("The light is lost")


def test_wear_is_told_with_touch_ups_and_zones(bench: Page):
    bench.get_by_text("How it will wear, and touch-ups").click()
    expect(bench.get_by_role("list", name="Touch-ups").get_by_role("listitem").first).to_contain_text("after")
    table = bench.get_by_role("region", name="Forecast by zone")
    expect(table.get_by_role("rowheader", name="Under-eye, left")).to_be_visible()
    expect(bench.get_by_text("it is not sun protection", exact=False)).to_be_visible()
    assert serious(bench) == []


def test_a_mix_for_a_missing_foundation_is_portioned_for_a_class(bench: Page):
    bench.keyboard.press("m")
    dialog = bench.get_by_role("dialog", name="Mix a shade")
    dialog.get_by_role("combobox", name="Mix towards").click()
    bench.get_by_role("option", name="Instead of Thin satin 3").click()
    expect(dialog).to_contain_text("Whole drops towards Thin satin 3")
    well = dialog.get_by_role("list", name="In the well")
    expect(well).not_to_contain_text("Thin satin 3")
    one = well.inner_text()
    dialog.get_by_role("spinbutton", name="Faces to mix for").fill("12")
    dialog.get_by_role("spinbutton", name="Faces to mix for").press("Tab")
    expect(well).not_to_have_text(one)


def test_schools_are_ranked_with_reasons_and_one_is_looked_at(bench: Page):
    bench.keyboard.press("s")
    dialog = bench.get_by_role("dialog", name="Which school here?")
    rows = dialog.get_by_role("list", name="Schools, best first").get_by_role("listitem")
    expect(rows).to_have_count(6)
    expect(rows.first).to_contain_text("Underpainted")
    expect(rows.first).to_contain_text("this plan's school")
    assert serious(bench) == []
    rows.filter(has_text="Light-led").get_by_role("button").click()
    expect(bench.get_by_role("dialog")).to_contain_text("Plan it light-led?")
    bench.get_by_role("button", name="Take it").click()
    expect(bench.get_by_role("combobox", name="School: Light-led")).to_be_visible()
    expect(order(bench).get_by_role("button").filter(has_text="Mute shine")).to_have_count(1)


def test_what_is_asked_of_the_face_is_planned(bench: Page):
    bench.keyboard.press("w")
    dialog = bench.get_by_role("dialog", name="Wishes and ways of working")
    effects = dialog.get_by_role("group", name="Effects by region")
    effects.get_by_role("checkbox", name="Nose narrower").check()
    expect(dialog.get_by_role("list", name="What is done for them")).to_contain_text("Two narrow lines")
    dialog.get_by_role("group", name="Done already when the base begins").get_by_role(
        "checkbox", name="Cleanse"
    ).check()
    assert serious(bench) == []
    dialog.get_by_role("button", name="See what it would change").click()
    bench.get_by_role("button", name="Take it").click()
    expect(bench.get_by_role("dialog")).to_have_count(0)
    expect(order(bench).get_by_role("button").filter(has_text="Milk cleanser")).to_have_count(0)
    choose(bench, "Shade")
    expect(chosen(bench).get_by_role("img", name=re.compile("beside the nose"))).to_be_visible()


def test_wishes_and_ways_of_working_are_seen_before_they_are_kept(bench: Page):
    bench.keyboard.press("w")
    dialog = bench.get_by_role("dialog", name="Wishes and ways of working")
    go = dialog.get_by_role("button", name="See what it would change")
    expect(go).to_be_disabled()
    dialog.get_by_role("combobox", name=re.compile("^Light or shade first")).click()
    bench.get_by_role("option", name="Shade first").click()
    expect(dialog).to_contain_text("Structure first; its edge is then cleaned up with light.")
    dialog.get_by_role("spinbutton", name="Air, °C").fill("33")
    dialog.get_by_role("spinbutton", name="Air, °C").press("Tab")
    assert serious(bench) == []
    go.click()
    expect(bench.get_by_role("dialog")).to_contain_text("Plan it with these wishes?")
    bench.get_by_role("button", name="Take it").click()
    expect(bench.get_by_role("dialog")).to_have_count(0)
    names = order(bench).get_by_role("button").all_inner_texts()
    assert next(i for i, n in enumerate(names) if "Cool shade" in n) < next(
        i for i, n in enumerate(names) if "Matt light" in n
    )
    bench.get_by_role("button", name="Undo").click()
    expect(bench.get_by_role("status").filter(has_text="33 °C")).to_be_visible()


def test_a_forgotten_step_is_put_in_its_cheapest_place(bench: Page):
    bench.keyboard.press("a")
    dialog = bench.get_by_role("dialog", name="Add a step")
    dialog.get_by_role("button", name="Bronze").click()
    dialog.get_by_text("On 6 zones").click()
    temple = dialog.get_by_role("button", name="Temple, left")
    expect(temple).to_have_attribute("aria-pressed", "true")
    temple.click()
    expect(temple).to_have_attribute("aria-pressed", "false")
    dialog.get_by_role("button", name="Where could it go?").click()
    places = dialog.get_by_role("list", name="Places").get_by_role("listitem")
    expect(places.first).to_be_visible()
    assert places.count() > 2
    assert serious(bench) == []
    places.first.get_by_role("button").click()
    expect(order(bench).get_by_role("button").filter(has_text="Bronze")).to_have_count(1)
    expect(chosen(bench).get_by_role("button", name="Temple, right")).to_be_visible()
    expect(chosen(bench).get_by_role("button", name="Temple, left")).to_have_count(0)


def test_a_step_is_split_by_zones_and_merged_back(bench: Page):
    choose(bench, "Shade")
    shades = order(bench).get_by_role("button").filter(has_text="Shade")
    expect(shades).to_have_count(1)
    chosen(bench).get_by_role("button", name="Temple, left").click()
    chosen(bench).get_by_role("button", name="Temple, right").click()
    chosen(bench).get_by_role("button", name="Split into a step").click()
    expect(shades).to_have_count(2)
    expect(chosen(bench)).not_to_contain_text("Temple, left")
    chosen(bench).get_by_role("button", name=re.compile("^Combine with step")).click()
    expect(shades).to_have_count(1)


def test_the_told_sequence_comes_out(bench: Page, tmp_path: Path):
    with bench.expect_download() as download:
        exporting(bench, "Plan as text")
    download.value.save_as(tmp_path / "told.md")
    told = (tmp_path / "told.md").read_text(encoding="utf-8")
    assert told.startswith("# Wren for the season: a base, underpainted")
    assert "Local hygiene codes" in told
