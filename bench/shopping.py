"""Shopping: a list of several large batches, packs of many foods, cheaper ways, a trip of thousands of items.

YANTAI_TEST_DATABASE_URL=... PYTHONPATH=src:. python -m bench.shopping
"""

from __future__ import annotations

import statistics
import time
import uuid
from collections.abc import Callable
from datetime import UTC, date, datetime, timedelta
from random import Random

from sqlalchemy import select
from tests.support import database, new_kitchen

from yantai.core.shopping.packs import PackOffer, covering
from yantai.core.shopping.trip import TripEvent
from yantai.store import tables
from yantai.work.batches import loading, plans
from yantai.work.batches.inputs import BatchInput, DishInput, EaterInput
from yantai.work.batches.make import create_batch
from yantai.work.clients.clients import save_client
from yantai.work.clients.inputs import ClientInput, TargetInput
from yantai.work.common.who import SignedIn
from yantai.work.pantry.inputs import PackInput, SupplyInput
from yantai.work.pantry.own_foods import save_supply
from yantai.work.recipes.inputs import ComponentInput, LineInput, RecipeInput
from yantai.work.recipes.recipes import save_recipe
from yantai.work.shop.cheaper import cheaper_ways
from yantai.work.shop.costs import read_costs
from yantai.work.shop.demand import Wanted
from yantai.work.shop.exports import as_pdf
from yantai.work.shop.inputs import TripInput
from yantai.work.shop.list import read_list
from yantai.work.shop.trips import read_trip, start

NOW = datetime(2026, 11, 27, 9, tzinfo=UTC)
BATCHES, FOODS, DISHES = 5, 60, 3
ITEMS = 4_000


def median_ms(work: Callable[[], object], times: int = 5) -> str:
    taken = []
    for _ in range(times):
        covering.cache_clear()
        began = time.perf_counter()
        work()
        taken.append((time.perf_counter() - began) * 1000)
    return f"{statistics.median(taken):,.0f} ms"


def foods_with_packs(who: SignedIn, rng: Random) -> list[uuid.UUID]:
    """Foods of many groups, each with one to five packs in two shops."""
    food = tables.Food
    with database().reading(who.workspace_id) as session:
        raw = select(food.id).where(food.state.in_(("raw", "dry")), food.weak.is_(False)).order_by(food.reference)
        ids = list(session.scalars(raw))
    chosen = rng.sample(ids, BATCHES * FOODS)
    for food_id in chosen:
        packs = []
        for n in range(rng.randint(1, 5)):
            grams, shop = rng.choice((200, 250, 400, 500, 750, 1000)) + n, rng.choice(("", "Quay Street Market"))
            packs.append(PackInput(name=f"pack {n}", grams=grams, price=rng.uniform(0.5, 9), shop=shop))
        save_supply(database(), who, food_id, SupplyInput(packs=packs))
    return chosen


def batches(who: SignedIn, foods: list[uuid.UUID]) -> list[uuid.UUID]:
    targets = [
        TargetInput(slot=f"meal {n}", protein_g=40, carbohydrate_g=60, fat_g=15, capacity_ml=900) for n in range(2)
    ]
    clients = [save_client(database(), who, ClientInput(name=f"Client {n}", targets=targets), None) for n in range(6)]
    made = []
    for number in range(BATCHES):
        dishes = []
        for dish in range(DISHES):
            at = number * FOODS + dish * FOODS // DISHES
            mine = foods[at : at + FOODS // DISHES]
            components = [
                ComponentInput(
                    name=f"Component {n}",
                    maximum_g=400,
                    lines=[LineInput(food_id=food_id, purchased_g=200) for food_id in mine[n * 5 : n * 5 + 5]],
                )
                for n in range(4)
            ]
            recipe = save_recipe(
                database(), who, RecipeInput(name=f"Dish {number}.{dish}", components=components), None
            )
            eaters = [EaterInput(target_id=client.targets[0].id, count=3) for client in clients if client.targets[0].id]
            assert recipe.id is not None
            dishes.append(DishInput(recipe_id=recipe.id, eaters=eaters))
        day = date(2026, 11, 29) + timedelta(days=number)
        made.append(
            create_batch(database(), who, BatchInput(name=f"Batch {number}", cook_on=day, dishes=dishes)).batch.id
        )
    return made


def computed(who: SignedIn, batch_id: uuid.UUID, budget: float | None) -> str:
    with database().trial(who.workspace_id) as session:
        session.get_one(tables.Batch, batch_id).budget = budget
        session.flush()
        return median_ms(lambda: plans.compute(loading.load(session, batch_id)))


def main() -> None:
    rng = Random(5)
    sizes = (200, 250, 300, 400, 500, 750, 1000, 2500)
    offers = [
        tuple(
            PackOffer(covers_g=rng.choice(sizes), price_cents=rng.randint(60, 1500)) for _ in range(rng.randint(1, 5))
        )
        for _ in range(200)
    ]
    needs = [rng.uniform(50, 9000) for _ in offers]
    took = median_ms(lambda: [covering(need, of) for need, of in zip(needs, offers, strict=True)])
    print(f"| packs of 200 foods, three choices each | {took} |", flush=True)
    who = new_kitchen()
    ids = batches(who, foods_with_packs(who, rng))
    read_list(database(), who, ids[0], ids[1:], Wanted(), NOW)
    name = f"a list of {BATCHES} batches × {FOODS} foods from stored plans"
    print(f"| {name} | {median_ms(lambda: read_list(database(), who, ids[0], ids[1:], Wanted(), NOW))} |", flush=True)
    print(f"| what a batch of {DISHES} dishes costs | {median_ms(lambda: read_costs(database(), who, ids[0], None))} |")
    took = median_ms(lambda: cheaper_ways(database(), who, ids[0], NOW), times=1)
    print(f"| cheaper ways for a batch of {DISHES} dishes, {FOODS} foods | {took} |", flush=True)
    for budget in (None, 500.0, 4.0):
        name = "without a budget" if budget is None else f"with a budget of {budget:g} a container"
        print(f"| a batch of {DISHES} dishes computed anew {name} | {computed(who, ids[0], budget)} |", flush=True)
    found = read_list(database(), who, ids[0], ids[1:], Wanted(), NOW)
    print(f"| that list as a PDF | {median_ms(lambda: as_pdf(found))} |", flush=True)
    trip = start(database(), who, TripInput(batches=ids[:1]), NOW)
    with database().workspace(who.workspace_id) as session:
        of_trip = {"workspace_id": who.workspace_id, "trip_id": trip.id, "made_by": "Bench"}
        when = {"happened_at": NOW, "made_at": NOW}
        for n in range(ITEMS):
            by_hand = tables.TripEntry(item=uuid.uuid4(), event=TripEvent.ADDED, text=f"item {n}", **of_trip, **when)
            session.add(by_hand)
    took = median_ms(lambda: read_trip(database(), who, trip.id, NOW))
    print(f"| a trip with {ITEMS:,} items | {took} |", flush=True)


if __name__ == "__main__":
    main()
