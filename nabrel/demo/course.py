"""The evening course of Kestrel Quay's adult college: nine students, five stations, three classes held and one to come."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from datetime import date, timedelta
from hashlib import sha256

from nabrel.core.base.spending import taken
from nabrel.core.house import House
from nabrel.core.judge.evaluate import course_of
from nabrel.core.lesson.blocks import blocks_of
from nabrel.core.lesson.room import AskedQuestion, CheckDone, ClassLog, PhaseDone, Shared
from nabrel.core.plan.sequence import Sequence
from nabrel.formats.workspace import StoredClass, StoredStudent

COURSE = "Evening course, autumn"
GUESTS = ("Ottoline", "Pike")
"""Students from the town, whose faces nobody has read."""
SPARE, SHOWN_S, PRACTISED_S, CHECK_EVERY_S = 0.15, 420.0, 1500.0, 110.0
EVENINGS: tuple[tuple[int, str, str], ...] = (
    (-23, "Bram", "Shine, and where powder goes"),
    (-16, "Merrick", "Deep skin, daylight and flash"),
    (-9, "Tamsin", "Texture: press, never drag"),
    (5, "Wren", "Underpainting on lived-in skin"),
)
"""Days from today, whose plan is taught, and what the evening is called."""
QUESTIONS = (
    "Why not powder the dry half as well?",
    "How little is little? Mine still peeks through.",
    "Can a finger do what the sponge does?",
    "When is it dry enough to go on?",
)


def classes(plans: Mapping[str, tuple[str, str, Sequence]], today: date) -> Iterator[StoredClass]:
    """The four evenings; ``plans`` are, by nickname, the ids of sitter and plan, and the plan."""
    for number, (days, model, title) in enumerate(EVENINGS):
        _, plan_id, sequence = plans[model]
        day = today + timedelta(days=days)
        held = days < 0
        students = tuple(_students(plans, model))
        yield StoredClass.model_validate(
            {
                "id": sha256(f"{COURSE} {number}".encode()).hexdigest()[:32],
                "plan": plan_id,
                "revision": 1 if held else None,
                "course": COURSE,
                "title": title,
                "date": day,
                "start": "18:30",
                "until": "21:30",
                "students": students,
                "stations": 5,
                "educators": 1,
                "shared": (Shared("sink", 1, 60.0),),
                "break_after_min": 75.0,
                "pairs": ((GUESTS[0], GUESTS[1]),),
                "half": "mistake" if model == "Wren" else "whole",
                "mistake": "shade_too_deep" if model == "Wren" else None,
                "held": held,
                "log": _log(sequence, [each.name for each in students], day, number) if held else ClassLog(),
                "taken": _taken(sequence, len(students)) if held else {},
            }
        )


def _students(plans: Mapping[str, tuple[str, str, Sequence]], model: str) -> Iterator[StoredStudent]:
    """The guides, each with their own face, but for whoever is the model; and two guests."""
    guides = [name for name in plans if name != model]
    for place, name in enumerate(guides):
        yield StoredStudent(name=name, pace=1.5 + 0.25 * (place % 4), sitter=plans[name][0])
    yield StoredStudent(name=GUESTS[0], pace=2.5, tools=("damp_sponge", "fluffy_brush", "angled_brush"))
    yield StoredStudent(name=GUESTS[1], pace=2.0)


def _log(sequence: Sequence, students: list[str], day: date, number: int) -> ClassLog:
    """How an evening went: everybody checked in turn, a few to do it again, a question or two, somebody away."""
    away = students[(3 * number + 1) % len(students)]
    here = [name for name in students if name != away]
    done: list[PhaseDone] = []
    checks: list[CheckDone] = []
    questions: list[AskedQuestion] = []
    at = 0.0
    for place, block in enumerate(blocks_of(sequence, House())):
        shown, practised = SHOWN_S + 30 * place, PRACTISED_S + 90 * ((place + number) % 3)
        done.append(PhaseDone("demonstrate", block.id, at, at + shown))
        at += shown
        done.append(PhaseDone("practise", block.id, at, at + practised))
        for turn, name in enumerate(here[place % 3 :] + here[: place % 3]):
            again = (turn + 2 * place + number) % 7 == 0
            checks.append(CheckDone(name, block.id, at + 240 + CHECK_EVERY_S * turn, again))
        if (place + number) % 2 == 0:
            questions.append(
                AskedQuestion(at + 200, QUESTIONS[(place // 2 + number) % len(QUESTIONS)], block.steps[-1])
            )
        at += practised
    return ClassLog(f"{day.isoformat()}T18:32:00+00:00", tuple(done), tuple(checks), tuple(questions), (away,))


def _taken(sequence: Sequence, students: int) -> dict[str, float]:
    return {
        item: round(amount * students * (1 + SPARE), 5)
        for item, (amount, _) in taken(course_of(sequence, House())).items()
    }
