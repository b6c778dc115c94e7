"""Edits, undo, redo, versions and restarts in any order: the history kept is the one a person would expect."""

from __future__ import annotations

import json
import tempfile
from dataclasses import dataclass, field
from pathlib import Path

from hypothesis import HealthCheck, settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, initialize, invariant, precondition, rule
from pydantic import ValidationError

from nabrel.core.terms.schools import SCHOOLS
from nabrel.demo.fill import fill
from nabrel.formats.loader import read_sequence
from nabrel.formats.values import dumped_value
from nabrel.store.database import FILE_NAME, Database
from nabrel.web.app import create_app
from tests.core.edits import edits_of

_FILLED: list[bytes] = []


def filled() -> bytes:
    """The bytes of a database with the demo scenario, made once."""
    if not _FILLED:
        with tempfile.TemporaryDirectory() as folder:
            database = Database(Path(folder))
            fill(database)
            database.close()
            _FILLED.append(database.path.read_bytes())
    return _FILLED[0]


@dataclass
class Remembered:
    """What the test knows of one revision."""

    parent: int | None
    file: dict
    name: str | None = None
    children: list[int] = field(default_factory=list)


class Walk(RuleBasedStateMachine):
    """One plan, worked on by somebody who never rests."""

    def __init__(self) -> None:
        super().__init__()
        self._folder = tempfile.TemporaryDirectory()
        (Path(self._folder.name) / FILE_NAME).write_bytes(filled())
        self.open()

    def open(self) -> None:
        self.database = Database(Path(self._folder.name))
        self.client = create_app(self.database).test_client()

    def teardown(self) -> None:
        self.database.close()
        self._folder.cleanup()

    @initialize(who=st.integers(0, 3))
    def begin(self, who: int) -> None:
        sitter = self.client.get("/api/sitters").json["sitters"][who]
        self.at = f"/api/sequences/{sitter['sequence_id']}"
        self.head = 1
        self.known: dict[int, Remembered] = {1: Remembered(None, self.file())}

    def file(self) -> dict:
        found: dict = self.client.get(f"{self.at}/file").json
        return found

    def took(self, answer, parent: int) -> None:
        """A change was taken: a new revision stands, made from the one that stood."""
        number = max(self.known) + 1
        assert answer.json["revision"] == number
        self.known[parent].children.append(number)
        self.known[number] = Remembered(parent, self.file())
        self.head = number

    # What a person does

    @rule(data=st.data())
    def edit(self, data) -> None:
        sequence = read_sequence(json.dumps(self.known[self.head].file).encode())
        if not sequence.steps:
            return
        edit = data.draw(edits_of(sequence, sorted(item.id for item in sequence.case.kit)))
        try:
            wire = dumped_value(edit)
        except ValidationError:
            return
        answer = self.client.post(f"{self.at}/edits", json={"revision": self.head, "edits": [wire]})
        assert answer.status_code in (200, 422), answer.json
        if answer.status_code == 200:
            self.took(answer, self.head)
            assert answer.json["undo_says"]
        else:
            assert answer.json["field"].startswith("edits[0]")

    @rule()
    def undo(self) -> None:
        answer = self.client.post(f"{self.at}/undo", json={"revision": self.head})
        parent = self.known[self.head].parent
        assert answer.status_code == (200 if parent else 422)
        self.head = parent or self.head

    @rule()
    def redo(self) -> None:
        answer = self.client.post(f"{self.at}/redo", json={"revision": self.head})
        children = self.known[self.head].children
        assert answer.status_code == (200 if children else 422)
        self.head = children[-1] if children else self.head

    @precondition(lambda self: len(self.known) > 1)
    @rule(data=st.data(), what=st.sampled_from(["edits", "undo", "redo", "replan"]))
    def act_on_what_stood_once(self, data, what: str) -> None:
        old = data.draw(st.sampled_from([number for number in self.known if number != self.head]))
        body = {"revision": old, **({"edits": [{"edit": "remove", "step": "s1"}]} if what == "edits" else {})}
        answer = self.client.post(f"{self.at}/{what}", json=body)
        assert answer.status_code == 409
        assert answer.json["field"] == "revision"

    @rule(school=st.sampled_from(SCHOOLS))
    def replan(self, school: str) -> None:
        answer = self.client.post(f"{self.at}/replan", json={"revision": self.head, "school": school})
        assert answer.status_code == 200
        self.took(answer, self.head)
        assert answer.json["school"] == school

    @rule(data=st.data(), name=st.sampled_from(["Opening night", "For the class", "Less shade"]))
    def name(self, data, name: str) -> None:
        number = data.draw(st.sampled_from(sorted(self.known)))
        taken = any(each.name == name for at, each in self.known.items() if at != number)
        answer = self.client.put(f"{self.at}/versions/{number}", json={"name": name})
        assert answer.status_code == (422 if taken else 200)
        if not taken:
            self.known[number].name = name

    @rule(data=st.data())
    def bring_back(self, data) -> None:
        number = data.draw(st.sampled_from(sorted(self.known)))
        answer = self.client.post(f"{self.at}/versions/{number}/take", json={"revision": self.head})
        assert answer.status_code == 200, answer.json
        self.took(answer, self.head)
        assert self.known[self.head].file["steps"] == self.known[number].file["steps"]

    @rule()
    def restart(self) -> None:
        self.database.close()
        self.open()

    # What holds whatever was done

    @invariant()
    def head_is_what_was_made(self) -> None:
        if not hasattr(self, "head"):
            return
        assert self.client.get(f"{self.at}/head").json["revision"] == self.head
        assert self.file() == self.known[self.head].file
        bench = self.client.get(self.at).json
        assert (bench["undo_says"] is None) == (self.known[self.head].parent is None)
        assert (bench["redo_says"] is None) == (not self.known[self.head].children)

    @invariant()
    def nothing_a_person_made_is_lost(self) -> None:
        if not hasattr(self, "head"):
            return
        listed = self.client.get(f"{self.at}/versions").json["versions"]
        assert {each["number"]: each["name"] for each in listed} == {
            number: each.name for number, each in self.known.items()
        }
        assert [each["number"] for each in listed if each["current"]] == [self.head]


Walk.TestCase.settings = settings(
    max_examples=7, stateful_step_count=14, deadline=None, suppress_health_check=list(HealthCheck)
)
TestAnyWalk = Walk.TestCase
