"""What the Drill room is asked and answers: never an answer before it was given."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from nabrel.core.drill.exercise import Answer as Given
from nabrel.core.drill.exercise import Level, Line
from nabrel.core.drill.group import Verdict
from nabrel.core.drill.practice import Standing
from nabrel.core.drill.sets import MOST_MINUTES, Parts, SetPart
from nabrel.core.face.proportions import Proportions
from nabrel.core.lesson.room import Name
from nabrel.core.terms.ids import DrillKind, Zone
from nabrel.core.terms.limits import Ident, one_line
from nabrel.formats.practice import MOST_FACES, Group, Minutes, Seed, SetTitle
from nabrel.web.shared import wire as w


class DrillKindWire(w.AnswerModel):
    """One kind of exercise."""

    id: DrillKind
    words: str


class JudgementWire(w.AnswerModel):
    """One judgement that is practised, and the kind of exercise that practises it."""

    id: str
    kind: DrillKind
    words: str


class DrillsWire(w.AnswerModel):
    """The kinds of exercise and judgements that there are, and who may practise here: ``own`` is the student who is signed in."""

    kinds: list[DrillKindWire]
    judgements: list[JudgementWire]
    minutes: list[int]
    students: list[w.Named]
    own: w.Named | None


class DrillSessionBody(w.Body):
    """A session: whose (nobody's is not kept), how long, of which kinds and level, or of the set with a code.

    Without a level it is the one that fits. ``seed`` makes a free one the same again, where no student is signed in.
    """

    student: Ident | None = None
    minutes: Annotated[int, Field(ge=1, le=MOST_MINUTES)] | None = None
    kinds: Annotated[tuple[DrillKind, ...], Field(max_length=20)] = ()
    level: Level | None = None
    code: Annotated[str, one_line(20)] | None = None
    seed: Annotated[int, Field(ge=0, le=2**31)] | None = None
    ungraded: bool = False


class AnotherTryBody(w.Body):
    """Who may try a set again."""

    student: Ident


class DrillSessionWire(w.AnswerModel):
    """A session that goes on: whose, until when (by the server's clock, which is told too), and the set that it is of."""

    id: str
    student: w.Named | None
    begun: str
    ends: str | None
    clock: str
    title: str
    exercises: int | None
    test: bool


class NextBody(w.Body):
    """What to ask next: from here on nothing that is judged by colour, where ``set_aside`` says so."""

    set_aside: bool = False


class NextWire(w.AnswerModel):
    """The next exercise, None where the set is through; how many were answered, of how many in a set."""

    exercise: ExerciseWire | None
    answered: int
    of: int | None


class ExerciseWire(w.AnswerModel):
    """A question as it is asked."""

    id: str
    kind: DrillKind
    words: str
    level: int
    fits: str
    asks: str
    choices: list[Line]
    steps: list[Line]
    zones: list[Zone]
    values: list[Line]
    reads: list[str]
    face: dict[Zone, str] | None
    proportions: Proportions | None
    skin: str | None
    complexion: str | None
    lower: list[str]
    upper: list[str]
    measures: list[str]
    in_words: list[str]
    by_colour: bool


class DrillAnswerBody(w.Body):
    """An answer: what the kind of exercise asks for, and how many seconds it took to give."""

    seconds: Annotated[float, Field(ge=0, le=86_400)] | None = None
    choice: Annotated[str, Field(max_length=4)] | None = None
    step: Ident | None = None
    order: Annotated[tuple[Ident, ...], Field(max_length=40)] | None = None
    zones: Annotated[tuple[Zone, ...], Field(max_length=60)] | None = None
    drop: Annotated[float, Field(ge=0, le=100)] | None = None
    value: Annotated[str, Field(max_length=4)] | None = None

    @property
    def answer(self) -> Given:
        """It without how long it took."""
        return Given(**self.model_dump(exclude={"seconds"}))


class LeftWire(w.AnswerModel):
    """What one choice leaves of a discoloured zone."""

    choice: str
    hex: str
    de: float
    says: str


class ShownWire(w.AnswerModel):
    """A colour and what it is."""

    words: str
    hex: str


class DrillMarkWire(w.AnswerModel):
    """What an answer is worth, the right one, what would follow, and why; ``as_planned`` is the face without its mistake."""

    score: float
    choice: str | None
    step: str | None
    order: list[str]
    zones: list[Zone]
    drop: float | None
    value: str | None
    follows: list[str]
    why: list[str]
    leaves: list[LeftWire]
    reasons: dict[Zone, str]
    as_planned: dict[Zone, str] | None
    looks: list[ShownWire]


class AnsweredWire(w.AnswerModel):
    """An answer that was taken. In a test it is marked at the end: then there is no mark."""

    mark: DrillMarkWire | None
    answered: int
    of: int | None


class FollowedWire(w.AnswerModel):
    """A plan to look at, and what it is called."""

    words: str
    plan: w.WorkbenchWire


class SpokenWire(w.AnswerModel):
    """What the rule book says of an answer: the finding, its reason, and the other view where the trade disputes it."""

    rule: str
    says: str
    why: str
    other_view: str


class PlanLineWire(w.AnswerModel):
    """One step of the plan that an exercise is about, with its reasons; ``asked`` where it is about this one."""

    id: str
    says: str
    why: list[str]
    asked: bool


class FollowsWire(w.AnswerModel):
    """What would follow: the plans to look at, where they differ in figures, what the rule book says, and the plan step by step.

    ``right_in`` are the schools in which what was answered is right.
    """

    plans: list[FollowedWire]
    figures: list[FigureApartWire]
    says: list[SpokenWire]
    right_in: list[str]
    steps: list[PlanLineWire]


class FigureApartWire(w.AnswerModel):
    """One figure of the plan as it should be and as it was answered."""

    figure: str
    name: str
    unit: str
    decimals: int
    wish: str
    planned: float
    answered: float


class EndBody(w.Body):
    """Nothing needs to be said to end a session."""


class ReviewWire(w.AnswerModel):
    """One exercise looked back on."""

    asks: str
    words: str
    given: str
    right: str
    score: float
    why: list[str]


class ImprovedWire(w.AnswerModel):
    """A judgement that went better than before: the share right then and now."""

    words: str
    before: float
    since: float


class SessionRecapWire(w.AnswerModel):
    """A session looked back on: what it was worth, what got better, what comes next, and every exercise of a test."""

    answered: int
    score: float
    minutes: float
    fits: str
    improved: list[ImprovedWire]
    coming: list[str]
    review: list[ReviewWire]
    saved: bool


class PractisedWire(w.AnswerModel):
    """How one judgement stands."""

    judgement: JudgementWire
    standing: Standing
    words: str
    recall: float
    right: float
    low: float
    high: float
    answers: int
    due: str


class PracticeWire(w.AnswerModel):
    """A student's practice: the map of judgements, what fades, what comes next, what got better in four weeks."""

    id: str
    name: str
    group: str
    answers: int
    remembered: float
    practised: int
    of: int
    level: int
    fits: str
    judgements: list[PractisedWire]
    fades: list[str]
    coming: list[str]
    improved: list[ImprovedWire]
    classes: int


class MemberWire(w.AnswerModel):
    """One student of a group at a glance."""

    id: str
    name: str
    group: str
    level: int
    fits: str
    remembered: float
    practised: int
    due: int
    this_week: int
    last: str
    weakest: list[JudgementWire]


class DrillNeedWire(w.AnswerModel):
    """A judgement that some of a group need."""

    judgement: JudgementWire
    recalled: float
    students: list[str]


class DrillItemWire(w.AnswerModel):
    """What is the matter with an exercise, by the answers to it."""

    judgement: JudgementWire
    level: int
    title: str
    verdict: Verdict
    words: str
    answers: int
    students: int
    right: float
    expected: float
    commonest_wrong: str


class GroupWire(w.AnswerModel):
    """Everybody who practises: at a glance, what they need, and exercises with something the matter."""

    members: list[MemberWire]
    needs: list[DrillNeedWire]
    items: list[DrillItemWire]
    groups: list[str]
    judgements: int


class DrillStudentBody(w.Body):
    """A student who practises."""

    name: Name
    group: Group = ""


class PutForwardBody(w.Body):
    """What a student is asked next: judgements, or all that kinds of exercise practise."""

    judgements: Annotated[tuple[str, ...], Field(max_length=200)] = ()
    kinds: Annotated[tuple[DrillKind, ...], Field(max_length=20)] = ()


class DrillErasedWire(w.AnswerModel):
    """A student who was erased: from how many classes and titles too, and whether nothing is left anywhere yet."""

    classes: int
    titles: int
    finished: bool


class DrillSetBody(w.Body):
    """A set of exercises: what is in it, for how long, about whose faces, and whether all get the same, as a test."""

    title: SetTitle
    parts: Parts
    same_for_all: bool = False
    minutes: Minutes | None = None
    faces: Annotated[tuple[Ident, ...], Field(max_length=MOST_FACES)] = ()
    closed: bool = False
    seed: Seed | None = None


class SetResultWire(w.AnswerModel):
    """How one student did in a set."""

    student: w.Named
    answered: int
    score: float


class DrillSetWire(w.AnswerModel):
    """A set of exercises, with who answered it."""

    id: str
    title: str
    code: str
    says: str
    length: int
    parts: list[SetPart]
    same_for_all: bool
    minutes: int | None
    faces: list[w.Named]
    closed: bool
    seed: int
    results: list[SetResultWire]


class DrillSetsWire(w.AnswerModel):
    """All sets, and whose faces one may be about: sitters who agreed."""

    sets: list[DrillSetWire]
    faces: list[w.Named]


class SetFoundWire(w.AnswerModel):
    """The set of a code, as who takes it sees it."""

    code: str
    title: str
    says: str
    length: int
    minutes: int | None
    test: bool
