"""The Wear room in the real interface: a base is worn, looked at on a phone, held against its forecast, learnt from."""

from __future__ import annotations

import re
from datetime import UTC, datetime, timedelta

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import serious


@pytest.fixture
def plan(quiet: Page, live: str) -> str:
    sitters = quiet.request.get(f"{live}/api/sitters").json()["sitters"]
    return next(each["sequence_id"] for each in sitters if each["nickname"] == "Posy")


@pytest.fixture
def worn(quiet: Page, live: str, plan: str) -> Page:
    """The record of a base that was put on this morning, some days ago."""
    begun = quiet.request.post(f"{live}/api/sequences/{plan}/wears", data={"worn_from": "2026-11-03T09:50:00+00:00"})
    assert begun.status == 201
    quiet.goto(f"{live}/wear/{begun.json()['wear_id']}")
    expect(quiet.get_by_role("region", name="A look")).to_be_visible()
    return quiet


def stored(page: Page) -> list[dict]:
    key = page.url.rsplit("/", 1)[1]
    return page.request.get(f"{page.url.split('/wear/')[0]}/api/wears/{key}").json()["looks"]


def zone(page: Page, name: str):
    return page.get_by_role("button", name=re.compile(f"^{name}:"))


def after(page: Page, minutes: int) -> None:
    page.get_by_label("Minutes after").fill(str(minutes))
    page.get_by_label("Minutes after").press("Enter")


def test_what_is_painted_and_looked_at_is_kept_and_held_against_the_forecast(worn: Page):
    after(worn, 240)
    worn.get_by_role("button", name="2: shines").click()
    zone(worn, "Nose tip").focus()
    worn.keyboard.press("Space")
    expect(zone(worn, "Nose tip")).to_have_attribute("aria-label", "Nose tip: Shine 2")
    worn.get_by_role("button", name="Forehead", exact=True).click()
    expect(zone(worn, "Forehead centre")).to_have_attribute("aria-label", "Forehead centre: nothing to see")
    worn.get_by_label("Next time").fill("More powder on the nose.")
    assert serious(worn) == []
    worn.get_by_role("button", name="Save this look").click()
    looks = worn.get_by_role("region", name="Looks")
    expect(looks).to_contain_text("4 h")
    expect(looks).to_contain_text("Next time: More powder on the nose.")
    (look,) = stored(worn)
    assert (look["after_min"], look["zones"]) == (240, {"nose_tip": {"shine": 2}})
    assert {"nose_tip", "forehead_centre"} <= set(look["seen"])
    assert "chin" not in look["seen"]
    said = worn.get_by_role("region", name="Forecast against seen")
    expect(said).to_contain_text(
        re.compile(r"Nose: Shine forecast on the nose tip after [\d.]+ h; seen between 0.0 and 4.0 h")
    )
    expect(said).to_contain_text("not seen by 4.0 h")
    expect(worn.get_by_role("button", name="Save this look")).to_be_disabled()


def test_a_stroke_of_the_pointer_paints_the_zones_it_crosses(worn: Page):
    one, other = (zone(worn, name).bounding_box() for name in ("Nose tip", "Left cheek apple|Cheek apple, left"))
    worn.mouse.move(one["x"] + one["width"] / 2, one["y"] + one["height"] / 2)
    worn.mouse.down()
    worn.mouse.move(other["x"] + other["width"] / 2, other["y"] + other["height"] / 2, steps=12)
    worn.mouse.up()
    painted = worn.get_by_role("button", name=re.compile(": Shine 1"))
    assert painted.count() >= 2
    worn.get_by_role("button", name="Take off").click()
    zone(worn, "Nose tip").focus()
    worn.keyboard.press("Space")
    expect(zone(worn, "Nose tip")).to_have_attribute("aria-label", "Nose tip: nothing to see")


def test_a_look_is_forgotten_when_asked(worn: Page):
    worn.get_by_role("button", name="Nose", exact=True).click()
    after(worn, 25)
    worn.get_by_role("button", name="Save this look").click()
    worn.get_by_role("button", name="Forget the look after 25 min").click()
    expect(worn.get_by_role("region", name="Looks")).to_contain_text("No look yet")
    assert stored(worn) == []


def test_on_a_phone_nothing_is_cut_off(worn: Page):
    worn.set_viewport_size({"width": 390, "height": 844})
    expect(worn.get_by_role("button", name="Save this look")).to_be_attached()
    assert worn.evaluate("document.documentElement.scrollWidth") <= 390
    for name in ("Comes off", "3: wet with oil", "Jaw and neck", "Save this look"):
        button = worn.get_by_role("button", name=name)
        button.scroll_into_view_if_needed()
        box = button.bounding_box()
        assert box["x"] >= 0
        assert box["x"] + box["width"] <= 390
        assert box["height"] >= 40
    assert serious(worn) == []


def test_the_room_is_empty_at_first(quiet: Page, live_empty: str):
    quiet.goto(f"{live_empty}/wear")
    expect(quiet.get_by_role("region", name="Records")).to_contain_text("No base has been looked at yet")
    expect(quiet.get_by_role("region", name="What was learnt")).to_have_count(0)
    assert serious(quiet) == []


def test_the_room_lists_records_and_says_what_they_teach(quiet: Page, live: str, plan: str):
    quiet.goto(f"{live}/plans/{plan}")
    expect(quiet.get_by_role("group", name="Section through the base")).to_be_visible()
    quiet.get_by_role("link", name="Wear").click()
    quiet.get_by_role("button", name="Posy wears it now").click()
    expect(quiet.get_by_role("region", name="A look")).to_be_visible()
    after(quiet, 180)
    quiet.get_by_role("button", name="Nose", exact=True).click()
    quiet.get_by_role("button", name="Save this look").click()
    # Three hours have not passed since; it was put on earlier than it was noted.
    expect(quiet.get_by_text("3 h after it was put on is still to come")).to_be_visible()
    key = quiet.url.rsplit("/", 1)[1]
    earlier = (datetime.now(UTC) - timedelta(hours=4)).isoformat()
    assert quiet.request.put(f"{live}/api/wears/{key}/day", data={"worn": {"from": earlier}}).ok
    # What was painted and not saved is there again.
    quiet.reload()
    after(quiet, 180)
    quiet.get_by_role("button", name="Save this look").click()
    expect(quiet.get_by_role("region", name="Looks")).to_contain_text("3 h")
    quiet.get_by_role("link", name="All records").click()
    records = quiet.get_by_role("region", name="Records")
    expect(records.get_by_role("listitem")).to_have_count(61)
    quiet.get_by_role("combobox", name="Whose: Everybody").click()
    quiet.get_by_role("option", name="Posy").click()
    expect(records.get_by_role("listitem")).to_have_count(1)
    expect(records).to_contain_text("1 look, the last after 3 h")
    quiet.get_by_role("combobox", name=re.compile("What was seen")).click()
    quiet.get_by_role("option", name="Creases").click()
    expect(records).to_contain_text("No record is like that")
    learnt = quiet.get_by_role("region", name="What was learnt")
    found = quiet.request.get(f"{live}/api/learnt").json()
    expect(learnt).to_contain_text(f"From {found['learnt']['records']} records with {found['learnt']['looks']} looks.")
    for proposal in found["learnt"]["proposals"]:
        expect(learnt).to_contain_text(proposal["says"])
    mine = next(each for each in found["effects"] if (each["about"], each["name"]) == ("shine_hours", "Posy"))
    expect(learnt.get_by_role("row", name=re.compile("Posy"))).to_contain_text(
        f"{mine['low']:.2f} to {mine['high']:.2f}"
    )
    learnt.get_by_role("button", name="hours of colour").click()
    expect(learnt.get_by_role("row", name=re.compile("Cool shade 3"))).to_be_visible()
    assert serious(quiet) == []


def test_a_record_that_is_not_there_says_so(quiet: Page, live: str):
    quiet.goto(f"{live}/wear/nothing")
    expect(quiet.get_by_role("alert")).to_be_visible()
    expect(quiet.get_by_role("link", name="To the records")).to_be_visible()


def test_what_was_noted_for_next_time_comes_up_with_the_plan(quiet: Page, live: str):
    sitters = quiet.request.get(f"{live}/api/sitters").json()["sitters"]
    tamsin = next(each for each in sitters if each["nickname"] == "Tamsin")
    (note,) = quiet.request.get(f"{live}/api/sequences/{tamsin['sequence_id']}/next-time").json()["notes"]
    quiet.goto(f"{live}/plans/{tamsin['sequence_id']}")
    noted = quiet.get_by_role("region", name="Noted for next time")
    expect(noted).to_contain_text(note["says"])
    (offer,) = note["offers"]
    noted.get_by_role("button", name=re.compile(re.escape(offer["says"]))).click()
    expect(quiet.get_by_role("button", name=re.compile("^Undo"))).to_be_enabled()
    noted.get_by_role("link").click()
    expect(quiet.get_by_role("region", name="Looks")).to_contain_text(f"Next time: {note['says']}")


def test_a_finished_run_is_looked_at(quiet: Page, live: str, plan: str):
    begun = quiet.request.post(f"{live}/api/sequences/{plan}/run", data={}).json()
    done = [{"step": each["step"], "from_s": 0, "to_s": 60, "side": each["side"]} for each in begun["blocks"]]
    finished = quiet.request.put(f"{live}/api/runs/{begun['run_id']}", data={"log": {"done": done}, "finish": True})
    assert finished.status == 200
    quiet.goto(f"{live}/run/{begun['run_id']}")
    quiet.get_by_role("button", name="Note what is seen").click()
    expect(quiet.get_by_role("region", name="A look")).to_be_visible()
    key = quiet.url.rsplit("/", 1)[1]
    record = quiet.request.get(f"{live}/api/wears/{key}").json()
    assert record["run"] == begun["run_id"]
    # It is worn from the end of its last layer, a minute after the start.
    put_on = datetime.fromisoformat(record["worn"]["from"]) - datetime.fromisoformat(begun["started"])
    assert put_on.total_seconds() == 60
