"""Yield factors: cooked weight over edible weight, with a range and a named source."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

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
    ASSUMED = "no factor known, assumed"


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


UNCHANGED = YieldRange(low=1, expected=1, high=1, source=YieldSource.UNCOOKED)
KEPT = YieldRange(low=1, expected=1, high=1, source=YieldSource.KEPT, note="fat and seasoning stay in the food")
TAKEN_UP = YieldRange(low=0, expected=0, high=0, source=YieldSource.TAKEN_UP, note="counted in the food's own yield")
SIMMERED_WATER = YieldRange(low=0.6, expected=0.8, high=0.95, source=YieldSource.ASSUMED, note="part boils away")
READY = YieldRange(
    low=0.9, expected=1, high=1.05, source=YieldSource.ASSUMED, note="bought ready to eat, keeps its weight"
)
UNKNOWN = YieldRange(low=0.5, expected=0.85, high=1.0, source=YieldSource.ASSUMED, note="weigh this pan to know")

BALANCE_SPREAD = 0.10
"""Half-width of the range given to a nutrient-balance yield: 102 of 105 meat and fish rows of the
reference table lie within 10 % of the balance (reference/PROVENANCE.md, "Checks run")."""


_SIMILAR = (
    ("roasted", "baked", "air-fried", "grilled", "pan-fried"),
    ("sauteed", "stir-fried", "pan-fried"),
    ("boiled", "poached", "steamed", "microwaved"),
    ("simmered", "braised", "slow-cooked", "pressure-cooked"),
)
"""Ways of cooking that dry or wet food alike."""

SIMILAR_SPREAD = 0.10
"""How much wider [share] a range becomes when it is borrowed from a similar method: between the dry
methods of one meat the reference table differs by up to 0.08."""


def similar_methods(method: str) -> list[str]:
    """Methods whose yields may stand in for those of `method`, nearest first."""
    return [other for family in _SIMILAR if method in family for other in family if other != method]


def borrowed(found: YieldRange, method: str) -> YieldRange:
    """The yield of a similar `method` with a wider range."""
    return YieldRange(
        low=found.low * (1 - SIMILAR_SPREAD),
        expected=found.expected,
        high=min(found.high * (1 + SIMILAR_SPREAD), MAXIMUM_YIELD),
        source=found.source,
        note=f"as {method}, with a wider range",
    )


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


def best_yield(
    *,
    coach: float | None = None,
    measured: YieldRange | None = None,
    published: YieldRange | None = None,
    balance: YieldRange | None = None,
    group: YieldRange | None = None,
) -> YieldRange:
    """The best source there is, in the order of the arguments; `UNKNOWN` when there is none."""
    if coach is not None:
        return YieldRange(low=coach, expected=coach, high=coach, source=YieldSource.COACH)
    return measured or published or balance or group or UNKNOWN
