"""What one container shall hold, and how close is close enough."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, fields
from enum import StrEnum

from yantai.core.errors import CoreError, require_range
from yantai.core.foods.energy import general_kcal
from yantai.core.foods.nutrients import AIMED, Nutrient

LIMITS: Mapping[Nutrient, float] = {
    Nutrient.KCAL: 4000,
    Nutrient.PROTEIN: 300,
    Nutrient.CARBOHYDRATE: 600,
    Nutrient.FAT: 250,
}
"""The most one container may aim at: several times a large meal, so only slips of the hand lie above."""

AT_LEAST: Mapping[Nutrient, float] = {Nutrient.FIBRE: 100}
AT_MOST: Mapping[Nutrient, float] = {Nutrient.SATURATED: 250, Nutrient.SODIUM: 10_000}
"""Limits a container may have on one side only, each with the largest figure that makes sense [g, mg]."""

SCALES: Mapping[Nutrient, float] = {
    Nutrient.KCAL: 10.0,
    Nutrient.FIBRE: 1.0,
    Nutrient.SATURATED: 1.0,
    Nutrient.SODIUM: 100.0,
}
"""The least unit a miss is measured in [kcal, g, mg], 1 g for the macros: a band of zero is not infinitely strict."""


class Money(StrEnum):
    """What is held to a limit beside nutrients; the unit is the kitchen's currency."""

    COST = "cost"

    @property
    def unit(self) -> str:
        """Whatever the prices are in."""
        return ""

    @property
    def noun(self) -> str:
        """What it is called in a sentence."""
        return self.value


Held = Nutrient | Money
"""What a container can be held to."""

BUDGET_RANGE = (0.01, 100_000.0)
"""What one container may cost, in the currency of its prices."""

_BUDGET_SCALE = 0.05
"""A miss of the budget is measured in twentieths of it."""

KCAL_CONFLICT_SHARE = 0.10
KCAL_CONFLICT_KCAL = 15.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Aim:
    """A band for one nutrient of a container [g, kcal, mg], or for what it costs.

    Attributes:
        low, high: the band; infinite on the side that is free.
        centre: what the container should hold, None for a limit on one side.
        scale: the unit in which a miss is weighed: the tolerance, but not less than `SCALES`.
        priority: weight of a miss.
    """

    nutrient: Held
    low: float
    high: float
    centre: float | None
    scale: float
    priority: float = 1.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Figures:
    """What a container or a day shall hold; None is "not aimed at", or no limit.

    Attributes:
        kcal: energy [kcal].
        protein_g: protein [g].
        carbohydrate_g: total carbohydrate [g].
        fat_g: fat [g].
        fibre_g: fibre at least [g].
        saturated_g: saturated fat at most [g].
        sodium_mg: sodium at most [mg].
    """

    kcal: float | None = None
    protein_g: float | None = None
    carbohydrate_g: float | None = None
    fat_g: float | None = None
    fibre_g: float | None = None
    saturated_g: float | None = None
    sodium_mg: float | None = None

    def __getitem__(self, nutrient: Nutrient) -> float | None:
        value: float | None = getattr(self, nutrient.value)
        return value

    @property
    def by_name(self) -> dict[str, float | None]:
        """All of them by the names of their fields, as nutrients are called."""
        return {name: getattr(self, name) for name in FIGURES}

    @property
    def aims(self) -> dict[Nutrient, float]:
        """The nutrients that are aimed at."""
        stated = {nutrient: self[nutrient] for nutrient in AIMED}
        return {nutrient: value for nutrient, value in stated.items() if value is not None}

    @property
    def limits(self) -> dict[Nutrient, float]:
        """The limits on one side that are set."""
        stated = {nutrient: self[nutrient] for nutrient in (*AT_LEAST, *AT_MOST)}
        return {nutrient: value for nutrient, value in stated.items() if value is not None}


FIGURES = tuple(field.name for field in fields(Figures))
TARGETED = tuple(Nutrient(name) for name in FIGURES)
"""The nutrients that a target may speak of, in the order in which it does."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Target(Figures):
    """What one container shall hold: figures that a container can have, at least one of them above zero."""

    @classmethod
    def of(cls, figures: Figures) -> Target:
        """The target of these figures.

        Raises:
            CoreError: a figure is out of its range, or all are nothing.
        """
        return cls(**figures.by_name)

    def __post_init__(self) -> None:
        for nutrient, value in self.aims.items():
            require_range(nutrient, value, low=0, high=LIMITS[nutrient], unit=nutrient.unit)
        if self.aims and not any(self.aims.values()):
            raise CoreError(
                "a target of nothing needs no container: give at least one figure above zero",
                field="protein_g",
            )
        for nutrient, most in {**AT_LEAST, **AT_MOST}.items():
            limit = getattr(self, nutrient.value)
            if limit is not None:
                require_range(nutrient, limit, low=0, high=most, unit=nutrient.unit)

    def times(self, factor: float) -> Target:
        """This target for another appetite: each figure `factor` times, limits too.

        Raises:
            OutOfRange: `factor` is not between a tenth and five, or a figure leaves its range.
        """
        require_range("factor", factor, low=0.1, high=5, unit="times")
        figures = {**self.aims, **self.limits}
        return Target(**{nutrient.value: value * factor for nutrient, value in figures.items()})

    @property
    def macro_kcal(self) -> float | None:
        """Energy [kcal] of the aimed-at macros, None unless all three are given."""
        if self.protein_g is None or self.carbohydrate_g is None or self.fat_g is None:
            return None
        return general_kcal(protein_g=self.protein_g, carbohydrate_g=self.carbohydrate_g, fat_g=self.fat_g)

    @property
    def kcal_conflict(self) -> float | None:
        """How far [kcal] the stated kcal lie above those of the macros, None while they agree.

        They disagree when more than 10 % and more than 15 kcal apart: then no container meets both.
        """
        implied = self.macro_kcal
        if self.kcal is None or implied is None:
            return None
        apart = self.kcal - implied
        return apart if abs(apart) > max(KCAL_CONFLICT_KCAL, KCAL_CONFLICT_SHARE * implied) else None


@dataclass(frozen=True, slots=True, kw_only=True)
class Tolerance:
    """How far a container may lie from its target on either side and still count as met.

    The priorities weigh a miss when not everything can be met: protein and energy come first.

    Attributes:
        percent: the figures are percent of the target [%] instead of amounts [kcal, g].
    """

    kcal: float = 30.0
    protein_g: float = 3.0
    carbohydrate_g: float = 5.0
    fat_g: float = 3.0
    priority_kcal: float = 2.0
    priority_protein_g: float = 2.0
    priority_carbohydrate_g: float = 1.0
    priority_fat_g: float = 1.0
    percent: bool = False

    def __post_init__(self) -> None:
        for nutrient in AIMED:
            unit = "%" if self.percent else nutrient.unit
            most = 100 if self.percent else LIMITS[nutrient]
            require_range(f"tolerance_{nutrient}", self[nutrient], low=0, high=most, unit=unit)
            require_range(f"priority_{nutrient}", self.priority(nutrient), low=0.1, high=100, unit="times")

    def priority(self, nutrient: Nutrient) -> float:
        """The weight of a miss of one nutrient."""
        return float(getattr(self, f"priority_{nutrient.value}"))

    def band(self, nutrient: Nutrient, aim: float) -> float:
        """How far [g, kcal] a container that aims at so much of a nutrient may lie from it."""
        return aim * self[nutrient] / 100 if self.percent else self[nutrient]

    def __getitem__(self, nutrient: Nutrient) -> float:
        return float(getattr(self, nutrient.value))


def bands(target: Target, tolerance: Tolerance) -> tuple[Aim, ...]:
    """What a container is held to: each macro aimed at with its tolerance, and the limits on one side."""
    aimed = tuple(
        Aim(
            nutrient=nutrient,
            low=value - tolerance.band(nutrient, value),
            high=value + tolerance.band(nutrient, value),
            centre=value,
            scale=max(tolerance.band(nutrient, value), SCALES.get(nutrient, 1.0)),
            priority=tolerance.priority(nutrient),
        )
        for nutrient, value in target.aims.items()
    )
    limited = tuple(
        Aim(
            nutrient=nutrient,
            low=value if nutrient in AT_LEAST else -math.inf,
            high=math.inf if nutrient in AT_LEAST else value,
            centre=None,
            scale=SCALES[nutrient],
        )
        for nutrient, value in target.limits.items()
    )
    return aimed + limited


def budget_band(budget: float) -> Aim:
    """What a container may cost at most, as a limit like those of nutrients."""
    return Aim(nutrient=Money.COST, low=-math.inf, high=budget, centre=None, scale=_BUDGET_SCALE * budget)
