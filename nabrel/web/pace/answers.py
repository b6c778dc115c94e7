"""Wire models of the Pace room."""

from __future__ import annotations

from typing import Annotated

from annotated_types import Ge, Le, MaxLen

from nabrel.core.pace.tasks import Pace
from nabrel.core.terms.ids import Region, Tool
from nabrel.core.terms.limits import Ident
from nabrel.formats.answers import TimetableModel
from nabrel.web.shared.wire import Answer, Body


class PaceBody(Body):
    """Whose hands: ``pace`` times a practised hand's seconds, one or two pairs, and kinds of tool of which there is one more."""

    pace: Pace = 1.0
    hands: Annotated[int, Ge(1), Le(2)] = 1
    spare: Annotated[tuple[Tool, ...], MaxLen(20)] = ()


class TaskSaidWire(Answer):
    """What is said of a task of the timetable, in the same place of the list: what, where, and the colour it lays."""

    number: int
    words: str
    where: str
    hex: str | None


class WaitSaidWire(Answer):
    """What is said of a wait of the timetable, in the same place of the list, and the regions of the face that rest."""

    number: int
    words: str
    where: str
    regions: list[Region]
    filled: list[str]


class WhatIfWire(Answer):
    """What another hand or another tool would save."""

    says: str
    length_s: int
    hands: int | None
    spare: tuple[Tool, ...] | None


class ScoreWire(Answer):
    """The timetable of a plan with what its lanes say, and what would shorten it."""

    plan_id: Ident
    title: str
    sitter_id: Ident
    nickname: str
    timetable: TimetableModel
    tasks: list[TaskSaidWire]
    waits: list[WaitSaidWire]
    what_if: list[WhatIfWire]
    start: str | None
    student_pace: float
