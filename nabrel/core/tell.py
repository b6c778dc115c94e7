"""A sequence told as a numbered text in Markdown, which a student can work from."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from nabrel.core.evaluate import Evaluation
from nabrel.core.plan.planner import SCHOOLS
from nabrel.core.plan.step import Step
from nabrel.core.vocabulary import (
    LIGHT_WORDS,
    MOTION_WORDS,
    SCHOOL_WORDS,
    SETTING_WORDS,
    STEP_WORDS,
    TOOL_WORDS,
    VIEWING_WORDS,
    ZONES,
    join_words,
    places,
)

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


def tell(evaluation: Evaluation) -> str:
    """The sequence as Markdown: for whom, the steps with reasons and checks, what was left bare, findings, wear, hygiene."""
    return "\n".join(
        [*_opening(evaluation), *_steps(evaluation), *_left_bare(evaluation), *_findings(evaluation), *_wear(evaluation),
         *_hygiene()]
    )  # fmt: skip


def _opening(evaluation: Evaluation) -> Iterator[str]:
    sequence, t = evaluation.sequence, evaluation.totals
    intent, sitter = sequence.case.intent, sequence.case.sitter
    school = SCHOOLS[sequence.school]
    yield f"# {sequence.title or sitter.nickname}: a base, {SCHOOL_WORDS[sequence.school].lower()}"
    yield ""
    lights = join_words(LIGHT_WORDS[light].lower() for light in intent.lights)
    yield (
        f"For {sitter.nickname}: {intent.cover} cover, {intent.finish}, {intent.wear_hours:g} hours, "
        f"{VIEWING_WORDS[intent.viewing].lower()} in {lights}. {SETTING_WORDS[intent.setting]}."
    )
    yield ""
    yield f"{school.why} It demands: {school.demands[:1].lower()}{school.demands[1:]}"
    yield ""
    cost = f", about {t.cost:.2f} of product" if t.cost is not None else ""
    yield f"{t.steps} steps, {t.minutes:.0f} minutes with one pair of hands ({t.active_minutes:.0f} of work){cost}."
    yield ""
    yield from _bullets("Know before you start", sequence.notes)


def _steps(evaluation: Evaluation) -> Iterator[str]:
    yield "## The steps"
    yield ""
    for number, step in enumerate(evaluation.sequence.steps, start=1):
        yield f"{number}. **{STEP_WORDS[step.kind]}** {_where(step)}".rstrip() + "."
        for line in _details(evaluation, step):
            yield f"   - {line}"
    yield ""


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
        hand = [TOOL_WORDS[step.tool] if step.tool else "", MOTION_WORDS[step.motion] if step.motion else ""]
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
    by_reason: dict[tuple[str, str], list[str]] = {}
    for bare in evaluation.sequence.left_bare:
        by_reason.setdefault((bare.kind, bare.why), []).append(bare.zone)
    lines = [
        f"No {STEP_WORDS[kind].lower()} {places([z for z in ZONES if z in zones])}: {why}"  # type: ignore[index]
        for (kind, why), zones in by_reason.items()
    ]
    yield from _bullets("Left bare on purpose", lines, level=2)


def _findings(evaluation: Evaluation) -> Iterator[str]:
    number = {step.id: str(i) for i, step in enumerate(evaluation.sequence.steps, start=1)}
    lines = []
    for f in evaluation.findings:
        at = f" (step {join_words(number[s] for s in f.steps if s in number)})" if f.steps else ""
        fix = f" {f.fix.says}." if f.fix else ""
        lines.append(f"**{f.severity.capitalize()}**{at}: {f.says} {f.why}{fix} {f.decided}".rstrip())
    yield from _bullets("What the rule book says", lines, level=2)


def _wear(evaluation: Evaluation) -> Iterator[str]:
    lines = [f"After {each.hour:g} h, {places(each.zones)}: {each.does}" for each in evaluation.touch_ups]
    yield from _bullets("Touch-ups", lines, level=2)


def _hygiene() -> Iterator[str]:
    yield from _bullets("Hygiene and safety", HYGIENE, level=2)


def _bullets(title: str, lines: Iterable[str], level: int = 2) -> Iterator[str]:
    listed = list(lines)
    if not listed:
        return
    yield f"{'#' * level} {title}"
    yield ""
    for line in listed:
        yield f"- {line}"
    yield ""
