"""The Drill room in the real interface: every kind answered by keys alone and by touch, students, sets, a test, who is signed in."""

from __future__ import annotations

import io
import json
import re
from collections.abc import Iterator

import pytest
from playwright.sync_api import Browser, Page, expect
from pypdf import PdfReader

from nabrel.core.drill.judgements import JUDGEMENTS
from nabrel.core.drill.kinds import KINDS
from nabrel.core.drill.practice import coming
from nabrel.store.accounts import Accounts
from nabrel.store.database import Database
from nabrel.store.practice import Students
from tests.browser.conftest import serious, serve
from tests.browser.test_sign_in import PASSWORD, sign_in


def begin(page: Page, live: str, **wanted: str) -> None:
    address = "&".join(f"{name}={value}" for name, value in wanted.items())
    page.goto(f"{live}/drill?{address}")
    page.get_by_role("button", name="Begin", exact=True).click()
    expect(page.get_by_role("region", name="Question")).to_be_visible()


def tab_to(page: Page, role: str) -> None:
    """Move the focus on by Tab until it is on something of a role."""
    for _ in range(80):
        page.keyboard.press("Tab")
        found = page.evaluate(
            "role => { const at = document.activeElement;"
            " return at?.getAttribute('role') === role || (at instanceof HTMLInputElement && at.type === role); }",
            role,
        )
        if found:
            return
    raise AssertionError(f"nothing of role {role} is reached by Tab")


def follows(page: Page):
    return page.get_by_role("region", name="What follows")


@pytest.mark.parametrize("kind", list(KINDS))
def test_every_kind_is_answered_by_keys_alone(quiet: Page, live: str, kind: str):
    begin(quiet, live, kind=kind)
    question = quiet.get_by_role("region", name="Question")
    expect(question).to_contain_text(f"{KINDS[kind].words}, level")
    assert serious(quiet) == []
    if question.get_by_role("checkbox").count():
        tab_to(quiet, "checkbox")
        quiet.keyboard.press("Space")
    if kind in ("fault", "powder_where"):
        tab_to(quiet, "radio")
        quiet.keyboard.press("Space")
    if kind == "depth":
        tab_to(quiet, "range")
        quiet.keyboard.press("ArrowRight")
    if question.get_by_role("radiogroup").count():
        quiet.keyboard.press("b")
        expect(question.get_by_role("radiogroup").get_by_role("radio").nth(1)).to_be_checked()
    quiet.keyboard.press("Enter")
    expect(follows(quiet)).to_contain_text("To remember")
    expect(quiet.get_by_role("status").filter(has_text="1 answered")).to_be_visible()
    if kind not in ("base_pair", "depth"):
        expect(quiet.get_by_role("region", name="To look at")).to_be_visible()
    assert serious(quiet) == []
    # A foot pedal sends a page down.
    quiet.keyboard.press("PageDown")
    expect(follows(quiet)).to_have_count(0)
    expect(quiet.get_by_role("button", name="Answer", exact=True)).to_be_visible()


@pytest.fixture(scope="module")
def phone(browser: Browser, browser_context_args) -> Iterator[Page]:
    context = browser.new_context(
        **{**browser_context_args, "viewport": {"width": 390, "height": 844}, "has_touch": True}
    )
    yield context.new_page()
    context.close()


@pytest.mark.parametrize("kind", list(KINDS))
def test_every_kind_is_answered_by_touch_on_a_phone(phone: Page, live: str, kind: str):
    phone.goto(f"{live}/drill?kind={kind}")
    phone.get_by_role("button", name="Begin", exact=True).tap()
    question = phone.get_by_role("region", name="Question")
    expect(question).to_be_visible()
    if kind == "order":
        question.get_by_role("button", name=re.compile("^Later")).first.tap()
    if question.get_by_role("checkbox").count():
        question.get_by_role("checkbox").first.tap()
    if kind in ("fault", "powder_where"):
        question.locator("input[type=radio]").first.tap()
    if kind == "depth":
        question.get_by_role("slider").tap()
    if question.get_by_role("radiogroup").count():
        question.get_by_role("radiogroup").get_by_role("radio").first.tap()
    phone.get_by_role("button", name="Answer", exact=True).tap()
    expect(follows(phone)).to_be_visible()
    phone.wait_for_load_state("networkidle")
    assert phone.evaluate("document.documentElement.scrollWidth <= innerWidth"), kind
    assert serious(phone) == []
    phone.get_by_role("button", name="Next", exact=True).tap()
    expect(follows(phone)).to_have_count(0)


def test_steps_are_put_in_order_by_their_buttons(quiet: Page, live: str):
    begin(quiet, live, kind="order")
    rows = quiet.get_by_role("list", name="Your order").get_by_role("listitem")
    first = rows.first.inner_text()
    rows.first.get_by_role("button", name=re.compile("^Later")).click()
    assert rows.nth(1).inner_text().splitlines()[1:] == first.splitlines()[1:]
    expect(rows.first.get_by_role("button", name=re.compile("^Earlier"))).to_be_disabled()


def test_what_follows_shows_both_plans_the_rule_book_and_the_step_in_the_plan(quiet: Page, live: str):
    begin(quiet, live, kind="fault")
    quiet.locator("input[type=radio]").first.check()
    quiet.keyboard.press("a")
    quiet.keyboard.press("Enter")
    look = quiet.get_by_role("region", name="To look at")
    expect(look).to_contain_text("As planned, and with the mistake")
    expect(look.get_by_role("slider", name=re.compile("^Line between"))).to_be_visible()
    expect(quiet.get_by_role("region", name="The rule book")).to_be_visible()
    quiet.get_by_text("Show me in the plan").click()
    expect(quiet.get_by_text("this is what was asked")).to_be_visible()


def test_questions_of_colour_are_said_in_words_and_set_aside(quiet: Page, live: str):
    begin(quiet, live, kind="corrector")
    quiet.get_by_text("The colours in words").click()
    expect(quiet.get_by_role("region", name="Question")).to_contain_text("The zone beside the complexion:")
    begin(quiet, live)
    for _ in range(12):
        expect(quiet.get_by_role("button", name="Another one")).to_be_enabled()
        button = quiet.get_by_role("button", name="Set them aside")
        if button.count():
            break
        quiet.get_by_role("button", name="Another one").click()
    button.click()
    for _ in range(5):
        expect(quiet.get_by_role("button", name="Another one")).to_be_enabled()
        expect(quiet.get_by_text("This one is judged by colour")).to_have_count(0)
        quiet.get_by_role("button", name="Another one").click()


def test_a_students_session_is_kept_and_looked_back_on(quiet: Page, live: str, demo_database: Database):
    with demo_database.session() as session:
        pike = Students(session).named("Pike")
        assert pike is not None
        before = Students(session).practice(pike.key)
    quiet.goto(f"{live}/drill/students")
    quiet.get_by_role("link", name="Pike").click()
    known = quiet.get_by_role("region", name="What is known")
    from datetime import UTC, datetime

    for each in coming(before, datetime.now(UTC)):
        expect(known).to_contain_text(each.words)
    expect(known).to_contain_text(f"of {len(JUDGEMENTS)} judgements practised")
    assert serious(quiet) == []
    quiet.get_by_role("link", name="Practise", exact=True).last.click()
    expect(quiet.get_by_role("combobox", name="Who practises: Pike")).to_be_visible()
    quiet.get_by_role("radio", name="5 minutes").click()
    quiet.get_by_role("button", name="Begin", exact=True).click()
    expect(quiet.get_by_text("5 min left")).to_be_visible()
    question = quiet.get_by_role("region", name="Question")
    expect(question).to_be_visible()
    if question.get_by_role("checkbox").count():
        question.get_by_role("checkbox").first.check()
    if question.locator("input[type=radio]").count():
        question.locator("input[type=radio]").first.check()
    if question.get_by_role("radiogroup").count():
        quiet.keyboard.press("a")
    quiet.get_by_role("button", name="Answer", exact=True).click()
    expect(follows(quiet)).to_be_visible()
    quiet.get_by_role("button", name="End", exact=True).click()
    back = quiet.get_by_role("region", name="Looked back")
    expect(back).to_contain_text("One exercise")
    expect(back).to_contain_text("It is kept.")
    with demo_database.session() as session:
        assert len(Students(session).practice(pike.key).answers) == len(before.answers) + 1
    quiet.get_by_role("button", name="Another session").click()
    expect(quiet.get_by_role("button", name="Begin", exact=True)).to_be_visible()


def test_a_student_is_added_and_erased(quiet: Page, live: str):
    quiet.goto(f"{live}/drill/students")
    table = quiet.get_by_role("region", name="At a glance")
    expect(table.get_by_role("row")).to_have_count(10)
    assert serious(quiet) == []
    quiet.get_by_role("button", name="Add a student").click()
    quiet.get_by_label("Name", exact=True).fill("Ottoline")
    quiet.keyboard.press("Enter")
    expect(quiet.get_by_text("There is a student Ottoline already")).to_be_visible()
    quiet.get_by_label("Name", exact=True).fill("Wilhelmina of the very long lamp room by the quay, evenings")
    quiet.keyboard.press("Enter")
    expect(table.get_by_role("row")).to_have_count(11)
    table.get_by_role("link", name=re.compile("^Wilhelmina")).click()
    expect(quiet.get_by_text("Nothing practised yet")).to_be_visible()
    quiet.get_by_role("button", name="Erase", exact=True).click()
    assert serious(quiet) == []
    quiet.get_by_role("button", name="Erase for good").click()
    expect(table.get_by_role("row")).to_have_count(10)


def test_what_went_wrong_in_class_is_put_forward_from_the_recap(quiet: Page, live: str, demo_database: Database):
    held = quiet.request.get(f"{live}/api/classes").json()["courses"][0]["classes"][0]["id"]
    rows = quiet.request.get(f"{live}/api/classes/{held}/recap").json()["practise"]
    names = {each["name"] for each in quiet.request.get(f"{live}/api/drill").json()["students"]}
    row = next(each for each in rows if each["student"] in names)
    quiet.goto(f"{live}/recap/{held}")
    item = quiet.get_by_role("region", name="To practise").get_by_role("listitem").filter(has_text=row["student"]).first
    item.get_by_role("button", name="Ask it next in Drill").click()
    expect(item.get_by_role("status")).to_have_text("Asked next in Drill.")
    with demo_database.session() as session:
        student = Students(session).named(row["student"])
        assert student is not None
        known = {each.judgement: each for each in Students(session).practice(student.key).known}
    assert {each["id"] for each in row["judgements"]} <= set(known)
    link = item.get_by_role("link").first
    words = link.inner_text()
    link.click()
    expect(quiet.get_by_role("combobox", name=re.compile(f"Kind: {words}", re.IGNORECASE))).to_be_visible()


def test_a_test_is_made_taken_by_its_code_printed_and_shown_at_its_end(quiet: Page, live: str):
    quiet.goto(f"{live}/drill/sets")
    quiet.get_by_role("button", name="New set").click()
    quiet.get_by_label("Title").fill("Will they agree?")
    quiet.get_by_label("How many").fill("2")
    quiet.get_by_role("combobox", name=re.compile("^Kind")).click()
    quiet.get_by_role("option", name="Will they agree", exact=True).click()
    quiet.get_by_label("A test: the same for all").check()
    quiet.get_by_label("Timed").check()
    assert serious(quiet) == []
    quiet.get_by_role("button", name="Make it").click()
    row = quiet.get_by_role("listitem").filter(has_text="Will they agree?").first
    expect(row).to_contain_text("test, the same for all, 2 exercises, 20 min")
    code = row.get_by_title("The code of this set").inner_text()
    with quiet.expect_download() as downloaded:
        row.get_by_role("link", name="Print as a paper (PDF)").click()
    paper = PdfReader(io.BytesIO(downloaded.value.path().read_bytes()))
    assert "Answers" in paper.pages[-1].extract_text()
    quiet.goto(f"{live}/drill")
    quiet.get_by_label("Code from your educator").fill(code)
    quiet.get_by_role("button", name="Find the set").click()
    expect(quiet.get_by_role("button", name="Begin", exact=True)).to_be_disabled()
    quiet.get_by_role("combobox", name=re.compile("^Who practises")).click()
    quiet.get_by_role("option", name="Posy", exact=True).click()
    quiet.get_by_role("button", name="Begin", exact=True).click()
    for place in (1, 2):
        expect(quiet.get_by_role("status").filter(has_text=f"{place - 1} of 2 answered")).to_be_visible()
        # The question before is there until the next one comes.
        first = quiet.get_by_role("region", name="Question").get_by_role("radiogroup").get_by_role("radio").first
        expect(first).not_to_be_checked()
        expect(first).to_be_enabled()
        quiet.keyboard.press("a")
        expect(first).to_be_checked()
        quiet.keyboard.press("Enter")
    back = quiet.get_by_role("region", name="Every exercise")
    expect(back.get_by_role("listitem")).to_have_count(2)
    expect(back).to_contain_text("you said:")
    quiet.goto(f"{live}/drill/sets")
    expect(quiet.get_by_role("listitem").filter(has_text="Will they agree?").first).to_contain_text("Posy")


@pytest.mark.own_page
def test_a_signed_in_student_sees_drill_and_nothing_else(quiet: Page, demo_database: Database):
    with demo_database.session() as session:
        Accounts(session).add("Pike", "student", PASSWORD)
    served = serve(demo_database, sign_in=True)
    address = next(served)
    quiet.goto(f"{address}/drill/students")
    sign_in(quiet, "Pike")
    expect(quiet.get_by_text("You are Pike.")).to_be_visible()
    expect(quiet.get_by_role("navigation", name="Rooms")).to_have_count(0)
    expect(quiet.get_by_role("navigation", name="Parts of Drill")).to_have_count(0)
    expect(quiet.get_by_role("region", name="What is known")).to_contain_text("Pike")
    quiet.get_by_label("Keep what I answer").uncheck()
    quiet.get_by_role("button", name="Begin", exact=True).click()
    expect(quiet.get_by_text("Nothing is kept", exact=True)).to_be_visible()
    assert json.loads(quiet.request.get(f"{address}/api/drill").text())["own"]["name"] == "Pike"
    next(served, None)
