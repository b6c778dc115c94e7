"""Class files: read, refused by the field that is wrong, and what ``nabrel class`` makes of them."""

from __future__ import annotations

import json
from pathlib import Path

import jsonschema
import pytest

from nabrel.core.errors import Refused
from nabrel.formats.classes import read_class
from nabrel.formats.schemas_build import SCHEMAS
from tests.commands import run

EXAMPLES = Path(__file__).parents[2] / "examples"


@pytest.fixture(scope="module")
def taught():
    """A class with everything that may stand in one."""
    return {
        "nabrel": "class", "version": 1, "title": "Evening course, third evening", "date": "2026-11-20", "start": "18:30",
        "sequence": json.loads((EXAMPLES / "wren.sequence.json").read_text(encoding="utf-8")),
        "students": [{"name": f"Student {n}", "pace": 2.0, "case": None} for n in range(1, 5)], "stations": 4, "educators": 1,
        "shared": [{"item": "sink", "count": 1, "use_s": 60}], "check_s": 45, "break_after_min": 60, "spare": 0.15,
        "pairs": [["Student 1", "Student 2"]], "until": "21:00", "zone": None, "held": False, "pins": {}, "checked": {"Student 1": ["s1"]},
    }  # fmt: skip


def test_the_command_prints_the_lesson(taught):
    said = run("class", "-", text=json.dumps(taught))
    assert said.returncode == 0, said.stderr
    lesson = json.loads(said.stdout)
    jsonschema.validate(lesson, json.loads((SCHEMAS / "lesson.schema.json").read_text(encoding="utf-8")))
    assert [each["name"] for each in lesson["students"]] == [each["name"] for each in taught["students"]]
    assert {each["phase"] for each in lesson["blocks"]} >= {"demonstrate", "practise"}
    stations = {task["station"] for each in lesson["students"] for task in each["tasks"]} - {None}
    assert 1 <= len(stations) <= 4
    assert lesson["length_s"] == max(each["end_s"] for each in lesson["blocks"])
    assert lesson["before_class"]
    assert lesson["after_class"]
    assert run("class", "-", text=json.dumps(taught)).stdout == said.stdout


def test_only_what_is_needed_is_needed(taught):
    needed = {name: taught[name] for name in ("nabrel", "version", "title", "date", "start", "sequence", "stations")}
    needed["students"] = [{"name": "Student 1"}]
    found = read_class(json.dumps(needed).encode())
    assert (found.educators, found.spare, found.room.students[0].pace) == (1, 0.15, 2.0)
    jsonschema.validate(needed, json.loads((SCHEMAS / "class.schema.json").read_text(encoding="utf-8")))


@pytest.mark.parametrize(("field", "value", "named"), [
    ("students", [], "students"),
    ("students", [{"name": ""}], "students[0].name"),
    ("students", [{"name": "x" * 200}], "students[0].name"),
    ("students", [{"name": "A", "pace": 0}], "students[0].pace"),
    ("students", [{"name": "A"}, {"name": "A"}], "students"),
    ("stations", 0, "stations"),
    ("stations", 1.5, "stations"),
    ("educators", 0, "educators"),
    ("start", "6 pm", "start"),
    ("date", "2026-13-40", "date"),
    ("pairs", [["Student 1", "Student 9"]], "pairs[0]"),
    ("shared", [{"item": "sink", "count": 0}], "shared[0].count"),
    ("spare", -1, "spare"),
    ("until", "24:00", "until"),
    ("colour", "red", "colour"),
])  # fmt: skip
def test_a_wrong_field_is_refused_by_its_name(taught, field, value, named):
    with pytest.raises(Refused) as refused:
        read_class(json.dumps({**taught, field: value}).encode())
    assert refused.value.field == named


def test_bad_input_to_the_command_is_one_line_and_2(taught):
    said = run("class", "-", text=json.dumps({**taught, "stations": 0}))
    assert (said.returncode, said.stdout, said.stderr.count("\n")) == (2, "", 1)
    assert "stations" in said.stderr
