"""Who is asking, where the server demands a sign-in: nobody reaches the API without one, a student only what is for students."""

from __future__ import annotations

import os
import secrets
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from datetime import timedelta
from pathlib import Path
from typing import Any

from flask import Flask, Request, Response, current_app, request, session
from flask.sessions import SecureCookieSessionInterface
from flask_login import LoginManager, UserMixin, current_user, login_user, logout_user
from itsdangerous import BadSignature, URLSafeTimedSerializer
from limits import RateLimitItem, parse
from limits.storage import MemoryStorage
from limits.strategies import MovingWindowRateLimiter
from werkzeug.http import parse_cookie

from nabrel.core.errors import Told
from nabrel.store.accounts import LONGEST, Account, Accounts
from nabrel.store.database import Database
from nabrel.store.folder import OWN_FILE

COOKIE, ACCOUNT = "nabrel", "account"
KEY_FILE = "signing.key"
"""What cookies are signed with, made once; without the file everybody signs in again."""
OPEN = frozenset({"accounts.get_session", "accounts.post_session", "accounts.delete_session"})
"""What nobody needs to be signed in for: whether one is, signing in, and signing out."""
FOR_STUDENTS = OPEN | {
    "home.get_vocabulary", "accounts.delete_everywhere", "accounts.put_password",
    "drill.get_drills", "drill.post_session", "drill.post_exercise", "drill.post_answer", "drill.get_follows", "drill.post_end",
    "drill.get_code", "drill_students.get_student", "waiting.get_waiting", "waiting.delete_waiting",
}  # fmt: skip
"""What a student may ask; the rest is the educator's."""


@dataclass(frozen=True, slots=True)
class Pace:
    """So many tries quickly; after those one in so many seconds: nobody is shut out, and nobody guesses fast."""

    quickly: RateLimitItem
    slowly: RateLimitItem


BOTH = Pace(parse("6 per 10 minutes"), parse("1 per 20 seconds"))
ADDRESS = Pace(parse("30 per 10 minutes"), parse("1 per 2 seconds"))
NAME = Pace(parse("60 per hour"), parse("1 per 5 seconds"))
KNOWN = Pace(parse("10 per 10 minutes"), parse("1 per 20 seconds"))
CODES = Pace(parse("20 per 10 minutes"), parse("1 per 5 seconds"))
"""Tries at a name from one address, from one address, at a name from anywhere, at a name from a browser that signed in with it before,
and at the codes of sets.
"""
KNOWN_COOKIE, KNOWN_FOR = "nabrel_known", timedelta(days=180)
"""What a browser is known by that signed in here before: its tries are its own, whoever else tries the name meanwhile."""
MOST_KNOWN = 12
"""Accounts that one browser is known for: the last of them."""


class NotSignedIn(Told):
    """The server demands a sign-in, and there is none."""


class NotForStudents(Told):
    """Signed in, as a student, and only an educator may do this."""


class TooManyTries(Told):
    """Too many wrong passwords, or codes, in a short time."""

    def __init__(self, retry_s: int) -> None:
        super().__init__("request", "Too many tries in a short time.", f"Try again in {retry_s} seconds.")
        self.retry_s = retry_s


class Person(UserMixin):  # type: ignore[misc]
    """Somebody signed in, as flask-login holds them: known by the secret of the sign-in, not by who they are."""

    def __init__(self, account: Account, token: str) -> None:
        self.account, self.token = account, token

    def get_id(self) -> str:
        """What the cookie holds."""
        return self.token


class _Cookies(SecureCookieSessionInterface):
    def get_cookie_secure(self, app: Flask) -> bool:  # noqa: ARG002
        """Only over TLS where it came over TLS: behind a proxy, or with none on a network of one's own."""
        return request.is_secure


class Tries:
    """Tries at passwords and codes, counted while the server runs: before they are looked at, so that none slips by."""

    def __init__(self) -> None:
        self._limiter = MovingWindowRateLimiter(MemoryStorage())

    def password(self, asked: Request, name: str, account: str | None) -> None:
        """One more try at a name, which is an account's where there is one. Refuses one that comes too soon."""
        known = known_browser(asked)
        if account is not None and account in known.get("accounts", []):
            self._take(KNOWN, "known", str(known["browser"]), account)
            return
        address, key = asked.remote_addr or "", name.casefold()[:60]
        for pace, words in ((BOTH, ("both", address, key)), (ADDRESS, ("address", address)), (NAME, ("name", key))):
            self._take(pace, *words)

    def code(self, owner: str) -> None:
        """One more code that no set has."""
        self._take(CODES, "code", owner)

    def right(self, asked: Request, name: str) -> None:
        """It was the right password: what was tried before it is forgotten."""
        self._limiter.clear(BOTH.quickly, "both", asked.remote_addr or "", name.casefold()[:60])

    def _take(self, pace: Pace, *key: str) -> None:
        if self._limiter.hit(pace.quickly, *key) or self._limiter.hit(pace.slowly, *key):
            return
        raise TooManyTries(pace.slowly.get_expiry())


def known_browser(asked: Request) -> dict[str, Any]:
    """What this browser is known for: the accounts that signed in with it, and an id of its own; empty where it never did."""
    try:
        found = _knowing().loads(asked.cookies.get(KNOWN_COOKIE, ""), max_age=int(KNOWN_FOR.total_seconds()))
    except BadSignature:
        return {}
    return found if isinstance(found, dict) else {}


def know_browser(response: Response, asked: Request, account: Account) -> Response:
    """From here on this browser is known for an account."""
    known = known_browser(asked)
    before = [each for each in known.get("accounts", []) if each != account.id]
    text = _knowing().dumps(
        {"browser": known.get("browser") or secrets.token_hex(8), "accounts": [*before, account.id][-MOST_KNOWN:]}
    )
    response.set_cookie(
        KNOWN_COOKIE, str(text), max_age=KNOWN_FOR, httponly=True, samesite="Strict", secure=asked.is_secure,
        path="/api/session",
    )  # fmt: skip
    return response


def _knowing() -> URLSafeTimedSerializer:
    return URLSafeTimedSerializer(current_app.secret_key or "", salt="known browser")


def install(app: Flask, database: Database, *, demanded: bool) -> None:
    """Hold requests to the API to somebody who is signed in, where that is demanded."""
    app.extensions["nabrel_sign_in"] = demanded
    app.extensions["nabrel_tries"] = Tries()
    if not demanded:
        return
    app.secret_key = signing_key(database.folder)
    app.session_interface = _Cookies()
    # The cookie is set where it changes and nowhere else: a late answer to the former one would bring that one back.
    app.config.update(
        SESSION_COOKIE_NAME=COOKIE, PERMANENT_SESSION_LIFETIME=LONGEST, SESSION_REFRESH_EACH_REQUEST=False
    )
    manager = LoginManager(app)

    @manager.user_loader  # type: ignore[untyped-decorator]
    def load(token: str) -> Person | None:
        with database.session() as opened:
            account = Accounts(opened).signed_in(token)
        return None if account is None else Person(account, token)

    @app.before_request
    def hold() -> None:
        if not request.path.startswith("/api") or request.endpoint in OPEN:
            return
        person = who()
        if person is None:
            raise NotSignedIn("account", "You are not signed in.", "Sign in, then try again.")
        if person.role == "student" and request.endpoint not in FOR_STUDENTS:
            raise NotForStudents("account", "This is for educators.", "Ask yours.")


def known_by_cookie(app: Flask) -> Callable[[Iterable[tuple[bytes, bytes]]], str | None]:
    """Whose request it is by the cookie alone, before the application is asked: an account's id; an empty text where no sign-in is
    demanded, None where nobody is known. What the account may do is asked later: this tells who gets a place.
    """
    if not app.extensions["nabrel_sign_in"]:
        return lambda _: ""
    signed = SecureCookieSessionInterface().get_signing_serializer(app)

    def known(headers: Iterable[tuple[bytes, bytes]]) -> str | None:
        for name, value in headers:
            if name == b"cookie":
                cookie = parse_cookie(value.decode("latin1")).get(COOKIE)
                try:
                    held = signed.loads(cookie, max_age=int(LONGEST.total_seconds())) if signed and cookie else {}
                except BadSignature:
                    continue
                if isinstance(held, dict) and held.get(ACCOUNT):
                    return str(held[ACCOUNT])
        return None

    return known


def demanded() -> bool:
    """Whether this server demands a sign-in."""
    found: bool = current_app.extensions["nabrel_sign_in"]
    return found


def who() -> Account | None:
    """Who is signed in; None where nobody is or nobody needs to be."""
    if not demanded() or not current_user.is_authenticated:
        return None
    account: Account = current_user.account
    return account


def begin(account: Account, token: str) -> None:
    """From here on this browser is signed in."""
    session.clear()
    session.permanent = True
    session[ACCOUNT] = account.id
    login_user(Person(account, token))


def end() -> str | None:
    """This browser is signed in no longer. The secret of what has ended."""
    token: str | None = current_user.token if current_user.is_authenticated else None
    logout_user()
    session.clear()
    return token


def signing_key(folder: Path) -> bytes:
    """What cookies of a data folder are signed with; made where there is none."""
    file = folder / KEY_FILE
    if not file.is_file() or file.stat().st_size < 32:
        handle = os.open(file, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, OWN_FILE)
        with os.fdopen(handle, "wb") as stored:
            stored.write(secrets.token_bytes(32))
    return file.read_bytes()
