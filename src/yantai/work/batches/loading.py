"""A batch read with all that its plan is computed from."""

from __future__ import annotations

import uuid
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import groupby

from sqlalchemy import ColumnElement, Select, Text, cast, func, literal, select
from sqlalchemy.dialects.postgresql import aggregate_order_by
from sqlalchemy.orm import Session, selectinload

from yantai.core.foods.energy import Rules
from yantai.core.foods.exclusions import Contents, Reason, reasons
from yantai.core.planning.client_bounds import most_of
from yantai.core.shopping.packs import Sold
from yantai.store import tables
from yantai.work.batches.targets_taken import OwnTargets, own_targets
from yantai.work.batches.views import (
    PotReading,
    VesselView,
    WeighingView,
)
from yantai.work.clients.kept_out import client_bounds, kept_out
from yantai.work.common.errors import Missing
from yantai.work.pantry.composition import contents, root_id
from yantai.work.pantry.market import Market
from yantai.work.recipes.larder import Larder
from yantai.work.recipes.measured import open_weighings


@dataclass(frozen=True, kw_only=True)
class Loaded:
    """A batch row with everything its plan is computed from; `vessels` are empty weights [g] by name, `packs` those
    that each food is bought in, `own_targets` what its clients aim at now; `basis` was read before all of it. `market`
    is asked where cost decides something: of an open batch whose containers have a budget."""

    batch: tables.Batch
    larder: Larder
    weighings: dict[uuid.UUID, WeighingView]
    vessels: dict[str, float]
    packs: dict[uuid.UUID, list[tables.Pack]]
    own_targets: OwnTargets
    basis: str = ""
    market: Market | None = None

    @cached_property
    def foods(self) -> dict[uuid.UUID, list[tables.Food]]:
        """What each component is made of, by its id: asked for every container of the batch."""
        return {component.id: self.larder.foods_of(component.lines) for component in self.batch.components}

    @cached_property
    def contents(self) -> dict[str, Contents]:
        """The same as words that keep something out see it, by the component's id as text."""
        return {
            str(component.id): contents(component.name, self.foods[component.id]) for component in self.batch.components
        }

    def is_weighed(self, component: tables.Component) -> bool:
        """It stood on the scale, whole or in part: what is in it is settled."""
        return component.id in self.weighings or bool(component.weighed_parts)

    def with_foods(self, session: Session) -> Loaded:
        """The same with the larder read again, for foods that came in since."""
        return replace(self, larder=_larder(session, self.batch))

    @cached_property
    def dishes(self) -> dict[uuid.UUID, tables.Dish]:
        """The dishes by their ids."""
        return {dish.id: dish for dish in self.batch.dishes}

    @cached_property
    def components(self) -> dict[uuid.UUID, tables.Component]:
        """The components by their ids."""
        return {component.id: component for component in self.batch.components}

    @cached_property
    def aside(self) -> set[uuid.UUID]:
        """The components that are out of the day's plan, by their ids."""
        return {component.id for component in self.batch.components if component.aside}

    def parts_of(self, dish: tables.Dish) -> list[tables.Part]:
        """The parts of a dish that are in the day's plan, in order."""
        return [part for part in dish.parts if part.component_id not in self.aside]

    def contents_of(self, dish: tables.Dish) -> dict[str, Contents]:
        """The contents of a dish, by the component's id as text."""
        return {str(part.component_id): self.contents[str(part.component_id)] for part in self.parts_of(dish)}

    def kept_out(self, client: tables.Client, dish: tables.Dish) -> dict[str, tuple[Reason, ...]]:
        """Why each component of a dish stays out of a client's containers, by its id as text."""
        return kept_out(client, dish.recipe.name, self.contents_of(dish))

    def at_most(self, client: tables.Client, dish: tables.Dish) -> dict[str, float]:
        """What a client has at most of each component of a dish [g], by its id as text."""
        names = {str(part.component_id): self.components[part.component_id].name for part in self.parts_of(dish)}
        bounds = client_bounds(client)
        found = {key: most_of(name, bounds) for key, name in names.items()} if bounds else {}
        return {key: grams for key, grams in found.items() if grams is not None}

    def eating(self, component: tables.Component) -> list[tables.Client]:
        """The clients who get a component: what takes its place must not be kept from any of them."""
        found = {}
        for row in self.batch.classes:
            if not self.kept_out(row.client, self.dishes[row.dish_id]).get(str(component.id), (True,)):
                found[row.client_id] = row.client
        return list(found.values())

    def disliked(self, client: tables.Client, dish: tables.Dish) -> dict[str, tuple[Reason, ...]]:
        """What a client does not like of each component of a dish, by its id as text."""
        return reasons(dish.recipe.name, self.contents_of(dish), avoided=(), words=client.dislikes)


def batch_query() -> Select[tables.Batch]:
    """Batches with components, lines, steps, foods, dishes, parts, rows, clients and pins."""
    batch, component, row, dish = tables.Batch, tables.Component, tables.ContainerClass, tables.Dish
    part = tables.Part
    lines = selectinload(batch.components).selectinload(component.lines)
    steps = selectinload(batch.components).selectinload(component.steps)
    here = batch.dishes.and_(dish.removed.is_(False))
    # Containers of a dish that is out of the batch are out with it, and come back as they were.
    of_dishes = row.dish_id.in_(select(dish.id).where(dish.removed.is_(False)))
    rows = batch.classes.and_(row.removed.is_(False), of_dishes)
    return select(batch).options(
        lines,
        steps,
        selectinload(here).joinedload(dish.recipe),
        selectinload(here).selectinload(dish.parts.and_(part.removed.is_(False))),
        selectinload(rows).joinedload(row.client),
        selectinload(rows).selectinload(row.pins),
    )


def basis_of(batch: type[tables.Batch]) -> ColumnElement[str]:
    """The state of what the plan of a batch is computed from besides its own rows, as a text that changes with it:
    the workspace's rules and foods, reference data, its recipes, its clients, and what other batches measured of the
    same foods and components."""
    client, recipe, line, food, dish = tables.Client, tables.Recipe, tables.Line, tables.Food, tables.Dish
    component, row, weighing = tables.Component, tables.ContainerClass, tables.Weighing
    eaters = select(row.client_id).where(row.batch_id == batch.id)
    versions = select(func.string_agg(cast(client.version, Text), aggregate_order_by(literal(","), client.id)))
    histories = select(component.recipe_component_id).where(component.batch_id == batch.id)
    foods = (
        select(func.coalesce(food.superseded_by, food.id))
        .join(line, line.food_id == food.id)
        .join(component, component.id == line.component_id)
        .where(component.batch_id == batch.id)
    )
    elsewhere = select(func.count(weighing.id)).where(weighing.batch_id != batch.id)
    states = (
        select(tables.Workspace.basis).scalar_subquery(),
        select(func.max(tables.ReferenceLoad.number)).scalar_subquery(),
        select(func.string_agg(cast(recipe.version, Text), aggregate_order_by(literal(","), dish.position)))
        .join(dish, dish.recipe_id == recipe.id)
        .where(dish.batch_id == batch.id)
        .scalar_subquery(),
        versions.where(client.id.in_(eaters)).scalar_subquery(),
        elsewhere.where(weighing.recipe_component_id.in_(histories)).scalar_subquery(),
        elsewhere.where(weighing.food_id.in_(foods)).scalar_subquery(),
    )
    return func.concat_ws("/", *(func.coalesce(cast(state, Text), "") for state in states))


def load(session: Session, batch_id: uuid.UUID, *, lock: bool = False) -> Loaded:
    """Read a batch.

    Raises:
        Missing: there is no such batch here.
    """
    query = batch_query().where(tables.Batch.id == batch_id)
    batch = session.scalar(query.with_for_update(of=tables.Batch) if lock else query)
    if batch is None:
        raise Missing("There is no such batch. It may have been removed in another window.")
    basis = session.scalars(select(basis_of(tables.Batch)).where(tables.Batch.id == batch_id)).one()
    return replace(loaded(session, batch), basis=basis)


def loaded(session: Session, batch: tables.Batch, *, rules: Rules | None = None) -> Loaded:
    """A batch row with its larder and weighings, counted by `rules` or those it has."""
    larder = _larder(session, batch, rules)
    vessels = {row.name: row.empty_g for row in session.scalars(select(tables.Vessel).order_by(tables.Vessel.name))}
    packs: dict[uuid.UUID, list[tables.Pack]] = {}
    # What is sold by weight decides nothing: it is taken as it is needed.
    whole = tables.Pack.food_id.in_(larder.foods), tables.Pack.sold != Sold.WEIGHT
    bought = select(tables.Pack).where(*whole).order_by(tables.Pack.grams)
    for pack in session.scalars(bought):
        packs.setdefault(pack.food_id, []).append(pack)
    return Loaded(
        batch=batch,
        larder=larder,
        weighings=_weighings(session, batch.id),
        vessels=vessels,
        packs=packs,
        own_targets=own_targets(session, {row.client_id for row in batch.classes}, larder.rules),
        market=_market(session, batch, larder),
    )


def _market(session: Session, batch: tables.Batch, larder: Larder) -> Market | None:
    if batch.budget is None or batch.packed_at is not None:
        return None
    return Market(session, {root_id(food) for food in larder.foods.values()})


def after_change(session: Session, loaded: Loaded, *, foods_added: bool = False, reload: bool = False) -> Loaded:
    """The same batch after some of its rows changed: the rows are at hand, only weighings are read anew.

    The larder is read again when a food came in that it does not hold yet; with `reload` so is what the batch has.
    """
    if reload:
        query = batch_query().where(tables.Batch.id == loaded.batch.id)
        session.scalars(query.execution_options(populate_existing=True)).one()
    now = loaded.with_foods(session) if foods_added else loaded
    return replace(
        now, weighings=_weighings(session, loaded.batch.id), market=_market(session, loaded.batch, now.larder)
    )


def _larder(session: Session, batch: tables.Batch, rules: Rules | None = None) -> Larder:
    return Larder.read(session, batch.components, rules=rules or kept_rules(batch), except_batch=batch.id)


def kept_rules(batch: tables.Batch) -> Rules | None:
    """The rules a packed batch was packed by; None for an open one, which follows the workspace."""
    if batch.energy_rule is None or batch.carbohydrate is None:
        return None
    return Rules(energy=batch.energy_rule, carbohydrate=batch.carbohydrate)


def _weighings(session: Session, batch_id: uuid.UUID) -> dict[uuid.UUID, WeighingView]:
    """The weighing of each component that counts, with those that nobody chose between; withdrawn ones left out."""
    weighing, account = tables.Weighing, tables.Account
    query = (
        select(weighing, account.name)
        .join(account, account.id == weighing.account_id)
        .where(weighing.batch_id == batch_id)
        .order_by(weighing.component_id, weighing.number)
    )
    found = {}
    for component_id, rows in groupby(session.execute(query), key=lambda each: each[0].component_id):
        names = {each[0]: each[0].weighed_by or each[1] for each in rows}
        open_ones = open_weighings(list(names))
        if open_ones:
            *others, counts = (_reading(row, names[row]) for row in open_ones)
            found[component_id] = WeighingView(
                cooked_g=counts.cooked_g,
                vessels=counts.vessels,
                removed_g=counts.removed_g,
                weighed_at=counts.weighed_at,
                weighed_by=counts.weighed_by,
                others=others,
            )
    return found


def _reading(row: tables.Weighing, name: str) -> PotReading:
    return PotReading(
        cooked_g=row.cooked_g or 0.0,
        vessels=[VesselView(**vessel) for vessel in row.vessels],
        removed_g=row.removed_g,
        weighed_at=row.weighed_at,
        weighed_by=name,
    )
