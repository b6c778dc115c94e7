"""Drill sessions that go on: what was asked in each, and what is made ahead. What is marked is what is here."""

from __future__ import annotations

import secrets
from collections import OrderedDict
from collections.abc import Callable, Sequence
from concurrent.futures import Future
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from threading import Lock, RLock
from typing import Any, cast

from sqlalchemy.orm import Session as OrmSession

from nabrel.core.case.case import Case
from nabrel.core.drill.exercise import Answer, Exercise, Level, Mark
from nabrel.core.drill.judgements import Judgement
from nabrel.core.drill.making import exercise, looks
from nabrel.core.drill.practice import Practice, level_of, next_asked
from nabrel.core.drill.sets import question
from nabrel.core.errors import Impossible
from nabrel.core.house import House
from nabrel.core.terms.ids import DrillKind
from nabrel.formats.drills import ExerciseFile, MarkFile, answer_of, told
from nabrel.formats.practice import DrillSetFile
from nabrel.store.drill_sessions import MOST_ASKED, DrillSessions, Owned, StoredAsked, StoredSession
from nabrel.store.practice import DrillSets
from nabrel.store.versions import Missing
from nabrel.web.shared.heavy import Heavy

MOST_PAPERS = 60
MOST_SESSIONS = 300
GRACE = timedelta(seconds=30)
"""An answer that was begun in time still counts for so long after the end."""
AHEAD_S = 3.0
"""An exercise that was begun ahead is waited for so long."""
MOST_TRIES = 8
"""So many exercises are made for one that no other of the session looks like."""


@dataclass
class AskedExercise:
    """One exercise of a session: its number, since when it is asked, and how it was answered; ``place`` is its place in a set."""

    exercise: Exercise
    since: datetime
    number: int
    place: int | None = None
    answer: Answer | None = None
    mark: Mark | None = None
    seconds: float = 0.0

    @property
    def stored(self) -> StoredAsked:
        """It as it is kept."""
        mark = MarkFile.of(self.mark) if self.mark is not None else None
        return StoredAsked.model_construct(
            exercise=ExerciseFile.of(self.exercise),
            since=self.since,
            place=self.place,
            answer=None if self.answer is None else told(self.answer),
            mark=mark,
            seconds=self.seconds,
        )

    @classmethod
    def of(cls, number: int, stored: StoredAsked) -> AskedExercise:
        """It from what is kept."""
        mark = stored.mark.mark if stored.mark is not None else None
        answer = answer_of(stored.answer) if stored.answer is not None else None
        return cls(stored.exercise.exercise, stored.since, number, stored.place, answer, mark, stored.seconds)


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
    place: int = 0
    practice: Practice = field(default_factory=Practice)
    asked: OrderedDict[str, AskedExercise] = field(default_factory=OrderedDict)
    judgements: list[str] = field(default_factory=list)
    seen: set[str] = field(default_factory=set)
    ahead: tuple[str, Future[Exercise]] | None = None
    ended: bool = False
    lock: RLock = field(default_factory=RLock)

    @property
    def stored(self) -> StoredSession:
        """It as it is kept, without what was asked."""
        return StoredSession.model_construct(
            begun=self.begun,
            ends=self.ends,
            kinds=self.kinds,
            level=self.level,
            seed=self.seed,
            place=self.place,
            ended=self.ended,
            known=self.practice.known,
            answers=self.practice.answers,
        )

    @classmethod
    def of(
        cls,
        key: str,
        owned: Owned,
        stored: StoredSession,
        asked: list[tuple[int, str, StoredAsked]],
        drill_set: DrillSetFile | None,
    ) -> DrillSession:
        """It from what is kept."""
        held = OrderedDict((name, AskedExercise.of(number, each)) for number, name, each in asked)
        return cls(
            key, owned.student, owned.account, stored.begun, stored.ends, stored.kinds, stored.level, stored.seed, drill_set,
            stored.place, Practice(stored.known, stored.answers), held,
            [each.exercise.judgement for each in held.values()], {looks(each.exercise) for each in held.values()},
            ended=stored.ended,
        )  # fmt: skip

    @property
    def is_test(self) -> bool:
        """Whether all get the same here, and marks are shown at the end."""
        return self.drill_set is not None and self.drill_set.same_for_all

    @property
    def answered(self) -> list[AskedExercise]:
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

    def get(self, key: str) -> AskedExercise:
        """An exercise of this session. Refuses any other one."""
        if key not in self.asked:
            raise Missing("exercise", key, "an exercise of this session: ask for another")
        return self.asked[key]

    def to_answer(self, key: str) -> AskedExercise:
        """An exercise that is still open. Refuses one that was answered."""
        found = self.get(key)
        if found.mark is not None:
            raise Impossible("exercise", key, "an exercise that is still open: this one was answered, and counts once")
        return found

    def open_one(self) -> tuple[str, AskedExercise] | None:
        """The exercise that was asked last, if it was not answered."""
        if not self.asked:
            return None
        key = next(reversed(self.asked))
        return (key, self.asked[key]) if self.asked[key].mark is None else None

    def put(self, made: Exercise, now: datetime, place: int | None = None) -> tuple[str, AskedExercise]:
        """Ask an exercise, under a key that nobody can guess."""
        key = secrets.token_hex(16)
        number = next(reversed(self.asked.values())).number + 1 if self.asked else 0
        self.asked[key] = AskedExercise(made, now, number, place)
        self.judgements.append(made.judgement)
        self.seen.add(looks(made))
        while len(self.asked) > MOST_ASKED:
            self.asked.popitem(last=False)
        return key, self.asked[key]


class Sessions:
    """The sessions that were used last, as they are kept: what is not in memory any more is read again."""

    def __init__(self) -> None:
        self._sessions: OrderedDict[str, DrillSession] = OrderedDict()
        self._lock = Lock()
        self._papers: OrderedDict[tuple[str, int], _Paper] = OrderedDict()

    def begin(self, session: DrillSession, store: DrillSessions) -> None:
        """Keep a new session."""
        owned = Owned(session.student, session.drill_set.id if session.drill_set else None, session.account)
        store.add(session.id, owned, session.stored)
        with self._lock:
            self._remember(session)

    def _remember(self, session: DrillSession) -> None:
        self._sessions[session.id] = session
        self._sessions.move_to_end(session.id)
        while len(self._sessions) > MOST_SESSIONS:
            self._sessions.popitem(last=False)

    def get(self, key: str, account: str | None, opened: OrmSession) -> DrillSession:
        """A session of this account. Refuses any other one."""
        with self._lock:
            store = DrillSessions(opened)
            # Asked of the store every time: it may be gone, with a student, a set or a sitter.
            owned, stored, asked = store.get(key)
            found = self._sessions.get(key)
            if found is None:
                file = DrillSets(opened).get(owned.set) if owned.set is not None else None
                found = DrillSession.of(key, owned, stored, asked, file)
            if found.account != account:
                raise Missing("session", key, "a session of yours that goes on: begin another")
            self._remember(found)
        return found

    def forget(self, student: str) -> None:
        """Keep nothing of a student's sessions in memory."""
        with self._lock:
            for key in [key for key, each in self._sessions.items() if each.student == student]:
                del self._sessions[key]

    def forget_all(self) -> None:
        """Keep nothing in memory: somebody was erased."""
        with self._lock:
            self._sessions.clear()
            self._papers.clear()

    def question(
        self, file: DrillSetFile, seed: int, place: int, house: House, faces: Sequence[Case], work: Work
    ) -> Exercise | None:
        """One question of a set from a seed; None behind the last. Each is made once while it is remembered."""
        with self._lock:
            paper = self._papers.get((file.id, seed))
            if paper is None or not paper.same(file, house, faces):
                while len(self._papers) >= MOST_PAPERS:
                    self._papers.popitem(last=False)
                paper = self._papers[file.id, seed] = _Paper(file, seed, house, tuple(faces))
        return paper.question(place, work)


Work = Callable[..., Any]
"""How heavy work is done: what it is, a function, and what it is given."""


class _Paper:
    """The questions of one set from one seed, made one by one as they are come to."""

    def __init__(self, file: DrillSetFile, seed: int, house: House, faces: tuple[Case, ...]) -> None:
        self._parts, self._seed, self._house, self._faces = file.parts, seed, house, faces
        self._made: list[Exercise] = []
        self._lock = Lock()

    def same(self, file: DrillSetFile, house: House, faces: Sequence[Case]) -> bool:
        return (self._parts, self._house, self._faces) == (file.parts, house, tuple(faces))

    def question(self, place: int, work: Work) -> Exercise | None:
        with self._lock:
            while len(self._made) <= place:
                if len(self._made) >= sum(part.count for part in self._parts):
                    return None
                seen = frozenset(looks(each) for each in self._made)
                self._made.append(
                    work("exercise", question, self._parts, self._seed, len(self._made), self._house, self._faces, seen)
                )
            return self._made[place]


def fitting(session: DrillSession, practice: Practice) -> Level:
    """The level that is asked for, or the one that fits."""
    return session.level or level_of(practice)


def made_next(session: DrillSession, practice: Practice, house: House, now: datetime, work: Work) -> Exercise:
    """The next exercise of a free session: the one that was made ahead, where it is about what is asked next."""
    wanted = next_asked(practice, session.judgements, session.kinds, now)
    ahead, session.ahead = session.ahead, None
    made = _made_ahead(ahead[1]) if ahead is not None and ahead[0] == wanted.id else None
    if made is not None and looks(made) not in session.seen:
        return made
    number, level = len(session.judgements) + 1, fitting(session, practice)
    return cast(
        "Exercise", work("exercise", unlike, wanted, session.seed, number, level, house, frozenset(session.seen))
    )


def _made_ahead(future: Future[Exercise]) -> Exercise | None:
    """What was made ahead, or will be in a moment; None where it came to nothing: it is made anew."""
    try:
        return future.result(AHEAD_S)
    except Exception:  # whatever became of its process
        future.cancel()
        return None


def make_ahead(workers: Heavy, session: DrillSession, practice: Practice, house: House, now: datetime) -> None:
    """Begin on the exercise that will be asked once the open one is answered."""
    wanted = next_asked(practice, session.judgements, session.kinds, now)
    number, level = len(session.judgements) + 1, fitting(session, practice)
    seen = frozenset(session.seen)
    session.ahead = (wanted.id, workers.ahead(unlike, wanted, session.seed, number, level, house, seen))


def unlike(wanted: Judgement, seed: int, number: int, level: Level, house: House, seen: frozenset[str]) -> Exercise:
    """An exercise of a judgement that no other of the session looks like."""
    for turn in range(MOST_TRIES):
        made = exercise(wanted.kind, seed, number + turn * MOST_ASKED, level, house, judgement=wanted.id)
        if looks(made) not in seen:
            break
    return made
