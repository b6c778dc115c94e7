"""Backups: whole copies of the database, verified by opening them, kept beside it.

They are made with SQLite's online backup, so that a server may go on working. Automatic ones are made before a migration, a
restore and a replaced workspace, and once a day while serving; the last seven are kept.
"""

from __future__ import annotations

import os
import re
import sqlite3
from collections.abc import Iterator
from contextlib import closing
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Literal

from nabrel.core.errors import Refused
from nabrel.store.folder import BACKUPS, OWN_FILE, Unusable, made_folder, owned, reason

Occasion = Literal["daily", "migration", "restore", "replace"]
BACKUPS_HELD = 7
A_DAY = timedelta(days=1)
_NAME = re.compile(r"nabrel-(\d{8}T\d{6}Z)-(?:daily|migration|restore|replace)(?:-\d+)?\.sqlite")


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
        os.replace(part, target)
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
    return connection


def _has_table(opened: sqlite3.Connection, table: str) -> bool:
    named = "SELECT 1 FROM sqlite_master WHERE type = 'table' AND name = ?"
    return opened.execute(named, (table,)).fetchone() is not None


def automatic(database: Path, occasion: Occasion, now: datetime | None = None) -> Path:
    """Copy a database into its folder's backups, and let the oldest go beyond the last seven."""
    folder = made_folder(database.parent / BACKUPS)
    stamp = (now or datetime.now(UTC)).strftime("%Y%m%dT%H%M%SZ")
    target, again = folder / f"nabrel-{stamp}-{occasion}.sqlite", 1
    while target.exists():
        again += 1
        target = folder / f"nabrel-{stamp}-{occasion}-{again}.sqlite"
    made = copy(database, target)
    for old in backups_in(database.parent)[BACKUPS_HELD:]:
        old.unlink(missing_ok=True)
    return made


def backups_in(folder: Path) -> list[Path]:
    """The automatic backups of a data folder, the newest first."""
    found = [file for file in (folder / BACKUPS).glob("nabrel-*.sqlite") if _NAME.fullmatch(file.name)]
    return sorted(found, key=lambda file: (file.name[:23], file.stat().st_mtime_ns), reverse=True)


def due(folder: Path, now: datetime) -> bool:
    """Whether a day has passed since the newest backup."""
    newest = next(iter(backups_in(folder)), None)
    if newest is None:
        return True
    found = _NAME.fullmatch(newest.name)
    return found is None or now - datetime.strptime(found[1], "%Y%m%dT%H%M%SZ").replace(tzinfo=UTC) >= A_DAY


def all_of(folder: Path) -> Iterator[Path]:
    """Every database file among the backups of a data folder, whatever it is called."""
    yield from sorted(file for file in (folder / BACKUPS).glob("*.sqlite*") if file.is_file())


@dataclass(frozen=True, slots=True)
class Erased:
    """Whom to leave nothing of: sitters by id, and students by key, each with the name under which classes have them."""

    sitters: list[str] = field(default_factory=list)
    students: dict[str, str] = field(default_factory=dict)

    def __bool__(self) -> bool:
        return bool(self.sitters or self.students)

    def statements(self) -> Iterator[tuple[str, tuple[str, ...]]]:
        """What takes them out of a database, statement by statement."""
        for sitter_id in self.sitters:
            yield "DELETE FROM sitter WHERE id = ?", (sitter_id,)
        for key, name in self.students.items():
            yield "DELETE FROM student WHERE key = ?", (key,)
            yield "DELETE FROM class_student WHERE json_extract(document, '$.name') = ?", (name,)


def erase_from(file: Path, gone: Erased) -> None:
    """Take sitters and students out of a backup for good, and verify it. Tables keep their names, so older schemas are read as well.

    Rewritten whole, so that no page that once held them is left.
    """
    with closing(_opened(file)) as found:
        found.execute("PRAGMA foreign_keys = ON")
        for statement, values in gone.statements():
            # An older backup may have no such table yet: then nothing of them is in it.
            if _has_table(found, statement.split()[2]):
                found.execute(statement, values)
        found.commit()
        found.execute("VACUUM")
    verify(file)
    owned(file)
