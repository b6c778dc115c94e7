"""A thing is at home in its row: a made-up kind of step, rule and kind of drill work everywhere from their declarations alone.

Each is written into a copy of the package, in the places that a person would write it; a program then takes it through plan, check, telling,
file and screen.
"""

from __future__ import annotations

import json
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[1]

STEP = {
    "core/terms/steps.py": (
        '        StepInfo(\n            "glow",',
        '        StepInfo("gloss", "Gloss", "layer", "finish", _SHAPE, ("glow",), usual_film="glow_film_um", noun="gloss"),\n',
    ),
}
RULE = {
    "core/judge/rules/texture.py": (
        '@rule(\n    "shimmer-on-mature-lids",',
        """@rule("gloss-on-folds", "texture", "problem", "No gloss on a lid that folds.", "It gathers in the fold within the hour.")
def gloss_on_folds(judged: Judged) -> Iterator[Breach]:
    for _, step in judged.steps():
        if step.kind == "gloss":
            yield Breach((step.id,), step.zones, "Gloss lies where the lid folds.", without(step, step.zones))


""",
    ),
}
DRILL = {
    "core/drill/kinds.py": (
        "KINDS: Mapping[DrillKind, DrillKindInfo] = table(\n    (\n",
        '        DrillKindInfo("how_many", "How many steps", _how_many, how="Count them."),\n',
    ),
    "core/drill/judgements.py": (
        "    for kind in PLACED:\n",
        '    yield Judgement("how-many", "how_many", "", "How many steps a plan has")\n',
    ),
}
MADE = """
def _how_many(world: World, level: int, rng: Random, asked: Judgement | None) -> Exercise | None:
    from nabrel.core.drill.exercise import Shown, lettered
    count = len(world.plan.steps)
    choices, letter = lettered(rng, f"{count} steps", [f"{count + by} steps" for by in (1, 2, 3)])
    return Exercise("", "how_many", "how-many", level, 0, "How many steps has this plan?", Answer(choice=letter),
                    (f"It has {count}.",), choices, Shown(reads=("A plan.",)), sequence=world.plan)


"""

PROGRAM = """
import json, sys
from nabrel.core.base.possible import apply_edits
from nabrel.core.drill.kinds import KINDS
from nabrel.core.drill.making import exercise, mark
from nabrel.core.drill.paper import questions_on_paper
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate, products_of, rule_book
from nabrel.core.plan.edits import Add
from nabrel.core.documents.tell import telling
from nabrel.demo.fill import fill
from nabrel.formats.drills import ExerciseFile, read_exercise, told
from nabrel.formats.files import SequenceFile, dumped
from nabrel.formats.loader import read_sequence
from nabrel.store.database import Database
from nabrel.web.app import create_app
from nabrel.web.openapi_build import document_text

house = House()
"""


@pytest.fixture(scope="module")
def copied(tmp_path_factory):
    """The package with all three written in, and the ids generated anew."""
    place = tmp_path_factory.mktemp("made-up")
    shutil.copytree(ROOT / "nabrel", place / "nabrel", ignore=shutil.ignore_patterns("static", "__pycache__"))
    for patch in (STEP, RULE, DRILL):
        assert len(patch) <= 2, "more than two places to write one thing in"
        for name, (before, more) in patch.items():
            file = place / "nabrel" / name
            text = file.read_text(encoding="utf-8")
            assert text.count(before) == 1, name
            inside = before if more.startswith("        DrillKindInfo") else ""
            file.write_text(text.replace(before, inside + more + ("" if inside else before)), encoding="utf-8")
    kinds = place / "nabrel" / "core" / "drill" / "kinds.py"
    text = kinds.read_text(encoding="utf-8")
    kinds.write_text(text.replace("KINDS: Mapping", MADE + "KINDS: Mapping", 1), encoding="utf-8")
    run(place, "from nabrel.formats import ids_build; ids_build.main()")
    return place


def run(place: Path, program: str) -> str:
    """What a program prints that runs on the copy."""
    ran = subprocess.run(
        [sys.executable, "-c", program], cwd=place, env={"PYTHONPATH": str(place), "PATH": "/usr/bin:/bin"},
        capture_output=True, text=True, check=False,
    )  # fmt: skip
    assert ran.returncode == 0, ran.stderr[-3000:]
    return ran.stdout


def test_a_made_up_step_and_rule_go_through_plan_check_telling_file_and_screen(copied):
    said = json.loads(
        run(
            copied,
            PROGRAM
            + """
database = Database(__import__("pathlib").Path("data"))
fill(database)
client = create_app(database).test_client()
sitter = client.get("/api/sitters").json["sitters"][0]
bench = client.get(f"/api/sequences/{sitter['sequence_id']}").json
item = next(each["id"] for each in client.get("/api/kit").json["items"] if each["role"] == "glow")
edit = {"edit": "add", "kind": "gloss", "zones": ["eyelid_l", "eyelid_r"], "product": item}
answer = client.post(f"/api/sequences/{bench['id']}/edits", json={"revision": bench["revision"], "edits": [edit]})
after = answer.json
sheet = client.get(f"/api/sequences/{bench['id']}/telling").json
file = client.get(f"/api/sequences/{bench['id']}/file").data
back = read_sequence(file)
print(json.dumps({
    "status": answer.status_code, "kinds": [each["kind"] for each in after["steps"]],
    "findings": [each["rule"] for each in after["findings"]],
    "words": [each["id"] for each in client.get("/api/vocabulary").json["steps"]],
    "rules": [each["id"] for each in client.get("/api/vocabulary").json["rules"]],
    "told": json.dumps(sheet), "file": [step.kind for step in back.steps],
    "checked": [each.rule for each in evaluate(back, house).findings],
    "document": "gloss" in document_text(),
}))
""",
        )
    )
    assert said["status"] == 200
    assert "gloss" in said["kinds"]
    assert "gloss-on-folds" in said["findings"]
    assert "gloss" in said["words"]
    assert "gloss-on-folds" in said["rules"]
    assert "Gloss" in said["told"]
    assert "gloss" in said["file"]
    assert "gloss-on-folds" in said["checked"]
    assert said["document"]


def test_a_made_up_kind_of_drill_is_made_marked_filed_printed_and_asked(copied):
    said = json.loads(
        run(
            copied,
            PROGRAM
            + """
made = exercise("how_many", 3, 1, 2, house)
written = dumped(ExerciseFile.of(made))
back = read_exercise(json.dumps(written).encode())
[paper] = questions_on_paper([back])
client = create_app(Database(__import__("pathlib").Path("drilled"))).test_client()
session = client.post("/api/drill/sessions", json={"level": 2, "kinds": ["how_many"]}).json
asked = client.post(f"/api/drill/sessions/{session['id']}/exercises", json={}).json["exercise"]
right = next(each["id"] for each in asked["choices"] if each["says"] == min((c["says"] for c in asked["choices"]), key=lambda says: int(says.split()[0])))
marked = client.post(f"/api/drill/sessions/{session['id']}/exercises/{asked['id']}/answer", json={"choice": right})
print(json.dumps({
    "right": mark(back, back.answer, house).score, "how": paper.how, "asked": asked["words"], "status": marked.status_code,
    "score": marked.json["mark"]["score"], "document": "how_many" in document_text(), "file": written["kind"],
}))
""",
        )
    )
    assert said["right"] == 1.0
    assert said["how"] == "Count them."
    assert said["asked"] == "How many steps"
    assert (said["status"], said["score"]) == (200, 1.0)
    assert said["file"] == "how_many"
    assert said["document"]
