"""Foods as the core sees them: what they hold, how they cook, which words they answer to."""

from __future__ import annotations

import uuid
from collections.abc import Sequence

from yantai.core.cooking.components import LineRole
from yantai.core.cooking.yield_choice import Cookable
from yantai.core.cooking.yields import YieldRange, YieldSource
from yantai.core.foods import labels
from yantai.core.foods.energy import Rules
from yantai.core.foods.exclusions import Contents, Named
from yantai.core.foods.nutrients import Amounts
from yantai.core.speaking import energy
from yantai.store import tables
from yantai.work.common.views import AmountsView
from yantai.work.pantry.views import FoodBrief

WATER_REFERENCE = "water"


def food_composition(food: tables.Food, rules: Rules) -> Amounts:
    """Amounts per 100 g edible portion as the workspace counts them."""
    return food.stated.amounts(rules)


def food_brief(food: tables.Food, rules: Rules) -> FoodBrief:
    """The food as lists show it."""
    return FoodBrief(
        id=food.id,
        name=food.name,
        group=food.food_group,
        state=food.state,
        method=food.method,
        per_100g=AmountsView.of(food_composition(food, rules)),
        allergens=food.allergens,
        weak=food.weak,
        own=food.workspace_id is not None,
        source=food.source,
    )


def root_id(food: tables.Food) -> uuid.UUID:
    """The food by which yields and history are kept: older figures of an own food share those of the current one."""
    return food.superseded_by or food.id


def cookable(food: tables.Food) -> Cookable:
    """A food as the choice of its yield sees it."""
    return Cookable(
        name=food.name,
        group=food.food_group,
        state=food.state,
        solids_g=food.stated.solids_g,
        is_water=food.reference == WATER_REFERENCE,
    )


def line_role(food: tables.Food) -> LineRole:
    """How a food counts in the yield."""
    return cookable(food).role


def named(food: tables.Food) -> Named:
    """A food as words that keep something out see it."""
    return Named(
        names=(food.search_text,),
        allergens=frozenset(food.allergens),
        group=food.food_group,
        tags=frozenset(food.diet_tags),
    )


def contents(name: str, foods: Sequence[tables.Food]) -> Contents:
    """A component as words that keep something out see it."""
    return Contents(name=name, foods=tuple((food.name, named(food)) for food in foods))


def audit_words(food: tables.Food) -> str:
    """What the audit of a food's own figures says, "" when its kcal fit its macros."""
    found = labels.audit(food.stated)
    if found is None or not found.conflict:
        return ""
    words = (
        f"{energy(found.stated_kcal)} are stated for 100 g, and its macros give {energy(found.implied_kcal)}, "
        f"{energy(found.apart_kcal)} beyond rounding"
    )
    if found.explained_by:
        return f"{words}. It would fit {labels.READINGS[found.explained_by]}."
    return f"{words}. Check the label for a slip of a figure or of the serving size."


_SOURCES = {"nutrient balance": YieldSource.BALANCE, "kitchen range": YieldSource.KITCHEN}


def stored_yield(row: tables.YieldFactor) -> YieldRange:
    """The core value of a stored factor."""
    source = YieldSource.GROUP if row.food_id is None else _SOURCES.get(row.basis, YieldSource.PUBLISHED)
    return YieldRange(low=row.low, expected=row.expected, high=row.high, source=source, note=row.note)
