"""What the Wear room leads to, in the real interface: proposals agreed to, trials, photographs, imports, the address on the sheet."""

from __future__ import annotations

import io
import re
import time

import pytest
from PIL import Image
from playwright.sync_api import Page, expect

from nabrel.store.repositories import short_code
from tests.browser.conftest import hold_first, serious

WORN = "2026-11-03T09:50:00+00:00"


def sitter(page: Page, live: str, name: str) -> dict:
    return next(each for each in page.request.get(f"{live}/api/sitters").json()["sitters"] if each["nickname"] == name)


@pytest.fixture
def record(quiet: Page, live: str) -> str:
    """A record with one look, opened."""
    plan = sitter(quiet, live, "Posy")["sequence_id"]
    key = quiet.request.post(f"{live}/api/sequences/{plan}/wears", data={"worn_from": WORN}).json()["wear_id"]
    look = {"after_min": 240, "seen": ["nose_tip", "chin"], "zones": {"nose_tip": {"shine": 2}}, "note": "On the boat."}
    quiet.request.put(f"{live}/api/wears/{key}/look", data={"look": look})
    quiet.goto(f"{live}/wear/{key}")
    expect(quiet.get_by_role("region", name="Looks")).to_contain_text("Shine 2 on the nose tip. On the boat.")
    return key


def test_a_proposal_says_what_it_would_change_is_agreed_to_and_undone_in_house_rules(quiet: Page, live: str):
    bram = sitter(quiet, live, "Bram")
    quiet.goto(f"{live}/wear")
    learnt = quiet.get_by_role("region", name="What was learnt")
    proposal = learnt.get_by_role("listitem").filter(has_text="On Bram it shines sooner than forecast")
    proposal.get_by_role("button", name="What would change").click()
    expect(proposal).to_contain_text("Planned again it gets")
    assert serious(quiet) == []
    proposal.get_by_role("button", name=re.compile("Use .* times from now on")).click()
    expect(learnt).to_contain_text("Hours to shine on Bram")
    quiet.goto(f"{live}/plans/{bram['sequence_id']}")
    expect(quiet.get_by_text(re.compile(r"learnt from \d+ looks")).first).to_be_visible()
    quiet.goto(f"{live}/house")
    listed = quiet.get_by_role("region", name="Learnt from wear")
    assert serious(quiet) == []
    listed.get_by_role("button", name="Undo: Hours to shine on Bram").click()
    expect(listed).to_contain_text("undone")
    assert quiet.request.get(f"{live}/api/sequences/{bram['sequence_id']}").json()["totals"]["shine_looks"] == 0


def test_two_candidates_of_weigh_are_set_up_as_a_trial_and_worn(quiet: Page, live: str):
    quiet.goto(f"{live}/weigh/{sitter(quiet, live, 'Posy')['sequence_id']}")
    quiet.get_by_role("button", name="Try two in wear").click()
    dialog = quiet.get_by_role("dialog", name="Try two against each other")
    expect(dialog.get_by_role("radio", name=re.compile("Two halves"))).to_be_checked()
    assert serious(quiet) == []
    dialog.get_by_role("button", name="Set up the trial").click()
    expect(quiet.get_by_role("region", name="Which did better")).to_contain_text("no zone was looked at both ways yet")
    expect(quiet.get_by_role("region", name="What to look at, and when")).to_contain_text("After 25 min")
    quiet.get_by_role("button", name="Both halves are on now").click()
    worn = quiet.get_by_role("region", name="Worn")
    expect(worn.get_by_role("link")).to_have_count(2)
    assert serious(quiet) == []
    worn.get_by_role("link", name=re.compile("Left half")).click()
    expect(quiet.get_by_role("region", name="A look")).to_contain_text("One look serves both halves")
    quiet.get_by_role("button", name="Cheeks", exact=True).click()
    quiet.get_by_role("button", name="Save this look").click()
    quiet.get_by_role("link", name="The trial").click()
    expect(quiet.get_by_role("region", name="Worn")).to_contain_text("1 look")
    assert [each["looks"] for each in trial_of(quiet, live)["worn"]] == [1, 1]


def trial_of(page: Page, live: str) -> dict:
    (row,) = page.request.get(f"{live}/api/trials").json()["trials"]
    return page.request.get(f"{live}/api/trials/{row['trial_id']}").json()


def test_a_photograph_is_shown_beside_the_forecast_and_forgotten(quiet: Page, live: str, record: str):
    out = io.BytesIO()
    Image.new("RGB", (60, 40), "brown").save(out, "PNG")
    looks = quiet.get_by_role("region", name="Looks")
    looks.locator("input[type=file]").set_input_files(
        {"name": "face.png", "mimeType": "image/png", "buffer": out.getvalue()}
    )
    looks.get_by_role("button", name="Show the photograph after 4 h").click()
    dialog = quiet.get_by_role("dialog", name="Posy, after 4 h")
    expect(dialog.get_by_role("img", name="Posy after 4 h")).to_be_visible()
    assert serious(quiet) == []
    dialog.get_by_role("button", name="Forget the photograph").click()
    expect(dialog).to_have_count(0)
    assert quiet.request.get(f"{live}/api/wears/{record}").json()["looks"][0]["photo"] == ""
    looks.locator("input[type=file]").set_input_files(
        {"name": "notes.png", "mimeType": "image/png", "buffer": b"no picture"}
    )
    expect(quiet.get_by_text("a photograph as JPEG, PNG, WebP or HEIC that can be opened")).to_be_visible()


def test_a_look_is_taken_back_into_hand_and_changed(quiet: Page, live: str, record: str):
    quiet.get_by_role("button", name="Edit the look after 4 h").click()
    expect(quiet.get_by_label("Minutes after")).to_have_value("240")
    expect(quiet.get_by_label("In words")).to_have_value("On the boat.")
    quiet.get_by_label("In words").fill("On the ferry.")
    quiet.get_by_role("button", name="Save this look").click()
    expect(quiet.get_by_role("region", name="Looks")).to_contain_text("Shine 2 on the nose tip. On the ferry.")
    (look,) = quiet.request.get(f"{live}/api/wears/{record}").json()["looks"]
    assert (look["note"], set(look["seen"])) == ("On the ferry.", {"nose_tip", "chin"})


def test_a_colour_is_read_and_stands_beside_its_forecast(quiet: Page, live: str, record: str):
    quiet.get_by_text("Colour reading", exact=True).click()
    quiet.get_by_role("button", name="Colour reader…").click()
    quiet.get_by_role("button", name="Take five").click()
    quiet.get_by_role("button", name="Save the mean").click()
    quiet.get_by_role("button", name="Save this look").click()
    expect(quiet.get_by_role("region", name="Colour forecast against read")).to_contain_text("Cheek apple, left")
    assert serious(quiet) == []


def test_the_day_and_the_verdict_are_kept(quiet: Page, live: str, record: str):
    day = quiet.get_by_role("region", name="The day, and the verdict")
    day.get_by_label("Warmest, °C").fill("33")
    day.get_by_label("Warmest, °C").press("Enter")
    day.get_by_role("button", name="Yes").click()
    day.get_by_role("button", name="Fine").click()
    day.get_by_label("What they say of it").fill("Lovely until noon.")
    with quiet.expect_response(lambda each: "Lovely" in (each.request.post_data or "")):
        day.get_by_label("What they say of it").blur()
    expect(day.get_by_role("button", name="Fine")).to_have_attribute("aria-pressed", "true")
    quiet.reload()
    expect(quiet.get_by_label("What they say of it")).to_have_value("Lovely until noon.")
    stored = quiet.request.get(f"{live}/api/wears/{record}").json()
    assert (stored["temperature_c"], stored["verdict"]["again"], stored["verdict"]["comfort"]) == (33, True, 2)


def test_what_is_changed_while_an_answer_is_on_the_way_undoes_nothing(quiet: Page, live: str, record: str):
    held = hold_first(quiet, "**/api/wears/*/day")
    day = quiet.get_by_role("region", name="The day, and the verdict")
    for label, value in (("Warmest, °C", "33"), ("Humidity, %", "71")):
        day.get_by_label(label).fill(value)
        day.get_by_label(label).press("Enter")
    day.get_by_role("button", name="Yes").click()
    expect(day.get_by_role("button", name="Yes")).to_have_attribute("aria-pressed", "true")
    assert len(held) == 1
    with quiet.expect_response(re.compile("/verdict")):
        held[0].continue_()
    stored = quiet.request.get(f"{live}/api/wears/{record}").json()
    assert (stored["temperature_c"], stored["humidity_pc"], stored["verdict"]["again"]) == (33, 71, True)
    expect(day.get_by_label("Warmest, °C")).to_have_value("33")


def test_what_waits_for_its_turn_is_sent_when_the_page_is_left(quiet: Page, live: str, record: str):
    quiet.route(re.compile("/api/wears/[^/]+/day"), lambda _: None)
    day = quiet.get_by_role("region", name="The day, and the verdict")
    day.get_by_label("Warmest, °C").fill("33")
    day.get_by_label("Warmest, °C").press("Enter")
    day.get_by_role("button", name="Yes").click()
    expect(day.get_by_role("button", name="Yes")).to_have_attribute("aria-pressed", "true")

    def again() -> bool | None:
        said = quiet.request.get(f"{live}/api/wears/{record}").json()["verdict"]
        return said and said["again"]

    assert again() is None
    quiet.goto(f"{live}/icon.svg")
    deadline = time.monotonic() + 20
    while again() is None and time.monotonic() < deadline:
        time.sleep(0.05)
    assert again() is True


def test_a_record_is_forgotten_after_it_is_asked(quiet: Page, live: str, record: str):
    quiet.get_by_role("button", name="Forget this record…").click()
    quiet.get_by_role("dialog", name="Forget this record?").get_by_role("button", name="Forget it").click()
    expect(quiet.get_by_role("region", name="Records")).to_be_visible()
    assert quiet.request.get(f"{live}/api/wears/{record}").status == 404


def test_a_table_of_looks_is_previewed_row_by_row_before_it_is_imported(quiet: Page, live: str):
    table = f"sitter,worn_from,after_min,zone,shine\nPosy,{WORN},60,chin,2\nNobody,{WORN},60,chin,2\n"
    quiet.goto(f"{live}/wear")
    quiet.get_by_label("Import looks").set_input_files(
        {"name": "looks.csv", "mimeType": "text/csv", "buffer": table.encode()}
    )
    dialog = quiet.get_by_role("dialog", name="Before the import")
    expect(dialog).to_contain_text("1 row can be imported, 1 cannot and would be left out")
    expect(dialog.get_by_role("row", name=re.compile("Nobody"))).to_contain_text("the nickname of a sitter who is here")
    assert serious(quiet) == []
    dialog.get_by_role("button", name="Import 1 row").click()
    expect(quiet.get_by_text("1 row imported, into 1 record.")).to_be_visible()
    expect(quiet.get_by_role("region", name="Records")).to_contain_text("Posy")


def test_the_short_address_asks_when_it_was_put_on_and_leads_to_the_look(quiet: Page, live: str):
    quiet.set_viewport_size({"width": 390, "height": 844})
    plan = sitter(quiet, live, "Posy")["sequence_id"]
    quiet.goto(f"{live}/w/{short_code(plan)}")
    quiet.get_by_label("Minutes since it was put on").fill("30")
    quiet.get_by_label("Minutes since it was put on").press("Tab")
    assert serious(quiet) == []
    quiet.get_by_role("button", name="Note what is seen").click()
    expect(quiet.get_by_label("Minutes after")).to_have_value(re.compile("^3[01]$"))
    quiet.goto(f"{live}/w/{short_code(plan)}")
    expect(quiet.get_by_role("region", name="A look")).to_be_visible()
    assert quiet.evaluate("document.documentElement.scrollWidth") <= 390
    quiet.goto(f"{live}/w/nothing")
    expect(quiet.get_by_role("alert")).to_contain_text("This look could not be opened")


def test_the_course_of_one_sitter_is_drawn_and_told_as_a_table(quiet: Page, live: str):
    quiet.goto(f"{live}/wear")
    quiet.get_by_label(re.compile("^Whose")).click()
    quiet.get_by_role("option", name="Bram").click()
    season = quiet.get_by_role("region", name="Where it wears short")
    expect(season).to_contain_text("Through the season")
    season.get_by_text("As a table").click()
    expect(season.get_by_role("table").last.get_by_role("row")).to_have_count(11)
    assert serious(quiet) == []


def test_a_look_in_hand_is_still_there_after_a_reload_and_gone_once_it_is_saved(quiet: Page, live: str, record: str):
    quiet.get_by_label("In words").fill("Between two boats.")
    quiet.get_by_role("button", name="Forehead", exact=True).click()
    quiet.reload()
    expect(quiet.get_by_label("In words")).to_have_value("Between two boats.")
    expect(quiet.get_by_role("button", name="Forehead", exact=True)).to_have_attribute("aria-pressed", "true")
    quiet.get_by_role("button", name="Save this look").click()
    expect(quiet.get_by_role("region", name="Looks")).to_contain_text("Between two boats.")
    quiet.reload()
    expect(quiet.get_by_label("In words")).to_have_value("")
