"""Damaged records over HTTP: listed, exported as they are kept, and erased."""

from __future__ import annotations

from typing import Annotated

from flask import Response
from pydantic import BaseModel, Field

from nabrel.core.terms.limits import Ident
from nabrel.store.damaged import DamagedRecord, assert_damaged, damaged, erase_record, raw_text
from nabrel.store.erasing import of_sitter, titles_of
from nabrel.store.repositories import Sitters
from nabrel.store.sound import met
from nabrel.web.shared import wire as w
from nabrel.web.shared.endpoints import Endpoints
from nabrel.web.shared.mentions import found_mentions
from nabrel.web.shared.requests import database, download, forget

damaged_records = Endpoints("damaged", __name__, url_prefix="/api/damaged", tag="home")


class DamagedList(w.AnswerModel):
    """Every record that cannot be read."""

    records: list[DamagedRecord]


class DamagedQuery(w.Query):
    """Whether to look through all that is kept, which takes a while, or what rooms list; all of it once damage was met."""

    whole: bool = False


class DamagedPath(BaseModel):
    """A record of a kind."""

    kind: Ident
    key: Annotated[str, Field(min_length=1, max_length=200)]


@damaged_records.get("", "damaged_records")
def get_damaged(query: DamagedQuery) -> DamagedList:
    """Every record that cannot be read: lists and exports leave it out."""
    whole = query.whole or met.is_set()
    with database().session() as session:
        found = damaged(session, whole=whole)
    if whole and not found:
        met.clear()
    return DamagedList(records=found)


@damaged_records.get("/<kind>/<key>", "export_damaged")
def get_record(path: DamagedPath) -> Response:
    """A damaged record as it is kept."""
    with database().session() as session:
        assert_damaged(session, path.kind, path.key)
        text = raw_text(session, path.kind, path.key)
    return download(text, f"damaged-{path.kind}-{path.key}.txt", "text/plain")


@damaged_records.delete("/<kind>/<key>", "erase_damaged", 204)
def delete_record(path: DamagedPath) -> Response:
    """Erase a damaged record. A sitter goes with all that is kept of them, from every file. Refuses one that can be read."""
    with database().session() as session:
        assert_damaged(session, path.kind, path.key)
        nickname = Sitters(session).nickname(path.key) if path.kind == "sitter" else None
        if nickname is None:
            erase_record(session, path.kind, path.key)
    if nickname is not None:
        # Nobody is asked here: out of titles it is taken where it can mean nothing else.
        found = [each for each in found_mentions(nickname, path.key) if each.sure]
        database().erase(of_sitter(path.key, nickname, titles_of(found, nickname, ())))
    forget([])
    return Response(status=204)
