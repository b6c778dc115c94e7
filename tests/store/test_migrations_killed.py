"""A start that is killed on its way through the migrations leaves a database that the next start brings up."""

from __future__ import annotations

import os
import shutil
import sqlite3
from collections.abc import Callable
from contextlib import closing
from pathlib import Path

import pytest
from sqlalchemy import Engine, create_engine, event

from nabrel.store import backup
from nabrel.store.database import Database, migrate, revisions
from nabrel.store.folder import FILE_NAME

SCRIPTS = {
    "version 1": Path(__file__).parents[1] / "data" / "version_1" / "database.sql",
    "first slice": Path(__file__).parents[1] / "data" / "first_slice.sql",
}
KILLED = 9
SAMPLE = int(os.environ.get("NABREL_KILL_EVERY", "53"))
"""Every so-manieth statement is killed at; `make torture` kills at each."""


def older(folder: Path, script: Path) -> Path:
    folder.mkdir()
    with closing(sqlite3.connect(folder / FILE_NAME)) as old:
        old.executescript(script.read_text(encoding="utf-8"))
    return folder


def rows(file: Path) -> dict[str, int]:
    with closing(sqlite3.connect(file)) as found:
        tables = [row[0] for row in found.execute("select name from sqlite_master where type = 'table' order by name")]
        return {name: found.execute(f'select count(*) from "{name}"').fetchone()[0] for name in tables}


def statements_until_open(folder: Path) -> int:
    """Open a database, and count the statements that it took."""
    seen: list[str] = []

    def count(_connection: object, _cursor: object, statement: str, *_rest: object) -> None:
        seen.append(statement)

    event.listen(Engine, "before_cursor_execute", count)
    try:
        Database(folder).close()
    finally:
        event.remove(Engine, "before_cursor_execute", count)
    return len(seen)


def killed_at(folder: Path, number: int) -> int:
    """Open a database in a process of its own that is killed as it begins one statement; how that process ended."""
    child = os.fork()
    if child == 0:
        left = [number]

        def kill(*_: object) -> None:
            left[0] -= 1
            if left[0] < 0:
                os._exit(KILLED)

        event.listen(Engine, "before_cursor_execute", kill)
        try:
            Database(folder).close()
        finally:
            os._exit(0)
    return os.waitstatus_to_exitcode(os.waitpid(child, 0)[1])


@pytest.mark.parametrize("name", SCRIPTS)
def test_wherever_a_start_is_killed_the_next_one_comes_up_with_all_rows(tmp_path, name, record_property):
    start = older(tmp_path / "start", SCRIPTS[name])
    whole = tmp_path / "whole"
    shutil.copytree(start, whole)
    steps = statements_until_open(whole)
    wanted = rows(whole / FILE_NAME)
    assert steps > 50
    assert sum(wanted.values()) > 10
    wrong, ended = [], set()
    for place in range(0, steps, SAMPLE):
        folder = tmp_path / f"killed-{place}"
        shutil.copytree(start, folder)
        ended.add(killed_at(folder, place))
        Database(folder).close()
        made = [backup.verify(file) for file in backup.backups_in(folder)]
        if rows(folder / FILE_NAME) != wanted or len(made) != 1:
            wrong.append((place, made))
        shutil.rmtree(folder)
    record_property("kills", len(range(0, steps, SAMPLE)))
    assert ended == {KILLED}
    assert wrong == []


def test_a_new_database_that_was_killed_as_it_was_made_is_made_anew(tmp_path, record_property):
    steps = statements_until_open(tmp_path / "whole")
    wanted, wrong, ended = rows(tmp_path / "whole" / FILE_NAME), [], set()
    for place in range(0, steps, SAMPLE):
        folder = tmp_path / f"killed-{place}"
        ended.add(killed_at(folder, place))
        Database(folder).close()
        if rows(folder / FILE_NAME) != wanted or backup.backups_in(folder):
            wrong.append(place)
    record_property("kills", len(range(0, steps, SAMPLE)))
    assert KILLED in ended
    assert wrong == []


def half_migrated(file: Path, do: Callable[[sqlite3.Connection], object]) -> None:
    with closing(sqlite3.connect(file)) as found:
        do(found)
        found.commit()


def test_what_an_older_nabrel_left_half_migrated_comes_up_all_the_same(tmp_path):
    start = older(tmp_path / "start", SCRIPTS["version 1"])
    with closing(sqlite3.connect(start / FILE_NAME)) as found:
        version = found.execute("select version_num from alembic_version").fetchone()[0]
    engine = create_engine(f"sqlite:///{start / FILE_NAME}")
    migrate(engine, "0003")
    engine.dispose()
    assert version <= "0003"
    half_migrated(
        start / FILE_NAME,
        lambda found: found.executescript(
            "CREATE TABLE kit_snapshot (id VARCHAR(32) NOT NULL, document TEXT NOT NULL, PRIMARY KEY (id));"
            "CREATE TABLE _alembic_tmp_revision (id INTEGER);"
        ),
    )
    Database(start).close()
    assert rows(start / FILE_NAME)["revision"] > 0
    assert "_alembic_tmp_revision" not in rows(start / FILE_NAME)


def test_a_database_that_was_left_without_a_version_is_begun_again_only_where_it_is_empty(tmp_path):
    from nabrel.store.folder import Unusable

    for name, insert in (("empty", ""), ("full", "INSERT INTO sitter VALUES ('x');")):
        folder = tmp_path / name
        folder.mkdir()
        half_migrated(
            folder / FILE_NAME,
            lambda found, insert=insert: found.executescript("CREATE TABLE sitter (id VARCHAR(32));" + insert),
        )
    Database(tmp_path / "empty").close()
    assert len(rows(tmp_path / "empty" / FILE_NAME)) > 15
    before = (tmp_path / "full" / FILE_NAME).read_bytes()
    with pytest.raises(Unusable, match="no database of Nabrel"):
        Database(tmp_path / "full")
    assert (tmp_path / "full" / FILE_NAME).read_bytes() == before


def test_every_revision_is_brought_up_from(tmp_path):
    for revision in sorted(revisions()):
        folder = tmp_path / revision
        folder.mkdir()
        engine = create_engine(f"sqlite:///{folder / FILE_NAME}")
        migrate(engine, revision)
        engine.dispose()
        opened = Database(folder)
        with opened.engine.connect() as connection:
            at = connection.exec_driver_sql("select version_num from alembic_version").scalar()
        opened.close()
        assert at == max(revisions())
