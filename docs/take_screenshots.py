"""Take the pictures in ``docs/screenshots`` from demo data: ``make screenshots``."""

from __future__ import annotations

import json
import tempfile
import threading
from pathlib import Path

from playwright.sync_api import Page, sync_playwright
from werkzeug.serving import make_server

from nabrel.demo.fill import fill
from nabrel.store.database import Database
from nabrel.web.app import create_app
from tests.browser.conftest import FLAGS, browser_path

SHOTS = Path(__file__).parent / "screenshots"


def settle(page: Page) -> None:
    """Wait for fonts and pending requests."""
    page.wait_for_load_state("networkidle")
    page.evaluate("document.fonts.ready")


def shoot(page: Page, name: str) -> None:
    """Save one picture."""
    settle(page)
    page.screenshot(path=SHOTS / f"{name}.png")


def open_plan(page: Page, address: str, sitter: str) -> None:
    """Open the Layer room on a sitter."""
    page.goto(address)
    page.get_by_role("navigation", name="Sitters").get_by_role("link", name=sitter).click()
    page.get_by_role("heading", name=sitter).wait_for()
    page.get_by_role("button", name="Open the plan").click()
    page.get_by_role("group", name="Section through the base").wait_for()
    page.mouse.move(2, 2)


def plan_of(page: Page, address: str, sitter: str) -> str:
    """The id of a sitter's plan."""
    sitters = page.request.get(f"{address}/api/sitters").json()["sitters"]
    return str(next(each["sequence_id"] for each in sitters if each["nickname"] == sitter))


def choose(page: Page, kind: str) -> None:
    """Choose the first step of a kind."""
    page.get_by_role("list", name="Order of steps").get_by_role("button").filter(has_text=kind).first.click()
    page.mouse.move(2, 2)


def close(page: Page) -> None:
    """Close the open dialog."""
    page.keyboard.press("Escape")
    page.get_by_role("dialog").wait_for(state="hidden")


def plan_and_step(page: Page, address: str) -> None:
    """A sitter, a step, another school, another product and what it does."""
    page.goto(address)
    page.get_by_role("heading", name="Wren").wait_for()
    shoot(page, "sitters")
    open_plan(page, address, "Tamsin")
    choose(page, "Shade")
    shoot(page, "layer-step")
    page.get_by_role("combobox", name="School: Underpainted").click()
    page.get_by_role("option", name="Overpainted").click()
    page.get_by_role("button", name="Take it").wait_for()
    close(page)
    choose(page, "Foundation")
    page.get_by_role("button", name="Swap the product").click()
    page.get_by_role("button", name="Full matt 3").wait_for()
    page.get_by_role("button", name="Full matt 3").click()
    page.get_by_text("What that change did").wait_for()
    page.get_by_role("button", name="See what that changes").first.click()
    page.get_by_text("Mended:").first.wait_for()
    page.get_by_role("region", name="Findings", exact=True).scroll_into_view_if_needed()
    shoot(page, "layer-findings")


def teaching(page: Page, address: str) -> None:
    """A class with its clock, and what the projector shows while it is taught."""
    key = page.request.get(f"{address}/api/classes").json()["next"]
    page.goto(f"{address}/class/{key}")
    page.get_by_role("region", name="The clock").wait_for()
    page.get_by_role("region", name="Students").wait_for()
    shoot(page, "class")
    for event in ({"event": "begin"}, {"event": "next", "phase": "demonstrate", "step": "s1"}):
        page.request.post(f"{address}/api/classes/{key}/events", data=event)
    page.goto(f"{address}/board/{key}")
    page.get_by_role("heading", name="At work").wait_for()
    shoot(page, "class-board")


def drilling(page: Page, address: str) -> None:
    """The group at a glance, and a face with a mistake in it, the same every time."""
    page.goto(f"{address}/drill/students")
    page.get_by_role("region", name="At a glance").wait_for()
    shoot(page, "drill-students")
    seeded = {"kinds": ["diagnose"], "seed": 12, "level": 1, "ungraded": True}
    page.route("**/api/drill/sessions", lambda route: route.continue_(post_data=json.dumps(seeded)))
    page.goto(f"{address}/drill")
    page.get_by_role("button", name="Begin", exact=True).click()
    page.get_by_role("region", name="Question").wait_for()
    page.keyboard.press("a")
    shoot(page, "drill")
    page.unroute("**/api/drill/sessions")


def corrector_and_well(page: Page, address: str) -> None:
    """The two questions asked of the film model."""
    open_plan(page, address, "Dunstan")
    choose(page, "Correct")
    page.keyboard.press("c")
    page.get_by_role("button", name="Take").first.wait_for()
    shoot(page, "layer-corrector")
    close(page)
    page.keyboard.press("m")
    page.get_by_role("list", name="In the well").get_by_role("listitem").first.wait_for()
    close(page)


def reading_and_weighing(page: Page, address: str) -> None:
    """A face being read, its placements, candidates weighed, and a plan timed."""
    page.goto(address)
    page.get_by_role("link", name="Read the face").click()
    page.get_by_role("button", name="Chin:").wait_for()
    page.get_by_role("button", name="Under-eye, left:").hover()
    shoot(page, "read-conditions")
    open_plan(page, address, "Tamsin")
    page.keyboard.press("g")
    page.get_by_role("region", name="Candidate B").wait_for()
    shoot(page, "weigh")
    page.goto(f"{address}/pace/{plan_of(page, address, 'Wren')}")
    page.get_by_role("region", name="The score").wait_for()
    page.get_by_label("Starts at").fill("09:10")
    page.get_by_role("heading", level=1).click()
    shoot(page, "pace")
    page.clock.install()
    page.get_by_role("button", name="Start the run").click()
    page.get_by_role("heading", name="Cleanse").wait_for()
    while page.get_by_role("heading", level=1).inner_text() != "Foundation":
        page.clock.run_for(120_000)
        page.keyboard.press("Space")
    page.clock.run_for(45_000)
    page.get_by_text("Saved", exact=True).wait_for()
    shoot(page, "run")


def wear_and_rules(page: Page, address: str) -> None:
    """How a base wears, the rule book, and the shelf."""
    open_plan(page, address, "Bram")
    page.get_by_text("How it will wear").click()
    page.get_by_label("Forecast by zone").scroll_into_view_if_needed()
    shoot(page, "layer-forecast")
    page.get_by_role("region", name="Findings").get_by_text("Accepted (1)").click()
    page.get_by_role("link", name="In the rule book").first.click()
    page.get_by_role("searchbox").wait_for()
    shoot(page, "house-rules")
    page.goto(f"{address}/sheet/{plan_of(page, address, 'Wren')}")
    page.get_by_role("img", name="page 1 of 1").evaluate("each => each.decode()")
    shoot(page, "sheet")
    page.goto(f"{address}/shelf")
    page.get_by_role("button", name="Thin satin 3").click()
    page.get_by_role("img", name="A film of 9 µm").wait_for()
    shoot(page, "shelf")
    page.get_by_role("button", name="Read from a photo", exact=True).click()
    for place, sample in enumerate(("Ten products", "The same card")):
        page.get_by_role("button", name=sample).click()
        page.get_by_text("read: 10 films").nth(place).wait_for()
    page.get_by_text("± ΔE00 1.9, brown").wait_for()
    page.get_by_label("Cell a1 goes to").click()
    page.get_by_role("option", name="Bronze balm 1").click()
    shoot(page, "shelf-photo")
    close(page)


def worn(page: Page, address: str) -> None:
    """A base looked at through a day."""
    plan = plan_of(page, address, "Wren")
    begun = page.request.post(f"{address}/api/sequences/{plan}/wears", data={"worn_from": "2026-10-12T08:40:00+00:00"})
    key = begun.json()["wear_id"]
    seen = ["nose_tip", "forehead_centre", "cheek_apple_l", "cheek_apple_r", "under_eye_l", "under_eye_r", "chin"]
    for minutes, zones in (
        (25, {}),
        (180, {"nose_tip": {"shine": 1}}),
        (
            420,
            {
                "nose_tip": {"shine": 2},
                "forehead_centre": {"shine": 1},
                "cheek_apple_l": {"fade": 1},
                "under_eye_l": {"crease": 1},
            },
        ),
    ):
        look = {"after_min": minutes, "seen": seen, "zones": zones}
        page.request.put(f"{address}/api/wears/{key}/look", data={"look": look})
    page.goto(f"{address}/wear/{key}")
    page.get_by_role("button", name="2: shines").click()
    for zone in ("Nose tip", "Nose bridge"):
        page.get_by_role("button", name=f"{zone}:").focus()
        page.keyboard.press("Space")
    page.get_by_role("heading", name="Forecast against seen").click()
    shoot(page, "wear")
    page.goto(f"{address}/wear")
    proposal = page.get_by_role("listitem").filter(has_text="On Bram it shines sooner")
    proposal.get_by_role("button", name="What would change").click()
    proposal.get_by_text("Planned again it gets").wait_for()
    shoot(page, "wear-learnt")


def main() -> None:
    """Serve the demo from an empty folder and take the pictures."""
    SHOTS.mkdir(exist_ok=True)
    with tempfile.TemporaryDirectory() as folder, sync_playwright() as playwright:
        database = Database(Path(folder))
        fill(database)
        server = make_server("127.0.0.1", 0, create_app(database), threaded=True)
        threading.Thread(target=server.serve_forever, daemon=True).start()
        browser = playwright.chromium.launch(executable_path=browser_path(), args=FLAGS)
        page = browser.new_page(viewport={"width": 1280, "height": 800}, reduced_motion="reduce")
        address = f"http://127.0.0.1:{server.server_port}"
        for views in (
            plan_and_step,
            teaching,
            drilling,
            corrector_and_well,
            reading_and_weighing,
            wear_and_rules,
            worn,
        ):
            views(page, address)
        browser.close()
        server.shutdown()
        database.close()


if __name__ == "__main__":
    main()
