"""A run in the real interface, with a clock that the test holds: worked to its end, interrupted, offline, changed."""

from __future__ import annotations

import json
import re

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import serious

pytestmark = pytest.mark.own_page

SECOND = 1000


@pytest.fixture
def plan(quiet: Page, live: str) -> str:
    sitters = quiet.request.get(f"{live}/api/sitters").json()["sitters"]
    return next(each["sequence_id"] for each in sitters if each["nickname"] == "Wren")


@pytest.fixture
def run(quiet: Page, live: str, plan: str) -> Page:
    """A run that has just begun; its clock stands still until the test moves it."""
    quiet.clock.install()
    quiet.goto(f"{live}/pace/{plan}")
    quiet.get_by_role("button", name="Start the run").click()
    expect(quiet).to_have_url(re.compile("/run/"))
    expect(quiet.get_by_role("heading", name="Cleanse")).to_be_visible()
    return quiet


def pass_by(run: Page, seconds: float) -> None:
    run.clock.run_for(int(seconds * SECOND))


def in_hand(run: Page):
    return run.get_by_role("region", name="In hand")


def script(run: Page) -> list[dict]:
    return run.request.get(f"{address(run)}/api/runs/{run_id(run)}").json()["blocks"]


def address(run: Page) -> str:
    return run.url.split("/run/")[0]


def run_id(run: Page) -> str:
    return run.url.split("/run/")[1].split("?")[0]


def saved(run: Page) -> list[dict]:
    expect(run.get_by_text("Saved", exact=True)).to_be_visible()
    return run.request.get(f"{address(run)}/api/runs/{run_id(run)}").json()["log"]["done"]


def work_to(run: Page, title: str) -> None:
    """Do every block until the one with this title is in hand, each in its planned time, its waits waited out."""
    for block in script(run):
        if block["title"] == title:
            break
        expect(in_hand(run).get_by_role("heading", name=block["title"])).to_be_visible()
        pass_by(run, block["seconds"])
        run.keyboard.press("Space")
    expect(in_hand(run).get_by_role("heading", name=title)).to_be_visible()


def test_a_whole_run_by_keys_alone_ends_with_its_times_and_what_it_used(run: Page):
    blocks = script(run)
    keys = ["Space", "PageDown", "ArrowRight"]
    for place, block in enumerate(blocks):
        expect(in_hand(run).get_by_role("heading", name=block["title"])).to_be_visible()
        pass_by(run, block["seconds"])
        run.keyboard.press(keys[place % 3])
    assert len(saved(run)) == len(blocks)
    run.get_by_role("button", name="Finish the run").click()
    expect(run.get_by_role("heading", name="The run is finished")).to_be_visible()
    rows = run.get_by_role("region", name="Time by step").get_by_role("row")
    expect(rows).to_have_count(len(blocks) + 1)
    foundation = next(block for block in blocks if block["title"] == "Foundation")
    said = f"{foundation['seconds'] // 60}:{foundation['seconds'] % 60:02d}"
    expect(rows.filter(has_text="Foundation")).to_contain_text(said)
    expect(run.get_by_role("region", name="Used")).to_contain_text("Thin satin 2")
    expect(run.get_by_role("region", name="To clean")).to_contain_text("damp sponge")
    expect(run.get_by_role("region", name="Second look")).to_contain_text(re.compile("20:00|19:5"))
    assert serious(run) == []
    with run.expect_download() as download:
        run.get_by_role("link", name="Put it in a calendar").click()
    assert "BEGIN:VALARM" in download.value.path().read_text()
    run.get_by_role("link", name="To the timetable").click()
    expect(run.get_by_role("region", name="Runs")).to_contain_text(f"finished, {len(blocks)} of {len(blocks)} steps")


def test_a_wait_counts_down_and_says_what_can_be_done_meanwhile(run: Page):
    work_to(run, "Brows")
    pass_by(run, 120)
    run.get_by_role("button", name="More").click()
    run.get_by_text("All steps still to do").click()
    run.get_by_role("list").get_by_role("button", name=re.compile("Prime")).first.click()
    expect(run.get_by_role("timer", name="Still to wait")).to_contain_text(re.compile(r"1[23]:\d\d"))
    expect(run.get_by_role("timer", name="Still to wait")).to_contain_text("sunscreen must rest 15 min")
    ready = next(block["make_ready"] for block in script(run) if block["make_ready"])
    expect(run.get_by_role("region", name="What comes next")).to_contain_text(ready)
    run.get_by_role("region", name="What comes next").get_by_role("button", name=re.compile("Lips|Brows")).first.click()
    expect(in_hand(run).get_by_role("heading", name=re.compile("Lips|Brows"))).to_be_visible()


def test_a_reload_loses_nothing_and_says_how_long_nobody_was_here(run: Page):
    work_to(run, "Sunscreen")
    before = saved(run)
    pass_by(run, 300)
    run.reload()
    expect(in_hand(run).get_by_role("heading", name="Sunscreen")).to_be_visible()
    expect(run.get_by_text(re.compile(r"5:0\d have passed since the last step was done"))).to_be_visible()
    assert saved(run) == before


def test_without_the_server_the_run_goes_on_and_is_sent_later(run: Page):
    work_to(run, "Moisturise")
    before = saved(run)
    run.route("**/api/**", lambda route: route.abort())
    for _ in range(3):
        pass_by(run, 20)
        run.keyboard.press("Space")
    expect(run.get_by_text("Nabrel does not answer: taps are kept here.")).to_be_visible()
    stored = run.evaluate("Object.entries(localStorage).filter(([name]) => name.startsWith('nabrel run'))")
    assert "Wren" not in json.dumps(stored)
    title = in_hand(run).get_by_role("heading").inner_text()
    run.unroute("**/api/**")
    pass_by(run, 60)
    expect(run.get_by_text("Saved", exact=True)).to_be_visible()
    assert len(saved(run)) == len(before) + 3
    expect(in_hand(run).get_by_role("heading", name=title)).to_be_visible()


def test_what_was_tapped_offline_outlives_a_reload(run: Page):
    run.route("**/api/**", lambda route: route.abort())
    pass_by(run, 90)
    run.keyboard.press("Space")
    expect(run.get_by_text("Nabrel does not answer: taps are kept here.")).to_be_visible()
    run.unroute("**/api/**")
    run.reload()
    expect(in_hand(run).get_by_role("heading", name="Moisturise")).to_be_visible()
    assert [each["step"] for each in saved(run)] == ["s1"]


def test_a_pause_over_a_longest_wait_says_what_is_too_late(run: Page):
    work_to(run, "Set")
    run.keyboard.press("p")
    expect(run.get_by_role("heading", name="Paused")).to_be_visible()
    pass_by(run, 600)
    assert serious(run) == []
    run.get_by_role("button", name="Go on").click()
    late = run.get_by_role("list", name="Too late by now")
    expect(late).to_contain_text("Set")
    expect(late).to_contain_text("must follow within 30 s")
    expect(in_hand(run)).to_contain_text("too late")


def test_back_twice_skip_and_a_note(run: Page):
    pass_by(run, 60)
    run.keyboard.press("Space")
    expect(in_hand(run).get_by_role("heading", name="Moisturise")).to_be_visible()
    run.keyboard.press("PageUp")
    expect(in_hand(run).get_by_role("heading", name="Cleanse")).to_be_visible()
    pass_by(run, 30)
    run.keyboard.press("Space")
    run.keyboard.press("m")
    more = run.get_by_role("region", name="More")
    more.get_by_role("button", name="Did cleanse twice").click()
    run.keyboard.press("m")
    more.get_by_role("button", name="Skip moisturise").click()
    expect(more.get_by_role("group", name="Skip it?")).to_contain_text(re.compile("looks? different"))
    assert serious(run) == []
    more.get_by_role("button", name="Skip it").click()
    run.keyboard.press("m")
    more.get_by_label("Note").fill("skin felt tight")
    more.get_by_role("button", name="Keep note").click()
    assert [(each["step"], each["state"]) for each in saved(run)] == [
        ("s1", "done"),
        ("s1", "again"),
        ("s2", "skipped"),
    ]
    log = run.request.get(f"{address(run)}/api/runs/{run_id(run)}").json()["log"]
    assert [note["text"] for note in log["notes"]] == ["skin felt tight"]


def test_an_empty_pack_is_replaced_and_a_forgotten_step_goes_in_late(run: Page):
    work_to(run, "Foundation")
    run.keyboard.press("m")
    run.get_by_role("button", name="Pack is empty").click()
    choices = run.get_by_role("list", name="In its place").get_by_role("button")
    name = choices.first.inner_text()
    choices.first.click()
    expect(run.get_by_role("region", name="More")).to_be_hidden()
    expect(in_hand(run)).to_contain_text(name)
    run.keyboard.press("m")
    run.get_by_role("button", name="Forgot a step").click()
    run.get_by_role("list", name="Forgotten").get_by_role("button", name="Bronze").click()
    places = run.get_by_role("list", name=re.compile("Where Bronze can still go")).get_by_role("button")
    places.first.click()
    expect(run.get_by_role("region", name="More")).to_be_hidden()
    run.keyboard.press("m")
    run.get_by_text("All steps still to do").click()
    expect(run.get_by_role("button", name=re.compile("Bronze"))).to_be_visible()


def test_a_tap_anywhere_is_as_good_as_a_key_and_a_phone_shows_all_of_it(run: Page):
    run.set_viewport_size({"width": 390, "height": 800})
    assert run.evaluate("document.documentElement.scrollWidth") <= 390
    in_hand(run).get_by_role("heading", name="Cleanse").click()
    expect(in_hand(run).get_by_role("heading", name="Moisturise")).to_be_visible()
    assert serious(run) == []
    expect(run.get_by_role("button", name=re.compile("Done"))).to_be_in_viewport()


def test_a_run_that_is_not_there_says_so(quiet: Page, live: str):
    quiet.goto(f"{live}/run/nobody")
    expect(quiet.get_by_role("alert")).to_contain_text("run")
    expect(quiet.get_by_role("link", name="To the sitters")).to_be_visible()


def test_a_pin_moves_the_rest_and_one_that_cannot_be_is_taken_back(quiet: Page, live: str, plan: str):
    quiet.goto(f"{live}/pace/{plan}")
    order = quiet.get_by_role("region", name="The order of the hands")
    order.get_by_role("button", name=re.compile("^Pin Brows to")).click()
    order.get_by_role("button", name="Brows half a minute later").click()
    expect(order.get_by_role("button", name=re.compile("^Pin Brows to 6:00"))).to_have_attribute("aria-pressed", "true")
    quiet.get_by_label("Starts at").fill("09:00")
    quiet.get_by_label("Ready at").fill("09:05")
    expect(quiet.get_by_role("heading", name="These cannot all be kept")).to_be_visible()
    expect(quiet.get_by_role("main")).to_contain_text("ready at 09:05")
    quiet.get_by_role("button", name="Take the last change back").click()
    expect(quiet.get_by_role("region", name="The score")).to_be_visible()


def test_dragging_a_bar_pins_its_step(quiet: Page, live: str, plan: str):
    quiet.goto(f"{live}/pace/{plan}")
    bar = quiet.locator("svg g", has=quiet.locator("title", has_text="Brows")).first
    box = bar.bounding_box()
    quiet.mouse.move(box["x"] + box["width"] / 2, box["y"] + 10)
    quiet.mouse.down()
    quiet.mouse.move(box["x"] + box["width"] / 2 + 60, box["y"] + 10, steps=4)
    quiet.mouse.up()
    pinned = quiet.get_by_role("button", name=re.compile("^Pin Brows to"))
    expect(pinned).to_have_attribute("aria-pressed", "true")


def test_a_wait_changed_in_the_room_changes_the_plan_and_the_score(quiet: Page, live: str, plan: str):
    quiet.goto(f"{live}/pace/{plan}")
    long = quiet.get_by_role("region", name="How long it takes")
    before = long.locator("p").first.inner_text()
    quiet.get_by_text("Waits", exact=True).click()
    quiet.get_by_label("Sunscreen rests at least, seconds").fill("300")
    quiet.get_by_label("Sunscreen rests at least, seconds").press("Enter")
    expect(long.locator("p").first).not_to_have_text(before)
    steps = quiet.request.get(f"{live}/api/sequences/{plan}").json()["steps"]
    assert next(step["wait_s"] for step in steps if step["kind"] == "sunscreen") == 300
    assert serious(quiet) == []


def test_fixed_times_are_kept_in_the_plan_when_asked(quiet: Page, live: str, plan: str):
    quiet.goto(f"{live}/pace/{plan}")
    expect(quiet.get_by_role("region", name="The score")).to_be_visible()
    expect(quiet.get_by_role("button", name="Keep these times")).to_be_hidden()
    quiet.get_by_role("button", name="One side first").click()
    quiet.get_by_label("Starts at").fill("09:00")
    quiet.get_by_role("button", name="Keep these times").click()
    expect(quiet.get_by_role("button", name="Keep these times")).to_be_hidden()
    quiet.reload()
    expect(quiet.get_by_role("button", name="One side first")).to_have_attribute("aria-pressed", "true")
    expect(quiet.get_by_label("Starts at")).to_have_value("09:00")
