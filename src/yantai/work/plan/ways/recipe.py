"""Other amounts and other foods in a component."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from sqlalchemy import select

from yantai.core.foods.nutrients import Amounts
from yantai.core.planning import dishes as core
from yantai.core.portions.ways import moved
from yantai.store import tables
from yantai.work.batches.inputs import SetLine
from yantai.work.clients.kept_out import kept_from
from yantai.work.pantry.composition import food_composition, root_id
from yantai.work.plan.views import WayView
from yantai.work.plan.ways.missed import (
    MOST_OF_A_KIND,
    MOST_TRIED,
    MissedRow,
    Recast,
    keeps_the_others,
    recast,
    then_words,
)

_FACTORS = (0.9, 1.1, 0.75, 1.25, 0.5, 1.5, 2.0)
"""By how much an amount of the recipe is tried, the smallest change first."""


def recipe_ways(missed: MissedRow) -> Iterator[WayView]:
    """Another amount or another food in a component that is not cooked yet."""
    amounts, foods = [], []
    for component in missed.components:
        part = missed.dish.parts[str(component.id)]
        if part.stays_as_written or (str(component.id),) not in missed.question.keys:
            continue
        amounts += _other_amounts(missed, component, part)
        foods += _other_foods(missed, component, part)
    for ways in (amounts, foods):
        nearest = sorted(ways, key=lambda one: one.moved)[:MOST_TRIED]
        proven = (way for way in nearest if keeps_the_others(missed, way))
        for _, way in zip(range(MOST_OF_A_KIND), proven, strict=False):
            yield way.view


def _other_amounts(missed: MissedRow, component: tables.Component, part: core.Part) -> list[Recast]:
    found = []
    for index, (row, line) in enumerate(zip(component.lines, part.component.lines, strict=True)):
        if row.food_id is None or not line.amounts.known[0]:
            continue
        for factor in _FACTORS:
            sized = line.times(factor)
            tried = recast(missed, component, part, index, sized)
            if tried is None:
                continue
            share = abs(factor - 1) * line.edible_g / part.component.in_pan_g
            way = WayView(
                kind="amount",
                title=f"{abs(factor - 1):.0%} {'more' if factor > 1 else 'less'} {line.name} in {component.name}",
                detail=then_words(missed.names, missed.question.answer, tried),
                moved=moved(missed.question.answer, tried) + share,
                changes=[
                    SetLine(
                        component_id=component.id,
                        line_id=row.id,
                        food_id=row.food_id,
                        purchased_g=round(sized.purchased_g, 3),
                    )
                ],
            )
            lines = (*part.component.lines[:index], sized, *part.component.lines[index + 1 :])
            changed = replace(part, component=replace(part.component, lines=lines))
            found.append(Recast(key=str(component.id), part=changed, view=way))
            break
    return found


def _other_foods(missed: MissedRow, component: tables.Component, part: core.Part) -> list[Recast]:
    """The main food of a component replaced by another of its group in the same state, with the same yield."""
    larder = missed.computed.loaded.larder
    main = larder.main_food(component)
    index = next((n for n, row in enumerate(component.lines) if main is not None and row.food_id == main.id), None)
    if main is None or index is None:
        return []
    eating = missed.computed.loaded.eating(component)
    food = tables.Food
    same = select(food).where(
        food.superseded_by.is_(None),
        food.archived_at.is_(None),
        food.weak.is_(False),
        food.food_group == main.food_group,
        food.state == main.state,
        food.id != main.id,
    )
    found = []
    line = part.component.lines[index]
    need_g = missed.computed.need(component).lines[index].purchased_g
    others = list(missed.session.scalars(same.order_by(food.name)))
    prices = missed.prices(others, need_g)
    for other in others:
        if any(kept_from(client, other) for client in eating):
            continue
        composition: Amounts = food_composition(other, larder.rules)
        price = prices[other.id]
        if missed.has_budget and price is None:
            continue
        swapped = replace(line, name=other.name, composition=composition, bought=root_id(other), price=price)
        tried = recast(missed, component, part, index, swapped)
        if tried is None:
            continue
        way = WayView(
            kind="food",
            title=f"{other.name} instead of {main.name}",
            detail=f"{then_words(missed.names, missed.question.answer, tried)} For all containers, at the same yield.",
            moved=moved(missed.question.answer, tried) + line.edible_g / part.component.in_pan_g,
            changes=[
                SetLine(
                    component_id=component.id,
                    line_id=component.lines[index].id,
                    food_id=other.id,
                    purchased_g=component.lines[index].purchased_g,
                )
            ],
        )
        lines = (*part.component.lines[:index], swapped, *part.component.lines[index + 1 :])
        changed = replace(part, component=replace(part.component, lines=lines))
        found.append(Recast(key=str(component.id), part=changed, view=way))
    return found
