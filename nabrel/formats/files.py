"""The JSON files, one kind each in ``FILES``. What stands in them are the core's own values.

They are the contract: the JSON Schemas under ``schemas/`` are generated from them, and the HTTP API speaks them.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import MISSING, dataclass, fields
from datetime import datetime
from typing import Annotated, Any, Literal, get_type_hints

from annotated_types import MaxLen
from pydantic import AfterValidator, BaseModel, ConfigDict, Field, create_model

from nabrel.core.case.case import Case
from nabrel.core.case.intent import Intent
from nabrel.core.case.product import Product
from nabrel.core.case.sitter import Sitter
from nabrel.core.case.tool import OwnedTool
from nabrel.core.judge.book import Finding
from nabrel.core.pace.run import DoneTask, Log, Pause, RunNote
from nabrel.core.pace.tasks import Pace
from nabrel.core.plan.sequence import Accepted, LeftBare, Sequence, Timing
from nabrel.core.plan.step import Step
from nabrel.core.shelf.doses import Take
from nabrel.core.shelf.tools import NamedKit
from nabrel.core.terms.ids import School, Severity
from nabrel.core.terms.limits import (
    LIMITS,
    MOST_ACCEPTED,
    MOST_ITEMS,
    MOST_KITS,
    MOST_STEPS,
    MOST_TOOLS,
    Ident,
    Sentence,
    one_line,
    some_lines,
)


class Document(BaseModel):
    """Strict, closed document: no coercion, no unknown fields, no NaN; so are the core values in it."""

    model_config = ConfigDict(strict=True, extra="forbid", allow_inf_nan=False, defer_build=True)


def document_of(kind: type[Any]) -> type[Document]:
    """A document with the fields of a value of the core: what is declared there is declared nowhere else."""
    hints = get_type_hints(kind, include_extras=True)
    own: dict[str, Any] = {}
    for each in fields(kind):
        usual = each.default if each.default is not MISSING else ...
        own[each.name] = (
            hints[each.name],
            usual if each.default_factory is MISSING else Field(default_factory=each.default_factory),
        )
    return create_model(kind.__name__, __base__=Document, __doc__=kind.__doc__, **own)


class Aliased(Document):
    """A document with a field whose name is a word of Python's own."""

    model_config = ConfigDict(serialize_by_alias=True, validate_by_name=True)


class CaseFile(Document):
    """``case``: what a plan starts from."""

    nabrel: Literal["case"]
    version: Literal[1]
    sitter: Sitter
    intent: Intent = Field(default_factory=Intent)
    kit: Annotated[tuple[Product, ...], MaxLen(MOST_ITEMS)] = ()

    @property
    def case(self) -> Case:
        """The case it holds."""
        return Case(self.sitter, self.intent, self.kit)

    @classmethod
    def of(cls, case: Case) -> CaseFile:
        """The file of a case."""
        return cls(nabrel="case", version=1, sitter=case.sitter, intent=case.intent, kit=case.kit)


@dataclass(frozen=True)
class WrittenStep(Step):
    """A step as it is written: with what to take, which follows from the rest and is ignored when it is read."""

    take: Take | None = None


_STEP_FIELDS = tuple(each.name for each in fields(Step))


class SequenceFile(Document):
    """``sequence``: what a plan is, with the case it was made from, whole."""

    nabrel: Literal["sequence"]
    version: Literal[2]
    school: School
    case: CaseFile
    steps: Annotated[tuple[WrittenStep, ...], MaxLen(MOST_STEPS)]
    left_bare: tuple[LeftBare, ...] = ()
    notes: tuple[Sentence, ...] = ()
    title: Annotated[str, one_line(120)] = ""
    accepted: Annotated[tuple[Accepted, ...], MaxLen(MOST_ACCEPTED)] = ()
    timing: Timing | None = None

    @property
    def sequence(self) -> Sequence:
        """The sequence it holds; takes are left behind."""
        return Sequence(
            self.school,
            self.case.case,
            tuple(Step(**{name: getattr(step, name) for name in _STEP_FIELDS}) for step in self.steps),
            self.left_bare,
            self.notes,
            self.title,
            self.accepted,
            self.timing,
        )

    @classmethod
    def of(cls, sequence: Sequence, takes: Mapping[str, Take | None] | None = None) -> SequenceFile:
        """The file of a sequence, with what to take for each step where that was worked out."""
        return cls(
            nabrel="sequence",
            version=2,
            school=sequence.school,
            case=CaseFile.of(sequence.case),
            steps=tuple(written(step, (takes or {}).get(step.id)) for step in sequence.steps),
            left_bare=sequence.left_bare,
            notes=sequence.notes,
            title=sequence.title,
            accepted=sequence.accepted,
            timing=sequence.timing,
        )


def written(step: Step, take: Take | None) -> WrittenStep:
    """A step with what to take for it."""
    return WrittenStep(**{name: getattr(step, name) for name in _STEP_FIELDS}, take=take)


class FindingsFile(Document):
    """``findings``: what a check says."""

    nabrel: Literal["findings"] = "findings"
    version: Literal[2] = 2
    findings: tuple[Finding, ...]


Note = Annotated[str, some_lines(300)]


def _with_its_zone(text: str) -> str:
    if datetime.fromisoformat(text).tzinfo is None:
        raise ValueError("a moment with its offset from UTC, such as 2026-11-03T09:10:00+00:00")
    return text


Started = Annotated[str, Field(max_length=40), AfterValidator(_with_its_zone)]
"""A moment with its offset from UTC."""
MOST_TAKEN_OVER, MOST_COUNTED = 2000, 10_000_000
FactorOf = Annotated[float, Field(ge=LIMITS.factor.low, le=LIMITS.factor.high)]


@dataclass(frozen=True, slots=True)
class DecidedRule:
    """What was decided otherwise about one rule."""

    off: bool = False
    severity: Severity | None = None
    note: Note = ""


@dataclass(frozen=True, slots=True)
class DecidedParameter:
    """A house parameter decided otherwise."""

    value: float
    note: Note = ""


class Evidence(Document):
    """What a factor that was taken over rests on: looks, zones seen in all records, and what it lies between in nine cases of ten."""

    looks: Annotated[int, Field(ge=0, le=MOST_COUNTED)] = 0
    seen: Annotated[int, Field(ge=0, le=MOST_COUNTED)] = 0
    low: FactorOf | None = None
    high: FactorOf | None = None


class TakenOver(Aliased):
    """A proposal that was agreed to: which factor, from what to what, when, on which evidence, and when it was undone."""

    what: Annotated[str, one_line(140)]
    from_: Annotated[FactorOf, Field(alias="from")] = 1.0
    to: FactorOf
    on: Started
    evidence: Evidence = Field(default_factory=Evidence)
    undone: Started | None = None


class HouseFile(Document):
    """``house``: what an educator decided otherwise; what is left out stands as the book has it.

    ``decisions`` are factors taken over from wear records, oldest first: of one that stands twice, the last that is not undone
    counts.
    """

    nabrel: Literal["house"]
    version: Literal[1]
    parameters: Annotated[dict[str, DecidedParameter], MaxLen(300)] = Field(default_factory=dict)
    rules: Annotated[dict[str, DecidedRule], MaxLen(300)] = Field(default_factory=dict)
    decisions: Annotated[list[TakenOver], MaxLen(MOST_TAKEN_OVER)] = Field(default_factory=list)


class UsedItem(Document):
    """How much of an item a run took from its pack."""

    item: Ident
    amount: Annotated[float, Field(ge=0, le=100000)]
    unit: Literal["ml", "g"]


class RunFile(Document):
    """``run``: how a base was really done, with the plan as it was worked."""

    nabrel: Literal["run"] = "run"
    version: Literal[1] = 1
    id: Ident
    sequence: SequenceFile
    started: Started
    pace: Pace = 1.0
    pauses: Annotated[tuple[Pause, ...], MaxLen(500)] = ()
    used: Annotated[tuple[UsedItem, ...], MaxLen(MOST_ITEMS)] = ()
    done: Annotated[tuple[DoneTask, ...], MaxLen(4 * MOST_STEPS)] = ()
    notes: Annotated[tuple[RunNote, ...], MaxLen(500)] = ()

    @property
    def log(self) -> Log:
        """What was done when."""
        return Log(self.done, self.pauses, self.notes)

    @classmethod
    def of(
        cls, run_id: str, sequence: Sequence, started: str, pace: float, log: Log, used: Mapping[str, tuple[float, str]]
    ) -> RunFile:
        """The file of a run."""
        items = tuple(
            UsedItem(item=item, amount=round(amount, 5), unit="g" if unit == "g" else "ml")
            for item, (amount, unit) in used.items()
        )
        return cls(
            id=run_id, sequence=SequenceFile.of(sequence), started=started, pace=pace, pauses=log.pauses, used=items,
            done=log.done, notes=log.notes,
        )  # fmt: skip


class ToolsFile(Document):
    """``tools``: the tools of a workspace."""

    nabrel: Literal["tools"] = "tools"
    version: Literal[1] = 1
    tools: Annotated[tuple[OwnedTool, ...], MaxLen(MOST_TOOLS)]


class KitsFile(Document):
    """``kits``: the named kits of a workspace."""

    nabrel: Literal["kits"] = "kits"
    version: Literal[1] = 1
    kits: Annotated[tuple[NamedKit, ...], MaxLen(MOST_KITS)]


class KitFile(Document):
    """``kit``: a kit as plans were made with it, which several refer to."""

    nabrel: Literal["kit"] = "kit"
    version: Literal[1] = 1
    items: Annotated[tuple[Product, ...], MaxLen(MOST_ITEMS)]


FILES: dict[str, type[Document]] = {
    "case": CaseFile,
    "sequence": SequenceFile,
    "findings": FindingsFile,
    "house": HouseFile,
    "tools": ToolsFile,
    "kits": KitsFile,
    "run": RunFile,
}
"""Every JSON file that is read or kept, by its kind; files of answers stand in ``answers``."""


def dumped(value: Document) -> dict[str, Any]:
    """A document as JSON values, without what is not there."""
    found: dict[str, Any] = value.model_dump(mode="json", exclude_none=True)
    return found
