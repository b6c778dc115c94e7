"""A damaged record in the real interface: named, exported as it is, erased; and another try at a set."""

from __future__ import annotations

from pathlib import Path

from playwright.sync_api import Page, expect

from nabrel.store.database import Database
from tests.browser.conftest import serious


def test_a_damaged_sitter_is_named_exported_as_it_is_and_erased(quiet: Page, live: str, demo_database: Database):
    with demo_database.engine.begin() as connection:
        connection.exec_driver_sql("UPDATE sitter SET sitter = '{}' WHERE nickname = 'Bram'")
    quiet.goto(live)
    damaged = quiet.get_by_role("region", name="Damaged records")
    expect(damaged.get_by_text("One record is damaged")).to_be_visible()
    expect(quiet.get_by_role("navigation", name="Sitters").get_by_role("link")).to_have_count(7)
    assert serious(quiet) == []
    with quiet.expect_download() as export:
        damaged.get_by_role("link", name="Export as it is").click()
    assert Path(export.value.path()).read_text(encoding="utf-8").startswith("{}\n")
    damaged.get_by_role("button", name="Erase").click()
    dialog = quiet.get_by_role("dialog", name="Erase the damaged sitter Bram?")
    expect(dialog.get_by_text("from every backup too")).to_be_visible()
    dialog.get_by_role("button", name="Erase", exact=True).click()
    expect(damaged).to_be_hidden()
    with demo_database.engine.connect() as connection:
        left = connection.exec_driver_sql("SELECT count(*) FROM sitter WHERE nickname = 'Bram'").scalar()
    assert left == 0
    quiet.reload()
    expect(quiet.get_by_role("navigation", name="Sitters").get_by_role("link")).to_have_count(7)
    expect(damaged).to_be_hidden()


def test_a_damaged_class_is_named_where_classes_are(quiet: Page, live: str, demo_database: Database):
    with demo_database.engine.begin() as connection:
        connection.exec_driver_sql("UPDATE class SET document = '[]' WHERE rowid = 1")
    quiet.goto(f"{live}/class")
    damaged = quiet.get_by_role("region", name="Damaged records")
    expect(damaged.get_by_text("(class)")).to_be_visible()
    quiet.set_viewport_size({"width": 390, "height": 800})
    assert quiet.evaluate("document.documentElement.scrollWidth <= innerWidth")


def test_an_educator_allows_another_try_at_a_set(quiet: Page, live: str):
    quiet.goto(f"{live}/drill/sets")
    again = quiet.get_by_role("button", name="Allow another try: Tamsin")
    again.click()
    expect(quiet.get_by_text("Tamsin may try it again, with other exercises.")).to_be_visible()
    expect(again).to_be_hidden()
    expect(quiet.get_by_role("button", name="Allow another try: Posy")).to_be_visible()
