"""Exercises as a printable paper, with the answers at the end: one PDF, laid out by ``paper.typ``."""

from __future__ import annotations

import json
from collections.abc import Iterable
from typing import Any

from nabrel.core.drill.exercise import Exercise
from nabrel.core.drill.paper import Question, questions_on_paper
from nabrel.core.face.drawing import face_svg, place_svg
from nabrel.formats.sheet import pdf_of, soft_picture

PAPER = "paper.typ"


def write_paper(title: str, exercises: Iterable[Exercise], minutes: int | None = None, paper: str = "a4") -> bytes:
    """Exercises on paper as a tagged PDF: room for a name, the questions, and on a page of their own the answers with reasons."""
    said = {
        "paper": paper,
        "title": title,
        "minutes": f"{minutes} minutes" if minutes else "",
        "questions": [_question(each) for each in questions_on_paper(exercises)],
    }
    return pdf_of(json.dumps(said), PAPER)


def _question(each: Question) -> dict[str, Any]:
    picture, alt = "", ""
    if each.proportions is not None and each.face is not None:
        picture, alt = soft_picture(face_svg(each.face, each.proportions, fades=False)), "The finished face"
    elif each.proportions is not None and each.places:
        picture = place_svg({}, each.proportions, also=each.places)
        alt = "The places that are asked about"
    return {
        "number": each.number,
        "words": each.words,
        "asks": each.asks,
        "how": each.how,
        "says": each.says,
        "boxes": [{"heading": heading, "lines": lines} for heading, lines in each.boxes],
        "blank": each.blank,
        "swatches": [{"words": words, "hex": colour} for words, colour in each.swatches],
        "picture": picture,
        "alt": alt,
        "answer": each.answer,
        "why": each.why,
    }
