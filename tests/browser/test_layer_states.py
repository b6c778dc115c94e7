"""The Layer and Weigh rooms when there is nothing, when nothing answers, when it is slow, and when there is too much."""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Any

import pytest
from playwright.sync_api import Locator, Page, Route, expect

from tests.browser.conftest import each_screen, serious, switch_room
from tests.browser.test_layer import AMOUNT, LESS, choose, chosen, order

EDITS = re.compile(r"/edits(\?|$)")


def plan_of(page: Page) -> dict[str, Any]:
    """The plan that the room shows, as the server has it."""
    found: dict[str, Any] = page.request.get(page.url.replace("/plans/", "/api/sequences/")).json()
    return found


def sent(page: Page, *edits: dict[str, Any]) -> None:
    """Edits sent past the room, which is opened again."""
    plan = plan_of(page)
    body = {"revision": plan["revision"], "edits": list(edits)}
    answer = page.request.post(page.url.replace("/plans/", "/api/sequences/") + "/edits", data=body)
    assert answer.ok, answer.text()
    page.reload()
    expect(page.get_by_role("group", name="Section through the base")).to_be_visible()


@pytest.fixture
def bare(bench: Page, live: str) -> Page:
    """The Layer room on a plan whose every step was taken out."""
    sequence = bench.url.rsplit("/", 1)[1]
    plan = bench.request.get(f"{live}/api/sequences/{sequence}").json()
    body = {
        "revision": plan["revision"],
        "edits": [{"edit": "remove", "step": step["id"]} for step in plan["steps"]],
    }
    assert bench.request.post(f"{live}/api/sequences/{sequence}/edits", data=body).ok
    bench.reload()
    expect(order(bench)).to_be_visible()
    return bench


# Nothing


def test_a_plan_without_steps_says_so_and_offers_a_way_on(bare: Page):
    expect(bare.get_by_text("There is no step in this plan.")).to_be_visible()
    expect(bare.get_by_role("heading", name="Nothing is laid yet, so no rule speaks")).to_be_visible()
    expect(bare.get_by_role("region", name="Bare skin")).not_to_contain_text("→")
    assert serious(bare) == []
    bare.get_by_role("button", name="Add a step", exact=True).last.click()
    expect(bare.get_by_role("dialog", name="Add a step")).to_be_visible()
    bare.keyboard.press("Escape")
    bare.get_by_role("button", name="Plan this face, underpainted").click()
    bare.get_by_role("button", name="Take it").click()
    expect(order(bare).get_by_role("button").filter(has_text="Foundation").first).to_be_visible()
    expect(bare.get_by_text("There is no step in this plan.")).to_have_count(0)


def test_the_first_step_of_an_empty_plan_comes_from_the_palette(bare: Page):
    bare.keyboard.press("a")
    dialog = bare.get_by_role("dialog", name="Add a step")
    dialog.get_by_role("button", name="Moisturise").click()
    dialog.get_by_role("button", name=re.compile("^Put it there")).first.click()
    expect(chosen(bare).get_by_role("heading", level=2)).to_have_text("1. Moisturise")
    bare.keyboard.press("Control+z")
    expect(bare.get_by_text("There is no step in this plan.")).to_be_visible()


def test_keys_do_no_harm_where_there_is_no_step(bare: Page):
    for key in ("ArrowRight", "ArrowLeft", "End", "Home", "Delete", "x", "b", "Alt+ArrowUp", "Alt+ArrowDown"):
        bare.keyboard.press(key)
    section = bare.get_by_role("group", name="Section through the base")
    section.focus()
    for key in ("ArrowRight", "ArrowUp", "Enter", " "):
        bare.keyboard.press(key)
    expect(bare.get_by_role("alert")).to_have_count(0)
    expect(bare.get_by_role("region", name="Bare skin")).to_be_visible()


def test_bare_skin_is_not_the_base_that_suits_best(bare: Page):
    bare.keyboard.press("g")
    card = bare.get_by_role("region", name="Candidate A")
    expect(card).to_contain_text("nothing lies on the skin yet")
    expect(card).not_to_contain_text("suits best")
    expect(bare.get_by_role("region", name="What is recommended")).to_contain_text("Of these, B.")


def test_bare_skin_is_shown_to_a_class_and_printed(bare: Page):
    bare.keyboard.press("p")
    shown = bare.get_by_role("region", name="The step shown")
    expect(shown).to_contain_text("Bare skin")
    expect(shown.get_by_role("button", name="Next layer")).to_be_disabled()
    expect(shown.get_by_role("button", name="Layer before")).to_be_disabled()
    shown.get_by_role("button", name="Stop showing").click()
    bare.get_by_role("link", name="Sheet", exact=True).click()
    bare.get_by_text("The plan in words").click()
    expect(bare.get_by_role("heading", name="Hygiene and safety")).to_be_visible()


# Nothing answers


def test_an_edit_that_is_not_answered_is_told_and_put_back(bench: Page):
    choose(bench, "Foundation")
    bench.route(EDITS, lambda route: route.abort())
    bench.get_by_role("button", name=LESS, exact=True).click()
    expect(bench.get_by_role("alert")).to_contain_text("Nabrel does not answer")
    expect(bench.get_by_label(AMOUNT)).to_have_value("4.5")
    expect(bench.get_by_role("main")).to_have_attribute("aria-busy", "false")
    assert serious(bench) == []
    bench.unroute(EDITS)
    bench.get_by_role("button", name="Dismiss").click()
    bench.get_by_role("button", name=LESS, exact=True).click()
    expect(bench.get_by_label(AMOUNT)).to_have_value("3")
    expect(bench.get_by_role("button", name="Undo")).to_be_enabled()


def answering(body: str, kind: str) -> Callable[[Route], None]:
    return lambda route: route.fulfill(status=500, body=body, content_type=kind)


def test_a_broken_answer_is_told_and_breaks_nothing(bench: Page):
    choose(bench, "Foundation")
    undo = bench.get_by_role("button", name="Undo")
    for kind, body, says in (
        ("text/html", "", "The request failed (500)."),
        ("text/html", "<h1>Internal error</h1>", "The request failed (500)."),
        ("application/json", "[]", "The request failed (500)."),
        ("application/json", '{"says": "The disk is full."}', "The disk is full."),
    ):
        bench.route(EDITS, answering(body, kind))
        bench.get_by_role("button", name=LESS, exact=True).click()
        told = bench.get_by_role("alert")
        expect(told).to_contain_text(says)
        told.get_by_role("button", name="Dismiss").click()
        expect(told).to_have_count(0)
        bench.unroute(EDITS)
        expect(bench.get_by_label(AMOUNT)).to_have_value("4.5")
        bench.get_by_role("button", name=LESS, exact=True).click()
        expect(undo).to_be_enabled()
        undo.click()
        expect(undo).to_be_disabled()


def test_a_plan_that_does_not_load_can_be_tried_again(bench: Page):
    plan = re.compile(r"/api/sequences/[0-9a-f]+\?")
    bench.route(plan, lambda route: route.abort())
    bench.reload()
    failed = bench.get_by_role("alert").filter(has_text="could not be opened")
    expect(failed).to_contain_text("Nabrel does not answer")
    assert serious(bench) == []
    bench.unroute(plan)
    failed.get_by_role("button", name="Try again").click()
    expect(order(bench)).to_be_visible()


def test_candidates_that_do_not_load_can_be_tried_again(bench: Page):
    bench.route(re.compile(r"/api/.*/weigh$"), lambda route: route.abort())
    bench.keyboard.press("g")
    failed = bench.get_by_role("alert").filter(has_text="could not be weighed")
    expect(failed).to_be_visible()
    bench.unroute_all()
    failed.get_by_role("button", name="Try again").click()
    expect(bench.get_by_role("region", name="Candidate B")).to_be_visible()


# Slow


class Held:
    """Requests that are kept waiting until they are let go; later ones then pass."""

    def __init__(self, page: Page, address: re.Pattern[str]) -> None:
        self._waiting: list[Route] | None = []
        page.route(address, self._came)

    def _came(self, route: Route) -> None:
        if self._waiting is None:
            route.continue_()
        else:
            self._waiting.append(route)

    def let_go(self) -> None:
        waiting, self._waiting = self._waiting or [], None
        for route in waiting:
            route.continue_()


def test_a_slow_edit_is_shown_to_be_underway_and_more_may_follow(bench: Page):
    choose(bench, "Foundation")
    held = Held(bench, EDITS)
    less = bench.get_by_role("button", name=LESS, exact=True)
    less.click()
    less.click()
    expect(bench.get_by_role("main")).to_have_attribute("aria-busy", "true")
    expect(bench.get_by_label(AMOUNT)).to_have_value("2")
    held.let_go()
    expect(bench.get_by_role("main")).to_have_attribute("aria-busy", "false")
    expect(bench.get_by_label(AMOUNT)).to_have_value("2")
    assert next(step for step in plan_of(bench)["steps"] if step["kind"] == "foundation")["portions"][0]["amount"] == 2


def test_a_plan_on_its_way_says_so(bench: Page):
    held = Held(bench, re.compile(r"/api/sequences/[0-9a-f]+\?"))
    bench.reload()
    expect(bench.get_by_role("status").filter(has_text="Opening the plan")).to_be_visible()
    assert serious(bench) == []
    held.let_go()
    expect(order(bench)).to_be_visible()


# Much


def pressed_to_the_end(page: Page, button: Locator) -> None:
    """Undo or Redo pressed until there is nothing left for it."""
    while button.is_enabled():
        said = button.get_attribute("title")
        button.click()
        expect(button).not_to_have_attribute("title", said or "")
        expect(page.get_by_role("main")).to_have_attribute("aria-busy", "false")


def test_everything_is_taken_back_after_a_reload_and_done_again(bench: Page):
    start = plan_of(bench)["steps"]
    choose(bench, "Foundation")
    less = bench.get_by_role("button", name=LESS, exact=True)
    for _ in range(4):
        less.click()
    expect(bench.get_by_label(AMOUNT)).to_have_value("0.5")
    choose(bench, "Colour")
    bench.keyboard.press("Delete")
    undo, redo = bench.get_by_role("button", name="Undo"), bench.get_by_role("button", name="Redo")
    expect(undo).to_have_attribute("title", re.compile("^Undo: Took out colour"))
    done = plan_of(bench)["steps"]
    bench.reload()
    expect(redo).to_have_attribute("title", "Nothing to redo")
    pressed_to_the_end(bench, undo)
    assert plan_of(bench)["steps"] == start
    bench.reload()
    expect(undo).to_have_attribute("title", "Nothing to undo")
    pressed_to_the_end(bench, redo)
    assert plan_of(bench)["steps"] == done


@pytest.fixture
def long_names(quiet: Page, live: str) -> Page:
    """The Layer room on a sitter and a shelf with the longest names that are taken."""
    sitter = quiet.request.get(f"{live}/api/sitters").json()["sitters"][0]
    case = quiet.request.get(f"{live}/api/sitters/{sitter['id']}/case").json()
    case["sitter"]["nickname"] = "Wilhelmina-Bartholomea " * 2
    for item in case["kit"]:
        item["name"] = (f"{item['name']} with a name that goes on and on and on without any end " * 2)[:80]
        item["id"] = f"long-{item['id']}"
    taken = quiet.request.post(f"{live}/api/cases", data=case)
    assert taken.ok, taken.text()
    quiet.goto(f"{live}/plans/{taken.json()['sequence_id']}")
    expect(order(quiet)).to_be_visible()
    return quiet


def test_long_names_push_nothing_off_the_page(long_names: Page):
    for _ in each_screen(long_names):
        choose(long_names, "Foundation")
        assert serious(long_names) == []
    long_names.keyboard.press("p")
    shown = long_names.get_by_role("main", name="Shown to a class")
    for _ in each_screen(long_names):
        expect(shown).to_be_visible()
    long_names.keyboard.press("p")
    expect(shown).to_have_count(0)
    long_names.keyboard.press("g")
    for _ in each_screen(long_names):
        expect(long_names.get_by_role("region", name="Candidate B")).to_be_visible()


@pytest.mark.parametrize("theme", ["Light room", "Dark room"])
def test_every_dialog_of_a_plan_is_accessible_in_either_room(bench: Page, theme: str):
    if theme == "Dark room":
        switch_room(bench, theme)
    choose(bench, "Foundation")
    for key, name in (
        ("s", "Which school here?"),
        ("w", "Wishes"),
        ("a", "Add a step"),
        ("v", "Versions of this plan"),
        ("c", "Which corrector here?"),
        ("m", "Mix a shade"),
        ("d", "Subtract from stock"),
    ):
        bench.keyboard.press(key)
        dialog = bench.get_by_role("dialog", name=re.compile(re.escape(name)))
        expect(dialog).to_be_visible()
        expect(dialog.get_by_role("status").filter(has_text="…")).to_have_count(0)
        assert serious(bench) == [], name
        bench.keyboard.press("Escape")
        expect(dialog).to_have_count(0)


def test_hostile_words_are_shown_as_words(bench: Page):
    words = '<img src=x onerror=alert(1)> & "quotes" \'); --'
    bench.keyboard.press("v")
    dialog = bench.get_by_role("dialog", name="Versions of this plan")
    dialog.get_by_role("textbox").fill(words)
    dialog.get_by_role("button", name="Name it").click()
    expect(dialog.get_by_role("listitem").filter(has_text=words)).to_be_visible()
    expect(dialog.locator("img")).to_have_count(0)
    bench.keyboard.press("Escape")
    sent(bench, {"edit": "remove", "step": plan_of(bench)["steps"][-1]["id"]})
    bench.keyboard.press("g")
    bench.get_by_role("combobox", name=re.compile("^Version of B")).click()
    bench.get_by_role("option", name=words).click()
    expect(bench.get_by_role("region", name="Candidate B")).to_contain_text(words)
    bench.reload()
    expect(bench.get_by_role("region", name="Candidate B")).to_contain_text(words)
