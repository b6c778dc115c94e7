"""Runs: a plan worked to the clock, kept while it goes on, and what it says afterwards."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, datetime, timedelta
from uuid import uuid4

from flask import Response
from sqlalchemy.orm import Session

from nabrel.core.documents.avoiding import caution_of
from nabrel.core.documents.script import ScriptBlock, script
from nabrel.core.errors import Impossible
from nabrel.core.judge.evaluate import course_of
from nabrel.core.pace.run import (
    SECOND_LOOK_S,
    hand_pace,
    quicker,
    resting,
    steps_taken,
    too_late,
    tools_used,
    used,
)
from nabrel.core.plan.sequence import Sequence as Plan
from nabrel.core.shelf.doses import Take, take, take_words
from nabrel.core.shelf.tools import spare_of
from nabrel.core.terms.hands import TOOL_INFO
from nabrel.core.terms.steps import STEP_INFO
from nabrel.formats.files import RunFile
from nabrel.formats.values import filled
from nabrel.formats.workspace import Run, WorkedRun
from nabrel.store.repositories import Sequences, Sitters, StoredSequence
from nabrel.store.run import Runs
from nabrel.store.versions import moment
from nabrel.web.pace import answers as pw
from nabrel.web.pace.endpoints import owned_tools
from nabrel.web.shared import present
from nabrel.web.shared import wire as w
from nabrel.web.shared.endpoints import Endpoints
from nabrel.web.shared.requests import (
    as_file,
    database,
    download,
    evaluated,
    evaluated_today,
    house,
    remembered,
    stored_sequence,
)

runs = Endpoints("runs", __name__, url_prefix="/api", tag="pace")


@runs.post("/sequences/<id>/run", "begin_run", 201)
def post_run(path: w.IdPath, body: pw.BeginBody) -> pw.LiveWire:
    """Begin to work a plan to the clock, in the order of its timetable."""
    stored = stored_sequence(path.id)
    worked = WorkedRun(
        id=uuid4().hex,
        started=body.started or moment(),
        pace=body.pace,
        hands=body.hands,
        spare=(*spare_of(owned_tools(), date.today(), house()), *body.spare),
        timing=body.timing or stored.sequence.timing,
    )
    live = _live(worked, stored.sequence, path.id, stored.revision)
    with database().session() as session:
        Runs(session).begin(path.id, worked)
    return live


@runs.get("/runs/<id>", "run")
def get_run(path: w.IdPath) -> pw.LiveWire:
    """A run with its script and all that was done so far, to go on with."""
    run, plan = _run_and_plan(path.id)
    assert run.worked is not None
    return _live(run.worked, plan, run.plan, run.revision)


@runs.put("/runs/<id>", "keep_run")
def put_run(path: w.IdPath, body: pw.LogBody) -> pw.RunSaysWire:
    """Keep what was done so far, or finish; sent twice it counts once."""
    with database().session() as session:
        Runs(session).put(path.id, body.log, house(), finish=body.finish, revision=body.revision)
    return _says(path.id, body.now_s)


@runs.get("/runs/<id>/says", "run_says")
def get_says(path: w.IdPath) -> pw.RunSaysWire:
    """What a run says: times against the plan, what it used, what to clean, and how it compares."""
    return _says(path.id, None)


@runs.delete("/runs/<id>", "remove_run", 204)
def delete_run(path: w.IdPath) -> Response:
    """Forget a run; what it took from the packs stays taken."""
    with database().session() as session:
        Runs(session).remove(path.id)
    return Response(status=204)


@runs.get("/runs/<id>/file", "run_file")
def get_file(path: w.IdPath) -> Response:
    """A run as a file, with the plan as it was worked."""
    run, plan = _run_and_plan(path.id)
    assert run.worked is not None
    spent = used(course_of(plan, house()), run.worked.log)
    made = RunFile.of(run.worked.id, plan, run.worked.started, run.worked.pace, run.worked.log, spent)
    return as_file(made, f"{plan.case.sitter.nickname}-{run.day}.run.json")


@runs.get("/runs/<id>/calendar", "run_calendar")
def get_second_look(path: w.IdPath) -> Response:
    """The second look at a finished base, as a calendar entry with an alarm."""
    from nabrel.formats.calendar import Entry, calendar  # noqa: PLC0415 - only where it is asked for

    run, plan = _run_and_plan(path.id)
    assert run.worked is not None
    least, most = SECOND_LOOK_S
    start = datetime.fromisoformat(run.worked.started) + timedelta(seconds=run.worked.log.length_s + least)
    entry = Entry(
        uid=f"{run.worked.id}-second-look",
        start=start,
        end=start + timedelta(seconds=most - least),
        title=f"Second look: {plan.case.sitter.nickname}",
        says="Powder has taken up oil and colours have settled. Look for white cast, shine, creases and a colour that shifted.",
        alarm_s=0,
    )
    return calendar_file(calendar([entry]), f"{plan.case.sitter.nickname}-second-look.ics")


@runs.get("/sequences/<id>/calendar", "plan_calendar")
def get_plan_calendar(path: w.IdPath, query: pw.CalendarQuery) -> Response:
    """A plan on a day as a calendar entry with an alarm: when it starts, how long it takes, and the second look."""
    from nabrel.formats.calendar import Entry, calendar  # noqa: PLC0415

    stored = stored_sequence(path.id)
    _, found = remembered().timetable(path.id, stored.revision, stored.sequence, house(), pace=query.pace)
    if found.length_s is None:
        raise Impossible("plan", path.id, "a plan that has a timetable: " + " ".join(found.because))
    name = stored.sequence.title or stored.sequence.case.sitter.nickname
    end = query.start + timedelta(seconds=found.length_s)
    least, most = SECOND_LOOK_S
    entries = [
        Entry(
            f"{path.id}-base", query.start, end, f"Base: {name}", f"{len(stored.sequence.steps)} steps.", alarm_s=900
        ),
        Entry(
            f"{path.id}-second-look",
            end + timedelta(seconds=least),
            end + timedelta(seconds=most),
            f"Second look: {name}",
            "Look for white cast, shine, creases and a colour that shifted.",
            alarm_s=0,
        ),
    ]
    return calendar_file(calendar(entries), f"{name}.ics")


def calendar_file(text: bytes, name: str) -> Response:
    """An iCalendar file to be saved."""
    return download(text, name, "text/calendar")


@runs.get("/sequences/<id>/run", "runs_of")
def get_runs(path: w.IdPath) -> pw.RunsWire:
    """The runs of a plan that were worked to the clock, newest first, and what they say of the hand."""
    with database().session() as session:
        saved = [run for run in Runs(session).of([path.id]) if run.worked is not None]
        plans = {run.revision: Sequences(session).at(run.plan, run.revision) for run in saved}
    return pw.RunsWire(
        runs=[_row(run, plans[run.revision]) for run in reversed(saved)],
        hand=_hand([(plans[run.revision], run) for run in saved]),
    )


def _run_and_plan(key: str) -> tuple[Run, Plan]:
    with database().session() as session:
        run = Runs(session).get(key)
        return run, Sequences(session).at(run.plan, run.revision)


def _live(worked: WorkedRun, sequence: Plan, plan_id: str, revision: int) -> pw.LiveWire:
    work, found = remembered().timetable(
        plan_id,
        revision,
        sequence,
        house(),
        pace=worked.pace,
        hands=worked.hands,
        spare=worked.spare,
        timing=worked.timing,
    )
    plan = work.plan
    if not found.possible:
        raise Impossible("plan", plan_id, "a plan that has a timetable: " + " ".join(found.because))
    stored = stored_sequence(plan_id)
    # What stands is remembered; when it is worked changes nothing of what lies on the skin.
    evaluation = evaluated(stored) if stored.revision == revision else evaluated_today(sequence)
    hexes = present.swatches(dict(evaluation.products))
    items = {step.id: step.item or "" for step in plan.steps}
    blocks = script(evaluation, work, found)
    return filled(
        pw.LiveWire,
        worked,
        run_id=worked.id,
        plan_id=plan_id,
        revision=revision,
        length_s=found.length_s or 0,
        caution=caution_of(evaluation),
        blocks=[_block(each, hexes.get(items[each.step])) for each in blocks],
    )


def _block(block: ScriptBlock, hex_code: str | None) -> pw.BlockWire:
    return filled(pw.BlockWire, block, hex=hex_code)  # fmt: skip


def _says(key: str, now_s: float | None) -> pw.RunSaysWire:
    """What a run says by ``now_s`` seconds after its start, at its end where that is left out."""
    with database().session() as session:
        run = Runs(session).get(key)
        plan = Sequences(session).at(run.plan, run.revision)
        before = _earlier(session, run, Sequences(session).get(run.plan))
    assert run.worked is not None
    log, pace = run.worked.log, run.worked.pace
    now = log.length_s if now_s is None else now_s
    words = {step.id: STEP_INFO[step.kind].words for step in plan.steps}
    names = {item.id: item for item in plan.case.kit}
    spent = used(course_of(plan, house()), log)
    return pw.RunSaysWire(
        finished=run.worked.finished,
        length_s=log.length_s,
        paused_s=sum(each.to_s - each.from_s for each in log.pauses),
        steps=[filled(pw.StepTakenWire, each, words=words[each.step]) for each in steps_taken(plan, log, pace)],
        used=[
            pw.UsedWire(item=item, name=names[item].name, says=take_words(_take(amount, unit), house()))
            for item, (amount, unit) in spent.items()
            if item in names
        ],
        clean=[TOOL_INFO[tool].words for tool in tools_used(plan, log)],
        late=[
            filled(pw.TooLateWire, each, words=words[each.step], after=words[each.after])
            for each in too_late(plan, log, now)
        ],
        rest=resting(plan, log, now),
        compared=_compared(run, plan, before),
        look_s=log.length_s + SECOND_LOOK_S[0],
    )


def _take(amount: float, unit: str) -> Take:
    return take(amount, "g" if unit == "g" else "ml", None)


def _earlier(session: Session, run: Run, stored: StoredSequence) -> tuple[Run, Plan] | None:
    """The last finished run of the same sitter before this one."""
    assert run.worked is not None
    plans = Sitters(session).get(stored.sitter_id).sequence_ids
    earlier = [
        each
        for each in Runs(session).of(plans)
        if each.worked is not None and each.worked.finished and each.worked.id != run.worked.id
        and datetime.fromisoformat(each.worked.started) < datetime.fromisoformat(run.worked.started)
    ]  # fmt: skip
    if not earlier:
        return None
    last = max(earlier, key=lambda each: datetime.fromisoformat(each.worked.started) if each.worked else datetime.min)
    return last, Sequences(session).at(last.plan, last.revision)


MOST_COMPARED, WORTH_SAYING_S = 3, 10.0
"""Of a comparison, so many kinds of work at most, and only differences of so many seconds."""


def _compared(run: Run, plan: Plan, before: tuple[Run, Plan] | None) -> list[str]:
    """How much quicker or slower each kind of work was: "Foundation 40 s quicker than on 3 May."."""
    if before is None or run.worked is None:
        return []
    earlier, earlier_plan = before
    assert earlier.worked is not None
    when = f"{date.fromisoformat(earlier.day):%-d %B}"
    return [
        f"{STEP_INFO[kind].words} {abs(seconds):.0f} s {'quicker' if seconds > 0 else 'slower'} than on {when}."
        for kind, seconds in quicker((plan, run.worked.log), (earlier_plan, earlier.worked.log))[:MOST_COMPARED]
        if abs(seconds) >= WORTH_SAYING_S
    ]


def _row(run: Run, plan: Plan) -> pw.RunRowWire:
    assert run.worked is not None
    log = run.worked.log
    return filled(
        pw.RunRowWire,
        run.worked,
        run_id=run.worked.id,
        length_s=log.length_s,
        steps=len({each.step for each in log.done}),
        of=len(plan.steps),
    )


def _hand(worked: Sequence[tuple[Plan, Run]]) -> pw.HandWire | None:
    """The pace that the finished runs teach, in words."""
    found = hand_pace((plan, run.worked.log) for plan, run in worked if run.worked is not None and run.worked.finished)
    if found is None:
        return None
    times = f"{found.pace:.1f} times a practised hand's seconds"
    return filled(
        pw.HandWire,
        found,
        says=(
            f"This hand takes {times} ({found.low:.1f} to {found.high:.1f} in nine cases of ten), from {found.steps} steps "
            f"of {found.runs} run{'s' if found.runs > 1 else ''}."
        ),
    )
