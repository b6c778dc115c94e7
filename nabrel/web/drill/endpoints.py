"""Drill sessions over HTTP: begun, asked, answered once and in time, looked back on. No answer is sent before marking."""

from __future__ import annotations

import secrets
from datetime import datetime, timedelta
from typing import Annotated

from flask import current_app
from sqlalchemy.orm import Session

from nabrel.core.drill.exercise import Answer
from nabrel.core.drill.kinds import KINDS
from nabrel.core.drill.making import mark
from nabrel.core.drill.practice import Answered, Practice, practised
from nabrel.core.drill.sets import given_words
from nabrel.core.errors import Impossible, Refused, Told
from nabrel.core.terms.limits import Ident
from nabrel.formats.practice import DrillSetFile
from nabrel.store.drill_sessions import MOST_SEED, DrillSessions, Takes
from nabrel.store.practice import DrillSets, PractisingStudent, Students
from nabrel.store.versions import Missing
from nabrel.web.drill import answers as dw
from nabrel.web.drill import present
from nabrel.web.drill.sessions import GRACE, AskedExercise, DrillSession, Sessions, made_next, make_ahead
from nabrel.web.shared import signing_in
from nabrel.web.shared import wire as w
from nabrel.web.shared.endpoints import Endpoints
from nabrel.web.shared.requests import clock, database, heavy, house, owner, workers
from nabrel.web.shared.signing_in import NotForStudents, Tries

drill = Endpoints("drill", __name__, url_prefix="/api/drill", tag="drill")
LENGTHS = [5, 10, 20]
"""Minutes of a session, as they are offered."""


class AskedPath(w.IdPath):
    """An exercise of a session."""

    exercise: Annotated[Ident, "the key of an exercise"]


@drill.get("", "drills")
def get_drills() -> dw.DrillsWire:
    """The kinds of exercise and judgements that there are, and who practises here."""
    own = None
    with database().session() as session:
        students = Students(session)
        if _is_student():
            found = students.named(_account_name())
            own = w.Named(id=found.key if found else "", name=_account_name())
            people = []
        else:
            people = [w.Named(id=each.key, name=each.name) for each in students.all()]
    return dw.DrillsWire(
        kinds=present.kinds(), judgements=present.judgements(), minutes=LENGTHS, students=people, own=own
    )


@drill.post("/sessions", "begin_drill", 201)
def post_session(body: dw.DrillSessionBody) -> dw.DrillSessionWire:
    """Begin a session: a student's, which is kept, or a guest's, of which nothing is."""
    now = clock()
    with database().session() as session:
        student = _whose(session, body)
        file = _of_code(session, body.code) if body.code is not None else None
        if body.seed is not None and (file is not None or _is_student()):
            raise Refused("seed", body.seed, "nothing: what is asked is drawn by the server")
        found = DrillSession(
            id=secrets.token_hex(16),
            student=student.key if student else None,
            account=_account(),
            begun=now,
            ends=None,
            kinds=body.kinds,
            level=body.level,
            seed=secrets.randbelow(MOST_SEED) if body.seed is None else body.seed,
            drill_set=file,
        )
        if file is not None:
            _begin_set(session, found, file, student, now)
        minutes = file.minutes if file is not None else body.minutes
        found.ends = found.begun + timedelta(minutes=minutes) if minutes is not None else None
        found.in_time(now)
        _sessions().begin(found, DrillSessions(session))
    return dw.DrillSessionWire(
        id=found.id,
        student=w.Named(id=student.key, name=student.name) if student else None,
        begun=found.begun.isoformat(timespec="seconds"),
        ends=found.ends.isoformat(timespec="seconds") if found.ends else None,
        clock=now.isoformat(timespec="seconds"),
        title=file.title if file is not None else "",
        exercises=_of(found),
        test=found.is_test,
    )


@drill.post("/sessions/<id>/exercises", "next_exercise", 201)
def post_exercise(path: w.IdPath, body: dw.NextBody) -> dw.NextWire:
    """The next exercise of a session; in a test the open one, until it is answered."""
    found, now = _session(path.id), clock()
    with found.lock:
        _assert_open(found, now)
        if body.set_aside:
            _set_aside(found)
        practice = _practice(found)
        still = found.open_one() if found.is_test else None
        key, asked = still or _ask(found, practice, now)
        if asked is not None and still is None:
            with database().session() as session:
                DrillSessions(session).save(found.id, found.stored, (asked.number, key, asked.stored))
        wire = None if asked is None else present.asked(key, asked.exercise, practice.able)
        return dw.NextWire(exercise=wire, answered=_answered(found), of=_of(found))


@drill.post("/sessions/<id>/exercises/<exercise>/answer", "answer_exercise")
def post_answer(path: AskedPath, body: dw.DrillAnswerBody) -> dw.AnsweredWire:
    """Answer an exercise, once and in time: what it is worth, and what would follow. In a test it is marked at the end."""
    found, now = _session(path.id), clock()
    with found.lock:
        asked = found.to_answer(path.exercise)
        _assert_open(found, now, GRACE)
        given = body.answer
        marked = mark(asked.exercise, given, house())
        passed = max(0.0, (now - asked.since).total_seconds())
        # Nobody looks longer at an exercise than since it was asked for; it may have been asked for ahead.
        seconds = passed if body.seconds is None else min(body.seconds, passed)
        with database().session() as session:
            _record(session, found, asked, given, marked.score, seconds, now)
            asked.answer, asked.mark, asked.seconds = given, marked, seconds
            if found.drill_set is not None:
                found.place += 1
            DrillSessions(session).save(found.id, found.stored, (asked.number, path.exercise, asked.stored))
        shown = None if found.is_test else present.marked(asked.exercise, given, marked, house())
        return dw.AnsweredWire(mark=shown, answered=_answered(found), of=_of(found))


@drill.get("/sessions/<id>/exercises/<exercise>/follows", "what_follows")
def get_follows(path: AskedPath) -> dw.FollowsWire:
    """What would follow from the answer that was given: plans, figures, the rule book. Refused before it was, and in a test."""
    found = _session(path.id)
    asked = found.get(path.exercise)
    if asked.mark is None or (found.is_test and not found.ended):
        raise Impossible("exercise", path.exercise, "an exercise that was answered; in a test, one that is over")
    return present.follows(asked.exercise, asked.answer or Answer(), house())


@drill.post("/sessions/<id>/end", "end_drill")
def post_end(path: w.IdPath, body: dw.EndBody) -> dw.SessionRecapWire:  # noqa: ARG001
    """End a session, and look back on it. Ended again it says the same."""
    found = _session(path.id)
    with found.lock:
        found.ended = True
        with database().session() as session:
            if found.drill_set is not None and found.student is not None:
                Takes(session).end(found.drill_set.id, found.student)
            DrillSessions(session).save(found.id, found.stored)
        practice = _practice(found)
    return present.recap(found, practice, clock())


@drill.get("/codes/<id>", "set_of_code")
def get_code(path: w.IdPath) -> dw.SetFoundWire:
    """The set that a code stands for."""
    with database().session() as session:
        return present.found_set(_of_code(session, path.id))


def _of_code(session: Session, code: str) -> DrillSetFile:
    """The set of a code. Refuses one that no set has, and more of those than anybody mistypes."""
    try:
        return DrillSets(session).by_code(code)
    except Missing:
        tries: Tries = current_app.extensions["nabrel_tries"]
        tries.code(owner())
        raise


def _ask(found: DrillSession, practice: Practice, now: datetime) -> tuple[str, AskedExercise | None]:
    if found.drill_set is not None:
        with database().session() as session:
            faces = DrillSets(session).faces(found.drill_set)
        made = _sessions().question(found.drill_set, found.seed, _next_place(found), house(), faces, heavy)
        return ("", None) if made is None else found.put(made, now, found.place)
    made = made_next(found, practice, house(), now, heavy)
    key, asked = found.put(made, now)
    make_ahead(workers(), found, practice, house(), now)
    return key, asked


def _next_place(found: DrillSession) -> int:
    """Which question of a set comes next: under a name by what was answered, in whichever session; else by this one."""
    if found.drill_set is not None and found.student is not None:
        with database().session() as session:
            found.place = len(Students(session).in_test(found.student, found.drill_set.id))
    return found.place


def _assert_open(found: DrillSession, now: datetime, grace: timedelta = timedelta()) -> None:
    """Refuse a session that is over, and one of a set that was ended in another."""
    found.in_time(now, grace)
    if found.drill_set is not None and found.student is not None:
        with database().session() as session:
            if Takes(session).ended(found.drill_set.id, found.student):
                raise Impossible("session", "over", "a set that goes on: you ended this one, and it counts once")


def _of(found: DrillSession) -> int | None:
    return sum(part.count for part in found.drill_set.parts) if found.drill_set is not None else None


def _set_aside(found: DrillSession) -> None:
    """From here on nothing that is judged by colour. Refuses a set, which asks what it asks, and a session of nothing else."""
    if found.drill_set is not None:
        raise Impossible("set_aside", found.drill_set.title, "a session of your own: ask your educator for another set")
    left = tuple(kind for kind in (found.kinds or tuple(KINDS)) if not KINDS[kind].by_colour)
    if not left:
        raise Impossible("set_aside", list(found.kinds), "a session of other kinds of exercise too")
    found.kinds, found.ahead = left, None


def _record(
    session: Session,
    found: DrillSession,
    asked: AskedExercise,
    given: Answer,
    score: float,
    seconds: float,
    now: datetime,
) -> None:
    made = asked.exercise
    answer = Answered(
        at=now.isoformat(timespec="seconds"),
        exercise=made.id,
        kind=made.kind,
        judgement=made.judgement,
        level=made.level,
        score=score,
        seconds=round(seconds, 1),
        given=given_words(made, given)[:2000],
        set=found.drill_set.id if found.drill_set is not None else None,
        place=asked.place,
    )
    if found.student is None:
        found.practice = practised(found.practice, answer)
        return
    students = Students(session)
    # A set may have been removed while it was taken: then the answer stands without it.
    if answer.set is not None and answer.set not in {each.id for each in DrillSets(session).all()}:
        raise Impossible("session", "a set that was removed", "a set that is still here")
    students.get(found.student)
    students.answer(found.student, answer)


def _begin_set(
    session: Session, found: DrillSession, file: DrillSetFile, student: PractisingStudent | None, now: datetime
) -> None:
    """Begin or go on with a set. Under a name it counts once, from the seed and moment that are kept; else it is practised."""
    if file.closed:
        raise Impossible("code", file.code, "the code of a set that is open: your educator closed this one")
    if student is None:
        if file.same_for_all:
            raise Told("student", "A test is taken under a name.", "Say who you are.")
        return
    take, done = Takes(session).begin(file, student.key, now), Students(session).in_test(student.key, file.id)
    if take.ended or len(done) >= sum(part.count for part in file.parts):
        raise Impossible(
            "code",
            file.code,
            "a set that you have not finished: this one is done, and counts once. Your educator may allow another try",
        )
    found.begun, found.place, found.seed = min(now, take.begun), len(done), take.seed


def _whose(session: Session, body: dw.DrillSessionBody) -> PractisingStudent | None:
    students = Students(session)
    if body.ungraded:
        return None
    if _is_student():
        own = students.named(_account_name()) or students.add(_account_name())
        if body.student not in (None, "", own.key):
            raise NotForStudents("student", "This is another student.", "Practise under your own name.")
        return own
    return students.get(body.student) if body.student else None


def _practice(found: DrillSession) -> Practice:
    if found.student is None:
        return found.practice
    with database().session() as session:
        return Students(session).practice(found.student)


def _answered(found: DrillSession) -> int:
    return found.place if found.drill_set is not None else len(found.answered)


def _session(key: str) -> DrillSession:
    with database().session() as session:
        return _sessions().get(key, _account(), session)


def _sessions() -> Sessions:
    found: Sessions = current_app.extensions["nabrel_drills"]
    return found


def _account() -> str | None:
    who = signing_in.who()
    return None if who is None else who.id


def _account_name() -> str:
    who = signing_in.who()
    if who is None:
        raise Refused("account", "nobody", "somebody who is signed in")
    return who.name


def _is_student() -> bool:
    who = signing_in.who()
    return who is not None and who.role == "student"
