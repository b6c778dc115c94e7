"""Tools, named kits and runs in the store."""

from __future__ import annotations

from dataclasses import replace

from sqlalchemy import select
from sqlalchemy.orm import Session

from nabrel.core.case.tool import OwnedTool
from nabrel.core.errors import Refused
from nabrel.core.shelf.tools import NamedKit
from nabrel.core.shelf.twins import merged
from nabrel.core.terms.limits import MOST_KITS, MOST_TOOLS
from nabrel.formats.values import text_of, value_from_text
from nabrel.store.repositories import Kit
from nabrel.store.sound import readable, sound
from nabrel.store.tables import NamedKitRow, ToolRow
from nabrel.store.versions import Missing, first_version, lock_for_update, next_place, require_capacity, versions


class Tools:
    """The tools that are owned."""

    def __init__(self, session: Session) -> None:
        self._session = session

    def all(self) -> tuple[OwnedTool, ...]:
        """Every tool, in the order they came."""
        rows = self._session.scalars(select(ToolRow).order_by(ToolRow.position))
        return tuple(sound(rows, lambda row: value_from_text(OwnedTool, row.document)))

    def versions(self) -> dict[str, int]:
        """The version of every tool, by id."""
        return versions(self._session, ToolRow)

    def put(self, tool: OwnedTool, version: int | None = None) -> None:
        """Keep a tool, in the place of the one with its id if there is one. Refuses a stale version."""
        row = lock_for_update(self._session, ToolRow, tool.id, version)
        if row is None:
            require_capacity(self._session, ToolRow.id, MOST_TOOLS, "tools")
            row = ToolRow(id=tool.id, position=next_place(ToolRow.position), version=first_version())
            self._session.add(row)
        row.kind, row.document = tool.kind, text_of(tool)
        self._session.flush()

    def remove(self, tool_id: str, version: int | None = None) -> None:
        """Take a tool out. Refuses an unknown id and a stale version."""
        row = lock_for_update(self._session, ToolRow, tool_id, version)
        if row is None:
            raise Missing("tool", tool_id, "the id of a tool that is kept")
        self._session.delete(row)
        self._session.flush()


class NamedKits:
    """Named parts of the shelf."""

    def __init__(self, session: Session) -> None:
        self._session = session

    def all(self) -> list[NamedKit]:
        """Every named kit, in the order they came."""
        rows = self._session.scalars(select(NamedKitRow).order_by(NamedKitRow.position))
        return sound(rows, lambda row: value_from_text(NamedKit, row.document))

    def get(self, kit_id: str) -> NamedKit:
        """One named kit. Refuses an unknown id."""
        row = self._session.get(NamedKitRow, kit_id)
        if row is None:
            raise Missing("kit", kit_id, "the id of a named kit")
        return readable("kit", lambda: value_from_text(NamedKit, row.document))

    def versions(self) -> dict[str, int]:
        """The version of every named kit, by id."""
        return versions(self._session, NamedKitRow)

    def put(self, kit: NamedKit, version: int | None = None) -> None:
        """Keep a named kit. Refuses items that the shelf lacks, a name that another kit has, and a stale version."""
        row = lock_for_update(self._session, NamedKitRow, kit.id, version)
        owned = {item.id for item in Kit(self._session).all()}
        for place, item in enumerate(kit.items):
            if item not in owned:
                raise Refused(f"items[{place}]", item, "the id of an item on the shelf")
        for other in self.all():
            if other.id != kit.id and other.name.casefold() == kit.name.casefold():
                raise Refused("name", kit.name, "a name that no other kit has")
        if row is None:
            require_capacity(self._session, NamedKitRow.id, MOST_KITS, "kits")
            row = NamedKitRow(id=kit.id, position=next_place(NamedKitRow.position), version=first_version())
            self._session.add(row)
        stored = replace(kit, items=tuple(dict.fromkeys(kit.items)))
        row.name, row.document = kit.name, text_of(stored)
        self._session.flush()

    def remove(self, kit_id: str, version: int | None = None) -> None:
        """Delete a named kit; its items stay on the shelf. Refuses an unknown id and a stale version."""
        row = lock_for_update(self._session, NamedKitRow, kit_id, version)
        if row is None:
            raise Missing("kit", kit_id, "the id of a named kit")
        self._session.delete(row)
        self._session.flush()

    def replace_item(self, old: str, new: str | None) -> None:
        """Put one item in another's place in every kit, or take it out of all."""
        for kit in self.all():
            if old in kit.items:
                items = [new if item == old else item for item in kit.items]
                self.put(replace(kit, items=tuple(dict.fromkeys(item for item in items if item))))


def merge_items(session: Session, into_id: str, other_id: str) -> None:
    """Make one item of two, in named kits too. Refuses unknown ids and items that cannot be one."""
    kit = Kit(session)
    owned = {item.id: item for item in kit.all()}
    for item_id in (into_id, other_id):
        if item_id not in owned:
            raise Missing("item", item_id, "the id of an item on the shelf")
    if into_id == other_id:
        raise Refused("other", other_id, "another item")
    kit.put(merged(owned[into_id], owned[other_id]))
    NamedKits(session).replace_item(other_id, into_id)
    kit.remove(other_id)


def take_off(session: Session, item_id: str, version: int | None = None) -> None:
    """Take an item off the shelf and out of every named kit. Refuses an unknown id and a stale version."""
    Kit(session).remove(item_id, version)
    NamedKits(session).replace_item(item_id, None)
