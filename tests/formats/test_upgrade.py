"""What the first version wrote is read by this one: files, zips and whole databases, with their history."""

from __future__ import annotations

import json
import sqlite3
from pathlib import Path

import numpy as np
import pytest

from nabrel.core.errors import Refused
from nabrel.core.house import PARAMETERS, House
from nabrel.core.house.tables import SHOWS_ON_DEEP
from nabrel.core.judge.evaluate import evaluate
from nabrel.core.terms.zones import SKIN_ZONES, ZONE_INDEX
from nabrel.formats.checks import house_of
from nabrel.formats.files import DecidedParameter, HouseFile, SequenceFile
from nabrel.formats.loader import read_case, read_sequence
from nabrel.formats.upgrade.house import RETIRED_PARAMETERS
from nabrel.formats.workspace import read_workspace
from nabrel.store.database import FILE_NAME, Database
from nabrel.store.repositories import Sequences, Sitters
from nabrel.store.workspace import gather

FIRST = Path(__file__).parents[1] / "data" / "version_1"
EXPECTED = json.loads((FIRST / "evaluations.json").read_text(encoding="utf-8"))


@pytest.mark.parametrize("name", sorted(EXPECTED))
def test_a_file_of_the_first_version_is_judged_as_it_was(name):
    """With the optics of its time, all but two things: a spot covered was counted as film on its whole zone, and is now on
    its patch; darkness showed less on deeper skin, and now shows as it is graded by eye.
    """
    sequence = read_sequence((FIRST / name).read_bytes())
    house = House(scatter_exponent=0.0, pearl_scatter_exponent=0.0)
    stored, now = EXPECTED[name], evaluate(sequence, house, try_fixes=False)
    dark = {zone for zone, here in now.reading.zones.items() if set(here.conditions) & set(SHOWS_ON_DEEP)}
    # Brows and lashes became places of their own since.
    then = SKIN_ZONES
    as_then = [ZONE_INDEX[zone] for zone in then if zone not in dark]
    assert len(as_then) > 20
    assert [[step.id, step.kind, step.item] for step in sequence.steps] == [row[:3] for row in stored["steps"]]
    assert [done.start for done in now.course.done] == pytest.approx([row[4] for row in stored["steps"]], abs=0.1)
    assert np.abs(np.array(stored["lab"]) - now.appearance.lab[-1][: len(then)])[as_then].max() < 0.05
    spots = {zone for step in sequence.steps if step.kind == "spot_conceal" for zone in step.zones}
    loads = [
        (was, row) for was, row in zip(stored["load"], now.forecast[: len(then)], strict=True) if row.zone not in spots
    ]
    assert len(loads) > 20
    assert [row.load_um for _, row in loads] == pytest.approx([was for was, _ in loads], abs=0.01)
    assert [row.shine_hours for row in now.forecast[: len(then)]] == pytest.approx(stored["shine"], abs=0.01)
    told = sorted(f"{f.rule} {f.severity} {','.join(f.steps)} {','.join(f.zones)}" for f in now.findings)
    # Setting follows the forecast since, and not lines alone.
    assert [each for each in told if "what-creases-is-set" not in each] == stored["findings"]


@pytest.mark.parametrize("name", sorted(EXPECTED))
def test_what_is_upgraded_is_written_in_this_version_and_stays_as_it_is(name):
    sequence = read_sequence((FIRST / name).read_bytes())
    text = SequenceFile.of(sequence).model_dump_json(exclude_none=True)
    assert json.loads(text)["version"] == 2
    assert read_sequence(text.encode()) == sequence


def test_a_workspace_of_the_first_version_is_read_with_every_revision():
    workspace = read_workspace((FIRST / "workspace.zip").read_bytes())
    plans = [plan for person in workspace.people for plan in person.plans]
    assert len(plans) == 2
    assert any(len(plan.sequences) > 1 for plan in plans)
    assert all(step.portions for plan in plans for sequence in plan.sequences for step in sequence.steps)


def test_a_decision_about_a_number_that_nothing_reads_any_more_is_left_aside():
    stored = {name: DecidedParameter(0.003, "less") for name in RETIRED_PARAMETERS}
    file = HouseFile(nabrel="house", version=1, parameters={**stored, "press_mg": DecidedParameter(0.12, "")})
    assert RETIRED_PARAMETERS
    assert not RETIRED_PARAMETERS & set(PARAMETERS)
    assert house_of(file) == House().deciding({"press_mg": 0.12})


def test_a_newer_file_is_refused_as_such():
    document = json.loads((FIRST / sorted(EXPECTED)[0]).read_text(encoding="utf-8"))
    document["version"] = 3
    with pytest.raises(Refused, match="newer Nabrel") as refused:
        read_sequence(json.dumps(document).encode())
    assert refused.value.field == "version"


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"zones": ["nose"]}, "steps[0].portions[0].zones[0]"),
        ({"product": 3}, "steps[0]"),
        ({"powder_mg_cm2": -1.0}, "steps[0].portions[0].amount"),
        ({"film_um": 2.0, "powder_mg_cm2": 0.1}, "steps[0]"),
        ({"tools": []}, "steps[0].tools"),
    ],
)
def test_a_wrong_field_of_an_old_file_is_refused_and_named(change, field):
    document = json.loads((FIRST / sorted(EXPECTED)[0]).read_text(encoding="utf-8"))
    document["steps"][0].update(change)
    with pytest.raises(Refused) as refused:
        read_sequence(json.dumps(document).encode())
    assert refused.value.field.startswith(field)


def test_a_database_of_the_first_version_opens_with_its_undo(tmp_path):
    connection = sqlite3.connect(tmp_path / FILE_NAME)
    connection.executescript((FIRST / "database.sql").read_text(encoding="utf-8"))
    before = dict(connection.execute("select sequence_id, count(*) from revision group by 1"))
    heads = dict(connection.execute("select id, head from sequence"))
    parents = {
        (plan, number): parent
        for plan, number, parent in connection.execute("select sequence_id, number, parent from revision")
    }
    connection.close()
    database = Database(tmp_path)
    with database.session() as session:
        plans = [plan for sitter in Sitters(session).all() for plan in sitter.sequence_ids]
        assert len(plans) == len(before) == 2
        for plan in plans:
            sequences = Sequences(session)
            assert len(sequences.versions(plan)) == before[plan]
            assert sequences.get(plan).revision == heads[plan]
            at = heads[plan]
            while parents[plan, at] is not None:
                sequences.undo(plan)
                at = parents[plan, at]
                assert sequences.get(plan).revision == at
            assert at == 1 < heads[plan]
            assert sequences.get(plan).redo_says is not None
            assert sequences.get(plan).sequence.case.kit
        assert gather(session).people
    database.close()


def test_brows_and_lashes_are_places_of_their_own():
    case = {"nabrel": "case", "version": 1, "sitter": {"nickname": "A", "skin": {"lab": [62, 11, 17]},
            "zones": {"brow_l": {"conditions": {"oily": 1}}}}, "intent": {"effects": {"nose": "narrower"}}}  # fmt: skip
    read = read_case(json.dumps(case).encode())
    assert read.sitter.zones["brow_l"].conditions == {"oily": 1}
    assert read.intent.effects == {"nose": ("narrower",)}
    step = {"id": "s1", "kind": "brows", "mix": [], "unit": None, "wait_s": 0, "why": ["Brows."],
            "portions": [{"zones": ["brow_l", "brow_bone_l", "lash_r"], "amount": None, "active_s": 60}]}  # fmt: skip
    plan = {"nabrel": "sequence", "version": 2, "school": "overpainted", "case": case, "steps": [step]}
    assert read_sequence(json.dumps(plan).encode()).steps[0].zones == ("brow_bone_l", "brow_l", "lash_r")


@pytest.mark.parametrize(
    ("effects", "field"), [({"nose": ["fuller"]}, "effects.nose"), ({"ears": ["lower"]}, "effects")]
)
def test_an_effect_that_a_region_does_not_have_is_refused_by_field(effects, field):
    case = {"nabrel": "case", "version": 1, "sitter": {"nickname": "A", "skin": {"lab": [62, 11, 17]}},
            "intent": {"effects": effects}}  # fmt: skip
    with pytest.raises(Refused, match=field):
        read_case(json.dumps(case).encode())
