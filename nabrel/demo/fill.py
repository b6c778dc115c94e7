"""Fill an empty store with the demo scenario."""

from __future__ import annotations

from dataclasses import replace

from nabrel.core.house import House
from nabrel.core.recommend import plan
from nabrel.demo.kestrel_quay import sitters
from nabrel.demo.kit import kit
from nabrel.store.database import Database
from nabrel.store.repositories import Kit, Sequences, Sitters


def fill(database: Database) -> bool:
    """Put Kestrel Quay into a store that holds no sitter; whether anything was added."""
    with database.session() as session:
        stored = Sitters(session)
        if stored.all():
            return False
        Kit(session).take_in(kit())
        for case in sitters():
            sitter_id = stored.add(case.sitter, case.intent)
            sequence = replace(plan(case, House()), title=f"{case.sitter.nickname} for the season")
            Sequences(session).add(sitter_id, sequence)
    return True
