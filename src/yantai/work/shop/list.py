"""What is to be bought for some batches, each food once."""

from __future__ import annotations

import uuid
from collections import defaultdict
from collections.abc import Collection, Mapping, Sequence
from datetime import date, datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from yantai.core.cooking.components import LineRole
from yantai.core.shopping.house import Taken, take, without
from yantai.core.shopping.packs import PackOffer, Packs, covering, covers_g
from yantai.formats import shopping_csv
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.batches import stored
from yantai.work.batches.views import BatchBrief, PlanView
from yantai.work.common.errors import Missing
from yantai.work.common.who import SignedIn
from yantai.work.common.workspace import local_day
from yantai.work.pantry.composition import cookable, root_id
from yantai.work.pantry.ledger import LEAST_G, is_old, lots_of
from yantai.work.shop.aisles import aisle_of
from yantai.work.shop.views import (
    HeldView,
    InHouse,
    ItemView,
    NeedView,
    PackCount,
    PacksView,
    ShoppedBatch,
    ShoppingList,
)

_DRAINED = "canned-drained"


def read_list(
    database: Database, who: SignedIn, batch_id: uuid.UUID, others: Sequence[uuid.UUID], now: datetime
) -> ShoppingList:
    """The list for a batch and for `others` that are bought in the same trip, from their plans as they are stored.

    What is weighed is in the pan, and bought; what was added at the stove was in the house; water comes from the tap.
    What is in the house goes to the batch that is cooked first, and is not taken past its day.

    Raises:
        Missing: one of the batches is not here.
    """
    wanted = list(dict.fromkeys([batch_id, *others]))
    with stored.reading(database, who, lambda _: None) as session:
        return list_of(session, wanted, local_day(session, now))


def list_of(session: Session, wanted: Sequence[uuid.UUID], today: date) -> ShoppingList:
    """The list for some batches, inside a reading of stored plans.

    Raises:
        Missing: one of the batches is not here.
    """
    briefs = {brief.id: brief for brief in stored.read_briefs(session)}
    if not briefs.keys() >= set(wanted):
        raise Missing("There is no such batch. It may have been removed in another window.")
    plans = [stored.read_view(session, key) for key in wanted]
    near = [brief for key, brief in briefs.items() if _is_open(brief) and key not in wanted]
    needs = _needs(session, plans)
    foods = {food.id: food for food in session.scalars(select(tables.Food).where(tables.Food.id.in_(needs)))}
    staples = {row.food_id: row.is_always_there for row in session.scalars(select(tables.Staple))}
    listed = {key: of for key, of in needs.items() if not staples.get(key, False)}
    going_on, over = read_trips(session)
    first = [brief for brief in near if brief.id in over]
    first += [brief for brief in near if brief.id not in over and _is_cooked_before(brief, plans)]
    house = _House(session, listed, plans, first)
    packs = _packs(session, listed)
    ordered = sorted(listed, key=lambda key: (aisle_of(foods[key]).order, foods[key].name, foods[key].state))
    items = [
        _item(foods[key], listed[key], packs.get(key, []), house, asked=key not in staples, today=today)
        for key in ordered
    ]
    costs = [item.choices[0].cost for item in items if item.choices and item.choices[0].cost is not None]
    return ShoppingList(
        batches=[ShoppedBatch(id=one.batch.id, name=one.batch.name, cook_on=one.batch.cook_on) for one in plans],
        others=[
            ShoppedBatch(id=brief.id, name=brief.name, cook_on=brief.cook_on)
            for brief in sorted(near, key=lambda brief: (brief.cook_on, brief.name))
        ],
        items=items,
        cost=round(sum(costs), 2) if costs else None,
        without_price=sum(item.to_buy_g > 0 for item in items) - len(costs),
        in_the_pan=[component.name for one in plans for component in one.components if component.weighing is not None],
        always_there=sorted(foods[key].name for key in needs if key not in listed),
        trip_id=next((going_on[key] for key in wanted if key in going_on), None),
    )


def export_csv(
    database: Database, who: SignedIn, batch_id: uuid.UUID, others: Sequence[uuid.UUID], now: datetime
) -> str:
    """The same list as CSV, with the packs that cost least.

    Raises:
        Missing: one of the batches is not here.
    """
    found = read_list(database, who, batch_id, others, now)
    return shopping_csv.write(_row(item) for item in found.items)


def _row(item: ItemView) -> shopping_csv.ShoppingRow:
    chosen = item.choices[0] if item.choices else None
    packs = [] if chosen is None else [f"{one.count} x {one.name} {one.grams:g} g" for one in chosen.packs]
    return shopping_csv.ShoppingRow(
        aisle=item.aisle,
        food=item.name,
        state=item.state,
        needed_g=item.grams,
        in_house_g=item.in_house_g,
        to_buy_g=item.to_buy_g,
        packs=" + ".join(packs),
        left_g=None if chosen is None else chosen.left_g,
        cost=None if chosen is None else chosen.cost,
        wanted_for=", ".join(dict.fromkeys(f"{need.component} ({need.batch})" for need in item.needs)),
    )


def read_trips(session: Session) -> tuple[dict[uuid.UUID, uuid.UUID], set[uuid.UUID]]:
    """The trip that is going on by its batches, and the batches that were bought for."""
    trip, of = tables.Trip, tables.TripBatch
    rows = session.execute(select(of.batch_id, trip.id, trip.finished_at).join(trip, trip.id == of.trip_id)).all()
    return {row.batch_id: row.id for row in rows if row.finished_at is None}, {
        row.batch_id for row in rows if row.finished_at is not None
    }


def _is_open(brief: BatchBrief) -> bool:
    return brief.packed_at is None and brief.put_away_at is None


def _is_cooked_before(brief: BatchBrief, plans: Sequence[PlanView]) -> bool:
    return brief.cook_on < min(plan.batch.cook_on for plan in plans)


def _needs(
    session: Session, plans: Sequence[PlanView], *, with_weighed: bool = False
) -> dict[uuid.UUID, list[NeedView]]:
    """What the lines of the plans need of each food, water left out; and what is in their pans, where it is asked."""
    wanted: list[NeedView] = []
    for plan in plans:
        for component in plan.components:
            if component.weighing is not None and not with_weighed:
                continue
            for line in component.lines:
                if line.added_at is None and line.purchased_g >= LEAST_G:
                    need = NeedView(
                        line_id=line.id,
                        batch_id=plan.batch.id,
                        batch=plan.batch.name,
                        component=component.name,
                        grams=line.purchased_g,
                    )
                    wanted.append(need)
    row, food = tables.Line, tables.Food
    ids = [need.line_id for need in wanted]
    query = select(row.id, food).join(food, food.id == row.food_id).where(row.id.in_(ids))
    food_of = {key: of for key, of in session.execute(query)}  # noqa: C416 -- rows are no pairs to mypy
    found: dict[uuid.UUID, list[NeedView]] = defaultdict(list)
    for need in wanted:
        of = food_of.get(need.line_id)
        if of is not None and cookable(of).role is not LineRole.WATER:
            # Older figures of an own food are bought as what it is now.
            found[root_id(of)].append(need)
    return found


class _House:
    """What is in the house of some foods, dealt out: to batches that were bought for or are cooked before the list's,
    then to those of the list, each in the order in which they are cooked."""

    def __init__(
        self,
        session: Session,
        foods: Collection[uuid.UUID],
        plans: Sequence[PlanView],
        first: Sequence[BatchBrief],
    ) -> None:
        self._left = lots_of(session, foods)
        self._days = {plan.batch.id: plan.batch.cook_on for plan in plans}
        self._rows: dict[str, tables.Lot] = {}
        self._held: dict[uuid.UUID, list[HeldView]] = defaultdict(list)
        if not self._left:
            return
        lot = tables.Lot
        self._rows = {str(row.id): row for row in session.scalars(select(lot).where(lot.food_id.in_(self._left)))}
        for brief in sorted(first, key=lambda one: (one.cook_on, one.name)):
            view = stored.read_view(session, brief.id)
            for food_id, needs in _needs(session, [view], with_weighed=True).items():
                grams = self._take(food_id, sum(need.grams for need in needs), brief.cook_on)
                if grams:
                    held = HeldView(batch=brief.name, grams=sum(one.grams for one in grams))
                    self._held[food_id].append(held)

    def held(self, food_id: uuid.UUID) -> list[HeldView]:
        """What the batches that come first take of a food."""
        return self._held[food_id]

    def deal(self, food_id: uuid.UUID, needs: Sequence[NeedView]) -> list[InHouse]:
        """What the batches of the list take of a food, lot by lot."""
        by_batch: dict[uuid.UUID, float] = defaultdict(float)
        for need in needs:
            by_batch[need.batch_id] += need.grams
        grams: dict[str, float] = defaultdict(float)
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


def _packs(session: Session, needs: Mapping[uuid.UUID, object]) -> dict[uuid.UUID, list[tables.Pack]]:
    found: dict[uuid.UUID, list[tables.Pack]] = defaultdict(list)
    query = select(tables.Pack).where(tables.Pack.food_id.in_(needs)).order_by(tables.Pack.grams, tables.Pack.name)
    for pack in session.scalars(query):
        found[pack.food_id].append(pack)
    return found


def _item(
    food: tables.Food, needs: list[NeedView], packs: list[tables.Pack], house: _House, *, asked: bool, today: date
) -> ItemView:
    aisle = aisle_of(food)
    grams = sum(need.grams for need in needs)
    in_house = house.deal(food.id, needs)
    in_house_g = sum(one.grams for one in in_house)
    to_buy_g = grams - in_house_g if grams - in_house_g >= LEAST_G else 0.0
    offers = tuple(
        PackOffer(
            covers_g=covers_g(pack.grams, pack.drained_g),
            price_cents=None if pack.price is None else round(pack.price * 100),
        )
        for pack in packs
    )
    return ItemView(
        food_id=food.id,
        name=food.name,
        state=food.state,
        aisle=aisle.name,
        in_cupboard=aisle.in_cupboard,
        ask_staple=aisle.in_cupboard and asked and not in_house,
        buy_early=aisle.buy_early,
        keeps_days=aisle.keeps_days,
        grams=grams,
        needs=needs,
        in_house_g=in_house_g,
        in_house=in_house,
        held=house.held(food.id),
        to_buy_g=to_buy_g,
        choices=[_packs_view(packs, offers, found, today) for found in covering(to_buy_g, offers)],
        by_net=food.state == _DRAINED and any(not pack.drained_g for pack in packs),
    )


def _packs_view(packs: Sequence[tables.Pack], offers: Sequence[PackOffer], found: Packs, today: date) -> PacksView:
    return PacksView(
        packs=[
            PackCount(
                name=pack.name,
                grams=offer.covers_g,
                count=count,
                shop=pack.shop,
                price=pack.price,
                seen_on=pack.seen_on,
                is_old=pack.price is not None and is_old(pack.seen_on, today),
            )
            for pack, offer, count in zip(packs, offers, found.counts, strict=True)
            if count
        ],
        left_g=found.left_g,
        cost=None if found.cost_cents is None else found.cost_cents / 100,
    )
