"""Signing in and out, everywhere too, and another password."""

from __future__ import annotations

from functools import partial

from flask import after_this_request, current_app, request

from nabrel.core.errors import Told
from nabrel.store.accounts import Accounts
from nabrel.web.accounts.answers import PasswordBody, SessionWire, SignInBody
from nabrel.web.shared import signing_in
from nabrel.web.shared.endpoints import Endpoints
from nabrel.web.shared.requests import database
from nabrel.web.shared.signing_in import NotSignedIn, Tries

accounts = Endpoints("accounts", __name__, url_prefix="/api/session", tag="accounts")


@accounts.get("", "session")
def get_session() -> SessionWire:
    """Whether one has to sign in, and who is."""
    account = signing_in.who()
    if account is None:
        return SessionWire(demanded=signing_in.demanded())
    return SessionWire(demanded=True, name=account.name, role=account.role)


@accounts.post("", "sign_in")
def post_session(body: SignInBody) -> SessionWire:
    """Sign in. Many tries in a short time have to wait, but not those of a browser that signed in with the name before."""
    _demanded()
    with database().session() as session:
        _tries().password(request, body.name, Accounts(session).id_of(body.name))
    former = signing_in.end()
    with database().session() as session:
        stored = Accounts(session)
        if former is not None:
            stored.sign_out(former)
        account = stored.verified(body.name, body.password)
        token = None if account is None else stored.sign_in(account)
    if account is None or token is None:
        raise NotSignedIn("password", "This name and password do not go together.", "Try again.")
    _tries().right(request, body.name)
    signing_in.begin(account, token)
    after_this_request(partial(signing_in.know_browser, asked=request, account=account))
    return SessionWire(demanded=True, name=account.name, role=account.role)


def _tries() -> Tries:
    found: Tries = current_app.extensions["nabrel_tries"]
    return found


@accounts.delete("", "sign_out")
def delete_session() -> SessionWire:
    """Sign out in this browser."""
    _demanded()
    token = signing_in.end()
    if token is not None:
        with database().session() as session:
            Accounts(session).sign_out(token)
    return SessionWire(demanded=True)


@accounts.delete("/everywhere", "sign_out_everywhere")
def delete_everywhere() -> SessionWire:
    """Sign out in every browser."""
    account = signing_in.who()
    if account is None:
        raise _not_demanded()
    with database().session() as session:
        Accounts(session).sign_out_everywhere(account.id)
    signing_in.end()
    return SessionWire(demanded=True)


@accounts.put("/password", "change_password")
def put_password(body: PasswordBody) -> SessionWire:
    """Another password. Every other browser is signed out."""
    account = signing_in.who()
    if account is None:
        raise _not_demanded()
    _tries().password(request, account.name, account.id)
    with database().session() as session:
        stored = Accounts(session)
        known = stored.verified(account.name, body.now) is not None
        if known:
            stored.set_password(account.name, body.new)
            token = stored.sign_in(account)
    if not known:
        raise Told("now", "The password now is another one.", "Type it again.")
    signing_in.begin(account, token)
    return SessionWire(demanded=True, name=account.name, role=account.role)


def _demanded() -> None:
    if not signing_in.demanded():
        raise _not_demanded()


def _not_demanded() -> Told:
    return Told("account", "This server demands no sign-in.", "Start it with --sign-in.")
