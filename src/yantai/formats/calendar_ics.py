"""What is begun and cooked when, as iCalendar (RFC 5545)."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, datetime, timedelta

from icalendar import Alarm, Calendar, Event

REMIND_BEFORE = timedelta(minutes=15)
READ_AGAIN = timedelta(hours=1)


@dataclass(frozen=True, slots=True, kw_only=True)
class Entry:
    """Something on a calendar.

    Attributes:
        key: the same whenever this is told again, so that a calendar changes it and does not add another.
        start, end: moments in UTC, times of the wall clock where no zone is known, or days.
        is_told: whether a calendar reminds of it before.
    """

    key: str
    says: str
    detail: str
    start: datetime | date
    end: datetime | date
    is_told: bool = False


def write(name: str, entries: Iterable[Entry], made_at: datetime) -> bytes:
    """A calendar of these entries, as text with line ends of its own."""
    calendar = Calendar.new(name=name, prodid="-//Yantai//Cook day//EN", refresh_interval=READ_AGAIN)
    for one in entries:
        event = Event.new(
            uid=f"{one.key}@yantai", stamp=made_at, summary=one.says, description=one.detail or None,
            start=one.start, end=one.end,
        )  # fmt: skip
        if one.is_told:
            alarm = Alarm()
            alarm.add("ACTION", "DISPLAY")
            alarm.add("DESCRIPTION", one.says)
            alarm.add("TRIGGER", -REMIND_BEFORE)
            event.add_component(alarm)
        calendar.add_component(event)
    return bytes(calendar.to_ical())
