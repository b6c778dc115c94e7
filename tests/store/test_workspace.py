"""The whole workspace out and back without loss; a crash in the middle; a file of the first version."""

from __future__ import annotations

import io
import os
import re
import signal
import sqlite3
import subprocess
import sys
import zipfile
from dataclasses import replace
from datetime import date
from pathlib import Path

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from sqlalchemy import text

from nabrel.core.ask.recommend import plan
from nabrel.core.case.sitter import Colour, Sitter
from nabrel.core.case.tool import OwnedTool
from nabrel.core.errors import Refused
from nabrel.core.face.measuring import SkinReading
from nabrel.core.house import House
from nabrel.core.shelf.tools import NamedKit
from nabrel.core.terms.limits import UNSEEN
from nabrel.demo.fill import fill
from nabrel.demo.kit import kit
from nabrel.formats.files import DecidedParameter, DecidedRule
from nabrel.formats.workspace import read_workspace, write_workspace
from nabrel.store.database import FILE_NAME, Database
from nabrel.store.erasing import of_sitter
from nabrel.store.house_rules import HouseRules
from nabrel.store.repositories import Kit, Sequences, Sitters
from nabrel.store.run import Runs
from nabrel.store.shelf import NamedKits, Tools, merge_items, take_off
from nabrel.store.skin_readings import SkinReadings
from nabrel.store.versions import Missing, Stale
from nabrel.store.workspace import gather, gather_one, replace_all, take_in_people
from tests.core.cases import cases
from tests.formats.test_readings_files import colours, probes

HOUSE = House()
DATA = Path(__file__).parent.parent / "data"
DAY = date(2026, 5, 1)


def held(database):
    with database.session() as session:
        return gather(session)


words = st.text(st.characters(exclude_categories=["Cs", "Cc"]), min_size=1, max_size=40).filter(
    lambda t: t.strip() == t and re.search(f"[^{UNSEEN}]", t) is not None
)


@settings(
    max_examples=12, suppress_health_check=[HealthCheck.function_scoped_fixture, HealthCheck.too_slow], deadline=None
)
@given(
    st.lists(cases, min_size=1, max_size=2),
    st.lists(st.one_of(colours, probes), max_size=4, unique=True),
    words,
    st.booleans(),
)
def test_a_workspace_goes_out_and_comes_back_without_loss(tmp_path_factory, people, readings, name, edited):
    one, other = Database(tmp_path_factory.mktemp("one")), Database(tmp_path_factory.mktemp("other"))
    with one.session() as session:
        Kit(session).take_in(kit()[:12])
        Kit(session).put(replace(kit()[0], name=name, left=0.123456789, opened_on=DAY, keeps_months=6))
        NamedKits(session).put(NamedKit(id="k", name=name, items=(kit()[0].id,)))
        Tools(session).put(OwnedTool("t", "puff", name, "used", DAY, DAY))
        HouseRules(session).decide_parameter("bake_s", DecidedParameter(value=601.25, note=name))
        HouseRules(session).decide_rule("thin-passes", DecidedRule(off=True, note=name))
        for case in people:
            sitter_id = Sitters(session).add(replace(case.sitter, about=name, consent_on=DAY), case.intent)
            SkinReadings(session).add(sitter_id, readings)
            sequences = Sequences(session)
            plan_id = sequences.add(sitter_id, plan(case, HOUSE))
            if edited:
                current = sequences.get(plan_id).sequence
                sequences.save(plan_id, 1, replace(current, title="two"), name[:300])
                sequences.undo(plan_id)
                Runs(session).record(plan_id, DAY, HOUSE)
    out = write_workspace(held(one))
    with other.session() as session:
        replace_all(session, read_workspace(out))
    assert held(other) == held(one)
    assert write_workspace(held(other)) == out
    one.close()
    other.close()


def test_one_sitter_goes_out_whole_and_comes_into_another_workspace(demo_database, database):
    with demo_database.session() as session:
        wren = Sitters(session).all()[0]
        alone = gather_one(session, wren.id)
    assert len(alone.people) == 1
    assert len(alone.people[0].readings) == 4
    again = read_workspace(write_workspace(alone))
    with database.session() as session:
        take_in_people(session, again.people)
    with database.session() as session:
        assert Sitters(session).get(wren.id).sitter == wren.sitter
        assert Sequences(session).get(wren.sequence_ids[0]).undo_says is None


def zipped(files: dict[str, bytes]) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as folder:
        for name, data in files.items():
            folder.writestr(name, data)
    return out.getvalue()


@pytest.fixture(scope="module")
def whole(filled_file, tmp_path_factory) -> dict[str, bytes]:
    """The files of the demo workspace's zip, with one sitter."""
    folder = tmp_path_factory.mktemp("whole")
    (folder / FILE_NAME).write_bytes(filled_file.read_bytes())
    database = Database(folder)
    with database.session() as session:
        data = write_workspace(gather_one(session, Sitters(session).all()[0].id))
    database.close()
    with zipfile.ZipFile(io.BytesIO(data)) as opened:
        return {name: opened.read(name) for name in opened.namelist()}


@pytest.mark.parametrize(
    ("part", "old", "new", "said"),
    [
        ("workspace.json", b'"workspace"', b'"case"', "workspace.json: nabrel"),
        ("house.json", b'"rules": {}', b'"rules": {"no-such-rule": {"off": true}}', "no-such-rule"),
        ("kit.csv", b"foundation", b"foundatoin", "kit.csv, line"),
        ("case.json", b'"nickname"', b'"full_name"', "case.json: sitter"),
        ("readings.csv", b"face", b"fase", "readings.csv, line"),
        ("plan.json", b'"head": 1', b'"head": 9', "head"),
        ("sequence.json", b'"school"', b'"scool"', "sequence.json"),
        ("runs.json", b'"runs": []', b'"runs": [{"plan": "p", "revision": 1, "day": "2026-01-01"}]', "runs.json"),
    ],
)
def test_whatever_is_wrong_in_a_zip_is_named_by_file_and_field(whole, part, old, new, said):
    name = next(each for each in whole if each.endswith(part))
    assert old in whole[name]
    with pytest.raises(Refused, match=said):
        read_workspace(zipped({**whole, name: whole[name].replace(old, new, 1)}))


def test_a_missing_file_is_named(whole):
    for name in whole:
        if name.endswith(("plan.json", "wears.json")):
            continue  # a folder without one holds no plan; and workspaces from before there were wear records have none
        with pytest.raises(Refused, match=r"in the zip"):
            read_workspace(zipped({each: data for each, data in whole.items() if each != name}))


@pytest.mark.parametrize("data", [b"", b"PK\x03\x04junk", b"{}", os.urandom(300)])
def test_what_is_no_zip_is_refused(data):
    with pytest.raises(Refused, match="zip"):
        read_workspace(data)


def test_a_damaged_zip_is_refused(whole):
    data = bytearray(zipped(whole))
    data[400:480] = bytes(80)
    with pytest.raises(Refused):
        read_workspace(bytes(data))


def test_a_zip_that_unpacks_to_too_much_is_refused(monkeypatch, whole):
    monkeypatch.setattr("nabrel.formats.workspace.MOST_UNPACKED_BYTES", 1000)
    with pytest.raises(Refused, match="unpacked"):
        read_workspace(zipped(whole))


def test_a_workspace_that_is_refused_changes_nothing(demo_database, whole):
    before = held(demo_database)
    wrong = read_workspace(zipped(whole))
    wrong.kits.append(NamedKit(id="k", name="Wrong", items=("no-such-item",)))
    with pytest.raises(Refused, match="on the shelf"), demo_database.session() as session:
        replace_all(session, wrong)
    assert held(demo_database) == before


KILLED = """
import os, signal, sys
from pathlib import Path
from nabrel.formats.files import DecidedParameter, DecidedRule
from nabrel.formats.workspace import read_workspace
from nabrel.store import workspace
from nabrel.store.database import Database

folder, data = Path(sys.argv[1]), Path(sys.argv[2]).read_bytes()
taken = workspace._take_in_plan
count = 0

def dies(session, sitter_id, kept):
    global count
    taken(session, sitter_id, kept)
    count += 1
    if count == 3:
        os.kill(os.getpid(), signal.SIGKILL)

workspace._take_in_plan = dies
database = Database(folder)
with database.session() as session:
    workspace.replace_all(session, read_workspace(data))
"""


def test_a_process_killed_in_the_middle_of_an_import_leaves_the_state_before_it(demo_database, tmp_path, database):
    with database.session() as session:
        Kit(session).take_in(kit()[:3])
        sitter_id = Sitters(session).add(Sitter(nickname="Before", skin=Colour((62, 11, 17))), plan_intent())
    before = held(database)
    database.close()
    data = tmp_path / "workspace.zip"
    data.write_bytes(write_workspace(held(demo_database)))
    died = subprocess.run([sys.executable, "-c", KILLED, str(database.path.parent), str(data)], check=False)
    assert died.returncode == -signal.SIGKILL
    again = Database(database.path.parent)
    assert held(again) == before
    with again.session() as session:
        assert Sitters(session).get(sitter_id).sitter.nickname == "Before"
        assert session.execute(text("pragma integrity_check")).scalar() == "ok"
    again.close()


def plan_intent():
    from nabrel.core.case.intent import Intent

    return Intent()


def test_a_file_of_the_first_version_opens_with_its_data(tmp_path):
    file = tmp_path / FILE_NAME
    connection = sqlite3.connect(file)
    connection.executescript((DATA / "first_slice.sql").read_text(encoding="utf-8"))
    assert connection.execute("select version_num from alembic_version").fetchone() == ("0001",)
    connection.close()
    database = Database(tmp_path)
    with database.session() as session:
        stored = Sitters(session).all()
        assert [each.sitter.nickname for each in stored] == ["Wren", "Tamsin"]
        assert len(Kit(session).all()) == 25
        current = Sequences(session).get(stored[0].sequence_ids[0])
        assert current.revision == 1
        assert len(current.sequence.steps) > 10
        Sitters(session).change(stored[0].id, 1, stored[0].sitter, stored[0].intent)
        SkinReadings(session).add(stored[0].id, [SkinReading(DAY, "face", "colour", (60, 11, 17))])
        Sequences(session).save(current.id, 1, replace(current.sequence, title="on"), "goes on")
    with database.session() as session:
        assert session.execute(text("pragma foreign_key_check")).all() == []
    database.close()


# Readings, tools, kits and runs


def test_the_newest_reading_of_a_place_becomes_the_record(demo_database):
    with demo_database.session() as session:
        wren = Sitters(session).all()[0]
        readings = SkinReadings(session)
        readings.add(wren.id, [SkinReading(date(2090, 1, 1), "face", "colour", (60.0, 11.0, 17.0))])
        readings.add(wren.id, [SkinReading(date(2001, 1, 1), "neck", "colour", (50.0, 11.0, 17.0))])
        readings.add(wren.id, [SkinReading(date(2090, 1, 1), "chin", "oil", value=400.0)])
        readings.add(wren.id, [SkinReading(date(2090, 1, 1), "under_eye_l", "moisture", value=20.0)])
        readings.let_newest_count(wren.id, HOUSE)
        now = Sitters(session).get(wren.id).sitter
        assert now.skin.lab == (60.0, 11.0, 17.0)
        assert now.neck == wren.sitter.neck
        assert now.zones["chin"].conditions["oily"] == 3
        assert now.zones["chin"].conditions["dry"] == 0
        assert now.zones["under_eye_l"].conditions["dehydrated"] == 3


def test_the_same_reading_is_kept_once_and_taken_out_by_its_own_sitter_only(demo_database):
    with demo_database.session() as session:
        wren, tamsin = Sitters(session).all()[:2]
        readings = SkinReadings(session)
        one = SkinReading(DAY, "chest", "colour", (60.0, 11.0, 17.0))
        assert readings.add(wren.id, [one, one]) == 1
        assert readings.add(wren.id, [one]) == 0
        number = next(number for number, each in readings.of(wren.id) if each == one)
        with pytest.raises(Missing):
            readings.remove(tamsin.id, number)
        readings.remove(wren.id, number)
        assert one not in [each for _, each in readings.of(wren.id)]


def test_a_record_is_changed_on_the_version_that_stands(demo_database):
    with demo_database.session() as session:
        wren = Sitters(session).all()[0]
        Sitters(session).change(wren.id, wren.version, replace(wren.sitter, about="new"), wren.intent)
    with demo_database.session() as session, pytest.raises(Stale):
        Sitters(session).change(wren.id, wren.version, wren.sitter, wren.intent)


def test_a_workspace_from_before_there_were_wear_records_has_none(whole):
    older = {name: data for name, data in whole.items() if not name.endswith("wears.json")}
    assert len(older) < len(whole)
    found = read_workspace(zipped(older))
    assert [person.wears for person in found.people] == [[] for _ in found.people]


def test_erasing_a_sitter_takes_readings_and_runs_along(demo_database):
    with demo_database.session() as session:
        wren = Sitters(session).all()[0]
        Runs(session).record(wren.sequence_ids[0], DAY, HOUSE)
        count = "select count(*) from run"
        assert session.execute(text(count)).scalar() == 1
    assert demo_database.erase(of_sitter(wren.id, "Wren"))
    with demo_database.session() as session:
        assert session.execute(text("select count(*) from run")).scalar() == 0
        assert session.execute(text(f"select count(*) from reading where sitter_id = '{wren.id}'")).scalar() == 0


def test_a_run_takes_from_the_packs_and_uses_the_tools(demo_database):
    with demo_database.session() as session:
        wren = Sitters(session).all()[0]
        before = {item.id: item.left for item in Kit(session).all()}
        run = Runs(session).record(wren.sequence_ids[0], DAY, HOUSE, sitters=3)
        after = {item.id: item.left for item in Kit(session).all()}
        assert run.taken
        for item in run.taken:
            assert after[item] < (1.0 if before[item] is None else before[item])
        steps = Sequences(session).get(wren.sequence_ids[0]).sequence.steps
        kinds = {tool for step in steps for tool in step.tools}
        assert all(tool.state == "used" for tool in Tools(session).all() if tool.kind in kinds - {"disposable_wand"})
        assert [each.day for each in Runs(session).of(wren.sequence_ids)] == [DAY.isoformat()]


def test_a_merged_item_takes_the_place_of_both_in_named_kits(demo_database):
    with demo_database.session() as session:
        first, second = (item for item in kit() if item.role == "cleanser" or item.id == "moi-gel")
        twin = replace(first, id="cle-twin", price=7.0)
        Kit(session).put(twin)
        NamedKits(session).put(NamedKit(id="k", name="K", items=(second.id, "cle-twin")))
        merge_items(session, first.id, "cle-twin")
        assert NamedKits(session).get("k").items == (second.id, first.id)
        assert "cle-twin" not in {item.id for item in Kit(session).all()}
        take_off(session, second.id)
        assert NamedKits(session).get("k").items == (first.id,)


def test_named_kits_hold_only_what_is_owned_under_names_of_their_own(demo_database):
    with demo_database.session() as session:
        with pytest.raises(Refused, match="on the shelf"):
            NamedKits(session).put(NamedKit(id="k", name="K", items=("nothing",)))
        with pytest.raises(Refused, match="no other kit"):
            NamedKits(session).put(NamedKit(id="k", name="students' kit"))
        with pytest.raises(Missing):
            NamedKits(session).remove("k")


def test_tools_are_kept_and_taken_out(demo_database):
    with demo_database.session() as session:
        Tools(session).remove("puff-a")
        with pytest.raises(Missing):
            Tools(session).remove("puff-a")


def test_the_demo_is_filled_from_any_day(tmp_path):
    database = Database(tmp_path)
    fill(database, date(2030, 2, 28))
    with database.session() as session:
        assert len(Tools(session).all()) == 10
        assert all(each.sitter.consent_on == date(2029, 6, 23) for each in Sitters(session).all())
    database.close()
