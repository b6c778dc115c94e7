"""The trail: who changed, exported and erased what, and when. Ids only; what was changed is in the plans' own revisions."""

from __future__ import annotations

import json
import logging
from typing import Any

from flask import Flask, Response, g, has_request_context, request
from sqlalchemy import Engine, event

from nabrel.web.shared import signing_in

log = logging.getLogger("nabrel.trail")
WRITES = ("INSERT", "UPDATE", "DELETE")


def install(app: Flask, engine: Engine) -> None:
    """Note every request that changed something or took a file away, and every sign-in that was refused."""

    @event.listens_for(engine, "before_cursor_execute")
    def changed(_connection: Any, _cursor: Any, statement: str, *_rest: Any) -> None:
        # That a sign-in is in use is kept now and then; it changes nothing.
        if has_request_context() and statement.startswith(WRITES) and not statement.startswith("UPDATE sign_in"):
            g.nabrel_changed = True

    @app.before_request
    def before() -> None:
        # Who asked, before they may have signed out.
        g.nabrel_who = signing_in.who()

    @app.after_request
    def note(response: Response) -> Response:
        exported = response.status_code < 400 and "attachment" in response.headers.get("Content-Disposition", "")
        refused = response.status_code in (401, 403, 429)
        if exported or refused or (response.status_code < 400 and g.get("nabrel_changed")):
            who = signing_in.who() or g.get("nabrel_who")
            rule = request.url_rule.rule if request.url_rule is not None else "elsewhere"
            said: dict[str, Any] = {
                "by": who.id if who is not None else None,
                "did": f"{request.method} {rule}",
                "answer": response.status_code,
            }
            about = {} if refused else {**(request.view_args or {}), **_made(response)}
            log.info(json.dumps({**said, "about": about} if about else said))
        return response


def _made(response: Response) -> dict[str, str]:
    """The ids of what was made."""
    if response.status_code != 201 or not response.is_json:
        return {}
    body = response.get_json()
    return {
        key: value for key, value in body.items() if (key == "id" or key.endswith("_id")) and isinstance(value, str)
    }
