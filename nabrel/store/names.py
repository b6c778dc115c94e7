"""Names as they are compared: without regard to case, spacing and how letters are composed; and noted without being written down."""

from __future__ import annotations

import hashlib
import json
import re
import sqlite3
import unicodedata
import zlib
from collections.abc import Callable, Iterator
from functools import lru_cache

from nabrel.formats.loader import unpacked

NAMED = "nabrel_named"
"""In SQL: the digest of the name that a document holds; empty where it holds none, or cannot be read."""
MENTIONS, UNMENTIONED = "nabrel_mentions", "nabrel_unmentioned"
"""In SQL: whether a name stands among the words of a text, and the text without it. Both take the text (or document), the fields of
the document that are meant (none for a plain text), and the name as :func:`words_digest` notes it."""
SOMEBODY = "somebody"
SHORT = 60
"""A text may grow to so many characters as a name is taken out of it: every title may be longer."""
_WORD = re.compile(r"\w+")


def name_key(name: str) -> str:
    """A name as it is looked for: the same for any case and spacing."""
    return " ".join(unicodedata.normalize("NFKC", name).split()).casefold()


def name_digest(name: str) -> str:
    """What stands for a name where it must not be written: of the same name always the same."""
    return hashlib.sha256(name_key(name).encode()).hexdigest()


def words_digest(name: str) -> str:
    """What stands for a name that is looked for among other words: how many words it has, and their digest.

    Of the same words always the same, whatever stands between them. Empty for a name without a letter or figure.
    """
    words = [each[0] for each in _words(name)]
    return f"{len(words)}:{name_digest(' '.join(words))}" if words else ""


def mentioned(text: str, digest: str) -> tuple[tuple[int, int], ...]:
    """Where the name stands in a text whose letters are composed: from and to, each time."""
    return _found(unicodedata.normalize("NFC", text), digest)


def unmentioned(text: str, digest: str) -> str:
    """A text with the name taken out of it; the same text where it is not in it. It grows to no more than ``SHORT`` by that."""
    composed = unicodedata.normalize("NFC", text)
    places = _found(composed, digest)
    if not places:
        return text
    found = composed
    for start, end in reversed(places):
        found = found[:start] + SOMEBODY + found[end:]
    found = found[:1].upper() + found[1:] if places[0][0] == 0 else found
    return found[: max(len(text), SHORT)].rstrip()


def _words(text: str) -> list[tuple[str, int, int]]:
    """The words of a text, as they are compared, with where each begins and ends."""
    return [
        (name_key(each[0]), each.start(), each.end()) for each in _WORD.finditer(unicodedata.normalize("NFC", text))
    ]


@lru_cache(maxsize=4096)
def _found(text: str, digest: str) -> tuple[tuple[int, int], ...]:
    """Where the name stands in a composed text, without overlaps."""
    count = int(digest.partition(":")[0] or 0)
    words = _words(text)
    places: list[tuple[int, int]] = []
    for first in range(len(words) - count + 1) if count else ():
        begin, end = words[first][1], words[first + count - 1][2]
        if places and begin < places[-1][1]:
            continue
        if f"{count}:{name_digest(' '.join(each[0] for each in words[first : first + count]))}" == digest:
            places.append((begin, end))
    return tuple(places)


def _named(document: object) -> str:
    try:
        name = json.loads(str(document))["name"]
    except (ValueError, KeyError, TypeError):
        return ""
    return name_digest(name) if isinstance(name, str) else ""


def said_in(document: str, fields: str) -> Iterator[tuple[str, str]]:
    """The fields of a document that are texts, with what they say; of a plain text that is all of it, in no field."""
    if not fields:
        yield "", document
        return
    try:
        found = json.loads(unpacked(document))
    except (ValueError, zlib.error):
        return
    for field in fields.split(","):
        if isinstance(found, dict) and isinstance(found.get(field), str):
            yield field, found[field]


def _mentions(text: object, fields: str, digest: str) -> bool:
    return isinstance(text, str) and any(mentioned(said, digest) for _, said in said_in(text, fields))


def _unmentioned(text: str, fields: str, digest: str) -> str:
    without = {field: unmentioned(said, digest) for field, said in said_in(text, fields)}
    if not fields:
        return without.get("", text)
    # Compressed or not, both are read.
    return json.dumps({**json.loads(unpacked(text)), **without}, ensure_ascii=False, separators=(",", ":"))


def know_names(connection: sqlite3.Connection) -> None:
    """Let statements of a connection compare names."""
    known: tuple[tuple[str, int, Callable[..., str | int]], ...] = (
        (NAMED, 1, _named), (MENTIONS, 3, _mentions), (UNMENTIONED, 3, _unmentioned),
    )  # fmt: skip
    for name, values, function in known:
        connection.create_function(name, values, function, deterministic=True)
