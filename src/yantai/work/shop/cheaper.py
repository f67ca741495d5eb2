"""Ways to make a batch cheaper: each is solved, and told with what it saves."""

from __future__ import annotations

import uuid
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from itertools import islice
from typing import Literal

from sqlalchemy import select
from sqlalchemy.orm import Session

from yantai.core.cooking.components import LineRole
from yantai.core.cooking.surely import enough_share
from yantai.core.errors import CoreError
from yantai.core.shopping.money import used_cents
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.batches import loading, plans, stored
from yantai.work.batches.component_commands import component_change
from yantai.work.batches.copying import copied_component
from yantai.work.batches.inputs import Change, RawAmount, SetRaw
from yantai.work.batches.sharing import dishes_of
from yantai.work.batches.views import BatchBrief, PlanView
from yantai.work.clients.kept_out import kept_out
from yantai.work.common.errors import Missing
from yantai.work.common.who import SignedIn
from yantai.work.common.workspace import local_day
from yantai.work.pantry.composition import contents, cookable, root_id
from yantai.work.pantry.ledger import LEAST_G
from yantai.work.pantry.market import Market
from yantai.work.recipes.larder import Larder
from yantai.work.recipes.recipes import read_recipes
from yantai.work.shop.aisles import aisle_of
from yantai.work.shop.costs import Spent, cost_view, food_costs
from yantai.work.shop.demand import Wanted
from yantai.work.shop.list import list_of, open_others
from yantai.work.shop.swapping import Attempt, Trial, another_food, tried
from yantai.work.shop.views import CheaperView, CostView, ItemView, ShoppingList

DEAREST = 5
"""So many foods, and components, are tried to be replaced: those that cost most."""
MOST_OTHERS = 4
"""So many others are tried for each."""
MOST_TOLD = 2
"""So many of them are told of each: those that cost least."""
NEAREST_BATCHES = 3
WORTH_TELLING = 1.1
"""What has no price is told where the batch takes more of it than so many times what it did."""
LEAST_SAVED = 5
"""Ways that save less are not told [hundredths]."""
Kind = Literal["food", "component", "waste"]


@dataclass(frozen=True, kw_only=True)
class _Batch:
    """A batch that shall cost less, as it is: its plan, its list and what it costs."""

    database: Database
    who: SignedIn
    plan: PlanView
    now: datetime
    spent: Sequence[Spent]
    costs: CostView
    alone: ShoppingList

    @property
    def id(self) -> uuid.UUID:
        """Its id."""
        return self.plan.batch.id

    @property
    def in_house_g(self) -> dict[uuid.UUID, float]:
        """What is in the house for it [g]."""
        return {item.food_id: item.in_house_g for item in self.alone.items}


def cheaper_ways(database: Database, who: SignedIn, batch_id: uuid.UUID, now: datetime) -> list[CheaperView]:
    """What would make a batch cheaper, what saves most first. Of a packed batch there is none.

    A food or a component in the place of a dear one, and a pack fewer in a pot, are tried in the plan: every container
    that meets its target still does, no pot is short, and nobody must avoid it. What is bought together with another
    batch saves by packs that are shared.

    Raises:
        Missing: there is no such batch.
    """
    with stored.reading(database, who, lambda _: None) as session:
        row = session.get(tables.Batch, batch_id)
        if row is None or row.deleted_at is not None:
            raise Missing("There is no such batch. It may have been removed in another window.")
        if row.packed_at is not None:
            return []
        plan, today = stored.read_view(session, batch_id), local_day(session, now)
        spent = food_costs(session, plan)
        batch = _Batch(
            database=database,
            who=who,
            plan=plan,
            now=now,
            spent=sorted(spent, key=lambda one: -one.used)[:DEAREST],
            costs=cost_view(plan, spent, None),
            alone=list_of(session, [batch_id], Wanted(), today),
        )
        found = list(_together(session, batch, today))
    for ways in (_foods, _components, _fewer_packs):
        found += ways(batch)
    return sorted(found, key=lambda way: (-way.saving, way.title))


def _together(session: Session, batch: _Batch, today: date) -> Iterator[CheaperView]:
    """Bought in one trip with another batch: packs that both share."""
    cook_on = batch.plan.batch.cook_on
    near = sorted(open_others(session, [batch.id]), key=lambda one: abs((one.cook_on - cook_on).days))
    for other in near[:NEAREST_BATCHES]:
        by_itself = list_of(session, [other.id], Wanted(), today)
        yield from _shared(other, batch.alone, by_itself, list_of(session, [batch.id, other.id], Wanted(), today))


def _shared(
    other: BatchBrief, alone: ShoppingList, by_itself: ShoppingList, together: ShoppingList
) -> Iterator[CheaperView]:
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
            changes=[],
            with_id=other.id,
        )


def _foods(batch: _Batch) -> Iterator[CheaperView]:
    """Foods of the same group and state that cost less, in the place of the dearest."""
    for one in batch.spent:
        grams = sum(need.grams for need in one.needs)
        if one.unpriced_g or not grams:
            continue
        with batch.database.reading(batch.who.workspace_id) as session:
            food = tables.Food
            same = select(food.id, food.name).where(
                food.superseded_by.is_(None), food.archived_at.is_(None), food.weak.is_(False),
                food.food_group == one.food.food_group, food.state == one.food.state, food.id != one.food.id,
            )  # fmt: skip
            names = {row.id: row.name for row in session.execute(same)}
            market = Market(session, names)
        per_g = {key: _used(market, key, grams) / grams for key in market.foods if market.is_priced(key)}
        cheap = [key for key, cents in per_g.items() if cents < one.used / grams]
        ways = (
            way
            for other_id in sorted(cheap, key=lambda key: (per_g[key], str(key)))[:MOST_OTHERS]
            for way in _way(
                batch,
                "food",
                f"{names[other_id]} instead of {one.food.name}",
                another_food(one.food.id, other_id),
                _used,
            )
        )
        yield from islice(ways, MOST_TOLD)


def _components(batch: _Batch) -> Iterator[CheaperView]:
    """Components of other recipes, of the same role, in the place of the dearest."""
    with batch.database.reading(batch.who.workspace_id) as session:
        offers = list(_offers(session, batch))
    for of_one in offers:
        ways = (way for title, change in of_one for way in _way(batch, "component", title, _only(change), _used))
        yield from islice(ways, MOST_TOLD)


def _only(change: Change) -> Attempt:
    return lambda session, before: [change]


def _offers(session: Session, batch: _Batch) -> Iterator[list[tuple[str, Change]]]:
    """What could stand in the place of each of the dearest components: the cheapest by 100 g cooked, of which all
    prices are known."""
    loaded = loading.load(session, batch.id)
    taken = {dish.recipe_id for dish in loaded.batch.dishes}
    recipes = [recipe for recipe in read_recipes(session) if recipe.id not in taken]
    larder = Larder.read(session, [each for recipe in recipes for each in recipe.components])
    market = Market(session, {root_id(food) for food in larder.foods.values()})
    dearest = sorted(batch.costs.components, key=lambda one: -one.cost)[:DEAREST]
    known = {one.component_id: one.per_100g for one in dearest}
    for component in loaded.batch.components:
        now = known.get(component.id)
        if now is None or component.id in loaded.weighings or len(dishes_of(loaded, component)) > 1:
            continue
        cheaper: list[tuple[float, str, tables.Component]] = []
        for recipe in recipes:
            for other in recipe.components:
                cents = _per_100g(larder, market, other) if other.served and other.role == component.role else None
                made_of = {"": contents(other.name, larder.foods_of(other.lines))}
                avoided = any(kept_out(client, recipe.name, made_of)[""] for client in loaded.eating(component))
                if cents is not None and cents < 100 * now and not avoided:
                    cheaper.append((cents, f"{other.name} from “{recipe.name}” instead of {component.name}", other))
        yield [
            (title, component_change(copied_component(larder, batch.who, other), other.portioning, into=component.id))
            for _, title, other in sorted(cheaper, key=lambda one: one[:2])[:MOST_OTHERS]
        ]


def _per_100g(larder: Larder, market: Market, component: tables.Component) -> float | None:
    """What 100 g of a component of a recipe cost [hundredths], without what is taken by the spoon; None where a price
    is not known."""
    cents = 0.0
    for line in component.lines:
        food = None if line.food_id is None else larder.foods.get(line.food_id)
        if food is None:
            return None
        if cookable(food).role is LineRole.WATER or aisle_of(food).in_cupboard or not line.purchased_g:
            continue
        if not market.is_priced(root_id(food)):
            return None
        cents += _used(market, root_id(food), line.purchased_g)
    try:
        return 100 * cents / larder.component(component).expected_g
    except CoreError:
        return None


def _fewer_packs(batch: _Batch) -> Iterator[CheaperView]:
    """A pack fewer in a pot of which more is cooked than the containers take: the rest of it follows in proportion."""
    for item in batch.alone.items:
        chosen = item.choices[0] if item.choices else None
        packs = [] if chosen is None else [pack for pack in chosen.packs if pack.sold != "by weight"]
        if chosen is None or item.pot_id is None or not packs or chosen.left_g < 1:
            continue
        least = min(packs, key=lambda pack: pack.grams)
        grams = item.in_house_g + item.to_buy_g + chosen.left_g - least.grams
        if grams > 0:
            title = f"One {least.name} of {item.name} fewer"
            yield from _way(batch, "waste", title, _less_raw(item, grams), _paid)


def _less_raw(item: ItemView, grams: float) -> Attempt:
    """A pot made of so much [g] of a food, the rest of it in proportion."""

    def changes(_: Session, before: loading.Loaded) -> Sequence[Change]:
        computed = plans.compute(before)
        component = next(one for one in computed.components if one.id == item.pot_id)
        lines = [
            RawAmount(line_id=line.id, purchased_g=sized.purchased_g * grams / item.grams)
            for line, sized in zip(component.lines, computed.need(component).lines, strict=True)
        ]
        return [SetRaw(component_id=component.id, fixed=True, lines=lines)]

    return changes


def _sure_words(trial: Trial) -> str:
    """With which probability the pots that were made smaller suffice then."""
    told = []
    for change in trial.changes:
        if isinstance(change, SetRaw):
            component = next(one for one in trial.computed.components if one.id == change.component_id)
            need = trial.computed.need(component)
            share = enough_share(need.cooked_g, need.cooked_low_g, need.needed_g + need.fresh_g)
            told.append(f" With what was to spare gone, {component.name} suffices with {share:.0%}.")
    return "".join(told)


Counted = Callable[[Market, uuid.UUID, float], int]
"""What is counted of so much of a food [g] that is to be bought [hundredths]."""


def _used(market: Market, food_id: uuid.UUID, grams: float) -> int:
    """The used share of the packs."""
    choices = market.choices(food_id, grams)
    cents = choices[0].cost_cents if choices else None
    return 0 if cents is None else used_cents(cents, grams, grams + choices[0].left_g)


def _paid(market: Market, food_id: uuid.UUID, grams: float) -> int:
    """All of the packs."""
    choices = market.choices(food_id, grams)
    return (choices[0].cost_cents or 0) if choices else 0


def _way(batch: _Batch, kind: Kind, title: str, attempt: Attempt, counted: Counted) -> list[CheaperView]:
    """The way that an attempt makes, where it can be, saves something, and its prices are known; else none."""
    with tried(batch.database, batch.who, batch.id, attempt, batch.now) as trial:
        if trial is None:
            return []
        grams = {key: (trial.before_g.get(key, 0.0), after_g) for key, after_g in trial.after_g.items()}
        grams |= {key: (before_g, 0.0) for key, before_g in trial.before_g.items() if key not in grams}
        changed = {key: pair for key, pair in grams.items() if abs(pair[0] - pair[1]) >= LEAST_G}
        market = Market(trial.session, changed)
        staple = tables.Staple
        always = set(trial.session.scalars(select(staple.food_id).where(staple.is_always_there)))
        more = {key for key, (before_g, after_g) in changed.items() if after_g > WORTH_TELLING * before_g} - always
        unpriced = [key for key in more if not market.is_priced(key)]
        foods = {key: trial.session.get_one(tables.Food, key) for key in sorted(unpriced)}
        # What is in the batch already may be a little more then, and is told; what comes in has to have its price.
        if not all(trial.before_g.get(key) or aisle_of(food).in_cupboard for key, food in foods.items()):
            return []
        before, after = (
            sum(
                counted(market, key, max(pair[side] - batch.in_house_g.get(key, 0.0), 0.0))
                for key, pair in changed.items()
            )
            for side in (0, 1)
        )
        if before - after < LEAST_SAVED:
            return []
        told = f" No price is known of {', '.join(food.name for food in foods.values())}." if foods else ""
        return [
            CheaperView(
                kind=kind,
                title=title,
                detail=f"Every container that meets its target still does.{_sure_words(trial)}{told}",
                saving=(before - after) / 100,
                changes=list(trial.changes),
                with_id=None,
            )
        ]
