"""Ways to make a batch cheaper: each is solved, and told with what it saves."""

from __future__ import annotations

import uuid
from collections.abc import Iterator
from datetime import datetime

from sqlalchemy import select

from yantai.core.shopping.money import used_cents
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.batches import stored
from yantai.work.batches.views import BatchBrief
from yantai.work.common.errors import Missing
from yantai.work.common.who import SignedIn
from yantai.work.common.workspace import local_day
from yantai.work.shop.costs import Spent, food_costs
from yantai.work.shop.demand import Market, Wanted
from yantai.work.shop.list import list_of, open_others
from yantai.work.shop.swapping import Trial, tried
from yantai.work.shop.views import CheaperView, ShoppingList

DEAREST = 5
"""So many foods are tried to be replaced: those that cost most."""
MOST_OTHERS = 4
"""So many other foods are tried for each."""
NEAREST_BATCHES = 3
LEAST_SAVED = 5
"""Ways that save less are not told [hundredths]."""


def cheaper_ways(database: Database, who: SignedIn, batch_id: uuid.UUID, now: datetime) -> list[CheaperView]:
    """What would make a batch cheaper, what saves most first. Of a packed batch there is none.

    A food in the place of a dear one is tried in the plan: every container that meets its target still does, and nobody
    must avoid it. What is bought together with another batch saves by packs that are shared.

    Raises:
        Missing: there is no such batch.
    """
    with stored.reading(database, who, lambda _: None) as session:
        batch = session.get(tables.Batch, batch_id)
        if batch is None or batch.deleted_at is not None:
            raise Missing("There is no such batch. It may have been removed in another window.")
        if batch.packed_at is not None:
            return []
        plan = stored.read_view(session, batch_id)
        spent = sorted(food_costs(session, plan), key=lambda one: -one.used)[:DEAREST]
        today = local_day(session, now)
        alone = list_of(session, [batch_id], Wanted(), today)
        near = sorted(open_others(session, [batch_id]), key=lambda one: abs((one.cook_on - batch.cook_on).days))
        found: list[CheaperView] = []
        for other in near[:NEAREST_BATCHES]:
            by_itself = list_of(session, [other.id], Wanted(), today)
            together = list_of(session, [batch_id, other.id], Wanted(), today)
            found += _together(other, alone, by_itself, together)
    for one in spent:
        found += _foods(database, who, batch_id, one, now)
    return sorted(found, key=lambda way: (-way.saving, way.title))


def _together(
    other: BatchBrief, alone: ShoppingList, by_itself: ShoppingList, together: ShoppingList
) -> Iterator[CheaperView]:
    """Bought in one trip with another batch: packs that both share."""
    apart: dict[uuid.UUID, int] = {}
    for item in (*alone.items, *by_itself.items):
        if item.choices and item.choices[0].cost is not None:
            apart[item.food_id] = apart.get(item.food_id, 0) + round(item.choices[0].cost * 100)
    both = {item.food_id for item in alone.items} & {item.food_id for item in by_itself.items}
    saved = {
        item.name: apart[item.food_id] - round(item.choices[0].cost * 100)
        for item in together.items
        if item.food_id in both and item.food_id in apart and item.choices and item.choices[0].cost is not None
    }
    # What is in the house may be dealt otherwise when both are bought for: only what is saved is told.
    cents = sum(saved.values())
    if cents >= LEAST_SAVED:
        most = sorted((name for name, value in saved.items() if value > 0), key=lambda name: (-saved[name], name))
        yield CheaperView(
            kind="together",
            title=f"Buy for “{other.name}” in the same trip",
            detail=f"Packs are shared: {', '.join(most[:3])}.",
            saving=cents / 100,
            food_id=None,
            other_id=None,
            with_id=other.id,
        )


def _foods(database: Database, who: SignedIn, batch_id: uuid.UUID, one: Spent, now: datetime) -> Iterator[CheaperView]:
    """Foods of the same group and state that cost less, tried in the plan."""
    grams = sum(need.grams for need in one.needs)
    if one.unpriced_g or not grams:
        return
    with database.reading(who.workspace_id) as session:
        food = tables.Food
        same = select(food.id).where(
            food.superseded_by.is_(None), food.archived_at.is_(None), food.weak.is_(False),
            food.food_group == one.food.food_group, food.state == one.food.state, food.id != one.food.id,
        )  # fmt: skip
        market = Market(session, set(session.scalars(same)))
    per_g = {key: _cents_per_g(market, key, grams) for key in market.foods}
    cheap = [key for key, cents in per_g.items() if cents is not None and cents < one.used / grams]
    for other_id in sorted(cheap, key=lambda key: (per_g[key] or 0, str(key)))[:MOST_OTHERS]:
        found = tried(database, who, batch_id, one.food.id, other_id, now)
        if found is None:
            continue
        saving = _saving(one, market, other_id, found)
        if saving >= LEAST_SAVED:
            yield CheaperView(
                kind="food",
                title=f"{found.name} instead of {one.food.name}",
                detail="Every container that meets its target still does.",
                saving=saving / 100,
                food_id=one.food.id,
                other_id=other_id,
                with_id=None,
            )


def _saving(one: Spent, market: Market, other_id: uuid.UUID, found: Trial) -> int:
    """What the used share of another food costs less [hundredths]."""
    choices = market.choices(other_id, found.grams)
    cents = choices[0].cost_cents if choices else None
    return 0 if cents is None else one.used - used_cents(cents, found.grams, found.grams + choices[0].left_g)


def _cents_per_g(market: Market, food_id: uuid.UUID, grams: float) -> float | None:
    choices = market.choices(food_id, grams)
    cents = choices[0].cost_cents if choices else None
    return None if cents is None else cents / (grams + choices[0].left_g)
