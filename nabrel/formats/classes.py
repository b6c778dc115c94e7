"""``class`` and ``lesson``: a room of students, and what they do when."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from typing import TYPE_CHECKING, Annotated, Any, Literal

from annotated_types import MaxLen, MinLen
from pydantic import Field

from nabrel.core.ask.adapt import Adaptation
from nabrel.core.lesson import room
from nabrel.core.lesson.lesson import Lesson, Round, rounds
from nabrel.core.lesson.room import (
    MOST_BLOCKS,
    MOST_STUDENTS,
    CheckDone,
    ClassLog,
    Name,
    Room,
    Student,
    checked_room,
)
from nabrel.core.lesson.timing import Doing, Phased
from nabrel.core.lesson.weigh_out import Weighed
from nabrel.core.pace.tasks import Pace
from nabrel.core.terms.ids import StepKind, Tool
from nabrel.core.terms.limits import MOST_TOOLS, Ident
from nabrel.formats.checks import check_case, check_sequence
from nabrel.formats.files import CaseFile, Document, SequenceFile, document_of
from nabrel.formats.loader import read
from nabrel.formats.values import filled

Checked = Annotated[dict[Name, tuple[Ident, ...]], MaxLen(MOST_STUDENTS)]


class StudentEntry(Document):
    """One student: a nickname, the pace of their hand, their face where it is known, and their tools where they are listed."""

    name: Name
    pace: Pace = 2.0
    case: CaseFile | None = None
    tools: Annotated[tuple[Tool, ...], MaxLen(MOST_TOOLS)] | None = None

    @property
    def student(self) -> Student:
        """It as the lesson is made from it."""
        return Student(self.name, self.pace, self.case.case if self.case else None, self.tools)


class _ClassHeader(Document):
    nabrel: Literal["class"] = "class"
    version: Literal[1] = 1


if TYPE_CHECKING:

    class AnnouncedFile(Document):
        """What is announced of a class, as a document: the fields of the value of that name, which declares them."""

        def __getattr__(self, name: str) -> Any:
            """Any of them."""
else:
    AnnouncedFile = document_of(room.Announced)


class RoomFile(AnnouncedFile):
    """A class beside the plan and the students: what is announced, and how it went."""

    held: bool = False
    log: ClassLog = Field(default_factory=ClassLog)


ANNOUNCED = tuple(RoomFile.model_fields)


class ClassFile(RoomFile, _ClassHeader):
    """``class``: what is taught, when, to whom, and with what. ``checked`` names, by student, the blocks that were checked."""

    sequence: SequenceFile
    students: Annotated[tuple[StudentEntry, ...], MinLen(1), MaxLen(MOST_STUDENTS)]
    checked: Checked = Field(default_factory=dict)

    @property
    def room(self) -> Room:
        """It as the lesson is made from it; a check that is only listed was made at no known time."""
        announced: dict[str, Any] = {name: getattr(self, name) for name in ANNOUNCED}
        known = {(each.student, each.step) for each in self.log.checks}
        more = tuple(
            CheckDone(name, step) for name, steps in self.checked.items() for step in steps if (name, step) not in known
        )
        announced["log"] = replace(self.log, checks=(*self.log.checks, *more))
        return Room(
            sequence=self.sequence.sequence, students=tuple(each.student for each in self.students), **announced
        )

    @classmethod
    def of(cls, room: Room) -> ClassFile:
        """The file of a class."""
        announced: dict[str, Any] = {name: getattr(room, name) for name in ANNOUNCED}
        checked: dict[str, list[str]] = {}
        for each in room.log.checks:
            if not each.again:
                checked.setdefault(each.student, []).append(each.step)
        return cls(
            sequence=SequenceFile.of(room.sequence),
            students=tuple(
                filled(StudentEntry, each, case=CaseFile.of(each.case) if each.case is not None else None)
                for each in room.students
            ),
            checked={name: tuple(steps) for name, steps in checked.items()},
            **announced,
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


class DoingModel(Document):
    """One thing a student does; ``station`` is null while watching, ``whom`` who is watched by a student who observes."""

    what: Doing
    start_s: int
    end_s: int
    station: int | None
    block: int | None
    item: str | None = None
    educator: int | None = None
    whom: str | None = None


class StudentLesson(Document):
    """One student's lesson: whose face they work on (null: nobody's), why a face is not worked, and what differs there."""

    name: str
    face: str | None
    stop: str
    offers: list[str]
    tasks: list[DoingModel]
    differs: list[Adaptation]


class RoundModel(Document):
    """One thing an educator does."""

    what: Literal["show", "check", "break"]
    start_s: int
    end_s: int
    block: int | None
    student: str
    station: int | None


class ToolsModel(Document):
    """One kind of tool: how many at once, of which so many are cleaned in between."""

    kind: Tool
    count: int
    cleaned: int


class SavingModel(Document):
    """A thinner way, and what it saves the class."""

    kind: StepKind
    says: str
    saves: float
    unit: Literal["ml", "g"]
    cost: float | None


class ShorterModel(Document):
    """One way to shorten the lesson, and what it costs."""

    says: str
    costs: str
    saves_s: int


class LessonModel(Document):
    """``lesson``: a class in time, with what it takes."""

    nabrel: Literal["lesson"] = "lesson"
    version: Literal[1] = 1
    blocks: Annotated[list[Phased], MaxLen(3 * MOST_BLOCKS)]
    students: list[StudentLesson]
    educators: list[list[RoundModel]]
    proven: bool
    length_s: int
    weigh_out: list[Weighed]
    tools: list[ToolsModel]
    cost: float | None
    costs_most: str
    savings: list[SavingModel]
    before_class: list[str]
    during_class: list[str]
    after_class: list[str]
    too_long_s: int
    shorter: list[ShorterModel]


def lesson_to(found: Lesson) -> LessonModel:
    """A lesson as a file has it."""
    return LessonModel(
        blocks=list(found.blocks),
        students=[_student(found, name) for name in found.students],
        educators=[[_round(each) for each in own] for own in rounds(found.timed, found.room.educators)],
        proven=found.proven,
        length_s=found.length_s,
        weigh_out=list(found.weigh_out),
        tools=[ToolsModel(kind=each.tool, count=each.count, cleaned=each.cleaned) for each in found.tools],
        cost=None if found.cost is None else round(found.cost, 2),
        costs_most=found.costs_most,
        savings=[filled(SavingModel, each) for each in found.savings],
        before_class=[f"{each.when}: {each.says}" for each in found.before_class],
        during_class=[f"{each.when}: {each.says}" for each in found.during_class],
        after_class=[f"{each.when}: {each.says}" for each in found.after_class],
        too_long_s=found.too_long_s,
        shorter=[filled(ShorterModel, each) for each in found.shorter],
    )


def _student(found: Lesson, name: str) -> StudentLesson:
    face = found.faces[name]
    return StudentLesson(
        name=name,
        face=face.of,
        stop=face.stop,
        offers=list(face.offers),
        tasks=list(tasks_of(found, name)),
        differs=list(face.changes),
    )


def tasks_of(found: Lesson, name: str) -> Iterable[DoingModel]:
    """What one student does, in time."""
    for each in found.students[name]:
        yield filled(DoingModel, each, what=each.doing, item=each.item or None, whom=each.whom or None)


def _round(each: Round) -> RoundModel:
    return filled(RoundModel, each, what=each.doing)
