"""Two people change one thing: the second sees both, and decides."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import violations


def first_item(page, live):
    return page.request.get(f"{live}/api/kit").json()["items"][0]


@pytest.mark.parametrize("choice", ["Save mine", "Take theirs"])
def test_a_shelf_item_changed_meanwhile_is_shown_beside_the_others(quiet, live, choice):
    item = first_item(quiet, live)
    quiet.goto(f"{live}/shelf")
    quiet.get_by_role("button", name=item["name"]).first.click()
    form = quiet.get_by_role("region", name="Item")
    form.get_by_label("Name").fill("Mine")
    address = f"{live}/api/kit/items/{item['id']}"
    assert quiet.request.put(address, data={**item, "name": "Theirs"}).ok
    form.get_by_role("button", name="Save item").click()
    dialog = quiet.get_by_role("dialog", name="Somebody else changed Theirs")
    expect(dialog.get_by_role("row", name="name")).to_contain_text("MineTheirs")
    assert violations(quiet) == []
    dialog.get_by_role("button", name=choice).click()
    expect(dialog).to_have_count(0)
    current = "Mine" if choice == "Save mine" else "Theirs"
    expect(form.get_by_label("Name")).to_have_value(current)
    expect(quiet.get_by_role("button", name=current, exact=True)).to_be_visible()
    assert first_item(quiet, live)["name"] == current


def test_a_number_decided_meanwhile_is_shown_beside_the_others(quiet, live):
    quiet.goto(f"{live}/house")
    book = quiet.request.get(f"{live}/api/house").json()
    parameter = next(each for each in book["parameters"] if each["name"] == "foundation_film_um")
    quiet.get_by_role("searchbox").fill(parameter["words"])
    slider = quiet.get_by_role("slider", name=re.compile(re.escape(parameter["words"]), re.IGNORECASE)).first
    if not slider.is_visible():
        quiet.get_by_text(re.compile(re.escape(parameter["subject"]), re.IGNORECASE)).first.click()
    expect(slider).to_be_visible()
    address = f"{live}/api/house/parameters/foundation_film_um"
    theirs = parameter["high"]
    assert quiet.request.put(address, data={"value": theirs, "note": "theirs"}).ok
    slider.focus()
    quiet.keyboard.press("ArrowRight")
    dialog = quiet.get_by_role("dialog", name="Somebody else changed")
    expect(dialog.get_by_role("row", name="note")).to_contain_text("theirs")
    dialog.get_by_role("button", name="Take theirs").click()
    expect(slider).to_have_value(f"{theirs:g}")
