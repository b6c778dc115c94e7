"""Clocks that jump, backups that were tampered with, and a disk that is full: nothing is lost, and nothing gets in."""

from __future__ import annotations

import errno
import sqlite3
from contextlib import closing
from datetime import UTC, datetime, timedelta

import pytest

from nabrel import cli
from nabrel.store import backup, folder
from nabrel.store import database as module
from nabrel.store.accounts import Accounts
from nabrel.store.database import ERASING, RESERVE, Database, restore
from nabrel.store.erasing import of_sitter
from nabrel.store.folder import BACKUPS, FILE_NAME, NoRoom, Unusable
from nabrel.store.repositories import Sitters
from nabrel.web.app import create_app

NOW = datetime(2026, 12, 1, 9, 0, tzinfo=UTC)


def sitters_in(file) -> list[str]:
    with closing(sqlite3.connect(file)) as found:
        return [row[0] for row in found.execute("select id from sitter order by position")]


class TestClocks:
    def test_backups_of_a_time_to_come_cost_no_new_one_its_place(self, demo_database, monkeypatch, capsys):
        for day in range(9):
            backup.automatic(demo_database.path, "daily", NOW + timedelta(days=400 + day))
        monkeypatch.setenv("NABREL_DATA", str(demo_database.folder))
        made = backup.automatic(demo_database.path, "daily", NOW)
        assert made.is_file()
        assert backup.backups_in(demo_database.folder)[0] == made
        assert len(backup.backups_in(demo_database.folder)) == backup.BACKUPS_HELD
        assert cli.main(["backup"]) == 0
        named = capsys.readouterr().out.split("Backed up to ")[1].strip().rstrip(".")
        assert (demo_database.folder / BACKUPS / named.rsplit("/", 1)[-1]).is_file()

    def test_a_restore_keeps_what_stood_there_whatever_the_clock_said_before(self, demo_database, tmp_path):
        for day in range(7):
            backup.automatic(demo_database.path, "daily", NOW + timedelta(days=3000 + day))
        taken = backup.copy(demo_database.path, tmp_path / "taken.sqlite")
        demo_database.close()
        before = restore(taken, demo_database.folder)
        assert before is not None
        assert before.is_file()

    def test_daily_backups_go_on_after_the_clock_was_set_back_and_forward(self, demo_database):
        at = [
            NOW,
            NOW + timedelta(days=900),
            NOW + timedelta(hours=1),
            NOW + timedelta(hours=2),
            NOW + timedelta(days=2),
        ]
        due = []
        for moment in at:
            due.append(backup.due(demo_database.folder, moment))
            if due[-1]:
                backup.automatic(demo_database.path, "daily", moment)
        assert due == [True, True, True, False, True]

    def test_backups_that_older_nabrels_named_by_the_clock_go_first(self, demo_database):
        place = demo_database.folder / BACKUPS
        place.mkdir()
        old = place / "nabrel-20991231T000000Z-daily.sqlite"
        backup.copy(demo_database.path, old)
        made = [backup.automatic(demo_database.path, "daily", NOW + timedelta(days=day)) for day in range(7)]
        assert not old.exists()
        assert set(backup.backups_in(demo_database.folder)) == set(made)


GHOST = """
CREATE TRIGGER ghost AFTER DELETE ON account BEGIN
  INSERT INTO account VALUES ('ghost', 'Ghost', 'ghost', 'educator', 'x', '2026-01-01 00:00:00'); END;
CREATE TRIGGER undead AFTER DELETE ON sitter BEGIN
  INSERT INTO sitter SELECT OLD.id, OLD.nickname, OLD.position, OLD.sitter, OLD.intent, OLD.created_at, OLD.changed_at, OLD.version; END;
CREATE TABLE beside (x);
CREATE VIEW seen AS SELECT * FROM sitter;
"""


class TestTampered:
    @pytest.fixture
    def taken(self, demo_database, tmp_path):
        return backup.copy(demo_database.path, tmp_path / "taken.sqlite")

    def test_only_rows_come_back_from_a_backup(self, demo_database, taken):
        with closing(sqlite3.connect(taken)) as found:
            found.executescript(GHOST)
        with demo_database.session() as session:
            Accounts(session).add("Mira", "educator", "quiet lantern over the harbour")
        wanted = sitters_in(demo_database.path)
        demo_database.close()
        restore(taken, demo_database.folder)
        with closing(sqlite3.connect(demo_database.path)) as found:
            kinds = {row[0] for row in found.execute("select type from sqlite_master")}
            tables = {row[0] for row in found.execute("select name from sqlite_master where type = 'table'")}
            names = [row[0] for row in found.execute("select name from account")]
        assert kinds == {"table", "index"}
        assert "beside" not in tables
        assert names == ["Mira"]
        assert sitters_in(demo_database.path) == wanted
        again = Database(demo_database.folder)
        assert again.erase(of_sitter(wanted[0], "Wren"))
        assert sitters_in(demo_database.path) == wanted[1:]
        again.close()

    @pytest.mark.parametrize(
        "change",
        [
            "ALTER TABLE sitter RENAME TO kept; CREATE VIEW sitter AS SELECT * FROM kept;",
            "DROP TABLE class_student;",
            "ALTER TABLE tool RENAME COLUMN document TO paper;",
            "PRAGMA foreign_keys = OFF; UPDATE sequence SET sitter_id = 'nobody';",
        ],
    )
    def test_a_backup_with_other_tables_or_loose_rows_is_refused_and_what_was_there_stays(
        self, demo_database, taken, change
    ):
        with closing(sqlite3.connect(taken)) as found:
            found.executescript(change)
        demo_database.close()
        before = demo_database.path.read_bytes()
        with pytest.raises(Unusable):
            restore(taken, demo_database.folder)
        assert demo_database.path.read_bytes() == before
        assert sorted(file.name for file in demo_database.folder.glob("*.sqlite*")) == [FILE_NAME]
        assert backup.backups_in(demo_database.folder) == []

    def test_a_trigger_does_not_keep_somebody_who_is_erased_in_a_database_or_a_backup(self, demo_database):
        wanted = sitters_in(demo_database.path)
        stored = demo_database.back_up("daily")
        demo_database.close()
        for file in (demo_database.path, stored):
            with closing(sqlite3.connect(file)) as found:
                found.executescript(GHOST.split("CREATE TABLE", maxsplit=1)[0])
        again = Database(demo_database.folder)
        assert again.erase(of_sitter(wanted[0], "Wren"))
        again.close()
        assert sitters_in(demo_database.path) == sitters_in(stored) == wanted[1:]

    def test_a_restore_that_fails_on_its_way_leaves_what_was_there(self, demo_database, taken, monkeypatch):
        demo_database.close()
        before = demo_database.path.read_bytes()

        def full(*_: object) -> None:
            raise OSError(errno.ENOSPC, "No space left on device")

        monkeypatch.setattr(module, "put_in_place", full)
        with pytest.raises(NoRoom):
            restore(taken, demo_database.folder)
        assert sitters_in(demo_database.path) == sitters_in(taken)
        assert len(before) == len(demo_database.path.read_bytes())
        assert not list(demo_database.folder.glob("restoring*"))


class TestFullDisk:
    def test_erasing_is_answered_507_and_done_at_the_next_start(self, demo_database, monkeypatch):
        demo_database.back_up("daily")
        sitter = sitters_in(demo_database.path)[0]
        whole = folder.put_in_place

        def put(part, target):
            if (demo_database.folder / RESERVE).exists():
                raise OSError(errno.ENOSPC, "No space left on device")
            whole(part, target)

        def no_room(*_: object) -> None:
            raise NoRoom("There is no room left on the disk.", "Free some.")

        with monkeypatch.context() as patch:
            patch.setattr(folder, "put_in_place", put)
            patch.setattr(module, "erase_from", no_room)
            answer = create_app(demo_database).test_client().delete(f"/api/sitters/{sitter}")
        assert answer.status_code == 507, answer.json
        assert "free some, then start Nabrel again" in answer.json["says"]
        assert sitter in (demo_database.folder / ERASING).read_text(encoding="utf-8")
        demo_database.close()
        again = Database(demo_database.folder)
        assert not (again.folder / ERASING).exists()
        assert (again.folder / RESERVE).stat().st_size > 0
        again.close()
        [stored] = backup.backups_in(again.folder)
        assert sitter not in sitters_in(again.path) + sitters_in(stored)

    def test_an_export_is_answered_507_with_what_to_do(self, demo_database, monkeypatch):
        from nabrel.web.home import workspace

        def full(*_: object) -> None:
            raise OSError(errno.ENOSPC, "No space left on device")

        monkeypatch.setattr(workspace, "write_workspace_to", full)
        answer = create_app(demo_database).test_client().get("/api/workspace")
        assert answer.status_code == 507
        assert "Free some, then try again." in answer.json["says"]


def test_a_journal_that_power_loss_left_beside_a_backup_does_not_stop_an_erasing(demo_database):
    """The journal belongs to its backup, and is no backup; one whose backup is gone holds what was in it, and goes."""
    with demo_database.session() as session:
        [wren, *_] = [each.id for each in Sitters(session).all() if each.sitter.nickname == "Wren"]
    stored = demo_database.back_up("daily")
    beside = stored.with_name(stored.name + "-journal")
    orphan = stored.with_name("nabrel-n000000-20260101T000000Z-daily.sqlite-journal")
    for file in (beside, orphan):
        file.write_bytes(b"\0" * 512 + b"Wren")
    assert demo_database.erase(of_sitter(wren, "Wren"))
    assert not (demo_database.folder / ERASING).exists()
    assert [file.name for file in stored.parent.iterdir()] == [stored.name]


def test_what_is_rewritten_beside_a_journal_is_synced_with_the_journals_removal(demo_database):
    with backup.rewritten(demo_database.back_up("daily")) as opened:
        assert opened.execute("PRAGMA synchronous").fetchone() == (3,)
        assert opened.execute("PRAGMA journal_mode").fetchone() == ("delete",)
