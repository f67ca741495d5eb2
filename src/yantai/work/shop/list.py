"""What is to be bought for some batches, each food once."""

from __future__ import annotations

import math
import uuid
from collections.abc import Collection, Mapping, Sequence
from datetime import date, datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from yantai.core.cooking.surely import enough_share
from yantai.core.quantities import Measure
from yantai.core.shopping.packs import PackOffer, Packs
from yantai.core.shopping.pieces import picked_words
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.batches import stored
from yantai.work.batches.views import BatchBrief, PlanComponentView, PlanView
from yantai.work.common.errors import Missing
from yantai.work.common.who import SignedIn
from yantai.work.common.workspace import local_day, read_workspace, workspace_spoons
from yantai.work.pantry.ledger import LEAST_G, is_old
from yantai.work.pantry.market import Market
from yantai.work.pantry.measures import read_measures
from yantai.work.shop.aisles import aisle_of
from yantai.work.shop.demand import House, Wanted, needs_of
from yantai.work.shop.views import EnoughView, ItemView, NeedView, PackCount, PacksView, ShoppedBatch, ShoppingList

_DRAINED = "canned-drained"


def read_list(
    database: Database, who: SignedIn, batch_id: uuid.UUID, others: Sequence[uuid.UUID], wanted: Wanted, now: datetime
) -> ShoppingList:
    """The list for a batch and for `others` that are bought in the same trip, from their plans as they are stored.

    What is weighed is in the pan, and bought; what was added at the stove was in the house; water comes from the tap.
    What is in the house goes to the batch that is cooked first, and is not taken past its day.

    Raises:
        Missing: one of the batches is not here.
    """
    with stored.reading(database, who, lambda _: None) as session:
        return list_of(session, list(dict.fromkeys([batch_id, *others])), wanted, local_day(session, now))


def list_of(session: Session, batch_ids: Sequence[uuid.UUID], wanted: Wanted, today: date) -> ShoppingList:
    """The list for some batches, inside a reading of stored plans.

    Raises:
        Missing: one of the batches is not here.
    """
    batch = tables.Batch
    here = session.scalars(select(batch.id).where(batch.id.in_(batch_ids), batch.deleted_at.is_(None)))
    if set(here) != set(batch_ids):
        raise Missing("There is no such batch. It may have been removed in another window.")
    plans = stored.read_views(session, batch_ids)
    near = open_others(session, batch_ids)
    needs = needs_of(session, plans, wanted)
    foods = {food.id: food for food in session.scalars(select(tables.Food).where(tables.Food.id.in_(needs)))}
    staples = {row.food_id: row.is_always_there for row in session.scalars(select(tables.Staple))}
    listed = {key: of for key, of in needs.items() if not staples.get(key, False)}
    going_on, over = read_trips(session)
    house = House(session, listed, plans, coming_first(near, plans, over))
    market = Market(session, listed)
    pots = {component.id: component for plan in plans for component in plan.components}
    workspace = read_workspace(session)
    measures = read_measures(session, set(listed), workspace_spoons(workspace))
    place = {name: at for at, name in enumerate(workspace.aisles)}

    def walked(key: uuid.UUID) -> tuple[int, int, str, str]:
        aisle = aisle_of(foods[key])
        return place.get(aisle.name, len(place)), aisle.order, foods[key].name, foods[key].state

    ordered = sorted(listed, key=walked)
    items = [
        _item(
            foods[key],
            listed[key],
            market,
            measures.get(key, []),
            house,
            pots,
            asked=key not in staples,
            today=today,
        )
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
        currency=workspace.currency,
        trip_id=next((going_on[key] for key in batch_ids if key in going_on), None),
    )


def coming_first(
    near: Sequence[BatchBrief], plans: Sequence[PlanView], bought_for: Collection[uuid.UUID]
) -> list[uuid.UUID]:
    """The other open batches to which what is in the house goes first: bought for, then those cooked before."""
    first = min(plan.batch.cook_on for plan in plans)
    return [
        brief.id
        for brief in sorted(near, key=lambda one: (one.id not in bought_for, one.cook_on, one.name))
        if brief.id in bought_for or brief.cook_on < first
    ]


def read_trips(session: Session) -> tuple[dict[uuid.UUID, uuid.UUID], set[uuid.UUID]]:
    """The trip that is going on by its batches, and the batches that were bought for."""
    trip, of = tables.Trip, tables.TripBatch
    rows = session.execute(select(of.batch_id, trip.id, trip.finished_at).join(trip, trip.id == of.trip_id)).all()
    return {row.batch_id: row.id for row in rows if row.finished_at is None}, {
        row.batch_id for row in rows if row.finished_at is not None
    }


def open_others(session: Session, batch_ids: Sequence[uuid.UUID]) -> list[BatchBrief]:
    """The batches that are not packed yet, without some."""
    return [
        brief
        for brief in stored.read_briefs(session)
        if brief.packed_at is None and brief.put_away_at is None and brief.id not in batch_ids
    ]


def _item(
    food: tables.Food,
    needs: list[NeedView],
    market: Market,
    measures: Sequence[Measure],
    house: House,
    pots: Mapping[uuid.UUID, PlanComponentView],
    *,
    asked: bool,
    today: date,
) -> ItemView:
    aisle = aisle_of(food)
    grams = sum(need.grams for need in needs)
    in_house = house.deal(food.id, needs)
    in_house_g = sum(one.grams for one in in_house)
    to_buy_g = grams - in_house_g if grams - in_house_g >= LEAST_G else 0.0
    packs, offers = market.packs(food.id), market.offers(food.id)
    choices = market.choices(food.id, to_buy_g)
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
        picked=picked_words(to_buy_g, ((one.name, one.grams) for one in measures)) if to_buy_g else "",
        pot_id=_only_pot(needs, pots),
        choices=[_packs_view(packs, offers, found, today) for found in choices],
        passed_over=tuple(pack.name for pack in market.passed_over(food.id)),
        leaves_more=bool(choices) and choices[0].left_g > market.most_left_g(to_buy_g) + LEAST_G,
        enough=_enough(needs, pots, choices[0], offers, in_house_g) if choices else [],
        by_net=food.state == _DRAINED and any(not pack.drained_g for pack in packs),
    )


def _only_pot(needs: Sequence[NeedView], pots: Mapping[uuid.UUID, PlanComponentView]) -> uuid.UUID | None:
    """The pot that a food goes into, where it is one alone and not weighed."""
    key = needs[0].component_id if len(needs) == 1 else None
    return key if key is not None and pots[key].weighing is None else None


def _enough(
    needs: Sequence[NeedView],
    pots: Mapping[uuid.UUID, PlanComponentView],
    chosen: Packs,
    offers: Sequence[PackOffer],
    in_house_g: float,
) -> list[EnoughView]:
    """How sure all pots of a food suffice with the chosen packs, and with one of the smallest more or fewer.

    More or less of the food is shared out in proportion, and each pot comes out as it does by itself: the probability
    that all suffice is the product of theirs.
    """
    of_food = [pots[need.component_id] for need in needs if need.component_id is not None]
    if all(pot.enough is None for pot in of_food) or len(of_food) != len(needs):
        return []
    taken = [offer.covers_g for offer, count in zip(offers, chosen.counts, strict=True) if count]
    needed_g, bought_g = sum(need.grams for need in needs), sum(chosen.grams(offers))
    found = []
    # What is sold by weight is bought as it is needed: nothing is one pack more.
    for packs in (0,) if any(chosen.weighed_g) else (-1, 0, 1):
        grams = in_house_g + bought_g + packs * min(taken, default=0.0)
        factor = 1.0 if abs(grams - needed_g) < 2 * LEAST_G else grams / needed_g
        found.append(EnoughView(packs=packs, grams=grams, share=math.prod(_suffices(pot, factor) for pot in of_food)))
    return found


def _suffices(pot: PlanComponentView, factor: float) -> float:
    """With which probability a pot suffices that is made so many times as large; one whose weight does not spread does,
    or not."""
    needed_g = pot.needed_g + pot.fresh_g
    if pot.enough is None:
        return float(pot.cooked_g * factor >= needed_g - LEAST_G)
    return enough_share(pot.cooked_g * factor, pot.cooked_low_g * factor, needed_g)


def _packs_view(packs: Sequence[tables.Pack], offers: Sequence[PackOffer], found: Packs, today: date) -> PacksView:
    return PacksView(
        packs=[
            PackCount(
                name=pack.name,
                grams=weighed_g or offer.covers_g,
                count=1 if weighed_g else count,
                shop=pack.shop,
                price=_price(offer, weighed_g),
                seen_on=pack.seen_on,
                is_old=pack.price is not None and is_old(pack.seen_on, today),
                sold=pack.sold,
            )
            for pack, offer, count, weighed_g in zip(packs, offers, found.counts, found.weighed_g, strict=True)
            if count or weighed_g
        ],
        left_g=found.left_g,
        cost=None if found.cost_cents is None else found.cost_cents / 100,
    )


def _price(offer: PackOffer, weighed_g: float) -> float | None:
    """What a pack costs, or what so much that is sold by weight does."""
    cents = offer.price_of(weighed_g) if weighed_g else offer.price_cents
    return None if cents is None else cents / 100
