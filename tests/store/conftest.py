"""A stored plan that several tests of the store begin with."""

from __future__ import annotations

from dataclasses import replace

import pytest

from nabrel.core.ask.recommend import plan
from nabrel.core.house import House
from nabrel.store.repositories import Sequences, Sitters

HOUSE = House()


@pytest.fixture
def stored(database, people):
    """A stored plan of Wren: the database, its id and the sequence."""
    case = people["Wren"]
    sequence = replace(plan(case, HOUSE), title="Wren")
    with database.session() as session:
        sitter = Sitters(session).add(case.sitter, case.intent)
        return database, Sequences(session).add(sitter, sequence), sequence
