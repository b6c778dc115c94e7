"""The Pace room: when each thing is done."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

from nabrel.core.case.tool import OwnedTool
from nabrel.core.house import House
from nabrel.core.pace.tasks import paces
from nabrel.core.pace.timetable import Timetable
from nabrel.core.pace.what_if import WhatIf, what_if
from nabrel.core.plan.sequence import Sequence, Timing
from nabrel.core.plan.step import Step
from nabrel.core.shelf.tools import lacking, spare_of
from nabrel.core.terms.hands import TOOL_INFO
from nabrel.core.terms.ids import Tool, Zone
from nabrel.core.terms.places import places
from nabrel.core.terms.steps import STEP_INFO
from nabrel.core.terms.zones import ZONE_INFO
from nabrel.formats.answers import timetable_to
from nabrel.store.repositories import StoredSequence
from nabrel.store.shelf import Tools
from nabrel.web.pace import answers as pw
from nabrel.web.shared import present
from nabrel.web.shared import wire as w
from nabrel.web.shared.endpoints import Endpoints
from nabrel.web.shared.requests import database, evaluated, heavy, house, remembered, stored_sequence

pace_room = Endpoints("pace", __name__, url_prefix="/api", tag="pace")


@pace_room.post("/sequences/<id>/timetable", "timetable")
def post_timetable(path: w.IdPath, body: pw.PaceBody) -> pw.ScoreWire:
    """The shortest timetable of a plan for these hands and tools."""
    stored = stored_sequence(path.id)
    plan = _timed(stored, body)
    owned = owned_tools()
    more = spare_of(owned, date.today(), house())
    _, found = remembered().timetable(
        path.id, stored.revision, plan, house(), pace=body.pace, hands=body.hands, spare=(*more, *body.spare)
    )
    numbers = {step.id: place for place, step in enumerate(plan.steps, start=1)}
    steps = {step.id: step for step in plan.steps}
    hexes = present.swatches(dict(evaluated(stored).products))
    return pw.ScoreWire(
        plan_id=path.id,
        title=plan.title or plan.case.sitter.nickname,
        sitter_id=stored.sitter_id,
        nickname=plan.case.sitter.nickname,
        timetable=timetable_to(found),
        tasks=[
            pw.TaskSaidWire(
                number=numbers[each.step],
                words=_words(steps[each.step], each.what, each.tool),
                where=_where(each.zones),
                hex=None if each.what == "clean" else hexes.get(steps[each.step].item or ""),
            )
            for each in found.tasks
        ],
        waits=[
            pw.WaitSaidWire(
                number=numbers[each.step],
                words=STEP_INFO[steps[each.step].kind].words,
                where=_where(each.zones),
                regions=list(dict.fromkeys(ZONE_INFO[zone].region for zone in each.zones)),
                filled=[STEP_INFO[steps[other].kind].words for other in each.filled_by],
            )
            for each in found.waits
        ],
        rests=[
            pw.RestWire(
                step=step.id,
                number=numbers[step.id],
                words=STEP_INFO[step.kind].words,
                wait_s=step.wait_s,
                wait_at_most_s=step.wait_at_most_s,
            )
            for step in plan.steps
            if step.wait_s or step.wait_at_most_s
        ],
        lacks=[TOOL_INFO[kind].words for kind in lacking((tool for step in plan.steps for tool in step.tools), owned)],
        owned_spare=[TOOL_INFO[kind].words for kind in dict.fromkeys(more)],
        revision=stored.revision,
        timing=plan.timing or Timing(),
        saved=stored.sequence.timing or Timing(),
        student_pace=paces(house())[1],
    )


@pace_room.post("/sequences/<id>/timetable/what-if", "what_if")
def post_what_if(path: w.IdPath, body: pw.PaceBody) -> pw.WhatIfsWire:
    """What would shorten the timetable of a plan for these hands and tools: it takes as long as several timetables."""
    stored = stored_sequence(path.id)
    plan = _timed(stored, body)
    more = spare_of(owned_tools(), date.today(), house())
    pace, hands, spare = body.pace, body.hands, (*more, *body.spare)
    _, found = remembered().timetable(path.id, stored.revision, plan, house(), pace=pace, hands=hands, spare=spare)
    return pw.WhatIfsWire(
        what_if=[
            replace(each, spare=_beyond(each.spare, more))
            for each in heavy("shortening", _shorter, plan, house(), found, pace, hands, spare)
        ]
    )


def _shorter(
    plan: Sequence, house: House, found: Timetable, pace: float, hands: int, spare: tuple[Tool, ...]
) -> tuple[WhatIf, ...]:
    return what_if(plan, house, found, pace=pace, hands=hands, spare=spare)


def _timed(stored: StoredSequence, body: pw.PaceBody) -> Sequence:
    """The plan with the fixed moments that are asked for, its own where none are."""
    return stored.sequence if body.timing is None else replace(stored.sequence, timing=body.timing)


def owned_tools() -> tuple[OwnedTool, ...]:
    """The tools of the shelf."""
    with database().session() as session:
        return Tools(session).all()


def _beyond(spare: tuple[Tool, ...] | None, owned: tuple[Tool, ...]) -> tuple[Tool, ...] | None:
    """Of the spare tools that a change asks for, those that the shelf does not hold already."""
    if spare is None:
        return None
    left = list(spare)
    for tool in owned:
        left.remove(tool)
    return tuple(left)


def _words(step: Step, what: str, tool: Tool | None) -> str:
    if what == "clean":
        return f"Clean the {TOOL_INFO[tool].words if tool else 'tool'}"
    words = STEP_INFO[step.kind].words
    return f"{words}, then {TOOL_INFO[tool].words if tool else 'hands'}" if what == "then" else words


def _where(zones: tuple[Zone, ...]) -> str:
    return places(zones) if zones else ""
