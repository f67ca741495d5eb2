"""What a batch costs, by food, component, container and client: the used share of packs and of what is in the house."""

from __future__ import annotations

import uuid
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from fractions import Fraction

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from yantai.core.shopping.money import round_half_up, share_out, used_cents
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.batches import stored
from yantai.work.batches.views import PlanView
from yantai.work.common.errors import Missing
from yantai.work.common.who import SignedIn
from yantai.work.pantry.ledger import LEAST_G
from yantai.work.pantry.market import Market
from yantai.work.shop.demand import House, Wanted, needs_of
from yantai.work.shop.house import came_in
from yantai.work.shop.list import coming_first, open_others, read_trips
from yantai.work.shop.views import ClientCost, ComponentCost, CostView, FoodCost, LineCost, NeedView, RowCost

_EVERYTHING = Wanted(in_the_pan=True)


def read_costs(database: Database, who: SignedIn, batch_id: uuid.UUID, stated: float | None) -> CostView:
    """What a batch costs. With `stated`, what somebody says that a container costs, that is checked against it.

    Of a packed batch what it took of the house counts with what was paid for that; of an open one what it would take.
    The rest counts by the packs that cover it at least cost.

    Raises:
        Missing: there is no such batch.
    """
    with stored.reading(database, who, lambda _: None) as session:
        batch = session.get(tables.Batch, batch_id)
        if batch is None or batch.deleted_at is not None:
            raise Missing("There is no such batch. It may have been removed in another window.")
        plan = stored.read_view(session, batch_id)
        return cost_view(plan, food_costs(session, plan), stated)


@dataclass(frozen=True, kw_only=True)
class Spent:
    """What a food costs a batch, in hundredths, with the lines that need it."""

    food: tables.Food
    needs: Sequence[NeedView]
    used: int
    paid: int
    left: int
    from_house: int
    unpriced_g: float


def food_costs(session: Session, plan: PlanView) -> list[Spent]:
    """What each food of a batch costs, within a reading of stored plans."""
    needs = needs_of(session, [plan], _EVERYTHING)
    foods = {food.id: food for food in session.scalars(select(tables.Food).where(tables.Food.id.in_(needs)))}
    market = Market(session, needs)
    taken = _taken(session, plan, needs)
    prices = lot_prices(session)
    found = []
    for food_id in sorted(needs, key=lambda key: (foods[key].name, str(key))):
        need_g = sum(need.grams for need in needs[food_id])
        from_house, unpriced_g = 0, 0.0
        for lot_id, grams in taken.get(food_id, {}).items():
            per_g = prices.get(lot_id)
            if per_g is None:
                unpriced_g += grams
            else:
                from_house += round_half_up(per_g * Fraction(grams))
        to_buy_g = need_g - sum(taken.get(food_id, {}).values())
        paid = used = 0
        if to_buy_g >= LEAST_G:
            choices = market.choices(food_id, to_buy_g)
            cents = choices[0].cost_cents if choices else None
            if cents is None:
                unpriced_g += to_buy_g
            else:
                paid, used = cents, used_cents(cents, to_buy_g, to_buy_g + choices[0].left_g)
        found.append(
            Spent(
                food=foods[food_id],
                needs=needs[food_id],
                used=used + from_house,
                paid=paid,
                left=paid - used,
                from_house=from_house,
                unpriced_g=unpriced_g,
            )
        )
    return found


def _taken(
    session: Session, plan: PlanView, needs: Mapping[uuid.UUID, Sequence[NeedView]]
) -> dict[uuid.UUID, dict[uuid.UUID, float]]:
    """What a batch took of each lot, or would take [g], by food."""
    found: dict[uuid.UUID, dict[uuid.UUID, float]] = defaultdict(dict)
    if plan.batch.packed_at is not None:
        entry, lot = tables.LotEntry, tables.Lot
        query = (
            select(lot.food_id, lot.id, func.sum(entry.grams))
            .join(lot, lot.id == entry.lot_id)
            .where(entry.batch_id == plan.batch.id)
            .group_by(lot.food_id, lot.id)
        )
        for food_id, lot_id, grams in session.execute(query):
            if grams < 0:
                found[food_id][lot_id] = -float(grams)
        return found
    _, over = read_trips(session)
    house = House(session, needs, [plan], coming_first(open_others(session, [plan.batch.id]), [plan], over))
    for food_id, of in needs.items():
        for one in house.deal(food_id, of):
            found[food_id][one.lot_id] = one.grams
    return found


def lot_prices(session: Session) -> dict[uuid.UUID, Fraction]:
    """What a gram of each lot cost [hundredths], of those whose price is known."""
    lot, entry = tables.Lot, tables.LotEntry
    query = select(lot.id, lot.paid, came_in()).join(entry, entry.lot_id == lot.id).where(lot.paid.is_not(None))
    rows = session.execute(query.group_by(lot.id)).all()
    return {key: Fraction(round(paid * 100)) / Fraction(float(came)) for key, paid, came in rows if came}


def cost_view(plan: PlanView, spent: Sequence[Spent], stated: float | None) -> CostView:
    """Everything that foods cost, shared out to lines, components, containers and clients, to the hundredth."""
    of_component: dict[uuid.UUID, int] = defaultdict(int)
    foods = []
    for one in spent:
        shares = share_out(one.used, [need.grams for need in one.needs])
        for need, share in zip(one.needs, shares, strict=True):
            if need.component_id is not None:
                of_component[need.component_id] += share
        foods.append(_food_cost(one, shares))
    of_row, spare = _rows(plan, of_component)
    used, in_containers = sum(one.used for one in spent), sum(of_row.values())
    containers = sum(row.count for row in plan.rows)
    protein_g = sum(row.count * (row.amounts.protein_g or 0) for row in plan.rows)
    dishes = {dish.id: dish.name for dish in plan.dishes}
    of_client: dict[uuid.UUID, int] = defaultdict(int)
    count_of: dict[uuid.UUID, int] = defaultdict(int)
    rows = []
    for row in plan.rows:
        of_client[row.client_id] += of_row[row.id]
        count_of[row.client_id] += row.count
        each = share_out(of_row[row.id], [1.0] * row.count)
        rows.append(
            RowCost(
                row_id=row.id,
                client_id=row.client_id,
                client=row.client,
                dish=dishes[row.dish_id],
                slot=row.slot,
                day_type=row.day_type,
                count=row.count,
                cost=of_row[row.id] / 100,
                each_low=min(each, default=0) / 100,
                each_high=max(each, default=0) / 100,
            )
        )
    names = {row.client_id: row.client for row in plan.rows}
    return CostView(
        used=used / 100,
        in_containers=in_containers / 100,
        spare=spare / 100,
        paid=sum(one.paid for one in spent) / 100,
        left=sum(one.left for one in spent) / 100,
        from_house=sum(one.from_house for one in spent) / 100,
        per_container=round(in_containers / containers) / 100 if containers else None,
        per_100g_protein=round(100 * in_containers / protein_g) / 100 if protein_g > 0 else None,
        foods=sorted(foods, key=lambda one: (-one.used, one.name)),
        components=[
            ComponentCost(
                component_id=component.id,
                name=component.name,
                cost=of_component[component.id] / 100,
                per_100g=round(100 * of_component[component.id] / component.cooked_g) / 100
                if component.cooked_g > 0
                else None,
            )
            for component in plan.components
        ],
        rows=rows,
        clients=[
            ClientCost(client_id=key, name=names[key], containers=count_of[key], cost=cents / 100)
            for key, cents in sorted(of_client.items(), key=lambda one: names[one[0]])
        ],
        without_price=[one.food.name for one in spent if one.unpriced_g >= LEAST_G],
        check=_check(stated, containers, in_containers),
    )


def _food_cost(one: Spent, shares: Sequence[int]) -> FoodCost:
    return FoodCost(
        food_id=one.food.id,
        name=one.food.name,
        grams=sum(need.grams for need in one.needs),
        used=one.used / 100,
        paid=one.paid / 100,
        left=one.left / 100,
        from_house=one.from_house / 100,
        unpriced_g=one.unpriced_g,
        lines=[
            LineCost(component_id=need.component_id, component=need.component, grams=need.grams, cost=share / 100)
            for need, share in zip(one.needs, shares, strict=True)
        ],
    )


def _rows(plan: PlanView, of_component: Mapping[uuid.UUID, int]) -> tuple[dict[uuid.UUID, int], int]:
    """What each class of containers costs, and what is spare, in hundredths: each component shared out by grams."""
    of_row: dict[uuid.UUID, int] = {row.id: 0 for row in plan.rows}
    spare = 0
    for component in plan.components:
        grams = [
            row.count * sum(cell.grams for cell in row.cells if cell.component_id == component.id) for row in plan.rows
        ]
        over_g = max(component.cooked_g - sum(grams), 0.0)
        if not any(grams):
            # Nothing of it is in a container: all that was bought for it is spare.
            over_g = 1.0
        *shares, rest = share_out(of_component.get(component.id, 0), [*grams, over_g])
        spare += rest
        for row, share in zip(plan.rows, shares, strict=True):
            of_row[row.id] += share
    return of_row, spare


def _check(stated: float | None, containers: int, in_containers: int) -> str:
    """Whether what a container is said to cost comes to what they all cost."""
    if stated is None:
        return ""
    said = round(stated * 100) * containers
    # Rounded to the hundredth a container may be half of one off; all of them so many halves.
    if abs(said - in_containers) <= containers / 2:
        return f"{containers} × {stated:.2f} come to {said / 100:.2f}: that is what they cost."
    apart = (said - in_containers) / 100
    return (
        f"{containers} × {stated:.2f} come to {said / 100:.2f}, and they cost {in_containers / 100:.2f}: "
        f"{abs(apart):.2f} {'more' if apart > 0 else 'less'} than that."
    )
