"""The days of the clients of a batch: its containers, the meals it does not hold, and extras, against the day."""

from __future__ import annotations

import uuid
from collections.abc import Iterator, Sequence

from sqlalchemy import select
from sqlalchemy.orm import Session

from yantai.core.targets.days import slots_of_day
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.batches import stored
from yantai.work.batches.loading import kept_rules
from yantai.work.batches.views import PlanView
from yantai.work.clients.clients import client_query
from yantai.work.clients.days import Eaten, as_targeted, day_view, effective_figures, stored_days
from yantai.work.clients.views import DayView
from yantai.work.common.who import SignedIn
from yantai.work.common.workspace import read_workspace, workspace_rules

_MOST_BATCHES = 10


def read_plan_days(database: Database, who: SignedIn, batch_id: uuid.UUID) -> list[DayView]:
    """Each client of the batch who has a day, by name: one view for each of their day types.

    A meal that this batch has no container for counts as the container that another batch of the same day has for it,
    and else as its target says.

    Raises:
        Missing: there is no such batch here.
    """
    with stored.reading(database, who, lambda session: [batch_id, *_same_day(session, batch_id)]) as session:
        plan = stored.read_view(session, batch_id)
        rules = kept_rules(session.get_one(tables.Batch, batch_id)) or workspace_rules(read_workspace(session))
        ids = {row.client_id for row in plan.rows if row.count}
        others = [stored.read_view(session, other) for other in _same_day(session, batch_id)]
        clients = session.scalars(client_query().where(tables.Client.id.in_(ids)).order_by(tables.Client.name)).all()
        found = []
        for client in clients:
            days = stored_days(client, rules)
            cooked = list(_cooked(plan, client))
            taken = {(slot.casefold(), day_type.casefold()) for slot, day_type, _ in cooked}
            for other in others:
                for slot, day_type, eaten in _cooked(other, client, of=f" from {other.batch.name}"):
                    if (slot.casefold(), day_type.casefold()) not in taken:
                        cooked.append((slot, day_type, eaten))
                        taken.add((slot.casefold(), day_type.casefold()))
            slots = cooked + [
                (target.slot, target.day_type, as_targeted(target.slot, effective_figures(target, days)))
                for target in client.targets
                if (target.slot.casefold(), target.day_type.casefold()) not in taken
            ]
            for day in days.values():
                indices = slots_of_day([(slot, day_type) for slot, day_type, _ in slots], day.day_type)
                found.append(
                    day_view(
                        day,
                        [slots[index][2] for index in indices],
                        client.tolerance,
                        client_id=client.id,
                        client=client.name,
                    )
                )
        return found


def _same_day(session: Session, batch_id: uuid.UUID) -> Sequence[uuid.UUID]:
    """The other batches that are cooked on the same day, the newest first."""
    batch = tables.Batch
    day = select(batch.cook_on).where(batch.id == batch_id).scalar_subquery()
    others = select(batch.id).where(batch.cook_on == day, batch.id != batch_id, batch.deleted_at.is_(None))
    return session.scalars(others.order_by(batch.changed_at.desc(), batch.id).limit(_MOST_BATCHES)).all()


def _cooked(plan: PlanView, client: tables.Client, of: str = "") -> Iterator[tuple[str, str, Eaten]]:
    for row in plan.rows:
        if row.client_id == client.id and row.count:
            yield row.slot, row.day_type, Eaten(kind="container", name=f"{row.slot}{of}", amounts=row.amounts.amounts)
