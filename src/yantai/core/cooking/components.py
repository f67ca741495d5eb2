"""A component: what goes into one pan, what comes out, and what 100 g of it hold."""

from __future__ import annotations

import math
from collections.abc import Hashable, Mapping
from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Any

from yantai.core.cooking.liquids import BoilOff, balanced, free_g, liquid_g
from yantai.core.cooking.yields import UNCHANGED, End, YieldRange, at
from yantai.core.errors import CoreError, require_range
from yantai.core.foods.edible import edible_g
from yantai.core.foods.energy import FAT_KCAL_PER_G
from yantai.core.foods.nutrients import NOTHING, Amounts, Nutrient, total
from yantai.core.speaking import exact_weight, weight

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


class Role(StrEnum):
    """What a component is on the plate."""

    PROTEIN = "protein"
    GRAIN = "grain"
    VEGETABLE = "vegetable"
    SAUCE = "sauce"
    TOPPING = "topping"
    MIXED = "mixed"


MARINADE_CLINGS = 0.3
"""Share of a marinade that is thrown away which stays on the food, when nobody weighed it (domain, section 2)."""


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
        refuse_share: share that is not eaten: trimmed or drained off before cooking, or, with
            `refuse_after`, bone or skin taken off when it is cooked.
        composition: amounts per 100 g of the edible portion, in the food's own state (the raw book).
        retained_share: share of what went in that stays in the food: 1 unless poured or taken off.
        counted: False where the coach counts it as free; its weight stays, its macros are told apart.
        scales: False for what stays as it is when a recipe is made larger (a bay leaf).
        wet: milk, tomatoes and the like, which dry food takes up from.
        yield_range: cooked over edible weight of this line, on its own; water's follows from its pot.
        bought: the key of the food that is bought for it; None where it is made of another component.
        price: what 100 g of it cost as purchased; None where nobody knows.
    """

    name: str
    purchased_g: float
    composition: Amounts
    yield_range: YieldRange
    refuse_share: float = 0.0
    refuse_after: bool = False
    retained_share: float = 1.0
    counted: bool = True
    scales: bool = True
    wet: bool = False
    role: LineRole = LineRole.FOOD
    bought: Hashable = None
    price: float | None = None

    def __post_init__(self) -> None:
        require_range("purchased_g", self.purchased_g, low=0, high=MAXIMUM_WEIGHT_G, unit="g")
        require_range("retained_share", self.retained_share, low=0, high=1, unit="of the line")

    @property
    def edible_g(self) -> float:
        """Edible portion [g]."""
        return edible_g(self.purchased_g, self.refuse_share)

    @property
    def left_on_g(self) -> float:
        """Bone or skin [g] that is cooked along and taken off after: it stands on the scale with the pan."""
        return self.purchased_g - self.edible_g if self.refuse_after else 0.0

    @property
    def stays_g(self) -> float:
        """Edible weight [g] less what is poured or taken off."""
        return self.edible_g * self.retained_share

    @property
    def is_water(self) -> bool:
        """Water, or stock."""
        return self.role is LineRole.WATER

    @property
    def held(self) -> Amounts:
        """What stays in the pan of this line, counted or not."""
        return self.composition.in_grams(self.stays_g)

    @property
    def amounts(self) -> Amounts:
        """What is counted of this line."""
        return self.held if self.counted else NOTHING

    def times(self, factor: float) -> Line:
        """The same line `factor` times as large."""
        return replace(self, purchased_g=self.purchased_g * factor)


@dataclass(frozen=True, slots=True, kw_only=True)
class Component:
    """One pan. `measured_g` is the cooked weight off the scale [g]; without it the weight is an estimate.

    Attributes:
        poured_fat_g: rendered fat that was poured off and weighed [g]; counts as fat, never more than there was.
        pieces: how many equal pieces it makes, or None.
        boils_off: how the liquid of the pot leaves, where what comes out follows from the pot's mass balance
            (core/cooking/liquids.py); None where each line has its own yield.
    """

    name: str
    lines: tuple[Line, ...]
    measured_g: float | None = None
    cooked: bool = True
    boils_off: BoilOff | None = None
    set_yield: YieldRange | None = None
    poured_fat_g: float = 0.0
    pieces: int | None = None

    def __post_init__(self) -> None:
        if self.measured_g is not None:
            require_range("measured_g", self.measured_g, low=1e-9, high=MAXIMUM_WEIGHT_G, unit="g")
        if self.pieces is not None:
            require_range("pieces", self.pieces, low=1, high=10_000, unit="pieces")
        require_range("poured_fat_g", self.poured_fat_g, low=0, high=MAXIMUM_WEIGHT_G, unit="g")
        fat_g = self.put_in[Nutrient.FAT]
        if self.poured_fat_g > fat_g + 1e-9:
            raise CoreError(
                f"{exact_weight(self.poured_fat_g)} of fat poured off “{self.name}” is more than the "
                f"{weight(fat_g)} of fat in it; "
                f"was the juice weighed along? Give at most {weight(fat_g)}",
                field="poured_fat_g",
            )
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
    def put_in(self) -> Amounts:
        """What the lines bring, before fat is poured off: the sum of grams × composition × retained share."""
        return total(line.amounts for line in self.lines)

    @property
    def totals(self) -> Amounts:
        """Macros stay in the pan: what the lines bring, less the fat that was poured off.

        A gram of fat takes 9 kcal with it, and saturated fat in proportion.
        """
        held = self.put_in
        if not self.poured_fat_g:
            return held
        fat_g = held[Nutrient.FAT]
        return held.less(
            {
                Nutrient.FAT: self.poured_fat_g,
                Nutrient.KCAL: self.poured_fat_g * FAT_KCAL_PER_G,
                Nutrient.SATURATED: held[Nutrient.SATURATED] * self.poured_fat_g / fat_g,
            }
        )

    @property
    def uncounted(self) -> Amounts:
        """What the coach's own rule leaves out."""
        return total(line.held for line in self.lines if not line.counted)

    @property
    def basis_g(self) -> float:
        """Edible weight [g] that the yield refers to: in a cooked component without water, fat and seasoning.

        A component made only of those (a dressing), or not cooked, refers to all of it.
        """
        food = sum(line.edible_g for line in self.lines if line.role is LineRole.FOOD)
        return food if self.cooked and food > 0 else sum(line.edible_g for line in self.lines)

    @property
    def in_pan_g(self) -> float:
        """Everything that goes into the pan [g], bones that come off later with it."""
        return sum(line.edible_g + line.left_on_g for line in self.lines)

    @property
    def left_on_g(self) -> float:
        """Bone and skin [g] that stand on the scale with the cooked pan."""
        return sum(line.left_on_g for line in self.lines)

    @property
    def expected_low_g(self) -> float:
        """Cooked weight [g] at the low end of the range."""
        return self._expected("low")

    @property
    def expected_g(self) -> float:
        """Cooked weight [g] to expect from the lines."""
        return self._expected("expected")

    @property
    def expected_high_g(self) -> float:
        """Cooked weight [g] at the high end of the range."""
        return self._expected("high")

    @property
    def expected_yield(self) -> YieldRange | None:
        """The yield of the whole pan that its lines lead to, None where only one line could say it."""
        if self.set_yield is not None:
            return self.set_yield
        food = [line for line in self.lines if line.role is LineRole.FOOD and line.edible_g > 0]
        return food[0].yield_range if len(food) == 1 else None

    @property
    def cooked_g(self) -> float:
        """Measured cooked weight [g], or the expected one."""
        return self.expected_g if self.measured_g is None else self.measured_g

    @property
    def piece_g(self) -> float | None:
        """Weight of one piece [g], from the weighed or expected total."""
        return None if self.pieces is None else self.cooked_g / self.pieces

    @property
    def yield_factor(self) -> float:
        """`Y = cooked / edible` on `basis_g`."""
        return self.cooked_g / self.basis_g

    @property
    def per_100g(self) -> Amounts:
        """What 100 g cooked hold: `100 × totals / cooked weight`."""
        return self.totals.per_100g_of(self.cooked_g)

    def times(self, factor: float) -> Component:
        """The same component `factor` times as large, cooked weight, poured fat and pieces included."""
        return replace(
            self,
            lines=tuple(line.times(factor) for line in self.lines),
            measured_g=None if self.measured_g is None else self.measured_g * factor,
            poured_fat_g=self.poured_fat_g * factor,
            pieces=None if self.pieces is None else max(round(self.pieces * factor), 1),
        )

    @property
    def built_raw(self) -> Component:
        """The same weighed raw for each unit: its weight is what lies on the scale, no yield comes in between, and what
        is poured off later takes its macros along."""
        lines = tuple(replace(line, yield_range=UNCHANGED) for line in self.lines)
        return replace(
            self, lines=lines, cooked=False, boils_off=None, set_yield=UNCHANGED, measured_g=None, poured_fat_g=0.0
        )

    @property
    def as_kit(self) -> Component:
        """The same packed raw, to be cooked later: what is weighed of it is raw too."""
        return replace(self.built_raw, measured_g=self.measured_g)

    @property
    def price(self) -> float:
        """What 100 g cooked cost, as far as prices are known: all that was bought for it, over its cooked weight."""
        paid = math.fsum(line.purchased_g * (line.price or 0.0) for line in self.lines)
        return paid / self.cooked_g if paid else 0.0

    def priced(self, prices: Mapping[Any, float | None]) -> Component:
        """The same with what 100 g of each food cost as purchased, by the key that it is bought under."""
        return replace(self, lines=tuple(replace(line, price=prices.get(line.bought)) for line in self.lines))

    @property
    def has_unpriced(self) -> bool:
        """Something of it, beside water, has no price."""
        return any(line.price is None and line.purchased_g and not line.is_water for line in self.lines)

    @property
    def line_yields(self) -> tuple[YieldRange, ...]:
        """What each line weighs cooked over its edible weight in this pot, in order; they add up to `expected_g`.

        Where liquid is balanced, dry food takes up no more than there is, and water's is what is left of it. A yield
        set for the whole component is not spread over its lines.
        """
        if self.boils_off is None or self.set_yield is not None:
            return tuple(line.yield_range for line in self.lines)
        return balanced(self.lines, self.expected_g)

    def line_cooked_g(self) -> tuple[float, ...]:
        """What each line weighs cooked [g] in this pot."""
        return tuple(line.stays_g * y.expected for line, y in zip(self.lines, self.line_yields, strict=True))

    def _expected(self, end: End) -> float:
        if self.set_yield is not None:
            return self.basis_g * at(self.set_yield, end)
        if self.boils_off is None:
            return sum(line.stays_g * at(line.yield_range, end) for line in self.lines)
        # The most comes out when the least boils off, and then dry food has taken up the most.
        leaves: End = "low" if end == "high" else "high" if end == "low" else "expected"
        steam = self.boils_off.steam_g(leaves, free_g=free_g(self.lines, end), liquid_g=liquid_g(self.lines))
        return sum(line.stays_g for line in self.lines) - steam


def rounds(in_pan_g: float, capacity_g: float) -> tuple[int, float]:
    """How many equal rounds a pan of `capacity_g` [g] needs for `in_pan_g` [g], and the grams of each [g].

    >>> rounds(2256, 900)
    (3, 752.0)
    """
    require_range("pan_capacity_g", capacity_g, low=1, high=MAXIMUM_WEIGHT_G, unit="g")
    count = max(math.ceil(in_pan_g / capacity_g - 1e-9), 1)
    return count, in_pan_g / count
