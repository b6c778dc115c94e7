"""What endpoints of all rooms ask of a request: the store, the house, the plan, files in and out."""

from __future__ import annotations

import json
import re
from collections.abc import Callable, Iterable
from datetime import UTC, date, datetime
from typing import TypeVar

from flask import Response, current_app, g, request
from pydantic import BaseModel

from nabrel.core.house import House
from nabrel.core.judge.evaluate import Evaluation, evaluate
from nabrel.core.plan.sequence import Sequence
from nabrel.core.terms.ids import Light
from nabrel.formats.sheet import forget_pages
from nabrel.store.database import Database
from nabrel.store.house_rules import HouseRules
from nabrel.store.repositories import Kit, Sequences, StoredSequence, forget_read
from nabrel.store.shelf import Tools
from nabrel.web.doors import GONE, OWNER
from nabrel.web.shared.heavy import Heavy, What
from nabrel.web.shared.remembered import Remembered, Standing, as_of
from nabrel.web.shared.under_way import UnderWay

Answer = TypeVar("Answer")


def database() -> Database:
    """The application's database."""
    found: Database = current_app.extensions["nabrel_database"]
    return found


def clock() -> datetime:
    """This moment by the server's clock, which is everybody's; a test sets another."""
    found: Callable[[], datetime] = current_app.extensions.get("nabrel_clock", lambda: datetime.now(UTC))
    return found()


def house() -> House:
    """The house that this request goes by: what was decided stands from the next request on."""
    if "nabrel_house" not in g:
        with database().session() as session:
            g.nabrel_house = HouseRules(session).house()
    found: House = g.nabrel_house
    return found


def shelf() -> Standing:
    """The shelf as this request finds it."""
    if "nabrel_shelf" not in g:
        with database().session() as session:
            g.nabrel_shelf = Standing(Kit(session).all(), Tools(session).all())
    found: Standing = g.nabrel_shelf
    return found


def owner() -> str:
    """Whose share of the server this request counts to: an account's, or that of an address."""
    scope = request.environ.get("asgi.scope", {})
    return str(scope.get(OWNER) or request.remote_addr or "")


def heavy(what: What, function: Callable[..., Answer], *arguments: object, way: UnderWay | None = None) -> Answer:
    """The answer of a function that takes long, worked out where nobody else waits for it."""
    gone = request.environ.get("asgi.scope", {}).get(GONE)
    return workers().run(what, owner(), gone, function, *arguments, way=way)


def workers() -> Heavy:
    """Where the application's heavy work is done."""
    found: Heavy = current_app.extensions["nabrel_heavy"]
    return found


def remembered() -> Remembered:
    """What the application remembers of its sequences."""
    found: Remembered = current_app.extensions["nabrel_remembered"]
    return found


def forget(sequence_ids: Iterable[str]) -> None:
    """Keep nothing in memory of sequences that were erased or replaced."""
    forget_read()
    forget_pages()
    workers().forget()
    current_app.extensions["nabrel_drills"].forget_all()
    remembered().forget(sequence_ids)


def evaluated(stored: StoredSequence, light: Light = "daylight", former: Evaluation | None = None) -> Evaluation:
    """The evaluation of a stored revision; ``former`` is one of the same plan, whose reading may still hold."""
    return remembered().evaluate(stored, house(), shelf(), light, former)


def evaluated_today(sequence: Sequence, light: Light = "daylight") -> Evaluation:
    """The evaluation of a sequence that is not the one that stands, on the day that the standing one is judged by."""
    return evaluate(as_of(sequence, date.today(), shelf()), house(), light)


def stored_sequence(sequence_id: str) -> StoredSequence:
    """A stored sequence at its head."""
    with database().session() as session:
        return Sequences(session).get(sequence_id)


def as_file(model: BaseModel, name: str) -> Response:
    """A model as a JSON file of this name."""
    text = json.dumps(model.model_dump(mode="json", exclude_none=True), indent=1, ensure_ascii=False)
    return download(text + "\n", name, "application/json")


def download(text: str | bytes, name: str, mimetype: str) -> Response:
    """A text as a file of this name, whatever is in the name."""
    safe = re.sub(r"[^A-Za-z0-9._-]+", "-", name).strip("-.") or "nabrel.json"
    return Response(text, mimetype=mimetype, headers={"Content-Disposition": f'attachment; filename="{safe}"'})
