"""The bar of rooms, and an address that says plan, step and dialog."""

from __future__ import annotations

import re
from typing import Any

from playwright.sync_api import Page, expect

from bench.__main__ import first_screen_kb
from tests.browser.conftest import each_screen, serious

ROOMS = ["Sitters", "Read", "Shelf", "Layer", "Weigh", "Pace", "Class", "Wear", "Drill", "House rules"]

OUTSIDE = """[...document.querySelectorAll('.panel')]
  .filter((card) => getComputedStyle(card).overflowX === 'visible')
  .flatMap((card) => {
    const box = card.getBoundingClientRect();
    return [...card.querySelectorAll('button, input, a')]
      .filter((each) => each.offsetWidth && each.getBoundingClientRect().right > box.right + 1)
      .map((each) => each.getAttribute('aria-label') ?? each.textContent.trim());
  })"""
"""What of a card lies to the right of it."""


def rooms(page: Page):
    return page.get_by_role("navigation", name="Rooms")


def test_every_room_is_named_in_the_order_of_the_work(quiet: Page, live: str):
    quiet.goto(f"{live}/shelf")
    expect(rooms(quiet).get_by_role("link")).to_have_text([re.compile(f"^{name}") for name in ROOMS])
    expect(rooms(quiet).get_by_role("link", name="Read")).to_have_attribute("aria-disabled", "true")
    expect(rooms(quiet).get_by_role("link", name="Shelf")).to_have_attribute("aria-current", "page")


def test_the_sitter_and_plan_in_hand_go_along(bench: Page):
    expect(bench.get_by_title("In hand: Wren · for the season")).to_be_visible()
    for name, heading in (("Read", "Wren"), ("Weigh", "Wren for the season"), ("Layer", "Wren for the season")):
        rooms(bench).get_by_role("link", name=name).click()
        expect(rooms(bench).get_by_role("link", name=name)).to_have_attribute("aria-current", "page")
        expect(bench.get_by_role("heading", level=1)).to_have_text(heading)
        expect(bench.get_by_title("In hand: Wren · for the season")).to_be_visible()
    rooms(bench).get_by_role("link", name="Shelf").click()
    expect(rooms(bench).get_by_role("link", name="Shelf")).to_have_attribute("aria-current", "page")
    bench.reload()
    expect(bench.get_by_title("In hand: Wren · for the season")).to_be_visible()
    bench.get_by_title("What comes next in the work").click()
    expect(rooms(bench).get_by_role("link", name="Layer")).to_have_attribute("aria-current", "page")


def test_an_erased_sitter_is_in_nobodys_hand(bench: Page):
    bench.get_by_title("In hand: Wren · for the season").click()
    bench.get_by_role("button", name="Erase…").click()
    bench.get_by_role("button", name="Erase for good").click()
    expect(bench.get_by_role("dialog")).to_have_count(0)
    expect(bench.get_by_title(re.compile("In hand: Wren"))).to_have_count(0)


def test_a_plan_opens_whole_with_its_first_step(bench: Page):
    expect(bench.get_by_role("heading", name=re.compile("^1. "))).to_be_visible()
    steps = bench.get_by_role("list", name="Order of steps").get_by_role("button").count() - 1
    expect(bench.get_by_text(f"Layer {steps} of {steps}")).to_be_visible()
    bench.keyboard.press("ArrowRight")
    expect(bench.get_by_role("heading", name=re.compile("^2. "))).to_be_visible()
    expect(bench.get_by_text(f"Layer 2 of {steps}")).to_be_visible()


def test_a_step_and_a_dialog_are_in_the_address(bench: Page):
    bench.get_by_role("list", name="Order of steps").get_by_role("button", name=re.compile("Foundation")).click()
    heading = bench.get_by_role("heading", name=re.compile("Foundation$"))
    expect(heading).to_be_visible()
    assert "step=s" in bench.url
    said = heading.inner_text()
    bench.keyboard.press("v")
    dialog = bench.get_by_role("dialog", name="Versions of this plan")
    expect(dialog).to_be_visible()
    assert "open=versions" in bench.url
    bench.reload()
    expect(dialog).to_be_visible()
    sent = bench.url
    bench.go_back()
    expect(dialog).to_have_count(0)
    expect(bench.get_by_role("heading", name=said)).to_be_visible()
    bench.goto(sent)
    expect(dialog).to_be_visible()
    bench.keyboard.press("Escape")
    expect(dialog).to_have_count(0)
    assert "open=" not in bench.url


def test_the_address_follows_a_step_that_was_chosen_in_a_dialog(bench: Page):
    bench.get_by_role("list", name="Order of steps").get_by_role("button", name=re.compile("Foundation")).click()
    before = re.search(r"step=(\w+)", bench.url)[1]
    bench.keyboard.press("a")
    dialog = bench.get_by_role("dialog", name="Add a step")
    dialog.get_by_role("button", name=re.compile("^Setting mist")).click()
    dialog.get_by_role("button", name=re.compile("^Put it there")).first.click()
    expect(dialog).to_have_count(0)
    expect(bench.get_by_role("heading", name=re.compile("Setting mist$"))).to_be_visible()
    expect(bench).not_to_have_url(re.compile("open="))
    expect(bench).to_have_url(re.compile(rf"step=(?!{before}\b)"))
    said = bench.get_by_role("heading", name=re.compile("Setting mist$")).inner_text()
    bench.reload()
    expect(bench.get_by_role("heading", name=said)).to_be_visible()


def test_the_first_screen_asks_for_less_script_than_its_budget():
    assert 20 < first_screen_kb() < 100


def test_no_bar_wraps_and_nothing_leaves_its_card(quiet: Page, live: str):
    sitter = quiet.request.get(f"{live}/api/sitters").json()["sitters"][1]
    plan = sitter["sequence_id"]
    for path in ("/", "/shelf", "/house", f"/plans/{plan}", f"/weigh/{plan}", f"/read/{sitter['id']}"):
        quiet.goto(live + path)
        expect(quiet.get_by_role("status").filter(has_text="…")).to_have_count(0)
        expect(quiet.get_by_role("heading", level=1).first).to_be_attached()
        for _ in each_screen(quiet, ((1024, 768), (1280, 768))):
            rows = quiet.evaluate("[...document.querySelectorAll('header > div')].map((row) => row.offsetHeight)")
            assert rows, path
            assert max(rows) <= 48, (path, rows)
            assert quiet.evaluate(OUTSIDE) == [], path


def test_a_room_that_did_not_load_comes_at_the_next_try(quiet: Page, live: str):
    sitter = quiet.request.get(f"{live}/api/sitters").json()["sitters"][1]
    plan = sitter["sequence_id"]

    def had(what: str) -> Any:
        return quiet.request.get(f"{live}/api/{what}").json()

    held = had("classes")["courses"][0]["classes"][0]["id"]
    sides = {"candidates": [{}, {"school": "overpainted"}], "how": "days"}
    begun = quiet.request.post(f"{live}/api/sequences/{plan}/trials", data=sides)
    heading = quiet.get_by_role("main").get_by_role("heading", level=2)
    rooms = {
        "/": quiet.get_by_role("heading", name="Wren", exact=True),
        f"/read/{sitter['id']}": quiet.get_by_role("tablist", name="What is read"),
        "/shelf": quiet.get_by_role("searchbox", name="Search the shelf"),
        f"/plans/{plan}": quiet.get_by_role("group", name="Section through the base"),
        f"/weigh/{plan}": quiet.get_by_role("region", name="Candidate B"),
        f"/pace/{plan}": quiet.get_by_role("region", name="The score"),
        f"/sheet/{plan}": quiet.get_by_role("main").get_by_role("img"),
        "/class": heading,
        f"/class/{held}": quiet.get_by_role("tablist", name="What the class is made of"),
        f"/recap/{held}": heading,
        "/wear": heading.filter(has_text=re.compile(r"Records \(")),
        f"/wear/{had('wears')['wears'][0]['wear_id']}": quiet.get_by_role("region", name="A look"),
        f"/trials/{begun.json()['trial_id']}": heading,
        "/drill": quiet.get_by_role("button", name="Begin"),
        "/drill/sets": heading,
        "/drill/students": heading,
        f"/drill/students/{had('drill/students')['members'][0]['id']}": heading,
        "/house": quiet.get_by_role("searchbox", name="Search the rule book"),
    }
    for path, shows in rooms.items():
        quiet.route("**/api/**", lambda route: route.abort())
        quiet.goto(live + path)
        again = quiet.get_by_role("button", name="Try again").first
        expect(again).to_be_visible()
        quiet.unroute_all()
        again.click()
        expect(shows.first, path).to_be_visible()
        expect(again, path).to_have_count(0)


def test_a_sitter_who_did_not_come_is_asked_for_again(quiet: Page, live: str):
    quiet.route(re.compile("/api/sitters/"), lambda route: route.abort())
    quiet.goto(live)
    failed = quiet.get_by_text("This sitter could not be opened.")
    expect(failed).to_be_visible()
    expect(quiet.get_by_role("status").filter(has_text="Reading the face")).to_have_count(0)
    quiet.unroute_all()
    failed.get_by_role("button", name="Try again").click()
    expect(quiet.get_by_role("heading", name="Wren", exact=True)).to_be_visible()
    expect(failed).to_have_count(0)


def test_records_stay_where_what_they_teach_did_not_come(quiet: Page, live: str):
    quiet.route("**/api/learnt", lambda route: route.abort())
    quiet.goto(f"{live}/wear")
    failed = quiet.get_by_text("Part of this could not be loaded.")
    expect(failed).to_be_visible()
    assert quiet.get_by_role("region", name="Records").get_by_role("link").count() > 5
    expect(quiet.get_by_role("status").filter(has_text="Learning")).to_have_count(0)
    quiet.unroute_all()
    failed.get_by_role("button", name="Try again").click()
    expect(quiet.get_by_role("heading", name="What was learnt")).to_be_visible()
    expect(failed).to_have_count(0)


def test_the_menu_and_the_bar_are_accessible(bench: Page):
    bench.get_by_role("button", name="Menu").click()
    expect(bench.get_by_role("menuitem", name="Dark room")).to_be_visible()
    assert serious(bench) == []
    bench.get_by_role("menuitem", name=re.compile("^Shortcuts")).click()
    expect(bench.get_by_role("dialog", name="Shortcuts in this room")).to_be_visible()
