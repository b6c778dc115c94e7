"""The edit round trip as a person has it: from the press of a button to the new look painted, in headless Chromium."""

from __future__ import annotations

import socket
import subprocess
import sys
import tempfile
import time
import urllib.error
import urllib.request

from playwright.sync_api import sync_playwright

from tests.browser.conftest import FLAGS, browser_path

EDITS = 100
WARM_UP = 5

MEASURE = """
async ([edits, warmUp]) => {
  const main = document.querySelector('main');
  const settled = () => new Promise((done) => {
    let went = false;
    const watch = new MutationObserver(() => {
      if (main.getAttribute('aria-busy') === 'true') went = true;
      else if (went) { watch.disconnect(); requestAnimationFrame(() => setTimeout(done)); }
    });
    watch.observe(main, { attributes: true, attributeFilter: ['aria-busy'] });
  });
  const times = [];
  for (let edit = 0; edit < edits + warmUp; edit += 1) {
    const button = document.querySelector(`[aria-label="Amount, portion 1: ${edit % 8 < 4 ? 'less' : 'more'}"]`);
    const start = performance.now();
    const over = settled();
    button.click();
    await over;
    if (edit >= warmUp) times.push(performance.now() - start);
  }
  return times;
}
"""


def edit_in_browser() -> list[float]:
    """Milliseconds of each edit of a foundation's film on the demo's longest plan, the server in a process of its own."""
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    with tempfile.TemporaryDirectory() as folder:
        command = [sys.executable, "-m", "nabrel.cli", "serve", "--demo", "--port", str(port)]
        server = subprocess.Popen(command, env={"NABREL_DATA": folder}, stdout=subprocess.DEVNULL)
        try:
            address = f"http://127.0.0.1:{port}"
            _answers(address)
            with sync_playwright() as playwright:
                browser = playwright.chromium.launch(executable_path=browser_path(), args=FLAGS)
                page = browser.new_page(viewport={"width": 1280, "height": 800}, reduced_motion="reduce")
                page.goto(address)
                page.get_by_role("button", name="Open the plan").click()
                order = page.get_by_role("list", name="Order of steps")
                order.get_by_role("button").filter(has_text="Foundation").first.click()
                page.get_by_role("button", name="Amount, portion 1: more", exact=True).wait_for()
                times: list[float] = page.evaluate(MEASURE, [EDITS, WARM_UP])
                browser.close()
                return times
        finally:
            server.terminate()
            server.wait()


def _answers(address: str) -> None:
    for _ in range(300):
        try:
            with urllib.request.urlopen(f"{address}/api/sitters"):
                return
        except (urllib.error.URLError, ConnectionError):
            time.sleep(0.1)
    raise SystemExit("the application did not start")
