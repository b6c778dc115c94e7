"""Write the demo sitters as case files, and their plans as sequence files: ``python -m nabrel.demo.export FOLDER``."""

from __future__ import annotations

import json
import sys
from dataclasses import replace
from datetime import date
from itertools import islice
from pathlib import Path

from pydantic import BaseModel

from nabrel.core.ask.recommend import plan
from nabrel.core.house import House
from nabrel.core.judge.evaluate import course_of
from nabrel.core.lesson.room import Room, Shared, Student
from nabrel.core.plan.sequence import Sequence
from nabrel.demo.kestrel_quay import sitters
from nabrel.demo.worn import wears
from nabrel.formats.classes import ClassFile
from nabrel.formats.files import CaseFile, SequenceFile
from nabrel.formats.wear import WearFile

SAMPLES, SEASON_ENDS, FACES = 3, date(2026, 11, 1), 3
"""So many wear records are written as samples, of a season that ended on a day; so many students have faces."""


def file_text(model: BaseModel) -> str:
    """A model as its file has it."""
    return json.dumps(model.model_dump(mode="json", exclude_none=True), indent=1, ensure_ascii=False) + "\n"


def examples() -> dict[str, str]:
    """File names and texts: every sitter's case, the plan of the first, how it wore, and a class in which it is taught."""
    found: dict[str, str] = {}
    for case in sitters():
        name = case.sitter.nickname.lower()
        found[f"{name}.case.json"] = file_text(CaseFile.of(case))
    first = sitters()[0]
    planned = plan(first, House())
    takes = {done.step.id: done.take for done in course_of(planned, House()).done}
    found[f"{first.sitter.nickname.lower()}.sequence.json"] = file_text(SequenceFile.of(planned, takes))
    for number, stored in enumerate(
        islice(wears(first.sitter.nickname, "plan", planned, SEASON_ENDS), SAMPLES), start=1
    ):
        wear = WearFile(
            sequence=SequenceFile.of(planned),
            worn=stored.worn,
            looks=stored.looks,
            verdict=stored.verdict,
            forecast=stored.forecast,
        )
        found[f"samples/{first.sitter.nickname.lower()}-{number}.wear.json"] = file_text(wear)
    found["samples/evening-course.class.json"] = file_text(_evening_course(planned))
    return found


def _evening_course(planned: Sequence) -> ClassFile:
    """The adult college's evening course: nine students at five stations, one sink; three of them with their own faces."""
    faces = {case.sitter.nickname: replace(case, kit=()) for case in sitters()}
    guides = [name for name in faces if name != planned.case.sitter.nickname][:FACES]
    known = tuple(Student(name, 1.5 + 0.25 * place, faces[name]) for place, name in enumerate(guides))
    guests = tuple(Student(f"Student {n}", 1.5 + 0.25 * (n % 3)) for n in range(FACES + 1, 10))
    return ClassFile.of(
        Room(
            title="Kestrel Quay, evening course: base for the season", date=date(2026, 11, 20), start="18:30", sequence=planned, students=(*known, *guests), stations=5,
            shared=(Shared("sink", 1, 60.0),), until="21:30", zone="Europe/London",
        )
    )  # fmt: skip


def main() -> None:
    """Write all examples into the folder named on the command line."""
    folder = Path(sys.argv[1])
    folder.mkdir(parents=True, exist_ok=True)
    for name, text in examples().items():
        (folder / name).parent.mkdir(exist_ok=True)
        (folder / name).write_text(text, encoding="utf-8")


if __name__ == "__main__":
    main()
