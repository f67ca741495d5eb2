"""Figures as several rooms show them."""

from __future__ import annotations

from dataclasses import dataclass, make_dataclass
from typing import Any

from yantai.core.cooking.yields import YieldRange
from yantai.core.foods.nutrients import NUTRIENTS, Amounts, Nutrient
from yantai.core.targets.targets import Held


@dataclass(frozen=True, slots=True, kw_only=True)
class Range:
    """The least and the most that there may be."""

    low: float
    high: float


SHOWN_FROM_SHARE = 0.01
"""An interval is shown when it is wider than this share of the figure."""


def _ranges(amounts: Amounts) -> dict[str, Range]:
    if amounts.uncertainty is None:
        return {}
    found = {}
    for (nutrient, value), (below, above) in zip(amounts, amounts.uncertainty, strict=True):
        if nutrient not in amounts.at_least and max(below, above) > max(SHOWN_FROM_SHARE * value, 0.05):
            low, high = amounts.interval(nutrient)
            found[nutrient.value] = Range(low=low, high=high)
    return found


_NAMES = tuple(nutrient.value for nutrient in NUTRIENTS)


_Nutrients: Any = make_dataclass(
    "_Nutrients", [(name, float) for name in _NAMES], frozen=True, slots=True, kw_only=True
)


@dataclass(frozen=True, slots=True, kw_only=True)
class AmountsView(_Nutrients):  # type: ignore[misc]  # a field for each nutrient that the core knows
    """Nutrients of something; those named in `at_least` are lower bounds.

    `ranges` holds the least and the most of each nutrient that rounded labels leave open by more than 1 %.
    """

    at_least: list[str]
    ranges: dict[str, Range]

    @classmethod
    def of(cls, amounts: Amounts) -> AmountsView:
        """The view of core amounts."""
        return cls(
            **dict(zip(_NAMES, amounts.known, strict=True)), at_least=sorted(amounts.at_least), ranges=_ranges(amounts)
        )

    @property
    def amounts(self) -> Amounts:
        """The core amounts that this shows; what rounded labels leave open by less than is shown counts as exact."""
        known = tuple(float(getattr(self, name)) for name in _NAMES)
        uncertainty = tuple(
            (value - self.ranges[name].low, self.ranges[name].high - value) if name in self.ranges else (0.0, 0.0)
            for name, value in zip(_NAMES, known, strict=True)
        )
        return Amounts(known, frozenset(Nutrient(name) for name in self.at_least), uncertainty if self.ranges else None)


@dataclass(frozen=True, slots=True, kw_only=True)
class YieldView:
    """A yield factor with its range and where it comes from."""

    low: float
    expected: float
    high: float
    source: str
    note: str

    @classmethod
    def of(cls, found: YieldRange) -> YieldView:
        """The view of a core yield."""
        return cls(
            low=found.low,
            expected=found.expected,
            high=found.high,
            source=found.source.value,
            note=found.note,
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class GaugeView:
    """How one aimed nutrient of a container stands, or what it costs. `miss` is the signed excess over the tolerance or
    the budget, `known` False where an ingredient does not state the figure, so that nobody can say whether it is met;
    `side` says whether the target is aimed at, or a limit that is to be reached or kept under."""

    nutrient: Held
    side: str
    target: float
    tolerance: float
    amount: float
    off: float
    miss: float
    known: bool
    at_least: bool
