"""One person alone: where nobody signs in, only who opened a link that the server printed, and the owner's own command line.

Another account of the same computer reaches a server on it as well as its owner does. The link works once and sets a cookie of
this data folder; the command line reads a token that only the folder's owner can read.
"""

from __future__ import annotations

import hmac
import json
import secrets
from dataclasses import asdict, dataclass
from datetime import timedelta
from pathlib import Path

from flask import Flask, Response, redirect, request
from flask.typing import ResponseReturnValue
from itsdangerous import BadSignature, URLSafeTimedSerializer
from werkzeug.wrappers import Response as AnyResponse

from nabrel.core.errors import Told
from nabrel.store.folder import Unusable, remove, write_whole
from nabrel.web.shared.signing_in import signing_key

LINK, TOKEN, PLACE = "link.once", "owner.token", "serving.json"
"""In the data folder, for its owner alone: what the next link ends with, the command line's token, and where the server is open."""
KNOWN_FOR = timedelta(days=30)
OPEN = "/open/"
PAGE = """<!doctype html>
<html lang="en"><meta charset="utf-8"><title>Nabrel</title>
<h1>This Nabrel is open to one person</h1>
<p>Open the link that it printed when it was started. It works once. For a new one, run
<code>nabrel link</code> on this computer.</p></html>
"""


class NotTheOwner(Told):
    """The server is open to its owner alone."""

    def __init__(self) -> None:
        super().__init__(
            "link",
            "This Nabrel is open to one person.",
            "Open the link that it printed, or run nabrel link for a new one.",
        )


@dataclass(frozen=True, slots=True)
class ServedAt:
    """Where a server is open."""

    scheme: str
    host: str
    port: int

    def __str__(self) -> str:
        return f"{self.scheme}://{self.host}:{self.port}"


def new_link(folder: Path) -> str:
    """A link that works once, in the place of any before it. Refuses where no server is open to one person on the folder."""
    try:
        place = ServedAt(**json.loads((folder / PLACE).read_text(encoding="utf-8")))
    except (OSError, ValueError, TypeError):
        raise Unusable(f"No Nabrel is open to one person on {folder}.", "Start it: nabrel serve.") from None
    once = secrets.token_urlsafe(24)
    write_whole(folder / LINK, once)
    return f"{place}{OPEN}{once}"


def open_at(folder: Path, place: ServedAt) -> None:
    """Note where the server is open, and make a token for the command line."""
    write_whole(folder / PLACE, json.dumps(asdict(place)))
    write_whole(folder / TOKEN, secrets.token_urlsafe(32))


def close(folder: Path) -> None:
    """The server is open no more."""
    for name in (PLACE, LINK, TOKEN):
        remove(folder / name)


def install(app: Flask, folder: Path) -> None:
    """Hold everything but the built pages' own files to the owner of the folder."""
    key = signing_key(folder)
    signed = URLSafeTimedSerializer(key, salt="only me")
    # Folders served on one computer do not take each other's cookies for their own.
    cookie = f"nabrel_{hmac.new(key, b'folder', 'sha256').hexdigest()[:12]}"

    def is_owner() -> bool:
        said = request.headers.get("Authorization", "").removeprefix("Bearer ")
        if said and hmac.compare_digest(said.encode(), _read(folder / TOKEN)):
            return True
        try:
            signed.loads(request.cookies.get(cookie, ""), max_age=int(KNOWN_FOR.total_seconds()))
        except BadSignature:
            return False
        return True

    @app.before_request
    def hold() -> ResponseReturnValue | None:
        if request.path.startswith(OPEN):
            return opened(request.path.removeprefix(OPEN))
        if is_owner() or request.path.startswith("/assets/"):
            return None
        if request.path.startswith("/api"):
            raise NotTheOwner
        return Response(PAGE, status=401, mimetype="text/html")

    def opened(once: str) -> AnyResponse:
        held = _read(folder / LINK)
        if not held or not hmac.compare_digest(once.encode(), held):
            return redirect("/") if is_owner() else Response(PAGE, status=401, mimetype="text/html")
        remove(folder / LINK)
        answer = redirect("/")
        answer.set_cookie(
            cookie,
            str(signed.dumps("owner")),
            max_age=KNOWN_FOR,
            httponly=True,
            samesite="Strict",
            secure=request.is_secure,
        )
        return answer


def _read(file: Path) -> bytes:
    try:
        return file.read_bytes()
    except OSError:
        return b""
