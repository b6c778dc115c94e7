"""What people do all day, one acknowledged change after another, and how each is found again in a database.

Every kind counts: of what was acknowledged nothing may be missing, also where one more was on its way.
"""

from __future__ import annotations

import json
import sqlite3
import threading
import urllib.error
import urllib.request
from http.client import HTTPException
from typing import ClassVar
from uuid import uuid4

from tests.served import asked

ITEM = {"role": "foundation", "texture": "liquid", "base": "water", "lab": [60.0, 10.0, 15.0], "cover": 0.5}
FEW = 40
"""A new run, or class, after so many events of one."""


class Work:
    """One kind of work. ``done`` is what was acknowledged so far."""

    name: ClassVar[str]

    def __init__(self, address: str) -> None:
        self.done: frozenset[str] = frozenset()
        self.begin(address)
        self.again(address)

    def begin(self, address: str) -> None:
        """Make what is worked on."""

    def again(self, address: str) -> None:
        """Take up what stands after a start."""

    def go_on(self, address: str) -> None:
        """One more change; it is done where this comes back."""
        raise NotImplementedError

    def found(self, raw: sqlite3.Connection) -> frozenset[str]:
        """What of it stands in a database."""
        raise NotImplementedError

    def missing(self, raw: sqlite3.Connection, done: frozenset[str]) -> list[str]:
        """What was acknowledged and is not as it was."""
        return sorted(done - self.found(raw))


class Items(Work):
    """An item is written again and again, under a number."""

    name = "items"

    def again(self, address: str) -> None:
        names = [each["name"] for each in asked(address, "/api/kit")["items"] if each["id"] == "counted"]
        self.number = int(names[0].split()[1]) if names else 0

    def go_on(self, address: str) -> None:
        self.number += 1
        put(address, "/api/kit/items/counted", {"id": "counted", "name": f"Number {self.number}", **ITEM})
        self.done |= {f"{self.number:06}"}

    def found(self, raw: sqlite3.Connection) -> frozenset[str]:
        row = raw.execute("SELECT name FROM kit_item WHERE id = 'counted'").fetchone()
        return frozenset(f"{number + 1:06}" for number in range(int(row[0].split()[1]) if row else 0))


class Edits(Work):
    """A plan is edited; every revision stands."""

    name = "edits"

    def again(self, address: str) -> None:
        plan = asked(address, "/api/sitters")["sitters"][0]["sequence_id"]
        self.plan = asked(address, f"/api/sequences/{plan}")

    def go_on(self, address: str) -> None:
        step = next(each["id"] for each in self.plan["steps"] if each.get("wait_s") is not None)
        change = {"edit": "wait", "step": step, "wait_s": 20 + self.plan["revision"] % 90}
        body = {"revision": self.plan["revision"], "edits": [change]}
        self.plan = asked(address, f"/api/sequences/{self.plan['id']}/edits", body)
        self.done |= {f"{self.plan['id']} {self.plan['revision']}"}

    def found(self, raw: sqlite3.Connection) -> frozenset[str]:
        return frozenset(f"{row[0]} {row[1]}" for row in raw.execute("SELECT sequence_id, number FROM revision"))


class Runs(Work):
    """A plan is worked to the clock, block by block."""

    name = "runs"

    def begin(self, address: str) -> None:
        self.plan = asked(address, "/api/sitters")["sitters"][1]["sequence_id"]
        self.live = asked(address, f"/api/sequences/{self.plan}/run", {})
        self.blocks: list[dict[str, object]] = []

    def go_on(self, address: str) -> None:
        if len(self.blocks) >= len(self.live["blocks"]):
            self.begin(address)
        block, at = self.live["blocks"][len(self.blocks)], 10.0 * len(self.blocks)
        side = {"step": block["step"], "side": block["side"], "portion": None}
        self.blocks.append({**side, "from_s": at, "to_s": at + 10.0, "state": "done"})
        put(address, f"/api/runs/{self.live['run_id']}", {"log": {"done": self.blocks}})
        self.done |= {f"{self.live['run_id']} {len(self.blocks)}"}

    def found(self, raw: sqlite3.Connection) -> frozenset[str]:
        rows = raw.execute("SELECT key, document FROM run WHERE key IS NOT NULL").fetchall()
        blocks = [(key, len(json.loads(document)["worked"]["log"]["done"])) for key, document in rows]
        return frozenset(f"{key} {number + 1}" for key, most in blocks for number in range(most))


class Lessons(Work):
    """A class goes on, and questions come up in it."""

    name = "class events"

    def begin(self, address: str) -> None:
        # A plan that nobody erases.
        plan = asked(address, "/api/sitters")["sitters"][2]["sequence_id"]
        told = {"title": "One more", "date": "2026-12-09", "start": "18:30", "plan": plan, "stations": 2}
        made = asked(address, "/api/classes", {**told, "students": [{"name": "Ida"}, {"name": "Ned"}]})
        self.key, self.step, self.count = made["id"], made["steps"][0]["id"], 0
        self._event(address, {"event": "begin"})

    def go_on(self, address: str) -> None:
        if self.count >= FEW:
            self.begin(address)
        text = f"{self.key} {self.count}"
        self.count += 1
        self._event(address, {"event": "ask", "step": self.step, "text": text})
        self.done |= {text}

    def _event(self, address: str, body: dict[str, str]) -> None:
        asked(address, f"/api/classes/{self.key}/events", body)

    def found(self, raw: sqlite3.Connection) -> frozenset[str]:
        logs = [json.loads(row[0]).get("log") or {} for row in raw.execute("SELECT document FROM class")]
        return frozenset(each["text"] for log in logs for each in log.get("questions", ()))


class Drills(Work):
    """A student answers one exercise after another."""

    name = "drill answers"

    def begin(self, address: str) -> None:
        self.student = asked(address, "/api/drill/students", {"name": f"Diligent {uuid4().hex[:8]}", "group": ""})["id"]
        self.count = 0

    def again(self, address: str) -> None:
        # A workspace that comes in ends the sessions of the one before.
        told = {"level": 2, "student": self.student, "kinds": ["base_pair"]}
        self.session = asked(address, "/api/drill/sessions", told)["id"]

    def go_on(self, address: str) -> None:
        made = asked(address, f"/api/drill/sessions/{self.session}/exercises", {})["exercise"]
        asked(address, f"/api/drill/sessions/{self.session}/exercises/{made['id']}/answer", {"choice": "a"})
        self.count += 1
        self.done |= {f"{self.student} {self.count:06}"}

    def found(self, raw: sqlite3.Connection) -> frozenset[str]:
        [count] = raw.execute("SELECT count(*) FROM answer WHERE student_key = ?", (self.student,)).fetchone()
        return frozenset(f"{self.student} {number + 1:06}" for number in range(count))


class Sitters(Work):
    """A case is imported, and the sitter of the one before erased. Who is erased is nowhere, who came is here."""

    name = "imports and erasing"

    def begin(self, address: str) -> None:
        sitter = asked(address, "/api/sitters")["sitters"][-1]["id"]
        self.case = asked(address, f"/api/sitters/{sitter}/case")
        self.last: str | None = None

    def go_on(self, address: str) -> None:
        if self.last is not None:
            gone, self.last = self.last, None
            # What is being erased may be gone before that is said.
            self.done -= {f"here {gone}"}
            if erase(address, gone)["finished"]:
                self.done |= {f"gone {gone}"}
            return
        self.case["sitter"]["nickname"] = f"Guest {uuid4().hex[:8]}"
        self.last = asked(address, "/api/cases", self.case)["sitter_id"]
        self.done |= {f"here {self.last}"}

    def found(self, raw: sqlite3.Connection) -> frozenset[str]:
        return frozenset(f"here {row[0]}" for row in raw.execute("SELECT id FROM sitter"))

    def missing(self, raw: sqlite3.Connection, done: frozenset[str]) -> list[str]:
        found = self.found(raw)
        wrong = [each for each in done if each.startswith("gone") and each.replace("gone", "here") in found]
        return sorted([*wrong, *(each for each in done if each.startswith("here") and each not in found)])


class Whole(Work):
    """The whole workspace goes out, and comes in again; nothing else is done meanwhile."""

    name = "workspaces out and in"

    def begin(self, address: str) -> None:
        self.zip: bytes | None = None

    def go_on(self, address: str) -> None:
        if self.zip is None:
            with urllib.request.urlopen(f"{address}/api/workspace", timeout=60) as answer:
                self.zip = answer.read()
            return
        headers = {"Content-Type": "application/zip"}
        request = urllib.request.Request(f"{address}/api/workspace", self.zip, headers, method="PUT")
        with urllib.request.urlopen(request, timeout=120):
            self.zip = None

    def found(self, raw: sqlite3.Connection) -> frozenset[str]:
        return frozenset()


KINDS: tuple[type[Work], ...] = (Items, Edits, Runs, Lessons, Drills, Sitters)


class Worker(threading.Thread):
    """Goes on with one kind of work until the server is gone. What is refused is wrong: nothing here is."""

    def __init__(self, address: str, work: Work) -> None:
        super().__init__(daemon=True)
        self.address, self.work = address, work
        self.changes = 0
        self.refused = ""

    def run(self) -> None:
        while True:
            try:
                self.work.go_on(self.address)
            except urllib.error.HTTPError as error:
                self.refused = f"{self.work.name}: {error.code} {error.read()[:200]!r}"
                return
            except (OSError, ValueError, HTTPException):
                return
            self.changes += 1


def put(address: str, path: str, body: object) -> None:
    """Send something in the place of what is there."""
    asked(address, path, body, method="PUT")


def erase(address: str, sitter: str) -> dict:
    """Erase a sitter; what went."""
    return asked(address, f"/api/sitters/{sitter}", method="DELETE")
