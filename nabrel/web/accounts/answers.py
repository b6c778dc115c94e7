"""Wire models of signing in."""

from __future__ import annotations

from pydantic import Field

from nabrel.store.accounts import MOST_PASSWORD, AccountName, Role
from nabrel.web.shared import wire as w


class SessionWire(w.AnswerModel):
    """Whether this server demands a sign-in, and who is signed in here."""

    demanded: bool
    name: str | None = None
    role: Role | None = None


class SignInBody(w.Body):
    """A name and its password."""

    name: AccountName
    password: str = Field(max_length=MOST_PASSWORD)


class PasswordBody(w.Body):
    """The password as it is, and the one it is to be."""

    now: str = Field(max_length=MOST_PASSWORD)
    new: str = Field(max_length=MOST_PASSWORD)
