"""Opening the database: the data folder, the connection's settings, and migrations up to the newest."""

from __future__ import annotations

import os
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

import platformdirs
from alembic import command
from alembic.config import Config
from sqlalchemy import Engine, create_engine, event
from sqlalchemy.orm import Session, sessionmaker

MIGRATIONS = Path(__file__).parent / "migrations"
FILE_NAME = "nabrel.sqlite"


def data_folder() -> Path:
    """The one data folder: ``NABREL_DATA`` where it is set, else the platform's usual place for this person."""
    named = os.environ.get("NABREL_DATA")
    return Path(named) if named else Path(platformdirs.user_data_dir("nabrel", appauthor=False))


class Database:
    """One SQLite file, migrated when it is opened."""

    def __init__(self, folder: Path) -> None:
        folder.mkdir(parents=True, exist_ok=True)
        self.path = folder / FILE_NAME
        self.engine = _engine(self.path)
        self._sessions = sessionmaker(self.engine, expire_on_commit=False)
        migrate(self.engine)

    @contextmanager
    def session(self) -> Iterator[Session]:
        """A session that commits when the block ends well and changes nothing when it does not."""
        with self._sessions.begin() as session:
            yield session

    def close(self) -> None:
        """Close every connection."""
        self.engine.dispose()


def _engine(path: Path) -> Engine:
    engine = create_engine(f"sqlite:///{path}", connect_args={"timeout": 10})

    @event.listens_for(engine, "connect")
    def configure(connection: Any, _record: object) -> None:
        connection.execute("PRAGMA foreign_keys = ON")
        connection.execute("PRAGMA journal_mode = WAL")
        connection.execute("PRAGMA synchronous = NORMAL")
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
