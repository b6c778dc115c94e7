"""Files: round trips, schemas, and every kind of bad input refused by field."""

from __future__ import annotations

import json
from pathlib import Path

import jsonschema
import pytest
from hypothesis import given, settings

from nabrel.core.ask.recommend import plan
from nabrel.core.errors import Refused
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate
from nabrel.demo.export import examples
from nabrel.formats.answers import appearance_to
from nabrel.formats.files import CaseFile, FindingsFile, SequenceFile
from nabrel.formats.loader import MOST_BYTES, read_case, read_sequence
from nabrel.formats.schemas_build import KINDS, SCHEMAS, schema_text, whole
from tests.core.cases import cases

HOUSE = House()
EXAMPLES = Path(__file__).parents[2] / "examples"


@settings(max_examples=25, deadline=None)
@given(cases)
def test_a_case_comes_back_the_same(case):
    text = CaseFile.of(case).model_dump_json(exclude_none=True)
    assert read_case(text.encode()) == case


@settings(max_examples=15, deadline=None)
@given(cases)
def test_a_sequence_comes_back_the_same(case):
    sequence = plan(case, HOUSE)
    text = SequenceFile.of(sequence).model_dump_json(exclude_none=True)
    assert read_sequence(text.encode()) == sequence


def test_a_schema_does_not_follow_which_spelling_of_a_bound_came_first():
    assert json.dumps(whole({"least": 1.0, "list": [0.0, 0.5, True, "1.0", None]})) == json.dumps(
        {"least": 1, "list": [0, 0.5, True, "1.0", None]}
    )


@pytest.mark.parametrize("kind", KINDS)
def test_shipped_schemas_are_those_of_the_models(kind):
    assert (SCHEMAS / f"{kind}.schema.json").read_text(encoding="utf-8") == schema_text(kind)


@pytest.mark.parametrize("name", sorted(examples()))
def test_examples_are_current_and_fit_their_schema(name):
    text = (EXAMPLES / name).read_text(encoding="utf-8")
    assert text == examples()[name]
    kind = name.split(".")[1]
    jsonschema.validate(json.loads(text), json.loads(schema_text(kind)))


def test_findings_and_appearance_fit_their_schemas(people):
    evaluation = evaluate(plan(people["Bram"], HOUSE), HOUSE)
    for kind, model in (
        ("findings", FindingsFile(findings=evaluation.findings)),
        ("appearance", appearance_to(evaluation)),
    ):
        document = model.model_dump(mode="json", exclude_none=True)
        jsonschema.validate(document, json.loads(schema_text(kind)))


def test_the_published_example_is_read():
    text = """{"nabrel": "case", "version": 1, "sitter": {"nickname": "Ottoline", "skin": {"lab": [62, 11, 17]},
    "neck": {"lab": [64, 9, 16]}, "preset": "combination", "zones": {"under_eye_l": {"conditions":
    {"dark_circle_blue": 2, "fine_lines": 1}, "lab": [54, 7, 9]}}, "measures": {"face_length_mm": 182,
    "cheekbone_width_mm": 138, "jaw_width_mm": 112, "forehead_fingers": 3}, "avoid": ["fragrance"]},
    "intent": {"school": "underpainted", "cover": "medium", "finish": "satin", "wear_hours": 8,
    "lights": ["daylight"], "setting": "spot", "order": "light_first", "blend": "one_at_a_time",
    "features": ["brows", "eyes", "lips"]}, "kit": [{"id": "fdn-4", "role": "foundation", "name": "Thin satin 4",
    "texture": "liquid", "base": "water", "finish": "satin", "lab": [63, 11, 19], "cover": 0.45, "ml": 30,
    "price": 24.0, "dose_ml": 0.25}]}"""
    case = read_case(text.encode())
    assert case.sitter.zones["under_eye_l"].lab == (54, 7, 9)
    assert plan(case, HOUSE).steps


def broken(path: list, value: object, *, drop: bool = False) -> bytes:
    """The first example with one thing wrong."""
    document = json.loads(examples()["wren.case.json"])
    place = document
    for key in path[:-1]:
        place = place[key]
    if drop:
        del place[path[-1]]
    else:
        place[path[-1]] = value
    return json.dumps(document).encode()


@pytest.mark.parametrize(
    ("path", "value", "field", "allowed"),
    [
        (["nabrel"], "sequence", "nabrel", "one of 'case'"),
        (["version"], 2, "version", "newer Nabrel"),
        (["sitter", "skin", "lab"], [162, 1, 1], "sitter.skin.lab[0]", "100 or less"),
        (["sitter", "skin", "lab"], [62, 11], "sitter.skin.lab[2]", "needed"),
        (["sitter", "skin", "lab"], [50, 120, -100], "sitter.skin.lab", "real surface"),
        (["sitter", "skin", "lab"], ["62", 11, 17], "sitter.skin.lab[0]", "number"),
        (["sitter", "preset"], "spotty", "sitter.preset", "one of 'normal'"),
        (["sitter", "zones", "nose"], {}, "sitter.zones.nose", "one of 'forehead_centre'"),
        (["sitter", "zones", "chin"], {"conditions": {"oily": 4}}, "sitter.zones.chin.conditions.oily", "3 or less"),
        (["sitter", "zones", "chin"], {"conditions": {"oly": 1}}, "sitter.zones.chin.conditions.oly", "nearest: oily"),
        (["sitter", "nickname"], "", "sitter.nickname", "at least 1 character"),
        (["sitter", "colour"], "blue", "sitter.colour", "no field of this name"),
        (["intent", "wear_hours"], 0, "intent.wear_hours", "more than 0"),
        (["intent", "wear_hours"], True, "intent.wear_hours", "number"),
        (["intent", "lights"], [], "intent.lights", "at least 1 item"),
        (["kit", 9, "cover"], 1, "kit[9].cover", "0.995 or less"),
        (["kit", 9, "base"], "milk", "kit[9].base", "one of 'water'"),
        (["kit", 9, "id"], "cle-1", "kit[9].id", "no other kit item"),
        (["kit", 20, "lab"], None, "kit[20].lab", "is seen"),
        (["kit"], {}, "kit", "array"),
    ],
)
def test_bad_values_are_refused_by_field(path, value, field, allowed):
    with pytest.raises(Refused) as refused:
        read_case(broken(path, value))
    assert refused.value.field == field
    assert allowed in refused.value.allowed


def test_a_missing_field_is_named():
    with pytest.raises(Refused, match=r"sitter\.skin: found 'nothing'"):
        read_case(broken(["sitter", "skin"], None, drop=True))


@pytest.mark.parametrize(
    ("data", "said"),
    [
        (b"", "nothing"),
        (b"   \n", "nothing"),
        (b"not json", "not JSON"),
        (b"[" * 200_000, "at most 64 levels"),
        (b'{"nabrel": "case", "version": 1, "sitter": {"nickname": "A", "skin": {"lab": [NaN, 1, 2]}}}', "not JSON"),
        (b"PK\x03\x04" + b"\0" * 100, "compressed"),
        (b"\x1f\x8b" + b"\0" * 100, "compressed"),
        (b"\xff\xfe\x00bad", "JSON"),
        (b"[]", "object"),
        (b"null", "object"),
        (b" " * (MOST_BYTES + 1), "at most"),
        ('{"nabrel": "case", "nickname": "\ud800"}'.encode("utf-8", "surrogatepass"), "JSON"),
    ],
)
def test_hostile_bytes_are_refused_in_one_line(data, said):
    with pytest.raises(Refused) as refused:
        read_case(data)
    assert said in str(refused.value)
    assert "\n" not in str(refused.value)


@pytest.mark.parametrize(
    ("change", "field"),
    [
        (lambda d: d["steps"][0].update(id=d["steps"][1]["id"]), "steps[1].id"),
        (lambda d: d["steps"][0].update(mix=[{"item": "nothing", "share": 1.0}]), "steps[0].mix[0].item"),
        (lambda d: d["steps"][8].update(mix=[{"item": "shade-3", "share": 0.7}]), "steps[8].mix"),
        (lambda d: d["steps"][8].update(mix=[]), "steps[8].mix"),
        (lambda d: d["steps"][8]["portions"][0].update(amount=-2), "steps[8].portions[0].amount"),
        (lambda d: d["steps"][8].update(portions=2 * d["steps"][8]["portions"][:1]), "steps[8].portions[1].zones"),
        (lambda d: d["steps"][8]["portions"][0].update(patch=0), "steps[8].portions[0].patch"),
        (lambda d: d.update(version=3), "version"),
        (lambda d: d["steps"][0].update(kind="bathe"), "steps[0].kind"),
        (lambda d: d["steps"][0]["portions"][0].update(motion="wipe"), "steps[0].portions[0].motion"),
        (lambda d: d["case"]["sitter"].pop("skin"), "case.sitter.skin"),
        (lambda d: d.update(school="own"), "school"),
        (lambda d: d.update(steps="many"), "steps"),
    ],
)
def test_bad_sequences_are_refused_by_field(change, field):
    document = json.loads(examples()["wren.sequence.json"])
    change(document)
    with pytest.raises(Refused) as refused:
        read_sequence(json.dumps(document).encode())
    assert refused.value.field == field


def test_models_of_files_are_closed():
    assert CaseFile.model_config["extra"] == "forbid"
    assert SequenceFile.model_config["strict"] is True
