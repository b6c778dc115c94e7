"""Whom to leave nothing of: their own rows, and their names in the titles of what stays; and what takes both out of a database."""

from __future__ import annotations

import re
import sqlite3
from calendar import day_name, month_name
from collections.abc import Collection, Iterable, Iterator
from contextlib import closing, suppress
from dataclasses import dataclass, field, fields
from itertools import chain
from pathlib import Path
from typing import Literal

from nabrel.store import backup
from nabrel.store.folder import FILE_NAME, Unusable
from nabrel.store.names import (
    MENTIONS,
    NAMED,
    UNMENTIONED,
    know_names,
    mentioned,
    name_digest,
    said_in,
    words_digest,
)

Titled = Literal["plan", "class", "set", "kit"]


@dataclass(frozen=True, slots=True)
class TitleColumn:
    """A column that holds titles: of what, by which key, and the fields of a document (none: a plain text).

    ``version`` names the column that grows with every change, so that who has the former title open does not write it back.
    """

    kind: Titled
    table: str
    key: str
    column: str
    within: str = ""
    version: str = ""
    listed: bool = True


PLACES = (
    TitleColumn("plan", "sequence", "id", "title"),
    TitleColumn("plan", "revision", "sequence_id", "says"),
    TitleColumn("plan", "revision", "sequence_id", "name"),
    # Its titles are those of the plan, or of what its revisions say: it takes long to read them all.
    TitleColumn("plan", "revision", "sequence_id", "document", "title", listed=False),
    TitleColumn("class", "class", "key", "document", "title,course", "version"),
    TitleColumn("set", "drill_set", "key", "document", "title"),
    TitleColumn("kit", "named_kit", "id", "name"),
    TitleColumn("kit", "named_kit", "id", "document", "name", "version"),
)
SITTERS_OWN = {
    "plan": "{key} IN (SELECT id FROM sequence WHERE sitter_id = ?)",
    "class": "sequence_id IN (SELECT id FROM sequence WHERE sitter_id = ?)",
}
"""What goes with a sitter anyway."""


POSSESSIVE = re.compile(r"['’]s\b")
CALENDAR = frozenset(word.casefold() for word in (*month_name, *day_name) if word)
"""Names that are a month or a day too."""


@dataclass(frozen=True, slots=True)
class Mention:
    """A title in which a name stands; ``sure`` where it is written as the name is and means nothing else here."""

    kind: Titled
    key: str
    text: str
    sure: bool

    @property
    def id(self) -> str:
        """How a request names it: all titles of one thing together."""
        return f"{self.kind}:{self.key}"


@dataclass(frozen=True, slots=True)
class Removal:
    """One statement that takes something out of a table, and what finds whether it is still there."""

    table: str
    where: str
    values: tuple[str, ...]
    change: str = ""
    changed: tuple[str, ...] = ()

    def run(self, opened: sqlite3.Connection) -> None:
        """Take it out. A database of an older schema may have no such table yet: then nothing of it is there."""
        if backup.has_table(opened, self.table):
            begin = f'UPDATE "{self.table}" SET {self.change}' if self.change else f'DELETE FROM "{self.table}"'
            opened.execute(f"{begin} WHERE {self.where}", (*self.changed, *self.values))

    def left(self, opened: sqlite3.Connection) -> bool:
        """Whether something of it is there."""
        if not backup.has_table(opened, self.table):
            return False
        return opened.execute(f'SELECT 1 FROM "{self.table}" WHERE {self.where}', self.values).fetchone() is not None


@dataclass(frozen=True, slots=True)
class Erased:
    """Whom to leave nothing of: sitters by id, students by key, the digests of their names as classes have them, and titles: the digest
    of the words, the kind and the key.

    Of a student every row of the name goes; of a sitter those that were typed without the link to the face: the others go with it.
    """

    sitters: list[str] = field(default_factory=list)
    students: list[str] = field(default_factory=list)
    names: list[str] = field(default_factory=list)
    nicknames: list[str] = field(default_factory=list)
    titles: list[tuple[str, Titled, str]] = field(default_factory=list)

    def __bool__(self) -> bool:
        return bool(self.sitters or self.students)

    def with_(self, more: Erased) -> Erased:
        """Both together."""
        return Erased(*(sorted({*getattr(self, each.name), *getattr(more, each.name)}) for each in fields(Erased)))

    def removals(self) -> Iterator[Removal]:
        """What takes them out of a database, one by one."""
        if self.sitters:
            # What was asked about their faces. Who is at a set goes on with it in a new session.
            yield Removal("drill_session", "set_key IS NOT NULL", ())
        for sitter_id in self.sitters:
            yield Removal("sitter", "id = ?", (sitter_id,))
        for key in self.students:
            yield Removal("student", "key = ?", (key,))
        for digest in self.names:
            yield Removal("class_student", f"{NAMED}(document) = ?", (digest,))
        for digest in self.nicknames:
            yield Removal("class_student", f"sitter_id IS NULL AND {NAMED}(document) = ?", (digest,))
        for words, kind, key in self.titles:
            for place in PLACES:
                if place.kind == kind:
                    yield _untitled(place, key, words)

    def left_in(self, opened: sqlite3.Connection) -> bool:
        """Whether anything of them still stands in a database."""
        return any(each.left(opened) for each in self.removals())


def _untitled(place: TitleColumn, key: str, words: str) -> Removal:
    change = f"{place.column} = {UNMENTIONED}({place.column}, ?, ?)"
    if place.version:
        change += f", {place.version} = {place.version} + 1"
    where = f"{place.key} = ? AND {MENTIONS}({place.column}, ?, ?)"
    return Removal(place.table, where, (key, place.within, words), change, (place.within, words))


def erase_from(file: Path, gone: Erased) -> None:
    """Take them out of a backup for good, and verify it. Tables keep their names, so older schemas are read as well.

    Rewritten whole, so that no page that once held them is left. Refuses where something of them stays.
    """
    with backup.rewritten(file) as found:
        for each in gone.removals():
            each.run(found)
        found.commit()
        found.execute("VACUUM")
        if gone.left_in(found):
            raise Unusable(f"Not everything could be erased from {file}.", "Remove that file by hand.")


def mentions(folder: Path, name: str, own: str = "", other_words: Collection[str] = ()) -> list[Mention]:
    """The titles in which a name stands, in the database of a folder and in its backups, without those that go with the sitter ``own``.

    Not sure are those written otherwise than names are, and all of them where one of its words is among ``other_words`` (words that
    mean something else here, such as an item of the shelf that is called by a colour), a month or a day.
    """
    digest = words_digest(name)
    if not digest:
        return []
    others = CALENDAR.union(word.casefold() for text in other_words for word in text.split())
    means_else = any(word in others for word in name.casefold().split())
    found: dict[tuple[Titled, str, str], Mention] = {}
    for file in chain([folder / FILE_NAME], backup.all_of(folder)):
        # One that cannot be read is met again as it is erased from, and told then.
        with (
            suppress(sqlite3.Error),
            closing(sqlite3.connect(f"{file.absolute().as_uri()}?mode=ro", uri=True)) as opened,
        ):
            know_names(opened)
            for place in PLACES:
                if not place.listed or not backup.has_table(opened, place.table):
                    continue
                for key, text in _with_name(opened, place, digest, own):
                    sure = not means_else and _as_a_name(text, digest)
                    found.setdefault((place.kind, key, text), Mention(place.kind, key, text, sure))
    return sorted(found.values(), key=lambda each: (not each.sure, each.kind, each.text, each.key))


def _as_a_name(text: str, digest: str) -> bool:
    """Whether what is found is written as names are each time: a single word with a capital that does not only begin the text."""
    for start, end in mentioned(text, digest):
        word, alone = text[start:end], digest.startswith("1:")
        if not word[:1].isupper() or word.isupper() or (alone and start == 0 and not POSSESSIVE.match(text, end)):
            return False
    return True


def _with_name(opened: sqlite3.Connection, place: TitleColumn, digest: str, own: str) -> Iterator[tuple[str, str]]:
    where, values = f"{MENTIONS}({place.column}, ?, ?)", [place.within, digest]
    if own and place.kind in SITTERS_OWN:
        where, values = f"{where} AND NOT {SITTERS_OWN[place.kind].format(key=place.key)}", [*values, own]
    for key, held in opened.execute(
        f'SELECT DISTINCT {place.key}, {place.column} FROM "{place.table}" WHERE {where}', values
    ):
        yield from ((key, said) for _, said in said_in(held, place.within) if mentioned(said, digest))


def titles_of(found: list[Mention], name: str, left: Collection[str]) -> list[tuple[str, Titled, str]]:
    """What is noted of the titles that a name is to be taken out of: all but those whose id is among ``left``."""
    words = words_digest(name)
    chosen = {(words, each.kind, each.key) for each in found if each.id not in left}
    return sorted(chosen)


def of_sitter(sitter_id: str, nickname: str, titles: Iterable[tuple[str, Titled, str]] = ()) -> Erased:
    """What to erase of a sitter."""
    return Erased(sitters=[sitter_id], nicknames=[name_digest(nickname)], titles=[*titles])


def of_student(key: str, name: str, titles: Iterable[tuple[str, Titled, str]] = ()) -> Erased:
    """What to erase of a student."""
    return Erased(students=[key], names=[name_digest(name)], titles=[*titles])
