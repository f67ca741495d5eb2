"""What batches need of each food, and what of it is in the house."""

from __future__ import annotations

import uuid
from collections import defaultdict
from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass
from datetime import date

from sqlalchemy import select
from sqlalchemy.orm import Session

from yantai.core.cooking.components import LineRole
from yantai.core.shopping.house import Taken, take, without
from yantai.store import tables
from yantai.work.batches import stored
from yantai.work.batches.views import PlanComponentView, PlanView
from yantai.work.pantry.composition import cookable, root_id
from yantai.work.pantry.ledger import LEAST_G, lots_of
from yantai.work.shop.views import HeldView, InHouse, NeedView


@dataclass(frozen=True, kw_only=True)
class Wanted:
    """What is asked for beside what goes into the pots.

    Attributes:
        fresh: parts that are added at eating are bought by the coach.
        extras: so are the extras of the clients' days.
        in_the_pan: what was weighed counts too, and what was added at the stove: all that a batch is made of.
    """

    fresh: bool = True
    extras: bool = False
    in_the_pan: bool = False


def needs_of(session: Session, plans: Sequence[PlanView], wanted: Wanted) -> dict[uuid.UUID, list[NeedView]]:
    """What the lines of the plans need of each food [g as purchased], water left out; a fixed number of queries."""
    lines = [need for plan in plans for need in _lines(plan, wanted)]
    row, food = tables.Line, tables.Food
    query = select(row.id, food).join(food, food.id == row.food_id).where(row.id.in_({need.line_id for need in lines}))
    food_of = {key: of for key, of in session.execute(query)}  # noqa: C416 -- rows are no pairs to mypy
    found: dict[uuid.UUID, list[NeedView]] = defaultdict(list)
    for need in lines:
        of = food_of.get(need.line_id)
        if of is not None and cookable(of).role is not LineRole.WATER:
            # Older figures of an own food are bought as what it is now.
            found[root_id(of)].append(need)
    if wanted.extras:
        for food_id, need in _extras(session, plans):
            found[food_id].append(need)
    return found


def _lines(plan: PlanView, wanted: Wanted) -> Iterator[NeedView]:
    for component in plan.components:
        if component.weighing is not None and not wanted.in_the_pan:
            continue
        share = 1.0 if wanted.fresh else 1 - _fresh_share(component)
        for line in component.lines:
            grams = line.purchased_g * share
            if (line.added_at is None or wanted.in_the_pan) and grams >= LEAST_G:
                yield NeedView(
                    line_id=line.id,
                    batch_id=plan.batch.id,
                    batch=plan.batch.name,
                    component_id=component.id,
                    component=component.name,
                    grams=grams,
                )


def _fresh_share(component: PlanComponentView) -> float:
    """Which share of what is made of a component is added at eating."""
    return min(component.fresh_g / component.cooked_g, 1.0) if component.cooked_g else 0.0


def _extras(session: Session, plans: Sequence[PlanView]) -> Iterator[tuple[uuid.UUID, NeedView]]:
    """The extras of each client's days, for as many days of a kind as the batch has containers for at most.

    They are bought as they are eaten: whether almonds come in their shells is known of a line, not of an extra.
    """
    days: dict[tuple[uuid.UUID, uuid.UUID, str], int] = defaultdict(int)
    for plan in plans:
        for row in plan.rows:
            key = (plan.batch.id, row.client_id, row.day_type)
            days[key] = max(days[key], row.count)
    names = {plan.batch.id: plan.batch.name for plan in plans}
    day, extra, food, client = tables.Day, tables.DayExtra, tables.Food, tables.Client
    query = (
        select(extra, day.client_id, day.day_type, client.name, food)
        .join(day, day.id == extra.day_id)
        .join(client, client.id == day.client_id)
        .join(food, food.id == extra.food_id)
        .where(day.client_id.in_({client_id for _, client_id, _ in days}))
        .order_by(client.name, day.day_type, extra.position)
    )
    for eaten, client_id, day_type, name, of in session.execute(query):
        for batch_id, batch in names.items():
            count = days.get((batch_id, client_id, day_type), 0)
            if count:
                yield (
                    root_id(of),
                    NeedView(
                        line_id=eaten.id,
                        batch_id=batch_id,
                        batch=batch,
                        component_id=None,
                        component=f"extras of {name}, without peel or shell",
                        grams=eaten.grams * count,
                    ),
                )


class House:
    """What is in the house of some foods, dealt out: to batches that come `first`, in that order, then to those of
    `plans`, in the order in which they are cooked."""

    def __init__(
        self, session: Session, foods: Collection[uuid.UUID], plans: Sequence[PlanView], first: Sequence[uuid.UUID]
    ) -> None:
        self._left = lots_of(session, foods)
        self._days = {plan.batch.id: plan.batch.cook_on for plan in plans}
        self._rows: dict[str, tables.Lot] = {}
        self._held: dict[uuid.UUID, list[HeldView]] = defaultdict(list)
        if not self._left:
            return
        lot = tables.Lot
        self._rows = {str(row.id): row for row in session.scalars(select(lot).where(lot.food_id.in_(self._left)))}
        before = stored.read_views(session, first)
        all_needs = needs_of(session, before, Wanted(in_the_pan=True))
        for food_id in self._left:
            grams = _by_batch(all_needs.get(food_id, []))
            for plan in before:
                taken = self._take(food_id, grams.get(plan.batch.id, 0.0), plan.batch.cook_on)
                if taken:
                    held = HeldView(batch=plan.batch.name, grams=sum(one.grams for one in taken))
                    self._held[food_id].append(held)

    def held(self, food_id: uuid.UUID) -> list[HeldView]:
        """What the batches that come first take of a food."""
        return self._held[food_id]

    def deal(self, food_id: uuid.UUID, needs: Sequence[NeedView]) -> list[InHouse]:
        """What the batches take of a food, lot by lot."""
        grams: dict[str, float] = defaultdict(float)
        by_batch = _by_batch(needs)
        for batch_id in sorted(by_batch, key=lambda key: (self._days[key], str(key))):
            for one in self._take(food_id, by_batch[batch_id], self._days[batch_id]):
                grams[one.key] += one.grams
        return [
            InHouse(
                lot_id=row.id,
                words=row.words,
                grams=grams[key],
                place=row.place,
                use_by=row.use_by,
                frozen_on=row.frozen_on,
            )
            for key, row in self._rows.items()
            if grams.get(key)
        ]

    def _take(self, food_id: uuid.UUID, grams: float, on: date) -> list[Taken]:
        lots = self._left.get(food_id, [])
        taken = take(grams, lots, on.toordinal())
        if taken:
            self._left[food_id] = without(lots, taken)
        return taken


def _by_batch(needs: Sequence[NeedView]) -> dict[uuid.UUID, float]:
    """What each batch needs [g]."""
    grams: dict[uuid.UUID, float] = defaultdict(float)
    for need in needs:
        grams[need.batch_id] += need.grams
    return grams
