"""Names of who is erased in the titles of what stays: found, asked about, and taken out but for those to leave."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from nabrel.formats.values import filled
from nabrel.store.erasing import Mention, mentions
from nabrel.store.repositories import Kit
from nabrel.web.shared import wire as w
from nabrel.web.shared.requests import database

MOST_LEFT, MOST_LONG = 500, 70
"""So many ids, each so long, go into the head of a request."""


class LeaveQuery(w.Query):
    """Which titles stay as they are, by the ids of ``mentions``; out of all others the name is taken."""

    leave: Annotated[
        list[Annotated[str, Field(max_length=MOST_LONG)]], Field(max_length=MOST_LEFT, default_factory=list)
    ]


def found_mentions(name: str, own: str = "") -> list[Mention]:
    """The titles in which a name stands, without those of the sitter ``own``. What is called by a name of the shelf is not sure."""
    with database().session() as session:
        items = [each.name for each in Kit(session).all()]
    return mentions(database().folder, name, own, items)


def mentions_wire(found: list[Mention]) -> list[w.MentionWire]:
    """They as they are answered."""
    return [filled(w.MentionWire, each) for each in found]
