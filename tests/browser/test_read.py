"""The Read room in the real interface: painting, placements, readings, wishes, a record that changed elsewhere."""

from __future__ import annotations

import io
import json
import re
import zipfile
from pathlib import Path

import pytest
from playwright.sync_api import Locator, Page, expect

from tests.browser.conftest import each_screen, serious, switch_room


@pytest.fixture
def read(quiet: Page, live: str) -> Page:
    """The Read room on the first demo sitter."""
    quiet.goto(live)
    quiet.get_by_role("link", name="Read the face").click()
    expect(zone(quiet, "Chin")).to_be_visible()
    return quiet


def zone(page: Page, name: str) -> Locator:
    return page.get_by_role("button", name=re.compile(f"^{name}: "))


def stored(page: Page) -> None:
    expect(page.get_by_role("status")).to_have_text("Saved")


def middle(found: Locator) -> tuple[float, float]:
    box = found.bounding_box()
    assert box
    return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2


def test_a_condition_is_painted_by_click_and_kept(read: Page):
    read.get_by_role("button", name="redness", exact=True).click()
    read.get_by_role("button", name="3 strong").click()
    zone(read, "Chin").click()
    expect(zone(read, "Chin")).to_have_accessible_name(re.compile("redness 3"))
    stored(read)
    read.reload()
    expect(zone(read, "Chin")).to_have_accessible_name(re.compile("redness 3"))
    assert serious(read) == []


def test_a_drag_paints_every_zone_it_crosses_as_one_change(read: Page):
    read.get_by_role("button", name="raised texture", exact=True).click()
    read.mouse.move(*middle(zone(read, "Nose tip")))
    read.mouse.down()
    read.mouse.move(*middle(zone(read, "Above the lip")), steps=8)
    read.mouse.move(*middle(zone(read, "Chin")), steps=12)
    read.mouse.up()
    for name in ("Nose tip", "Above the lip", "Chin"):
        expect(zone(read, name)).to_have_accessible_name(re.compile("raised texture 2"))
    read.keyboard.press("Control+z")
    for name in ("Nose tip", "Above the lip", "Chin"):
        expect(zone(read, name)).not_to_have_accessible_name(re.compile("raised texture"))
    read.keyboard.press("Control+y")
    expect(zone(read, "Chin")).to_have_accessible_name(re.compile("raised texture 2"))


def test_painting_works_by_keyboard_alone(read: Page):
    read.get_by_role("button", name="flaking", exact=True).click()
    read.keyboard.press("1")
    zone(read, "Forehead centre").focus()
    read.keyboard.press("ArrowDown")
    expect(zone(read, "Nose bridge")).to_be_focused()
    read.keyboard.press("Space")
    expect(zone(read, "Nose bridge")).to_have_accessible_name(re.compile("flaking 1"))


def test_both_sides_are_painted_mirrored_and_erased(read: Page):
    read.get_by_role("button", name="pitted scars", exact=True).click()
    read.get_by_role("checkbox", name="Both sides").check()
    zone(read, "Jaw, left").click()
    expect(zone(read, "Jaw, right")).to_have_accessible_name(re.compile("pitted scars 2"))
    read.get_by_role("checkbox", name="Both sides").uncheck()
    read.get_by_role("button", name="Erase").click()
    zone(read, "Jaw, left").click()
    expect(zone(read, "Jaw, left")).to_have_accessible_name(re.compile("nothing shown here"))
    read.get_by_role("button", name="Left onto right").click()
    expect(zone(read, "Jaw, right")).to_have_accessible_name(re.compile("nothing shown here"))


def test_the_layers_of_a_reading_are_shown_one_at_a_time(read: Page):
    expect(zone(read, "Under-eye, left")).to_have_accessible_name(re.compile("blue darkness 2"))
    read.get_by_role("combobox", name=re.compile("Layer of the reading")).click()
    read.get_by_role("option", name="Lines").click()
    expect(zone(read, "Under-eye, left")).to_have_accessible_name("Under-eye, left: fine lines 2, creping 2")


def test_a_preset_shows_what_it_would_set_and_sets_it(read: Page):
    read.get_by_role("button", name="oily", exact=True).hover()
    preset = read.get_by_role("region", name="Preset")
    expect(preset).to_contain_text("Would set (oily)")
    expect(preset).to_contain_text("Oil 3")
    read.get_by_role("button", name="oily", exact=True).click()
    expect(zone(read, "Nose tip")).to_have_accessible_name(re.compile("oil 3"))


def test_measures_change_shape_and_map_and_say_how_sure(read: Page):
    read.get_by_role("tab", name="Measures and placements").click()
    expect(read.get_by_role("region", name="Measures")).to_contain_text("Oval, 88 % sure, else long")
    length = read.get_by_role("spinbutton", name="Face length, mm")
    length.fill("215")
    length.press("Tab")
    expect(read.get_by_role("region", name="Measures")).to_contain_text("Long:")
    expect(read.get_by_role("region", name="Placements")).to_contain_text("On a long face shade at the sides")
    length.fill("2")
    length.press("Tab")
    expect(length).to_have_value("215")
    assert serious(read) == []


def test_a_placement_is_dragged_keyed_and_put_back(read: Page):
    read.get_by_role("tab", name="Measures and placements").click()
    stroke = read.get_by_role("button", name=re.compile("^Light on Chin"))
    x, y = middle(stroke)
    read.mouse.move(x, y)
    read.mouse.down()
    read.mouse.move(x, y - 40, steps=6)
    read.mouse.up()
    placements = read.get_by_role("region", name="Placements")
    expect(placements).to_contain_text(re.compile(r"Moved \d+ mm by hand"))
    stored(read)
    read.reload()
    read.get_by_role("tab", name="Measures and placements").click()
    moved = read.get_by_role("button", name=re.compile("moved by hand"))
    expect(moved).to_have_count(1)
    moved.focus()
    read.keyboard.press("Home")
    expect(moved).to_have_count(0)
    read.get_by_role("button", name=re.compile("^Glow on Brow bone, left")).focus()
    read.keyboard.press("ArrowUp")
    expect(placements).to_contain_text("Moved 2 mm by hand")
    expect(placements).to_contain_text("where real light would catch")


def test_a_colour_is_typed_and_counts(read: Page):
    read.get_by_role("tab", name="Colour and probe").click()
    read.get_by_label("L* a* b*, or hex").fill("#c69a7b")
    read.get_by_role("button", name="Save this colour").click()
    expect(read.get_by_role("region", name="Colour in words")).to_contain_text("66.9 12.2 22.6")
    expect(read.get_by_role("region", name="Readings over time")).to_contain_text("typed")
    read.get_by_label("L* a* b*, or hex").fill("beige")
    read.get_by_role("button", name="Save this colour").click()
    expect(read.get_by_text("three numbers for L* a* b*")).to_be_visible()
    assert serious(read) == []


def test_the_reader_takes_and_the_mean_is_kept(read: Page):
    read.get_by_role("tab", name="Colour and probe").click()
    read.get_by_role("combobox", name="Place: Face").click()
    read.get_by_role("option", name="Chest").click()
    read.get_by_role("button", name="Colour reader").click()
    dialog = read.get_by_role("dialog", name="Colour reader: Chest")
    dialog.get_by_role("button", name="Take five").click()
    expect(dialog.get_by_role("row")).to_have_count(6)
    dialog.get_by_role("button", name="Take one more").click()
    expect(dialog.get_by_role("row")).to_have_count(7)
    assert serious(read) == []
    dialog.get_by_role("button", name="Save the mean").click()
    expect(read.get_by_role("region", name="Readings over time")).to_contain_text("Chest, colour")


def test_the_probe_reads_a_zone_into_the_record(read: Page):
    read.get_by_role("tab", name="Colour and probe").click()
    expect(read.get_by_role("button", name="Probe for oil")).to_be_disabled()
    read.get_by_role("combobox", name="Place: Face").click()
    read.get_by_role("option", name="Chin").click()
    read.get_by_role("button", name="Probe for moisture").click()
    taking = read.get_by_role("region", name="Take a reading")
    expect(taking).to_contain_text("It would be read as")
    taking.get_by_role("button", name="Save reading").click()
    expect(read.get_by_role("region", name="Readings over time")).to_contain_text("Chin, moisture")


def test_readings_come_in_from_a_file_after_a_look(read: Page, tmp_path: Path):
    read.get_by_role("tab", name="Colour and probe").click()
    table = tmp_path / "readings.csv"
    table.write_text("place;lab_l;lab_a;lab_b\nchest;70,5;9;15\nchinn;70;9;15\n", encoding="latin-1")
    read.get_by_label("Readings file").set_input_files(table)
    dialog = read.get_by_role("dialog", name="Before it is saved")
    expect(dialog).to_contain_text("nearest: chin")
    assert serious(read) == []
    dialog.get_by_role("button", name="Save 1 reading").click()
    expect(read.get_by_role("region", name="Colour in words")).to_contain_text("70.5 9.0 15.0")


def test_wishes_and_what_to_avoid_are_kept(read: Page):
    read.get_by_role("tab", name="Wishes").click()
    read.get_by_role("combobox", name="Cover: medium").click()
    read.get_by_role("option", name="full", exact=True).click()
    features = read.get_by_role("group", name="Features done in the same sitting")
    features.get_by_role("checkbox", name="Lashes").check()
    read.get_by_label("Substance to avoid").fill("lanolin")
    read.get_by_role("button", name="Avoid it").click()
    expect(read.get_by_role("button", name="No longer avoid lanolin")).to_be_visible()
    stored(read)
    read.reload()
    read.get_by_role("tab", name="Wishes").click()
    expect(read.get_by_role("combobox", name="Cover: full")).to_be_visible()
    expect(features.get_by_role("checkbox", name="Lashes")).to_be_checked()
    assert serious(read) == []


def test_consent_is_ticked_with_its_date_and_its_lack_is_said(read: Page):
    read.get_by_role("tab", name="Sitter").click()
    read.get_by_role("checkbox", name="Agreed to this record").uncheck()
    expect(read.get_by_text("No consent noted")).to_be_visible()
    read.get_by_role("checkbox", name="Agreed to this record").check()
    expect(read.get_by_text("No consent noted")).to_have_count(0)
    assert serious(read) == []
    with read.expect_download() as download:
        read.get_by_role("link", name="Export everything of Wren").click()
    with zipfile.ZipFile(io.BytesIO(Path(download.value.path()).read_bytes())) as folder:
        case = next(name for name in folder.namelist() if name.endswith("case.json"))
        assert json.loads(folder.read(case))["sitter"]["nickname"] == "Wren"


def test_a_record_that_was_changed_in_another_tab_can_be_kept_or_shown(read: Page, live: str):
    other = read.context.new_page()
    other.goto(read.url)
    other.get_by_role("button", name="dehydration", exact=True).click()
    zone(other, "Chin").click()
    expect(other.get_by_role("status")).to_have_text("Saved")
    read.get_by_role("button", name="redness", exact=True).click()
    zone(read, "Nose tip").click()
    dialog = read.get_by_role("dialog", name="Changed elsewhere")
    expect(dialog).to_be_visible()
    dialog.get_by_role("button", name="Load the latest").click()
    expect(zone(read, "Chin")).to_have_accessible_name(re.compile("dehydration 2"))
    zone(read, "Nose tip").click()
    expect(zone(read, "Nose tip")).to_have_accessible_name(re.compile("redness 2"))
    stored(read)
    zone(other, "Chin").click()
    other.get_by_role("dialog").get_by_role("button", name="Overwrite with mine").click()
    expect(other.get_by_role("dialog")).to_have_count(0)
    other.close()


def test_the_face_is_planned_from_a_named_kit(read: Page):
    read.get_by_role("combobox", name="Kit: Whole shelf").click()
    read.get_by_role("option", name="Case for the gallery").click()
    read.get_by_role("button", name="Plan the base").click()
    expect(read.get_by_role("group", name="Section through the base")).to_be_visible()


def test_a_new_sitter_is_begun_from_the_keyboard(quiet: Page, live_empty: str):
    quiet.goto(live_empty)
    expect(quiet.get_by_role("heading", name="No sitters yet")).to_be_visible()
    quiet.keyboard.press("n")
    dialog = quiet.get_by_role("dialog", name="New sitter")
    dialog.get_by_label("Nickname").fill("Tern")
    dialog.get_by_label("Or measured, as").fill("48 14 19")
    dialog.get_by_label("Or measured, as").press("Tab")
    expect(dialog).to_contain_text("brown")
    assert serious(quiet) == []
    dialog.get_by_role("button", name="Read the face").click()
    expect(zone(quiet, "Chin")).to_be_visible()


def test_a_face_that_is_not_there_says_so(quiet: Page, live: str):
    quiet.goto(f"{live}/read/nobody")
    expect(quiet.get_by_role("alert")).to_contain_text("could not be opened")
    assert serious(quiet) == []


TABS = ("Conditions", "Measures and placements", "Colour and probe", "Wishes", "Sitter")


def test_the_read_room_never_overflows_sideways(read: Page):
    for tab in TABS:
        read.get_by_role("tab", name=tab).click()
        for _ in each_screen(read):
            expect(read.get_by_role("tab", name=tab)).to_have_attribute("aria-selected", "true")


def test_the_workspace_goes_out_and_comes_back(quiet: Page, live: str, tmp_path: Path):
    quiet.goto(live)
    with quiet.expect_download() as download:
        quiet.get_by_role("button", name="Export workspace").click()
    file = tmp_path / "nabrel-workspace.zip"
    download.value.save_as(file)
    quiet.get_by_label("Workspace zip").set_input_files(file)
    dialog = quiet.get_by_role("dialog", name="Import this workspace?")
    expect(dialog.get_by_role("row", name="Sitters 8 8")).to_be_visible()
    assert serious(quiet) == []
    dialog.get_by_role("button", name="Replace everything").click()
    expect(quiet.get_by_text("The workspace is imported")).to_be_visible()
    expect(quiet.get_by_role("navigation", name="Sitters").get_by_role("link", name=re.compile("Wren"))).to_be_visible()


def test_the_dark_room_reads_as_well(read: Page):
    switch_room(read)
    for tab in TABS:
        read.get_by_role("tab", name=tab).click()
        expect(read.get_by_role("tab", name=tab)).to_have_attribute("aria-selected", "true")
        assert serious(read) == [], tab


def test_every_room_is_fit_in_the_dark(quiet: Page, live: str):
    quiet.goto(live)
    switch_room(quiet)
    for path in ("/", "/shelf", "/house"):
        quiet.goto(f"{live}{path}")
        expect(quiet.locator("html")).to_have_attribute("data-theme", "dark")
        expect(quiet.get_by_role("main")).not_to_contain_text("Opening")
        assert serious(quiet) == [], path


def test_the_picture_beside_the_wishes_shows_what_they_place_where(read: Page):
    read.get_by_role("tab", name="Wishes").click()
    picture = read.get_by_role("group", name=re.compile("What is asked for on"))
    expect(picture).to_have_accessible_name(re.compile("light on .*chin", re.I))
    read.get_by_role("group", name="Effects by region").get_by_label("Chin softer").check()
    expect(picture).not_to_have_accessible_name(re.compile("light on [^;]*chin", re.I))
    read.get_by_role("group", name="Effects by region").get_by_label("Nose narrower").check()
    expect(picture).to_have_accessible_name(re.compile("shade on [^;]*nose", re.I))
