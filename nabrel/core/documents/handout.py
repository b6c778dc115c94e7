"""What a class gets on paper: the educator's weigh-out and rounds, the cards, and for every student their own face."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass

from nabrel.core.ask.branches import Branch, branches
from nabrel.core.ask.mistakes import Made, made, mistake_of
from nabrel.core.documents.camps import CampCard, camps
from nabrel.core.documents.phrases import HYGIENE
from nabrel.core.documents.sheet import Sheet, sheet_of
from nabrel.core.documents.slip import Slip, slip_of
from nabrel.core.errors import Impossible
from nabrel.core.face.proportions import Proportions, proportions_of
from nabrel.core.house import House
from nabrel.core.judge.evaluate import Evaluation, evaluate
from nabrel.core.lesson.clock import moment_at
from nabrel.core.lesson.duties import Duty
from nabrel.core.lesson.faces import Face
from nabrel.core.lesson.lesson import Lesson, rounds
from nabrel.core.lesson.room import Room
from nabrel.core.lesson.tools import stand_ins
from nabrel.core.terms.hands import TOOL_INFO
from nabrel.core.terms.ids import Zone
from nabrel.core.terms.schools import SCHOOL_INFO
from nabrel.core.terms.steps import STEP_INFO
from nabrel.core.terms.words import join_words, sentence, spoken
from nabrel.core.terms.zones import ZONE_INFO, ZONES

PHASE_WORDS = {"demonstrate": "Show", "practise": "Practise", "break": "Break"}
TICK: Callable[[], None] = lambda: None  # noqa: E731 - what is done after each student where nobody waits


@dataclass(frozen=True, slots=True)
class HandoutRow:
    """One line of a table: its cells."""

    cells: tuple[str, ...]


@dataclass(frozen=True)
class StudentHandout:
    """One student's pages: the sheet on the face they work on, what differs there and with their tools, a blank face, the slip.

    ``says`` is what a student without a face to work on does.
    """

    name: str
    title: str
    sheet: Sheet | None
    slip: Slip | None
    says: str
    turns: tuple[HandoutRow, ...]
    differs: tuple[HandoutRow, ...]
    tools: tuple[str, ...]
    proportions: Proportions
    mirrored: bool


@dataclass(frozen=True)
class HalfAndHalf:
    """The right way on one half of the face, a named mistake on the other: the colours of both, and what is to be seen."""

    words: str
    comes_of_it: str
    colours: Mapping[Zone, str]
    says: tuple[str, ...]


@dataclass(frozen=True)
class Handouts:
    """All pages for one class."""

    title: str
    when: str
    aim: str
    blocks: tuple[HandoutRow, ...]
    weigh_out: tuple[HandoutRow, ...]
    weigh_says: tuple[str, ...]
    tools: tuple[HandoutRow, ...]
    duties: tuple[Duty, ...]
    rounds: tuple[tuple[HandoutRow, ...], ...]
    cards: tuple[CampCard, ...]
    branches: tuple[tuple[str, str, tuple[HandoutRow, ...]], ...]
    half: HalfAndHalf | None
    students: tuple[StudentHandout, ...]
    hygiene: tuple[str, ...]


def handouts(found: Lesson, house: House, after_each: Callable[[], None] = TICK) -> Handouts:
    """The pages of a class; ``after_each`` is called as every student's is ready."""
    room, model = found.room, found.model
    return Handouts(
        title=room.title,
        when=when_words(room, found.length_s),
        aim=f"{model.sequence.title or model.sequence.case.sitter.nickname}, {SCHOOL_INFO[model.sequence.school].words.lower()}",
        blocks=tuple(_blocks(found)),
        weigh_out=tuple(
            HandoutRow((each.name, each.words, "" if each.cost is None else f"{each.cost:.2f}"))
            for each in found.weigh_out
        ),
        weigh_says=tuple(_weigh_says(found)),
        tools=tuple(
            HandoutRow((sentence(TOOL_INFO[each.tool].words), str(each.count), str(each.cleaned or "–")))
            for each in found.tools
        ),
        duties=(*found.before_class, *found.during_class, *found.after_class),
        rounds=tuple(_rounds(found)),
        cards=camps(room.sequence),
        branches=tuple(_branch(each) for each in branches(model, house)),
        half=half_and_half(model, room.mistake, house) if room.half == "mistake" and room.mistake else None,
        students=tuple(_students(found, house, after_each)),
        hygiene=HYGIENE,
    )


def when_words(room: Room, length_s: int) -> str:
    """When a class is: "Friday 20 November 2026, 18:30 to 21:04 (Europe/London)"."""
    begin, end = (moment_at(room.date, room.start, room.zone, at) for at in (0, length_s))
    zone = f" ({room.zone})" if room.zone else ""
    return f"{begin:%A} {begin.day} {begin:%B %Y}, {begin:%H:%M} to {end:%H:%M}{zone}"


def half_and_half(model: Evaluation, mistake_id: str, house: House) -> HalfAndHalf:
    """The right way on the right half and in the middle, a mistake on the left. Refuses one that this plan cannot show."""
    mistake = mistake_of(mistake_id)
    found = made(model, mistake, house)
    if found is None:
        raise Impossible("mistake", mistake_id, "a mistake that can be made in this plan")
    right, wrong = model.appearance.hexes[-1], found.trial.after.appearance.hexes[-1]
    colours = {zone: wrong[place] if ZONE_INFO[zone].side == "l" else right[place] for place, zone in enumerate(ZONES)}
    return HalfAndHalf(mistake.words, mistake.comes_of_it, colours, tuple(_seen(found)))


def _seen(found: Made) -> Iterator[str]:
    trial = found.trial
    if trial.look_de >= 1:
        yield f"Most to be seen {ZONE_INFO[trial.look_zone].place}: ΔE00 {trial.look_de:.1f}."
    else:
        yield "Hardly seen at once: it shows in how it wears, and under the hand."
    yield from dict.fromkeys(each.says for each in trial.come[:3])


def _blocks(found: Lesson) -> Iterator[HandoutRow]:
    steps = {step.id: STEP_INFO[step.kind].words for step in found.room.sequence.steps}
    for phase in found.blocks:
        at = _clock(found.room, phase.start_s)
        what = join_words(dict.fromkeys(steps[step] for step in phase.steps)) if phase.phase == "demonstrate" else ""
        name = PHASE_WORDS[phase.phase] + (f": {phase.words}" if phase.phase != "break" else "")
        yield HandoutRow((at, name, spoken(phase.end_s - phase.start_s), what))


def _weigh_says(found: Lesson) -> Iterator[str]:
    if found.cost is not None and found.working:
        yield f"{found.cost:.2f} in all, {found.cost / found.working:.2f} a student, with {round(100 * found.room.spare)} % to spare."
    if found.costs_most:
        yield found.costs_most
    for each in found.savings:
        cost = f" That saves {each.cost:.2f}." if each.cost else ""
        yield f"{each.says}{cost}"
    for barred in found.allergies:
        yield f"{barred.says}: {barred.uses}."


def _rounds(found: Lesson) -> Iterator[tuple[HandoutRow, ...]]:
    for own in rounds(found.timed, found.room.educators):
        yield tuple(
            HandoutRow(
                (
                    _clock(found.room, each.start_s),
                    {"show": f"Show block {(each.block or 0) + 1}", "check": each.student, "break": "Break"}[
                        each.doing
                    ],
                    f"Station {each.station}" if each.station else "",
                    spoken(each.end_s - each.start_s),
                )
            )
            for each in own
        )


def _branch(branch: Branch) -> tuple[str, str, tuple[HandoutRow, ...]]:
    shown = f"As shown on {branch.as_shown} skin." if branch.as_shown else ""
    return (
        branch.words,
        shown,
        tuple(HandoutRow((f"If it is {each.skin}", each.says, each.why)) for each in branch.otherwise),
    )


def _students(found: Lesson, house: House, after_each: Callable[[], None]) -> Iterator[StudentHandout]:
    shown = sheet_of(found.model)
    paired = {name for pair in found.room.pairs for name in pair}
    for student in found.room.students:
        face = found.faces[student.name]
        evaluation = _evaluated(face, found.model, house)
        yield StudentHandout(
            name=student.name,
            title=_title(face),
            sheet=None if evaluation is None else shown if evaluation is found.model else sheet_of(evaluation),
            slip=None if evaluation is None else slip_of(evaluation),
            says=" ".join((face.stop, *face.offers)) if face.stop else "",
            turns=tuple(_turns(found, student.name)),
            differs=tuple(HandoutRow((each.says, each.why)) for each in face.changes),
            tools=tuple(each.says for each in stand_ins(student, face.plan, house)),
            proportions=proportions_of((evaluation or found.model).sequence.case.sitter),
            mirrored=student.name not in paired and face.of == student.name,
        )
        after_each()


def _turns(found: Lesson, name: str) -> Iterator[HandoutRow]:
    """When and where one student practises, block by block, and when that is looked at."""
    words = [part.block.words for part in found.timed.parts]
    for each in found.students[name]:
        if each.doing in ("practise", "observe") and each.block is not None:
            check = next((c for c in found.students[name] if c.doing == "check" and c.block == each.block), None)
            where = f"station {each.station}" if each.station else f"beside {each.whom}" if each.whom else ""
            looked = f"looked at about {_clock(found.room, check.start_s)}" if check is not None else ""
            yield HandoutRow((_clock(found.room, each.start_s), sentence(words[each.block]), where, looked))


def _evaluated(face: Face, model: Evaluation, house: House) -> Evaluation | None:
    if face.of is None:
        return None
    if face.adapted is None and face.plan is model.sequence:
        return model
    if face.adapted is not None and face.plan is face.adapted.sequence:
        return face.adapted.evaluation
    return evaluate(face.plan, house, try_fixes=False)


def _title(face: Face) -> str:
    if face.of is None:
        return f"{face.student}, observing"
    return face.student if face.of == face.student else f"{face.student}, on {face.of}"


def _clock(room: Room, seconds: float) -> str:
    return f"{moment_at(room.date, room.start, room.zone, seconds):%H:%M}"
