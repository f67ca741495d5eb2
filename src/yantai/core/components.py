"""A component: what goes into one pan, what comes out, and what 100 g of it hold."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from enum import StrEnum

from yantai.core.edible import edible_g
from yantai.core.errors import CoreError, require_range
from yantai.core.nutrients import Amounts, total
from yantai.core.yields import YieldRange

MAXIMUM_WEIGHT_G = 1_000_000.0

UNCOOKED = "none"
METHODS = (
    UNCOOKED,
    "air-fried",
    "baked",
    "boiled",
    "braised",
    "grilled",
    "microwaved",
    "pan-fried",
    "poached",
    "pressure-cooked",
    "roasted",
    "sauteed",
    "simmered",
    "slow-cooked",
    "steamed",
    "stir-fried",
)
"""How a component is cooked; the words of reference/data/yields.csv."""

ROLES = ("protein", "grain", "vegetable", "sauce", "topping", "mixed")
"""What a component is on the plate."""


class LineRole(StrEnum):
    """How a line counts in the yield. Published factors leave oil, water and seasoning out."""

    FOOD = "food"
    WATER = "water"
    FAT = "fat"
    SEASONING = "seasoning"


@dataclass(frozen=True, slots=True, kw_only=True)
class Line:
    """One ingredient of a component.

    Attributes:
        purchased_g: weight as purchased [g].
        refuse_share: share trimmed or drained off before cooking.
        composition: amounts per 100 g of the edible portion, in the food's own state (the raw book).
        retained_share: share of what went in that stays in the food: 1 unless poured or taken off.
        yield_range: cooked over edible weight of this line.
    """

    name: str
    purchased_g: float
    composition: Amounts
    yield_range: YieldRange
    refuse_share: float = 0.0
    retained_share: float = 1.0
    role: LineRole = LineRole.FOOD

    def __post_init__(self) -> None:
        require_range("purchased_g", self.purchased_g, low=0, high=MAXIMUM_WEIGHT_G, unit="g")
        require_range("retained_share", self.retained_share, low=0, high=1, unit="of the line")

    @property
    def edible_g(self) -> float:
        """Edible portion [g]."""
        return edible_g(self.purchased_g, self.refuse_share)

    @property
    def amounts(self) -> Amounts:
        """What stays in the pan of this line."""
        return self.composition.in_grams(self.edible_g * self.retained_share)

    def cooked_g(self, factor: float) -> float:
        """What this line weighs cooked [g] at a yield of `factor`."""
        return self.edible_g * self.retained_share * factor

    def times(self, factor: float) -> Line:
        """The same line `factor` times as large."""
        return replace(self, purchased_g=self.purchased_g * factor)


@dataclass(frozen=True, slots=True, kw_only=True)
class Component:
    """One pan. `measured_g` is the cooked weight off the scale [g]; without it the weight is an estimate."""

    name: str
    lines: tuple[Line, ...]
    measured_g: float | None = None
    cooked: bool = True
    set_yield: YieldRange | None = None

    def __post_init__(self) -> None:
        if self.measured_g is not None:
            require_range("measured_g", self.measured_g, low=1e-9, high=MAXIMUM_WEIGHT_G, unit="g")
        if sum(line.edible_g for line in self.lines) <= 0:
            raise CoreError(
                f"“{self.name}” has nothing in it: give at least one ingredient with a weight", field="lines"
            )
        if self.cooked_g <= 0:
            raise CoreError(
                f"nothing would come out of “{self.name}”: give one of its ingredients a yield above zero",
                field="lines",
            )

    @property
    def totals(self) -> Amounts:
        """Macros stay in the pan: the sum over the lines of grams × composition × retained share."""
        return total(line.amounts for line in self.lines)

    @property
    def basis_g(self) -> float:
        """Edible weight [g] that the yield refers to: in a cooked component without water, fat and seasoning.

        A component made only of those (a dressing), or not cooked, refers to all of it.
        """
        food = sum(line.edible_g for line in self.lines if line.role is LineRole.FOOD)
        return food if self.cooked and food > 0 else sum(line.edible_g for line in self.lines)

    @property
    def expected_low_g(self) -> float:
        """Cooked weight [g] at the low end of the range."""
        return self._expected(lambda y: y.low)

    @property
    def expected_g(self) -> float:
        """Cooked weight [g] to expect from the lines."""
        return self._expected(lambda y: y.expected)

    @property
    def expected_high_g(self) -> float:
        """Cooked weight [g] at the high end of the range."""
        return self._expected(lambda y: y.high)

    @property
    def cooked_g(self) -> float:
        """Measured cooked weight [g], or the expected one."""
        return self.expected_g if self.measured_g is None else self.measured_g

    @property
    def yield_factor(self) -> float:
        """`Y = cooked / edible` on `basis_g`."""
        return self.cooked_g / self.basis_g

    @property
    def per_100g(self) -> Amounts:
        """What 100 g cooked hold: `100 × totals / cooked weight`."""
        return self.totals.per_100g_of(self.cooked_g)

    def times(self, factor: float) -> Component:
        """The same component `factor` times as large, cooked weight included."""
        measured = None if self.measured_g is None else self.measured_g * factor
        return replace(self, lines=tuple(line.times(factor) for line in self.lines), measured_g=measured)

    def _expected(self, end: Callable[[YieldRange], float]) -> float:
        if self.set_yield is not None:
            return self.basis_g * end(self.set_yield)
        return sum(line.cooked_g(end(line.yield_range)) for line in self.lines)
