"""The House rules room: the book, its parameters, and what this educator decided otherwise."""

from __future__ import annotations

from flask import Response
from sqlalchemy.orm import Session

from nabrel.formats.loader import read_house
from nabrel.store.house_rules import HouseRules
from nabrel.store.repositories import Kit
from nabrel.store.versions import moment
from nabrel.web.shared import present
from nabrel.web.shared import wire as w
from nabrel.web.shared.requests import Endpoints, as_file, database
from nabrel.web.shared.uploads import taken_file

house_rules = Endpoints("house_rules", __name__, url_prefix="/api/house", tag="house")


@house_rules.get("", operation_id="house", responses={200: w.HouseWire})
def get_house() -> w.HouseWire:
    """Every rule and parameter with what was decided."""
    with database().session() as session:
        return _book(session)


@house_rules.put("/rules/<name>", operation_id="decide_rule", responses={200: w.HouseWire})
def put_rule(path: w.NamePath, query: w.OnVersion, body: w.RuleBody) -> w.HouseWire:
    """Switch a rule off or change its severity, with a note why; a decision that changes nothing is a reset."""
    with database().session() as session:
        rules = HouseRules(session)
        rules.decide_rule(path.name, body.root, query.version)
        return _book(session)


@house_rules.put("/parameters/<name>", operation_id="decide_parameter", responses={200: w.HouseWire})
def put_parameter(path: w.NamePath, query: w.OnVersion, body: w.ParameterBody) -> w.HouseWire:
    """Decide a parameter otherwise, with a note why."""
    with database().session() as session:
        rules = HouseRules(session)
        rules.decide_parameter(path.name, body.root, query.version)
        return _book(session)


@house_rules.delete("/rules/<name>", operation_id="reset_rule", responses={200: w.HouseWire})
def delete_rule(path: w.NamePath, query: w.OnVersion) -> w.HouseWire:
    """Back to the book."""
    return _reset("rule", path.name, query.version)


@house_rules.delete("/parameters/<name>", operation_id="reset_parameter", responses={200: w.HouseWire})
def delete_parameter(path: w.NamePath, query: w.OnVersion) -> w.HouseWire:
    """Back to the book."""
    return _reset("parameter", path.name, query.version)


@house_rules.delete("/taken-over/<number>", operation_id="undo_taken_over", responses={200: w.HouseWire})
def delete_taken_over(path: w.NumberPath) -> w.HouseWire:
    """Undo a factor that was taken over from wear records; it stays listed."""
    with database().session() as session:
        rules = HouseRules(session)
        rules.undo(path.number, moment())
        return _book(session)


@house_rules.delete("", operation_id="reset_house", responses={200: w.HouseWire})
def delete_house() -> w.HouseWire:
    """All decisions back to the book; factors from wear records are undone and stay listed."""
    with database().session() as session:
        rules = HouseRules(session)
        rules.reset_all(moment())
        return _book(session)


@house_rules.get("/file", operation_id="export_house", responses={200: None})
def get_house_file() -> Response:
    """The decisions as a house file."""
    with database().session() as session:
        return as_file(HouseRules(session).model(), "house.json")


@house_rules.put("/file", operation_id="import_house", responses={200: w.HouseWire})
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
