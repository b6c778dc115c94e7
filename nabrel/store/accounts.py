"""Accounts: who may sign in, and who is signed in where. They stay on this machine and are never part of the workspace."""

from __future__ import annotations

import hashlib
import secrets
import unicodedata
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from functools import cache
from typing import Annotated, Literal, get_args

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerificationError
from pydantic import TypeAdapter, ValidationError
from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session
from zxcvbn import zxcvbn

from nabrel.core.errors import Refused, Told
from nabrel.core.terms.limits import one_line
from nabrel.store.tables import AccountRow, SignInRow
from nabrel.store.versions import Missing

Role = Literal["educator", "student"]
ROLES: tuple[Role, ...] = get_args(Role)
LEAST_PASSWORD, MOST_PASSWORD = 12, 128
HARD_TO_GUESS = 3
"""The least that a password must be worth on zxcvbn's scale, 0 to 4."""
JUDGED = 72
"""Characters that zxcvbn looks at: its time grows fast with the length, and so many are enough to tell."""
IDLE, LONGEST = timedelta(hours=2), timedelta(hours=12)
"""A sign-in ends so long after its last request, and so long after it began. Hands at a face are busy for an hour and more."""
SEEN_EVERY = timedelta(minutes=5)
SKEW = timedelta(minutes=2)
"""How often it is kept that a sign-in is in use: not at every request, each of which would then wait for the disk."""

AccountName = Annotated[str, one_line(60, least=1)]
_NAME: TypeAdapter[str] = TypeAdapter(AccountName)
HASHER = PasswordHasher()
"""As hard as the library recommends today; what was hashed less hard is hashed anew at the next sign-in."""


@dataclass(frozen=True, slots=True)
class Account:
    """Somebody who may sign in."""

    id: str
    name: str
    role: Role


class Accounts:
    """The accounts of a server, their passwords, and their sign-ins."""

    def __init__(self, session: Session) -> None:
        self._session = session

    def all(self) -> list[Account]:
        """All accounts by name."""
        return [_account(row) for row in self._session.scalars(select(AccountRow).order_by(AccountRow.key))]

    def any_educator(self) -> bool:
        """Whether somebody can sign in who may do everything."""
        return self._session.scalar(select(AccountRow.id).where(AccountRow.role == "educator").limit(1)) is not None

    def add(self, name: str, role: Role, password: str) -> Account:
        """Make an account. Refuses a name that is taken or no line of text, and a password that is short or easy to guess."""
        name = " ".join(unicodedata.normalize("NFKC", name).split())
        try:
            _NAME.validate_python(name)
        except ValidationError:
            raise Refused("name", name, "a name of 1 to 60 characters in one line") from None
        if self._row(name) is not None:
            raise Told("name", f"There is an account {name} already.", "Take another name.")
        hashed = _hashed(password, name)
        row = AccountRow(
            id=secrets.token_hex(8), name=name, key=name.casefold(), role=role, password=hashed, made_at=_now()
        )
        self._session.add(row)
        self._session.flush()
        return _account(row)

    def remove(self, name: str) -> None:
        """Remove an account; where it is signed in, it no longer is."""
        row = self._named(name)
        self._session.execute(delete(SignInRow).where(SignInRow.account_id == row.id))
        self._session.delete(row)

    def set_password(self, name: str, password: str) -> None:
        """Another password; whoever is signed in with the old one no longer is."""
        row = self._named(name)
        row.password = _hashed(password, row.name)
        self.sign_out_everywhere(row.id)

    def id_of(self, name: str) -> str | None:
        """The id of the account of a name; None where there is none."""
        row = self._row(name)
        return None if row is None else row.id

    def verified(self, name: str, password: str) -> Account | None:
        """The account whose name and password these are. Takes as long where there is none of the name."""
        row, nobody = self._row(name), _nobody()
        try:
            HASHER.verify(nobody if row is None else row.password, _plain(password))
        except (VerificationError, InvalidHashError):
            return None
        if row is not None and HASHER.check_needs_rehash(row.password):
            row.password = HASHER.hash(_plain(password))
        return None if row is None else _account(row)

    def sign_in(self, account: Account) -> str:
        """The secret of a new sign-in, which the browser keeps; the store keeps only what it hashes to."""
        token = secrets.token_urlsafe(32)
        now = _now()
        self._session.execute(delete(SignInRow).where(SignInRow.since < now - LONGEST))
        self._session.add(SignInRow(id=_digest(token), account_id=account.id, since=now, seen=now))
        return token

    def signed_in(self, token: str) -> Account | None:
        """Whose sign-in it is, unless it has ended or was idle too long."""
        row = self._session.get(SignInRow, _digest(token))
        now = _now()
        if row is None or now - row.since > LONGEST or now - row.seen > IDLE:
            return None
        if max(row.since, row.seen) > now + SKEW:
            # Of a time to come: the clock was set back since, and nobody knows how old it is.
            return None
        account = self._session.get(AccountRow, row.account_id)
        if now - row.seen > SEEN_EVERY:
            row.seen = now
        return None if account is None else _account(account)

    def sign_out(self, token: str) -> None:
        """End one sign-in."""
        self._session.execute(delete(SignInRow).where(SignInRow.id == _digest(token)))

    def sign_out_everywhere(self, account_id: str) -> None:
        """End every sign-in of an account."""
        self._session.execute(delete(SignInRow).where(SignInRow.account_id == account_id))

    def named(self, name: str) -> Account:
        """The account of a name. Refuses one that is not there."""
        return _account(self._named(name))

    def _row(self, name: str) -> AccountRow | None:
        key = " ".join(unicodedata.normalize("NFKC", name).split()).casefold()
        return self._session.scalar(select(AccountRow).where(AccountRow.key == key))

    def _named(self, name: str) -> AccountRow:
        row = self._row(name)
        if row is None:
            known = self._session.scalar(select(func.count()).select_from(AccountRow))
            raise Missing("name", name, f"the name of one of the {known} accounts: nabrel account list")
        return row


@cache
def _nobody() -> str:
    """Verified against where no account has the name, so that an answer takes as long.

    Made at the first sign-in, whoever it is: a quarter of a second that a start without accounts need not wait for.
    """
    return HASHER.hash(secrets.token_urlsafe())


def _hashed(password: str, name: str) -> str:
    plain = _plain(password)
    if not LEAST_PASSWORD <= len(plain) <= MOST_PASSWORD:
        # What was typed is not said again: it would stand on the screen and in logs.
        raise Told(
            "password",
            f"This password has {len(plain)} characters.",
            f"Take one of {LEAST_PASSWORD} to {MOST_PASSWORD}, such as a few words.",
        )
    if zxcvbn(plain[:JUDGED], user_inputs=[name, "nabrel", "makeup"])["score"] < HARD_TO_GUESS:
        raise Told(
            "password", "This password is easy to guess.", "Take a few words that have nothing to do with each other."
        )
    return HASHER.hash(plain)


def _plain(password: str) -> str:
    """The same characters, whatever keyboard they were typed on."""
    return unicodedata.normalize("NFKC", password)


def _digest(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()


def _account(row: AccountRow) -> Account:
    return Account(row.id, row.name, "educator" if row.role == "educator" else "student")


def _now() -> datetime:
    return datetime.now(UTC).replace(tzinfo=None)
