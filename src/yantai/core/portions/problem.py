"""The question put to the engine, and its answer. The model stands in docs/engine.md."""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum
from functools import cached_property

from yantai.core.errors import CoreError, require_range
from yantai.core.foods.nutrients import NUTRIENTS, Amounts, Nutrient, mixture
from yantai.core.speaking import exact_weight
from yantai.core.targets.targets import BUDGET_RANGE, Aim, Held, Money, Target, Tolerance, bands, budget_band

MAXIMUM_CELL_G = 2000.0
"""The most of one component in one container [g]; a meal container holds about a kilogram."""

CAPACITY_RANGE_ML = (50.0, 5000.0)
"""What a container may hold [ml]."""

CAPACITY_RANGE_G = (50.0, 5000.0)
"""What a container may carry [g]."""

PLATE_RANGE_G = (1.0, 5000.0)
"""What a whole plate may be [g]."""

DEFAULT_DENSITY_G_PER_ML = 0.8
"""Bulk density of a filled cooked component: 1 cup (236.6 ml) of cooked bulgur is 182 g, of boiled
beans 172-177 g, of diced cooked chicken 140 g, of yoghurt 245 g (reference/data/measures.csv)."""


class Limit(StrEnum):
    """What keeps a cell where it is."""

    FREE = "free"
    PINNED = "pinned"
    SET = "as portioned"
    LEFT_OUT = "left out"
    AT_LEAST = "at least"
    AT_MOST = "at most"
    USUAL_MOST = "usual most"
    CLIENT_MOST = "client’s most"
    TUB = "tub full"
    FULL = "container full"
    POT = "its share of the pot"
    NOT_CHOSEN = "not chosen"


@dataclass(frozen=True, slots=True, kw_only=True)
class Cell:
    """One component in one container.

    Attributes:
        per_100g: what 100 g of the cooked component hold.
        share: weight of this component in the recipe as written, in any unit common to all cells.
        minimum_g, maximum_g: bounds [g].
        most_by: what the most is: one that was given, what containers usually hold of such a component where nobody
            gave one, or what the tub beside the container holds.
        step_g: what it is counted in [g]: one piece or one scoop; None for the container's own step.
        pinned_g: grams [g] fixed by the coach; they hold even outside the bounds.
        set_g: grams [g] that follow from how it is portioned, not from the target.
        set_by: what decided `set_g` in the end: how it is portioned, its most, the container, or its pot.
        contradicts: its least lies above its most, which holds.
        left_out: an allergen or exclusion keeps the component out of this container.
        density_g_per_ml: bulk density [g/ml] for the capacity.
        fills: it goes into the container, and not beside it or onto the plate at eating.
        price: what 100 g of it cost, as far as that is known.
        has_unpriced: something of it has no price, so `price` is a lower bound.
    """

    per_100g: Amounts
    share: float
    minimum_g: float = 0.0
    maximum_g: float = MAXIMUM_CELL_G
    most_by: Limit = Limit.AT_MOST
    step_g: float | None = None
    pinned_g: float | None = None
    set_g: float | None = None
    set_by: Limit | None = None
    contradicts: bool = False
    left_out: bool = False
    density_g_per_ml: float = DEFAULT_DENSITY_G_PER_ML
    fills: bool = True
    price: float = 0.0
    has_unpriced: bool = False

    def __post_init__(self) -> None:
        require_range("minimum_g", self.minimum_g, low=0, high=MAXIMUM_CELL_G, unit="g")
        require_range("maximum_g", self.maximum_g, low=0, high=MAXIMUM_CELL_G, unit="g")
        if self.minimum_g > self.maximum_g:
            raise CoreError(
                f"the least, {exact_weight(self.minimum_g)}, is above the most, {exact_weight(self.maximum_g)}",
                field="minimum_g",
            )
        if self.step_g is not None:
            require_range("unit_g", self.step_g, low=0.1, high=MAXIMUM_CELL_G, unit="g")
        if self.pinned_g is not None:
            require_range("grams", self.pinned_g, low=0, high=MAXIMUM_CELL_G, unit="g")

    @property
    def held(self) -> tuple[float, ...]:
        """What 100 g hold of each of `HELD`."""
        return (*self.per_100g.known, self.price)

    def per_gram(self, of: Held) -> float:
        """What a gram holds of a nutrient, or costs."""
        return (self.price if isinstance(of, Money) else self.per_100g[of]) / 100

    @property
    def fixed_g(self) -> float | None:
        """The grams [g] this cell has whatever the target, or None while it is free."""
        if self.left_out:
            return 0.0
        return self.set_g if self.pinned_g is None else self.pinned_g

    @property
    def bounds_g(self) -> tuple[float, float]:
        """Smallest and largest grams [g] this cell may take."""
        return (self.minimum_g, self.maximum_g) if self.fixed_g is None else (self.fixed_g, self.fixed_g)


HELD: tuple[Held, ...] = (*NUTRIENTS, Money.COST)
"""What a container can be held to, in the order of `Cell.held`."""


def check_room(*, capacity_ml: float | None, capacity_g: float | None, plate_g: float | None = None) -> None:
    """Refuse a container [ml, g] that is too small or too large to be one, and a plate [g] that is.

    Raises:
        OutOfRange: names the field.
    """
    for name, value, (low, high), unit in (
        ("capacity_ml", capacity_ml, CAPACITY_RANGE_ML, "ml"),
        ("capacity_g", capacity_g, CAPACITY_RANGE_G, "g"),
        ("plate_g", plate_g, PLATE_RANGE_G, "g"),
    ):
        if value is not None:
            require_range(name, value, low=low, high=high, unit=unit)


def check_budget(budget: float | None) -> None:
    """Refuse a budget of a container that is none.

    Raises:
        OutOfRange: names the field.
    """
    if budget is not None:
        require_range("budget", budget, low=BUDGET_RANGE[0], high=BUDGET_RANGE[1], unit="a container")


@dataclass(frozen=True, kw_only=True)
class Container:
    """One container to fill: cells, target, the scale's step [g], and what it holds [ml] and carries [g].

    `shares_g` is what shared pots give each cell at most [g], infinite where a pot is not short; it goes before the
    cell's least. `budget` is what it may cost at most: a limit as that of sodium is, not as its room.
    """

    cells: tuple[Cell, ...]
    target: Target
    tolerance: Tolerance
    step_g: float = 1.0
    capacity_ml: float | None = None
    capacity_g: float | None = None
    shares_g: tuple[float, ...] | None = None
    budget: float | None = None

    def __post_init__(self) -> None:
        require_range("step_g", self.step_g, low=0.1, high=100, unit="g")
        check_budget(self.budget)
        check_room(capacity_ml=self.capacity_ml, capacity_g=self.capacity_g)

    def __hash__(self) -> int:
        return self._hash

    @cached_property
    def _hash(self) -> int:
        """Kept, because containers are looked up by it and have some fifty parts."""
        capacities = (self.capacity_ml, self.capacity_g)
        return hash((self.cells, self.target, self.tolerance, self.step_g, capacities, self.shares_g, self.budget))

    @cached_property
    def aims(self) -> tuple[Aim, ...]:
        """The bands it is held to."""
        limit = () if self.budget is None else (budget_band(self.budget),)
        return (*bands(self.target, self.tolerance), *limit)

    def step_of(self, cell: Cell) -> float:
        """What a cell is counted in [g]."""
        return self.step_g if cell.step_g is None else cell.step_g


class Hold(StrEnum):
    """A limit that stands between a container and its target."""

    PINNED = "pinned"
    SET = "set"
    LEFT_OUT = "left out"
    AT_LEAST = "at least"
    AT_MOST = "at most"
    USUAL_MOST = "usual most"
    CLIENT_MOST = "client’s most"
    TUB = "tub"
    VOLUME = "volume"
    WEIGHT = "weight"
    POT = "pot"


MOSTS = {
    Limit.AT_MOST: Hold.AT_MOST,
    Limit.USUAL_MOST: Hold.USUAL_MOST,
    Limit.CLIENT_MOST: Hold.CLIENT_MOST,
    Limit.TUB: Hold.TUB,
}
"""What a most is as a limit that stands in the way."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Binding:
    """A limit with what giving way by a gram would do.

    Attributes:
        hold: which limit.
        index: the cell it holds; None for the capacity of the whole container.
        at: where it stands [g; ml for the volume].
        more: True when the container wants more than the limit allows, False when less.
        shadow_price: fall of the weighted miss per gram (ml) of giving way, at this point.
    """

    hold: Hold
    index: int | None
    at: float
    more: bool
    shadow_price: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Portions:
    """Grams for one container and how they stand to its target.

    Attributes:
        grams: grams of each cell [g], in the order of the container's cells.
        limits: what holds each cell.
        amounts: what the container then holds.
        misses: signed excess over the band of each nutrient aimed at [g, kcal, mg], and over the budget; 0 inside.
        volume_ml: bulk volume [ml].
        full: the capacity is what stops the container.
        bindings: the limits that stand between it and its target, the most worthwhile first.
        unknown: nutrients aimed at or limited of which an ingredient's figure is not known, so that nobody can say
            whether they are met.
        contradictions: cells whose least and most leave no step between them.
        overfull_ml, overfull_g: how far [ml, g] pins and least amounts go beyond what the container holds and carries.
        cost: what it costs, as far as prices are known; `has_unpriced` says that it is a lower bound. A spoon of
            something that nobody priced does not make it unknown whether the budget is kept: what is told says so.
    """

    grams: tuple[float, ...]
    limits: tuple[Limit, ...]
    amounts: Amounts
    misses: dict[Held, float]
    volume_ml: float
    full: bool
    bindings: tuple[Binding, ...] = ()
    unknown: frozenset[Nutrient] = frozenset()
    contradictions: tuple[int, ...] = ()
    overfull_ml: float = 0.0
    overfull_g: float = 0.0
    cost: float = 0.0
    has_unpriced: bool = False

    def holds(self, of: Held) -> float:
        """What it holds of a nutrient, or costs."""
        return self.cost if isinstance(of, Money) else self.amounts[of]

    @property
    def inside(self) -> bool:
        """No nutrient is known to lie outside its band."""
        return not any(self.misses.values())

    @property
    def is_overfull(self) -> bool:
        """It does not fit into its container."""
        return self.overfull_ml > 0 or self.overfull_g > 0

    @property
    def met(self) -> bool:
        """Every nutrient aimed at is known to be inside its band, and all of it fits."""
        return self.inside and not self.unknown and not self.is_overfull


MISS_NOISE = 1e-3
"""A miss up to this [g, kcal, mg] is arithmetic, not food: a thousandth of the finest kitchen scale's step."""
MISS_COUNTS_FROM = MISS_NOISE * (1 + 1e-9)
"""A miss of just the noise is not tipped over by the last bit of a float. What is told and what is searched for use
this same line."""


def portions(container: Container, grams: tuple[float, ...], bindings: tuple[Binding, ...] = ()) -> Portions:
    """The account of a container filled with `grams` [g]."""
    pairs = list(zip(container.cells, grams, strict=True))
    amounts = mixture([cell.per_100g for cell in container.cells], grams)
    shares = container.shares_g
    volume = sum(g / cell.density_g_per_ml for cell, g in pairs if cell.fills)
    weight = math.fsum(g for cell, g in pairs if cell.fills)
    step_ml = container.step_g / min((cell.density_g_per_ml for cell in container.cells if cell.fills), default=1.0)
    room_ml, room_g = (math.inf if room is None else room for room in (container.capacity_ml, container.capacity_g))
    cost = math.fsum(cell.price * g / 100 for cell, g in pairs)
    misses = {
        aim.nutrient: _beyond(aim, cost if isinstance(aim.nutrient, Money) else amounts[aim.nutrient])
        for aim in container.aims
    }
    # What is known is a lower bound, so only what has no upper side is known to be met.
    unknown = frozenset(
        aim.nutrient
        for aim in container.aims
        if isinstance(aim.nutrient, Nutrient)
        and aim.nutrient in amounts.at_least
        and aim.high < math.inf
        and not misses[aim.nutrient]
    )
    return Portions(
        grams=grams,
        limits=tuple(
            _limit(cell, g, container.step_of(cell), math.inf if shares is None else shares[index])
            for index, (cell, g) in enumerate(pairs)
        ),
        amounts=amounts,
        misses=misses,
        volume_ml=volume,
        full=volume > room_ml - step_ml or weight > room_g - container.step_g,
        bindings=bindings,
        unknown=unknown,
        contradictions=tuple(
            index for index, cell in enumerate(container.cells) if _contradicts(cell, container.step_of(cell))
        ),
        overfull_ml=max(volume - room_ml - MISS_NOISE, 0.0),
        overfull_g=max(weight - room_g - MISS_NOISE, 0.0),
        cost=cost,
        has_unpriced=any(cell.has_unpriced for cell, g in pairs if g),
    )


def _contradicts(cell: Cell, step_g: float) -> bool:
    """Between its least and its most lies no step."""
    if cell.fixed_g is not None:
        return False
    first, last = math.ceil(cell.minimum_g / step_g - 1e-9), math.floor(cell.maximum_g / step_g + 1e-9)
    return cell.contradicts or first > last


def _beyond(aim: Aim, held: float) -> float:
    over, under = held - aim.high, aim.low - held
    if max(over, under) <= MISS_COUNTS_FROM:
        return 0.0
    return over if over > under else -under


def _limit(cell: Cell, grams: float, step_g: float, share_g: float) -> Limit:
    if cell.left_out:
        return Limit.LEFT_OUT
    if cell.pinned_g is not None:
        return Limit.PINNED
    if cell.set_g is not None:
        return cell.set_by or Limit.SET
    if grams + step_g > share_g and share_g < cell.maximum_g:
        return Limit.POT
    if grams - step_g < cell.minimum_g and cell.minimum_g > 0:
        return Limit.AT_LEAST
    if grams + step_g > cell.maximum_g:
        return cell.most_by
    return Limit.FREE
