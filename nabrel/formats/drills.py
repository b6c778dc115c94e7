"""``exercise`` and ``mark``: a question whose answer the core computes, and what an answer to it is worth."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from annotated_types import MaxLen, MinLen
from pydantic import BaseModel, ConfigDict, Field, ValidationError
from pydantic_core import from_json, to_json

from nabrel.core.drill.exercise import MOST_CHOICES, Choice, DrillKind, Exercise, Level, Mark
from nabrel.core.errors import Refused
from nabrel.core.judge.evaluate import rule_book
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.ids import Zone
from nabrel.core.terms.limits import Ident, one_line
from nabrel.formats.checks import check_sequence
from nabrel.formats.files import Document, SequenceFile, dumped
from nabrel.formats.loader import read
from nabrel.formats.refusing import refusal, refuse_deep
from nabrel.formats.upgrade import newest

SEQUENCE, MENDED = "sequence", "mended"
Seed = Annotated[int, Field(ge=0, le=2**31)]
Said = Annotated[str, one_line(600)]
Answer = dict[str, Any]
Shown = Annotated[dict[str, Any], MaxLen(20)]


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
    shows: Shown = Field(default_factory=dict)
    choices: Annotated[tuple[ChoiceModel, ...], MaxLen(MOST_CHOICES)] = ()
    answer: Answer
    why: Annotated[tuple[Said, ...], MaxLen(8)]
    marking: Shown = Field(default_factory=dict)

    @classmethod
    def of(cls, found: Exercise) -> ExerciseFile:
        """The file of an exercise: the plan is shown where the question is about it, and else goes with the marking."""
        shows, marking = dict(found.shows), dict(found.marking)
        if found.sequence is not None:
            (shows if found.kind == "fault" else marking)[SEQUENCE] = dumped(SequenceFile.of(found.sequence))
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
            answer=dict(found.answer),
            why=found.why,
            marking=marking,
        )

    @property
    def exercise(self) -> Exercise:
        """It as it is marked. Refuses a plan in it that is none."""
        plan, mended = None, None
        for holder, name in ((self.shows, "shows"), (self.marking, "marking")):
            if SEQUENCE in holder:
                plan = check_sequence(_sequence(holder[SEQUENCE], f"{name}.{SEQUENCE}").sequence)
        if MENDED in self.marking:
            mended = check_sequence(_sequence(self.marking[MENDED], f"marking.{MENDED}").sequence)
        return Exercise(
            self.id, self.kind, self.judgement, self.level, self.seed, self.asks, self.answer, self.why,
            tuple(Choice(each.id, each.says) for each in self.choices),
            {name: value for name, value in self.shows.items() if name != SEQUENCE},
            {name: value for name, value in self.marking.items() if name not in (SEQUENCE, MENDED)},
            plan,
            mended,
        )  # fmt: skip


class MarkFile(Document):
    """``mark``: what an answer is worth, 0 to 1, the right one, what would follow from the one given, and why."""

    nabrel: Literal["mark"] = "mark"
    version: Literal[1] = 1
    score: Annotated[float, Field(ge=0, le=1)]
    right: Answer
    follows: list[Said]
    why: list[Said]

    @classmethod
    def of(cls, found: Mark) -> MarkFile:
        """The file of a mark."""
        return cls(score=found.score, right=dict(found.right), follows=list(found.follows), why=list(found.why))


class _Part(BaseModel):
    """What an exercise of a kind is marked by; whatever else lies beside it is only shown."""

    model_config = ConfigDict(extra="ignore", allow_inf_nan=False)


class _Listed(_Part):
    class Line(_Part):
        """One step."""

        id: Ident
        says: str

    steps: Annotated[list[Line], MinLen(1)]


class _Before(_Part):
    before: Annotated[list[tuple[str, str, str]], MinLen(1)]


class _Broken(_Part):
    rule: Ident
    comes_of_it: str


class _Beneath(_Part):
    skin: Lab
    foundation: Ident
    film_um: Annotated[float, Field(ge=0, le=40)]
    wanted: Annotated[float, Field(ge=1, le=20)]


class _Asked(_Part):
    zones: Annotated[list[Zone], MinLen(1)]


class _Valued(_Asked):
    values: Annotated[list[_Listed.Line], MinLen(2)]


class _Reasons(_Part):
    reasons: dict[Zone, str]


class _Leaves(_Part):
    class Left(_Part):
        """What one choice leaves."""

        de: Annotated[float, Field(ge=0, le=200)]
        says: str

    leaves: dict[str, Left]


class _Against(_Part):
    against: dict[str, list[str]]


class _Held(_Part):
    held: dict[str, str]


class _Mended(_Part):
    says: str
    mend: str


PARTS: dict[DrillKind, tuple[type[_Part], type[_Part], tuple[str, ...]]] = {
    "order": (_Listed, _Before, ("order",)),
    "fault": (_Listed, _Broken, ("step", "choice")),
    "corrector": (_Part, _Leaves, ("choice",)),
    "depth": (_Beneath, _Part, ("drop",)),
    "leave_bare": (_Asked, _Reasons, ("zones",)),
    "powder_where": (_Valued, _Reasons, ("zones", "value")),
    "placement": (_Asked, _Reasons, ("zones",)),
    "school": (_Part, _Against, ("choice",)),
    "wait": (_Part, _Held, ("choice",)),
    "diagnose": (_Part, _Mended, ("choice",)),
}
"""What each kind is marked by, of what is shown and of what is not, and what its answer names; the others by their choice alone."""


def read_exercise(data: bytes) -> Exercise:
    """An exercise from its file. Refuses, with the field, what is none, and what cannot be marked."""
    file = read(data, ExerciseFile, "exercise")
    found = file.exercise
    shows, marking, keys = PARTS.get(found.kind, (_Part, _Part, ("choice",)))
    for name, part, values in (("shows", shows, found.shows), ("marking", marking, found.marking)):
        try:
            part.model_validate_json(to_json(values))
        except ValidationError as error:
            refused = refusal(error, name)
            field = name if refused.field == name else f"{name}.{refused.field}"
            raise Refused(field, refused.found, refused.allowed) from None
    for key in keys:
        if key not in found.answer:
            raise Refused(f"answer.{key}", "nothing", "what an exercise of this kind is answered with")
    if "choice" in keys and len(found.choices) < 2:
        raise Refused("choices", len(found.choices), "two and more")
    if found.kind in ("fault", "depth") and found.sequence is None:
        raise Refused(
            "shows.sequence" if found.kind == "fault" else "marking.sequence", "nothing", "the plan it is about"
        )
    if found.kind == "fault" and found.marking["rule"] not in rule_book():
        raise Refused("marking.rule", found.marking["rule"], "a rule of the rule book")
    if found.kind == "depth" and found.sequence is not None:
        item = found.sequence.case.product(found.shows["foundation"])
        if item is None or not item.tinted:
            raise Refused("shows.foundation", found.shows["foundation"], "a foundation of the plan's kit")
    if "zones" in keys and not set(found.marking["reasons"]) >= set(found.shows["zones"]):
        raise Refused("marking.reasons", "too few", "a reason for every zone that is asked about")
    return found


def read_answer(data: bytes) -> dict[str, Any]:
    """An answer: a JSON object. Refuses anything else."""
    refuse_deep(data, "answer")
    try:
        found = from_json(data, allow_inf_nan=False)
    except ValueError as error:
        raise Refused("answer", "text that is not JSON", f"JSON ({error})") from None
    if not isinstance(found, dict):
        raise Refused("answer", found, 'an object, such as {"choice": "a"}')
    return found


def _sequence(value: Any, field: str) -> SequenceFile:
    if not isinstance(value, dict):
        raise Refused(field, value, "a sequence file")
    try:
        return SequenceFile.model_validate_json(to_json(newest(value, "sequence")))
    except ValidationError as error:
        refused = refusal(error, "sequence")
        raise Refused(f"{field}.{refused.field}", refused.found, refused.allowed) from None
