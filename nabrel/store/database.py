"""Opening the database: the connection's settings, migrations up to the newest, and erasing that leaves nothing."""

from __future__ import annotations

import json
import os
import sqlite3
import time
from collections.abc import Iterable, Iterator, Mapping
from contextlib import closing, contextmanager, suppress
from dataclasses import asdict
from datetime import UTC, datetime
from functools import cache
from pathlib import Path
from types import MappingProxyType
from typing import Any

from alembic import command
from alembic.config import Config
from alembic.migration import MigrationContext
from alembic.script import ScriptDirectory
from sqlalchemy import Engine, create_engine, event, insert, select
from sqlalchemy.exc import DBAPIError
from sqlalchemy.orm import Session, sessionmaker

from nabrel.store import backup
from nabrel.store.folder import FILE_NAME, OWN_FILE, Unusable, damaged, made_folder, owned, reason
from nabrel.store.tables import AccountRow

MIGRATIONS = Path(__file__).parent / "migrations"
ERASING = "erasing.json"
"""The ids of sitters, and students, whose erasing is under way; there only until nothing of them is left in any file."""
DAMAGED = "damaged"
"""What the name of a database begins with that was damaged, and was kept aside when a backup was restored."""
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
            known = self.path.exists() and self.path.stat().st_size > 0
            if known:
                _check(self.path)
            self.path.touch(mode=OWN_FILE)
            owned(self.path)
            self.engine = _engine(self.path)
            self._sessions = sessionmaker(self.engine, expire_on_commit=False)
            if behind(self.engine):
                if known:
                    backup.automatic(self.path, "migration")
                migrate(self.engine)
            self._finish_erasing()

    @contextmanager
    def session(self) -> Iterator[Session]:
        """A session that commits when the block ends well and changes nothing when it does not."""
        with self._sessions.begin() as session:
            yield session

    def erase(self, sitter_ids: Iterable[str] = (), students: Mapping[str, str] = MappingProxyType({})) -> bool:
        """Erase sitters, and students with all classes' rows of their name, for good: from the tables, the write-ahead log and
        every backup. Whether that is all done. ``students`` are names by key.

        What cannot be done now (another program reads, no room for a backup) is done when the database is next opened.
        """
        pending = self.folder / ERASING
        gone = self._erasing()
        gone = backup.Erased(sorted({*gone.sitters, *sitter_ids}), {**gone.students, **students})
        pending.write_text(json.dumps(asdict(gone)), encoding="utf-8")
        owned(pending)
        return self._finish_erasing()

    def _erasing(self) -> backup.Erased:
        try:
            found = json.loads((self.folder / ERASING).read_text(encoding="utf-8"))
        except (OSError, ValueError):
            return backup.Erased()
        # An older Nabrel wrote the sitters alone.
        found = found if isinstance(found, dict) else {"sitters": found}
        sitters = [each for each in found.get("sitters", []) if isinstance(each, str)]
        return backup.Erased(sitters, dict(found.get("students", {})))

    def _finish_erasing(self) -> bool:
        gone = self._erasing()
        if not gone:
            return True
        try:
            with self.engine.begin() as connection:
                for statement, values in gone.statements():
                    connection.exec_driver_sql(statement, values)
                connection.exec_driver_sql(FORGET_KITS)
            done = self.checkpoint()
            for file in backup.all_of(self.folder):
                backup.erase_from(file, gone)
            for file in self.folder.glob(f"{DAMAGED}-*"):
                _shred_if_of(file, [*gone.sitters, *gone.students])
        except (DBAPIError, sqlite3.Error, OSError, Unusable):
            return False
        if done:
            (self.folder / ERASING).unlink(missing_ok=True)
        return done

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


def _check(path: Path) -> None:
    """Refuse a file that is no whole database of this Nabrel or an older one."""
    with closing(sqlite3.connect(f"{path.absolute().as_uri()}?mode=rw", uri=True, timeout=10)) as connection:
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


def behind(engine: Engine) -> bool:
    """Whether the tables are older than this Nabrel."""
    with engine.connect() as connection:
        current = MigrationContext.configure(connection).get_current_revision()
    return current != _scripts().get_current_head()


def restore(file: Path, folder: Path) -> Path | None:
    """Put a backup in the place of the database; what stood there is backed up first. The backup made, None of nothing.

    Refuses a file that is damaged, no database of Nabrel, or a newer one's; nothing is changed then. Nobody else may have the
    folder open: see :func:`nabrel.store.folder.held`.
    """
    if backup.verify(file) not in revisions():
        raise newer(str(file))
    target = made_folder(folder) / FILE_NAME
    with _named(target):
        before, accounts = None, _accounts_of(target)
        if target.exists() and target.stat().st_size > 0:
            try:
                before = backup.automatic(target, "restore")
            except Unusable:
                # A damaged one is what a backup is restored for: it is kept aside as it is.
                target.replace(target.with_name(f"{DAMAGED}-{datetime.now(UTC):%Y%m%dT%H%M%SZ}-{FILE_NAME}"))
        coming = target.with_name("restoring.sqlite")
        backup.copy(file, coming)
        for beside in ("-wal", "-shm"):
            target.with_name(FILE_NAME + beside).unlink(missing_ok=True)
        coming.replace(target)
        opened = Database(folder)
        try:
            with opened.engine.begin() as connection:
                # Who may sign in stays as it stands: a backup must not let somebody in again who was removed since.
                connection.exec_driver_sql("DELETE FROM sign_in")
                if accounts is not None:
                    connection.exec_driver_sql("DELETE FROM account")
                if accounts:
                    connection.execute(insert(AccountRow), accounts)
        finally:
            opened.close()
    return before


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

    return engine


def migrate(engine: Engine, revision: str = "head") -> None:
    """Bring the tables to a revision, the newest unless one is named."""
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, revision)
