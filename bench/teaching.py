"""A class of many: its lesson, and what is printed for it."""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import replace
from datetime import date
from statistics import median

from bench.timing import Figure
from nabrel.core.ask.recommend import plan
from nabrel.core.case.case import Case
from nabrel.core.documents.handout import handouts
from nabrel.core.house import House
from nabrel.core.lesson.lesson import lesson
from nabrel.core.lesson.room import Room, Shared, Student
from nabrel.demo.kestrel_quay import sitters
from nabrel.formats.sheet import Print, forget_pages
from nabrel.formats.sheet.handout import handouts_pdf

STUDENTS, ROUNDS = 24, 3


def teaching() -> list[Figure]:
    """Twenty-four students with a station each and one sink, whose faces are not known and known; half the stations; handouts."""
    house = House()
    taught = plan(sitters()[0], house)

    def room(stations: int, *, faces: bool) -> Room:
        students = tuple(
            Student(f"Student {n}", 1.5 + 0.25 * (n % 3), replace(_face(n), kit=()) if faces else None)
            for n in range(STUDENTS)
        )
        return Room(
            title="Bench",
            date=date(2026, 11, 20),
            start="18:30",
            sequence=taught,
            students=students,
            stations=stations,
            shared=(Shared("sink"),),
        )

    each, known, half = (room(STUDENTS, faces=False), room(STUDENTS, faces=True), room(STUDENTS // 2, faces=True))
    assert lesson(each, house).proven
    assert lesson(known, house).proven
    return [
        Figure(
            f"a lesson of {STUDENTS} students with a station each, proven", _took(lambda: lesson(each, house)), 2000
        ),
        Figure("the same, every face known and planned", _took(lambda: lesson(known, house)), 2000),
        Figure("the same at half the stations", _took(lambda: lesson(half, house)), 2000),
        Figure(f"handouts for {STUDENTS} students with their faces", _took(lambda: _printed(known, house)), 10_000),
    ]


def _face(number: int) -> Case:
    """One of the demo's faces, each a little deeper or paler than the one before it: no two are planned as one."""
    case = sitters()[number % len(sitters())]
    lightness, *rest = case.sitter.skin.lab
    skin = replace(case.sitter.skin, lab=(lightness - 0.1 * (number // len(sitters())), *rest))
    return replace(case, sitter=replace(case.sitter, skin=skin))


def _printed(room: Room, house: House) -> bytes:
    forget_pages()
    return handouts_pdf(handouts(lesson(room, house), house), Print())


def _took(work: Callable[[], object]) -> float:
    took = []
    for _ in range(ROUNDS):
        started = time.perf_counter()
        work()
        took.append(1000 * (time.perf_counter() - started))
    return median(took)
