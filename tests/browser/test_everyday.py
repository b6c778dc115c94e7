"""Everyday things of the workbench: the section's controls, pictures to keep, and the command menu."""

from __future__ import annotations

import re
from pathlib import Path
from xml.etree import ElementTree

from playwright.sync_api import Page, expect

from tests.browser.conftest import serious


def test_the_section_shows_one_side_and_scales_to_the_films(bench: Page):
    section = bench.get_by_role("group", name="Section through the base")
    expect(section.locator('[data-zone="under_eye_r"]')).to_have_count(1)
    bench.get_by_role("combobox", name="Sides: Both sides").click()
    bench.get_by_role("option", name="Left side and middle").click()
    expect(section.locator('[data-zone="under_eye_r"]')).to_have_count(0)
    expect(section.locator('[data-zone="under_eye_l"]')).to_have_count(1)
    expect(section).to_contain_text("25")
    bench.get_by_role("combobox", name="Scale: To the ceilings").click()
    bench.get_by_role("option", name="To the films").click()
    expect(section.get_by_text("25", exact=True)).to_have_count(0)
    assert serious(bench) == []


def test_section_and_face_are_kept_as_pictures(bench: Page):
    for name, place in (("SVG of the section", "section"), ("SVG of the face", "face")):
        with bench.expect_download() as download:
            bench.get_by_role("button", name=name, exact=True).click()
        assert download.value.suggested_filename == f"Wren-{place}.svg"
        text = Path(download.value.path()).read_text(encoding="utf-8")
        assert ElementTree.fromstring(text).tag.endswith("svg")
        assert "var(--" not in text
    for name, place in (("PNG of the section", "section"), ("PNG of the face", "face")):
        with bench.expect_download() as download:
            bench.get_by_role("button", name=name, exact=True).click()
        assert download.value.suggested_filename == f"Wren-{place}.png"
        assert Path(download.value.path()).read_bytes().startswith(b"\x89PNG")


def test_the_command_menu_finds_and_does(bench: Page):
    bench.keyboard.press("Control+k")
    menu = bench.get_by_role("dialog", name="Find or do")
    expect(menu.get_by_role("option", name=re.compile("Mix a shade"))).to_be_visible()
    assert serious(bench) == []
    expect(menu.get_by_role("combobox")).to_be_focused()
    bench.keyboard.type("corrector")
    bench.keyboard.press("Enter")
    expect(menu).to_have_count(0)
    expect(bench.get_by_role("dialog")).to_contain_text("orrector")
    bench.keyboard.press("Escape")
    bench.keyboard.press("Control+k")
    expect(menu.get_by_role("combobox")).to_be_focused()
    bench.keyboard.type("no such thing")
    expect(bench.get_by_text("No matching command")).to_be_visible()
    bench.keyboard.press("Escape")
    expect(menu).to_have_count(0)
    bench.keyboard.press("Control+k")
    expect(menu.get_by_role("combobox")).to_be_focused()
    bench.keyboard.type("go to the shelf")
    bench.keyboard.press("Enter")
    expect(bench.get_by_role("searchbox", name="Search the shelf")).to_be_visible()


def test_keys_of_a_room_do_not_answer_in_the_next(bench: Page):
    bench.get_by_role("link", name="Shelf").click()
    expect(bench.get_by_role("searchbox", name="Search the shelf")).to_be_visible()
    bench.keyboard.press("?")
    sheet = bench.get_by_role("dialog", name="Shortcuts in this room")
    expect(sheet).to_contain_text("New item")
    expect(sheet).not_to_contain_text("Mix a shade")
