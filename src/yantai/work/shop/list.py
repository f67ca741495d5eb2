"""What is to be bought for some batches, each food once."""

from __future__ import annotations

import uuid
from collections import defaultdict
from collections.abc import Mapping, Sequence

from sqlalchemy import select
from sqlalchemy.orm import Session

from yantai.core.cooking.components import LineRole
from yantai.core.shopping.packs import PackOffer, Packs, covering, covers_g
from yantai.formats import shopping_csv
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.batches import stored
from yantai.work.batches.views import BatchBrief, PlanView
from yantai.work.common.errors import Missing
from yantai.work.common.who import SignedIn
from yantai.work.pantry.composition import cookable
from yantai.work.shop.aisles import aisle_of
from yantai.work.shop.views import ItemView, NeedView, PackCount, PacksView, ShoppedBatch, ShoppingList

_DRAINED = "canned-drained"
_LEAST_G = 0.05
"""Less of a food than rounds to a tenth of a gram is not bought."""


def read_list(database: Database, who: SignedIn, batch_id: uuid.UUID, others: Sequence[uuid.UUID]) -> ShoppingList:
    """The list for a batch and for `others` that are bought in the same trip, from their plans as they are stored.

    What is weighed is in the pan, and bought; what was added at the stove was in the house; water comes from the tap.

    Raises:
        Missing: one of the batches is not here.
    """
    wanted = list(dict.fromkeys([batch_id, *others]))
    with stored.reading(database, who, lambda _: None) as session:
        briefs = {brief.id: brief for brief in stored.read_briefs(session)}
        if not briefs.keys() >= set(wanted):
            raise Missing("There is no such batch. It may have been removed in another window.")
        plans = [stored.read_view(session, key) for key in wanted]
        near = [brief for key, brief in briefs.items() if _is_open(brief) and key not in wanted]
        needs = _needs(session, plans)
        foods = {food.id: food for food in session.scalars(select(tables.Food).where(tables.Food.id.in_(needs)))}
        items = _items(foods, needs, _packs(session, needs))
    costs = [item.choices[0].cost for item in items if item.choices and item.choices[0].cost is not None]
    return ShoppingList(
        batches=[ShoppedBatch(id=one.batch.id, name=one.batch.name, cook_on=one.batch.cook_on) for one in plans],
        others=[
            ShoppedBatch(id=brief.id, name=brief.name, cook_on=brief.cook_on)
            for brief in sorted(near, key=lambda brief: (brief.cook_on, brief.name))
        ],
        items=items,
        cost=round(sum(costs), 2) if costs else None,
        without_price=len(items) - len(costs),
        in_the_pan=[component.name for one in plans for component in one.components if component.weighing is not None],
    )


def export_csv(database: Database, who: SignedIn, batch_id: uuid.UUID, others: Sequence[uuid.UUID]) -> str:
    """The same list as CSV, with the packs that cost least.

    Raises:
        Missing: one of the batches is not here.
    """
    found = read_list(database, who, batch_id, others)
    return shopping_csv.write(_row(item) for item in found.items)


def _row(item: ItemView) -> shopping_csv.ShoppingRow:
    chosen = item.choices[0] if item.choices else None
    packs = [] if chosen is None else [f"{one.count} x {one.name} {one.grams:g} g" for one in chosen.packs]
    return shopping_csv.ShoppingRow(
        aisle=item.aisle,
        food=item.name,
        state=item.state,
        needed_g=item.grams,
        packs=" + ".join(packs),
        left_g=None if chosen is None else chosen.left_g,
        cost=None if chosen is None else chosen.cost,
        wanted_for=", ".join(dict.fromkeys(f"{need.component} ({need.batch})" for need in item.needs)),
    )


def _is_open(brief: BatchBrief) -> bool:
    return brief.packed_at is None and brief.put_away_at is None


def _needs(session: Session, plans: Sequence[PlanView]) -> dict[uuid.UUID, list[NeedView]]:
    """What the lines of the plans need of each food, water left out."""
    wanted: list[NeedView] = []
    for plan in plans:
        for component in plan.components:
            if component.weighing is not None:
                continue
            for line in component.lines:
                if line.added_at is None and line.purchased_g >= _LEAST_G:
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
            found[of.id].append(need)
    return found


def _packs(session: Session, needs: Mapping[uuid.UUID, object]) -> dict[uuid.UUID, list[tables.Pack]]:
    found: dict[uuid.UUID, list[tables.Pack]] = defaultdict(list)
    query = select(tables.Pack).where(tables.Pack.food_id.in_(needs)).order_by(tables.Pack.grams, tables.Pack.name)
    for pack in session.scalars(query):
        found[pack.food_id].append(pack)
    return found


def _items(
    foods: Mapping[uuid.UUID, tables.Food],
    needs: Mapping[uuid.UUID, list[NeedView]],
    packs: Mapping[uuid.UUID, list[tables.Pack]],
) -> list[ItemView]:
    """The foods in the order of the aisles."""
    ordered = sorted(needs, key=lambda key: (aisle_of(foods[key]).order, foods[key].name))
    return [_item(foods[key], needs[key], packs.get(key, [])) for key in ordered]


def _item(food: tables.Food, needs: list[NeedView], packs: list[tables.Pack]) -> ItemView:
    aisle = aisle_of(food)
    grams = sum(need.grams for need in needs)
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
        buy_early=aisle.buy_early,
        keeps_days=aisle.keeps_days,
        grams=grams,
        needs=needs,
        choices=[_packs_view(packs, offers, found) for found in covering(grams, offers)],
        by_net=food.state == _DRAINED and any(not pack.drained_g for pack in packs),
    )


def _packs_view(packs: Sequence[tables.Pack], offers: Sequence[PackOffer], found: Packs) -> PacksView:
    return PacksView(
        packs=[
            PackCount(name=pack.name, grams=offer.covers_g, count=count)
            for pack, offer, count in zip(packs, offers, found.counts, strict=True)
            if count
        ],
        left_g=found.left_g,
        cost=None if found.cost_cents is None else found.cost_cents / 100,
    )
