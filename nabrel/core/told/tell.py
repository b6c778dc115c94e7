"""A sequence told as a numbered text, which a student can work from: in parts, and as Markdown."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass

from nabrel.core.base.state import Done
from nabrel.core.house import House
from nabrel.core.judge.evaluate import Evaluation
from nabrel.core.plan.step import Cue, Portion, Step, Unit
from nabrel.core.planner.planner import SCHOOLS
from nabrel.core.shelf.ladder import rung_words
from nabrel.core.terms.hands import MOTION_INFO, TOOL_INFO
from nabrel.core.terms.ids import Motion, StepKind, Tool, Zone
from nabrel.core.terms.looks import LIGHT_INFO, SCHOOL_INFO, SETTING_INFO, SEVERITY_INFO, VIEWING_INFO
from nabrel.core.terms.places import describe
from nabrel.core.terms.steps import STEP_INFO, Chapter
from nabrel.core.terms.words import join_words, sentence
from nabrel.core.terms.zones import area_of

HYGIENE: tuple[str, ...] = (
    "Wash your hands. Clean or single-use tools for every sitter; sponges washed after each use.",
    "Take product with a spatula onto a palette: never from the pack to the face and back. Disposable wands only.",
    "Mind the day each product was opened. Wipe pans; sharpen and sanitise pencils.",
    "Ask for allergies. Test new products 24 to 48 hours before, behind the ear or on the inner elbow.",
    "Stop and remove at stinging, swelling or a rash. Keep mists and powders out of eyes and lungs.",
    "No work over broken or weeping skin, cold sores, an eye infection, sunburn or a recent procedure: refer to a "
    "pharmacist or clinician. Nothing here is a diagnosis.",
    "Local hygiene codes and licensed practice come first.",
)
"""What stands on every told or printed sequence, whoever it is for."""


_MARKS = re.compile(r"([\\`*_\[\]<>])")


def escaped(text: str) -> str:
    """Text that Markdown shows as it is: a name may hold what would be a link, emphasis or markup."""
    return _MARKS.sub(r"\\\1", text)


@dataclass(frozen=True, slots=True)
class Line:
    """One line of a part: what leads it, the rest, what is said below it, and why."""

    lead: str
    rest: str = ""
    details: tuple[str, ...] = ()
    why: str = ""

    @property
    def below(self) -> tuple[str, ...]:
        """What Markdown has below the line: the reason in italics, after the last detail."""
        details = tuple(escaped(detail) for detail in self.details)
        if not self.why:
            return details
        *before, last = details or ("",)
        return (*before, f"{last} *{escaped(self.why)}*".strip())


@dataclass(frozen=True, slots=True)
class Part:
    """A part of the telling under its title; the steps are numbered."""

    title: str
    lines: tuple[Line, ...]
    numbered: bool = False


@dataclass(frozen=True, slots=True)
class Telling:
    """A sequence told: its title, for whom and how, and the parts that have anything to say."""

    title: str
    opening: tuple[str, ...]
    parts: tuple[Part, ...]


def telling(evaluation: Evaluation) -> Telling:
    """A sequence told in parts: the steps in chapters, what was left bare, findings, touch-ups, hygiene."""
    parts = (
        _plain("Know before you start", evaluation.sequence.notes[:MOST_NOTES]),
        *_chapters(evaluation),
        _plain("Left bare on purpose", _left_bare(evaluation)),
        Part("What the rule book says", tuple(_findings(evaluation))),
        _plain(
            "Later", (f"About {t.hour:g} h, {_where(t.zones)}: {t.does}" for t in evaluation.touch_ups[:MOST_TOUCH_UPS])
        ),
        _plain(HYGIENE_TITLE, HYGIENE),
    )
    return Telling(_title(evaluation), tuple(_opening(evaluation)), tuple(part for part in parts if part.lines))


def tell(evaluation: Evaluation) -> str:
    """The sequence told as Markdown."""
    told = telling(evaluation)
    lines = [f"# {escaped(told.title)}", ""]
    for paragraph in told.opening:
        lines += [escaped(paragraph), ""]
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
MOST_NOTES, MOST_TOUCH_UPS = 1, 2
"""How many notes and touch-ups are told, and of a step its first reason; the screen shows all of them."""
MOST_PLACES = 6
"""A line names so many places at most: more are told on a line of their own, or (in a reason) only counted."""


def _where(zones: Iterable[Zone]) -> str:
    named = describe(frozenset(zones))
    return named.words if named.places <= MOST_PLACES else f"on {len(named.zones)} zones"


def _plain(title: str, lines: Iterable[str]) -> Part:
    return Part(title, tuple(Line(line) for line in lines))


def _title(evaluation: Evaluation) -> str:
    sequence = evaluation.sequence
    return f"{sequence.title or sequence.case.sitter.nickname}: a base, {SCHOOL_INFO[sequence.school].words.lower()}"


def _opening(evaluation: Evaluation) -> Iterator[str]:
    sequence, t = evaluation.sequence, evaluation.totals
    intent, sitter = sequence.case.intent, sequence.case.sitter
    lights = join_words(LIGHT_INFO[light].words.lower() for light in intent.lights)
    yield (
        f"For {sitter.nickname}: {intent.cover} cover, {intent.finish}, {intent.wear_hours:g} hours, "
        f"{VIEWING_INFO[intent.viewing].words.lower()} in {lights}. {SETTING_INFO[intent.setting].words}."
    )
    yield SCHOOLS[sequence.school].why
    cost = f", {t.cost:.2f} a face" if t.cost is not None else ""
    yield (
        f"{t.steps} steps, {t.minutes:.0f} min, of which {t.active_minutes:.0f} are work; about {t.film_ml:.1f} ml of "
        f"product{cost}."
    )
    items = dict.fromkeys(part.item for step in sequence.steps for part in step.mix)
    named = [evaluation.products[item].name for item in items if item in evaluation.products]
    tools = dict.fromkeys(tool for step in sequence.steps for tool in step.tools if tool != "fingers")
    laid_out = [join_words(named)] + ([join_words(TOOL_INFO[tool].words for tool in tools)] if tools else [])
    yield f"Lay out: {'. '.join(sentence(each) for each in laid_out if each)}."


CHAPTERS: Mapping[Chapter, str] = {
    "skin": "Skin", "correct": "Correct", "sculpt": "Sculpt", "foundation": "Foundation", "finish": "Finish",
}  # fmt: skip


def _chapters(evaluation: Evaluation) -> Iterator[Part]:
    """The steps in chapters, in the order in which they are worked: a chapter that comes again is told again."""
    rows: list[tuple[Chapter, list[tuple[Step, Done]]]] = []
    sequence = evaluation.sequence
    for step, done, chapter in zip(sequence.steps, evaluation.course.done, sequence.chapters(), strict=True):
        if not rows or rows[-1][0] != chapter:
            rows.append((chapter, []))
        rows[-1][1].append((step, done))
    for chapter, steps in rows:
        minutes = sum(step.active_s + step.wait_s for step, _ in steps) / SECONDS_A_MINUTE
        lines = tuple(_told(evaluation, step, done) for step, done in steps)
        yield Part(f"{CHAPTERS[chapter]}, {max(1.0, minutes):.0f} min", lines, numbered=True)


def _told(evaluation: Evaluation, step: Step, done: Done) -> Line:
    """One step: what can be done without reading on, then each portion, what to look for, and why."""
    first, *others = [
        line for portion in step.portions for line in told_portion(evaluation.house, step.unit, portion)
    ] or [""]
    rest = f" {first}".rstrip()
    details = others
    if step.then is not None:
        hand = _hand(step.then.tool, step.then.motion)
        details.append(f"Then {hand}." if step.then.zones is None else f"Then {hand} {_where(step.then.zones)}.")
    reasons = [*step.why, *(why for portion in step.portions for why in portion.why)]
    return Line(STEP_INFO[step.kind].words, f"{_with(done)}.{rest}", (*details, *_after(step)), reasons[0])


def _with(done: Done) -> str:
    """What is taken and how much: ", a pinhead of Peach 2"."""
    if done.mixed is None:
        return ""
    names = join_words(item.name for item, _ in done.mixed.items)
    if done.take is None:
        return f" with {names}"
    return f", {done.take.words}: {names}" if done.take.amount else f": {names}, {done.take.words}"


def told_portion(house: House, unit: Unit | None, portion: Portion) -> Iterator[str]:
    """What one hand does, on as many lines as its places need: "Press a thin layer on the chin, damp sponge."."""
    pieces = describe(frozenset(portion.zones))
    if pieces.places <= MOST_PLACES:
        said = _do_there(house, unit, portion, pieces.words)
        if said:
            yield said
        return
    phrases = [phrase for phrase, _ in describe(frozenset(portion.zones), regions_but=False).said]
    for start in range(0, len(phrases), MOST_PLACES):
        where = join_words(phrases[start : start + MOST_PLACES])
        yield _do_there(house, unit, portion, where) if start == 0 else f"The same {where}."


def _do_there(house: House, unit: Unit | None, portion: Portion, where: str) -> str:
    if portion.amount is not None and unit is not None:
        much = "what is left" if portion.left_over else rung_words(portion.amount, unit, house)
        dotted = " on the marks" if portion.patch < 1.0 else ""
        verb = sentence(MOTION_INFO[portion.motion].words) if portion.motion else "Lay"
        tool = f", {TOOL_INFO[portion.tool].words}" if portion.tool else ""
        damp = ", misted" if portion.tool_dampened else ""
        return f"{verb} {much}{dotted} {where}{tool}{damp}."
    verb = MOTION_INFO[portion.motion].words if portion.motion else ""
    tool = f", {TOOL_INFO[portion.tool].words}" if portion.tool else ""
    said = " ".join(each for each in (verb, where) if each)
    return f"{sentence(said)}{tool}." if said else ""


def _hand(tool: Tool | None, motion: Motion | None) -> str:
    verb = MOTION_INFO[motion].words if motion else ""
    held = f"with the {TOOL_INFO[tool].words}" if tool and tool != "fingers" else "with the fingers" if tool else ""
    return " ".join(each for each in (verb, held) if each)


def _after(step: Step) -> Iterator[str]:
    said = [CUE_WORDS[cue] for cue in step.cue]
    if step.wait_s:
        said.append(f"Wait {_time(step.wait_s)}.")
    if step.wait_at_most_s and step.wait_at_most_s <= WORTH_A_WARNING_S:
        said.append(f"Go on within {_time(step.wait_at_most_s)}.")
    if step.check:
        said.append(f"→ {step.check}")
    if said:
        yield " ".join(said)


CUE_WORDS: Mapping[Cue, str] = {
    "look_up": "Ask to look up.", "look_down": "Ask to look down.", "eyes_closed": "Eyes closed.",
    "shield_eyes": "Shield the eyes.", "smile_relax": "Ask to smile and relax.", "suck_cheeks": "Ask to suck in the cheeks.",
    "tilt_head": "Ask to tilt the head.", "lips_together": "Lips together.",
}  # fmt: skip
SECONDS_A_MINUTE, TOLD_GRAIN_S = 60, 5
WORTH_A_WARNING_S = 300
"""A longest wait beyond this is kept by anybody who goes on working."""


def _time(seconds: float) -> str:
    """A time as it is spoken: "a minute", "45 s", "2 min 30 s"."""
    minutes, rest = divmod(TOLD_GRAIN_S * round(seconds / TOLD_GRAIN_S), SECONDS_A_MINUTE)
    if not minutes:
        return f"{rest} s"
    if not rest:
        return "a minute" if minutes == 1 else f"{minutes} min"
    return f"{minutes} min {rest} s"


def _left_bare(evaluation: Evaluation) -> Iterator[str]:
    by_reason: dict[tuple[StepKind, str], list[Zone]] = {}
    for each in evaluation.sequence.left_bare:
        by_reason.setdefault((each.kind, each.why), []).append(each.zone)
    weighed = sorted(by_reason.items(), key=lambda row: -area_of(row[1]))
    for (kind, why), zones in weighed[:MOST_LEFT_BARE]:
        where = describe(frozenset(zones))
        but = join_words(phrase for phrase, _ in where.but)
        there = join_words(phrase for phrase, _ in where.said) + (f" other than {but}" if but else "")
        said = there if where.places <= MOST_PLACES else _where(zones)
        yield f"No {STEP_INFO[kind].laid} {said}. {why}"


MOST_LEFT_BARE = 2


def _findings(evaluation: Evaluation) -> Iterator[Line]:
    number = {step.id: str(i) for i, step in enumerate(evaluation.sequence.steps, start=1)}
    grave = [f for f in evaluation.findings if f.severity != "advice" or f.accepted]
    for f in grave:
        at = f" (step {join_words(number[s] for s in f.steps if s in number)})" if f.steps else ""
        fix = f" {f.fix.says}." if f.fix else ""
        accepted = f" Accepted: {f.accepted}." if f.accepted else ""
        yield Line(SEVERITY_INFO[f.severity].words, f"{at}: {f.says} {f.why}{fix} {f.decided}".rstrip() + accepted)
    for f in [f for f in evaluation.findings if f not in grave][:MOST_ADVICE]:
        yield Line(SEVERITY_INFO[f.severity].words, f": {f.says}")


MOST_ADVICE = 1
