"""Exercises on paper: what is asked, with room for an answer, and the answers for the last page."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from nabrel.core.drill.exercise import DrillKind, Exercise
from nabrel.core.drill.making import KINDS
from nabrel.core.drill.sets import given_words
from nabrel.core.face.proportions import Proportions, proportions_of
from nabrel.core.terms.ids import Zone
from nabrel.core.terms.zones import ZONE_INFO

HOW: Mapping[DrillKind, str] = {
    "order": "Number the steps.", "fault": "Tick the step, and the rule.", "depth": "Write the number down.",
    "leave_bare": "Tick the places.", "placement": "Tick the places.", "powder_where": "Tick the places, and the value.",
}  # fmt: skip
"""How an exercise is answered on paper, where one choice is not ticked."""
MEASURES = {
    "shape": "shape {}", "forehead_fingers": "forehead {} fingers high", "face_length_mm": "face {} mm long",
    "cheekbone_width_mm": "{} mm across the cheekbones", "jaw_width_mm": "{} mm across the jaw",
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class Question:
    """One exercise on paper. ``boxes`` are ticked or numbered, each a list with its heading; ``face`` are the colours to look at,
    ``places`` the zones that are asked about, and ``swatches`` colours (words, sRGB hex) to compare.
    """

    number: int
    words: str
    asks: str
    how: str
    says: tuple[str, ...]
    boxes: tuple[tuple[str, tuple[str, ...]], ...]
    blank: str
    swatches: tuple[tuple[str, str], ...]
    face: Mapping[Zone, str] | None
    places: tuple[Zone, ...]
    proportions: Proportions | None
    answer: str
    why: tuple[str, ...]


def measured(asked: Exercise) -> tuple[str, ...]:
    """The measures of the face that an exercise is about, in words."""
    found = asked.shows.get("measures", {})
    return tuple(words.format(found[name]) for name, words in MEASURES.items() if found.get(name))


def _stepped(each: Mapping[str, str]) -> str:
    return f"{each['says']} ({each['detail']})" if each.get("detail") else each["says"]


def questions_on_paper(exercises: Iterable[Exercise]) -> tuple[Question, ...]:
    """Exercises as they stand on paper, numbered."""
    return tuple(_question(number, each) for number, each in enumerate(exercises, start=1))


def _question(number: int, asked: Exercise) -> Question:
    shows = asked.shows
    says = list(shows.get("reads", []))
    if measured(asked):
        says.insert(0, f"This face: {', '.join(measured(asked))}.")
    for name, words in (("lower", "On the skin"), ("upper", "Over it")):
        if shows.get(name):
            says.append(f"{words}: {', '.join(shows[name])}.")
    boxes: list[tuple[str, tuple[str, ...]]] = []
    if shows.get("steps"):
        boxes.append(("Steps", tuple(_stepped(each) for each in shows["steps"])))
    places: tuple[Zone, ...] = tuple(shows["zones"]) if "zones" in asked.answer else ()
    if places:
        boxes.append(("Places", tuple(ZONE_INFO[zone].words for zone in places)))
    if shows.get("values"):
        boxes.append(("The first powder is", tuple(each["says"] for each in shows["values"])))
    if asked.choices:
        boxes.append(("Rule" if asked.kind == "fault" else "", tuple(each.says for each in asked.choices)))
    swatches = (("the zone", shows["skin"]), ("the complexion", shows["complexion"])) if shows.get("complexion") else ()
    sitter = asked.sequence.case.sitter if asked.sequence is not None else None
    return Question(
        number=number,
        words=f"{KINDS[asked.kind].words}, level {asked.level}",
        asks=asked.asks,
        how=HOW.get(asked.kind, "Tick one."),
        says=tuple(says),
        boxes=tuple(boxes),
        blank="L* darker than the skin" if asked.kind == "depth" else "",
        swatches=swatches,
        face=shows.get("face") if asked.kind == "diagnose" else None,
        places=places,
        proportions=proportions_of(sitter) if sitter is not None else None,
        answer=given_words(asked, asked.answer),
        why=asked.why,
    )
