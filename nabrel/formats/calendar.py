"""iCalendar (RFC 5545) files: entries with alarms, written with the icalendar library."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

from icalendar import Alarm, Calendar, Event

PRODUCT = "-//Nabrel//Nabrel//EN"


@dataclass(frozen=True, slots=True)
class Entry:
    """One entry: from when to when, what it is called and says, and how many seconds before it an alarm goes off.

    A time without an offset floats: it is that hour wherever the calendar is read. ``alarm_s`` None is no alarm.
    """

    uid: str
    start: datetime
    end: datetime
    title: str
    says: str = ""
    alarm_s: int | None = None


def calendar(entries: Iterable[Entry], *, made: datetime | None = None) -> bytes:
    """A calendar of these entries; ``made`` is when it was written, now where that is left out."""
    found = Calendar()
    found.add("prodid", PRODUCT)
    found.add("version", "2.0")
    for entry in entries:
        found.add_component(_event(entry, made or datetime.now(UTC)))
    text: bytes = found.to_ical()
    return text


def _event(entry: Entry, made: datetime) -> Event:
    event = Event()
    event.add("uid", f"{entry.uid}@nabrel")
    event.add("dtstamp", made)
    event.add("dtstart", _written(entry.start))
    event.add("dtend", _written(entry.end))
    event.add("summary", entry.title)
    if entry.says:
        event.add("description", entry.says)
    if entry.alarm_s is not None:
        alarm = Alarm()
        alarm.add("action", "DISPLAY")
        alarm.add("description", entry.title)
        alarm.add("trigger", timedelta(seconds=-entry.alarm_s))
        event.add_component(alarm)
    return event


def _written(moment: datetime) -> datetime:
    """A moment as it is written: with an offset, in UTC; without one, floating."""
    return moment.replace(microsecond=0) if moment.tzinfo is None else moment.astimezone(UTC).replace(microsecond=0)
