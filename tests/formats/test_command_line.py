"""The command line, as a person at a shell uses it."""

from __future__ import annotations

import json
import subprocess
import sys
from pathlib import Path

import pytest

from tests.commands import run
from tests.making import zones_of

EXAMPLES = Path(__file__).parents[2] / "examples"


def piped(*arguments: str, text: str | None = None) -> subprocess.CompletedProcess[str]:
    """Run in a process of its own, as in a shell."""
    command = [sys.executable, "-m", "nabrel.cli", *arguments]
    return subprocess.run(command, input=text, capture_output=True, text=True, timeout=60, check=False)


def test_plan_check_and_film_work_in_a_pipe(tmp_path):
    planned = piped("plan", str(EXAMPLES / "tamsin.case.json"))
    assert planned.returncode == 0
    assert json.loads(planned.stdout)["nabrel"] == "sequence"
    checked = piped("check", "-", text=planned.stdout)
    assert checked.returncode == 0
    findings = json.loads(checked.stdout)
    assert (findings["nabrel"], findings["version"]) == ("findings", 2)
    assert all(each["severity"] == "advice" for each in findings["findings"])
    seen = run("film", "-", "--light", "warm_lamp", text=planned.stdout)
    appearance = json.loads(seen.stdout)
    assert appearance["light"] == "warm_lamp"
    assert appearance["steps"][-1]["zones"]["chin"]["film_um"] > 0
    assert {"cake", "crease", "shine_hours"} <= set(appearance["zones"]["under_eye_l"])
    assert appearance["read_through"]


def test_check_exits_1_on_a_problem():
    document = json.loads((EXAMPLES / "wren.sequence.json").read_text(encoding="utf-8"))
    foundation = next(step for step in document["steps"] if step["kind"] == "foundation")
    for portion in foundation["portions"]:
        portion["motion"] = "drag"
    checked = run("check", "-", text=json.dumps(document))
    assert checked.returncode == 1
    findings = json.loads(checked.stdout)["findings"]
    assert any(f["rule"] == "gentle-on-fragile" and f["steps"] == [foundation["id"]] for f in findings)


@pytest.mark.parametrize(
    ("arguments", "text", "said"),
    [
        (["plan", "nowhere.json"], None, "file: found 'nowhere.json'"),
        (["plan", "-"], "", "file: found 'nothing'"),
        (["plan", "-"], "{", "not JSON"),
        (["plan", "-"], '{"nabrel": "case", "version": 1}', "sitter: found 'nothing'"),
        (["check", str(EXAMPLES / "wren.case.json")], None, "nabrel: found 'case'; allowed: one of 'sequence'"),
        (["film", str(EXAMPLES / "wren.sequence.json"), "--light", "moon"], None, "--light: found 'moon'"),
    ],
)
def test_bad_input_gets_one_line_and_exit_2(arguments, text, said):
    answer = run(*arguments, text=text)
    assert answer.returncode == 2
    assert answer.stdout == ""
    assert said in answer.stderr
    assert len(answer.stderr.strip().splitlines()) == 1


def test_no_command_shows_help():
    answer = run()
    assert answer.returncode == 2
    assert "plan a case" in answer.stdout


def test_correct_answers_for_one_zone():
    answer = run("correct", str(EXAMPLES / "wren.case.json"), "--zone", "nose_side_l")
    assert answer.returncode == 0
    found = json.loads(answer.stdout)
    assert found["nabrel"] == "correction"
    assert found["best"]["corrector"] == "cor-green"
    assert found["best"]["film_um"] <= found["without_corrector"]["film_um"]
    assert found["without_corrector"].get("corrector") is None
    assert found["says"]


def test_mix_answers_in_whole_drops():
    answer = run("mix", str(EXAMPLES / "tamsin.case.json"), "--target", "62,11,17", "--drops", "8")
    assert answer.returncode == 0
    found = json.loads(answer.stdout)
    assert found["nabrel"] == "mix"
    assert sum(part["drops"] for part in found["best"]["parts"]) == found["best"]["drops"] <= 8
    assert found["near_enough"]


@pytest.mark.parametrize(
    ("arguments", "said"),
    [
        (["correct", "--zone", "nose"], "--zone: found 'nose'"),
        (["mix", "--target", "62,11"], "--target: found '62,11'"),
        (["mix", "--target", "nan,1,2"], "--target"),
        (["mix", "--target", "50,120,-100"], "target: found"),
        (["mix", "--drops", "0"], "drops: found 0"),
        (["mix", "--finish", "glitter"], "--finish: found 'glitter'"),
    ],
)
def test_bad_questions_get_one_line_too(arguments, said):
    answer = run(arguments[0], str(EXAMPLES / "wren.case.json"), *arguments[1:])
    assert answer.returncode == 2
    assert said in answer.stderr
    assert len(answer.stderr.strip().splitlines()) == 1


WREN = str(EXAMPLES / "wren.sequence.json")
TAMSIN = str(EXAMPLES / "tamsin.case.json")


def test_tell_prints_numbered_text():
    told = run("tell", WREN)
    assert told.returncode == 0
    assert "\n1. **Cleanse**" in told.stdout
    assert "Local hygiene codes" in told.stdout


def test_schools_prints_all_six_ranked():
    found = json.loads(run("schools", TAMSIN).stdout)
    assert found["nabrel"] == "schools"
    assert len(found["schools"]) == 6


def test_house_rules_are_gone_by_from_a_file(tmp_path):
    house = tmp_path / "house.json"
    decided = {"nabrel": "house", "version": 1, "parameters": {"foundation_film_um": {"value": 4.0}}}
    house.write_text(json.dumps(decided), encoding="utf-8")
    steps = json.loads(run("plan", TAMSIN, "--house", str(house)).stdout)["steps"]
    assert max(p["amount"] for s in steps if s["kind"] == "foundation" for p in s["portions"]) == 4.5


@pytest.mark.parametrize(
    ("decided", "says"),
    [
        ({"rules": {"thin-pass": {"off": True}}}, "nearest: thin-passes"),
        ({"parameters": {"bake_s": {"value": 1.0}}}, "parameters.bake_s"),
        ({"wishes": {}}, "wishes"),
    ],
)
def test_a_wrong_house_file_is_one_clear_line(tmp_path, decided, says):
    house = tmp_path / "house.json"
    house.write_text(json.dumps({"nabrel": "house", "version": 1, **decided}), encoding="utf-8")
    checked = run("check", WREN, "--house", str(house))
    assert checked.returncode == 2
    assert says in checked.stderr
    assert checked.stderr.count("\n") == 1


def test_a_bake_in_a_file_of_the_look_is_high_until_it_is_dusted_off():
    planned = run("plan", str(EXAMPLES / "bram.case.json"))
    steps = json.loads(planned.stdout)["steps"]
    baked = next(step for step in steps if step["kind"] == "bake")
    dusted = next(step for step in steps if step["kind"] == "dust_off")
    appearance = json.loads(run("film", "-", text=planned.stdout).stdout)
    by_step = {stage["step"]: stage["zones"] for stage in appearance["steps"]}
    for zone in zones_of(baked):
        high, low = (by_step[step["id"]][zone]["powder_mg_cm2"] for step in (baked, dusted))
        assert high >= baked["portions"][0]["amount"] > low > 0


def test_what_lies_in_a_file_of_the_look_only_grows_but_for_what_is_dusted_or_lifted():
    planned = run("plan", str(EXAMPLES / "wren.case.json"))
    steps = json.loads(planned.stdout)["steps"]
    stages = json.loads(run("film", "-", text=planned.stdout).stdout)["steps"]
    assert [stage["step"] for stage in stages] == [step["id"] for step in steps]
    for step, before, after in zip(steps[1:], stages, stages[1:], strict=False):
        for zone, now in after["zones"].items():
            if zone not in zones_of(step):
                assert now == before["zones"][zone], (step["kind"], zone)
            elif step["kind"] not in ("dust_off", "soften_edges", "press_back"):
                assert now["powder_mg_cm2"] >= before["zones"][zone]["powder_mg_cm2"]
