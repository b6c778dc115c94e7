"""The Class room in the real interface: announced, moved, refused, gone through on three screens with one clock, printed, looked back on."""

from __future__ import annotations

import re
from datetime import UTC, datetime, timedelta

import pytest
from playwright.sync_api import Browser, Page, expect

from tests.browser.conftest import hold_first, let_go, serious, serve

pytestmark = pytest.mark.own_page

SIZES = {"projector": (1280, 800), "phone": (390, 844)}


class Clock:
    """The server's clock, set by hand."""

    def __init__(self) -> None:
        self.at = datetime(2026, 12, 2, 18, 30, tzinfo=UTC)

    def __call__(self) -> datetime:
        return self.at

    def later(self, seconds: float) -> None:
        self.at += timedelta(seconds=seconds)


@pytest.fixture
def clock() -> Clock:
    return Clock()


@pytest.fixture
def hall(demo_database, clock):
    """The address of the demo on a clock that the test sets."""
    yield from serve(demo_database, clock=clock)


def coming(page: Page, live: str) -> str:
    return page.request.get(f"{live}/api/classes").json()["next"]


def shown(page: Page, live: str) -> dict:
    return page.request.get(f"{live}/api/classes/{coming(page, live)}").json()


def test_classes_are_listed_by_course_and_a_new_one_is_announced(quiet: Page, live: str):
    quiet.goto(f"{live}/class")
    course = quiet.get_by_role("region", name="Evening course, autumn")
    expect(course.get_by_role("listitem")).to_have_count(4)
    expect(course.get_by_role("link", name="Recap")).to_have_count(3)
    assert serious(quiet) == []
    quiet.get_by_role("button", name="New class").click()
    dialog = quiet.get_by_role("dialog", name="New class")
    dialog.get_by_label("What it is called").fill("Saturday repeat")
    dialog.get_by_label("Day").fill("2026-12-12")
    dialog.get_by_label("Students, one a line").fill("Posy\nAnother\nA third")
    assert serious(quiet) == []
    dialog.get_by_role("button", name="Announce").click()
    expect(quiet.get_by_role("heading", name="Saturday repeat")).to_be_visible()
    students = quiet.get_by_role("region", name="Students")
    expect(students.get_by_label("Nickname of student 1")).to_have_value("Posy")
    expect(students.get_by_role("combobox", name="Face of Posy: Posy")).to_be_visible()
    quiet.get_by_role("tab", name="Faces").click()
    expect(quiet.get_by_role("region", name="Posy", exact=True)).to_contain_text("instead of")


def test_an_announcement_that_cannot_be_is_refused_in_the_dialog_and_nothing_typed_is_lost(quiet: Page, live: str):
    quiet.goto(f"{live}/class")
    quiet.get_by_role("button", name="New class").click()
    dialog = quiet.get_by_role("dialog", name="New class")
    dialog.get_by_label("What it is called").fill("Twice the same")
    dialog.get_by_label("Students, one a line").fill("Ned\nNed")
    dialog.get_by_role("button", name="Announce").click()
    expect(dialog.get_by_role("alert")).to_contain_text("each nickname once")
    expect(dialog.get_by_label("Students, one a line")).to_have_value("Ned\nNed")


def test_the_room_shows_plan_room_and_clock_and_every_tab_is_readable(quiet: Page, live: str):
    quiet.goto(f"{live}/class/{coming(quiet, live)}")
    found = shown(quiet, live)
    expect(quiet.get_by_role("region", name="The clock")).to_contain_text("before the room must be left")
    assert serious(quiet) == []
    lanes = quiet.get_by_role("img", name=re.compile("Time runs across"))
    for student in found["room"]["students"]:
        expect(lanes.get_by_text(student["name"], exact=True).first).to_be_attached()
    for tab, holds in (
        ("Students", "Take out"),
        ("Blocks", "Block 1"),
        ("Weigh-out", "Product for the room"),
        ("To do", "Before the class"),
        ("Faces", "instead of"),
        ("If your skin …", "Two camps, one reason"),
    ):
        quiet.get_by_role("tab", name=tab).click()
        expect(quiet.get_by_role("tabpanel")).to_contain_text(holds)
        assert serious(quiet, "[role=tabpanel]:not([hidden])") == [], tab
    quiet.reload()
    expect(quiet.get_by_role("tab", name="If your skin …")).to_have_attribute("data-state", "active")
    quiet.get_by_role("tab", name="Weigh-out").click()
    weighed = quiet.get_by_role("region", name="Weigh-out")
    for each in found["buy"][:4]:
        expect(weighed.get_by_role("row").filter(has_text=each["words"]).first).to_contain_text(f"{each['cost']:.2f}")


def test_a_block_is_moved_by_drag_and_refused_with_its_reason_where_it_cannot_begin(quiet: Page, live: str):
    quiet.goto(f"{live}/class/{coming(quiet, live)}")
    before = shown(quiet, live)
    shows = [each for each in before["lesson"]["blocks"] if each["phase"] == "demonstrate"]
    last = shows[-1]
    bar = quiet.get_by_role("img", name=re.compile("Time runs across")).locator("g.cursor-grab").last
    box = bar.bounding_box()
    assert box is not None
    quiet.mouse.move(box["x"] + 5, box["y"] + 10)
    quiet.mouse.down()
    quiet.mouse.move(box["x"] + 65, box["y"] + 10, steps=4)
    quiet.mouse.up()
    expect(quiet.get_by_role("img", name=re.compile("Time runs across")).locator("circle")).to_have_count(1)
    pinned = shown(quiet, live)["room"]["pins"][last["steps"][0]]
    assert pinned > last["start_s"]
    quiet.get_by_role("tab", name="Blocks").click()
    block = quiet.get_by_role("region", name="Blocks").get_by_role("listitem").filter(has_text=f"Block {len(shows)}:")
    block.first.get_by_label("Begins at").fill("18:45")
    block.first.get_by_label("Begins at").blur()
    expect(quiet.get_by_role("alert")).to_contain_text("what comes before takes until")
    assert shown(quiet, live)["room"]["pins"][last["steps"][0]] == pinned
    held = quiet.get_by_role("button", name=re.compile("not possible")).first
    expect(held).to_be_disabled()
    free = quiet.get_by_role("button", name=re.compile("^Begin a block at .*(?<!possible)$")).first
    free.click()
    expect(quiet.get_by_role("heading", name=f"Block {len(shows) + 1}:")).to_be_visible()
    quiet.get_by_role("button", name="As proposed").click()
    expect(quiet.get_by_role("heading", name=f"Block {len(shows) + 1}:")).to_have_count(0)


def test_who_tabs_on_types_in_the_next_field_while_the_last_is_sent(quiet: Page, live: str):
    key = coming(quiet, live)
    quiet.goto(f"{live}/class/{key}")
    room = quiet.get_by_role("region", name="Room", exact=True)
    name, course = room.get_by_label("What it is called"), room.get_by_label("Course")
    expect(course).to_have_value("Evening course, autumn")
    held = hold_first(quiet, f"**/api/classes/{key}")
    name.fill("Sheer base, again")
    quiet.keyboard.press("Tab")
    expect(course).to_be_focused()
    quiet.keyboard.type("Winter")
    let_go(quiet, held)
    expect(quiet.get_by_role("heading", name="Sheer base, again")).to_be_visible()
    quiet.keyboard.type(" course")
    expect(course).to_have_value("Winter course")
    room.get_by_label("Stations").fill("3")
    room.get_by_label("Educators").fill("2")
    with quiet.expect_response(lambda answer: '"educators":2' in (answer.request.post_data or "").replace(" ", "")):
        room.get_by_label("Educators").blur()
    expect(room.get_by_label("Educators")).to_have_value("2")
    found = quiet.request.get(f"{live}/api/classes/{key}").json()["room"]
    assert (found["title"], found["course"]) == ("Sheer base, again", "Winter course")
    assert (found["stations"], found["educators"]) == (3, 2)


def test_what_is_too_long_names_ways_and_one_is_taken(quiet: Page, live: str):
    quiet.goto(f"{live}/class/{coming(quiet, live)}")
    room = quiet.get_by_role("region", name="Room", exact=True)
    room.get_by_label("Room until").fill("20:00")
    room.get_by_label("Room until").blur()
    clock = quiet.get_by_role("region", name="The clock")
    expect(clock.get_by_role("status")).to_contain_text("too long for the room")
    found = shown(quiet, live)
    assert len(found["shorter"]) == 3
    length = found["length_s"]
    clock.get_by_role("button", name="Do this").first.click()
    expect(clock.get_by_text(found["shorter"][0]["says"])).to_have_count(0)
    assert shown(quiet, live)["length_s"] < length


@pytest.mark.parametrize("size", list(SIZES))
def test_a_class_is_taught_on_every_screen_by_one_clock(
    browser: Browser, browser_context_args, hall: str, clock: Clock, size
):
    width, height = SIZES[size]
    context = browser.new_context(**{**browser_context_args, "viewport": {"width": width, "height": height}})
    hand, board = context.new_page(), context.new_page()
    hand.clock.install()
    board.clock.install()
    key = coming(hand, hall)
    found = shown(hand, hall)
    first, second = found["lesson"]["blocks"][:2]
    hand.goto(f"{hall}/round/{key}")
    board.goto(f"{hall}/board/{key}")
    expect(board.get_by_text("We begin soon.")).to_be_visible()
    hand.get_by_role("button", name="Pike here").click()
    expect(hand.get_by_role("button", name="Pike not here")).to_be_visible()
    assert serious(hand) == []
    hand.get_by_role("button", name="Begin the class").click()
    minutes, seconds = divmod(first["end_s"], 60)
    expect(hand.get_by_role("timer")).to_have_text(f"{minutes}:{seconds:02d}")
    clock.later(first["end_s"] + 1200)
    late = hand.request.get(f"{hall}/api/classes/{key}/now").json()["late_s"]
    assert late >= 120, "what a wait takes up is not behind; the rest is"
    hand.clock.run_for(2500)
    board.clock.run_for(2500)
    for page in (hand, board):
        expect(page.get_by_text(f"{round(late / 60)} min behind.")).to_be_visible()
    assert serious(board) == []
    hand.get_by_role("button", name=re.compile("^On: practise")).click()
    turns = hand.get_by_role("region", name="Turns")
    expect(turns.get_by_role("button", name=re.compile("station"))).to_have_count(8)
    expect(turns.get_by_text("Pike")).to_have_count(0)
    working = turns.get_by_role("button", name=re.compile("at work")).first
    name = working.locator("b").inner_text()
    working.click()
    expect(turns.get_by_role("button", name=re.compile(f"{name}, station .*, checked"))).to_be_visible()
    hand.get_by_label(re.compile("Question for the recap")).fill("How little is little?")
    hand.get_by_role("button", name="Note it").click()
    expect(hand.get_by_text("How little is little?")).to_be_visible()
    assert serious(hand) == []
    assert hand.evaluate("document.documentElement.scrollWidth <= innerWidth")
    board.clock.run_for(2500)
    expect(board.get_by_text("Practise", exact=True)).to_be_visible()
    expect(board.get_by_role("region", name="At work").get_by_text(name, exact=True)).to_have_count(0)
    clock.later(second["end_s"] - second["start_s"] + 60)
    hand.clock.run_for(2500)
    expect(turns.get_by_role("button", name=re.compile("wait for a check")).first).to_be_visible()
    hand.reload()
    expect(turns.get_by_role("button", name=re.compile(f"{name}, station .*, checked"))).to_be_visible()
    expect(hand.get_by_text("How little is little?")).to_be_visible()
    context.close()


def test_a_class_that_runs_out_of_time_says_what_gives_and_ends_in_a_recap(quiet: Page, hall: str, clock: Clock):
    key = coming(quiet, hall)
    quiet.clock.install()
    quiet.goto(f"{hall}/round/{key}")
    quiet.get_by_role("button", name="Begin the class").click()
    # It begins by the server's clock, which goes on only once it has begun.
    expect(quiet.get_by_role("button", name=re.compile("^On: "))).to_be_visible()
    room_s = shown(quiet, hall)["room_s"]
    clock.later(room_s - 1800)
    quiet.clock.run_for(2500)
    expect(quiet.get_by_text("So that it ends in time, this gives:")).to_be_visible()
    assert serious(quiet) == []
    parts = len(quiet.request.get(f"{hall}/api/classes/{key}/now").json()["phases"])
    for _ in range(parts):
        going = quiet.get_by_role("button", name=re.compile("^(On: |End class)"))
        if not going.count():
            break
        label = going.inner_text()
        going.click()
        if label == "End class":
            break
        expect(quiet.get_by_role("button", name=label, exact=True)).to_have_count(0)
    quiet.get_by_role("link", name="To the recap").click()
    expect(quiet.get_by_role("heading", name="Block by block")).to_be_visible()
    practise = quiet.get_by_role("region", name="To practise")
    expect(practise).to_contain_text("not checked")
    expect(practise.get_by_role("link", name="which corrector").first).to_be_visible()
    assert serious(quiet) == []
    quiet.get_by_role("button", name="Mark as held: take it from the packs").click()
    expect(quiet.get_by_text("Held. What was weighed out is taken from the packs.")).to_be_visible()
    assert shown_held(quiet, hall, key)


def shown_held(page: Page, live: str, key: str) -> bool:
    return page.request.get(f"{live}/api/classes/{key}").json()["held"]


def test_handouts_are_made_with_their_progress_and_saved(quiet: Page, live: str):
    quiet.goto(f"{live}/class/{coming(quiet, live)}")
    quiet.get_by_role("button", name="Handouts…").click()
    dialog = quiet.get_by_role("dialog", name="Handouts")
    dialog.get_by_label(re.compile("Faces as the mirror")).check()
    assert serious(quiet) == []
    with quiet.expect_download() as saving:
        dialog.get_by_role("button", name="Make the PDF").click()
    assert saving.value.suggested_filename.endswith("-handouts.pdf")
    assert quiet.get_by_role("dialog").count() == 0


def test_a_face_that_must_not_be_worked_says_so_and_who_observes(quiet: Page, live: str):
    sitters = quiet.request.get(f"{live}/api/sitters").json()["sitters"]
    bram = next(each for each in sitters if each["nickname"] == "Bram")
    face = quiet.request.get(f"{live}/api/sitters/{bram['id']}/face").json()
    record = {**face["record"], "zones": {**face["record"]["zones"], "chin": {"conditions": {"broken_skin": 1}}}}
    body = {"version": face["version"], "record": record, "intent": face["intent"]}
    answer = quiet.request.put(f"{live}/api/sitters/{bram['id']}/face", data=body)
    assert answer.ok, answer.text()
    quiet.goto(f"{live}/class/{coming(quiet, live)}")
    students = quiet.get_by_role("region", name="Students")
    expect(students).to_contain_text("Nobody works on this face today: the skin is broken on the chin.")
    expect(students).to_contain_text(re.compile("Bram observes"))
    assert serious(quiet) == []


def test_the_room_reads_on_a_tablet_and_a_phone_with_long_names(quiet: Page, live: str):
    key = coming(quiet, live)
    found = shown(quiet, live)
    name = "Wilhelmina-Araminta of the lamp room, second from the left"
    students = [{**each, "name": name} if each["name"] == "Pike" else each for each in found["room"]["students"]]
    room = {**found["room"], "students": students, "pairs": [], "title": "T" * 120, "version": found["version"]}
    assert quiet.request.put(f"{live}/api/classes/{key}", data=room).ok
    for width, height in ((1024, 768), (390, 844)):
        quiet.set_viewport_size({"width": width, "height": height})
        for address in (f"/class/{key}", f"/round/{key}", f"/board/{key}", "/class"):
            quiet.goto(f"{live}{address}")
            expect(quiet.get_by_text("Looking…")).to_have_count(0)
            expect(quiet.get_by_role("status").filter(has_text="Planning")).to_have_count(0)
            assert quiet.evaluate("document.documentElement.scrollWidth <= innerWidth"), (address, width)


def test_an_unknown_class_and_an_empty_house_say_what_to_do(quiet: Page, live_empty: str):
    quiet.goto(f"{live_empty}/class")
    expect(quiet.get_by_role("heading", name="No classes yet")).to_be_visible()
    expect(quiet.get_by_role("button", name="New class")).to_be_disabled()
    quiet.goto(f"{live_empty}/class/nothing")
    expect(quiet.get_by_role("alert")).to_contain_text("class")
