"""What is begun before a cook day, and the day itself, as a calendar: of one batch, or of all that is to come."""

from __future__ import annotations

import uuid
from collections.abc import Iterator
from datetime import datetime, timedelta

from yantai.core.schedule.order import Order
from yantai.core.speaking import weight
from yantai.formats import calendar_ics
from yantai.formats.calendar_ics import Entry
from yantai.store.database import Database
from yantai.work.batches.lists import list_batches
from yantai.work.batches.views import BatchBrief
from yantai.work.common.errors import Missing
from yantai.work.common.who import SignedIn
from yantai.work.common.workspace import read_workspace
from yantai.work.cook.order import CookJob, find_order

TIMED_DAYS = 14
"""So many days ahead times are worked out; what is later stands on its day."""

KEPT_DAYS = 2
"""What was cooked so many days ago is on the calendar still."""


def batch_calendar(database: Database, who: SignedIn, batch_id: uuid.UUID, now: datetime, zone: str | None) -> bytes:
    """One batch on a calendar.

    Raises:
        Missing: there is no such batch.
    """
    batch = next((one for one in list_batches(database, who) if one.id == batch_id), None)
    if batch is None:
        raise Missing("There is no such batch. It may have been removed in another window.")
    is_placed = zone is not None or _has_zone(database, who)
    return calendar_ics.write(batch.name, _entries(database, who, batch, now, zone, is_placed=is_placed), now)


def all_calendar(database: Database, who: SignedIn, now: datetime) -> bytes:
    """All that is to come on a calendar. Without a time zone of the kitchen its times are those of the wall clock."""
    with database.reading(who.workspace_id) as session:
        name = read_workspace(session).name
    is_placed = _has_zone(database, who)
    entries: list[Entry] = []
    for batch in list_batches(database, who):
        if batch.put_away_at is not None or batch.cook_on < now.date() - timedelta(days=KEPT_DAYS):
            continue
        if batch.cook_on > now.date() + timedelta(days=TIMED_DAYS):
            entries.append(_day_of(batch, "Times are worked out two weeks before."))
        else:
            entries += _entries(database, who, batch, now, None, is_placed=is_placed)
    return calendar_ics.write(f"{name}: cooking", sorted(entries, key=lambda one: (str(one.start), one.key)), now)


def _entries(
    database: Database, who: SignedIn, batch: BatchBrief, now: datetime, zone: str | None, *, is_placed: bool
) -> Iterator[Entry]:
    found = find_order(database, who, batch.id, now, zone)
    if found.job is None or found.order is None or not found.order.placed:
        yield _day_of(batch, found.trouble or "Describe a kitchen, and the times are worked out.")
        return
    yield from _timed(batch, found.job, found.order, is_placed=is_placed)


def _has_zone(database: Database, who: SignedIn) -> bool:
    with database.reading(who.workspace_id) as session:
        return bool(read_workspace(session).time_zone)


def _day_of(batch: BatchBrief, detail: str) -> Entry:
    return Entry(
        key=str(batch.id),
        says=f"Cook {batch.name}",
        detail=detail,
        start=batch.cook_on,
        end=batch.cook_on + timedelta(days=1),
    )


def _timed(batch: BatchBrief, job: CookJob, order: Order, *, is_placed: bool) -> Iterator[Entry]:
    def at(minute: int) -> datetime:
        moment = job.clock.moment(minute)
        # Without a zone of the kitchen nobody knows which moment it is: the clock on the wall says it.
        return moment if is_placed else moment.astimezone(job.clock.zone).replace(tzinfo=None)

    names = {pot.cooked.key: pot.cooked.name for pot in job.pots}
    by_task = job.by_task
    ahead = {one.task.key for one in job.planned if one.task.ahead}
    for one in order.placed:
        if one.task not in ahead or job.progress.of(one.task).done is not None:
            continue
        of, hands = by_task[one.task], sum(hand.end - hand.start for hand in one.hands)
        until = job.clock.moment(one.end).astimezone(job.clock.zone)
        least = f", at least {of.step.lead_min / 60:g} h" if of.step.lead_min else ""
        yield Entry(
            key=f"{batch.id}/{one.task}",
            says=f"{of.step.says} ({names.get(of.component, '')})",
            detail=f"For {batch.name}: {weight(of.round.grams)}{least}, until {until:%A} {until:%H:%M}.",
            start=at(one.start),
            end=at(one.start + max(hands, 1)),
            is_told=True,
        )
    of_day = [one for one in order.placed if one.task not in ahead]
    if not of_day:
        yield _day_of(batch, "")
        return
    begins = min(one.start for one in of_day)
    yield Entry(
        key=str(batch.id),
        says=f"Cook {batch.name}",
        detail=f"{batch.containers} containers, {len(of_day)} steps. Ready to fill at "
        f"{job.clock.moment(order.ready).astimezone(job.clock.zone):%H:%M}. In {job.kitchen.name}.",
        start=at(begins),
        end=at(max(order.ready, begins + 1)),
        is_told=True,
    )
