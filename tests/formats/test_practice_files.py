"""``practice`` and ``drill_set``: read back as they were written, in the workspace too; what is none is refused."""

from __future__ import annotations

import json
import sqlite3

import pytest
from pydantic import ValidationError

from nabrel.core.errors import Refused
from nabrel.formats.loader import read
from nabrel.formats.practice import DrillSetFile, PracticeFile, check_practice, check_set
from nabrel.formats.workspace import read_workspace, write_workspace
from nabrel.store import backup
from nabrel.store.erasing import erase_from, of_student
from nabrel.store.practice import DrillSets, Students
from nabrel.store.workspace import gather, replace_all

KNOWN = {"judgement": "read-through", "due": "2026-11-09T10:00:00+00:00", "last": "2026-11-05T10:00:00+00:00", "state": 2,
         "stability": 4.0, "difficulty": 5.0, "answers": 2}  # fmt: skip
GIVEN = {"at": "2026-11-05T10:00:00+00:00", "exercise": "depth-1-1", "kind": "depth", "judgement": "read-through", "level": 2,
         "score": 0.8, "seconds": 21.0, "given": "darker by 6 L*"}  # fmt: skip
PRACTICE = {"nabrel": "practice", "version": 1, "id": "a" * 32, "student": "Pike", "cards": [KNOWN], "answers": [GIVEN]}
SET = {"nabrel": "drill_set", "version": 1, "id": "b" * 32, "title": "Evening", "code": "KQT3ST", "seed": 5,
       "parts": [{"kind": "wait", "level": 2, "count": 3, "judgement": None}]}  # fmt: skip


def practice_of(**changes):
    return check_practice(read(json.dumps({**PRACTICE, **changes}).encode(), PracticeFile, "practice"))


def set_of(**changes):
    return check_set(read(json.dumps({**SET, **changes}).encode(), DrillSetFile, "drill_set"))


def test_a_practice_and_a_set_are_read_as_they_are_written():
    for file, kind in ((practice_of(), PracticeFile), (set_of(), DrillSetFile)):
        assert read(file.model_dump_json().encode(), kind, file.nabrel) == file


@pytest.mark.parametrize(("changes", "field"), [
    ({"cards": [KNOWN, KNOWN]}, "cards"),
    ({"cards": [{**KNOWN, "due": "soon"}]}, "cards"),
    ({"cards": [{**KNOWN, "due": "2026-11-09T10:00:00"}]}, "cards"),
    ({"cards": [{**KNOWN, "stability": -1}]}, "cards[0].stability"),
    ({"answers": [{**GIVEN, "score": 1.2}]}, "answers[0].score"),
    ({"answers": [{**GIVEN, "given": "over\u202ethe line"}]}, "answers[0].given"),
    ({"answers": [{**GIVEN, "given": "two\nlines"}]}, "answers[0].given"),
    ({"answers": [{**GIVEN, "kind": "dance"}]}, "answers[0].kind"),
    ({"answers": [{**GIVEN, "at": "now"}]}, "answers"),
    ({"answers": [GIVEN, {**GIVEN, "at": "2026-11-04T10:00:00+00:00"}]}, "answers"),
    ({"student": ""}, "student"), ({"id": "me"}, "id"), ({"version": 2}, "version"), ({"more": 1}, "more"),
])  # fmt: skip
def test_what_is_no_practice_is_refused_with_its_field(changes, field):
    with pytest.raises(Refused) as refused:
        practice_of(**changes)
    assert refused.value.field == field


@pytest.mark.parametrize(("changes", "field"), [
    ({"code": "abc"}, "code"), ({"code": "KQ0IO1"}, "code"), ({"parts": []}, "parts"), ({"minutes": 0}, "minutes"),
    ({"parts": [{"kind": "wait", "judgement": "read-through"}]}, "parts[0].judgement"), ({"faces": ["x", "x"]}, "faces"),
    ({"parts": [{"kind": "wait", "count": 99}]}, "parts[0].count"), ({"title": ""}, "title"),
])  # fmt: skip
def test_what_is_no_set_is_refused_with_its_field(changes, field):
    with pytest.raises(Refused) as refused:
        set_of(**changes)
    assert refused.value.field == field


def test_students_and_sets_come_back_with_the_workspace(demo_database):
    with demo_database.session() as session:
        written = write_workspace(gather(session))
        practice = {each.name: Students(session).practice(each.key) for each in Students(session).all()}
        sets = DrillSets(session).all()
        assert len(practice) == 9
        replace_all(session, read_workspace(written))
        assert write_workspace(gather(session)) == written
        assert {each.name: Students(session).practice(each.key) for each in Students(session).all()} == practice
        assert DrillSets(session).all() == sets


@pytest.mark.parametrize(("old", "new", "field"), [
    ('"student": "Pike"', '"student": "Posy"', "practice: student"),
    ('"code": "KQT3ST"', '"code": "KQH4ND"', "drill_sets: code"),
    ('"sitter": "', '"sitter": "x', "sitter"),
])  # fmt: skip
def test_a_workspace_that_does_not_hold_together_is_refused(demo_database, old, new, field):
    import io
    import zipfile

    with demo_database.session() as session:
        written = write_workspace(gather(session))
    out, changed = io.BytesIO(), 0
    with zipfile.ZipFile(io.BytesIO(written)) as whole, zipfile.ZipFile(out, "w") as other:
        for name in whole.namelist():
            text = whole.read(name)
            if name.startswith(("practice/", "drill_sets/")) and old.encode() in text:
                text = text.replace(old.encode(), new.encode(), 1)
                changed += 1
            other.writestr(name, text)
    assert changed
    with pytest.raises(Refused) as refused:
        read_workspace(out.getvalue())
    assert field in refused.value.field


def test_a_student_is_erased_from_a_backup_that_is_older_than_practice(demo_database, tmp_path):
    file = backup.copy(demo_database.path, tmp_path / "old.sqlite")
    with sqlite3.connect(file) as old:
        for table in ("card", "answer", "student", "drill_set_face", "drill_set"):
            old.execute(f"DROP TABLE {table}")
    erase_from(file, of_student("a" * 32, "Ottoline"))
    assert b"Ottoline" not in file.read_bytes()


def test_what_is_kept_is_strict():
    with pytest.raises(ValidationError):
        PracticeFile(id="a" * 32, student="x" * 100)
