"""Signing in, going on after a sign-in has ended, another password, and what a student sees."""

from __future__ import annotations

from collections.abc import Iterator

import pytest
from playwright.sync_api import Page, expect

from nabrel.store.accounts import Accounts
from nabrel.store.database import Database
from tests.browser.conftest import serve, violations

pytestmark = pytest.mark.own_page

PASSWORD, OTHER = "quiet turnip bridge 4", "paper lantern over kelp"


@pytest.fixture
def guarded(demo_database: Database) -> Iterator[str]:
    with demo_database.session() as session:
        Accounts(session).add("Mira", "educator", PASSWORD)
        Accounts(session).add("Student 1", "student", PASSWORD)
    yield from serve(demo_database, sign_in=True)


def sign_in(page: Page, name: str = "Mira", password: str = PASSWORD) -> None:
    page.get_by_label("Name", exact=True).fill(name)
    page.get_by_label("Password", exact=True).fill(password)
    page.keyboard.press("Enter")


def account(page: Page) -> None:
    page.get_by_role("button", name="Menu").click()
    page.get_by_role("menuitem", name="Your account Mira").click()


def test_nothing_is_shown_before_signing_in_and_all_of_it_after(quiet, guarded):
    quiet.goto(guarded)
    expect(quiet.get_by_role("heading", name="Sign in to Nabrel")).to_be_visible()
    expect(quiet.get_by_text("Wren")).to_have_count(0)
    assert violations(quiet) == []
    sign_in(quiet, password="not the right one")
    expect(quiet.get_by_role("alert")).to_contain_text("do not go together")
    quiet.keyboard.press("Escape")
    sign_in(quiet)
    expect(quiet.get_by_role("navigation", name="Sitters").get_by_role("link", name="Wren")).to_be_visible()
    expect(quiet.get_by_role("heading", name="Sign in to Nabrel")).to_have_count(0)


def test_what_was_typed_is_still_there_when_signed_in_again(quiet, guarded):
    quiet.goto(guarded)
    sign_in(quiet)
    quiet.get_by_role("button", name="New sitter").first.click()
    quiet.get_by_label("Nickname").fill("Perrin of the lamp room")
    expect(quiet.get_by_role("group", name="Depth by undertone").get_by_role("button").first).to_be_visible()
    quiet.context.clear_cookies()
    quiet.get_by_label("Or measured, as").fill("62 11 18")
    quiet.keyboard.press("Tab")
    expect(quiet.get_by_text("You are signed out")).to_be_visible()
    sign_in(quiet)
    expect(quiet.get_by_text("You are signed out")).to_have_count(0)
    expect(quiet.get_by_label("Nickname")).to_have_value("Perrin of the lamp room")


def test_another_password_and_signing_out(quiet, guarded):
    quiet.goto(guarded)
    sign_in(quiet)
    account(quiet)
    quiet.get_by_label("Password now").fill(PASSWORD)
    quiet.get_by_label("New password").fill("password1234")
    quiet.get_by_role("button", name="Change the password").click()
    expect(quiet.get_by_role("alert")).to_contain_text("easy to guess")
    quiet.get_by_label("New password").fill(OTHER)
    quiet.get_by_role("button", name="Change the password").click()
    expect(quiet.get_by_text("Your password is changed")).to_be_visible()
    account(quiet)
    quiet.get_by_role("button", name="Sign out", exact=True).click()
    expect(quiet.get_by_role("heading", name="Sign in to Nabrel")).to_be_visible()
    assert quiet.request.get(f"{guarded}/api/sitters").status == 401
    sign_in(quiet, password=OTHER)
    expect(quiet.get_by_role("navigation", name="Rooms")).to_be_visible()


def test_a_student_sees_what_is_shown_to_students_at_every_address(quiet, guarded):
    quiet.goto(guarded)
    sign_in(quiet, "Student 1")
    expect(quiet.get_by_text("You are Student 1.")).to_be_visible()
    quiet.goto(f"{guarded}/shelf")
    expect(quiet.get_by_text("You are Student 1.")).to_be_visible()
    expect(quiet.get_by_role("link", name="Shelf")).to_have_count(0)
