"""``class`` and ``lesson``: a room of students, and what they do when."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Literal

from annotated_types import Ge, Le, MaxLen, MinLen
from pydantic import Field

from nabrel.core.lesson.lesson import Doing, Lesson, Phase
from nabrel.core.lesson.room import (
    MOST_EDUCATORS,
    MOST_SHARED,
    MOST_STATIONS,
    MOST_STUDENTS,
    Room,
    Shared,
    Student,
    checked_room,
)
from nabrel.core.pace.tasks import Pace
from nabrel.core.terms.ids import Tool
from nabrel.core.terms.limits import Ident, one_line
from nabrel.formats.checks import check_case, check_sequence
from nabrel.formats.files import CaseFile, Document, SequenceFile
from nabrel.formats.loader import read

Name = Annotated[str, one_line(60), MinLen(1)]
Clock = Annotated[str, Field(pattern=r"^([01]\d|2[0-3]):[0-5]\d$")]


class StudentEntry(Document):
    """One student: a nickname, the pace of their hand, and their face where it is known."""

    name: Name
    pace: Pace = 2.0
    case: CaseFile | None = None


class ClassFile(Document):
    """``class``: what is taught, when, to whom, and with what."""

    nabrel: Literal["class"] = "class"
    version: Literal[1] = 1
    title: Annotated[str, one_line(120)]
    date: Annotated[date, Field(strict=False)]
    start: Clock
    sequence: SequenceFile
    students: Annotated[tuple[StudentEntry, ...], MinLen(1), MaxLen(MOST_STUDENTS)]
    stations: Annotated[int, Ge(1), Le(MOST_STATIONS)]
    educators: Annotated[int, Ge(1), Le(MOST_EDUCATORS)] = 1
    shared: Annotated[tuple[Shared, ...], MaxLen(MOST_SHARED)] = ()
    check_s: Annotated[float, Ge(0), Le(1800)] = 45.0
    break_after_min: Annotated[float, Ge(5), Le(600)] = 60.0
    spare: Annotated[float, Ge(0), Le(2)] = 0.15
    pairs: Annotated[tuple[tuple[Name, Name], ...], MaxLen(MOST_STUDENTS)] = ()
    until: Clock | None = None
    zone: Annotated[str, one_line(60)] | None = None
    held: bool = False
    pins: Annotated[dict[Ident, float], MaxLen(100)] = Field(default_factory=dict)
    checked: Annotated[dict[Name, tuple[Ident, ...]], MaxLen(MOST_STUDENTS)] = Field(default_factory=dict)

    @property
    def room(self) -> Room:
        """It as the lesson is made from it."""
        return Room(
            title=self.title,
            date=self.date,
            start=self.start,
            sequence=self.sequence.sequence,
            students=tuple(
                Student(each.name, each.pace, each.case.case if each.case else None) for each in self.students
            ),
            stations=self.stations,
            educators=self.educators,
            shared=self.shared,
            check_s=self.check_s,
            break_after_min=self.break_after_min,
            spare=self.spare,
            pairs=self.pairs,
            until=self.until,
        )


def read_class(data: bytes) -> ClassFile:
    """A ``class`` file that can be held. Refuses, with the field, what cannot."""
    found = read(data, ClassFile, "class")
    check_sequence(found.sequence.sequence)
    for student in found.students:
        if student.case is not None:
            check_case(student.case.case)
    checked_room(found.room)
    return found


class PhaseModel(Document):
    """One part of the lesson."""

    phase: Phase
    start_s: int
    end_s: int
    steps: list[Ident]
    words: str


class DoingModel(Document):
    """One thing a student does; ``station`` is null while watching."""

    what: Doing
    start_s: int
    end_s: int
    station: int | None
    block: int | None
    item: str | None = None
    educator: int | None = None


class StudentLesson(Document):
    """One student's lesson."""

    name: str
    tasks: list[DoingModel]


class WeighedModel(Document):
    """One item weighed out for the room; only ``words`` round."""

    item: Ident
    name: str
    amount: float
    unit: Literal["ml", "g"]
    words: str
    cost: float | None


class ToolsModel(Document):
    """One kind of tool: how many at once, of which so many are cleaned in between."""

    kind: Tool
    count: int
    cleaned: int


class ShorterModel(Document):
    """One way to shorten the lesson."""

    says: str
    saves_s: int


class LessonModel(Document):
    """``lesson``: a class in time, with what it takes."""

    nabrel: Literal["lesson"] = "lesson"
    version: Literal[1] = 1
    blocks: list[PhaseModel]
    students: list[StudentLesson]
    proven: bool
    length_s: int
    weigh_out: list[WeighedModel]
    tools: list[ToolsModel]
    cost: float | None
    before_class: list[str]
    after_class: list[str]
    too_long_s: int
    shorter: list[ShorterModel]


def lesson_to(found: Lesson) -> LessonModel:
    """A lesson as a file has it."""
    return LessonModel(
        blocks=[
            PhaseModel(
                phase=each.phase, start_s=each.start_s, end_s=each.end_s, steps=list(each.steps), words=each.words
            )
            for each in found.blocks
        ],
        students=[
            StudentLesson(
                name=name,
                tasks=[
                    DoingModel(
                        what=each.doing,
                        start_s=each.start_s,
                        end_s=each.end_s,
                        station=each.station,
                        block=each.block,
                        item=each.item or None,
                        educator=each.educator,
                    )
                    for each in own
                ],
            )
            for name, own in found.students.items()
        ],
        proven=found.proven,
        length_s=found.length_s,
        weigh_out=[
            WeighedModel(item=e.item, name=e.name, amount=e.amount, unit=e.unit, words=e.words, cost=e.cost)
            for e in found.weigh_out
        ],
        tools=[ToolsModel(kind=each.tool, count=each.count, cleaned=each.cleaned) for each in found.tools],
        cost=None if found.cost is None else round(found.cost, 2),
        before_class=list(found.before_class),
        after_class=list(found.after_class),
        too_long_s=found.too_long_s,
        shorter=[ShorterModel(says=each.says, saves_s=each.saves_s) for each in found.shorter],
    )
