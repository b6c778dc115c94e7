"""The handouts of a class on paper: one PDF for the room, laid out by ``handouts.typ``."""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import asdict, replace
from typing import Any

from nabrel.core.documents.handout import TICK, Handouts, StudentHandout
from nabrel.core.face.drawing import face_svg, place_svg
from nabrel.formats.sheet import Print, face_for, let_go, pdf_of, sheet_said, slip_said, soft_picture

HANDOUTS = "handouts.typ"


def handouts_pdf(found: Handouts, how: Print, after_each: Callable[[], None] = TICK) -> bytes:
    """The pages of a class as one tagged PDF; ``after_each`` is called as every student's face is drawn.

    With ``how.mirrored`` who works on themselves gets faces as their mirror shows them.
    """
    students = []
    for each in found.students:
        students.append(_student(each, how))
        after_each()
    said: dict[str, Any] = {
        "paper": how.paper,
        "large": how.large,
        "title": found.title,
        "when": found.when,
        "aim": found.aim,
        "blocks": [row.cells for row in found.blocks],
        "weigh_out": [row.cells for row in found.weigh_out],
        "weigh_says": found.weigh_says,
        "tools": [row.cells for row in found.tools],
        "duties": [(each.when, each.says) for each in found.duties],
        "rounds": [[row.cells for row in own] for own in found.rounds],
        "cards": [asdict(card) for card in found.cards],
        "branches": [
            {"words": words, "shown": shown, "rows": [row.cells for row in rows]}
            for words, shown, rows in found.branches
        ],
        "half": None,
        "students": students,
        "hygiene": found.hygiene,
    }
    if found.half is not None:
        picture = face_svg(found.half.colours, found.students[0].proportions, fades=False)
        said["half"] = {
            "words": found.half.words,
            "comes_of_it": found.half.comes_of_it,
            "says": found.half.says,
            "picture": soft_picture(picture),
        }
    made = pdf_of(json.dumps(said), HANDOUTS)
    let_go()
    return made


def _student(each: StudentHandout, how: Print) -> dict[str, Any]:
    own = replace(how, mirrored=how.mirrored and each.mirrored)
    return {
        "title": each.title,
        "says": each.says,
        "known": bool(each.sheet is not None and each.differs),
        "sheet": None
        if each.sheet is None
        else {**sheet_said(each.sheet, own), "title": f"{each.title}: {each.sheet.title}"},
        "slip": None
        if each.slip is None
        else {**slip_said(each.slip, own, each.proportions), "title": f"{each.title}: how it wears"},
        "turns": [row.cells for row in each.turns],
        "differs": [row.cells for row in each.differs],
        "tools": each.tools,
        "face": face_for(place_svg({}, each.proportions), own),
    }
