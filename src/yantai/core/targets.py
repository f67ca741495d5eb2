"""What one container shall hold, and how close is close enough."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from yantai.core.energy import general_kcal
from yantai.core.errors import CoreError, require_range
from yantai.core.nutrients import AIMED, Nutrient

LIMITS: Mapping[Nutrient, float] = {
    Nutrient.KCAL: 4000,
    Nutrient.PROTEIN: 300,
    Nutrient.CARBOHYDRATE: 600,
    Nutrient.FAT: 250,
}
"""The most one container may aim at: several times a large meal, so only slips of the hand lie above."""

PRIORITIES: Mapping[Nutrient, float] = {
    Nutrient.KCAL: 2.0,
    Nutrient.PROTEIN: 2.0,
    Nutrient.CARBOHYDRATE: 1.0,
    Nutrient.FAT: 1.0,
}
"""Weight of a miss when not everything can be met: protein and energy first."""

KCAL_CONFLICT_SHARE = 0.10
KCAL_CONFLICT_KCAL = 15.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Target:
    """Macros of one container; None is "not aimed at". At least one is given.

    Attributes:
        kcal: energy [kcal].
        protein_g: protein [g].
        carbohydrate_g: total carbohydrate [g].
        fat_g: fat [g].
    """

    kcal: float | None = None
    protein_g: float | None = None
    carbohydrate_g: float | None = None
    fat_g: float | None = None

    def __post_init__(self) -> None:
        if not self.aims:
            raise CoreError("a target needs at least one of protein, carbohydrate, fat and kcal", field="protein_g")
        for nutrient, value in self.aims.items():
            unit = "kcal" if nutrient is Nutrient.KCAL else "g"
            require_range(nutrient, value, low=0, high=LIMITS[nutrient], unit=unit)
        if not any(self.aims.values()):
            raise CoreError(
                "a target of nothing needs no container: give at least one figure above zero",
                field="protein_g",
            )

    @property
    def aims(self) -> dict[Nutrient, float]:
        """The nutrients that are aimed at."""
        stated = {nutrient: getattr(self, nutrient.value) for nutrient in AIMED}
        return {nutrient: value for nutrient, value in stated.items() if value is not None}

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
    """How far [g, kcal] a container may lie from its target on either side and still count as met."""

    kcal: float = 30.0
    protein_g: float = 3.0
    carbohydrate_g: float = 5.0
    fat_g: float = 3.0
    priorities: Mapping[Nutrient, float] = field(default_factory=lambda: PRIORITIES)

    def __post_init__(self) -> None:
        for nutrient in AIMED:
            unit = "kcal" if nutrient is Nutrient.KCAL else "g"
            require_range(f"tolerance_{nutrient}", self[nutrient], low=0, high=LIMITS[nutrient], unit=unit)

    def __getitem__(self, nutrient: Nutrient) -> float:
        return float(getattr(self, nutrient.value))
