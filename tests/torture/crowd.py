"""Many at once: twenty people editing, and hundreds of connections that say almost nothing."""

from __future__ import annotations

import json
import random
import socket
import threading
import time
import urllib.error
from collections import Counter
from pathlib import Path

from tests.served import asked, serving
from tests.torture.figures import Found


def editors(folder: Path, people: int, seconds: float) -> Found:
    """Twenty people edit four plans and one shelf: an edit is kept once, or refused as stale, and none is lost."""
    found = Found(f"{people} people editing")
    answers: Counter[int] = Counter()
    waits: list[float] = []
    with serving(folder / "editors", "--demo") as (_, address):
        plans = [each["sequence_id"] for each in asked(address, "/api/sitters")["sitters"][:4]]
        stored: Counter[str] = Counter()
        guard = threading.Lock()
        until = time.monotonic() + seconds

        def edit(number: int) -> None:
            chance = random.Random(number)
            plan = plans[number % len(plans)]
            while time.monotonic() < until:
                current = asked(address, f"/api/sequences/{plan}")
                steps = [step for step in current["steps"] if step.get("wait_s") is not None]
                change = {"edit": "wait", "step": chance.choice(steps)["id"], "wait_s": chance.randint(0, 300)}
                start = time.monotonic()
                code, _ = sent(
                    address, f"/api/sequences/{plan}/edits", {"revision": current["revision"], "edits": [change]}
                )
                with guard:
                    waits.append(time.monotonic() - start)
                    answers[code] += 1
                    stored[plan] += code == 200

        threads = [threading.Thread(target=edit, args=(number,)) for number in range(people)]
        for each in threads:
            each.start()
        for each in threads:
            each.join()
        for plan in plans:
            numbers = [each["number"] for each in asked(address, f"/api/sequences/{plan}/versions")["versions"]]
            first = min(numbers)
            if sorted(numbers) != list(range(first, first + len(numbers))):
                found.wrong.append(f"plan {plan}: revisions with holes")
            if len(numbers) != stored[plan] + 1:
                found.wrong.append(f"plan {plan}: {len(numbers) - 1} revisions, {stored[plan]} edits acknowledged")
    odd = sorted(set(answers) - {200, 409})
    if odd:
        found.wrong.append(f"answers {odd}")
    if not answers[200]:
        found.wrong.append("no edit was kept")
    waits.sort()
    found.figures = (
        f"{sum(answers.values()):,} edits in {seconds:.0f} s: {answers[200]:,} kept, {answers[409]:,} refused as stale; "
        f"95 % answered within {1000 * waits[int(0.95 * len(waits))]:.0f} ms"
    )
    return found


def sent(address: str, path: str, body: object) -> tuple[int, dict]:
    """The status and body of an answer, whatever it is."""
    try:
        return 200, asked(address, path, body)
    except urllib.error.HTTPError as error:
        return error.code, json.load(error)


def slow_clients(folder: Path, connections: int) -> Found:
    """Hundreds send a byte now and then; other people are answered meanwhile."""
    found = Found("slow clients")
    waits: list[float] = []
    with serving(folder / "slow", "--demo") as (_, address):
        port = int(address.rsplit(":", 1)[1])
        slow: list[socket.socket] = []
        stop = threading.Event()

        def trickle() -> None:
            while not stop.wait(1.0):
                for each in slow:
                    try:
                        each.sendall(b"{")
                    except OSError:
                        continue

        try:
            for _ in range(connections):
                each = socket.create_connection(("127.0.0.1", port), timeout=10)
                each.sendall(
                    b"POST /api/faces HTTP/1.1\r\nHost: localhost\r\nContent-Type: application/json\r\nContent-Length: 90000\r\n\r\n"
                )
                slow.append(each)
            thread = threading.Thread(target=trickle, daemon=True)
            thread.start()
            for _ in range(50):
                start = time.monotonic()
                asked(address, "/api/sitters", timeout=20)
                waits.append(time.monotonic() - start)
        except OSError as error:
            found.wrong.append(f"somebody was not answered: {error}")
        finally:
            stop.set()
            for each in slow:
                each.close()
    waits.sort()
    slowest = waits[-1] if waits else 0.0
    if slowest > 2.0:
        found.wrong.append("somebody waited more than two seconds")
    found.figures = (
        f"{len(slow)} connections held open; {len(waits)} other requests, the slowest {1000 * slowest:.0f} ms"
    )
    return found
