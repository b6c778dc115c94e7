"""Opening the database: the connection's settings, migrations up to the newest, and erasing that leaves nothing."""

from __future__ import annotations

import json
import os
import sqlite3
import time
from collections.abc import Iterable, Iterator
from contextlib import closing, contextmanager, suppress
from dataclasses import asdict
from datetime import UTC, datetime
from functools import cache
from pathlib import Path
from typing import Any

from alembic import command
from alembic.config import Config
from alembic.script import ScriptDirectory
from sqlalchemy import Connection, Engine, create_engine, event, insert, select
from sqlalchemy.exc import DBAPIError
from sqlalchemy.orm import Session, sessionmaker

from nabrel.store import backup
from nabrel.store.erasing import Erased, erase_from
from nabrel.store.folder import (
    BACKUPS,
    FILE_NAME,
    OWN_FILE,
    NoRoom,
    Unusable,
    damaged,
    held,
    made_folder,
    owned,
    put_in_place,
    reason,
    remove,
    sync_folder,
    write_whole,
)
from nabrel.store.names import know_names, name_digest
from nabrel.store.tables import AccountRow

MIGRATIONS = Path(__file__).parent / "migrations"
ERASING = "erasing.json"
"""The ids of sitters, and students, whose erasing is under way; there only until nothing of them is left in any file."""
DAMAGED = "damaged"
"""What the name of a database begins with that was damaged, and was kept aside when a backup was restored."""
COMING = ("migrating.sqlite", "restoring.sqlite")
"""What a database is called while it is made to take the place of the one that stands."""
SENT = "sending-"
"""What the name of a file begins with that is on its way out or in."""
OPENING = "opening.lock"
RESERVE, RESERVED_BYTES = "reserve", 65_536
"""Room that is set aside on the disk, and given up for the note of what is to be erased."""
BUSY_S = 10
"""How long a write waits for another one to end."""
PATIENCE_S = 5.0
"""How long a checkpoint waits for readers to end."""


class Database:
    """One SQLite file in its data folder, migrated when it is opened."""

    def __init__(self, folder: Path) -> None:
        self.folder = made_folder(folder)
        self.path = folder / FILE_NAME
        with _named(self.path):
            # One process at a time makes the database what it should be; the others wait.
            with held(folder, OPENING, BUSY_S):
                if not self.path.exists() or self.path.stat().st_size == 0:
                    _begin(self.path)
                elif (version := _check(self.path)) != _head():
                    _bring_up(self.path, version)
            owned(self.path)
            self.engine = _engine(self.path)
            self._sessions = sessionmaker(self.engine, expire_on_commit=False)
            with suppress(OSError):
                _reserve(self.folder)
            with suppress(Unusable):
                self._finish_erasing()

    @contextmanager
    def session(self) -> Iterator[Session]:
        """A session that commits when the block ends well and changes nothing when it does not."""
        with self._sessions.begin() as session:
            yield session

    def erase(self, more: Erased) -> bool:
        """Erase sitters, and students, with what others have of their names, for good: from the tables, the write-ahead log and
        every backup. Whether that is all done.

        What cannot be done now (another program reads, a backup cannot be rewritten) is done when the database is next opened.
        Where the disk is full that is noted all the same, in room that was set aside for it, and refused as such.
        """
        self._note(self._erasing().with_(more))
        try:
            self._finish_erasing()
        except NoRoom:
            raise NoRoom(
                "There is no room left on the disk to erase it now.",
                "It is noted, and is erased when Nabrel is next started with room on the disk: free some, then start Nabrel again.",
            ) from None
        except Unusable:
            return False
        return True

    def _note(self, gone: Erased) -> None:
        """Note whose erasing is under way, before any of it is done."""
        pending, text = self.folder / ERASING, json.dumps(asdict(gone))
        try:
            write_whole(pending, text)
        except OSError as error:
            if not isinstance(reason(error), NoRoom):
                raise
            # What was set aside for this.
            remove(self.folder / RESERVE)
            write_whole(pending, text)

    def _erasing(self) -> Erased:
        try:
            found = json.loads((self.folder / ERASING).read_text(encoding="utf-8"))
        except (OSError, ValueError):
            return Erased()
        # Older Nabrels wrote the sitters alone, then students by key with their names.
        found = found if isinstance(found, dict) else {"sitters": found}
        students, names = found.get("students", []), list(found.get("names", []))
        if isinstance(students, dict):
            names += map(name_digest, students.values())
        sitters = [each for each in found.get("sitters", []) if isinstance(each, str)]
        titles = [(words, kind, key) for words, kind, key in found.get("titles", [])]
        return Erased(sitters, list(students), names, list(found.get("nicknames", [])), titles)

    def _finish_erasing(self) -> None:
        """Erase what is noted. Refuses where it could not be done whole; the note then stays."""
        gone = self._erasing()
        if not gone:
            return
        try:
            with self.engine.begin() as connection:
                raw = connection.connection.driver_connection
                assert isinstance(raw, sqlite3.Connection)
                for each in gone.removals():
                    each.run(raw)
                connection.exec_driver_sql(FORGET_KITS)
            emptied = self.checkpoint()
            for left in unfinished(self.folder):
                left.unlink(missing_ok=True)
            for file in backup.all_of(self.folder):
                erase_from(file, gone)
            for file in self.folder.glob(f"{DAMAGED}-*"):
                _shred_if_of(file, [*gone.sitters, *gone.students])
        except (DBAPIError, sqlite3.Error, OSError) as error:
            cause = error.orig if isinstance(error, DBAPIError) else error
            found = reason(cause) if isinstance(cause, (sqlite3.Error, OSError)) else None
            raise found or Unusable("Not everything could be erased.", "It is tried again at the next start.") from None
        if not emptied:
            raise Unusable("Another program reads the database.", "It is erased at the next start.")
        remove(self.folder / ERASING)

    def checkpoint(self) -> bool:
        """Write the log into the main file and empty it. Whether that was done: a reader elsewhere can hold it up."""
        until = time.monotonic() + PATIENCE_S
        while True:
            with self.engine.connect() as connection:
                # The patience is this method's own: SQLite would wait as long again at every turn.
                connection.exec_driver_sql("PRAGMA busy_timeout = 50")
                busy = connection.exec_driver_sql("PRAGMA wal_checkpoint(TRUNCATE)").scalar()
                connection.exec_driver_sql(f"PRAGMA busy_timeout = {BUSY_S * 1000}")
            if not busy or time.monotonic() > until:
                return not busy
            time.sleep(0.05)

    def back_up(self, occasion: backup.Occasion) -> Path:
        """An automatic backup of what stands now."""
        return backup.automatic(self.path, occasion)

    def close(self) -> None:
        """Close every connection; the main file alone is then the whole database."""
        with suppress(DBAPIError):
            self.checkpoint()
        self.engine.dispose()


@contextmanager
def joined(folder: Path) -> Iterator[Session]:
    """A session on the database of a folder that another process has open and in order: heavy work reads and writes beside it."""
    engine = _engine(folder / FILE_NAME)
    try:
        with sessionmaker(engine, expire_on_commit=False).begin() as session:
            yield session
    finally:
        engine.dispose()


def _shred_if_of(file: Path, ids: Iterable[str]) -> None:
    """Overwrite and remove a damaged database that holds one of these sitters: it cannot be opened to take them out."""
    if not any(each.encode() in file.read_bytes() for each in ids):
        return
    with file.open("r+b") as whole:
        whole.write(bytes(file.stat().st_size))
        whole.flush()
        os.fsync(whole.fileno())
    file.unlink()


FORGET_KITS = "DELETE FROM kit_snapshot WHERE id NOT IN (SELECT kit FROM revision WHERE kit IS NOT NULL)"


@contextmanager
def _named(path: Path) -> Iterator[None]:
    """Tell what SQLite or the disk refuses in a sentence that names the file."""
    try:
        yield
    except DBAPIError as error:
        cause = error.orig
        found = reason(cause, str(path)) if isinstance(cause, (sqlite3.Error, OSError)) else None
        raise found or error from None
    except (sqlite3.Error, OSError) as error:
        raise reason(error, str(path)) or error from None


def _check(path: Path) -> str | None:
    """The schema of a database; None where it has no tables yet. Refuses a file that is none of this Nabrel's or an older one's.

    What no Nabrel put into it, and could make a statement do something else, is dropped.
    """
    with closing(sqlite3.connect(f"{path.absolute().as_uri()}?mode=rw", uri=True, timeout=BUSY_S)) as connection:
        if connection.execute("PRAGMA quick_check(1)").fetchone() != ("ok",):
            raise damaged(str(path))
        try:
            row = connection.execute("SELECT version_num FROM alembic_version").fetchone()
        except sqlite3.OperationalError as error:
            if "no such table" not in str(error):
                raise
            row = None
        if row is not None and row[0] not in revisions():
            raise newer(str(path))
        backup.drop_foreign(connection)
    return None if row is None else str(row[0])


def _begin(path: Path) -> None:
    """Make a new database: whole, or not there."""
    coming = path.with_name(COMING[0])
    _fresh(coming, "head")
    put_in_place(coming, path)


def _fresh(file: Path, revision: str) -> None:
    """A new database file with the tables of a revision and no rows."""
    _clear(file)
    file.touch(mode=OWN_FILE)
    engine = create_engine(f"sqlite:///{file}", hide_parameters=True)
    try:
        migrate(engine, revision)
    finally:
        engine.dispose()


def _clear(file: Path) -> None:
    for beside in ("", *backup.BESIDE):
        file.with_name(file.name + beside).unlink(missing_ok=True)


def _rebuild(given: Path, version: str, coming: Path) -> None:
    """A database of today's tables with the rows of another one, which is read and left alone.

    Only rows are copied, into tables of our own making: what else stands in the other file (triggers, views, tables that a migration
    left half made) stays there. Refuses one whose tables are not those of its version, or whose rows do not hold together.
    """
    _fresh(coming, version)
    with closing(sqlite3.connect(coming)) as own:
        own.execute("PRAGMA trusted_schema = OFF")
        own.execute("ATTACH ? AS given", (str(given),))
        try:
            for (table,) in own.execute(TABLES).fetchall():
                columns = _columns(own, given, table)
                own.execute(f'INSERT INTO main."{table}" ({columns}) SELECT {columns} FROM given."{table}"')
            own.commit()
            broken = own.execute("PRAGMA main.foreign_key_check").fetchone()
        except sqlite3.IntegrityError as error:
            raise Unusable(f"{given} holds rows that cannot be ({error}).", "Take another backup.") from None
        if broken is not None:
            raise Unusable(f"{given} holds rows of {broken[0]} that belong to nothing.", "Take another backup.")
        own.execute("DETACH given")
    engine = create_engine(f"sqlite:///{coming}", hide_parameters=True)
    try:
        migrate(engine)
    finally:
        engine.dispose()
    backup.verify(coming)


TABLES = (
    "SELECT name FROM main.sqlite_master WHERE type = 'table' AND name NOT IN ('alembic_version', 'sqlite_sequence')"
)


def _columns(own: sqlite3.Connection, given: Path, table: str) -> str:
    """The columns of a table, as they stand in both. Refuses where the other has them not, or has something else of that name."""
    row = own.execute("SELECT type, sql FROM given.sqlite_master WHERE name = ?", (table,)).fetchone()
    wanted = [each[1] for each in own.execute(f'PRAGMA main.table_info("{table}")')]
    # Hidden ones are computed, or a virtual table's.
    found = {each[1] for each in own.execute(f'PRAGMA given.table_xinfo("{table}")') if each[6] == 0}
    if row is None or row[0] != "table" or "VIRTUAL" in str(row[1]).upper()[:20] or not found.issuperset(wanted):
        raise Unusable(f"{given} has no table {table} as Nabrel makes it.", "Take another backup.")
    return ", ".join(f'"{name}"' for name in wanted)


def _bring_up(path: Path, version: str | None) -> None:
    """Bring an older database up: a copy of its rows is migrated, and takes its place once it is whole.

    A start that is killed on the way leaves what was there. One without a version is what a Nabrel left that was killed as it made
    it: there is nothing in it yet. Refuses one that holds rows and no version.
    """
    if version is None:
        if _holds_rows(path):
            raise Unusable(f"{path} is no database of Nabrel.", "Restore a backup: nabrel restore FILE.")
        _settle(path)
        _begin(path)
        return
    coming = path.with_name(COMING[0])
    _rebuild(path, version, coming)
    backup.automatic(path, "migration")
    _settle(path)
    put_in_place(coming, path)


def _holds_rows(path: Path) -> bool:
    with closing(sqlite3.connect(path)) as found:
        tables = [row[0] for row in found.execute(TABLES)]
        return any(found.execute(f'SELECT 1 FROM "{table}" LIMIT 1').fetchone() for table in tables)


def _settle(path: Path) -> None:
    """Bring all of a database into its one file, before another takes its place: a log left behind would be laid over that one."""
    with closing(sqlite3.connect(path, timeout=BUSY_S)) as found:
        found.execute(backup.SURE)
        if found.execute("PRAGMA journal_mode = DELETE").fetchone() != ("delete",):
            raise Unusable(f"Another program holds {path}.", "Close it, then try again.")
    for beside in ("-wal", "-shm"):
        remove(path.with_name(path.name + beside))


def _reserve(folder: Path) -> None:
    """Set room aside, so that what was asked to be erased can be noted on a full disk too."""
    if not (folder / RESERVE).exists():
        write_whole(folder / RESERVE, "." * RESERVED_BYTES)


def unfinished(folder: Path) -> list[Path]:
    """Files that a process left half made when it was killed: copies of what is kept."""
    parts = [file for place in (folder, folder / BACKUPS) for file in place.glob("*.sqlite*.part*")]
    return [
        *parts,
        *backup.orphans(folder),
        *folder.glob(f"{SENT}*"),
        *(file for name in COMING for file in folder.glob(f"{name}*")),
    ]


def newer(where: str) -> Unusable:
    """A newer Nabrel wrote it."""
    return Unusable(f"{where} was written by a newer Nabrel.", "Update Nabrel, or restore an older backup.")


@cache
def _scripts() -> ScriptDirectory:
    """The migrations that ship: read once, since reading them is most of what opening a database takes."""
    return ScriptDirectory(str(MIGRATIONS))


@cache
def revisions() -> frozenset[str]:
    """Every schema that this Nabrel knows."""
    return frozenset(each.revision for each in _scripts().walk_revisions())


def _head() -> str:
    return str(_scripts().get_current_head())


def restore(file: Path, folder: Path) -> Path | None:
    """Put a backup in the place of the database; what stood there is backed up first. The backup made, None of nothing.

    Refuses a file that is damaged, no database of Nabrel, or a newer one's; nothing is changed then. Nobody else may have the
    folder open: see :func:`nabrel.store.folder.held`.
    """
    version = backup.verify(file)
    if version not in revisions():
        raise newer(str(file))
    target = made_folder(folder) / FILE_NAME
    with _named(target):
        before, accounts = None, _accounts_of(target)
        coming = target.with_name(COMING[1])
        try:
            _rebuild(file, version, coming)
            _set_accounts(coming, accounts)
            if target.exists() and target.stat().st_size > 0:
                try:
                    before = backup.automatic(target, "restore")
                    _settle(target)
                except Unusable:
                    # A damaged one is what a backup is restored for: it is kept aside as it is.
                    _set_aside(target)
            put_in_place(coming, target)
        finally:
            _clear(coming)
        Database(folder).close()
    return before if before is not None and before.is_file() else None


def _set_accounts(coming: Path, accounts: list[dict[str, Any]] | None) -> None:
    """Who may sign in stays as it stands: a backup must not let somebody in again who was removed since."""
    engine = create_engine(f"sqlite:///{coming}", hide_parameters=True)
    try:
        with engine.begin() as connection:
            connection.exec_driver_sql("DELETE FROM sign_in")
            if accounts is not None:
                connection.exec_driver_sql("DELETE FROM account")
            if accounts:
                connection.execute(insert(AccountRow), accounts)
    finally:
        engine.dispose()


def _set_aside(target: Path) -> None:
    """Rename a damaged database, with what lies beside it."""
    aside = f"{DAMAGED}-{datetime.now(UTC):%Y%m%dT%H%M%SZ}-{FILE_NAME}"
    for beside in ("-wal", "-shm", ""):
        file = target.with_name(FILE_NAME + beside)
        if file.exists():
            file.replace(target.with_name(aside + beside))
    sync_folder(target.parent)


def _accounts_of(path: Path) -> list[dict[str, Any]] | None:
    """The accounts of a database as they stand; None where it is not there, is damaged, or knew none yet."""
    if not path.is_file():
        return None
    engine = create_engine(f"sqlite:///{path}", hide_parameters=True)
    try:
        with engine.connect() as connection:
            return [dict(row._mapping) for row in connection.execute(select(AccountRow.__table__))]
    except DBAPIError:
        return None
    finally:
        engine.dispose()


def _engine(path: Path) -> Engine:
    # Errors are logged, and what a statement was given may be somebody's name.
    engine = create_engine(f"sqlite:///{path}", connect_args={"timeout": BUSY_S}, hide_parameters=True)

    @event.listens_for(engine, "connect")
    def configure(connection: Any, _record: object) -> None:
        connection.execute("PRAGMA foreign_keys = ON")
        connection.execute("PRAGMA journal_mode = WAL")
        # What was acknowledged is on the disk, whatever happens to the power.
        connection.execute("PRAGMA synchronous = FULL")
        # What is erased is overwritten, not only unlinked: a skin record goes when the sitter asks.
        connection.execute("PRAGMA secure_delete = ON")
        know_names(connection)

    @event.listens_for(engine, "savepoint")
    def waiting(connection: Connection, _name: str) -> None:
        # A savepoint on its own reads first, and SQLite refuses what then writes at once where another has written meanwhile.
        raw = connection.connection.driver_connection
        if isinstance(raw, sqlite3.Connection) and not raw.in_transaction:
            connection.exec_driver_sql("BEGIN IMMEDIATE")

    return engine


def migrate(engine: Engine, revision: str = "head") -> None:
    """Bring the tables to a revision, the newest unless one is named."""
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, revision)
