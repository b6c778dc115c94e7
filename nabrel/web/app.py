"""The application factory."""

from __future__ import annotations

import re
from collections.abc import Callable
from functools import cache
from pathlib import Path
from typing import Any

from flask import Blueprint, Response, request, send_from_directory
from flask_openapi3.models.info import Info
from flask_openapi3.openapi import OpenAPI
from flask_talisman import Talisman
from pydantic import BaseModel
from werkzeug.routing import PathConverter, Rule

from nabrel import __version__
from nabrel.store.database import Database
from nabrel.web.accounts.endpoints import accounts
from nabrel.web.card.endpoints import card_room
from nabrel.web.classes.adapting import adapting
from nabrel.web.classes.endpoints import classes
from nabrel.web.classes.live import class_live
from nabrel.web.drill.endpoints import drill
from nabrel.web.drill.sessions import Sessions
from nabrel.web.drill.sets import drill_sets
from nabrel.web.drill.students import drill_students
from nabrel.web.home.damaged import damaged_records
from nabrel.web.home.endpoints import home
from nabrel.web.home.plans import plans
from nabrel.web.home.waiting import waiting
from nabrel.web.home.workspace import workspace
from nabrel.web.house.endpoints import house_rules
from nabrel.web.layer.endpoints import layer
from nabrel.web.layer.questions import questions
from nabrel.web.layer.sheets import sheets
from nabrel.web.layer.trials import trials
from nabrel.web.pace.endpoints import pace_room
from nabrel.web.pace.runs import runs
from nabrel.web.read.endpoints import read_room
from nabrel.web.shared import failures, guard, only_me, signing_in, trail, uploads
from nabrel.web.shared.guard import Names
from nabrel.web.shared.heavy import Heavy, Here
from nabrel.web.shared.remembered import Remembered
from nabrel.web.shared.requests import heavy as heavy_work
from nabrel.web.shared.signing_in import COOKIE
from nabrel.web.shared.under_way import UnderWay
from nabrel.web.shared.uploads import UPLOADS
from nabrel.web.shelf.endpoints import shelf
from nabrel.web.shelf.measured import shelf_measured
from nabrel.web.wear.endpoints import wear_room
from nabrel.web.wear.files import wear_files
from nabrel.web.wear.learning import wear_learning
from nabrel.web.wear.season import wear_season
from nabrel.web.wear.trials import wear_trials
from nabrel.web.weigh.endpoints import weigh_room

STATIC = Path(__file__).parent / "static"
DOCUMENT = Path(__file__).parent / "openapi.json"
"""The OpenAPI document, which a test holds to what the endpoints say."""
POLICY = {
    "default-src": "'self'",
    "script-src": "'self'",
    "style-src": "'self'",
    "img-src": "'self' data:",
    "font-src": "'self'",
    "connect-src": "'self'",
    "object-src": "'none'",
    "base-uri": "'none'",
    "form-action": "'self'",
    "frame-ancestors": "'none'",
}


class Address(Rule):
    """A route that works out how its address is written only once that is asked for.

    Nothing here asks: pages and programs write addresses themselves, and for all routes at once it takes a tenth of a second.
    """

    def _compile_builder(self, append_unknown: bool = True) -> Callable[..., tuple[str, str]]:
        compiled = super()._compile_builder

        def build(own: Rule, *args: Any, **values: Any) -> tuple[str, str]:
            return compiled(append_unknown)(own, *args, **values)

        return build


class Application(OpenAPI):
    """Flask with an OpenAPI document; endpoints may return wire models."""

    url_rule_class = Address

    def make_response(self, rv: Any) -> Response:
        """Turn a model, or a model with a status, into JSON."""
        if isinstance(rv, BaseModel):
            return Response(rv.model_dump_json(), mimetype="application/json")
        if isinstance(rv, tuple) and rv and isinstance(rv[0], BaseModel):
            return Response(rv[0].model_dump_json(), status=rv[1], mimetype="application/json")
        return super().make_response(rv)


def document(app: Application) -> dict[str, Any]:
    """The OpenAPI document, in words that client generators and fuzzers understand.

    Only for :mod:`nabrel.web.openapi_build`, in whose process the endpoints describe themselves; served is the file that it writes.
    """
    found: dict[str, Any] = _as_read(app.api_doc)
    found["components"] = {name: value for name, value in found["components"].items() if value is not None}
    found["components"]["securitySchemes"] = {"session": {"type": "apiKey", "in": "cookie", "name": COOKIE}}
    # A server on its own machine demands none.
    found["security"] = [{"session": []}, {}]
    for address, upload in UPLOADS.items():
        operations = found["paths"][re.sub(r"<(\w+)>", r"{\1}", address)]
        for method in ("post", "put"):
            if method in operations:
                operations[method]["requestBody"] = {"required": True, "content": dict.fromkeys(upload.kinds, _BYTES)}
    return found


_BYTES: dict[str, Any] = {"schema": {"type": "string", "format": "binary"}}


def _as_read(node: Any) -> Any:
    """The schemas as other programs read them: tuples as arrays of their one kind, and what tells kinds apart as required."""
    if isinstance(node, list):
        return [_as_read(each) for each in node]
    if not isinstance(node, dict):
        return node
    if "prefixItems" in node:
        rest = {key: value for key, value in node.items() if key != "prefixItems"}
        return {**rest, "items": _any_of([_as_read(each) for each in node["prefixItems"]])}
    found = {key: _as_read(value) for key, value in node.items()}
    if isinstance(node.get("properties"), dict):
        tags = [name for name, field in node["properties"].items() if isinstance(field, dict) and "const" in field]
        if tags:
            found["required"] = sorted({*node.get("required", []), *tags})
    return found


def _any_of(kinds: list[dict[str, Any]]) -> dict[str, Any]:
    """What fits any of these schemas: numbers within the widest of their limits, else one of them."""
    unlike = [each for place, each in enumerate(kinds) if each not in kinds[:place]]
    if len(unlike) == 1:
        return unlike[0]
    if {each.get("type") for each in unlike} != {"number"}:
        return {"anyOf": unlike}
    found: dict[str, Any] = {"type": "number"}
    for limit, widest in (("minimum", min), ("maximum", max)):
        if all(limit in each for each in unlike):
            found[limit] = widest(each[limit] for each in unlike)
    return found


def create_app(
    database: Database,
    names: Names | None = None,
    *,
    sign_in: bool = False,
    alone: bool = False,
    heavy: Heavy | None = None,
) -> Application:
    """The whole application on an open database, answering to loopback and some names: to whom is signed in where demanded, or to its owner alone."""
    app = Application(
        "nabrel",
        info=Info(title="Nabrel", version=__version__),
        doc_ui=False,
        validation_error_callback=failures.validation_answer,
        static_folder=None,
    )
    app.url_map.converters["page"] = PagePath
    app.extensions["nabrel_database"] = database
    app.extensions["nabrel_heavy"] = heavy or Here()
    app.extensions["nabrel_remembered"] = Remembered(heavy_work)
    app.extensions["nabrel_under_way"] = UnderWay()
    app.extensions["nabrel_drills"] = Sessions()
    app.extensions["nabrel_handouts"] = UnderWay("Other handouts are being made.")
    app.register_api(home)
    app.register_api(damaged_records)
    app.register_api(waiting)
    app.register_api(plans)
    app.register_api(layer)
    app.register_api(questions)
    app.register_api(trials)
    app.register_api(sheets)
    app.register_api(house_rules)
    app.register_api(shelf)
    app.register_api(shelf_measured)
    app.register_api(card_room)
    app.register_api(read_room)
    app.register_api(workspace)
    app.register_api(weigh_room)
    app.register_api(pace_room)
    app.register_api(runs)
    app.register_api(wear_room)
    app.register_api(wear_files)
    app.register_api(wear_learning)
    app.register_api(wear_trials)
    app.register_api(wear_season)
    app.register_api(classes)
    app.register_api(class_live)
    app.register_api(adapting)
    app.register_api(drill)
    app.register_api(drill_students)
    app.register_api(drill_sets)
    app.register_api(accounts)
    guard.install(app, names or Names())
    if alone:
        only_me.install(app, database.folder)
    signing_in.install(app, database, demanded=sign_in)
    trail.install(app, database.engine)
    uploads.install(app)
    failures.install(app)
    Talisman(
        app,
        force_https=False,
        session_cookie_secure=False,
        session_cookie_samesite="Strict",
        # Said only where the request came over TLS, for this name alone.
        strict_transport_security=True,
        strict_transport_security_include_subdomains=False,
        content_security_policy=POLICY,
        referrer_policy="same-origin",
    )
    app.register_blueprint(_front_end())
    app.after_request(_never_cached)
    return app


def _never_cached(response: Response) -> Response:
    """What the API answers is personal: no browser and no proxy keeps it."""
    if request.path.startswith("/api"):
        response.headers["Cache-Control"] = "no-store"
    return response


class PagePath(PathConverter):
    """Every path that is not the API's: there, an address or method that is not listed is refused as such."""

    regex = "(?!api(?:/|$))[^/].*?"


@cache
def _pages() -> frozenset[str]:
    """The files of the built front end beside its assets: nothing else is asked of the disk, whatever a path says."""
    return frozenset(file.name for file in STATIC.glob("*") if file.is_file())


def _front_end() -> Blueprint:
    """The built front end; every unknown page path answers with it, since the front end routes by path."""
    front_end = Blueprint("front_end", __name__)

    @front_end.get("/api/openapi.json")
    def openapi() -> Response:
        return send_from_directory(DOCUMENT.parent, DOCUMENT.name)

    @front_end.get("/assets/<path:name>")
    def asset(name: str) -> Response:
        response = send_from_directory(STATIC / "assets", name)
        response.headers["Cache-Control"] = "public, max-age=31536000, immutable"
        return response

    @front_end.get("/", defaults={"path": ""})
    @front_end.get("/<page:path>")
    def page(path: str) -> Response:
        if path in _pages():
            return send_from_directory(STATIC, path)
        if not (STATIC / "index.html").is_file():
            return Response("The front end is not built yet: run make setup.", status=503, mimetype="text/plain")
        return send_from_directory(STATIC, "index.html", max_age=0)

    return front_end
