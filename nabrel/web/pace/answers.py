"""Wire models of the Pace room."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Annotated

from annotated_types import Ge, Le, MaxLen
from pydantic import Field

from nabrel.core.documents.avoiding import Caution
from nabrel.core.documents.script import ScriptBlock
from nabrel.core.pace.run import Log, Second, StepTaken, TooLate
from nabrel.core.pace.tasks import Pace
from nabrel.core.pace.what_if import WhatIf
from nabrel.core.plan.sequence import Timing
from nabrel.core.terms.ids import Region, Tool
from nabrel.core.terms.limits import Ident
from nabrel.core.terms.rounding import Rounded
from nabrel.formats.answers import TimetableModel
from nabrel.formats.files import Started
from nabrel.web.shared.wire import AnswerModel, Body, Number, Query


class PaceBody(Body):
    """Whose hands: ``pace`` times a practised hand's seconds, one or two pairs, and kinds of tool of which there is one more.

    ``timing`` is asked for in place of the plan's own: start and ready, what was done already, pins, and sides.
    """

    pace: Pace = 1.0
    hands: Annotated[int, Ge(1), Le(2)] = 1
    spare: Annotated[tuple[Tool, ...], MaxLen(20)] = ()
    timing: Timing | None = None


class BeginBody(PaceBody):
    """A run begins: whose hands, and when (now, where that is left out)."""

    started: Started | None = None


class LogBody(Body):
    """What was done so far; ``finish`` ends the run, ``revision`` is the plan as it is worked from now on.

    ``now_s`` is the time by the run's own clock at which it is asked what is too late.
    """

    log: Log
    finish: bool = False
    revision: Number | None = None
    now_s: Second | None = None


class CalendarQuery(Query):
    """When a plan is worked, on the clock of whoever asks, and at which pace."""

    start: Annotated[datetime, Field(strict=False)]
    pace: Pace = 1.0


@dataclass(frozen=True, kw_only=True)
class BlockWire(ScriptBlock):
    """One big step of a run, with what binds it: how long to wait ``after`` others, and ``by`` when at the latest."""

    hex: str | None


class LiveWire(AnswerModel):
    """A run as it is worked: its blocks in the order of the timetable, and what was done so far. It names nobody."""

    run_id: Ident
    plan_id: Ident
    revision: int
    started: str
    pace: float
    hands: int
    finished: bool
    length_s: int
    caution: Caution | None
    log: Log
    blocks: list[BlockWire]


@dataclass(frozen=True, kw_only=True)
class StepTakenWire(StepTaken):
    """A step against its plan: seconds of work."""

    words: str


class UsedWire(AnswerModel):
    """What a run took of an item."""

    item: Ident
    name: str
    says: str


@dataclass(frozen=True, kw_only=True)
class TooLateWire(TooLate):
    """A step that should have followed another by now."""

    words: str


class RunSaysWire(AnswerModel):
    """What a run says: times against the plan, what it used, what to clean, what is late or at rest, how it compares.

    ``look_s`` is the second of the run from which a second look is worth while.
    """

    finished: bool
    length_s: float
    paused_s: float
    steps: list[StepTakenWire]
    used: list[UsedWire]
    clean: list[str]
    late: list[TooLateWire]
    rest: dict[Ident, float]
    compared: list[str]
    look_s: float


class RunRowWire(AnswerModel):
    """One run in a list."""

    run_id: Ident
    started: str
    pace: float
    finished: bool
    length_s: float
    steps: int
    of: int


class HandWire(AnswerModel):
    """The pace that finished runs teach, with the interval that holds it in nine cases of ten."""

    pace: Annotated[float, Rounded(2)]
    low: float
    high: float
    says: str


class RunsWire(AnswerModel):
    """The runs of a plan, newest first, and the pace of the hand that worked them."""

    runs: list[RunRowWire]
    hand: HandWire | None


class TaskSaidWire(AnswerModel):
    """What is said of a task of the timetable, in the same place of the list: what, where, and the colour it lays."""

    number: int
    words: str
    where: str
    hex: str | None


class WaitSaidWire(AnswerModel):
    """What is said of a wait of the timetable, in the same place of the list, and the regions of the face that rest."""

    number: int
    words: str
    where: str
    regions: list[Region]
    filled: list[str]


class WhatIfsWire(AnswerModel):
    """What would shorten a timetable, the greatest saving first."""

    what_if: list[WhatIf]


class RestWire(AnswerModel):
    """How long a step must, and may, rest before what comes over it; seconds."""

    step: Ident
    number: int
    words: str
    wait_s: float
    wait_at_most_s: float | None


class ScoreWire(AnswerModel):
    """The timetable of a plan with what its lanes say.

    ``lacks`` are tools that the plan wants and the shelf has none of, ``owned_spare`` those of which it has more than one.
    """

    plan_id: Ident
    title: str
    sitter_id: Ident
    nickname: str
    timetable: TimetableModel
    tasks: list[TaskSaidWire]
    waits: list[WaitSaidWire]
    rests: list[RestWire]
    lacks: list[str]
    owned_spare: list[str]
    revision: int
    timing: Timing
    saved: Timing
    student_pace: float
