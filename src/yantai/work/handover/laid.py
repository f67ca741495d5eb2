"""A batch laid out to be handed over: how long its containers keep, and the days that they have."""

from __future__ import annotations

import uuid
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from functools import cached_property

from sqlalchemy import func, select, true
from sqlalchemy.orm import Session

from yantai.core.planning.portioning import Place
from yantai.core.storage.calendar import LONGEST_DAYS, Calendar, Eaten, ToEat, Weeks
from yantai.core.storage.matching import filled_bread
from yantai.core.storage.shelf import Keeping, KeptPart, ShelfRule, keeping
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.batches import stored
from yantai.work.batches.keeping import Shelved, shelved
from yantai.work.batches.views import PlanRowView, PlanView
from yantai.work.clients.clients import client_query
from yantai.work.common.who import SignedIn
from yantai.work.common.workspace import local_day, read_workspace
from yantai.work.pantry.shelf import shelf_table

_ML = 1000

Spot = tuple[uuid.UUID, int]
"""A container: the row it is of, and its number."""


@dataclass(frozen=True, kw_only=True)
class RowKeeping:
    """How long the containers of a row keep, the tubs beside them, and what goes on only at eating."""

    container: Keeping
    tub: Keeping
    parts: tuple[KeptPart, ...]
    beside: tuple[str, ...]
    fresh: tuple[str, ...]
    litres: float


@dataclass(frozen=True, kw_only=True)
class Laid:
    """What a view of it is made from."""

    plan: PlanView
    cooked_on: date
    rule: ShelfRule
    shelved: Mapping[uuid.UUID, Shelved]
    clients: Mapping[uuid.UUID, tables.Client]
    starts: Mapping[uuid.UUID, date]
    placements: Mapping[Spot, tables.Placement]

    @cached_property
    def rows(self) -> dict[uuid.UUID, PlanRowView]:
        """The rows that have containers, by their ids."""
        return {row.id: row for row in self.plan.rows if row.count}

    @cached_property
    def keepings(self) -> dict[uuid.UUID, RowKeeping]:
        """How long the containers of each row keep."""
        return {key: self._keeping(row) for key, row in self.rows.items()}

    def of_client(self, client_id: uuid.UUID) -> list[PlanRowView]:
        """The rows of a client."""
        return [row for row in self.rows.values() if row.client_id == client_id]

    def to_eat(self, client_id: uuid.UUID) -> list[ToEat]:
        """The containers of a client as the core knows them."""
        return [self._to_eat(row) for row in self.of_client(client_id)]

    def weeks(self, client_id: uuid.UUID) -> Weeks:
        """The days of a client as the core knows them: from the day of cooking on."""
        client = self.clients[client_id]
        kinds: tuple[str | None, ...] = ()
        if any(client.week):
            days = [self.cooked_on + timedelta(days=day) for day in range(LONGEST_DAYS + 1)]
            kinds = tuple(_folded(client.week[day.weekday()]) for day in days)
        first = (self.first_on(client_id) - self.cooked_on).days
        return Weeks(first=min(max(first, 0), 14), day_types=kinds, fridge_l=client.fridge_l)

    def first_on(self, client_id: uuid.UUID) -> date:
        """The first day that a client eats of it: the day after cooking where nobody said it."""
        return self.starts.get(client_id, self.cooked_on + timedelta(days=1))

    def eaten(self, client_id: uuid.UUID, *, by_hand: bool | None = None) -> list[Eaten]:
        """The containers of a client that have a day; those set by hand, or not, where that is asked."""
        found = []
        for row in self.of_client(client_id):
            for number in range(1, row.count + 1):
                placement = self.placements.get((row.id, number))
                if placement is None or placement.eaten_on is None or placement.store is None:
                    continue
                if by_hand is None or placement.by_hand is by_hand:
                    day = (placement.eaten_on - self.cooked_on).days
                    found.append(
                        Eaten(key=str(row.id), number=number, day=day, store=placement.store, by_hand=placement.by_hand)
                    )
        return found

    def calendar(self, client_id: uuid.UUID) -> Calendar:
        """The calendar that a client has."""
        return Calendar(eaten=tuple(sorted(self.eaten(client_id), key=lambda one: (one.day, one.key, one.number))))

    def on(self, day: int) -> date:
        """The date of a day."""
        return self.cooked_on + timedelta(days=day)

    def _to_eat(self, row: PlanRowView) -> ToEat:
        kept = self.keepings[row.id]
        return ToEat(
            key=str(row.id),
            dish=str(row.dish_id),
            slot=row.slot.casefold(),
            day_type=row.day_type.casefold(),
            count=row.count,
            fridge_days=kept.container.fridge_days,
            usual_days=kept.container.usual_days,
            freezes=kept.container.freezes,
            freezer_days=kept.container.freezer_days,
            litres=kept.litres,
            tub_days=kept.tub.fridge_days,
        )

    def _keeping(self, row: PlanRowView) -> RowKeeping:
        dish = next(dish for dish in self.plan.dishes if dish.id == row.dish_id)
        places = {part.component_id: part for part in dish.parts}
        there = [cell for cell in row.cells if cell.grams > 0]
        inside = [
            self.shelved[cell.component_id] for cell in there if places[cell.component_id].place is Place.IN_CONTAINER
        ]
        beside = [self.shelved[cell.component_id] for cell in there if places[cell.component_id].place is Place.BESIDE]
        fresh = [
            self.shelved[cell.component_id] for cell in there if places[cell.component_id].place is Place.AT_EATING
        ]
        parts = [one.part for one in inside]
        bread = filled_bread([one.stuff for one in inside])
        if bread is not None:
            parts.append(KeptPart(key="", name="The filled bread", rows=(shelf_table()[bread],)))
        tubs_ml = sum(places[one.component_id].tub_ml or 0.0 for one in beside)
        return RowKeeping(
            container=keeping(parts, self.rule),
            tub=keeping([one.part for one in beside], self.rule),
            parts=tuple(parts),
            beside=tuple(one.name for one in beside),
            fresh=tuple(one.name for one in fresh),
            litres=((row.capacity_ml or row.volume_ml) + tubs_ml) / _ML,
        )


def eaten_batches(
    database: Database, who: SignedIn, client_id: uuid.UUID, since: date, before: date | None = None
) -> Sequence[uuid.UUID]:
    """The batches of which a client eats something from a day on, and `before` another where one is given."""
    placement, row, batch = tables.Placement, tables.ContainerClass, tables.Batch
    query = (
        select(placement.batch_id)
        .join(row, row.id == placement.container_class_id)
        .join(batch, batch.id == placement.batch_id)
        .where(
            row.client_id == client_id,
            row.removed.is_(False),
            batch.deleted_at.is_(None),
            placement.eaten_on >= since,
            placement.eaten_on < before if before is not None else true(),
        )
        .distinct()
        .order_by(placement.batch_id)
    )
    with database.reading(who.workspace_id) as session:
        return session.scalars(query).all()


def lay_out(session: Session, batch_id: uuid.UUID) -> Laid:
    """A batch whose plan is at hand (`stored.reading`)."""
    plan = stored.current_view(session, batch_id)
    clients = {row.client_id for row in plan.rows}
    start = tables.EatingStart
    starts = session.execute(select(start.client_id, start.first_on).where(start.batch_id == batch_id))
    return Laid(
        plan=plan,
        cooked_on=cooked_on(session, batch_id, plan.batch.cook_on),
        rule=read_workspace(session).shelf_rule,
        shelved=shelved(session, batch_id),
        clients={one.id: one for one in session.scalars(client_query().where(tables.Client.id.in_(clients)))},
        starts={client_id: first_on for client_id, first_on in starts},  # noqa: C416 -- typed so
        placements=read_placements(session, batch_id),
    )


def read_placements(session: Session, batch_id: uuid.UUID) -> dict[Spot, tables.Placement]:
    """What counts of each container: the newest row."""
    placement = tables.Placement
    rows = session.scalars(select(placement).where(placement.batch_id == batch_id).order_by(placement.number))
    return {(row.container_class_id, row.container): row for row in rows}


def cooked_on(session: Session, batch_id: uuid.UUID, planned: date) -> date:
    """The day that shelf life counts from: the batch's, or the day of its first weighing where that was earlier."""
    weighed = session.scalar(select(func.min(tables.Weighing.weighed_at)).where(tables.Weighing.batch_id == batch_id))
    return planned if weighed is None else min(planned, local_day(session, weighed))


def _folded(kind: str | None) -> str | None:
    return kind.casefold() if kind else None
