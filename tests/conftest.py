"""Fixtures that several folders of tests share."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path

import pytest
from argon2 import PasswordHasher
from hypothesis import settings
from pydantic_core import to_json

from nabrel.core.case.case import Case
from nabrel.core.house import House
from nabrel.core.lesson.lesson import Lesson
from nabrel.core.lesson.room import Room
from nabrel.demo.fill import fill
from nabrel.demo.kestrel_quay import sitters
from nabrel.formats.classes import ClassFile
from nabrel.store import accounts
from nabrel.store.database import Database
from nabrel.web.shared import remembered
from nabrel.web.shared.remembered import worked_lesson
from tests.pace import Pace

# The same examples on every machine; look further with --hypothesis-profile=explore.
settings.register_profile("steady", derandomize=True)
settings.register_profile("explore", max_examples=400)
settings.load_profile("steady")


def pytest_configure(config: pytest.Config) -> None:
    config.pluginmanager.register(Pace(), "pace")


@pytest.fixture(scope="session")
def house() -> House:
    return House()


@pytest.fixture(scope="session", autouse=True)
def quick_passwords() -> Iterator[None]:
    """Passwords that take no quarter of a second to hash: what tests of accounts ask is not how hard one is to guess."""
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(accounts, "HASHER", PasswordHasher(time_cost=1, memory_cost=8, parallelism=1))
        yield


@pytest.fixture(scope="session", autouse=True)
def lessons_worked_out_once() -> Iterator[None]:
    """One class, on the same faces, is one lesson in whichever test it is opened: working it out takes a second and a half."""
    held: dict[tuple[bytes, House], Lesson] = {}

    def once(model: Room, house: House) -> Lesson:
        key = (to_json(ClassFile.of(model)), house)
        if key not in held:
            held[key] = worked_lesson(model, house)
        return held[key]

    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(remembered, "worked_lesson", once)
        yield


@pytest.fixture(scope="session")
def people() -> dict[str, Case]:
    """The demo sitters by nickname."""
    return {case.sitter.nickname: case for case in sitters()}


@pytest.fixture(scope="session")
def filled_file(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A database file with the demo scenario, to be copied."""
    folder = tmp_path_factory.mktemp("filled")
    database = Database(folder)
    fill(database)
    database.close()
    return database.path


@pytest.fixture(scope="session")
def empty_file(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A database file that holds nothing yet, to be copied."""
    database = Database(tmp_path_factory.mktemp("empty"))
    database.close()
    return database.path


def copied(file: Path, folder: Path) -> Path:
    """A new folder with a copy of a database in it."""
    folder.mkdir()
    (folder / file.name).write_bytes(file.read_bytes())
    return folder


@pytest.fixture
def database(tmp_path: Path, empty_file: Path) -> Iterator[Database]:
    opened = Database(copied(empty_file, tmp_path / "empty"))
    yield opened
    opened.close()


@pytest.fixture
def demo_folder(tmp_path: Path, filled_file: Path) -> Path:
    """A data folder with the demo scenario, filled already."""
    return copied(filled_file, tmp_path / "demo")


@pytest.fixture
def demo_database(demo_folder: Path) -> Iterator[Database]:
    opened = Database(demo_folder)
    yield opened
    opened.close()


def in_school(case: Case, school: str, **wishes: object) -> Case:
    """The case with another school and wishes."""
    return replace(case, intent=replace(case.intent, school=school, **wishes))
