"""``exercise`` and ``mark``: a question whose answer the core computes, and what an answer to it is worth."""

from __future__ import annotations

from functools import cache
from typing import Annotated, Any, Literal, TypeVar

from annotated_types import MaxLen
from pydantic import ConfigDict, Field, TypeAdapter, ValidationError
from pydantic_core import from_json, to_json

from nabrel.core.drill.exercise import MOST_CHOICES, Answer, Exercise, Level, Line, Mark, Shown
from nabrel.core.drill.kinds import KINDS
from nabrel.core.errors import Refused
from nabrel.core.terms.ids import DrillKind
from nabrel.core.terms.limits import Ident, one_line
from nabrel.formats.checks import check_sequence
from nabrel.formats.files import Document, SequenceFile, dumped
from nabrel.formats.loader import read
from nabrel.formats.refusing import refusal, refuse_deep
from nabrel.formats.upgrade import newest
from nabrel.formats.values import value_of

Value = TypeVar("Value")
SEQUENCE, MENDED = "sequence", "mended"
Seed = Annotated[int, Field(ge=0, le=2**31)]
Said = Annotated[str, one_line(600)]
Given = dict[str, Any]
Parts = Annotated[dict[str, Any], MaxLen(20)]


class ChoiceModel(Document):
    """One thing to choose."""

    id: Annotated[str, Field(pattern="^[a-h]$")]
    says: Said


class ExerciseFile(Document):
    """``exercise``: a question with its answer. ``marking`` is what it is marked by; a plan in ``shows`` or there is a sequence file."""

    nabrel: Literal["exercise"] = "exercise"
    version: Literal[1] = 1
    id: Ident
    kind: DrillKind
    judgement: Annotated[str, one_line(120)]
    level: Level
    seed: Seed
    asks: Said
    shows: Parts = Field(default_factory=dict)
    choices: Annotated[tuple[ChoiceModel, ...], MaxLen(MOST_CHOICES)] = ()
    answer: Given
    why: Annotated[tuple[Said, ...], MaxLen(8)]
    marking: Parts = Field(default_factory=dict)

    @classmethod
    def of(cls, found: Exercise) -> ExerciseFile:
        """The file of an exercise: the plan is shown where the question is about it, and else goes with the marking."""
        shows, marking = told(found.shows), told(found.marking)
        if found.sequence is not None:
            (shows if KINDS[found.kind].asks_plan else marking)[SEQUENCE] = dumped(SequenceFile.of(found.sequence))
        if found.mended is not None:
            marking[MENDED] = dumped(SequenceFile.of(found.mended))
        return cls(
            id=found.id,
            kind=found.kind,
            judgement=found.judgement,
            level=found.level,
            seed=found.seed,
            asks=found.asks,
            shows=shows,
            choices=tuple(ChoiceModel(id=each.id, says=each.says) for each in found.choices),
            answer=told(found.answer),
            why=found.why,
            marking=marking,
        )

    @property
    def exercise(self) -> Exercise:
        """It as it is marked. Refuses, with the field, what it cannot be marked by, and a plan in it that is none."""
        plan, mended = None, None
        for holder, name in ((self.shows, "shows"), (self.marking, "marking")):
            if SEQUENCE in holder:
                plan = check_sequence(_sequence(holder[SEQUENCE], f"{name}.{SEQUENCE}").sequence)
        if MENDED in self.marking:
            mended = check_sequence(_sequence(self.marking[MENDED], f"marking.{MENDED}").sequence)
        return Exercise(
            self.id, self.kind, self.judgement, self.level, self.seed, self.asks, answer_of(self.answer), self.why,
            tuple(Line(each.id, each.says) for each in self.choices),
            _read(Shown, self.shows, "shows"),
            _read(KINDS[self.kind].marking, self.marking, "marking"),
            plan,
            mended,
        )  # fmt: skip


class MarkFile(Document):
    """``mark``: what an answer is worth, 0 to 1, the right one, what would follow from the one given, and why."""

    nabrel: Literal["mark"] = "mark"
    version: Literal[1] = 1
    score: Annotated[float, Field(ge=0, le=1)]
    right: Given
    follows: list[Said]
    why: list[Said]

    @classmethod
    def of(cls, found: Mark) -> MarkFile:
        """The file of a mark."""
        return cls(score=found.score, right=told(found.right), follows=list(found.follows), why=list(found.why))

    @property
    def mark(self) -> Mark:
        """It as it was given."""
        return Mark(self.score, answer_of(self.right), tuple(self.follows), tuple(self.why))


LENIENT = ConfigDict(extra="ignore", allow_inf_nan=False)
"""Of what an exercise is marked by; whatever else lies beside it is passed over."""


@cache
def _adapter(kind: Any) -> TypeAdapter[Any]:
    # A dataclass takes no configuration from outside; a tuple that holds one passes it on.
    return TypeAdapter(tuple[kind], config=LENIENT)


def _key(kind: type[Any]) -> Any:
    """The kind as a key: classes are hashable, which their type does not say."""
    return kind


def _read(kind: type[Value], values: dict[str, Any], field: str) -> Value:
    try:
        found: Value = _adapter(_key(kind)).validate_json(to_json([values]))[0]
    except ValidationError as error:
        refused = refusal(error, field, within=1)
        at = field if refused.field == field else f"{field}.{refused.field}"
        raise Refused(at, refused.found, refused.allowed) from None
    return found


def told(value: Any) -> dict[str, Any]:
    """A part of an exercise, or an answer, as a file has it: without what is not said."""
    found: dict[str, Any] = _adapter(_key(type(value))).dump_python((value,), mode="json", exclude_defaults=True)[0]
    return found


def answer_of(given: Given) -> Answer:
    """An answer from what a file or a request says. Refuses, with the field, what no exercise asks for."""
    return value_of(Answer, given, "answer")


def read_exercise(data: bytes) -> Exercise:
    """An exercise from its file. Refuses, with the field, what is none, and what cannot be marked."""
    found = read(data, ExerciseFile, "exercise").exercise
    kind = KINDS[found.kind]
    for name in kind.shown:
        if not getattr(found.shows, name):
            raise Refused(f"shows.{name}", "nothing", "what an exercise of this kind shows")
    for key in kind.answered:
        if key not in found.answer.named:
            raise Refused(f"answer.{key}", "nothing", "what an exercise of this kind is answered with")
    if "choice" in kind.answered and len(found.choices) < 2:
        raise Refused("choices", len(found.choices), "two and more")
    if found.sequence is None and (kind.asks_plan or not kind.plan_is_seen):
        raise Refused(f"{'shows' if kind.asks_plan else 'marking'}.{SEQUENCE}", "nothing", "the plan it is about")
    kind.check(found)
    return found


def read_answer(data: bytes) -> Answer:
    """An answer: a JSON object. Refuses anything else."""
    refuse_deep(data, "answer")
    try:
        found = from_json(data, allow_inf_nan=False)
    except ValueError as error:
        raise Refused("answer", "text that is not JSON", f"JSON ({error})") from None
    if not isinstance(found, dict):
        raise Refused("answer", found, 'an object, such as {"choice": "a"}')
    return answer_of(found)


def _sequence(value: Any, field: str) -> SequenceFile:
    if not isinstance(value, dict):
        raise Refused(field, value, "a sequence file")
    try:
        return SequenceFile.model_validate_json(to_json(newest(value, "sequence")))
    except ValidationError as error:
        refused = refusal(error, "sequence")
        raise Refused(f"{field}.{refused.field}", refused.found, refused.allowed) from None
