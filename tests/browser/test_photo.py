"""Colours from a photograph in the real interface: films onto the shelf and into plans, skin into readings, by file, drop and camera."""

from __future__ import annotations

import base64
import io
import re
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import Browser, Page, Playwright, expect

from nabrel.core.card.layout import Printer, calibrated, card
from nabrel.core.card.tone import lab_of_linear
from nabrel.core.house import House
from nabrel.demo.kit import kit
from nabrel.demo.pictures import FOLDER, drawn
from nabrel.devices.camera import photograph
from tests.browser.conftest import serious

KIT, AGAIN, SKIN = (FOLDER / name for name in ("kit-card.jpg", "kit-card-again.jpg", "skin-card.jpg"))
OWNED = {item.id: item for item in kit()}


@pytest.fixture
def shelf(quiet: Page, live: str) -> Page:
    quiet.goto(f"{live}/shelf")
    expect(quiet.get_by_role("table")).to_be_visible()
    quiet.keyboard.press("p")
    expect(dialog(quiet)).to_be_visible()
    return quiet


def dialog(page: Page):
    return page.get_by_role("dialog", name=re.compile("from a photo$"))


def choose(page: Page, label: str, option: str) -> None:
    page.get_by_label(label).click()
    page.get_by_role("option", name=re.compile(f"^{option}", re.IGNORECASE)).click()
    expect(page.get_by_label(label)).to_contain_text(option, ignore_case=True)


def items(page: Page) -> dict[str, dict]:
    found = page.request.get(page.url.split("/shelf")[0] + "/api/kit").json()["items"]
    return {each["name"]: each for each in found}


def test_films_are_read_told_against_the_shelf_and_put_on_it_and_into_a_plan(shelf: Page):
    asked = dialog(shelf)
    asked.get_by_label("Pictures of the card", exact=True).set_input_files([KIT, AGAIN])
    expect(asked.get_by_role("list", name="Pictures").get_by_role("listitem")).to_have_count(2)
    expect(asked.get_by_text("read: 10 films; 1 of them not wholly.")).to_have_count(2)
    # Likely, and surer than the guess: proposed. What the shelf has measured is left as it is.
    expect(asked.get_by_label("Take cell a2")).to_be_checked()
    expect(asked.get_by_label("Cell a2 goes to")).to_contain_text("Bronze balm 2")
    expect(asked.get_by_label("Take cell b2")).not_to_be_checked()
    expect(asked.get_by_text("The film is opaque: draw it thinner to tell its cover.")).to_be_visible()
    choose(shelf, "Cell a1 goes to", "Bronze balm 1")
    row = asked.get_by_role("row").filter(has=shelf.get_by_label("Take cell a1"))
    expect(row).to_contain_text("▲")
    expect(row).to_contain_text("Further off what was guessed than both are unsure: deeper")
    choose(shelf, "Cell a3 goes to", "Thin satin 3")
    assert serious(shelf) == []
    asked.get_by_role("button", name="See what they change").click()
    changes = asked.get_by_role("region", name="What this changes in plans")
    expect(changes).to_contain_text("Tamsin")
    expect(changes).to_contain_text("Thin satin 3")
    assert items(shelf)["Bronze balm 1"]["source"] == "guessed", "nothing is saved before it was said"
    changes.get_by_role("checkbox", name=re.compile("Tamsin")).check()
    asked.get_by_role("button", name="Save 3 colours").click()
    expect(asked).to_have_count(0)
    expect(shelf.get_by_text("3 colours are on the shelf, and in one plan.")).to_be_visible()
    stored = items(shelf)
    for name in ("Bronze balm 1", "Bronze balm 2", "Thin satin 3"):
        true = drawn(next(item for item in OWNED.values() if item.name == name))
        assert stored[name]["source"] == "photo"
        assert np.abs(np.array(stored[name]["lab"]) - np.array(true.lab)).max() < 3.5
    expect(
        shelf.get_by_role("row", name=re.compile("Bronze balm 1")).get_by_text("from a photograph, ± ΔE00")
    ).to_be_visible()


def test_a_change_takes_back_what_was_said_of_plans_and_a_new_item_wants_a_name(shelf: Page):
    asked = dialog(shelf)
    asked.get_by_role("button", name="Ten products of the course's kit").click()
    expect(asked.get_by_label("Take cell a2")).to_be_checked()
    asked.get_by_role("button", name="See what it changes").click()
    expect(asked.get_by_text("No plan lays these items")).to_be_visible()
    asked.get_by_label("Take cell a1").check()
    expect(asked.get_by_role("region", name="What this changes in plans")).to_have_count(0)
    expect(asked.get_by_text("Give the new item of cell a1 a name.")).to_be_visible()
    expect(asked.get_by_role("button", name="See what they change")).to_be_disabled()
    asked.get_by_label("Name of the product in cell a1").fill("Harbour bronze")
    choose(shelf, "Role of cell a1", "Bronzer")
    choose(shelf, "Cell a3 goes to", "Bronze balm 2")
    expect(asked.get_by_text("Two films cannot both be Bronze balm 2.")).to_be_visible()
    asked.get_by_label("Take cell a3").uncheck()
    cover = asked.get_by_role("row").filter(has=shelf.get_by_label("Take cell a1"))
    before = re.search(r"cover (\d+) %", cover.inner_text())[1]
    asked.get_by_label("Dry film, µm").fill("50")
    asked.get_by_label("Dry film, µm").press("Enter")
    expect(cover).not_to_contain_text(f"cover {before} %")
    asked.get_by_role("button", name="See what they change").click()
    asked.get_by_role("button", name="Save 2 colours").click()
    expect(asked).to_have_count(0)
    found = items(shelf)["Harbour bronze"]
    assert (found["role"], found["source"]) == ("bronzer", "photo")
    assert found["cover"] < float(before) / 100


def test_a_picture_that_cannot_be_read_says_what_to_do_and_a_good_one_may_follow(shelf: Page, tmp_path: Path):
    bad = tmp_path / "hand.jpg"
    bad.write_bytes(photograph(card(), {"a1": drawn(OWNED["silk-veil-3"])}, None, 3, House(), "hand"))
    none = tmp_path / "notes.png"
    none.write_text("not a picture")
    asked = dialog(shelf)
    asked.get_by_label("Pictures of the card", exact=True).set_input_files([bad, none])
    pictures = asked.get_by_role("list", name="Pictures")
    expect(pictures).to_contain_text("is not seen")
    expect(pictures).to_contain_text("a photograph as JPEG, PNG, WebP or HEIC")
    expect(asked.get_by_role("button", name=re.compile("^See what"))).to_have_count(0)
    for name in ("hand.jpg", "notes.png"):
        asked.get_by_role("button", name=f"Leave out {name}").click()
    # Dropped onto the dialog, as from a folder.
    text = base64.b64encode(KIT.read_bytes()).decode()
    data = shelf.evaluate_handle(
        """(text) => {
          const bytes = Uint8Array.from(atob(text), (letter) => letter.charCodeAt(0));
          const held = new DataTransfer();
          held.items.add(new File([bytes], 'dropped.jpg', { type: 'image/jpeg' }));
          return held;
        }""",
        text,
    )
    asked.get_by_role("group", name="Where pictures come in").dispatch_event("drop", {"dataTransfer": data})
    expect(pictures).to_contain_text("read: 10 films")
    expect(asked.get_by_label("Take cell a2")).to_be_checked()


def test_a_printer_is_calibrated_by_a_grey_and_what_was_read_is_read_anew(shelf: Page, tmp_path: Path):
    own = calibrated(card(), Printer(0.86, 0.045, 0.27))
    r, g, b = (float(each) for each in lab_of_linear(np.full((1, 3), 0.18))[0])
    grey = tmp_path / "grey.jpg"
    grey.write_bytes(photograph(own, {}, (r, g, b), 3, House()))
    asked = dialog(shelf)
    asked.get_by_role("button", name="Ten products of the course's kit").click()
    sure = asked.get_by_role("row").filter(has=shelf.get_by_label("Take cell a1"))
    expect(sure).to_contain_text("± ΔE00")
    before = float(re.search(r"± ΔE00 ([\d.]+)", sure.inner_text())[1])
    asked.get_by_text("This printer was not calibrated").click()
    asked.get_by_label("Picture of the known grey").set_input_files(grey)
    expect(asked.get_by_text("The middle grey gives back 27 %; 30 % was assumed.")).to_be_visible()
    asked.get_by_label("Known grey, %").fill("90")
    asked.get_by_label("Known grey, %").press("Enter")
    asked.get_by_label("Picture of the known grey").set_input_files(grey)
    expect(asked.get_by_text("between the card's black and white")).to_be_visible()
    asked.get_by_label("Known grey, %").fill("18")
    asked.get_by_label("Known grey, %").press("Enter")
    asked.get_by_label("Picture of the known grey").set_input_files(grey)
    expect(asked.get_by_text("The middle grey gives back 27 %")).to_be_visible()
    asked.get_by_role("button", name="Save for this printer").click()
    expect(asked.get_by_text("This printer is calibrated")).to_be_visible()
    expect(sure).not_to_contain_text(f"± ΔE00 {before:.1f}")
    assert float(re.search(r"± ΔE00 ([\d.]+)", sure.inner_text())[1]) < before
    parameters = shelf.request.get(shelf.url.split("/shelf")[0] + "/api/house").json()["parameters"]
    middle = next(each for each in parameters if each["name"] == "card_middle")
    assert middle["value"] == pytest.approx(0.27, abs=0.01)
    assert middle["note"] == "Calibrated by a grey of 18 %"


@pytest.fixture
def skin(quiet: Page, live: str) -> Page:
    """Wren's face, about to be read from a photo."""
    wren = next(
        each for each in quiet.request.get(f"{live}/api/sitters").json()["sitters"] if each["nickname"] == "Wren"
    )
    quiet.goto(f"{live}/read/{wren['id']}")
    quiet.get_by_role("tab", name=re.compile("^Colour")).click()
    quiet.get_by_role("button", name="Read from a photo…").click()
    return quiet


def test_skin_is_read_through_the_window_place_by_place(skin: Page):
    asked = dialog(skin)
    asked.get_by_label("Pictures of the card", exact=True).set_input_files(SKIN)
    place = asked.get_by_role("list", name="By place")
    expect(place).to_contain_text("One picture: a second one tells whether it repeats.")
    asked.get_by_label("Pictures of the card", exact=True).set_input_files([SKIN, SKIN])
    expect(place.get_by_role("listitem")).to_have_count(2)
    expect(place).to_contain_text("Two pictures that agree to ΔE00 0.0.")
    assert serious(skin) == []
    # A picture that only agrees with the reader is less sure than it, and not proposed.
    expect(place.get_by_role("checkbox", name=re.compile("^Face"))).not_to_be_checked()
    place.get_by_role("checkbox", name=re.compile("^Face")).check()
    asked.get_by_role("button", name="See what they change").click()
    changes = asked.get_by_role("region", name="What this changes in plans")
    expect(changes).to_contain_text("Wren, underpainted")
    expect(changes.get_by_role("checkbox")).to_have_count(0)
    asked.get_by_role("button", name="Save 2 readings").click()
    expect(asked).to_have_count(0)
    live, _, sitter = skin.url.partition("/read/")
    face = skin.request.get(f"{live}/api/sitters/{sitter}/face").json()
    stored = [each for course in face["courses"] for each in course["readings"] if each["reading"]["source"] == "photo"]
    assert {each["reading"]["place"] for each in stored} == {"face", "cheek_apple_l"}
    assert all(abs(each["reading"]["lab"][0] - 71) < 2 for each in stored)
    expect(skin.get_by_role("region", name="Readings over time").get_by_text("from 2 photographs")).to_be_visible()


def test_a_picture_of_the_other_card_is_not_read_as_this_one(skin: Page):
    asked = dialog(skin)
    asked.get_by_label("Pictures of the card", exact=True).set_input_files(KIT)
    expect(asked.get_by_role("list", name="Pictures")).to_contain_text("This is another card than the one chosen.")
    expect(asked.get_by_role("button", name=re.compile("^Save"))).to_have_count(0)
    choose(skin, "Held", "The window of the kit")
    expect(asked.get_by_role("list", name="Pictures").get_by_role("listitem")).to_have_count(0)


@pytest.fixture
def with_camera(playwright: Playwright, browser_type_launch_args: dict[str, Any], tmp_path: Path):
    """A browser whose camera sees the kit's card."""
    film = tmp_path / "card.mjpeg"
    # The simulated device takes the picture's values for those of a film, which go from 16 to 235.
    frame = io.BytesIO()
    Image.open(KIT).point(lambda value: 16 + value * 219 / 255).save(frame, "JPEG", quality=95)
    film.write_bytes(frame.getvalue() * 3)
    seeing = [
        "--use-fake-ui-for-media-stream",
        "--use-fake-device-for-media-stream",
        f"--use-file-for-fake-video-capture={film}",
    ]
    launched = {**browser_type_launch_args, "args": [*browser_type_launch_args["args"], *seeing]}
    browser = playwright.chromium.launch(**launched)
    yield browser
    browser.close()


def test_a_card_is_read_from_the_camera_of_the_device(with_camera: Browser, live: str):
    page = with_camera.new_context(viewport={"width": 390, "height": 844}).new_page()
    page.goto(f"{live}/shelf")
    page.get_by_role("button", name="Read from a photo", exact=True).click()
    asked = dialog(page)
    asked.get_by_role("button", name="Camera", exact=True).click()
    video = asked.get_by_label("What the camera sees")
    expect(video).to_be_visible()
    # Asked again and again from here: the page's own policy refuses the script that would wait in it.
    for _ in range(200):
        if video.evaluate("each => each.videoWidth") > 1000:
            break
        page.wait_for_timeout(100)
    assert video.evaluate("each => each.videoWidth") > 1000
    asked.get_by_role("button", name="Take picture").click()
    expect(asked.get_by_role("list", name="Pictures")).to_contain_text("camera-1.jpg read: 10 films")
    # A running camera takes most of a machine; the picture stays when it is closed.
    asked.get_by_role("button", name="Close camera").click()
    expect(video).to_have_count(0)
    with page.expect_download(timeout=60_000) as saved:
        asked.get_by_role("button", name="Save camera-1.jpg").click()
    assert saved.value.suggested_filename == "camera-1.jpg"
    wide = page.evaluate("document.documentElement.scrollWidth")
    assert wide <= 390


def test_without_leave_for_the_camera_a_file_still_serves(shelf: Page):
    shelf.evaluate(
        "() => { navigator.mediaDevices.getUserMedia = () => Promise.reject(new DOMException('no', 'NotAllowedError')); }"
    )
    dialog(shelf).get_by_role("button", name="Camera", exact=True).click()
    expect(dialog(shelf).get_by_role("alert")).to_contain_text("The browser may not use the camera")
    expect(dialog(shelf).get_by_role("button", name="Choose pictures")).to_be_visible()
