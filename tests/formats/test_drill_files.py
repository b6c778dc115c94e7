"""``nabrel drill`` and ``nabrel mark``: printed, read back, marked, and refused where they were tampered with."""

from __future__ import annotations

import json

import jsonschema
import pytest
from pypdf import PdfReader

from nabrel.core.drill.kinds import KINDS
from nabrel.core.drill.making import exercise, mark
from nabrel.core.house import House
from nabrel.formats.drills import ExerciseFile, read_exercise
from nabrel.formats.files import dumped
from nabrel.formats.schemas_build import SCHEMAS
from tests.commands import run

HOUSE = House()


def schema(kind):
    return json.loads((SCHEMAS / f"{kind}.schema.json").read_text(encoding="utf-8"))


@pytest.mark.parametrize("kind", list(KINDS))
def test_an_exercise_is_read_back_and_marked_as_it_was_made(kind):
    made = exercise(kind, 11, 1, 3, HOUSE)
    written = dumped(ExerciseFile.of(made))
    jsonschema.validate(written, schema("exercise"))
    back = read_exercise(json.dumps(written).encode())
    assert mark(back, back.answer, HOUSE).score == 1.0
    assert back.sequence == made.sequence
    shown = json.dumps(written["shows"])
    assert json.dumps(written["answer"]) not in shown
    if kind not in ("fault",):
        assert "sequence" not in written["shows"], "the plan would give it away"
        assert not any(why in shown for why in written["why"])


def test_the_commands_print_a_list_and_a_mark(tmp_path):
    said = run("drill", "--kind", "fault", "--seed", "7", "--count", "2", "--level", "2")
    assert said.returncode == 0, said.stderr
    assert said.stdout == run("drill", "--kind", "fault", "--seed", "7", "--count", "2", "--level", "2").stdout
    first, second = json.loads(said.stdout)
    assert first["id"] != second["id"]
    file = tmp_path / "e.json"
    file.write_text(json.dumps(first), encoding="utf-8")
    marked = run("mark", str(file), "-", text=json.dumps(first["answer"]))
    assert marked.returncode == 0, marked.stderr
    found = json.loads(marked.stdout)
    jsonschema.validate(found, schema("mark"))
    assert found["score"] == 1.0
    half = run("mark", str(file), "-", text=json.dumps({"step": first["answer"]["step"]}))
    assert json.loads(half.stdout)["score"] == 0.5


@pytest.mark.parametrize("arguments", [
    ("drill", "--kind", "dance"), ("drill", "--kind", "wait", "--level", "6"), ("drill", "--kind", "wait", "--count", "0"),
    ("drill",), ("drill", "--kind", "wait", "--about", "read-through"), ("drill", "--kind", "wait", "--paper", "a3"),
    ("drill", "--kind", "wait", "--set", "examples/no-such.json"), ("drill", "--set", "examples/no-such.json"),
    ("drill", "--kind", "wait", "--count", "9999"), ("drill", "--kind", "wait", "--seed", "-4"),
])  # fmt: skip
def test_what_cannot_be_drilled_is_one_line_and_2(arguments):
    said = run(*arguments)
    assert (said.returncode, said.stdout, said.stderr.count("\n")) == (2, "", 1)


@pytest.mark.parametrize(("change", "named"), [
    ({"kind": "dance"}, "kind"),
    ({"level": 9}, "level"),
    ({"choices": [{"id": "zz", "says": "x"}]}, "choices[0].id"),
    ({"marking": {}}, "marking.before"),
    ({"marking": {"before": []}}, "marking.before"),
    ({"marking": {"before": [["s1", 2, None]]}}, "marking.before[0]"),
    ({"shows": {}}, "shows.steps"),
    ({"shows": {"steps": [1]}}, "shows.steps[0]"),
    ({"answer": {}}, "answer.order"),
    ({"marking": {"before": [], "sequence": 3}}, "marking.sequence"),
    ({"colour": "red"}, "colour"),
])  # fmt: skip
def test_an_exercise_that_was_tampered_with_is_refused_by_its_field(change, named):
    written = dumped(ExerciseFile.of(exercise("order", 5, 1, 2, HOUSE)))
    said = run("mark", "-", "/dev/null", text=json.dumps({**written, **change}))
    assert (said.returncode, said.stdout, said.stderr.count("\n")) == (2, "", 1)
    assert named in said.stderr


@pytest.mark.parametrize("answer", ["", "[]", "3", '{"order": [', '"choice"', '{"order": NaN}'])
def test_an_answer_that_is_none_is_refused(tmp_path, answer):
    file = tmp_path / "e.json"
    file.write_text(json.dumps(dumped(ExerciseFile.of(exercise("order", 5, 1, 2, HOUSE)))), encoding="utf-8")
    said = run("mark", str(file), "-", text=answer)
    assert (said.returncode, said.stdout, said.stderr.count("\n")) == (2, "", 1)
    assert "answer" in said.stderr


def test_a_set_is_drilled_and_printed_as_a_paper(tmp_path):
    made = {
        "nabrel": "drill_set", "version": 1, "id": "b" * 32, "title": "Evening", "code": "KQT3ST", "seed": 5, "minutes": 10,
        "parts": [{"kind": "base_pair", "level": 2, "count": 3}],
    }  # fmt: skip
    file, paper = tmp_path / "set.json", tmp_path / "paper.pdf"
    file.write_text(json.dumps(made), encoding="utf-8")
    said = run("drill", "--set", str(file), "-o", str(paper))
    assert said.returncode == 0, said.stderr
    printed = json.loads(said.stdout)
    assert [each["kind"] for each in printed] == ["base_pair"] * 3
    pages = PdfReader(paper).pages
    assert "Evening" in pages[0].extract_text()
    assert all(each["choices"][0]["says"].split()[0] in pages[0].extract_text() for each in printed)
    one = json.loads(run("drill", "--kind", "base_pair", "--about", "base-oil-over-water").stdout)
    assert [each["judgement"] for each in one] == ["base-oil-over-water"]
