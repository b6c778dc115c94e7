"""A class as it goes, over HTTP: what now, what happened, and what to take from it. The server's clock is everybody's."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, datetime

from sqlalchemy.orm import Session

from nabrel.core.drill.judgements import practised_by, to_practise
from nabrel.core.drill.kinds import KINDS
from nabrel.core.errors import Refused
from nabrel.core.lesson import live
from nabrel.core.lesson.lesson import Lesson
from nabrel.core.lesson.recap import recap
from nabrel.core.lesson.room import LONGEST_CLASS_S, ClassLog
from nabrel.core.terms.steps import STEP_INFO
from nabrel.core.terms.words import sentence
from nabrel.formats.values import filled
from nabrel.formats.workspace import StoredClass
from nabrel.store.classes import Classes
from nabrel.web.classes import answers as cw
from nabrel.web.classes import present
from nabrel.web.classes.endpoints import lesson_of
from nabrel.web.shared import wire as w
from nabrel.web.shared.endpoints import Endpoints
from nabrel.web.shared.requests import clock, database, house

class_live = Endpoints("class_live", __name__, url_prefix="/api", tag="class")


@class_live.get("/classes/<id>/now", "class_now")
def get_now(path: w.IdPath) -> cw.NowWire:
    """What now, until when, whose turn it is, and what gives when it slips behind."""
    with database().session() as session:
        return _now(session, Classes(session).get(path.id))


@class_live.post("/classes/<id>/events", "class_event")
def post_event(path: w.IdPath, body: cw.EventBody) -> cw.NowWire:
    """Something happened: a part is over, a student was checked, a question came up. Sent twice it counts once."""
    with database().session() as session:
        found = _announced(session, Classes(session).get(path.id))
    now = clock()
    with database().session() as session:
        changed = Classes(session).log(path.id, lambda log: _happened(found, log, body, now))
    # Nobody's change waits until it is worked out what is now.
    with database().session() as session:
        return _now(session, changed)


@class_live.get("/classes/<id>/recap", "class_recap")
def get_recap(path: w.IdPath) -> cw.RecapWire:
    """A class looked back on: what was asked, who was late at what, and what each should practise."""
    with database().session() as session:
        saved = Classes(session).get(path.id)
        found = recap(_announced(session, saved), saved.log)
    return cw.RecapWire(
        blocks=found.blocks,
        practise=[
            filled(
                cw.ToPractiseWire,
                each,
                words=[STEP_INFO[kind].words for kind in each.kinds],
                drills=[w.Named(id=kind, name=KINDS[kind].words) for kind in practised_by(each.kinds)],
                judgements=[w.Named(id=found.id, name=found.words) for found in to_practise(each.kinds)],
            )
            for each in found.practise
        ],
        absent=found.absent,
    )


def _announced(session: Session, saved: StoredClass) -> Lesson:
    """The lesson as it was announced. Who did not come is left out as it goes: the parts that are gone through stay the same."""
    return lesson_of(session, saved.model_copy(update={"log": ClassLog()}))


def _now_s(log: ClassLog, now: datetime) -> float:
    if log.begun is None:
        raise Refused("event", "before the beginning", "a class that was begun")
    return min(max(0.0, (now - datetime.fromisoformat(log.begun)).total_seconds()), LONGEST_CLASS_S)


def _happened(found: Lesson, log: ClassLog, body: cw.EventBody, now: datetime) -> ClassLog:
    """The log with what happened; what cannot have is refused."""
    if body.event == "begin":
        return log if log.begun else replace(log, begun=now.astimezone(UTC).isoformat(timespec="seconds"))
    if body.event in ("absent", "present"):
        return live.here(found, log, _given(body.student, "student"), absent=body.event == "absent")
    at_s = _now_s(log, now)
    if body.event in ("next", "skip"):
        phase = live.step_of(found, log)
        if phase is None or (phase.phase, phase.steps[0]) != (body.phase, body.step):
            return log
        return live.go_on(found, log, at_s, skip=body.event == "skip")
    if body.event == "back":
        return live.go_back(log)
    if body.event == "forget_question":
        place = body.place
        if place is None or place >= len(log.questions):
            raise Refused("place", place, "the place of a question that was noted")
        return replace(log, questions=(*log.questions[:place], *log.questions[place + 1 :]))
    step = _given(body.step, "step")
    if body.event == "ask":
        return live.asked(found, log, body.text, step, at_s)
    student = _given(body.student, "student")
    if body.event == "uncheck":
        return live.unchecked(found, log, student, step)
    return live.checked(found, log, student, step, at_s, again=body.event == "again")


def _given(value: str | None, field: str) -> str:
    if value is None:
        raise Refused(field, None, "what this event is about")
    return value


def _now(session: Session, saved: StoredClass) -> cw.NowWire:
    found = _announced(session, saved)
    now = clock()
    now_s = None if saved.log.begun is None else _now_s(saved.log, now)
    at = live.now_in(found, saved.log, now_s or 0.0, house())
    names = {step.id: step for step in present.steps(found.room)}
    current = None if now_s is None or at.current is None else at.phases[at.current].phase
    return filled(
        cw.NowWire,
        at,
        id=saved.id,
        title=saved.title,
        version=Classes(session).version(saved.id),
        begun=saved.log.begun,
        held=saved.held,
        now_s=now_s,
        clock=now.isoformat(timespec="seconds"),
        phases=[
            filled(
                cw.PhaseNowWire,
                each.phase,
                step=each.phase.steps[0],
                steps=list(dict.fromkeys(names[step].words for step in each.phase.steps))
                if each.phase.phase != "break"
                else [],
                standing=each.standing,
            )
            for each in at.phases
        ],
        blocks=[
            cw.StepNameWire(
                id=part.block.id,
                number=number,
                words=sentence(part.block.words),
                chapter=names[part.block.id].chapter,
            )
            for number, part in enumerate(found.timed.parts, start=1)
        ],
        checks=list(saved.log.checks),
        questions=list(saved.log.questions),
        students=[student.name for student in saved.students],
        absent=list(saved.log.absent),
        signs=[] if current is None or current.phase == "break" else _signs(found, current.steps),
    )


def _signs(found: Lesson, steps: tuple[str, ...]) -> list[str]:
    """What the part under way is about, in a line a step: what, and why."""
    by_id = {step.id: step for step in found.room.sequence.steps}
    return [f"{STEP_INFO[by_id[step].kind].words}: {by_id[step].why[0]}" for step in steps]
