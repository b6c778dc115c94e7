"""Eight weeks of practice of the nine students of Kestrel Quay, seeded: who forgets by halves, and grows more able week by week."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from datetime import UTC, date, datetime, time, timedelta
from hashlib import sha256
from random import Random

from nabrel.core.drill.exercise import Answer, Exercise
from nabrel.core.drill.making import mark
from nabrel.core.drill.practice import Answered, Practice, level_of, next_asked, practised
from nabrel.core.drill.sets import SetPart, given_words, questions
from nabrel.core.drill.spacing import chance
from nabrel.core.house import House
from nabrel.demo.course import COURSE, GUESTS
from nabrel.formats.practice import DrillSetFile, PracticeFile

WEEKS, AT = 8, time(19, 10, tzinfo=UTC)
TEST_DAYS_AGO = 6
IN_PARTS = ("order", "leave_bare", "placement", "powder_where", "depth", "fault")
"""Kinds of which part may be right."""
TEST = (
    SetPart("base_pair", 3, 3), SetPart("depth", 3, 1), SetPart("amount", 3, 2), SetPart("placement", 3, 2),
)  # fmt: skip
MIXED = (SetPart("corrector", 2, 4), SetPart("leave_bare", 2, 3), SetPart("diagnose", 2, 3))


def _key(what: str) -> str:
    return sha256(f"kestrel quay {what}".encode()).hexdigest()[:32]


def sets(faces: tuple[str, ...]) -> tuple[DrillSetFile, ...]:
    """A test that everybody took, and a set to practise with on two faces of the course."""
    return (
        DrillSetFile(
            id=_key("test"), title="After the third evening", code="KQT3ST", parts=TEST, seed=23, same_for_all=True, minutes=20,
            closed=True,
        ),
        DrillSetFile(
            id=_key("set"), title="Correct, or leave it bare", code="KQH4ND", parts=MIXED, seed=7, faces=faces[:2],
        ),
    )  # fmt: skip


@dataclass
class _Student:
    """Somebody who learns: how able, how eager, and what they remember of each judgement (half-life in days, since when)."""

    name: str
    rng: Random
    able: float
    eager: int
    memory: dict[str, tuple[float, datetime]] = field(default_factory=dict)

    def knows(self, judgement: str, level: int, now: datetime) -> float:
        """How likely they are right."""
        half, last = self.memory.get(judgement, (1.5, now - timedelta(days=2)))
        days = (now - last).total_seconds() / 86_400
        return chance(self.able, level) * (0.65 + 0.35 * 2 ** (-days / half))

    def learns(self, judgement: str, now: datetime, *, right: bool) -> None:
        """An answer and what was shown after it make it last longer."""
        half, _ = self.memory.get(judgement, (1.5, now))
        self.memory[judgement] = (min(90.0, half * (2.4 if right else 1.2)), now)
        self.able += 0.012


def practice(sitters: Mapping[str, str], today: date, taken: DrillSetFile) -> Iterator[PracticeFile]:
    """The practice of everybody; ``sitters`` are ids by nickname, ``taken`` the test that all of them took."""
    asked = list(questions(taken.parts, taken.seed, House()))
    names = [*(name for name in sitters if name != "Wren"), *GUESTS]
    for place, name in enumerate(names):
        student = _Student(name, Random(f"practice {name}"), 0.6 + 0.5 * place, 1 + place % 3)
        found = _weeks(student, today, taken, asked)
        yield PracticeFile(
            id=_key(name), student=name, group=COURSE, sitter=sitters.get(name), cards=found.known, answers=found.answers
        )  # fmt: skip


def _weeks(student: _Student, today: date, taken: DrillSetFile, asked: list[Exercise]) -> Practice:
    found, rng = Practice(), student.rng
    for days in range(7 * WEEKS, 0, -1):
        day = today - timedelta(days=days)
        if days == TEST_DAYS_AGO:
            found = _test(student, found, datetime.combine(day, AT), taken, asked)
        elif rng.random() < (student.eager + 0.5) / 7:
            found = _session(student, found, datetime.combine(day, AT) + timedelta(minutes=rng.randint(0, 50)))
    return found


def _session(student: _Student, found: Practice, begun: datetime) -> Practice:
    now, names = begun, list[str]()
    for _ in range(student.rng.randint(8, 14)):
        judgement, level = next_asked(found, names, (), now), level_of(found)
        sure = student.knows(judgement.id, level, now)
        right = student.rng.random() < sure
        score = 1.0 if right else round(student.rng.uniform(0.2, 0.8), 2) if judgement.kind in IN_PARTS else 0.0
        seconds = round(student.rng.uniform(8, 45) * (1.4 - 0.6 * sure), 1)
        now += timedelta(seconds=seconds + 6)
        seed = student.rng.randrange(10**6)
        found = practised(
            found,
            Answered(
                now.isoformat(timespec="seconds"), f"{judgement.kind}-{seed}-{len(names) + 1}", judgement.kind, judgement.id,
                level, score, seconds,
            ),
        )  # fmt: skip
        student.learns(judgement.id, now, right=right)
        names.append(judgement.id)
    return found


def _test(student: _Student, found: Practice, begun: datetime, taken: DrillSetFile, asked: list[Exercise]) -> Practice:
    now, house = begun, House()
    for place, each in enumerate(asked):
        seconds = round(student.rng.uniform(15, 70), 1)
        now += timedelta(seconds=seconds)
        answer = _answer(student, each, now)
        found = practised(
            found,
            Answered(
                now.isoformat(timespec="seconds"), each.id, each.kind, each.judgement, each.level,
                mark(each, answer, house).score, seconds, given_words(each, answer), taken.id, place,
            ),
        )  # fmt: skip
    return found


def _answer(student: _Student, each: Exercise, now: datetime) -> Answer:
    right = student.rng.random() < 0.1 + 0.75 * student.knows(each.judgement, each.level, now)
    if right:
        return each.answer
    if each.kind == "depth":
        return Answer(drop=round(max(0.0, (each.answer.drop or 0.0) * student.rng.uniform(0.4, 1.8)), 1))
    if each.kind == "placement":
        zones = [
            zone for zone in each.shows.zones if (zone in (each.answer.zones or ())) != (student.rng.random() < 0.3)
        ]
        return Answer(zones=tuple(zones))
    return Answer(choice=student.rng.choice([c.id for c in each.choices if c.id != each.answer.choice]))
