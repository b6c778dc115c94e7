"""Drill sessions that go on: what was asked in each, and what is made ahead. What is marked is what is here."""

from __future__ import annotations

import secrets
from collections import OrderedDict
from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import Future, ThreadPoolExecutor
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from threading import Lock, RLock
from typing import Any

from nabrel.core.case.case import Case
from nabrel.core.drill.exercise import DrillKind, Exercise, Level, Mark
from nabrel.core.drill.judgements import Judgement
from nabrel.core.drill.making import exercise, looks
from nabrel.core.drill.practice import Practice, level_of, next_asked
from nabrel.core.drill.sets import questions
from nabrel.core.errors import Impossible
from nabrel.core.house import House
from nabrel.formats.practice import DrillSetFile
from nabrel.store.versions import Missing

MOST_SESSIONS, MOST_ASKED = 300, 500
GRACE = timedelta(seconds=30)
"""An answer that was begun in time still counts for so long after the end."""
MOST_TRIES = 8
"""So many exercises are made for one that no other of the session looks like."""


@dataclass
class Asked:
    """One exercise of a session: since when it is asked, and how it was answered; ``place`` is its place in a set."""

    exercise: Exercise
    since: datetime
    place: int | None = None
    answer: dict[str, Any] | None = None
    mark: Mark | None = None
    seconds: float = 0.0


@dataclass
class DrillSession:
    """One session: whose, since when and until when, what it asks for, and what was asked. ``practice`` is what a guest did."""

    id: str
    student: str | None
    account: str | None
    begun: datetime
    ends: datetime | None
    kinds: tuple[DrillKind, ...]
    level: Level | None
    seed: int
    drill_set: DrillSetFile | None = None
    questions: Iterator[Exercise] | None = None
    place: int = 0
    practice: Practice = field(default_factory=Practice)
    asked: OrderedDict[str, Asked] = field(default_factory=OrderedDict)
    judgements: list[str] = field(default_factory=list)
    seen: set[str] = field(default_factory=set)
    ahead: tuple[str, Future[Exercise]] | None = None
    ended: bool = False
    lock: RLock = field(default_factory=RLock)

    @property
    def is_test(self) -> bool:
        """Whether all get the same here, and marks are shown at the end."""
        return self.drill_set is not None and self.drill_set.same_for_all

    @property
    def answered(self) -> list[Asked]:
        """What was answered, in order."""
        return [each for each in self.asked.values() if each.mark is not None]

    def in_time(self, now: datetime, grace: timedelta = timedelta()) -> None:
        """Refuse what comes after the end."""
        if self.ended:
            raise Impossible("session", "over", "a session that goes on: this one was ended")
        if self.ends is not None and now > self.ends + grace:
            raise Impossible(
                "session", "over", "an answer in time: the time of this session is up, and nothing more counts"
            )

    def get(self, key: str) -> Asked:
        """An exercise of this session. Refuses any other one."""
        if key not in self.asked:
            raise Missing("exercise", key, "an exercise of this session: ask for another")
        return self.asked[key]

    def to_answer(self, key: str) -> Asked:
        """An exercise that is still open. Refuses one that was answered."""
        found = self.get(key)
        if found.mark is not None:
            raise Impossible("exercise", key, "an exercise that is still open: this one was answered, and counts once")
        return found

    def open_one(self) -> tuple[str, Asked] | None:
        """The exercise that was asked last, if it was not answered."""
        if not self.asked:
            return None
        key = next(reversed(self.asked))
        return (key, self.asked[key]) if self.asked[key].mark is None else None

    def put(self, made: Exercise, now: datetime, place: int | None = None) -> tuple[str, Asked]:
        """Ask an exercise, under a key that nobody can guess."""
        key = secrets.token_hex(16)
        self.asked[key] = Asked(made, now, place)
        self.judgements.append(made.judgement)
        self.seen.add(looks(made))
        while len(self.asked) > MOST_ASKED:
            self.asked.popitem(last=False)
        return key, self.asked[key]


class Sessions:
    """The sessions that go on, the newest of them; and one hand that makes exercises ahead."""

    def __init__(self) -> None:
        self._sessions: OrderedDict[str, DrillSession] = OrderedDict()
        self._lock = Lock()
        self._hand: ThreadPoolExecutor | None = None
        self._papers: dict[str, _Paper] = {}
        self._began: dict[tuple[str, str], datetime] = {}

    def begin(self, session: DrillSession) -> None:
        """Remember a session."""
        with self._lock:
            self._sessions[session.id] = session
            while len(self._sessions) > MOST_SESSIONS:
                self._sessions.popitem(last=False)

    def get(self, key: str, account: str | None) -> DrillSession:
        """A session of this account. Refuses any other one."""
        with self._lock:
            found = self._sessions.get(key)
        if found is None or found.account != account:
            raise Missing("session", key, "a session of yours that goes on: begin another")
        return found

    def forget(self, student: str) -> None:
        """Keep nothing of a student's sessions."""
        with self._lock:
            for key in [key for key, each in self._sessions.items() if each.student == student]:
                del self._sessions[key]
            self._began = {opened: since for opened, since in self._began.items() if opened[0] != student}

    def began(self, student: str, test: str, now: datetime) -> datetime:
        """When a student first opened a test: its time runs from then on, however often it is begun."""
        with self._lock:
            return self._began.setdefault((student, test), now)

    def ahead(self, work: Callable[[], Exercise]) -> Future[Exercise]:
        """Have an exercise made while the one before it is looked at."""
        with self._lock:
            self._hand = self._hand or ThreadPoolExecutor(1, "exercises")
            return self._hand.submit(work)

    def question(self, file: DrillSetFile, place: int, house: House, faces: Sequence[Case]) -> Exercise | None:
        """One question of a test, the same for all; None behind the last. Each is made once."""
        with self._lock:
            paper = self._papers.get(file.id)
            if paper is None or not paper.same(file, house, faces):
                while len(self._papers) >= MOST_SESSIONS:
                    self._papers.pop(next(iter(self._papers)))
                paper = self._papers[file.id] = _Paper(file, house, tuple(faces))
        return paper.question(place)


class _Paper:
    """The questions of one test, made one by one as they are come to."""

    def __init__(self, file: DrillSetFile, house: House, faces: tuple[Case, ...]) -> None:
        self._of = (file.parts, file.seed, house, faces)
        self._made: list[Exercise] = []
        self._more = questions(file.parts, file.seed, house, faces)
        self._lock = Lock()

    def same(self, file: DrillSetFile, house: House, faces: Sequence[Case]) -> bool:
        return self._of == (file.parts, file.seed, house, tuple(faces))

    def question(self, place: int) -> Exercise | None:
        with self._lock:
            while len(self._made) <= place:
                made = next(self._more, None)
                if made is None:
                    return None
                self._made.append(made)
            return self._made[place]


def fitting(session: DrillSession, practice: Practice) -> Level:
    """The level that is asked for, or the one that fits."""
    return session.level or level_of(practice)


def made_next(session: DrillSession, practice: Practice, house: House, now: datetime) -> Exercise:
    """The next exercise of a free session: the one that was made ahead, where it is about what is asked next."""
    wanted = next_asked(practice, session.judgements, session.kinds, now)
    ahead, session.ahead = session.ahead, None
    if ahead is not None and ahead[0] == wanted.id:
        made = ahead[1].result()
        if looks(made) not in session.seen:
            return made
    return _unlike(session, wanted, fitting(session, practice), house)


def make_ahead(sessions: Sessions, session: DrillSession, practice: Practice, house: House, now: datetime) -> None:
    """Begin on the exercise that will be asked once the open one is answered."""
    wanted = next_asked(practice, session.judgements, session.kinds, now)
    level = fitting(session, practice)
    session.ahead = (wanted.id, sessions.ahead(lambda: _unlike(session, wanted, level, house)))


def _unlike(session: DrillSession, wanted: Judgement, level: Level, house: House) -> Exercise:
    """An exercise of a judgement that no other of the session looks like."""
    for turn in range(MOST_TRIES):
        number = len(session.judgements) + 1 + turn * MOST_ASKED
        made = exercise(wanted.kind, session.seed, number, level, house, judgement=wanted.id)
        if looks(made) not in session.seen:
            break
    return made
