"""Wear files: read, refused by the field that is wrong, written back the same, and what ``nabrel learn`` makes of them."""

from __future__ import annotations

import copy
import json
from pathlib import Path

import jsonschema
import pytest

from nabrel.core.errors import Refused
from nabrel.core.house import House
from nabrel.core.learn.unlearnt import forecast_hours
from nabrel.formats.files import dumped
from nabrel.formats.schemas_build import SCHEMAS
from nabrel.formats.wear import read_wear
from tests.commands import run

EXAMPLES = Path(__file__).parents[2] / "examples"
SEEN = ["nose_tip", "under_eye_l", "cheek_apple_l", "chin"]


@pytest.fixture(scope="module")
def wear():
    """A whole file, with everything that may stand in one."""
    return {
        "nabrel": "wear",
        "version": 1,
        "sequence": json.loads((EXAMPLES / "wren.sequence.json").read_text(encoding="utf-8")),
        "worn": {"from": "2026-11-03T09:50:00+00:00", "temperature_c": 29, "humidity_pc": 60},
        "looks": [
            {"after_min": 240, "light": "daylight", "seen": SEEN, "zones": {"nose_tip": {"shine": 2}, "under_eye_l": {"crease": 1}},
             "note": "Shone at noon.", "next_time": "More powder on the nose.", "photo": "nose-240.png"},
            {"after_min": 25, "light": "daylight", "seen": SEEN},
        ],
        "verdict": {"again": True, "comfort": 2, "text": "Light on the skin."},
        "run": "r1",
        "trial": {"id": "t1", "side": "left"},
    }  # fmt: skip


def changed(wear, path, value):
    document = copy.deepcopy(wear)
    inner = document
    for key in path[:-1]:
        inner = inner[key]
    inner[path[-1]] = value
    return json.dumps(document).encode()


def test_a_wear_file_is_read_in_the_order_of_time_and_written_back_the_same(wear):
    found = read_wear(json.dumps(wear).encode())
    assert [look.after_min for look in found.looks] == [25, 240]
    assert found.worn.from_ == "2026-11-03T09:50:00+00:00"
    written = dumped(found)
    assert written["worn"] == wear["worn"]
    assert found.looks[1].photo == "nose-240.png"
    jsonschema.validate(written, json.loads((SCHEMAS / "wear.schema.json").read_text(encoding="utf-8")))
    assert dumped(read_wear(json.dumps(written).encode())) == written


def test_its_forecast_is_of_the_day_it_was_worn_or_the_one_that_was_stored(wear):
    found = read_wear(json.dumps(wear).encode())
    computed = found.wearing(House())
    assert computed.sitter == "Wren"
    climate = found.worn.climate(found.sequence.sequence.case.intent.climate)
    assert (climate.temperature_c, climate.humidity_percent) == (29, 60)
    assert computed.forecast == forecast_hours(found.sequence.sequence, House(), climate)
    stored = read_wear(changed(wear, ["forecast"], {"nose_tip": {"shine_hours": 3.5, "film_um": 4.0}}))
    assert {zone: each.shine_hours for zone, each in stored.wearing(House()).forecast.items()} == {"nose_tip": 3.5}


@pytest.mark.parametrize(
    ("path", "value", "field"),
    [
        (["worn", "from"], "yesterday", "worn.from"),
        (["worn", "from"], "2026-11-03T09:50:00", "worn.from"),
        (["worn", "humidity_pc"], 140, "worn.humidity_pc"),
        (["looks", 0, "after_min"], -5, "looks[0].after_min"),
        (["looks", 0, "after_min"], 25, "looks[1].after_min"),
        (["looks", 0, "light"], "moon", "looks[0].light"),
        (["looks", 0, "zones"], {"elbow": {"shine": 1}}, "looks[0].zones"),
        (["looks", 0, "zones"], {"nose_tip": {"sparkle": 1}}, "looks[0].zones.nose_tip"),
        (["looks", 0, "zones"], {"nose_tip": {"shine": 4}}, "looks[0].zones.nose_tip.shine"),
        (["looks", 0, "zones"], {"nose_tip": {"shine": True}}, "looks[0].zones.nose_tip.shine"),
        (["verdict", "comfort"], 9, "verdict.comfort"),
        (["trial", "side"], "up", "trial.side"),
        (["forecast"], {"nose_tip": {}}, "forecast.nose_tip.shine_hours"),
        (["looks"], "none", "looks"),
    ],
)
def test_what_cannot_be_is_refused_by_its_field(wear, path, value, field):
    with pytest.raises(Refused) as refused:
        read_wear(changed(wear, path, value))
    assert refused.value.field.startswith(field)


def test_a_zone_on_which_the_plan_does_nothing_is_refused(wear):
    document = copy.deepcopy(wear)
    document["sequence"]["steps"] = [each for each in document["sequence"]["steps"] if each["kind"] == "cleanse"]
    document["looks"][0]["zones"] = {"lips": {"transfer": 1}}
    with pytest.raises(Refused) as refused:
        read_wear(json.dumps(document).encode())
    assert refused.value.field == "looks[0].zones"


def test_learn_prints_what_many_files_teach(wear, tmp_path):
    files = []
    for number in range(3):
        file = tmp_path / f"{number}.wear.json"
        file.write_bytes(changed(wear, ["looks", 0, "note"], f"Day {number}."))
        files.append(str(file))
    said = run("learn", *files)
    assert said.returncode == 0, said.stderr
    learnt = json.loads(said.stdout)
    jsonschema.validate(learnt, json.loads((SCHEMAS / "learnt.schema.json").read_text(encoding="utf-8")))
    assert (learnt["nabrel"], learnt["records"], learnt["looks"]) == ("learnt", 3, 6)
    sitter = next(e for e in learnt["effects"] if (e["about"], e["of"], e["id"]) == ("shine_hours", "sitter", "Wren"))
    assert sitter["low"] < sitter["factor"] < sitter["high"]
    assert sitter["seen"] == 3 * len(SEEN)
    assert learnt["error"]["before"] > 0
    assert run("learn", "-", text=json.dumps(wear)).returncode == 0


def test_of_many_files_the_wrong_one_is_named(wear, tmp_path):
    good, bad = tmp_path / "good.json", tmp_path / "bad.json"
    good.write_text(json.dumps(wear), encoding="utf-8")
    bad.write_bytes(changed(wear, ["looks", 0, "after_min"], -1))
    said = run("learn", str(good), str(bad))
    assert (said.returncode, said.stdout) == (2, "")
    assert "bad.json" in said.stderr
    assert "after_min" in said.stderr
    assert said.stderr.count("\n") == 1


def test_what_was_agreed_to_in_a_house_file_is_not_proposed_again_and_does_not_shift_what_is_learnt(wear, tmp_path):
    """Every zone shines long before its forecast, in six records."""
    files = []
    for number in range(6):
        early = {**wear, "looks": [
            {"after_min": minutes, "seen": list(SEEN), "zones": {zone: {"shine": 1} for zone in SEEN if minutes > 70}}
            for minutes in (30, 60, 80, 100)
        ]}  # fmt: skip
        early.pop("forecast", None)
        early["worn"] = {"from": f"2026-11-{number + 1:02d}T09:00:00+00:00"}
        file = tmp_path / f"{number}.wear.json"
        file.write_text(json.dumps(early), encoding="utf-8")
        files.append(str(file))
    before = json.loads(run("learn", *files).stdout)
    (mine,) = [each for each in before["proposals"] if each["parameter"] == "shine_hours of sitter Wren"]
    assert (mine["from"], mine["to"] < 0.8) == (1.0, True)
    decision = {"what": mine["parameter"], "to": mine["to"], "on": "2026-11-10T09:00:00+00:00"}
    house = tmp_path / "house.json"
    house.write_text(json.dumps({"nabrel": "house", "version": 1, "decisions": [decision]}), encoding="utf-8")
    after = json.loads(run("learn", "--house", str(house), *files).stdout)
    assert mine["parameter"] not in [each["parameter"] for each in after["proposals"]]
    assert after["effects"] == before["effects"]
