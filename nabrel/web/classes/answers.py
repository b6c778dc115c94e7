"""What the Class room is asked and answers."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import Field

from nabrel.core.ask.branches import Branch
from nabrel.core.documents.camps import CampCard
from nabrel.core.face.proportions import Proportions
from nabrel.core.lesson.duties import Duty
from nabrel.core.lesson.live import Standing, TurnNow
from nabrel.core.lesson.recap import BlockRecap
from nabrel.core.lesson.room import MOST_STUDENTS, AskedQuestion, CheckDone, Name, Phase
from nabrel.core.lesson.tools import ToolStock
from nabrel.core.terms.ids import StepKind, Zone
from nabrel.core.terms.limits import Ident, Sentence, one_line
from nabrel.formats.classes import AnnouncedFile, LessonModel
from nabrel.formats.sheet import Paper
from nabrel.formats.workspace import StoredStudent
from nabrel.web.shared import wire as w


class ClassBody(w.Body, AnnouncedFile):
    """A class as it is announced. ``version`` is the one that was changed, None for a new one."""

    plan: Ident
    course: Annotated[str, one_line(120)] = ""
    students: Annotated[tuple[StoredStudent, ...], Field(min_length=1, max_length=MOST_STUDENTS)]
    version: w.Number | None = None


class HeldBody(w.Body):
    """A class was held, as it was announced in this version."""

    version: w.Number


class ClassRowWire(w.AnswerModel):
    """A class in the list: what it teaches, when, to how many, and whether it is to come, under way or held."""

    id: str
    title: str
    course: str
    date: str
    start: str
    until: str | None
    plan: str
    plan_title: str
    nickname: str
    students: int
    stations: int
    standing: Literal["to_come", "under_way", "held"]
    taught: list[str]


class ClassCourseWire(w.AnswerModel):
    """A series of classes."""

    course: str
    held: int
    taught: list[str]
    classes: list[ClassRowWire]


class ClassesWire(w.AnswerModel):
    """All classes by course, which comes next, and what a new one may choose from."""

    courses: list[ClassCourseWire]
    next: str | None
    plans: list[w.Named]
    sitters: list[w.Named]
    kits: list[w.Named]
    mistakes: list[w.Named]
    today: str


class BorderWire(w.AnswerModel):
    """A place between two steps: whether a block may begin there, does, and why it may not."""

    step: str
    number: int
    words: str
    begins: bool
    why_not: str


@dataclass(frozen=True, kw_only=True)
class ToolStockWire(ToolStock):
    """One kind of tool against the shelf."""

    words: str
    cleaned: int


class BuyWire(w.AnswerModel):
    """One item against the shelf."""

    item: str
    name: str
    words: str
    wanted: float
    unit: str
    left: float | None
    packs: int
    cost: float | None
    price: float | None


class StandInWire(w.AnswerModel):
    """A tool that a student does not have, and what they use for it, in words."""

    tool: str
    by: str
    says: str


class LessonStudentWire(w.AnswerModel):
    """One student beside the lesson: whose face is known here, and what they use for tools they do not have."""

    name: str
    nickname: str | None
    brings: list[str]
    stand_ins: list[StandInWire]


class ShorterWire(w.AnswerModel):
    """One way to shorten the class; ``change`` is what it sets, empty where it changes what is taught."""

    says: str
    costs: str
    saves_s: int
    check_s: float | None = None
    stations: int | None = None
    educators: int | None = None
    break_after_min: float | None = None
    half: Literal["one_half"] | None = None


class JumpWire(w.AnswerModel):
    """A moment at which the clocks of the class's zone are put forward or back by so many seconds."""

    at_s: int
    by_s: int


class StepNameWire(w.AnswerModel):
    """One step of the plan that is taught, by its number and name."""

    id: str
    number: int
    words: str
    chapter: str


class ClassWire(w.AnswerModel):
    """A class with its lesson, what it takes and what there is to do."""

    id: str
    version: int
    room: ClassBody
    held: bool
    begun: str | None
    taken: dict[str, float]
    plan_title: str
    nickname: str
    sitter_id: str
    school: str
    when: str
    length_s: int
    room_s: int | None
    jumps: list[JumpWire]
    lesson: LessonModel
    steps: list[StepNameWire]
    borders: list[BorderWire]
    students: list[LessonStudentWire]
    buy: list[BuyWire]
    buy_cost: float
    stock: list[ToolStockWire]
    sponges: str
    before_class: tuple[Duty, ...]
    during_class: tuple[Duty, ...]
    after_class: tuple[Duty, ...]
    shorter: list[ShorterWire]


class PhaseNowWire(w.AnswerModel):
    """One part as it is timed now."""

    phase: Phase
    step: str
    words: str
    steps: list[str]
    start_s: int
    end_s: int
    standing: Standing


class NowWire(w.AnswerModel):
    """A class at this moment. ``now_s`` counts from its beginning; before it, None."""

    id: str
    title: str
    version: int
    begun: str | None
    held: bool
    now_s: float | None
    clock: str
    phases: list[PhaseNowWire]
    current: int | None
    until_s: int | None
    end_s: int
    late_s: int
    over_s: int
    gives: list[str]
    turns: tuple[TurnNow, ...]
    blocks: list[StepNameWire]
    checks: list[CheckDone]
    questions: list[AskedQuestion]
    students: list[str]
    absent: list[str]
    signs: list[str]


class EventBody(w.Body):
    """Something that happened. ``next`` and ``skip`` name the part that is over, so that one sent twice counts once."""

    event: Literal[
        "begin", "next", "skip", "back", "check", "again", "uncheck", "ask", "forget_question", "absent", "present"
    ]
    student: Name | None = None
    step: Ident | None = None
    phase: Phase | None = None
    text: Sentence = ""
    place: Annotated[int, Field(ge=0, le=1000)] | None = None


class ToPractiseWire(w.AnswerModel):
    """What one student should practise, why, and what Drill would ask of it: kinds of exercise, and judgements."""

    student: str
    kinds: list[StepKind]
    words: list[str]
    says: str
    drills: list[w.Named]
    judgements: list[w.Named]


class RecapWire(w.AnswerModel):
    """A class looked back on."""

    blocks: tuple[BlockRecap, ...]
    practise: list[ToPractiseWire]
    absent: tuple[str, ...]


class MistakeWire(w.AnswerModel):
    """A named mistake made in this plan: what it would look like, and what the rule book says of it."""

    id: str
    words: str
    comes_of_it: str
    look_de: float
    look_place: str
    says: list[str]
    right: dict[Zone, str]
    wrong: dict[Zone, str]


class AdaptingWire(w.AnswerModel):
    """What a plan would be on other skin, what schools dispute in it, and what students get wrong in it."""

    plan_id: str
    title: str
    nickname: str
    sitter_id: str
    proportions: Proportions
    branches: tuple[Branch, ...]
    camps: tuple[CampCard, ...]
    mistakes: list[MistakeWire]


class HandoutsQuery(w.Query):
    """How the handouts are printed."""

    paper: Paper = "a4"
    large: bool = False
    mirrored: bool = False
