"""A sequence told as a numbered text, which a student can work from: in parts, and as Markdown."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from nabrel.core.judge.evaluate import Evaluation
from nabrel.core.plan.step import Step
from nabrel.core.planner.planner import SCHOOLS
from nabrel.core.terms.hands import MOTION_INFO, TOOL_INFO
from nabrel.core.terms.ids import StepKind, Zone
from nabrel.core.terms.looks import LIGHT_INFO, SCHOOL_INFO, SETTING_INFO, VIEWING_INFO
from nabrel.core.terms.places import places
from nabrel.core.terms.steps import STEP_INFO
from nabrel.core.terms.words import join_words

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


@dataclass(frozen=True, slots=True)
class Line:
    """One line of a part: what leads it, the rest, and what is said below it."""

    lead: str
    rest: str = ""
    details: tuple[str, ...] = ()


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
    """The sequence told: for whom, the steps with reasons and checks, what was left bare, findings, wear, hygiene."""
    parts = (
        _plain("Know before you start", evaluation.sequence.notes),
        Part("The steps", tuple(_steps(evaluation)), numbered=True),
        _plain("Left bare on purpose", _left_bare(evaluation)),
        Part("What the rule book says", tuple(_findings(evaluation))),
        _plain("Touch-ups", (f"After {t.hour:g} h, {places(t.zones)}: {t.does}" for t in evaluation.touch_ups)),
        _plain("Hygiene and safety", HYGIENE),
    )
    return Telling(_title(evaluation), tuple(_opening(evaluation)), tuple(part for part in parts if part.lines))


def tell(evaluation: Evaluation) -> str:
    """The sequence told as Markdown."""
    told = telling(evaluation)
    lines = [f"# {told.title}", ""]
    for paragraph in told.opening:
        lines += [paragraph, ""]
    for part in told.parts:
        lines += [f"## {part.title}", ""]
        for number, line in enumerate(part.lines, start=1):
            mark = f"{number}." if part.numbered else "-"
            lead = f"**{line.lead}**" if line.rest or line.details else line.lead
            lines.append(f"{mark} {lead}{line.rest}")
            lines += [f"   - {detail}" for detail in line.details]
        lines.append("")
    return "\n".join(lines)


def _plain(title: str, lines: Iterable[str]) -> Part:
    return Part(title, tuple(Line(line) for line in lines))


def _title(evaluation: Evaluation) -> str:
    sequence = evaluation.sequence
    return f"{sequence.title or sequence.case.sitter.nickname}: a base, {SCHOOL_INFO[sequence.school].words.lower()}"


def _opening(evaluation: Evaluation) -> Iterator[str]:
    sequence, t = evaluation.sequence, evaluation.totals
    intent, sitter = sequence.case.intent, sequence.case.sitter
    school = SCHOOLS[sequence.school]
    lights = join_words(LIGHT_INFO[light].words.lower() for light in intent.lights)
    yield (
        f"For {sitter.nickname}: {intent.cover} cover, {intent.finish}, {intent.wear_hours:g} hours, "
        f"{VIEWING_INFO[intent.viewing].words.lower()} in {lights}. {SETTING_INFO[intent.setting].words}."
    )
    yield f"{school.why} It demands: {school.demands[:1].lower()}{school.demands[1:]}"
    cost = f", about {t.cost:.2f} of product" if t.cost is not None else ""
    yield f"{t.steps} steps, {t.minutes:.0f} minutes with one pair of hands ({t.active_minutes:.0f} of work){cost}."


def _steps(evaluation: Evaluation) -> Iterator[Line]:
    for step in evaluation.sequence.steps:
        where = _where(step)
        yield Line(STEP_INFO[step.kind].words, f" {where}." if where else ".", tuple(_details(evaluation, step)))


def _where(step: Step) -> str:
    if not step.zones:
        return ""
    return places(step.zones) if len(step.zones) <= 8 else f"on {len(step.zones)} zones: {places(step.zones)}"


def _details(evaluation: Evaluation, step: Step) -> Iterator[str]:
    product = evaluation.products.get(step.product or "")
    if product is not None:
        amount = (
            f"{step.film_um:g} µm" if step.film_um else f"{step.powder_mg_cm2:g} mg/cm²" if step.powder_mg_cm2 else ""
        )
        take = f"take {step.take.words} ({step.take.amount:g} {step.take.unit})" if step.take else ""
        yield (
            "With "
            + "; ".join(part for part in (product.name, take, f"{amount} on the skin" if amount else "") if part)
            + "."
        )
    if step.tool or step.motion:
        hand = [TOOL_INFO[step.tool].words if step.tool else "", MOTION_INFO[step.motion].words if step.motion else ""]
        yield f"Hand: {', '.join(each for each in hand if each)}."
    wait = f", then wait {_time(step.wait_s)}" if step.wait_s else ""
    most = f"; go on within {_time(step.wait_at_most_s)}" if step.wait_at_most_s else ""
    yield f"Time: {_time(step.active_s)}{wait}{most}."
    for sentence in step.why:
        yield f"Why: {sentence}"
    if step.check:
        yield f"Look for: {step.check}"


def _time(seconds: float) -> str:
    return f"{seconds / 60:g} min" if seconds >= 60 and seconds % 60 == 0 else f"{seconds:g} s"


def _left_bare(evaluation: Evaluation) -> Iterator[str]:
    by_reason: dict[tuple[StepKind, str], list[Zone]] = {}
    for bare in evaluation.sequence.left_bare:
        by_reason.setdefault((bare.kind, bare.why), []).append(bare.zone)
    for (kind, why), zones in by_reason.items():
        yield f"No {STEP_INFO[kind].words.lower()} {places(zones)}: {why}"


def _findings(evaluation: Evaluation) -> Iterator[Line]:
    number = {step.id: str(i) for i, step in enumerate(evaluation.sequence.steps, start=1)}
    for f in evaluation.findings:
        at = f" (step {join_words(number[s] for s in f.steps if s in number)})" if f.steps else ""
        fix = f" {f.fix.says}." if f.fix else ""
        lived = f" Lived with, because {f.accepted}." if f.accepted else ""
        yield Line(f.severity.capitalize(), f"{at}: {f.says} {f.why}{fix} {f.decided}".rstrip() + lived)
