"""Who is asking, where the server demands a sign-in: nobody reaches the API without one, a student only what is for students."""

from __future__ import annotations

import os
import secrets
from collections.abc import Callable, Iterable
from pathlib import Path

from flask import Flask, Request, current_app, request, session
from flask.sessions import SecureCookieSessionInterface
from flask_login import LoginManager, UserMixin, current_user, login_user, logout_user
from itsdangerous import BadSignature
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
TRIES = {"address": parse("30 per 10 minutes"), "name": parse("60 per hour"), "both": parse("6 per 10 minutes")}
"""Wrong passwords from one address, for one name, and for that name from that address, before one has to wait."""


class NotSignedIn(Told):
    """The server demands a sign-in, and there is none."""


class NotForStudents(Told):
    """Signed in, as a student, and only an educator may do this."""


class TooManyTries(Told):
    """Too many wrong passwords."""


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
    """Wrong passwords, counted while the server runs."""

    def __init__(self) -> None:
        self._limiter = MovingWindowRateLimiter(MemoryStorage())

    def _keys(self, asked: Request, name: str) -> list[tuple[RateLimitItem, tuple[str, ...]]]:
        address, key = asked.remote_addr or "", name.casefold()[:60]
        return [(TRIES["address"], (address,)), (TRIES["name"], (key,)), (TRIES["both"], (address, key))]

    def hold(self, asked: Request, name: str) -> None:
        """Refuse where there were too many."""
        for limit, key in self._keys(asked, name):
            if not self._limiter.test(limit, *key):
                raise TooManyTries("password", "There were too many wrong passwords.", "Try again in ten minutes.")

    def count(self, asked: Request, name: str) -> None:
        """One more wrong one."""
        for limit, key in self._keys(asked, name):
            self._limiter.hit(limit, *key)


def install(app: Flask, database: Database, *, demanded: bool) -> None:
    """Hold requests to the API to somebody who is signed in, where that is demanded."""
    app.extensions["nabrel_sign_in"] = demanded
    if not demanded:
        return
    app.secret_key = _key(database.folder)
    app.session_interface = _Cookies()
    # The cookie is set where it changes and nowhere else: a late answer to the former one would bring that one back.
    app.config.update(
        SESSION_COOKIE_NAME=COOKIE, PERMANENT_SESSION_LIFETIME=LONGEST, SESSION_REFRESH_EACH_REQUEST=False
    )
    app.extensions["nabrel_tries"] = Tries()
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


def _key(folder: Path) -> bytes:
    file = folder / KEY_FILE
    if not file.is_file() or file.stat().st_size < 32:
        handle = os.open(file, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, OWN_FILE)
        with os.fdopen(handle, "wb") as stored:
            stored.write(secrets.token_bytes(32))
    return file.read_bytes()
