"""A class as calendar entries: the class itself with its parts, what is prepared before it, and the second look after it."""

from __future__ import annotations

from hashlib import sha256

from nabrel.core.documents.handout import PHASE_WORDS
from nabrel.core.lesson.clock import moment_at
from nabrel.core.lesson.lesson import Lesson
from nabrel.core.pace.run import SECOND_LOOK_S
from nabrel.formats.calendar import Entry, calendar

AN_HOUR, A_DAY = 3600, 24 * 3600
ALLERGIES_BEFORE = 2 * A_DAY


def class_calendar(found: Lesson, key: str = "") -> bytes:
    """The class as iCalendar; ``key`` tells it from others, what it is called and when it is where that is left out."""
    room = found.room
    name = key or sha256(f"{room.title} {room.date} {room.start}".encode()).hexdigest()[:16]

    def entry(what: str, start_s: float, end_s: float, title: str, says: str, alarm_s: int | None) -> Entry:
        begin, end = (moment_at(room.date, room.start, room.zone, at) for at in (start_s, end_s))
        return Entry(f"{name}-{what}", begin, end, title, says, alarm_s)

    lines = [
        f"{moment_at(room.date, room.start, room.zone, phase.start_s):%H:%M} "
        + " ".join(each for each in (PHASE_WORDS[phase.phase], phase.words) if each)
        for phase in found.blocks
    ]
    least, most = SECOND_LOOK_S
    end = found.length_s
    early = [each.says for each in found.before_class if each.at_s is None]
    setting_up = [each for each in found.before_class if each.at_s is not None]
    first = min((each.at_s or 0 for each in setting_up), default=-AN_HOUR)
    return calendar(
        [
            entry("class", 0, end, room.title, "\n".join(lines), AN_HOUR),
            entry(
                "prepare",
                -ALLERGIES_BEFORE,
                AN_HOUR / 4 - ALLERGIES_BEFORE,
                f"Two days before: {room.title}",
                "\n".join(early),
                0,
            ),
            entry("set-up", first, 0, f"Set up: {room.title}", "\n".join(each.says for each in setting_up), AN_HOUR),
            entry(
                "second-look",
                end + least,
                end + most,
                f"Second look: {room.title}",
                "Powder has taken up oil and colours have settled.",
                0,
            ),
        ]
    )
