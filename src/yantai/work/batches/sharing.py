"""Pots that several dishes could share."""

from __future__ import annotations

import uuid
from collections.abc import Hashable

from yantai.core.cooking.sharing import why_apart
from yantai.core.errors import CoreError
from yantai.core.planning.portioning import School
from yantai.store import tables
from yantai.work.batches.loading import Loaded
from yantai.work.batches.views import ShareableView

_SAME = {"method": "method", "lid": "lid", "cook_min": "minutes on the heat", "packed_raw": "packing"}
"""What of two components has to be the same beside their lines, in words."""


def shareable(loaded: Loaded) -> list[ShareableView]:
    """Components of which one pot could be cooked with one of another dish: each is offered once, with the first that
    is made of the same."""
    found = []
    of_dishes: dict[uuid.UUID, list[tables.Dish]] = {}
    for dish in loaded.batch.dishes:
        for part in dish.parts:
            of_dishes.setdefault(part.component_id, []).append(dish)
    alike: dict[Hashable, list[tables.Component]] = {}
    for other in loaded.batch.components:
        if other.aside or other.id not in of_dishes:
            continue
        theirs = of_dishes[other.id]
        # What differs in these is not the same; only what is left is looked at closely.
        before = alike.setdefault(_made_of(other), [])
        for one in before:
            mine = of_dishes[one.id]
            if {dish.id for dish in mine} & {dish.id for dish in theirs} or why_not_shared(loaded, one, other):
                continue
            found.append(
                ShareableView(
                    component_id=one.id,
                    other_id=other.id,
                    words=f"{one.name} in {_names(mine)} and {other.name} in {_names(theirs)} are made of the same",
                )
            )
            break
        before.append(other)
    return found


def _made_of(component: tables.Component) -> Hashable:
    """What two components have to have in common whatever their amounts are."""
    lines = frozenset(line.food_id or line.source_id for line in component.lines)
    return (lines, *(getattr(component, field) for field in _SAME))


def dishes_of(loaded: Loaded, component: tables.Component) -> list[tables.Dish]:
    """The dishes that have a component."""
    return [dish for dish in loaded.batch.dishes if any(part.component_id == component.id for part in dish.parts)]


def why_not_shared(loaded: Loaded, one: tables.Component, other: tables.Component) -> str | None:
    """Why two components cannot be cooked in one pot; None where they can."""
    for component in (one, other):
        if loaded.is_weighed(component) or component.raw_fixed:
            return f"{component.name} is in the pan already, or its raw amounts are fixed"
        for dish in dishes_of(loaded, component):
            schools = [part.portioning.school for part in dish.parts if part.component_id == component.id]
            if School.BUILT_RAW in schools:
                return f"{component.name} is built raw, unit by unit"
    for field, words in _SAME.items():
        if getattr(one, field) != getattr(other, field):
            return f"they differ in {words}"
    if abs(one.density_g_per_ml - other.density_g_per_ml) > 1e-6:
        return "they fill containers differently"
    try:
        return why_apart(loaded.larder.component(one), loaded.larder.component(other))
    except CoreError as error:
        return str(error)


def _names(dishes: list[tables.Dish]) -> str:
    return " and ".join(dish.name for dish in dishes)
