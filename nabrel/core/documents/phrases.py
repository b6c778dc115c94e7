"""What a plan is told with: places, takes, hands, times and cues in the words of the trade."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping

from nabrel.core.base.state import WorkedStep
from nabrel.core.house import House
from nabrel.core.plan.step import Cue, Portion, Step
from nabrel.core.shelf.ladder import rung_words
from nabrel.core.terms.hands import MOTION_INFO, TOOL_INFO
from nabrel.core.terms.ids import Motion, Tool, Zone
from nabrel.core.terms.places import describe
from nabrel.core.terms.steps import STEP_INFO, Chapter
from nabrel.core.terms.words import join_words, sentence, spoken

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

CHAPTERS: Mapping[Chapter, str] = {
    "skin": "Skin", "correct": "Correct", "sculpt": "Sculpt", "foundation": "Foundation", "finish": "Finish",
}  # fmt: skip

MOST_PLACES = 6
"""A line names so many places at most: more are told on a line of their own, or (in a reason) only counted."""


def where_words(zones: Iterable[Zone]) -> str:
    """Where, as a phrase; a long list of places is only counted."""
    named = describe(frozenset(zones))
    return named.words if named.places <= MOST_PLACES else f"on {len(named.zones)} zones"


def taken(done: WorkedStep) -> str:
    """What is taken and how much: ", a pinhead of Peach 2"."""
    if done.mixed is None:
        return ""
    names = join_words(item.name for item, _ in done.mixed.items)
    if done.take is None:
        return f" with {names}"
    return f", {done.take.words}: {names}" if done.take.amount else f": {names}, {done.take.words}"


def told_portion(house: House, step: Step, portion: Portion, before: Portion | None = None) -> Iterator[str]:
    """What one hand does, on as many lines as its places need: "Press a thin layer on the chin, damp sponge.".

    ``before`` is the portion told just before: a hand that goes on as it did is not told again ("A light layer on the chin.").
    """
    goes_on = before is not None and _hand(before) == _hand(portion)
    pieces = describe(frozenset(portion.zones))
    if pieces.places <= MOST_PLACES:
        said = _do_there(house, step, portion, pieces.words, goes_on=goes_on)
        if said:
            yield said
        return
    phrases = [phrase for phrase, _ in describe(frozenset(portion.zones), regions_but=False).said]
    for start in range(0, len(phrases), MOST_PLACES):
        where = join_words(phrases[start : start + MOST_PLACES])
        yield _do_there(house, step, portion, where, goes_on=goes_on) if start == 0 else f"The same {where}."


def much_laid(house: House, step: Step, portion: Portion) -> str:
    """How much a portion lays, and how where it covers part of its zones: "a thin layer on the marks"; empty for none."""
    if portion.amount is None or step.unit is None:
        return ""
    much = "what is left" if portion.left_over else rung_words(portion.amount, step.unit, house)
    return f"{much} {STEP_INFO[step.kind].in_part}" if portion.patch < 1.0 else much


def _hand(portion: Portion) -> tuple[Tool | None, Motion | None, bool]:
    return (portion.tool, portion.motion, portion.tool_dampened)


def _do_there(house: House, step: Step, portion: Portion, where: str, *, goes_on: bool) -> str:
    much = much_laid(house, step, portion)
    if much:
        if goes_on:
            return f"{sentence(much)} {where}."
        verb = sentence(MOTION_INFO[portion.motion].words) if portion.motion else "Lay"
        tool = f", {TOOL_INFO[portion.tool].words}" if portion.tool else ""
        damp = ", misted" if portion.tool_dampened else ""
        return f"{verb} {much} {where}{tool}{damp}."
    verb = MOTION_INFO[portion.motion].words if portion.motion else ""
    tool = f", {TOOL_INFO[portion.tool].words}" if portion.tool else ""
    said = " ".join(each for each in (verb, where) if each)
    return f"{sentence(said)}{tool}." if said else ""


CUE_WORDS: Mapping[Cue, str] = {
    "look_up": "Ask to look up.", "look_down": "Ask to look down.", "eyes_closed": "Eyes closed.",
    "shield_eyes": "Shield the eyes.", "smile_relax": "Ask to smile and relax.", "suck_cheeks": "Ask to suck in the cheeks.",
    "tilt_head": "Ask to tilt the head.", "lips_together": "Lips together.",
}  # fmt: skip
WORTH_A_WARNING_S = 300
"""A longest wait beyond this is kept by anybody who goes on working."""


def said_after(step: Step) -> Iterator[str]:
    """What is said of a step once its hands are told: cues to the sitter, the wait, how soon to go on."""
    yield from (CUE_WORDS[cue] for cue in step.cue)
    if step.wait_s:
        yield f"Wait {spoken(step.wait_s)}."
    if step.wait_at_most_s and step.wait_at_most_s <= WORTH_A_WARNING_S:
        yield f"Go on within {spoken(step.wait_at_most_s)}."


def length_words(minutes: float, active_minutes: float, pace: float) -> str:
    """How long a plan takes, worked as listed, at so many times a practised hand's seconds: waits do not grow with it."""
    worked = active_minutes * pace
    said = f"{minutes - active_minutes + worked:.0f} min, of which {worked:.0f} are work"
    return said if pace == 1.0 else f"{said} for a hand that takes {pace:g} times as long"
