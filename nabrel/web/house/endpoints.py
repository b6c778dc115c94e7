"""The House rules room: the book, its parameters, and what this educator decided otherwise."""

from __future__ import annotations

from flask import Response
from sqlalchemy.orm import Session

from nabrel.formats.files import DecidedParameter, DecidedRule
from nabrel.formats.loader import read_house
from nabrel.store.house_rules import HouseRules
from nabrel.store.repositories import Kit
from nabrel.store.versions import moment
from nabrel.web.shared import present
from nabrel.web.shared import wire as w
from nabrel.web.shared.endpoints import Endpoints
from nabrel.web.shared.requests import as_file, database
from nabrel.web.shared.uploads import taken_file

house_rules = Endpoints("house_rules", __name__, url_prefix="/api/house", tag="house")


@house_rules.get("", "house")
def get_house() -> w.HouseWire:
    """Every rule and parameter with what was decided."""
    with database().session() as session:
        return _book(session)


@house_rules.put("/rules/<name>", "decide_rule")
def put_rule(path: w.NamePath, query: w.OnVersion, body: DecidedRule) -> w.HouseWire:
    """Switch a rule off or change its severity, with a note why; a decision that changes nothing is a reset."""
    with database().session() as session:
        rules = HouseRules(session)
        rules.decide_rule(path.name, body, query.version)
        return _book(session)


@house_rules.put("/parameters/<name>", "decide_parameter")
def put_parameter(path: w.NamePath, query: w.OnVersion, body: DecidedParameter) -> w.HouseWire:
    """Decide a parameter otherwise, with a note why."""
    with database().session() as session:
        rules = HouseRules(session)
        rules.decide_parameter(path.name, body, query.version)
        return _book(session)


@house_rules.delete("/rules/<name>", "reset_rule")
def delete_rule(path: w.NamePath, query: w.OnVersion) -> w.HouseWire:
    """Back to the book."""
    return _reset("rule", path.name, query.version)


@house_rules.delete("/parameters/<name>", "reset_parameter")
def delete_parameter(path: w.NamePath, query: w.OnVersion) -> w.HouseWire:
    """Back to the book."""
    return _reset("parameter", path.name, query.version)


@house_rules.delete("/taken-over/<number>", "undo_taken_over")
def delete_taken_over(path: w.NumberPath) -> w.HouseWire:
    """Undo a factor that was taken over from wear records; it stays listed."""
    with database().session() as session:
        rules = HouseRules(session)
        rules.undo(path.number, moment())
        return _book(session)


@house_rules.delete("", "reset_house")
def delete_house() -> w.HouseWire:
    """All decisions back to the book; factors from wear records are undone and stay listed."""
    with database().session() as session:
        rules = HouseRules(session)
        rules.reset_all(moment())
        return _book(session)


@house_rules.get("/file", "export_house")
def get_house_file() -> Response:
    """The decisions as a house file."""
    with database().session() as session:
        return as_file(HouseRules(session).model(), "house.json")


@house_rules.put("/file", "import_house")
def put_house_file() -> w.HouseWire:
    """Take a house file in (JSON body), in place of all decisions that stand; all of it or nothing."""
    model = read_house(taken_file())
    with database().session() as session:
        rules = HouseRules(session)
        rules.replace(model)
        return _book(session)


def _reset(about: str, name: str, version: int | None) -> w.HouseWire:
    with database().session() as session:
        rules = HouseRules(session)
        rules.reset(about, name, version)
        return _book(session)


def _book(session: Session) -> w.HouseWire:
    rules = HouseRules(session)
    taken = present.taken_over(rules, Kit(session).names())
    return present.house_book(rules.house(), rules.versions("rule"), rules.versions("parameter"), taken)
