"""From rows to core values: the one place where foods, lines and components are turned."""

from __future__ import annotations

import uuid
from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Protocol

from sqlalchemy import or_, select
from sqlalchemy.orm import Session

from yantai.core.cautions import core_temperature
from yantai.core.components import UNCOOKED, Component, Line, LineRole
from yantai.core.nutrients import Amounts, composition
from yantai.core.yields import (
    KEPT,
    READY,
    SIMMERED_WATER,
    TAKEN_UP,
    UNCHANGED,
    YieldRange,
    YieldSource,
    around_balance,
    best_yield,
    borrowed,
    similar_methods,
)
from yantai.store import tables
from yantai.work.views import AmountsView, EdibleView, FoodBrief

WATER_REFERENCE = "water"
_DRAINED_METHODS = ("boiled", "poached", "steamed", "pressure-cooked")
_SOURCES = {"nutrient balance": YieldSource.BALANCE, "kitchen range": YieldSource.KITCHEN}
_DRY_GROUPS = ("grains-pasta", "legumes")


class LineLike(Protocol):
    """A line as it is stored or as it was sent."""

    @property
    def food_id(self) -> uuid.UUID: ...  # noqa: D102
    @property
    def purchased_g(self) -> float: ...  # noqa: D102
    @property
    def refuse_share(self) -> float: ...  # noqa: D102
    @property
    def retained_share(self) -> float: ...  # noqa: D102
    @property
    def yield_factor(self) -> float | None: ...  # noqa: D102


class ComponentLike(Protocol):
    """A component as it is stored or as it was sent."""

    @property
    def name(self) -> str: ...  # noqa: D102
    @property
    def method(self) -> str: ...  # noqa: D102
    @property
    def yield_low(self) -> float | None: ...  # noqa: D102
    @property
    def yield_expected(self) -> float | None: ...  # noqa: D102
    @property
    def yield_high(self) -> float | None: ...  # noqa: D102
    @property
    def lines(self) -> Sequence[LineLike]: ...  # noqa: D102


def food_composition(food: tables.Food) -> Amounts:
    """Amounts per 100 g edible portion."""
    return composition(
        protein_g=food.protein_g,
        carbohydrate_g=food.carbohydrate_g,
        fat_g=food.fat_g,
        fibre_g=food.fibre_g,
        sugars_g=food.sugars_g,
        saturated_g=food.saturated_g,
        sodium_mg=food.sodium_mg,
        alcohol_g=food.alcohol_g,
    )


def food_brief(food: tables.Food) -> FoodBrief:
    """The food as lists show it."""
    return FoodBrief(
        id=food.id,
        name=food.name,
        group=food.food_group,
        state=food.state,
        method=food.method,
        per_100g=AmountsView.of(food_composition(food)),
        allergens=food.allergens,
        weak=food.weak,
    )


def stored_yield(row: tables.YieldFactor) -> YieldRange:
    """The core value of a stored factor."""
    source = YieldSource.GROUP if row.food_id is None else _SOURCES.get(row.basis, YieldSource.PUBLISHED)
    return YieldRange(low=row.low, expected=row.expected, high=row.high, source=source, note=row.note)


@dataclass(frozen=True, kw_only=True)
class Larder:
    """The foods of some lines with all that is known of their yields, read in one go."""

    foods: Mapping[uuid.UUID, tables.Food]
    yields: Mapping[tuple[uuid.UUID | str, str], YieldRange]
    balances: Mapping[tuple[uuid.UUID, str], YieldRange]
    edible: Mapping[uuid.UUID, list[EdibleView]]

    @classmethod
    def read(cls, session: Session, food_ids: Collection[uuid.UUID]) -> Larder:
        """The larder with these foods; ids of no visible food are simply absent."""
        foods = {food.id: food for food in session.scalars(select(tables.Food).where(tables.Food.id.in_(food_ids)))}
        factor, pair, edible = tables.YieldFactor, tables.RawCookedPair, tables.EdiblePortion
        found = session.scalars(select(factor).where(or_(factor.food_id.in_(foods), factor.food_id.is_(None))))
        yields = {(row.food_id or row.food_group or "", row.method): stored_yield(row) for row in found}
        pairs = session.scalars(select(pair).where(pair.raw_food_id.in_(foods), pair.balance_yield.is_not(None)))
        balances = {
            (row.raw_food_id, row.method): around_balance(row.balance_yield) for row in pairs if row.balance_yield
        }
        portions: dict[uuid.UUID, list[EdibleView]] = {}
        for row in session.scalars(select(edible).where(edible.food_id.in_(foods))):
            view = EdibleView(refuse_share=row.refuse_share, note=row.note, source=row.source)
            portions.setdefault(row.food_id, []).append(view)
        return cls(foods=foods, yields=yields, balances=balances, edible=portions)

    def component(self, given: ComponentLike, *, measured_g: float | None = None) -> Component:
        """The core component of stored or sent lines.

        Raises:
            CoreError: a value is out of range, or nothing is in it.
        """
        absorbed = self._absorbs(given)
        own = None
        if given.yield_expected is not None:
            expected = given.yield_expected
            low = expected if given.yield_low is None else given.yield_low
            high = expected if given.yield_high is None else given.yield_high
            own = YieldRange(low=low, expected=expected, high=high, source=YieldSource.COACH)
        return Component(
            name=given.name,
            lines=tuple(self._line(line, given.method, absorbed=absorbed) for line in given.lines),
            measured_g=measured_g,
            cooked=given.method != UNCOOKED,
            set_yield=own,
        )

    def expected_yield(self, line: LineLike, component: ComponentLike) -> YieldRange:
        """The yield of one line of a component, by the best source there is."""
        food = self.foods[line.food_id]
        return self._yield(food, component.method, line.yield_factor, absorbed=self._absorbs(component))

    def _absorbs(self, component: ComponentLike) -> bool:
        """Dry food in the pan takes up its water, and the dry food's yield already counts that."""
        foods = (self.foods[line.food_id] for line in component.lines if line.purchased_g > 0)
        return any(food.state == "dry" and food.food_group in _DRY_GROUPS for food in foods)

    def _line(self, given: LineLike, method: str, *, absorbed: bool) -> Line:
        food = self.foods[given.food_id]
        return Line(
            name=food.name,
            purchased_g=given.purchased_g,
            refuse_share=given.refuse_share,
            retained_share=given.retained_share,
            composition=food_composition(food),
            role=line_role(food),
            yield_range=self._yield(food, method, given.yield_factor, absorbed=absorbed),
        )

    def _yield(self, food: tables.Food, method: str, coach: float | None, *, absorbed: bool) -> YieldRange:
        if coach is not None:
            return best_yield(coach=coach)
        if method == UNCOOKED:
            return UNCHANGED
        role = line_role(food)
        if role is LineRole.WATER:
            return TAKEN_UP if absorbed or method in _DRAINED_METHODS else SIMMERED_WATER
        if role is not LineRole.FOOD:
            return KEPT
        published = self._factor(food.id, method)
        if published is None and food.state in ("cooked", "canned-drained", "as-sold"):
            return READY
        return best_yield(
            published=published,
            balance=self.balances.get((food.id, method)),
            group=self._factor(food.food_group, method),
        )

    def _factor(self, of: uuid.UUID | str, method: str) -> YieldRange | None:
        """The stored factor of a food or group, else that of a similar method."""
        found = self.yields.get((of, method))
        if found is not None:
            return found
        other = next((other for other in similar_methods(method) if (of, other) in self.yields), None)
        return None if other is None else borrowed(self.yields[of, other], other)

    def allergens(self, lines: Iterable[LineLike]) -> list[str]:
        """The allergens of all foods of these lines, sorted."""
        return sorted({key for line in lines for key in self.foods[line.food_id].allergens})

    def caution(self, lines: Iterable[LineLike], method: str) -> str | None:
        """The core temperature to reach, when something raw that needs one is cooked."""
        if method == UNCOOKED:
            return None
        foods = (self.foods[line.food_id] for line in lines)
        return core_temperature((food.name, food.food_group, food.state) for food in foods)


def line_role(food: tables.Food) -> LineRole:
    """How a food counts in the yield."""
    if food.reference == WATER_REFERENCE:
        return LineRole.WATER
    if food.food_group == "fats-oils":
        return LineRole.FAT
    if food.food_group == "herbs-spices":
        return LineRole.SEASONING
    return LineRole.FOOD
