"""A live application for the browser, and Debian's Chromium to drive it."""

from __future__ import annotations

import os
import shutil
import subprocess
import threading
import time
from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from wsgiref.types import StartResponse, WSGIApplication, WSGIEnvironment

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Browser, ConsoleMessage, Error, Page, Request, Route, expect
from werkzeug.exceptions import ServiceUnavailable
from werkzeug.serving import make_server

from nabrel.store.database import Database
from nabrel.web.app import STATIC, create_app
from tests.other_days import PINNED

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


def own_clock() -> dict[str, str]:
    """The environment without what sets the clock of a process: Chromium's threads spin under it."""
    return {
        name: value for name, value in os.environ.items() if name != "LD_PRELOAD" and not name.startswith("FAKETIME")
    }


@pytest.fixture(scope="session")
def browser_type_launch_args(browser_type_launch_args: dict[str, Any]) -> dict[str, Any]:
    return {**browser_type_launch_args, "executable_path": browser_path(), "args": FLAGS, "env": own_clock()}


@pytest.fixture(scope="session")
def ahead_ms() -> int:
    """Milliseconds by which the clock of this process was set ahead (``tests.other_days``): pages are set ahead as far."""
    if PINNED not in os.environ:
        return 0
    date = subprocess.run(["date", "+%s%3N"], env=own_clock(), capture_output=True, text=True, check=True)
    return int(time.time() * 1000) - int(date.stdout)


@pytest.fixture(scope="session")
def browser_context_args(browser_context_args: dict[str, Any]) -> dict[str, Any]:
    return {**browser_context_args, "viewport": {"width": 1280, "height": 800}, "reduced_motion": "reduce"}


def hold_first(page: Page, pattern: str) -> list[Route]:
    """Hold the first such request back until the test lets it go on; all later ones overtake it."""
    held: list[Route] = []

    def pass_by(route: Route) -> None:
        if held:
            route.continue_()
        else:
            held.append(route)

    page.route(pattern, pass_by)
    return held


def let_go(page: Page, held: list[Route]) -> None:
    """Let the request that was held go on, and wait until the page has its answer."""
    assert len(held) == 1, "nothing was asked that could be held"
    with page.expect_response(held[0].request.url):
        held[0].continue_()
    page.evaluate("() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)))")


SHUTDOWN = 0.02
"""Seconds after which a server looks whether it is to stop; half a second, if nobody says so, at the end of every test."""


@contextmanager
def listening(app: WSGIApplication) -> Iterator[str]:
    """The address at which an application answers."""
    assert (STATIC / "index.html").is_file(), "the front end is not built: make setup builds it"
    server = make_server("127.0.0.1", 0, app, threaded=True)
    thread = threading.Thread(target=server.serve_forever, args=(SHUTDOWN,), daemon=True)
    thread.start()
    yield f"http://127.0.0.1:{server.server_port}"
    server.shutdown()
    thread.join()


def serve(database: Database, *, sign_in: bool = False, clock: Callable[[], datetime] | None = None) -> Iterator[str]:
    """The address of an application on a database; ``clock`` is what it takes for the time."""
    app = create_app(database, sign_in=sign_in)
    if clock is not None:
        app.extensions["nabrel_clock"] = clock
    with listening(app) as address:
        yield address


NOBODY = ServiceUnavailable("No test is being run.")


@dataclass
class Door:
    """One address for the applications of many tests, one after the other: what a browser has read of it, it keeps."""

    address: str = ""
    app: WSGIApplication = NOBODY

    def __call__(self, environ: WSGIEnvironment, start_response: StartResponse) -> Iterable[bytes]:
        return self.app(environ, start_response)

    def opened(self, database: Database) -> Iterator[str]:
        """The address, with an application on a database behind it."""
        self.app = create_app(database)
        yield self.address
        self.app = NOBODY


@pytest.fixture(scope="session")
def door() -> Iterator[Door]:
    made = Door()
    with listening(made) as made.address:
        yield made


@pytest.fixture
def live(door: Door, demo_database: Database) -> Iterator[str]:
    """The address of an application with the demo scenario."""
    yield from door.opened(demo_database)


@pytest.fixture
def live_empty(door: Door, database: Database) -> Iterator[str]:
    """The address of an application that holds nothing yet."""
    yield from door.opened(database)


INSTRUMENT = "localStorage.getItem('nabrel view') ?? localStorage.setItem('nabrel view', 'instrument')"


SET_AHEAD = """{ const ahead = %d, now = Date.now, later = () => now() + ahead;
  window.Date = new Proxy(Date, {
    construct: (date, given, made) => Reflect.construct(date, given.length ? given : [later()], made),
    get: (date, name) => (name === 'now' ? later : Reflect.get(date, name)),
  });
}"""
"""Timers go on as ever. The clock that Playwright installs stops them as well, and tests install theirs over this one."""


@dataclass
class Tab:
    """The page that tests use one after the other, and the address whose storage they may have filled."""

    browser: Browser
    wanted: dict[str, Any]
    door: Door
    ahead_ms: int
    page: Page | None = None

    def opened(self) -> Page:
        if self.page is None:
            self.page = self.browser.new_context(**self.wanted).new_page()
            self.page.add_init_script(INSTRUMENT)
            if self.ahead_ms:
                self.page.add_init_script(SET_AHEAD % self.ahead_ms)
        return self.page

    def emptied(self) -> None:
        """Leave it as a new one is: one page, no routes, nothing stored, the usual size."""
        assert self.page is not None
        page, context = self.page, self.page.context
        for other in context.pages:
            if other is not page:
                other.close()
        page.unroute_all(behavior="ignoreErrors")
        context.unroute_all(behavior="ignoreErrors")
        # What is shown there runs no script that could store something again.
        page.goto(f"{self.door.address}/icon.svg")
        page.evaluate("localStorage.clear(); sessionStorage.clear()")
        context.clear_cookies()
        page.emulate_media(media="screen")
        page.set_viewport_size(self.wanted["viewport"])
        page.mouse.move(0, 0)

    def closed(self) -> None:
        if self.page is not None:
            self.page.context.close()
        self.page = None


@pytest.fixture(scope="session")
def tab(browser: Browser, browser_context_args: dict[str, Any], door: Door, ahead_ms: int) -> Iterator[Tab]:
    made = Tab(browser, browser_context_args, door, ahead_ms)
    yield made
    made.closed()


@pytest.fixture
def page(request: pytest.FixtureRequest, tab: Tab) -> Iterator[Page]:
    """A page as empty as a new one. It is not new, so its scripts are read and translated already: a third of the work.

    Tests that set its clock, or have an address of their own, ask for their own with ``pytest.mark.own_page``.
    """
    if request.node.get_closest_marker("own_page"):
        tab.closed()
    yield tab.opened()
    if request.session.testsfailed or request.node.get_closest_marker("own_page"):
        tab.closed()
    else:
        tab.emptied()


@pytest.fixture
def quiet(page: Page) -> Iterator[Page]:
    """A page on which no script error and no refused policy may occur, and that asks nothing of other machines.

    Amounts are told as an instrument reads them, so that tests can hold figures against the core.
    """
    wrong: list[str] = []

    def failed(error: Error) -> None:
        wrong.append(str(error))

    def said(message: ConsoleMessage) -> None:
        if "Content Security" in message.text:
            wrong.append(message.text)

    def asked(request: Request) -> None:
        if "127.0.0.1" not in request.url:
            wrong.append(request.url)

    page.on("pageerror", failed)
    page.on("console", said)
    page.on("request", asked)
    yield page
    page.remove_listener("pageerror", failed)
    page.remove_listener("console", said)
    page.remove_listener("request", asked)
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

READ_CHECKER = f"""() => {{ {AXE};
  axe.configure({{ rules: [{{ id: 'color-contrast', selector: '[data-look]' }}] }});
}}"""

VIOLATIONS = """async (within) => {
  // The rest of the page cannot be reached while a dialog is open.
  const place = document.querySelector(within ?? '[aria-modal=true]') ?? document.body;
  const grounds = new Map([[place.parentElement, '']]);
  const groundOf = (element) => {
    if (!grounds.has(element)) {
      const { backgroundColor, backgroundImage, opacity, filter, mixBlendMode, position } = getComputedStyle(element);
      const own = [backgroundColor, backgroundImage, opacity, filter, mixBlendMode].join();
      let ground = groundOf(element.parentElement);
      if (own !== 'rgba(0, 0, 0, 0),none,1,none,normal') ground += ` ${own}`;
      // What is taken out of the flow may lie on anything.
      if (position === 'absolute' || position === 'fixed') ground += ` ${grounds.size}`;
      grounds.set(element, ground);
    }
    return grounds.get(element);
  };
  const looked = new Set();
  const looks = [...place.querySelectorAll('*')].filter((element) => {
    const field = element.matches('input, select, textarea');
    if (!field && ![...element.childNodes].some((node) => node.nodeType === Node.TEXT_NODE && node.data.trim())) return false;
    if (element instanceof SVGElement || field) return true;
    if (!element.checkVisibility({ visibilityProperty: true }) || element.closest('[aria-hidden=true], [inert]')) return false;
    const { color, fontSize, fontWeight, textShadow } = getComputedStyle(element);
    const off = element.closest(':disabled, [aria-disabled=true]') !== null;
    const alike = [element.localName, off, color, fontSize, fontWeight, textShadow, groundOf(element)].join('|');
    return !looked.has(alike) && looked.add(alike);
  });
  for (const element of looks) element.toggleAttribute('data-look', true);
  // Everything else is the same in the dark as in the light, and looked at there.
  const only = document.documentElement.dataset.theme === 'dark' ? { runOnly: ['color-contrast'] } : {};
  const { violations } = await axe.run(within || place !== document.body ? place : document, {
    resultTypes: ['violations'], preload: false, ...only,
  });
  for (const element of looks) element.removeAttribute('data-look');
  return violations.map(({ id, impact, nodes }) => [
    impact, `${id}: ${JSON.stringify(nodes.slice(0, 3).map(({ target }) => target))}`,
  ]);
}"""


def violations(page: Page, within: str | None = None) -> list[tuple[str, str]]:
    """How grave each accessibility violation is, and which it is and where: in the dialog that is open, else on the page.

    ``within`` is a selector of the one part to look at, where the rest of the page was looked at before. For the sake of time the
    checker is read once a document, and contrast is looked at once for all letters of one colour and size on one ground.
    """
    if page.evaluate("typeof axe") == "undefined":
        page.evaluate(READ_CHECKER)
    return [(impact, found) for impact, found in page.evaluate(VIOLATIONS, within)]


def serious(page: Page, within: str | None = None) -> list[str]:
    """Serious or critical accessibility violations, with where they are."""
    return [found for impact, found in violations(page, within) if impact in ("serious", "critical")]


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
