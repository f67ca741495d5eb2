"""Another component in the place of one, and another batch."""

from __future__ import annotations

import uuid
from collections.abc import Iterator
from dataclasses import replace

from yantai.core.errors import CoreError
from yantai.core.planning import dishes as core
from yantai.core.planning.portioning import School
from yantai.core.portions import solve
from yantai.core.portions.ways import can_meet, moved
from yantai.store import tables
from yantai.work.batches import loading, plans
from yantai.work.batches.component_commands import component_change
from yantai.work.batches.copying import copied_component
from yantai.work.batches.inputs import MoveRow
from yantai.work.batches.sharing import dishes_of
from yantai.work.clients.kept_out import kept_out
from yantai.work.pantry.composition import contents, root_id
from yantai.work.pantry.market import Market
from yantai.work.plan.views import WayView
from yantai.work.plan.ways.missed import (
    MOST_OF_A_KIND,
    MOST_TRIED,
    MissedRow,
    Recast,
    keeps_the_others,
    then_words,
)
from yantai.work.recipes.larder import Larder
from yantai.work.recipes.parts import part_of
from yantai.work.recipes.recipes import read_recipes

_MOST_BATCHES = 10


def swap_ways(missed: MissedRow) -> Iterator[WayView]:
    """A component of another recipe, of the same role, in the place of one that is not cooked yet."""
    loaded = missed.computed.loaded
    recipes = [recipe for recipe in read_recipes(missed.session) if recipe.id != missed.recipe_id]
    larder = Larder.read(missed.session, [each for recipe in recipes for each in recipe.components])
    market = Market(missed.session, {root_id(food) for food in larder.foods.values()}) if missed.has_budget else None
    found = []
    for component in missed.components:
        part = missed.dish.parts[str(component.id)]
        if (
            len(dishes_of(loaded, component)) > 1
            or part.stays_as_written
            or (str(component.id),) not in missed.question.keys
        ):
            continue
        eating = missed.computed.loaded.eating(component)
        for recipe in recipes:
            for other_component in recipe.components:
                alike = other_component.served and other_component.role == component.role
                made_of = {"": contents(other_component.name, larder.foods_of(other_component.lines))}
                if alike and not any(kept_out(client, recipe.name, made_of)[""] for client in eating):
                    found += _swap(missed, component, part, recipe, other_component, larder, market)
    nearest = sorted(found, key=lambda one: one.moved)[:MOST_TRIED]
    proven = (way for way in nearest if keeps_the_others(missed, way))
    for _, way in zip(range(MOST_OF_A_KIND), proven, strict=False):
        yield way.view


def _swap(
    missed: MissedRow,
    component: tables.Component,
    part: core.Part,
    recipe: tables.Recipe,
    other_component: tables.Component,
    larder: Larder,
    market: Market | None,
) -> list[Recast]:
    try:
        other = part_of(larder, other_component, other_component.portioning, share_g=part.share)
        other = replace(other, group=part.group, takes_g=part.takes_g)
    except CoreError:
        # What another recipe cannot make of itself now is no way out here.
        return []
    question = missed.question
    index = question.keys.index((str(component.id),))
    cells = list(question.container.cells)
    if other.school not in (School.BY_COMPONENT, School.PIECES, School.FIXED_MEASURE):
        return []
    if market is not None:
        # So much of it is cooked as of what it replaces.
        factor = missed.computed.need(component).cooked_g / other.component.cooked_g
        grams = {line.bought: line.purchased_g * factor for line in other.component.lines}
        prices = {key: market.price(key, needed_g) for key, needed_g in grams.items() if isinstance(key, uuid.UUID)}
        other = replace(other, component=other.component.priced(prices))
        if other.portioned.has_unpriced:
            return []
    cells[index] = replace(
        cells[index],
        per_100g=other.portioned.per_100g,
        price=other.portioned.price,
        minimum_g=other.bounds.minimum_g,
        maximum_g=other.most_g,
        density_g_per_ml=other.density_g_per_ml,
        step_g=other.one_g * other.unit_part if other.is_counted and other.one_g is not None else None,
    )
    container = replace(question.container, cells=tuple(cells))
    if not can_meet(container):
        return []
    tried = solve(container)
    if not tried.met:
        return []
    names = list(missed.names)
    names[index] = other_component.name
    share = question.answer.grams[index] / max(sum(question.answer.grams), 1.0)
    copied = copied_component(larder, missed.who, other_component)
    view = WayView(
        kind="component",
        title=f"{other_component.name} from “{recipe.name}” instead of {component.name}",
        detail=f"{then_words(names, question.answer, tried)} For all containers of this batch.",
        moved=moved(question.answer, tried) + share,
        changes=[component_change(copied, other_component.portioning, into=component.id)],
    )
    return [Recast(key=str(component.id), part=other, view=view)]


def batch_ways(missed: MissedRow) -> Iterator[WayView]:
    """Other open batches in which these containers would meet their target without costing another's."""
    batch = missed.computed.loaded.batch
    query = (
        loading.batch_query()
        .where(
            tables.Batch.packed_at.is_(None),
            tables.Batch.id != batch.id,
            tables.Batch.deleted_at.is_(None),
            tables.Batch.cook_on >= batch.cook_on,
        )
        .order_by(tables.Batch.cook_on, tables.Batch.name, tables.Batch.id)
        .limit(_MOST_BATCHES)
    )
    for other in missed.session.scalars(query).unique():
        computed = plans.compute(loading.loaded(missed.session, other))
        dish = other.dishes[0]
        moving = plans.core_class(computed.loaded, missed.row, dish=dish)
        if dish.groups:
            continue  # What of its groups they would take is nobody's to say but the coach's.
        after = plans.solve_batch(other, computed.dishes, (*computed.classes, moving)).portions
        kept = all(late.met or not early.met for early, late in zip(computed.plan.portions, after, strict=False))
        if after[-1].met and kept:
            yield WayView(
                kind="move",
                title=f"Cook these with “{other.name}” instead",
                detail=f"{dish.name} on {other.cook_on:%a %-d %B} meets the target.",
                moved=1.0,
                changes=[MoveRow(row_id=missed.row.id, to_batch_id=other.id, dish_id=dish.id)],
            )
            return
