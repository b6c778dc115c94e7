"""Every failure mapped to an answer, once: the person's mistakes to 4xx with the field, ours to a plain 500."""

from __future__ import annotations

import re
import sqlite3
import traceback

from flask import Flask, Response, current_app, jsonify, request
from flask.typing import ResponseReturnValue
from pydantic_core import from_json
from sqlalchemy.exc import DBAPIError, IntegrityError
from werkzeug.exceptions import BadRequest, HTTPException, MethodNotAllowed

from nabrel.core.errors import Refused
from nabrel.formats.refusing import refuse_deep
from nabrel.store.folder import NoRoom, Unusable, reason
from nabrel.store.versions import Missing, Stale
from nabrel.web.shared.guard import OtherHost, OtherPage
from nabrel.web.shared.heavy import Busy
from nabrel.web.shared.only_me import NotTheOwner
from nabrel.web.shared.signing_in import NotForStudents, NotSignedIn, TooManyTries
from nabrel.web.shared.under_way import Cancelled
from nabrel.web.shared.uploads import UPLOADS, UnsupportedType, here

STATUS: tuple[tuple[type[Refused], int], ...] = (
    (NotSignedIn, 401), (NotTheOwner, 401), (OtherPage, 403), (NotForStudents, 403), (Missing, 404), (Stale, 409), (Cancelled, 409), (UnsupportedType, 415),
    (OtherHost, 421), (TooManyTries, 429), (Busy, 503), (NoRoom, 507), (Unusable, 503), (Refused, 422),
)  # fmt: skip


SURROGATE = re.compile(rb"\\u[dD][89a-fA-F]")
"""Half of a character beyond the first 65,536, as JSON may write it; it takes two to be one."""


def status_of(refused: Refused) -> int:
    """The HTTP status of a refusal."""
    return next(status for kind, status in STATUS if isinstance(refused, kind))


def answer(refused: Refused) -> Response:
    """A refusal as an answer."""
    body = {"field": refused.field, "found": refused.found, "allowed": refused.allowed, "says": str(refused)}
    response = jsonify(body)
    response.status_code = status_of(refused)
    if isinstance(refused, (Busy, TooManyTries)):
        response.headers["Retry-After"] = str(refused.retry_s)
    return response


def check_body() -> None:
    """Refuse a body that is not JSON before any endpoint looks at it; files are read by their own endpoint."""
    if request.routing_exception is not None:
        return
    if request.method not in ("POST", "PUT") or not request.path.startswith("/api/") or here() in UPLOADS:
        return
    if request.mimetype != "application/json":
        raise UnsupportedType("Content-Type", request.mimetype or "nothing", "application/json")
    data = request.get_data()
    refuse_deep(data)
    try:
        request.get_json()
        if SURROGATE.search(data):
            from_json(data)
    except BadRequest as error:
        raise Refused("request", "a body that is not JSON", f"JSON ({error.description})") from None
    except ValueError:
        raise Refused("request", "half a character", "JSON whose text is made of whole characters") from None


def check_method() -> Response | None:
    """Refuse a method that an address has only where its last part is read as an id: ``/api/wears/file`` names no record."""
    own = _literal().get(request.path)
    if own is None or request.url_rule is None:
        return None
    if request.method == "OPTIONS":
        return Response(headers={"Allow": ", ".join(sorted(own))})
    if request.url_rule.arguments:
        raise MethodNotAllowed(valid_methods=sorted(own))
    return None


def _literal() -> dict[str, set[str]]:
    """The methods of every address that is written out in full."""
    found: dict[str, set[str]] | None = current_app.extensions.get("nabrel_literal")
    if found is None:
        found = {}
        for rule in current_app.url_map.iter_rules():
            if not rule.arguments:
                found.setdefault(rule.rule, set()).update(rule.methods or ())
        current_app.extensions["nabrel_literal"] = found
    return found


def install(app: Flask) -> None:
    """Map failures of the application."""
    app.before_request(check_method)
    app.before_request(check_body)

    @app.errorhandler(Refused)
    def refused(error: Refused) -> ResponseReturnValue:
        return answer(error)

    @app.errorhandler(HTTPException)
    def http(error: HTTPException) -> ResponseReturnValue:
        if not request.path.startswith("/api"):
            return error.get_response()
        allowed = {
            404: "an address of this API",
            405: "another method",
            413: f"a smaller body, at most {(request.max_content_length or 0) // 1_000_000} MB",
            415: "application/json",
            400: "well-formed JSON",
        }
        said = allowed.get(error.code or 500, error.name)
        found = request.mimetype if error.code == 415 else request.path
        body = {"field": "request", "found": found, "allowed": said, "says": f"request: {error.name}; allowed: {said}"}
        response = jsonify(body)
        response.status_code = error.code or 500
        allow = getattr(error, "valid_methods", None)
        if allow:
            allow = _literal().get(request.path, allow)
            response.headers["Allow"] = ", ".join(sorted(allow))
        return response

    @app.errorhandler(DBAPIError)
    def store(error: DBAPIError) -> ResponseReturnValue:
        if isinstance(error, IntegrityError):
            return answer(
                Stale("request", "what somebody else made or changed at the same moment", "the latest: load it")
            )
        why = reason(error.orig) if isinstance(error.orig, sqlite3.Error) else None
        current_app.logger.error("the store refused: %s", type(error.orig).__name__)
        return fault(error) if why is None else answer(why)

    @app.errorhandler(OSError)
    def disk(error: OSError) -> ResponseReturnValue:
        why = reason(error, "the data folder")
        return answer(why) if isinstance(why, NoRoom) else fault(error)

    @app.errorhandler(Exception)
    def fault(error: Exception) -> ResponseReturnValue:
        current_app.logger.error("unhandled failure: %s\n%s", *_where(error))
        body = {
            "field": "application",
            "found": type(error).__name__,
            "allowed": "nothing you did: this is our mistake, and nothing was changed",
            "says": "Something went wrong in Nabrel. Nothing was changed.",
        }
        return jsonify(body), 500


def _where(error: BaseException) -> tuple[str, str]:
    """What kind of error it was and where, for the log: never what it says, which may be somebody's name."""
    kinds, at = [], []
    cause: BaseException | None = error
    while cause is not None:
        kinds.append(type(cause).__name__)
        at += traceback.format_tb(cause.__traceback__)
        cause = cause.__cause__ or (None if cause.__suppress_context__ else cause.__context__)
    return " from ".join(kinds), "".join(at)
