"""What is due next, over all batches that are not packed yet."""

from __future__ import annotations

from datetime import date, datetime, timedelta

from sqlalchemy import select

from yantai.core.planning.stage import days_before
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.batches.lists import list_batches
from yantai.work.batches.views import BatchBrief
from yantai.work.common.who import SignedIn
from yantai.work.cook.ahead import read_ahead
from yantai.work.cook.inputs import DAY_MIN
from yantai.work.shop.list import read_trips
from yantai.work.today.views import Due

ORDERED_DAYS = 7
"""So many days ahead orders of work are looked at."""


def list_due(database: Database, who: SignedIn, now: datetime) -> list[Due]:
    """What comes next for each batch, and what has to begin on a day before, by the day it is due.

    What begins before is told until it is marked as begun, or the first component is weighed: by then it is done, or
    too late.
    """
    waiting = [batch for batch in list_batches(database, who) if batch.packed_at is None and batch.put_away_at is None]
    with database.reading(who.workspace_id) as session:
        going_on, over = read_trips(session)
    due = [*_to_begin(database, who, waiting, now)]
    due += [
        Due(
            batch=batch,
            on=batch.cook_on,
            what=batch.next_step,
            lead_min=None,
            buy_by=None if batch.weighed or batch.id in over else batch.cook_on - timedelta(days=1),
            trip_id=going_on.get(batch.id),
        )
        for batch in waiting
    ]
    return sorted(due, key=_in_turn)


def _in_turn(due: Due) -> tuple[date, date, str, bool, int]:
    return due.on, due.batch.cook_on, due.batch.name, due.lead_min is None, due.at_min or 0


def _to_begin(database: Database, who: SignedIn, batches: list[BatchBrief], now: datetime) -> list[Due]:
    """What the batches begin on a day before: with its minute where an order of work is known."""
    due: list[Due] = []
    for_their_steps: list[BatchBrief] = []
    for batch in (batch for batch in batches if not batch.weighed):
        is_near = batch.cook_on - now.date() <= timedelta(days=ORDERED_DAYS)
        ahead = read_ahead(database, who, batch.id) if is_near else None
        if ahead is None:
            for_their_steps.append(batch)
            continue
        due += [
            Due(
                batch=batch,
                on=batch.cook_on + timedelta(days=one.at_min // DAY_MIN),
                what=one.says,
                lead_min=one.lead_min,
                at_min=one.at_min % DAY_MIN,
            )
            for one in ahead
            if one.at_min < 0
        ]
    return [*due, *_steps_before(database, who, for_their_steps)]


def _steps_before(database: Database, who: SignedIn, batches: list[BatchBrief]) -> list[Due]:
    """The steps of the batches' components that begin on a day before; what is cooked apart the same way once."""
    before = {batch.id: batch for batch in batches}
    component, step, part, dish = tables.Component, tables.Step, tables.Part, tables.Dish
    query = (
        select(dish.batch_id, step.text, step.lead_min)
        .join(part, part.dish_id == dish.id)
        .join(component, component.id == part.component_id)
        .join(step, step.component_id == component.id)
        .where(dish.batch_id.in_(before), component.aside.is_(False), step.lead_min.is_not(None))
        .where(part.removed.is_(False), dish.removed.is_(False))
        .order_by(dish.position, component.position, step.position)
    )
    with database.reading(who.workspace_id) as session:
        steps = dict.fromkeys((batch_id, text, lead) for batch_id, text, lead in session.execute(query))
    return [
        Due(batch=before[batch_id], on=before[batch_id].cook_on - timedelta(days=days), what=text, lead_min=lead)
        for batch_id, text, lead in steps
        if lead is not None and (days := days_before(lead))
    ]
