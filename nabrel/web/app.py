"""The application factory."""

from __future__ import annotations

from collections.abc import Callable
from functools import cache
from pathlib import Path
from typing import Any

from flask import Blueprint, Flask, Response, request, send_from_directory
from flask_talisman import Talisman
from werkzeug.routing import PathConverter, Rule

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
from nabrel.web.layer.sheet import sheets
from nabrel.web.layer.trials import trials
from nabrel.web.pace.endpoints import pace_room
from nabrel.web.pace.run import runs
from nabrel.web.read.endpoints import read_room
from nabrel.web.shared import failures, guard, only_me, signing_in, trail, uploads
from nabrel.web.shared.guard import Names
from nabrel.web.shared.heavy import Heavy, Here
from nabrel.web.shared.remembered import Remembered
from nabrel.web.shared.requests import heavy as heavy_work
from nabrel.web.shared.under_way import UnderWay
from nabrel.web.shelf.endpoints import shelf
from nabrel.web.shelf.measured import shelf_measured
from nabrel.web.wear.endpoints import wear_room
from nabrel.web.wear.files import wear_files
from nabrel.web.wear.learning import wear_learning
from nabrel.web.wear.season import wear_season
from nabrel.web.wear.wear_trial import wear_trials
from nabrel.web.weigh.endpoints import weigh_room

STATIC = Path(__file__).parent / "static"
DOCUMENT = Path(__file__).parent / "openapi.json"
"""The OpenAPI document, which a test holds to what the endpoints say."""
ROOMS = (
    home,
    damaged_records,
    waiting,
    plans,
    layer,
    questions,
    trials,
    sheets,
    house_rules,
    shelf,
    shelf_measured,
    card_room,
    read_room,
    workspace,
    weigh_room,
    pace_room,
    runs,
    wear_room,
    wear_files,
    wear_learning,
    wear_trials,
    wear_season,
    classes,
    class_live,
    adapting,
    drill,
    drill_students,
    drill_sets,
    accounts,
)
"""All endpoints, in the order in which the document lists them."""
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


class LazyRule(Rule):
    """A route that works out how its address is written only once that is asked for.

    Nothing here asks: pages and programs write addresses themselves, and for all routes at once it takes a tenth of a second.
    """

    def _compile_builder(self, append_unknown: bool = True) -> Callable[..., tuple[str, str]]:
        compiled = super()._compile_builder

        def build(own: Rule, *args: Any, **values: Any) -> tuple[str, str]:
            return compiled(append_unknown)(own, *args, **values)

        return build


class Application(Flask):
    """Flask, with addresses that are not written out."""

    url_rule_class = LazyRule


def create_app(
    database: Database,
    names: Names | None = None,
    *,
    sign_in: bool = False,
    alone: bool = False,
    heavy: Heavy | None = None,
) -> Application:
    """The whole application on an open database, answering to loopback and some names: to whom is signed in where demanded, or to its owner alone."""
    app = Application("nabrel", static_folder=None)
    app.url_map.converters["page"] = PageConverter
    app.extensions["nabrel_database"] = database
    app.extensions["nabrel_heavy"] = heavy or Here()
    app.extensions["nabrel_remembered"] = Remembered(heavy_work)
    app.extensions["nabrel_under_way"] = UnderWay()
    app.extensions["nabrel_drills"] = Sessions()
    app.extensions["nabrel_handouts"] = UnderWay("Other handouts are being made.")
    for room in ROOMS:
        app.register_blueprint(room.blueprint)
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


class PageConverter(PathConverter):
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
