"""Accounts: their passwords, their sign-ins, and that no workspace and no backup brings them or takes them."""

from __future__ import annotations

import io
import sqlite3
from contextlib import closing
from datetime import timedelta

import pytest
from argon2 import Type

from nabrel.core.errors import Refused
from nabrel.formats.workspace import read_workspace, write_workspace_to
from nabrel.store import accounts as stored
from nabrel.store.accounts import Accounts
from nabrel.store.backup import copy
from nabrel.store.database import Database, restore
from nabrel.store.versions import Missing
from nabrel.store.workspace import gather_shared, replace_all

AS_SHIPPED = stored.HASHER
"""Before the tests take a quicker one."""
PASSWORD, OTHER = "quiet turnip bridge 4", "paper lantern over kelp"


@pytest.fixture
def opened(database):
    with database.session() as session:
        Accounts(session).add("Mira", "educator", PASSWORD)
    return database


def test_the_password_is_kept_as_a_hash_of_its_own_each_time(opened):
    with opened.session() as session:
        Accounts(session).add("Ivo", "student", PASSWORD)
    with closing(sqlite3.connect(opened.path)) as raw:
        hashes = [row[0] for row in raw.execute("SELECT password FROM account")]
    assert len(set(hashes)) == 2
    assert all(each.startswith("$argon2id$") and PASSWORD not in each for each in hashes)


def test_a_password_is_as_hard_to_guess_as_is_recommended():
    """The second choice of RFC 9106, for machines with less memory: three passes over 64 MiB."""
    assert AS_SHIPPED.type is Type.ID
    assert AS_SHIPPED.memory_cost >= 64 * 1024
    assert AS_SHIPPED.time_cost >= 3
    assert AS_SHIPPED.salt_len >= 16


@pytest.mark.parametrize("name", ["Mira", "mira", "  MIRA ", "Ｍｉｒａ"])
def test_the_name_is_found_however_it_is_typed_and_taken_once(opened, name):
    with opened.session() as session:
        assert Accounts(session).verified(name, PASSWORD).name == "Mira"
    with opened.session() as session, pytest.raises(Refused, match="already"):
        Accounts(session).add(name, "educator", OTHER)


@pytest.mark.parametrize(("name", "password"), [("Mira", OTHER), ("Mira", ""), ("Nobody", PASSWORD), ("", "")])
def test_a_wrong_name_or_password_is_nobody(opened, name, password):
    with opened.session() as session:
        assert Accounts(session).verified(name, password) is None


@pytest.mark.parametrize(
    ("password", "says"),
    [
        ("elevenchars", "12 to 128"),
        ("x" * 129, "12 to 128"),
        ("password1234", "easy to guess"),
        ("mira mira mira", "easy to guess"),
    ],
)
def test_a_password_that_is_short_or_guessed_is_refused_and_not_said_again(database, password, says):
    with database.session() as session, pytest.raises(Refused, match=says) as refused:
        Accounts(session).add("Mira", "educator", password)
    assert password not in str(refused.value)
    with database.session() as session:
        assert Accounts(session).all() == []


@pytest.mark.parametrize("name", ["", " ", "a" * 61, "Mi\x00ra", "Mi\u202era"])
def test_a_name_is_one_line_of_text(database, name):
    with database.session() as session, pytest.raises(Refused, match="name"):
        Accounts(session).add(name, "educator", PASSWORD)


def test_the_store_does_not_hold_what_the_browser_keeps(opened):
    with opened.session() as session:
        accounts = Accounts(session)
        token = accounts.sign_in(accounts.named("Mira"))
    opened.checkpoint()
    assert token.encode() not in opened.path.read_bytes()
    with opened.session() as session:
        assert Accounts(session).signed_in(token).name == "Mira"
        assert Accounts(session).signed_in(token[:-1]) is None


@pytest.mark.parametrize(("idle", "used", "still"), [(1.9, 0, True), (2.1, 0, False), (1.9, 6, True), (1.9, 7, False)])
def test_a_sign_in_ends_when_it_is_idle_or_old(opened, monkeypatch, idle, used, still):
    start = stored._now()
    with opened.session() as session:
        accounts = Accounts(session)
        token = accounts.sign_in(accounts.named("Mira"))
    hours = 0.0
    for _ in range(used):
        hours += idle
        monkeypatch.setattr(stored, "_now", lambda hours=hours: start + timedelta(hours=hours))
        with opened.session() as session:
            last = Accounts(session).signed_in(token)
    if not used:
        monkeypatch.setattr(stored, "_now", lambda: start + timedelta(hours=idle))
        with opened.session() as session:
            last = Accounts(session).signed_in(token)
    assert (last is not None) == still


@pytest.mark.parametrize("ending", ["password", "everywhere", "remove"])
def test_every_sign_in_ends_with_another_password_or_when_asked(opened, ending):
    with opened.session() as session:
        accounts = Accounts(session)
        Accounts(session).add("Ivo", "educator", OTHER)
        tokens = [accounts.sign_in(accounts.named("Mira")) for _ in range(3)]
        another = accounts.sign_in(accounts.named("Ivo"))
    with opened.session() as session:
        accounts = Accounts(session)
        if ending == "password":
            accounts.set_password("Mira", OTHER)
        elif ending == "everywhere":
            accounts.sign_out_everywhere(accounts.named("Mira").id)
        else:
            accounts.remove("Mira")
    with opened.session() as session:
        assert [Accounts(session).signed_in(token) for token in tokens] == [None] * 3
        assert Accounts(session).signed_in(another).name == "Ivo"


def test_who_is_not_there_is_said(database):
    with database.session() as session, pytest.raises(Missing, match="Nobody"):
        Accounts(session).remove("Nobody")


def test_a_workspace_neither_holds_accounts_nor_takes_them_away(demo_database):
    with demo_database.session() as session:
        Accounts(session).add("Zebulon", "educator", PASSWORD)
        file = io.BytesIO()
        write_workspace_to(file, *gather_shared(session))
    assert b"Zebulon" not in file.getvalue()
    with demo_database.session() as session:
        replace_all(session, read_workspace(file))
    with demo_database.session() as session:
        assert [each.name for each in Accounts(session).all()] == ["Zebulon"]


def test_a_restored_backup_lets_nobody_in_who_was_removed_since(opened, tmp_path):
    with opened.session() as session:
        token = Accounts(session).sign_in(Accounts(session).named("Mira"))
    backup = copy(opened.path, tmp_path / "kept.sqlite")
    with opened.session() as session:
        Accounts(session).remove("Mira")
        Accounts(session).add("Ivo", "educator", OTHER)
    opened.close()
    restore(backup, opened.folder)
    again = Database(opened.folder)
    with again.session() as session:
        assert [each.name for each in Accounts(session).all()] == ["Ivo"]
        assert Accounts(session).signed_in(token) is None
    again.close()


def test_a_backup_brings_its_accounts_where_none_stood(opened, tmp_path):
    with opened.session() as session:
        token = Accounts(session).sign_in(Accounts(session).named("Mira"))
    backup = copy(opened.path, tmp_path / "kept.sqlite")
    restore(backup, tmp_path / "elsewhere")
    again = Database(tmp_path / "elsewhere")
    with again.session() as session:
        assert Accounts(session).verified("Mira", PASSWORD) is not None
        assert Accounts(session).signed_in(token) is None
    again.close()
