"""Backups: whole copies of the database, verified by opening them, kept beside it.

They are made with SQLite's online backup, so that a server may go on working. Automatic ones are made before a migration, a
restore and a replaced workspace, and once a day while serving; the last seven are kept.
"""

from __future__ import annotations

import filecmp
import re
import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Literal

from nabrel.core.errors import Refused
from nabrel.store.folder import BACKUPS, OWN_FILE, Unusable, made_folder, owned, put_in_place, reason, sync_folder
from nabrel.store.names import know_names

Occasion = Literal["daily", "migration", "restore", "replace"]
BACKUPS_HELD = 7
SURE = "PRAGMA synchronous = EXTRA"
"""For a database with a journal beside it, whose end is the removal of that: that is on the disk too before anything else is written.
Otherwise power that is lost may bring back what was erased, or a file cut short with the journal of a longer one."""
BESIDE = ("-journal", "-wal", "-shm")
"""What SQLite adds to the name of a database for what it notes beside it."""
A_DAY = timedelta(days=1)
STAMP = "%Y%m%dT%H%M%SZ"
_NAME = re.compile(
    r"nabrel-(?:n(?P<number>\d{6,})-)?(?P<stamp>\d{8}T\d{6}Z)-(?:daily|migration|restore|replace)(?:-\d+)?\.sqlite"
)
"""Numbered in the order they were made, since clocks are set; older Nabrels named them by the clock alone."""


def copy(source: Path, target: Path) -> Path:
    """Copy a database as it stands, verify the copy, and only then give it its name. Refuses a damaged source."""
    part = target.with_name(target.name + ".part")
    part.unlink(missing_ok=True)
    try:
        part.touch(mode=OWN_FILE)
        with closing(_opened(source)) as whole, closing(sqlite3.connect(part)) as found:
            whole.backup(found)
            # One file that stands alone: no write-ahead log beside it.
            found.execute("PRAGMA journal_mode = DELETE")
        verify(part)
        put_in_place(part, target)
    except (sqlite3.Error, OSError) as error:
        raise reason(error, str(source)) or Unusable(f"No backup could be made ({error}).", "Try again.") from None
    finally:
        part.unlink(missing_ok=True)
    return owned(target)


def verify(file: Path) -> str:
    """The schema of a database of Nabrel. Refuses what is no database, is damaged, or is another program's."""
    if not file.is_file():
        raise Refused("file", str(file), "a backup that Nabrel made")
    try:
        with closing(_opened(file)) as found:
            if found.execute("PRAGMA integrity_check(1)").fetchone() != ("ok",):
                raise Unusable(f"{file} is damaged.", "Take an older backup.")
            row = found.execute("SELECT version_num FROM alembic_version").fetchone()
    except sqlite3.Error as error:
        raise Unusable(f"{file} is no database of Nabrel ({error}).", "Name a backup that Nabrel made.") from None
    if row is None:
        raise Unusable(f"{file} is a database without tables.", "Name a backup that Nabrel made.")
    return str(row[0])


def _opened(file: Path) -> sqlite3.Connection:
    connection = sqlite3.connect(f"{file.absolute().as_uri()}?mode=rw", uri=True, timeout=10)
    connection.execute("PRAGMA secure_delete = ON")
    connection.execute(SURE)
    know_names(connection)
    return connection


def has_table(opened: sqlite3.Connection, table: str) -> bool:
    """Whether a database has a table of that name."""
    named = "SELECT 1 FROM sqlite_master WHERE type = 'table' AND name = ?"
    return opened.execute(named, (table,)).fetchone() is not None


def automatic(database: Path, occasion: Occasion, now: datetime | None = None) -> Path:
    """Copy a database into its folder's backups, and let the oldest go beyond the last seven. The file made.

    Before a migration, a backup that is already the same to the byte is that file: a start that was killed makes no second one.
    """
    folder = made_folder(database.parent / BACKUPS)
    number = 1 + max((_number(file) for file in backups_in(database.parent)), default=0)
    target = folder / f"nabrel-n{number:06}-{(now or datetime.now(UTC)).strftime(STAMP)}-{occasion}.sqlite"
    made = copy(database, target)
    same = _same(made) if occasion == "migration" else None
    if same is not None:
        made.unlink()
        return same
    for old in backups_in(database.parent)[BACKUPS_HELD:]:
        if old != made:
            old.unlink(missing_ok=True)
    sync_folder(folder)
    if not made.is_file():
        raise Unusable(f"The backup {made.name} was removed as it was made.", "Try again.")
    return made


def _same(made: Path) -> Path | None:
    """An earlier backup that holds the same, byte by byte."""
    size = made.stat().st_size
    return next(
        (
            file
            for file in backups_in(made.parent.parent)
            if file != made and file.stat().st_size == size and filecmp.cmp(file, made, shallow=False)
        ),
        None,
    )


def _number(file: Path) -> int:
    named = _NAME.fullmatch(file.name)
    return int(named["number"] or 0) if named is not None else 0


def backups_in(folder: Path) -> list[Path]:
    """The automatic backups of a data folder, the one made last first."""
    found = [file for file in (folder / BACKUPS).glob("nabrel-*.sqlite") if _NAME.fullmatch(file.name)]
    return sorted(found, key=lambda file: (_number(file), file.name, file.stat().st_mtime_ns), reverse=True)


def due(folder: Path, now: datetime) -> bool:
    """Whether a day has passed since the backup made last; also where that one is of a time to come, since the clock was set."""
    newest = next(iter(backups_in(folder)), None)
    named = None if newest is None else _NAME.fullmatch(newest.name)
    if named is None:
        return True
    return not timedelta() <= now - datetime.strptime(named["stamp"], STAMP).replace(tzinfo=UTC) < A_DAY


def all_of(folder: Path) -> Iterator[Path]:
    """Every database file among the backups of a data folder, whatever it is called."""
    found = (file for file in (folder / BACKUPS).glob("*.sqlite*") if file.is_file())
    yield from sorted(file for file in found if not file.name.endswith(BESIDE))


def orphans(folder: Path) -> list[Path]:
    """Journals of backups that are not there any more. The journal of one that is belongs to it until that is opened."""
    found = [file for beside in BESIDE for file in (folder / BACKUPS).glob(f"*{beside}")]
    return [file for file in found if not file.with_name(file.name.rpartition("-")[0]).exists()]


def drop_foreign(opened: sqlite3.Connection) -> None:
    """Drop triggers and views: no Nabrel ever made one, so whoever did wants something else to happen than is asked for."""
    named = opened.execute("SELECT type, name FROM sqlite_master WHERE type IN ('trigger', 'view')").fetchall()
    for kind, name in named:
        quoted = str(name).replace('"', '""')
        opened.execute(f'DROP {kind} "{quoted}"')


@contextmanager
def rewritten(file: Path) -> Iterator[sqlite3.Connection]:
    """A backup opened to take something out of it, and verified when that is done."""
    with closing(_opened(file)) as found:
        drop_foreign(found)
        found.execute("PRAGMA foreign_keys = ON")
        yield found
    verify(file)
    owned(file)
