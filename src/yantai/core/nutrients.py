"""Nutrient vectors that remember what is missing."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from enum import StrEnum

from yantai.core.energy import general_kcal
from yantai.core.errors import CoreError


class Nutrient(StrEnum):
    """What a composition holds; the unit stands in the value, energy is in kcal."""

    KCAL = "kcal"
    PROTEIN = "protein_g"
    CARBOHYDRATE = "carbohydrate_g"
    FAT = "fat_g"
    FIBRE = "fibre_g"
    SUGARS = "sugars_g"
    SATURATED = "saturated_g"
    SODIUM = "sodium_mg"


NUTRIENTS = tuple(Nutrient)
MACROS = (Nutrient.PROTEIN, Nutrient.CARBOHYDRATE, Nutrient.FAT)
AIMED = (Nutrient.KCAL, *MACROS)
_PLACE = {nutrient: place for place, nutrient in enumerate(NUTRIENTS)}


@dataclass(frozen=True, slots=True)
class Amounts:
    """An amount of each nutrient, in the units of `Nutrient`.

    A figure that a source does not state is not zero: its known part is carried on and the nutrient is
    named in `at_least`, so every sum made with it is known to be a lower bound.
    """

    known: tuple[float, ...]
    at_least: frozenset[Nutrient] = frozenset()

    def __post_init__(self) -> None:
        if len(self.known) != len(NUTRIENTS):
            raise CoreError(f"{len(self.known)} amounts given for {len(NUTRIENTS)} nutrients", field="known")
        for nutrient, value in self:
            if not (math.isfinite(value) and value >= 0):
                raise CoreError(f"{nutrient} is {value}; an amount is a number of 0 or more", field=nutrient)

    def __getitem__(self, nutrient: Nutrient) -> float:
        return self.known[_PLACE[nutrient]]

    def __iter__(self) -> Iterator[tuple[Nutrient, float]]:
        return zip(NUTRIENTS, self.known, strict=True)

    def times(self, factor: float) -> Amounts:
        """These amounts `factor` times; nothing of a food leaves nothing unknown."""
        if factor == 0:
            return NOTHING
        return Amounts(tuple(value * factor for value in self.known), self.at_least)

    def in_grams(self, grams: float) -> Amounts:
        """What `grams` [g] hold, when these amounts are those of 100 g."""
        return self.times(grams / 100)

    def per_100g_of(self, grams: float) -> Amounts:
        """What 100 g hold, when these amounts are spread over `grams` [g], which must be above zero."""
        return self.times(100 / grams)


NOTHING = Amounts((0.0,) * len(NUTRIENTS))


def total(amounts: Iterable[Amounts]) -> Amounts:
    """The sum; a nutrient that is a lower bound in one part is a lower bound in the sum."""
    parts = list(amounts)
    known = tuple(math.fsum(part.known[place] for part in parts) for place in range(len(NUTRIENTS)))
    return Amounts(known, frozenset().union(*(part.at_least for part in parts)))


def composition(
    *,
    protein_g: float | None,
    carbohydrate_g: float | None,
    fat_g: float | None,
    fibre_g: float | None = None,
    sugars_g: float | None = None,
    saturated_g: float | None = None,
    sodium_mg: float | None = None,
    alcohol_g: float | None = None,
) -> Amounts:
    """Amounts per 100 g of a food as its source states them; None is "not stated".

    Energy follows from the macros by `general_kcal`, so that a container's kcal always agree with its
    macros, whatever rule the source used. An unstated alcohol content counts as none.
    """
    stated = {
        Nutrient.PROTEIN: protein_g,
        Nutrient.CARBOHYDRATE: carbohydrate_g,
        Nutrient.FAT: fat_g,
        Nutrient.FIBRE: fibre_g,
        Nutrient.SUGARS: sugars_g,
        Nutrient.SATURATED: saturated_g,
        Nutrient.SODIUM: sodium_mg,
    }
    kcal = general_kcal(
        protein_g=protein_g or 0.0,
        carbohydrate_g=carbohydrate_g or 0.0,
        fat_g=fat_g or 0.0,
        alcohol_g=alcohol_g or 0.0,
    )
    missing = {nutrient for nutrient, value in stated.items() if value is None}
    if missing & set(MACROS):
        missing.add(Nutrient.KCAL)
    return Amounts((kcal, *(value or 0.0 for value in stated.values())), frozenset(missing))
