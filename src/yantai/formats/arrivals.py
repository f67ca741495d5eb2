"""A line about something that came into the house: "2 x 400 g tins kidney beans, use by 3 March"."""

from __future__ import annotations

import re
from dataclasses import dataclass
from datetime import date, datetime, timedelta

from dateutil import parser as dates

from yantai.core.quantities.lines import LineReading, read_line
from yantai.core.shopping.house import Keeping

_DAY = r"(?P<day>[^,;()]+?)(?=$|[,;)]|\s+(?:in the|opened|paid|frozen|for\s+\d))"
_USE_BY = re.compile(
    rf"[,;(]?\s*\b(?:use[ -]?by|best before|eat by|expires?(?: on)?|until|bb[ef]?)\b:?\s*{_DAY}\)?", re.I
)
_FROZEN_ON = re.compile(rf"[,;(]?\s*\bfrozen on\b:?\s*{_DAY}\)?", re.I)
_PLACE = re.compile(r"[,;(]?\s*\bin the (?P<place>cupboard|pantry|fridge|freezer)\b\)?", re.I)
_PAID = re.compile(
    r"[,;(]?\s*\b(?:paid|for)\s+[^\d\s,;]{0,3}\s?(?P<paid>\d+(?:[.,]\d{1,2})?)(?![\d.,]*\s*[a-z%])\)?", re.I
)
_OPENED = re.compile(r"[,;(]?\s*\bopen(?:ed)?\b\)?", re.I)
_PAST = timedelta(days=60)
"""A day without a year that was longer ago than this is meant for the year to come."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Arrival:
    """What a line says of a lot.

    Attributes:
        line: its amount and its food, as a line of a recipe is read.
        text: the line as it was written.
        use_by, frozen_on: None where it says none.
        paid: the price of all of it, in hundredths; None where it says none.
        unread: a day that is none, as it was written; "" where all are.
    """

    text: str
    line: LineReading
    use_by: date | None
    frozen_on: date | None
    place: Keeping | None
    opened: bool
    paid_cents: int | None
    unread: str = ""


def read_arrival(text: str, today: date) -> Arrival:
    """Take a line about a lot apart; days without a year are near `today`, and of two numbers the day comes first.

    >>> found = read_arrival("2 x 400 g tins kidney beans, use by 3 March, paid 1.70", date(2026, 11, 27))
    >>> found.line.food, str(found.line.quantities[0]), found.use_by, found.paid_cents
    ('kidney beans', '2 x 400 g can', datetime.date(2027, 3, 3), 170)
    """
    rest = text.strip()
    unread = ""
    days: list[date | None] = []
    for pattern in (_USE_BY, _FROZEN_ON):
        found = pattern.search(rest)
        when = None
        if found is not None:
            when = _day(found["day"], today)
            if when is None:
                unread = found["day"].strip()
            rest = _cut(rest, found)
        days.append(when)
    place = _PLACE.search(rest)
    rest = rest if place is None else _cut(rest, place)
    paid = _PAID.search(rest)
    rest = rest if paid is None else _cut(rest, paid)
    opened = _OPENED.search(rest)
    rest = rest if opened is None else _cut(rest, opened)
    word = "" if place is None else place["place"].casefold()
    return Arrival(
        text=text.strip(),
        line=read_line(rest),
        use_by=days[0],
        frozen_on=days[1],
        place=None if not word else Keeping("cupboard" if word == "pantry" else word),
        opened=opened is not None,
        paid_cents=None if paid is None else round(float(paid["paid"].replace(",", ".")) * 100),
        unread=unread,
    )


def _cut(text: str, found: re.Match[str]) -> str:
    return f"{text[: found.start()]} {text[found.end() :]}".strip(" ,;")


def _day(text: str, today: date) -> date | None:
    """The day that is written, the next one of its name where it says no year; None where it is none."""
    plain = text.strip().casefold().rstrip(".")
    if plain in ("today", "tomorrow"):
        return today + timedelta(days=plain == "tomorrow")
    iso = re.fullmatch(r"\d{4}-\d{2}-\d{2}", plain) is not None
    try:
        found = dates.parse(plain, default=datetime(today.year, today.month, today.day), dayfirst=not iso)
        # Whether it names a year: it is another one where the default is.
        other = dates.parse(plain, default=datetime(today.year - 4, today.month, 1), dayfirst=not iso)
    except (ValueError, OverflowError):
        return None
    day: date = found.date()
    if re.fullmatch(r"[a-z]+", plain) and not re.match(r"(mon|tue|wed|thu|fri|sat|sun)", plain):
        return None
    if not re.search(r"\d", plain):
        return day
    if found.year != other.year and day < today - _PAST:
        return day.replace(year=day.year + 1) if (day.month, day.day) != (2, 29) else None
    return day
