"""The hours of a class: seconds from its start as moments, across midnight and where clocks change."""

from __future__ import annotations

from datetime import UTC, date, datetime, time, timedelta
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from nabrel.core.errors import Refused
from nabrel.core.pace.tasks import seconds_of


def checked_start(day: date, start: str, zone: str | None) -> datetime:
    """When a class starts. Refuses an hour that the clocks of its zone leave out that day, and a zone that nobody knows."""
    moment = _local(day, start, "start", zone)
    if moment.tzinfo is not None and moment.astimezone(UTC).astimezone(moment.tzinfo).replace(tzinfo=None) != (
        moment.replace(tzinfo=None)
    ):
        raise Refused("start", start, f"an hour that the clocks of {zone} show on {day}: they are put forward then")
    return moment


def moment_at(day: date, start: str, zone: str | None, seconds: float) -> datetime:
    """The moment so many seconds after the start, as a clock on the wall shows it then; without a zone it floats."""
    begin = checked_start(day, start, zone)
    if begin.tzinfo is None:
        return begin + timedelta(seconds=seconds)
    return (begin.astimezone(UTC) + timedelta(seconds=seconds)).astimezone(begin.tzinfo)


def hours_s(day: date, start: str, until: str, zone: str | None) -> int:
    """Seconds from a start until an hour: of the next day where it is not later on this one."""
    begin = checked_start(day, start, zone)
    end = _local(day, until, "until", zone)
    if end.replace(tzinfo=None) <= begin.replace(tzinfo=None):
        end = _local(day + timedelta(days=1), until, "until", zone)
    if begin.tzinfo is None:
        return round((end - begin).total_seconds())
    return round((end.astimezone(UTC) - begin.astimezone(UTC)).total_seconds())


def _local(day: date, hour: str, field: str, zone: str | None) -> datetime:
    seconds = seconds_of(hour, field)
    return datetime.combine(day, time(seconds // 3600, seconds % 3600 // 60), tzinfo=_zone(zone))


def _zone(name: str | None) -> ZoneInfo | None:
    if name is None:
        return None
    try:
        return ZoneInfo(name)
    except (ZoneInfoNotFoundError, ValueError, OSError):
        raise Refused("zone", name, "a time zone by its usual name, such as Europe/London, or none") from None
