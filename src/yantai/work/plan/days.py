"""The days of the clients of a batch: its containers, the meals it does not hold, and extras, against the day."""

from __future__ import annotations

import uuid
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import timedelta

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from yantai.core.targets.aims import PRODUCE_GROUPS, UNKNOWN_PRODUCE, Produce
from yantai.core.targets.days import slots_of_day
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.batches import stored
from yantai.work.batches.loading import kept_rules
from yantai.work.batches.views import PlanRowView, PlanView
from yantai.work.clients.at_hand import fill_up_views
from yantai.work.clients.clients import client_query
from yantai.work.clients.days import Eaten, as_targeted, day_view, eaten_day, effective_figures, stored_days
from yantai.work.clients.views import DayView
from yantai.work.common.who import SignedIn
from yantai.work.common.workspace import daily_aims, read_workspace, workspace_rules

_MOST_BATCHES = 10
_NEAR = timedelta(days=3)
"""Containers of batches that are further apart than cooked food keeps in the fridge are not eaten on one day."""


@dataclass(frozen=True, kw_only=True)
class _Meal:
    """A container that a client has for a meal."""

    slot: str
    day_type: str
    count: int
    eaten: Eaten

    @property
    def key(self) -> tuple[str, str]:
        """Two with the same are eaten on different days."""
        return self.slot.casefold(), self.day_type.casefold()


def read_plan_days(database: Database, who: SignedIn, batch_id: uuid.UUID) -> list[DayView]:
    """Each client of the batch who has a day, by name: one view for each of their day types.

    A day has one container of each meal. Where there are several for a meal, that of which the batch has most counts,
    and the others are told. A meal that this batch has no container for counts as the container that the nearest batch
    has for it, and else as its target says.

    Raises:
        Missing: there is no such batch here.
    """
    with stored.reading(database, who, lambda session: [batch_id, *_near(session, batch_id)]) as session:
        plan = stored.read_view(session, batch_id)
        workspace = read_workspace(session)
        rules = kept_rules(session.get_one(tables.Batch, batch_id)) or workspace_rules(workspace)
        ids = {row.client_id for row in plan.rows if row.count}
        others = [stored.read_view(session, other) for other in _near(session, batch_id)]
        produce = _produce(session, [plan, *others])
        clients = session.scalars(client_query().where(tables.Client.id.in_(ids)).order_by(tables.Client.name)).all()
        found = []
        for client in clients:
            days = stored_days(client, rules)
            meals = _meals(client, [plan, *others], produce)
            slots = [(meal.slot, meal.day_type, meal.eaten) for meal in meals.values()] + [
                (target.slot, target.day_type, as_targeted(target.slot, effective_figures(target, days)))
                for target in client.targets
                if (target.slot.casefold(), target.day_type.casefold()) not in meals
            ]
            for day in days.values():
                indices = slots_of_day([(slot, day_type) for slot, day_type, _ in slots], day.day_type)
                eaten = [slots[index][2] for index in indices]
                whole = eaten_day(day, eaten, client.tolerance, daily_aims(workspace))
                fill_ups = fill_up_views(client, whole, rules)
                found.append(day_view(day, eaten, whole, fill_ups, client_id=client.id, client=client.name))
        return found


def _near(session: Session, batch_id: uuid.UUID) -> Sequence[uuid.UUID]:
    """The other batches whose containers may be eaten on the same days, the nearest and newest first."""
    batch = tables.Batch
    day = session.scalars(select(batch.cook_on).where(batch.id == batch_id)).one_or_none()
    if day is None:
        return []
    others = select(batch.id).where(
        batch.cook_on.between(day - _NEAR, day + _NEAR), batch.id != batch_id, batch.deleted_at.is_(None)
    )
    nearest = others.order_by(func.abs(batch.cook_on - day), batch.changed_at.desc(), batch.id)
    return session.scalars(nearest.limit(_MOST_BATCHES)).all()


def _produce(session: Session, plans: Sequence[PlanView]) -> Mapping[uuid.UUID, Produce]:
    """Vegetables and fruit in a gram of each component as it stands in the containers. A line that is a component of
    another recipe is not looked into: there may be more."""
    lines = [line.id for plan in plans for component in plan.components for line in component.lines]
    query = select(tables.Line.id, tables.Food.food_group).outerjoin(tables.Food, tables.Food.id == tables.Line.food_id)
    groups = {line: group for line, group in session.execute(query.where(tables.Line.id.in_(lines)))}  # noqa: C416
    return {
        component.id: Produce(
            sum(line.edible_g for line in component.lines if groups.get(line.id) in PRODUCE_GROUPS)
            / component.cooked_g,
            at_least=any(groups.get(line.id) is None for line in component.lines),
        )
        for plan in plans
        for component in plan.components
        if component.cooked_g
    }


def _meals(
    client: tables.Client, plans: Sequence[PlanView], produce: Mapping[uuid.UUID, Produce]
) -> dict[tuple[str, str], _Meal]:
    """One container for each meal, with the others that its batch has for it."""
    found: dict[tuple[str, str], _Meal] = {}
    for plan in plans:
        here: dict[tuple[str, str], list[_Meal]] = {}
        for meal in _containers(client, plan, produce, of="" if plan is plans[0] else f" from {plan.batch.name}"):
            here.setdefault(meal.key, []).append(meal)
        for key, meals in here.items():
            first, *rest = sorted(meals, key=lambda meal: -meal.count)
            eaten = replace(first.eaten, instead=tuple(meal.eaten for meal in rest))
            found.setdefault(key, replace(first, eaten=eaten))
    return found


def _containers(
    client: tables.Client, plan: PlanView, produce: Mapping[uuid.UUID, Produce], *, of: str
) -> Iterator[_Meal]:
    dishes = {dish.id: dish.name for dish in plan.dishes}
    for row in plan.rows:
        if row.client_id == client.id and row.count:
            dish = f", {dishes[row.dish_id]}" if len(dishes) > 1 else ""
            yield _Meal(
                slot=row.slot,
                day_type=row.day_type,
                count=row.count,
                eaten=Eaten(
                    kind="container",
                    name=f"{row.slot}{dish}{of}",
                    amounts=row.amounts.amounts,
                    produce=_produce_of(row, produce),
                ),
            )


def _produce_of(row: PlanRowView, produce: Mapping[uuid.UUID, Produce]) -> Produce:
    held = [(cell.grams, produce.get(cell.component_id, UNKNOWN_PRODUCE)) for cell in row.cells if cell.grams]
    return Produce(sum(grams * one.grams for grams, one in held), any(one.at_least for _, one in held))
