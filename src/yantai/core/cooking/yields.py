"""Yield factors: cooked weight over edible weight, with a range and a named source."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from typing import Literal

from yantai.core.errors import CoreError, require_range

MAXIMUM_YIELD = 8.0
"""Above this no kitchen food goes: thin porridge takes up to 6.5 times its dry weight."""


class YieldSource(StrEnum):
    """Where a yield comes from, best first."""

    COACH = "set by the coach"
    MEASURED = "measured in this kitchen"
    LINES = "from its ingredients"
    WEIGHED = "weighed"
    PUBLISHED = "published factor"
    BALANCE = "nutrient balance"
    KITCHEN = "usual kitchen range"
    GROUP = "group default"
    UNCOOKED = "not cooked"
    KEPT = "keeps its weight"
    TAKEN_UP = "taken up or drained"
    WATER = "mass balance of the pot"
    WITHIN = "as cooked in its own component"
    ASSUMED = "assumed"
    UNKNOWN = "no factor known, assumed"


@dataclass(frozen=True, slots=True, kw_only=True)
class YieldRange:
    """A yield factor `Y = cooked / edible` [g/g] with the range it usually falls in."""

    low: float
    expected: float
    high: float
    source: YieldSource
    note: str = ""

    def __post_init__(self) -> None:
        require_range("yield", self.expected, low=0, high=MAXIMUM_YIELD, unit="g cooked per g edible")
        if not self.low <= self.expected <= self.high:
            raise CoreError(
                f"a yield of {self.expected:g} lies outside its own range {self.low:g} to {self.high:g}",
                field="yield",
            )

    @property
    def loss(self) -> float:
        """Cooking loss `1 - Y`; negative where water is taken up."""
        return 1 - self.expected


End = Literal["low", "expected", "high"]
"""One figure of a range."""


def at(found: YieldRange, end: End) -> float:
    """The yield [g/g] at one end of its range."""
    return float(getattr(found, end))


UNCHANGED = YieldRange(low=1, expected=1, high=1, source=YieldSource.UNCOOKED)
KEPT = YieldRange(low=1, expected=1, high=1, source=YieldSource.KEPT, note="fat and seasoning stay in the food")
TAKEN_UP = YieldRange(
    low=0.0, expected=0.0, high=0.0, source=YieldSource.TAKEN_UP, note="taken up by dry food, or poured off"
)
READY = YieldRange(
    low=0.9, expected=1, high=1.05, source=YieldSource.ASSUMED, note="bought ready to eat, keeps its weight"
)
DRY_KEPT = YieldRange(
    low=0.95, expected=1, high=1, source=YieldSource.KEPT, note="dry: there is no water in it to lose"
)
UNKNOWN = YieldRange(low=0.5, expected=0.85, high=1.0, source=YieldSource.UNKNOWN, note="weigh this pan to know")

BALANCE_SPREAD = 0.10
"""Half-width of the range given to a nutrient-balance yield: 102 of 105 meat and fish rows of the
reference table lie within 10 % of the balance (reference/PROVENANCE.md, "Checks run")."""


def yield_factor(cooked_g: float, edible: float) -> float:
    """`Y = cooked / EP` [g/g]; both weights [g] above zero.

    >>> yield_factor(1692, 2256)
    0.75
    """
    require_range("cooked_g", cooked_g, low=0.001, high=float("inf"), unit="g")
    require_range("edible_g", edible, low=0.001, high=float("inf"), unit="g")
    return cooked_g / edible


def balance_yield(raw_per_100g: float, cooked_per_100g: float) -> YieldRange:
    """Yield by nutrient balance: what 100 g raw hold over what 100 g cooked hold of a nutrient that stays.

    Protein serves for meat, fish and eggs, solids or carbohydrate for grains and vegetables.
    Source: the retention-free case of the mass balance in EuroFIR's recipe calculation guideline.

    >>> round(balance_yield(22.53, 31.02).expected, 3)
    0.726
    """
    require_range("cooked_per_100g", cooked_per_100g, low=0.001, high=100, unit="g per 100 g")
    return around_balance(raw_per_100g / cooked_per_100g)


def around_balance(factor: float) -> YieldRange:
    """A nutrient-balance yield `factor` with its range."""
    return YieldRange(
        low=factor * (1 - BALANCE_SPREAD),
        expected=factor,
        high=factor * (1 + BALANCE_SPREAD),
        source=YieldSource.BALANCE,
    )
