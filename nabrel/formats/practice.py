"""``practice`` and ``drill_set``: what a student practised and knows, and sets of exercises made by hand; results as CSV."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable
from datetime import datetime
from typing import Annotated, Literal

from annotated_types import MaxLen
from pydantic import AfterValidator, Field

from nabrel.core.drill.judgements import JUDGEMENTS
from nabrel.core.drill.kinds import KINDS
from nabrel.core.drill.practice import MOST_ANSWERS, Answered, Practice
from nabrel.core.drill.sets import CODE_LENGTH, CODE_LETTERS, MOST_MINUTES, Parts, checked_parts
from nabrel.core.drill.spacing import Known
from nabrel.core.errors import Refused
from nabrel.core.lesson.room import Name
from nabrel.core.terms.limits import Ident, one_line
from nabrel.formats.files import Document
from nabrel.formats.tables import written

MOST_DRILL_STUDENTS, MOST_SETS, MOST_CARDS, MOST_FACES = 500, 500, 2000, 20
Key = Annotated[str, Field(pattern="^[0-9a-f]{32}$")]
Group = Annotated[str, one_line(120)]
Code = Annotated[str, Field(pattern=f"^[{CODE_LETTERS}]{{{CODE_LENGTH}}}$")]
Seed = Annotated[int, Field(ge=0, le=2**31)]
Minutes = Annotated[int, Field(ge=1, le=MOST_MINUTES)]
SetTitle = Annotated[str, one_line(120, least=1)]
COLUMNS = (
    "student", "group", "at", "set", "exercise", "kind", "judgement", "about", "level", "score", "seconds", "given",
)  # fmt: skip


def _moments(practice: tuple[Known, ...]) -> tuple[Known, ...]:
    for each in practice:
        for moment in (each.due, each.last):
            _moment(moment)
    return practice


def _moment(text: str | None) -> None:
    if text is not None and datetime.fromisoformat(text).tzinfo is None:
        raise ValueError("a moment with its offset from UTC")


def _answered(answers: tuple[Answered, ...]) -> tuple[Answered, ...]:
    for each in answers:
        _moment(each.at)
    return answers


class PracticeFile(Document):
    """``practice``: one student's cards, a judgement each, and answers, oldest first; ``sitter`` where their face is kept here."""

    nabrel: Literal["practice"] = "practice"
    version: Literal[1] = 1
    id: Key
    student: Name
    group: Group = ""
    sitter: Ident | None = None
    cards: Annotated[tuple[Known, ...], MaxLen(MOST_CARDS), AfterValidator(_moments)] = ()
    answers: Annotated[tuple[Answered, ...], MaxLen(MOST_ANSWERS), AfterValidator(_answered)] = ()

    @property
    def practice(self) -> Practice:
        """It as the core has it."""
        return Practice(self.cards, self.answers)


class DrillSetFile(Document):
    """``drill_set``: exercises made by hand, found by a code. With ``same_for_all`` it is a test: everybody gets those of the seed.

    ``faces`` are sitters whose faces the exercises are about, in turn.
    """

    nabrel: Literal["drill_set"] = "drill_set"
    version: Literal[1] = 1
    id: Key
    title: SetTitle
    code: Code
    parts: Parts
    seed: Seed
    same_for_all: bool = False
    minutes: Minutes | None = None
    faces: Annotated[tuple[Ident, ...], MaxLen(MOST_FACES)] = ()
    closed: bool = False


def check_practice(file: PracticeFile) -> PracticeFile:
    """A practice that can be gone on with. Refuses a judgement with two cards, and answers that are not in their order."""
    names = [each.judgement for each in file.cards]
    twice = next((name for name in names if names.count(name) > 1), None) if len(set(names)) < len(names) else None
    if twice is not None:
        raise Refused("cards", twice, "a card a judgement")
    moments = [datetime.fromisoformat(each.at) for each in file.answers]
    if moments != sorted(moments):
        raise Refused("answers", "an answer before an earlier one", "the answers in their order")
    return file


def check_set(file: DrillSetFile) -> DrillSetFile:
    """A set that can be asked. Refuses what :func:`checked_parts` refuses, and a face twice."""
    checked_parts(file.parts)
    if len(set(file.faces)) < len(file.faces):
        raise Refused("faces", "a face twice", "each face once")
    return file


def write_results(people: Iterable[PracticeFile], titles: dict[str, str]) -> str:
    """Answers as CSV, a row an answer, student by student; ``titles`` are those of the sets, by id."""
    out = io.StringIO()
    rows = csv.writer(out, lineterminator="\n")
    rows.writerow(COLUMNS)
    for person in people:
        for each in person.answers:
            known = JUDGEMENTS.get(each.judgement)
            cells = (
                person.student, person.group, each.at, titles.get(each.set or "", ""), each.exercise, KINDS[each.kind].words,
                each.judgement, known.words if known else "", each.level, each.score, round(each.seconds, 1), each.given,
            )  # fmt: skip
            rows.writerow([written(cell) for cell in cells])
    return out.getvalue()
