"""A sequence told as a numbered text, which a student can work from: in parts, and as Markdown."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass

from nabrel.core.ask.recommend import lacks
from nabrel.core.base.state import WorkedStep
from nabrel.core.documents.avoiding import Caution, caution_of
from nabrel.core.documents.phrases import (
    CHAPTERS,
    HYGIENE,
    MOST_PLACES,
    length_words,
    said_after,
    taken,
    told_portion,
    where_words,
)
from nabrel.core.judge.evaluate import Evaluation
from nabrel.core.pace.tasks import checked_pace
from nabrel.core.plan.step import Step
from nabrel.core.planner.planner import SCHOOLS
from nabrel.core.terms.hands import TOOL_INFO, hand_words
from nabrel.core.terms.ids import StepKind, Zone
from nabrel.core.terms.looks import LIGHT_INFO, SETTING_INFO, SEVERITY_INFO, VIEWING_INFO
from nabrel.core.terms.places import describe
from nabrel.core.terms.schools import SCHOOL_INFO
from nabrel.core.terms.steps import STEP_INFO, Chapter
from nabrel.core.terms.words import SECONDS_A_MINUTE, join_words, sentence
from nabrel.core.terms.zones import COMPLEXION_ZONES, area_of

_MARKS = re.compile(r"([\\`*_\[\]<>])")


def escaped(text: str) -> str:
    """Text that Markdown shows as it is: a name may hold what would be a link, emphasis or markup."""
    return _MARKS.sub(r"\\\1", text)


@dataclass(frozen=True, slots=True)
class TellingLine:
    """One line of a part: what leads it, the rest, what is said below it, and why."""

    lead: str
    rest: str
    details: tuple[str, ...]
    why: str

    @property
    def below(self) -> tuple[str, ...]:
        """What Markdown has below the line: the reason in italics, after the last detail."""
        details = tuple(escaped(detail) for detail in self.details)
        if not self.why:
            return details
        *before, last = details or ("",)
        return (*before, f"{last} *{escaped(self.why)}*".strip())


@dataclass(frozen=True, slots=True)
class TellingPart:
    """A part of the telling under its title; the steps are numbered."""

    title: str
    lines: tuple[TellingLine, ...]
    numbered: bool


@dataclass(frozen=True, slots=True)
class Telling:
    """A sequence told: its title, for whom and how, what to avoid, and the parts that have anything to say."""

    title: str
    opening: tuple[str, ...]
    caution: Caution | None
    parts: tuple[TellingPart, ...]


def telling(evaluation: Evaluation, pace: float = 1.0) -> Telling:
    """A sequence told in parts: the steps in chapters, what was left bare, findings, touch-ups, hygiene.

    Times are for a hand that takes ``pace`` times a practised hand's seconds. Refuses a pace that cannot be.
    """
    checked_pace(pace)
    parts = (
        _plain("Know before you start", _notes(evaluation.sequence.notes)),
        *_chapters(evaluation, pace),
        _plain("Left bare on purpose", _left_bare(evaluation)),
        TellingPart("What the rule book says", tuple(_findings(evaluation)), numbered=False),
        _plain(
            "Later",
            (f"About {t.hour:g} h, {where_words(t.zones)}: {t.says}" for t in evaluation.touch_ups[:MOST_TOUCH_UPS]),
        ),
        _plain(HYGIENE_TITLE, HYGIENE),
    )
    return Telling(
        _title(evaluation),
        tuple(_opening(evaluation, pace)),
        caution_of(evaluation),
        tuple(part for part in parts if part.lines),
    )


def tell(evaluation: Evaluation, pace: float = 1.0) -> str:
    """The sequence told as Markdown, at a pace."""
    told = telling(evaluation, pace)
    lines = [f"# {escaped(told.title)}", ""]
    for paragraph in told.opening:
        lines += [escaped(paragraph), ""]
    if told.caution is not None:
        lines += [f"**{escaped(told.caution.lead)}** {escaped(told.caution.says)}", ""]
    number = 0
    for part in told.parts:
        lines += [f"## {part.title}", ""]
        for line in part.lines:
            number += part.numbered
            mark = f"{number}." if part.numbered else "-"
            lead = f"**{escaped(line.lead)}**" if line.rest or line.below else escaped(line.lead)
            lines.append(f"{mark} {lead}{escaped(line.rest)}")
            lines += [f"   - {detail}" for detail in line.below]
        lines.append("")
    return "\n".join(lines)


HYGIENE_TITLE = "Hygiene and safety"
LEFT_OUT = ("Nothing in the kit", "Asked for")
"""How notes begin that name a layer which was asked for and is not laid."""
MOST_NOTES, MOST_TOUCH_UPS = 1, 2
"""How many notes and touch-ups are told, and of a step its first reason; the screen shows all of them."""


def _notes(notes: tuple[str, ...]) -> tuple[str, ...]:
    """The first note, and every one that says what was asked for and is not laid: nothing is left out in silence."""
    return tuple(note for place, note in enumerate(notes) if place < MOST_NOTES or note.startswith(LEFT_OUT))


def _plain(title: str, lines: Iterable[str]) -> TellingPart:
    return TellingPart(title, tuple(TellingLine(line, "", (), "") for line in lines), numbered=False)


def _title(evaluation: Evaluation) -> str:
    sequence = evaluation.sequence
    return f"{sequence.title or sequence.case.sitter.nickname}: a base, {SCHOOL_INFO[sequence.school].words.lower()}"


def _opening(evaluation: Evaluation, pace: float) -> Iterator[str]:
    sequence, t = evaluation.sequence, evaluation.totals
    intent, sitter = sequence.case.intent, sequence.case.sitter
    lights = join_words(LIGHT_INFO[light].words.lower() for light in intent.lights)
    yield (
        f"For {sitter.nickname}: {intent.cover} cover, {intent.finish}, {intent.wear_hours:g} hours, "
        f"{VIEWING_INFO[intent.viewing].words.lower()} in {lights}. {SETTING_INFO[intent.setting].words}."
    )
    yield SCHOOLS[sequence.school].why
    if lack := lacks(evaluation):
        yield f"Here it lacks what it is made of: {lack}."
    cost = f", {t.cost:.2f} a face" if t.cost is not None else ""
    yield (
        f"{t.steps} steps, {length_words(t.minutes, t.active_minutes, pace)}; about {t.film_ml:.1f} ml of product{cost}."
    )
    items = dict.fromkeys(part.item for step in sequence.steps for part in step.mix)
    named = [evaluation.products[item].name for item in items if item in evaluation.products]
    tools = dict.fromkeys(tool for step in sequence.steps for tool in step.tools if tool != "fingers")
    laid_out = [join_words(named)] + ([join_words(TOOL_INFO[tool].words for tool in tools)] if tools else [])
    yield f"Lay out: {'. '.join(sentence(each) for each in laid_out if each)}."


def _chapters(evaluation: Evaluation, pace: float) -> Iterator[TellingPart]:
    """The steps in chapters, in the order in which they are worked: a chapter that comes again is told again."""
    rows: list[tuple[Chapter, list[tuple[Step, WorkedStep]]]] = []
    sequence = evaluation.sequence
    for step, done, chapter in zip(sequence.steps, evaluation.course.done, sequence.chapters(), strict=True):
        if not rows or rows[-1][0] != chapter:
            rows.append((chapter, []))
        rows[-1][1].append((step, done))
    starts = [*evaluation.course.starts, evaluation.totals.minutes * SECONDS_A_MINUTE]
    at = 0
    for chapter, steps in rows:
        # What waits on one place is worked on at another meanwhile: a chapter lasts until the next one begins.
        lasts = starts[at + len(steps)] - starts[at] + (pace - 1) * sum(step.active_s for step, _ in steps)
        minutes, at = lasts / SECONDS_A_MINUTE, at + len(steps)
        lines = tuple(_told(evaluation, step, done) for step, done in steps)
        yield TellingPart(f"{CHAPTERS[chapter]}, {max(1.0, minutes):.0f} min", lines, numbered=True)


def _told(evaluation: Evaluation, step: Step, done: WorkedStep) -> TellingLine:
    """One step: what can be done without reading on, then each portion, what to look for, and why."""
    first, *others = [
        line
        for before, portion in zip((None, *step.portions), step.portions, strict=False)
        for line in told_portion(evaluation.house, step, portion, before)
    ] or [""]
    rest = f" {first}".rstrip()
    details = others
    if step.then is not None:
        hand = hand_words(step.then.tool, step.then.motion)
        details.append(f"Then {hand}." if step.then.zones is None else f"Then {hand} {where_words(step.then.zones)}.")
    reasons = [*step.why, *(why for portion in step.portions for why in portion.why)]
    return TellingLine(STEP_INFO[step.kind].words, f"{taken(done)}.{rest}", (*details, *_after(step)), reasons[0])


def _after(step: Step) -> Iterator[str]:
    said = [*said_after(step), *([f"→ {step.check}"] if step.check else ())]
    if said:
        yield " ".join(said)


def _left_bare(evaluation: Evaluation) -> Iterator[str]:
    by_reason: dict[tuple[StepKind, str], list[Zone]] = {}
    # Where powder goes only on spots, the step says so itself.
    told_by_step = evaluation.sequence.case.intent.setting == "spot"
    for each in evaluation.sequence.left_bare:
        if each.kind == "set" and told_by_step:
            continue
        by_reason.setdefault((each.kind, each.why), []).append(each.zone)
    weighed = sorted(by_reason.items(), key=lambda row: -area_of(row[1]))
    for (kind, why), zones in weighed[:MOST_LEFT_BARE]:
        where = describe(frozenset(zones))
        but = join_words(phrase for phrase, _ in where.but)
        there = join_words(NOWHERE.get(phrase, phrase) for phrase, _ in where.said) + (
            f" other than {but}" if but else ""
        )
        most = "on most of the face" if 2 * area_of(zones) > area_of(COMPLEXION_ZONES) else where_words(zones)
        said = there if where.places <= MOST_PLACES else most
        yield f"No {STEP_INFO[kind].laid} {said}. {why}"


MOST_LEFT_BARE = 2
NOWHERE: Mapping[str, str] = {
    "all over face, lids and neck": "on face, lids and neck",
    "all over face and neck": "on face and neck",
    "all over the face": "on the face",
    "all over the face to its edges": "on the face within its edges",
}
"""What is nowhere laid is not laid "all over": how these regions are said after a no."""


def _findings(evaluation: Evaluation) -> Iterator[TellingLine]:
    number = {step.id: str(i) for i, step in enumerate(evaluation.sequence.steps, start=1)}
    grave = [f for f in evaluation.findings if f.severity != "advice" or f.accepted]
    for f in grave:
        at = f" (step {join_words(number[s] for s in f.steps if s in number)})" if f.steps else ""
        fix = f" {f.fix.says}." if f.fix else ""
        accepted = f" Accepted: {f.accepted.rstrip('.')}." if f.accepted else ""
        rest = f"{at}: {f.says} {f.why}{fix} {f.decided}".rstrip() + accepted
        yield TellingLine(SEVERITY_INFO[f.severity].words, rest, (), "")
    for f in [f for f in evaluation.findings if f not in grave][:MOST_ADVICE]:
        yield TellingLine(SEVERITY_INFO[f.severity].words, f": {f.says}", (), "")


MOST_ADVICE = 1
