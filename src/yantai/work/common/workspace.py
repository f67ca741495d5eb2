"""The workspace of a transaction, and what it counts by."""

from __future__ import annotations

from datetime import UTC, date, datetime
from zoneinfo import ZoneInfo

from sqlalchemy import select, update
from sqlalchemy.orm import Session

from yantai.core.foods.energy import Rules
from yantai.core.quantities.units import Spoons
from yantai.core.targets.aims import DailyAims
from yantai.store import tables


def read_workspace(session: Session) -> tables.Workspace:
    """The row of the workspace that this transaction belongs to."""
    return session.scalars(select(tables.Workspace)).one()


def told_time(session: Session, moment: datetime) -> str:
    """The time of day in the workspace's zone, or in UTC, and it says so, while nobody has set one."""
    zone = read_workspace(session).time_zone
    return f"{moment.astimezone(ZoneInfo(zone)):%H:%M}" if zone else f"{moment.astimezone(UTC):%H:%M} UTC"


def local_day(session: Session, moment: datetime) -> date:
    """The day it is in the workspace's zone, or in UTC while nobody has set one."""
    zone = read_workspace(session).time_zone
    return moment.astimezone(ZoneInfo(zone) if zone else UTC).date()


def touch_basis(session: Session) -> None:
    """Note that something has changed here that plans depend on and no other row counts: they are computed anew."""
    session.flush()
    session.execute(update(tables.Workspace).values(basis=tables.Workspace.basis + 1))


def workspace_rules(workspace: tables.Workspace) -> Rules:
    """What the workspace counts by."""
    return Rules(energy=workspace.energy_rule, carbohydrate=workspace.carbohydrate)


def daily_aims(workspace: tables.Workspace) -> DailyAims:
    """What the coach aims at for every day; nothing while nobody has set it."""
    return workspace.daily_aims or DailyAims()


def workspace_spoons(workspace: tables.Workspace) -> Spoons:
    """Whose cups and spoons the workspace means."""
    return workspace.spoons
