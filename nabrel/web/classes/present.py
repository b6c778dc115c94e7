"""Classes as they are answered."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date

from nabrel.core.documents.handout import when_words
from nabrel.core.documents.phrases import CHAPTERS
from nabrel.core.lesson.blocks import held_together
from nabrel.core.lesson.clock import moment_at
from nabrel.core.lesson.lesson import Lesson
from nabrel.core.lesson.room import Room
from nabrel.core.lesson.shorten import Shorter
from nabrel.core.lesson.tools import old_sponges, stand_ins, tool_stock
from nabrel.core.lesson.weigh_out import buying
from nabrel.core.terms.hands import TOOL_INFO
from nabrel.core.terms.schools import SCHOOL_INFO
from nabrel.core.terms.steps import STEP_INFO
from nabrel.core.terms.words import sentence
from nabrel.formats.classes import AnnouncedFile, lesson_to
from nabrel.formats.values import filled
from nabrel.formats.workspace import StoredClass
from nabrel.store.plans import PlanRow
from nabrel.store.repositories import Kit
from nabrel.store.shelf import Tools
from nabrel.web.classes import answers as cw
from nabrel.web.shared.requests import database, house

JUMP_STEP_S = 900


def row(stored: StoredClass, plan: PlanRow, taught: list[str]) -> cw.ClassRowWire:
    """A class in the list."""
    return filled(
        cw.ClassRowWire,
        stored,
        date=stored.date.isoformat(),
        plan_title=plan.title,
        nickname=plan.nickname,
        students=len(stored.students),
        standing="held" if stored.held else "under_way" if stored.log.begun else "to_come",
        taught=taught,
    )


def body_of(stored: StoredClass, version: int) -> cw.ClassBody:
    """A class as it was announced, to be changed."""
    announced = {name: getattr(stored, name) for name in AnnouncedFile.model_fields}
    return cw.ClassBody.model_construct(
        **announced, plan=stored.plan, course=stored.course, students=stored.students, version=version
    )


def whole(stored: StoredClass, version: int, found: Lesson, plan: PlanRow, nicknames: dict[str, str]) -> cw.ClassWire:
    """A class with everything that follows from it."""
    room = found.room
    with database().session() as session:
        shelf, owned = Kit(session).all(), Tools(session).all()
    stock = tool_stock(found.tools, owned, date.today(), house())
    cleaned = {each.tool: each.cleaned for each in found.tools}
    buy = buying(found.weigh_out, shelf)
    return filled(
        cw.ClassWire,
        found,
        id=stored.id,
        version=version,
        room=body_of(stored, version),
        held=stored.held,
        begun=stored.log.begun,
        taken=stored.taken,
        plan_title=plan.title,
        nickname=plan.nickname,
        sitter_id=plan.sitter_id,
        school=SCHOOL_INFO[room.sequence.school].words,
        when=when_words(room, found.length_s),
        room_s=room.length_s,
        jumps=list(_jumps(room, found.length_s)),
        lesson=lesson_to(found),
        steps=list(steps(room)),
        borders=list(_borders(found)),
        students=[
            cw.LessonStudentWire(
                name=student.name,
                nickname=nicknames.get(own.sitter or ""),
                brings=[item.name for item in student.case.kit] if student.case else [],
                stand_ins=[
                    filled(cw.StandInWire, each, tool=TOOL_INFO[each.tool].words, by=TOOL_INFO[each.by].words)
                    for each in stand_ins(student, found.faces[student.name].plan, house())
                ],
            )
            for student, own in zip(room.students, stored.students, strict=True)
        ],
        buy=[
            filled(cw.BuyWire, each, words=weighed.words, cost=weighed.cost, price=each.cost)
            for each, weighed in zip(buy, found.weigh_out, strict=True)
        ],
        buy_cost=sum(each.cost or 0.0 for each in buy),
        stock=[
            filled(cw.ToolStockWire, each, words=sentence(TOOL_INFO[each.tool].words), cleaned=cleaned[each.tool])
            for each in stock
        ],
        sponges=old_sponges(stock),
        shorter=[_shorter(each) for each in found.shorter],
    )


def steps(room: Room) -> Iterator[cw.StepNameWire]:
    """The steps of the plan that is taught."""
    for number, (step, chapter) in enumerate(zip(room.sequence.steps, room.sequence.chapters(), strict=True), start=1):
        yield cw.StepNameWire(id=step.id, number=number, words=STEP_INFO[step.kind].words, chapter=CHAPTERS[chapter])


def taught(found: Room) -> list[str]:
    """What a class teaches, in words."""
    return list(
        dict.fromkeys(STEP_INFO[step.kind].words for step in found.sequence.steps if STEP_INFO[step.kind].roles)
    )


def _borders(found: Lesson) -> Iterator[cw.BorderWire]:
    held = held_together(found.room.sequence, house())
    begins = {part.block.id for part in found.timed.parts}
    for number, step in enumerate(found.room.sequence.steps[1:], start=2):
        yield cw.BorderWire(
            step=step.id,
            number=number,
            words=STEP_INFO[step.kind].words,
            begins=step.id in begins,
            why_not=held.get(step.id, ""),
        )


def _jumps(room: Room, length_s: int) -> Iterator[cw.JumpWire]:
    """Where the clocks of the zone change between set-up and the end, to a quarter of an hour."""
    before = moment_at(room.date, room.start, room.zone, 0).utcoffset()
    if before is None:
        return
    for at in range(JUMP_STEP_S, max(length_s, room.length_s or 0) + JUMP_STEP_S, JUMP_STEP_S):
        now = moment_at(room.date, room.start, room.zone, at).utcoffset() or before
        if now != before:
            yield cw.JumpWire(at_s=at, by_s=round((now - before).total_seconds()))
            before = now


def _shorter(found: Shorter) -> cw.ShorterWire:
    return cw.ShorterWire.model_validate(
        {"says": found.says, "costs": found.costs, "saves_s": found.saves_s, **found.change}
    )
