"""Minutes of a cook day: as they pass, from midnight of the day, and as the clock on the wall shows them."""

from __future__ import annotations

from dataclasses import dataclass, fields, is_dataclass, replace
from datetime import UTC, date, datetime, time, timedelta
from typing import Any, TypeVar
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from sqlalchemy.orm import Session

from yantai.work.common.workspace import read_workspace

T = TypeVar("T")
_MINUTES = (
    "start_min",
    "end_min",
    "at_min",
    "begins_min",
    "ready_min",
    "planned_ready_min",
    "begun_min",
    "done_min",
    "about_min",
)


@dataclass(frozen=True, slots=True, kw_only=True)
class DayClock:
    """The clock of a place on a day. It may be put forward or back in between. Where nobody has set the zone of the
    kitchen, it `is_assumed`."""

    day: date
    zone: ZoneInfo
    is_assumed: bool = False

    @classmethod
    def read(cls, session: Session, day: date, zone: str | None) -> DayClock:
        """The clock of the workspace; where nobody has set its zone, that of the device that asks, or UTC."""
        known = read_workspace(session).time_zone
        try:
            return cls(day=day, zone=ZoneInfo(known or zone or "UTC"), is_assumed=not known)
        except (ZoneInfoNotFoundError, ValueError):
            return cls(day=day, zone=ZoneInfo("UTC"), is_assumed=True)

    @property
    def midnight(self) -> datetime:
        """When the day begins."""
        return datetime.combine(self.day, time(), self.zone).astimezone(UTC)

    def elapsed(self, wall: int) -> int:
        """The minute at which the clock on the wall shows so many minutes from midnight."""
        shown = datetime.combine(self.day, time()) + timedelta(minutes=wall)
        return round((shown.replace(tzinfo=self.zone).astimezone(UTC) - self.midnight).total_seconds() / 60)

    def wall(self, elapsed: int) -> int:
        """What the clock on the wall shows at a minute."""
        shown = (self.midnight + timedelta(minutes=elapsed)).astimezone(self.zone).replace(tzinfo=None)
        return round((shown - datetime.combine(self.day, time())).total_seconds() / 60)

    def minute(self, moment: datetime) -> int:
        """The whole minutes that have passed since midnight."""
        return int((moment - self.midnight).total_seconds() // 60)

    def moment(self, minute: int) -> datetime:
        """When a minute begins."""
        return self.midnight + timedelta(minutes=minute)

    def seconds(self, moment: datetime) -> int:
        """What the clock on the wall shows, in seconds from midnight of the day."""
        shown = moment.astimezone(self.zone).replace(tzinfo=None)
        return int((shown - datetime.combine(self.day, time())).total_seconds())

    def shown(self, view: T) -> T:
        """A view whose minutes are those of the clock on the wall."""
        if not is_dataclass(view) or isinstance(view, type):
            return view
        changed: dict[str, Any] = {}
        for field in fields(view):
            value = getattr(view, field.name)
            if field.name in _MINUTES and value is not None:
                changed[field.name] = self.wall(value)
            elif isinstance(value, list):
                changed[field.name] = [self.shown(one) for one in value]
            elif is_dataclass(value):
                changed[field.name] = self.shown(value)
        return replace(view, **changed) if changed else view
