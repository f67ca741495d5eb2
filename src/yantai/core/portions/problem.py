"""The question put to the solver, and its answer."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from yantai.core.errors import CoreError, require_range
from yantai.core.nutrients import Amounts, Nutrient, total
from yantai.core.targets import Target, Tolerance

MAXIMUM_CELL_G = 2000.0
"""The most of one component in one container [g]; a meal container holds about a kilogram."""

CAPACITY_RANGE_ML = (50.0, 5000.0)
"""What a container may hold [ml]."""

DEFAULT_DENSITY_G_PER_ML = 0.8
"""Bulk density of a filled cooked component: 1 cup (236.6 ml) of cooked bulgur is 182 g, of boiled
beans 172-177 g, of diced cooked chicken 140 g, of yoghurt 245 g (reference/data/measures.csv)."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Cell:
    """One component in one container.

    Attributes:
        per_100g: what 100 g of the cooked component hold.
        share: weight of this component in the recipe as written, in any unit common to all cells.
        minimum_g, maximum_g: bounds [g].
        pinned_g: grams [g] fixed by the coach; they hold even outside the bounds.
        left_out: an allergen or exclusion keeps the component out of this container.
        density_g_per_ml: bulk density [g/ml] for the capacity.
    """

    per_100g: Amounts
    share: float
    minimum_g: float = 0.0
    maximum_g: float = MAXIMUM_CELL_G
    pinned_g: float | None = None
    left_out: bool = False
    density_g_per_ml: float = DEFAULT_DENSITY_G_PER_ML

    def __post_init__(self) -> None:
        require_range("minimum_g", self.minimum_g, low=0, high=MAXIMUM_CELL_G, unit="g")
        require_range("maximum_g", self.maximum_g, low=0, high=MAXIMUM_CELL_G, unit="g")
        if self.minimum_g > self.maximum_g:
            raise CoreError(
                f"the least, {self.minimum_g:g} g, is above the most, {self.maximum_g:g} g", field="minimum_g"
            )
        if self.pinned_g is not None:
            require_range("grams", self.pinned_g, low=0, high=MAXIMUM_CELL_G, unit="g")

    @property
    def fixed_g(self) -> float | None:
        """The grams [g] this cell has whatever the target, or None while it is free."""
        return 0.0 if self.left_out else self.pinned_g

    @property
    def bounds_g(self) -> tuple[float, float]:
        """Smallest and largest grams [g] this cell may take."""
        return (self.minimum_g, self.maximum_g) if self.fixed_g is None else (self.fixed_g, self.fixed_g)


@dataclass(frozen=True, slots=True, kw_only=True)
class Aim:
    """One nutrient to hit: `target` ± `tolerance` [g, kcal], `priority` its weight when missed."""

    nutrient: Nutrient
    target: float
    tolerance: float
    priority: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Container:
    """One container to fill: cells, target, the scale's step [g] and the capacity [ml]."""

    cells: tuple[Cell, ...]
    target: Target
    tolerance: Tolerance
    step_g: float = 1.0
    capacity_ml: float | None = None

    def __post_init__(self) -> None:
        require_range("step_g", self.step_g, low=0.1, high=100, unit="g")
        if self.capacity_ml is not None:
            low, high = CAPACITY_RANGE_ML
            require_range("capacity_ml", self.capacity_ml, low=low, high=high, unit="ml")

    @property
    def aims(self) -> tuple[Aim, ...]:
        """The nutrients aimed at, with tolerance and priority."""
        return tuple(
            Aim(nutrient=n, target=value, tolerance=self.tolerance[n], priority=self.tolerance.priorities[n])
            for n, value in self.target.aims.items()
        )


class Limit(StrEnum):
    """What keeps a cell where it is."""

    FREE = "free"
    PINNED = "pinned"
    LEFT_OUT = "left out"
    AT_LEAST = "at least"
    AT_MOST = "at most"


@dataclass(frozen=True, slots=True, kw_only=True)
class Portions:
    """Grams for one container and how they stand to its target.

    Attributes:
        grams: grams of each cell [g], in the order of the container's cells.
        limits: what holds each cell.
        amounts: what the container then holds.
        misses: signed excess over the tolerance of each aimed nutrient [g, kcal]; 0 inside.
        volume_ml: bulk volume [ml].
        full: the capacity is what stops the container.
    """

    grams: tuple[float, ...]
    limits: tuple[Limit, ...]
    amounts: Amounts
    misses: dict[Nutrient, float]
    volume_ml: float
    full: bool

    @property
    def met(self) -> bool:
        """Every aimed nutrient is inside its tolerance."""
        return not any(self.misses.values())


MISS_NOISE = 1e-3
"""A miss up to this [g, kcal] is arithmetic, not food: a thousandth of the finest kitchen scale's step."""


def portions(container: Container, grams: tuple[float, ...]) -> Portions:
    """The account of a container filled with `grams` [g]."""
    amounts = total(cell.per_100g.in_grams(g) for cell, g in zip(container.cells, grams, strict=True))
    misses = {}
    for aim in container.aims:
        off = amounts[aim.nutrient] - aim.target
        beyond = max(abs(off) - aim.tolerance, 0.0)
        misses[aim.nutrient] = 0.0 if beyond <= MISS_NOISE else (beyond if off > 0 else -beyond)
    volume = sum(g / cell.density_g_per_ml for cell, g in zip(container.cells, grams, strict=True))
    step_ml = container.step_g / min((cell.density_g_per_ml for cell in container.cells), default=1.0)
    return Portions(
        grams=grams,
        limits=tuple(_limit(cell, g, container.step_g) for cell, g in zip(container.cells, grams, strict=True)),
        amounts=amounts,
        misses=misses,
        volume_ml=volume,
        full=container.capacity_ml is not None and volume > container.capacity_ml - step_ml,
    )


def _limit(cell: Cell, grams: float, step_g: float) -> Limit:
    if cell.left_out:
        return Limit.LEFT_OUT
    if cell.pinned_g is not None:
        return Limit.PINNED
    if grams - step_g < cell.minimum_g and cell.minimum_g > 0:
        return Limit.AT_LEAST
    if grams + step_g > cell.maximum_g:
        return Limit.AT_MOST
    return Limit.FREE
