"""Names as they are compared: without regard to case, spacing and how letters are composed; and noted without being written down."""

from __future__ import annotations

import hashlib
import json
import sqlite3
import unicodedata

NAMED = "nabrel_named"
"""In SQL: the digest of the name that a document holds; empty where it holds none, or cannot be read."""


def name_key(name: str) -> str:
    """A name as it is looked for: the same for any case and spacing."""
    return " ".join(unicodedata.normalize("NFKC", name).split()).casefold()


def name_digest(name: str) -> str:
    """What stands for a name where it must not be written: of the same name always the same."""
    return hashlib.sha256(name_key(name).encode()).hexdigest()


def _named(document: object) -> str:
    try:
        name = json.loads(str(document))["name"]
    except (ValueError, KeyError, TypeError):
        return ""
    return name_digest(name) if isinstance(name, str) else ""


def know_names(connection: sqlite3.Connection) -> None:
    """Let statements of a connection compare names."""
    connection.create_function(NAMED, 1, _named, deterministic=True)
