"""Backups are whole, verified and few; what is kept is found damaged, newer or locked before anything is lost."""

from __future__ import annotations

import shutil
import sqlite3
import stat
from contextlib import closing
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest

from nabrel import cli
from nabrel.core.errors import Refused
from nabrel.store import backup
from nabrel.store.database import Database, restore
from nabrel.store.erasing import of_sitter
from nabrel.store.folder import BACKUPS, FILE_NAME, LOCK, NoRoom, Unusable, held, reason
from nabrel.store.repositories import Sitters
from nabrel.web.app import create_app

START = datetime(2026, 11, 1, 9, 0, tzinfo=UTC)


def nicknames(database: Database) -> list[str]:
    with database.session() as session:
        return [stored.sitter.nickname for stored in Sitters(session).all()]


@pytest.fixture
def folder(demo_database, monkeypatch) -> Path:
    monkeypatch.setenv("NABREL_DATA", str(demo_database.folder))
    return demo_database.folder


def test_a_backup_is_a_whole_database_that_opens(demo_database, tmp_path):
    before = nicknames(demo_database)
    made = demo_database.back_up("daily")
    assert backup.verify(made)
    alone = tmp_path / "other"
    alone.mkdir()
    shutil.copy(made, alone / FILE_NAME)
    again = Database(alone)
    assert nicknames(again) == before
    again.close()


def test_the_last_seven_automatic_backups_are_kept_and_no_other_file_is_touched(demo_database):
    own = demo_database.folder / BACKUPS / "before-the-fair.sqlite"
    demo_database.back_up("daily")
    shutil.copy(backup.backups_in(demo_database.folder)[0], own)
    for day in range(10):
        backup.automatic(demo_database.path, "daily", START + timedelta(days=day))
    names = [file.name for file in backup.backups_in(demo_database.folder)]
    assert len(names) == backup.BACKUPS_HELD
    assert names == sorted(names, reverse=True)
    assert own.exists()


def test_two_backups_of_one_second_are_both_kept(demo_database):
    made = {backup.automatic(demo_database.path, "daily", START) for _ in range(3)}
    assert len(made) == 3
    assert set(backup.backups_in(demo_database.folder)) == made


def test_a_backup_is_due_once_a_day(demo_database):
    assert backup.due(demo_database.folder, START)
    backup.automatic(demo_database.path, "replace", START)
    assert not backup.due(demo_database.folder, START + timedelta(hours=23))
    assert backup.due(demo_database.folder, START + timedelta(hours=24))


def test_replacing_the_workspace_backs_up_what_goes(demo_database):
    client = create_app(demo_database).test_client()
    held_zip = client.get("/api/workspace").data
    sitter = client.get("/api/sitters").json["sitters"][0]["id"]
    assert client.delete(f"/api/sitters/{sitter}").status_code == 200
    left = nicknames(demo_database)
    assert client.put("/api/workspace", data=held_zip, content_type="application/zip").status_code == 200
    [made] = backup.backups_in(demo_database.folder)
    assert "replace" in made.name
    with closing(sqlite3.connect(made)) as copy:
        assert [row[0] for row in copy.execute("select nickname from sitter order by position")] == left
    assert len(nicknames(demo_database)) == len(left) + 1


def test_an_older_database_is_backed_up_before_it_is_migrated(tmp_path):
    script = Path(__file__).parents[1] / "data" / "version_1" / "database.sql"
    with closing(sqlite3.connect(tmp_path / FILE_NAME)) as old:
        old.executescript(script.read_text(encoding="utf-8"))
        version = old.execute("select version_num from alembic_version").fetchone()[0]
    opened = Database(tmp_path)
    [made] = backup.backups_in(tmp_path)
    assert "migration" in made.name
    assert backup.verify(made) == version
    opened.close()
    Database(tmp_path).close()
    assert backup.backups_in(tmp_path) == [made]


def test_only_its_owner_may_read_what_is_kept(demo_database, tmp_path):
    demo_database.back_up("daily")
    with held(demo_database.folder):
        pass
    files = [file for file in demo_database.folder.rglob("*") if file.is_file()]
    assert len(files) >= 3
    assert {stat.S_IMODE(file.stat().st_mode) for file in files} == {0o600}
    assert stat.S_IMODE(demo_database.folder.stat().st_mode) == 0o700


class TestTheCommandLine:
    def test_backs_up_and_restores_with_what_stood_there_kept(self, demo_database, folder, tmp_path, capsys):
        target = tmp_path / "kept.sqlite"
        before = nicknames(demo_database)
        assert cli.main(["backup", str(target)]) == 0
        with demo_database.session() as session:
            first = Sitters(session).all()[0].id
        demo_database.erase(of_sitter(first, "Wren"))
        demo_database.close()
        assert cli.main(["restore", str(target)]) == 0
        assert "What stood there is in" in capsys.readouterr().out
        again = Database(folder)
        assert nicknames(again) == before
        [aside] = backup.backups_in(folder)
        with closing(sqlite3.connect(aside)) as copy:
            assert copy.execute("select count(*) from sitter").fetchone() == (len(before) - 1,)
        again.close()

    def test_a_backup_without_a_name_goes_among_the_automatic_ones(self, folder, capsys):
        assert cli.main(["backup"]) == 0
        assert len(backup.backups_in(folder)) == 1
        assert str(folder) in capsys.readouterr().out

    @pytest.mark.parametrize("given", ["taken", "nowhere/kept.sqlite"])
    def test_a_backup_overwrites_nothing(self, folder, tmp_path, capsys, given):
        (tmp_path / "taken").write_text("mine", encoding="utf-8")
        assert cli.main(["backup", str(tmp_path / given)]) == 2
        assert capsys.readouterr().err.count("\n") == 1
        assert (tmp_path / "taken").read_text(encoding="utf-8") == "mine"

    @pytest.mark.parametrize("what", ["absent", "no database", "another program's", "damaged", "newer"])
    def test_what_is_no_backup_is_refused_in_a_line_and_changes_nothing(
        self, demo_database, folder, tmp_path, capsys, what
    ):
        file = tmp_path / "given.sqlite"
        if what == "no database":
            file.write_bytes(b"not a database at all" * 200)
        elif what == "another program's":
            with closing(sqlite3.connect(file)) as other:
                other.execute("create table x (y)")
        elif what != "absent":
            backup.copy(demo_database.path, file)
            if what == "damaged":
                held_bytes = bytearray(file.read_bytes())
                held_bytes[4096 * 3 : 4096 * 40] = b"\xee" * (4096 * 37)
                file.write_bytes(held_bytes)
            else:
                with closing(sqlite3.connect(file)) as newer:
                    newer.execute("update alembic_version set version_num = '9999'")
                    newer.commit()
        before = nicknames(demo_database)
        demo_database.close()
        held_before = demo_database.path.read_bytes()
        assert cli.main(["restore", str(file)]) == 2
        said = capsys.readouterr().err
        assert said.startswith("nabrel: ")
        assert said.count("\n") == 1
        assert demo_database.path.read_bytes() == held_before
        assert before

    def test_a_folder_that_a_server_holds_is_not_restored_into(self, folder, tmp_path, capsys):
        cli.main(["backup", str(tmp_path / "kept.sqlite")])
        with held(folder):
            assert cli.main(["restore", str(tmp_path / "kept.sqlite")]) == 2
        assert "Another Nabrel has" in capsys.readouterr().err
        assert (folder / LOCK).exists()

    def test_a_damaged_database_is_kept_aside_when_a_backup_is_restored(self, demo_database, folder, tmp_path):
        backup.copy(demo_database.path, tmp_path / "kept.sqlite")
        demo_database.close()
        demo_database.path.write_bytes(b"gone" * 5000)
        assert restore(tmp_path / "kept.sqlite", folder) is None
        assert [file.read_bytes()[:4] for file in folder.glob("damaged-*")] == [b"gone"]
        Database(folder).close()


class TestOpening:
    def refused(self, folder: Path) -> str:
        with pytest.raises(Unusable) as caught:
            Database(folder)
        return str(caught.value)

    def test_a_damaged_file_is_said_to_be_damaged(self, demo_database):
        demo_database.close()
        held_bytes = demo_database.path.read_bytes()
        demo_database.path.write_bytes(b"\0" * 100 + held_bytes[100:])
        said = self.refused(demo_database.folder)
        assert "is damaged. Restore a backup: nabrel restore FILE." in said
        demo_database.path.write_bytes(held_bytes[: len(held_bytes) // 2])
        assert "is damaged" in self.refused(demo_database.folder)

    def test_a_newer_one_is_said_to_be_newer(self, demo_database):
        with demo_database.engine.begin() as connection:
            connection.exec_driver_sql("update alembic_version set version_num = '9999'")
        demo_database.close()
        assert "written by a newer Nabrel. Update Nabrel" in self.refused(demo_database.folder)

    def test_a_folder_that_is_a_file_is_said_so(self, tmp_path):
        (tmp_path / "file").write_text("", encoding="utf-8")
        assert "cannot write to" in self.refused(tmp_path / "file")

    def test_an_empty_file_becomes_a_database(self, tmp_path):
        (tmp_path / FILE_NAME).touch()
        Database(tmp_path).close()
        assert backup.verify(tmp_path / FILE_NAME)


@pytest.mark.parametrize(
    ("name", "kind", "said"),
    [
        ("SQLITE_FULL", NoRoom, "no room left"),
        ("SQLITE_BUSY", Unusable, "Another program holds"),
        ("SQLITE_BUSY_SNAPSHOT", Unusable, "Another program holds"),
        ("SQLITE_READONLY_DBMOVED", Unusable, "read the database and not write"),
        ("SQLITE_CORRUPT", Unusable, "damaged"),
        ("SQLITE_IOERR_WRITE", Unusable, "disk fails"),
    ],
)
def test_what_sqlite_refuses_is_told_for_what_it_is(name, kind, said):
    error = sqlite3.OperationalError("x")
    error.sqlite_errorname = name
    found = reason(error)
    assert type(found) is kind
    assert said in str(found)
    assert isinstance(found, Refused)


def test_what_is_our_mistake_is_not_blamed_on_the_disk():
    error = sqlite3.OperationalError("no such column")
    error.sqlite_errorname = "SQLITE_ERROR"
    assert reason(error) is None


class TestServing:
    def test_a_full_disk_is_507_and_reading_goes_on(self, demo_database):
        client = create_app(demo_database).test_client()
        sitter = client.get("/api/sitters").json["sitters"][0]
        with demo_database.engine.connect() as connection:
            pages = connection.exec_driver_sql("PRAGMA page_count").scalar()
        demo_database.engine.dispose()
        from sqlalchemy import event

        event.listen(
            demo_database.engine, "connect", lambda found, _: found.execute(f"PRAGMA max_page_count = {pages}")
        )
        codes = [client.post(f"/api/sitters/{sitter['id']}/sequences", json={}).status_code for _ in range(40)]
        full = next(place for place, code in enumerate(codes) if code == 507)
        assert set(codes[:full]) <= {201}
        assert set(codes[full:]) == {507}
        answer = client.post(f"/api/sitters/{sitter['id']}/sequences", json={})
        assert "no room left" in answer.json["says"]
        assert client.get("/api/sitters").status_code == 200

    def test_a_database_that_another_program_holds_is_503(self, demo_database):
        from sqlalchemy import event

        client = create_app(demo_database).test_client()
        sitter = client.get("/api/sitters").json["sitters"][0]
        demo_database.engine.dispose()
        event.listen(demo_database.engine, "connect", lambda found, _: found.execute("PRAGMA busy_timeout = 50"))
        with closing(sqlite3.connect(demo_database.path)) as other:
            other.execute("begin immediate")
            answer = client.post(f"/api/sitters/{sitter['id']}/sequences", json={})
            assert client.get("/api/sitters").status_code == 200
        assert answer.status_code == 503
        assert "Another program holds the database" in answer.json["says"]
        assert client.post(f"/api/sitters/{sitter['id']}/sequences", json={}).status_code == 201
