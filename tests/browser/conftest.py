"""A live application for the browser, and Debian's Chromium to drive it."""

from __future__ import annotations

import shutil
import threading
from collections.abc import Callable, Iterable, Iterator
from datetime import datetime
from typing import Any

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page, expect
from werkzeug.serving import make_server

from nabrel.store.database import Database
from nabrel.web.app import STATIC, create_app

FLAGS = [
    "--headless",
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    # Letters as wide as the one with windows draws them.
    "--font-render-hinting=none",
]


def browser_path() -> str:
    """Where Debian's Chromium without a window is: it does about two thirds of the work that the one with windows does."""
    found = shutil.which("chromium-headless-shell")
    assert found, "Debian's chromium-headless-shell is missing: make chromium installs it"
    return found


expect.set_options(timeout=20_000)
"""Milliseconds to wait for what is expected: a shared machine may stand still for some seconds."""


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    for item in items:
        if "browser" in item.path.parts:
            item.add_marker(pytest.mark.browser)


@pytest.fixture(scope="session")
def browser_type_launch_args(browser_type_launch_args: dict[str, Any]) -> dict[str, Any]:
    return {**browser_type_launch_args, "executable_path": browser_path(), "args": FLAGS}


@pytest.fixture(scope="session")
def browser_context_args(browser_context_args: dict[str, Any]) -> dict[str, Any]:
    return {**browser_context_args, "viewport": {"width": 1280, "height": 800}, "reduced_motion": "reduce"}


SHUTDOWN = 0.02
"""Seconds after which a server looks whether it is to stop; half a second, if nobody says so, at the end of every test."""


def serve(database: Database, *, sign_in: bool = False, clock: Callable[[], datetime] | None = None) -> Iterator[str]:
    """The address of an application on a database; ``clock`` is what it takes for the time."""
    assert (STATIC / "index.html").is_file(), "the front end is not built: make setup builds it"
    app = create_app(database, sign_in=sign_in)
    if clock is not None:
        app.extensions["nabrel_clock"] = clock
    server = make_server("127.0.0.1", 0, app, threaded=True)
    thread = threading.Thread(target=server.serve_forever, args=(SHUTDOWN,), daemon=True)
    thread.start()
    yield f"http://127.0.0.1:{server.server_port}"
    server.shutdown()
    thread.join()


@pytest.fixture
def live(demo_database: Database) -> Iterator[str]:
    """The address of an application with the demo scenario."""
    yield from serve(demo_database)


@pytest.fixture
def live_empty(database: Database) -> Iterator[str]:
    """The address of an application that holds nothing yet."""
    yield from serve(database)


@pytest.fixture
def quiet(page: Page) -> Iterator[Page]:
    """A page on which no script error and no refused policy may occur, and that asks nothing of other machines.

    Amounts are told as an instrument reads them, so that tests can hold figures against the core.
    """
    page.add_init_script("localStorage.getItem('nabrel view') ?? localStorage.setItem('nabrel view', 'instrument')")
    wrong: list[str] = []
    page.on("pageerror", lambda error: wrong.append(str(error)))
    page.on("console", lambda message: wrong.append(message.text) if "Content Security" in message.text else None)
    page.on("request", lambda request: None if "127.0.0.1" in request.url else wrong.append(request.url))
    yield page
    assert wrong == []


@pytest.fixture
def bench(quiet: Page, live: str) -> Page:
    """The Layer room on the first demo sitter."""
    first = quiet.request.get(f"{live}/api/sitters").json()["sitters"][0]
    quiet.goto(f"{live}/plans/{first['sequence_id']}")
    expect(quiet.get_by_role("group", name="Section through the base")).to_be_visible()
    quiet.mouse.move(2, 2)
    return quiet


AXE = Axe().axe_script

VIOLATIONS = """async () => {
  const { violations } = await axe.run({ resultTypes: ['violations'] });
  return violations.map(({ id, impact, nodes }) => [
    impact, `${id}: ${JSON.stringify(nodes.slice(0, 3).map(({ target }) => target))}`,
  ]);
}"""


def violations(page: Page) -> list[tuple[str, str]]:
    """How grave each accessibility violation on the page is, and which it is and where.

    The checker is read once a document, and what passed is neither gathered nor sent: half of the time on a full page.
    """
    if page.evaluate("typeof axe") == "undefined":
        page.evaluate(AXE)
    return [(impact, found) for impact, found in page.evaluate(VIOLATIONS)]


def serious(page: Page) -> list[str]:
    """Serious or critical accessibility violations on the page, with where they are."""
    return [found for impact, found in violations(page) if impact in ("serious", "critical")]


SCREENS = ((1280, 800), (1024, 768), (390, 800))
"""Width and height of the screens that every room fits on: a laptop, a tablet, a phone."""


def each_screen(page: Page, screens: Iterable[tuple[int, int]] = SCREENS) -> Iterator[tuple[int, int]]:
    """Turn the page to one screen after the other; once what is done on it is done, nothing may leave it sideways."""
    for width, height in screens:
        page.set_viewport_size({"width": width, "height": height})
        yield width, height
        assert page.evaluate("document.documentElement.scrollWidth") <= width, width


def switch_room(page: Page, room: str = "Dark room") -> None:
    """Turn the room dark, or light again."""
    page.get_by_role("button", name="Menu").click()
    page.get_by_role("menuitem", name=room).click()
    expect(page.get_by_role("menu")).to_have_count(0)
