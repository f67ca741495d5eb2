"""The days of the clients of a batch: its containers, the meals it does not hold, and extras, against the day."""

from __future__ import annotations

import uuid
from collections.abc import Iterator

from sqlalchemy.orm import Session

from yantai.core.days import slots_of_day
from yantai.store import tables
from yantai.store.database import Database
from yantai.work import plans
from yantai.work.accounts import SignedIn
from yantai.work.clients import client_query, client_tolerance
from yantai.work.days import Eaten, as_targeted, day_view, effective_figures, stored_days
from yantai.work.views import DayView, PlanView

_MOST_BATCHES = 10


def read_plan_days(database: Database, who: SignedIn, batch_id: uuid.UUID) -> list[DayView]:
    """Each client of the batch who has a day, by name: one view for each of their day types.

    A meal that this batch has no container for counts as the container that another batch of the same day has for it,
    and else as its target says.

    Raises:
        Missing: there is no such batch here.
    """
    with database.workspace(who.workspace_id) as session:
        loaded = plans.load(session, batch_id)
        plan, rules = plans.read_view(loaded), loaded.larder.rules
        ids = {row.client_id for row in plan.rows if row.count}
        others = _same_day(session, loaded.batch)
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
                places = slots_of_day([(slot, day_type) for slot, day_type, _ in slots], day.day_type)
                found.append(
                    day_view(
                        day,
                        [slots[place][2] for place in places],
                        client_tolerance(client),
                        client_id=client.id,
                        client=client.name,
                    )
                )
        return found


def _same_day(session: Session, batch: tables.Batch) -> list[PlanView]:
    """The other batches that are cooked on the same day, the newest first."""
    query = (
        plans.batch_query()
        .where(tables.Batch.cook_on == batch.cook_on, tables.Batch.id != batch.id)
        .order_by(tables.Batch.changed_at.desc())
        .limit(_MOST_BATCHES)
    )
    return [plans.read_view(plans.loaded(session, other)) for other in session.scalars(query).unique()]


def _cooked(plan: PlanView, client: tables.Client, of: str = "") -> Iterator[tuple[str, str, Eaten]]:
    for row in plan.rows:
        if row.client_id == client.id and row.count:
            yield row.slot, row.day_type, Eaten(kind="container", name=f"{row.slot}{of}", amounts=row.amounts.amounts)
