"""What is unknown of the kit, in the real interface: said in the plan, recorded in one tap, first thing in a run."""

from __future__ import annotations

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import serious


@pytest.fixture
def plan(quiet: Page, live: str) -> str:
    """The plan of a sitter who avoids fragrance and lanolin, with one item of which nobody recorded what is in it."""
    get = lambda path: quiet.request.get(f"{live}/api/{path}").json()  # noqa: E731
    plan: str = next(each["sequence_id"] for each in get("sitters")["sitters"] if each["nickname"] == "Dunstan")
    item = get(f"sequences/{plan}")["steps"][0]["mix"][0]["item"]
    kit = get("kit")
    own = next(each for each in kit["items"] if each["id"] == item)
    put = quiet.request.put(
        f"{live}/api/kit/items/{item}?version={kit['versions'][item]}", data={**own, "ingredients": []}
    )
    assert put.ok
    return plan


def test_unknown_contents_are_said_and_recorded_in_one_tap(quiet: Page, live: str, plan: str):
    quiet.goto(f"{live}/plans/{plan}")
    findings = quiet.get_by_role("region", name="Findings")
    expect(findings).to_contain_text("Contents of 1 item unknown")
    expect(findings).to_contain_text("read its label for fragrance or lanolin")
    findings.get_by_role("link", name="Record what is in").click()
    ingredients = quiet.get_by_label("Ingredients, pasted from the pack")
    expect(ingredients).to_be_focused()
    assert serious(quiet) == []
    ingredients.fill("Aqua, Glycerin")
    ingredients.blur()
    expect(quiet.get_by_text("read from")).to_be_visible()
    quiet.get_by_role("button", name="Save item").click()
    expect(quiet.get_by_text("is on the shelf")).to_be_visible()
    quiet.goto(f"{live}/plans/{plan}")
    expect(findings).to_be_visible()
    expect(findings).not_to_contain_text("unknown")


def test_a_run_says_first_what_is_avoided_and_what_to_read(quiet: Page, live: str, plan: str):
    run = quiet.request.post(f"{live}/api/sequences/{plan}/run", data={}).json()["run_id"]
    quiet.goto(f"{live}/run/{run}")
    note = quiet.get_by_role("note")
    expect(note).to_contain_text("Avoid fragrance and lanolin.")
    expect(note).to_contain_text("read its label")
    assert serious(quiet) == []
    quiet.get_by_role("button", name="Done").click()
    expect(note).to_contain_text("Avoid fragrance and lanolin.")
    expect(note).not_to_contain_text("read its label")
