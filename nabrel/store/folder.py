"""The data folder: where everything lies, who may read it, and one server at a time.

``nabrel.sqlite`` is the database, ``backups/`` its copies, ``logs/`` what the server says of itself.
"""

from __future__ import annotations

import contextlib
import errno
import os
import sqlite3
import sys
import time
from collections.abc import Iterator
from pathlib import Path

import platformdirs

from nabrel.core.errors import Told

FILE_NAME = "nabrel.sqlite"
BACKUPS, LOGS = "backups", "logs"
LOCK = "nabrel.lock"
OWN_FOLDER, OWN_FILE = 0o700, 0o600


class Unusable(Told):
    """What is kept cannot be used as it stands."""

    def __init__(self, what: str, do: str) -> None:
        super().__init__("database", what, do)


class NoRoom(Unusable):
    """The disk is full."""


def reason(error: sqlite3.Error | OSError, where: str = "the database") -> Unusable | None:
    """Why SQLite or the disk refused, where it is nothing that Nabrel did; None for anything else."""
    if isinstance(error, OSError):
        if error.errno in (errno.ENOSPC, errno.EDQUOT):
            return NoRoom(f"There is no room left on the disk of {where}.", "Free some, then try again.")
        return Unusable(f"Nabrel cannot write to {where} ({error.strerror}).", "Allow it, then try again.")
    name = str(getattr(error, "sqlite_errorname", ""))
    known = {
        "SQLITE_FULL": NoRoom(f"There is no room left on the disk of {where}.", "Free some, then try again."),
        "SQLITE_BUSY": Unusable(f"Another program holds {where}.", "Close it, then try again."),
        "SQLITE_LOCKED": Unusable(f"Another program holds {where}.", "Close it, then try again."),
        "SQLITE_READONLY": Unusable(
            f"Nabrel may read {where} and not write to it.", "Allow writing to it and its folder."
        ),
        "SQLITE_CANTOPEN": Unusable(f"Nabrel cannot open {where}.", "Allow reading and writing it and its folder."),
        "SQLITE_CORRUPT": damaged(where),
        "SQLITE_NOTADB": damaged(where),
        "SQLITE_IOERR": Unusable(f"The disk fails under {where}.", "Check the disk, then restore a backup elsewhere."),
    }
    return next((found for start, found in known.items() if name.startswith(start)), None)


def damaged(where: str) -> Unusable:
    """The file is no whole database."""
    return Unusable(f"{where[0].upper()}{where[1:]} is damaged.", "Restore a backup: nabrel restore FILE.")


def data_folder() -> Path:
    """The one data folder: ``NABREL_DATA`` where it is set, else the platform's usual place for this person."""
    named = os.environ.get("NABREL_DATA")
    return Path(named) if named else Path(platformdirs.user_data_dir("nabrel", appauthor=False))


def made_folder(folder: Path) -> Path:
    """The folder, made for its owner alone where it is not there. Refuses one that cannot be made or written to."""
    try:
        if not folder.is_dir():
            folder.mkdir(parents=True, exist_ok=True)
            sync_folder(folder.parent)
        folder.chmod(OWN_FOLDER)
    except OSError as error:
        raise reason(error, str(folder)) or error from None
    if not os.access(folder, os.W_OK | os.X_OK):
        raise Unusable(f"Nabrel may not write to {folder}.", "Allow it, or name another folder in NABREL_DATA.")
    return folder


def owned(file: Path) -> Path:
    """The file, readable and writable for its owner alone."""
    if file.exists():
        file.chmod(OWN_FILE)
    return file


def sync_folder(folder: Path) -> None:
    """Have the disk hold the folder's names as they are now: a rename or removal that was not synced can come undone when the
    power fails.
    """
    if sys.platform == "win32":  # which syncs names with the files
        return
    handle = os.open(folder, os.O_RDONLY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)


def put_in_place(part: Path, target: Path) -> None:
    """Give a finished file its name, in the place of what had it: after a power cut either the old or the new one is whole."""
    with part.open("rb+") as written:
        os.fsync(written.fileno())
    os.replace(part, target)
    sync_folder(target.parent)


def write_whole(file: Path, text: str) -> None:
    """Write a small file for its owner alone: all of it, or none."""
    part = file.with_name(file.name + ".part")
    try:
        with os.fdopen(
            os.open(part, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, OWN_FILE), "w", encoding="utf-8"
        ) as written:
            written.write(text)
        put_in_place(part, file)
    finally:
        part.unlink(missing_ok=True)


def remove(file: Path) -> None:
    """Remove a file for good, where it is there."""
    file.unlink(missing_ok=True)
    sync_folder(file.parent)


@contextlib.contextmanager
def held(folder: Path, lock: str = LOCK, wait_s: float = 0.0) -> Iterator[None]:
    """Hold the folder for one server or one restore. Refuses where another process holds it for longer than one waits."""
    made_folder(folder)
    until = time.monotonic() + wait_s
    with (folder / lock).open("a", encoding="utf-8") as file:
        owned(folder / lock)
        while not _locked(file.fileno()):
            if time.monotonic() >= until:
                raise Unusable(f"Another Nabrel has {folder} open.", "Stop that one first.")
            time.sleep(0.02)
        yield


def _locked(handle: int) -> bool:
    if sys.platform == "win32":
        import msvcrt  # noqa: PLC0415

        try:
            msvcrt.locking(handle, msvcrt.LK_NBLCK, 1)
        except OSError:
            return False
        return True
    import fcntl  # noqa: PLC0415

    try:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        return False
    return True
