"""Exercises on paper: what is asked, with room for an answer, and the answers for the last page."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from nabrel.core.drill.exercise import Exercise, Line
from nabrel.core.drill.kinds import KINDS
from nabrel.core.drill.sets import given_words
from nabrel.core.face.proportions import Proportions, proportions_of
from nabrel.core.terms.ids import Zone
from nabrel.core.terms.zones import ZONE_INFO

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
    found = asked.shows.measures or {}
    return tuple(words.format(found[name]) for name, words in MEASURES.items() if found.get(name))


def _stepped(each: Line) -> str:
    return f"{each.says} ({each.detail})" if each.detail else each.says


def questions_on_paper(exercises: Iterable[Exercise]) -> tuple[Question, ...]:
    """Exercises as they stand on paper, numbered."""
    return tuple(_question(number, each) for number, each in enumerate(exercises, start=1))


def _question(number: int, asked: Exercise) -> Question:
    shows, kind = asked.shows, KINDS[asked.kind]
    says = list(shows.reads)
    if measured(asked):
        says.insert(0, f"This face: {', '.join(measured(asked))}.")
    for lines, words in ((shows.lower, "On the skin"), (shows.upper, "Over it")):
        if lines:
            says.append(f"{words}: {', '.join(lines)}.")
    boxes: list[tuple[str, tuple[str, ...]]] = []
    if shows.steps:
        boxes.append(("Steps", tuple(_stepped(each) for each in shows.steps)))
    places = shows.zones if "zones" in kind.answered else ()
    if places:
        boxes.append(("Places", tuple(ZONE_INFO[zone].words for zone in places)))
    if shows.values:
        boxes.append(("The first powder is", tuple(each.says for each in shows.values)))
    if asked.choices:
        boxes.append((kind.choices_are, tuple(each.says for each in asked.choices)))
    swatches = (
        (("the zone", shows.skin), ("the complexion", shows.complexion))
        if isinstance(shows.skin, str) and shows.complexion is not None
        else ()
    )
    sitter = asked.sequence.case.sitter if asked.sequence is not None else None
    return Question(
        number=number,
        words=f"{kind.words}, level {asked.level}",
        asks=asked.asks,
        how=kind.how,
        says=tuple(says),
        boxes=tuple(boxes),
        blank=kind.blank,
        swatches=swatches,
        face=shows.face if kind.shows_face else None,
        places=places,
        proportions=proportions_of(sitter) if sitter is not None else None,
        answer=given_words(asked, asked.answer),
        why=asked.why,
    )
