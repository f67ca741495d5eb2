"""Nutrient vectors that remember what is missing."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, fields
from enum import StrEnum
from typing import Any

from yantai.core.errors import CoreError
from yantai.core.foods.energy import DEFAULT_RULES, Carbohydrate, EnergyRule, Rules, kcal_by_rule


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
    POTASSIUM = "potassium_mg"

    @property
    def unit(self) -> str:
        """kcal, g or mg."""
        return self.value.rpartition("_")[2]

    @property
    def noun(self) -> str:
        """What it is called in a sentence."""
        return _NOUNS.get(self) or self.value.partition("_")[0]


_NOUNS = {Nutrient.KCAL: "energy", Nutrient.SATURATED: "saturated fat"}
NUTRIENTS = tuple(Nutrient)
MACROS = (Nutrient.PROTEIN, Nutrient.CARBOHYDRATE, Nutrient.FAT)
AIMED = (Nutrient.KCAL, *MACROS)
_AS_STATED = frozenset(NUTRIENTS) - {Nutrient.KCAL, Nutrient.CARBOHYDRATE}
"""What a source states is what is counted; the others follow the workspace's rules."""
Uncertainty = tuple[float, float]
"""How far below and above a stated figure the true one may lie."""
_PLACE = {nutrient: index for index, nutrient in enumerate(NUTRIENTS)}


@dataclass(frozen=True, slots=True)
class Amounts:
    """An amount of each nutrient, in the units of `Nutrient`.

    A figure that a source does not state is not zero: its known part is carried on and the nutrient is
    named in `at_least`, so every sum made with it is known to be a lower bound. A figure that was rounded
    has `uncertainty`: how far below and above it the true one may lie, None when every figure is exact.
    """

    known: tuple[float, ...]
    at_least: frozenset[Nutrient] = frozenset()
    uncertainty: tuple[Uncertainty, ...] | None = None

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

    def interval(self, nutrient: Nutrient) -> tuple[float, float]:
        """The least and the most that there may be; the most is infinite where a source states nothing."""
        value = self[nutrient]
        below, above = self.uncertainty[_PLACE[nutrient]] if self.uncertainty else (0.0, 0.0)
        return max(value - below, 0.0), math.inf if nutrient in self.at_least else value + above

    def times(self, factor: float) -> Amounts:
        """These amounts `factor` times; nothing of a food leaves nothing unknown."""
        if factor == 0:
            return NOTHING
        uncertainty = None if self.uncertainty is None else tuple((b * factor, a * factor) for b, a in self.uncertainty)
        return Amounts(tuple(value * factor for value in self.known), self.at_least, uncertainty)

    def in_grams(self, grams: float) -> Amounts:
        """What `grams` [g] hold, when these amounts are those of 100 g."""
        return self.times(grams / 100)

    def per_100g_of(self, grams: float) -> Amounts:
        """What 100 g hold, when these amounts are spread over `grams` [g], which must be above zero."""
        return self.times(100 / grams)

    def less(self, taken: Mapping[Nutrient, float]) -> Amounts:
        """These amounts without what was `taken` away of some; never below nothing."""
        known = tuple(max(value - taken.get(nutrient, 0.0), 0.0) for nutrient, value in self)
        return Amounts(known, self.at_least, self.uncertainty)


MOST_KCAL = 900.0
"""Energy of 100 g of pure fat [kcal]."""

NOTHING = Amounts((0.0,) * len(NUTRIENTS))


def total(amounts: Iterable[Amounts]) -> Amounts:
    """The sum; a nutrient that is a lower bound in one part is a lower bound in the sum."""
    parts = list(amounts)
    known = tuple(math.fsum(part.known[index] for part in parts) for index in range(len(NUTRIENTS)))
    rounded = [part.uncertainty for part in parts if part.uncertainty is not None]
    uncertainty = tuple(
        (math.fsum(one[index][0] for one in rounded), math.fsum(one[index][1] for one in rounded))
        for index in range(len(NUTRIENTS))
    )
    return Amounts(known, frozenset().union(*(part.at_least for part in parts)), uncertainty if rounded else None)


def mixture(per_100g: Sequence[Amounts], grams: Sequence[float]) -> Amounts:
    """What `grams` [g] of foods hold together, when each holds `per_100g` in 100 g."""
    if any(amounts.uncertainty is not None for amounts in per_100g):
        return total(amounts.in_grams(g) for amounts, g in zip(per_100g, grams, strict=True))
    there = [(amounts, g / 100) for amounts, g in zip(per_100g, grams, strict=True) if g]
    known = tuple(sum(amounts.known[index] * g for amounts, g in there) for index in range(len(NUTRIENTS)))
    return Amounts(known, frozenset().union(*(amounts.at_least for amounts, _ in there)))


@dataclass(frozen=True, slots=True, kw_only=True)
class Stated:
    """What a source states of 100 g of a food; None is "not stated", which is not zero.

    Attributes:
        carbohydrate: which carbohydrate `carbohydrate_g` is.
        stated_kcal: the source's own energy, by its own rule.
        uncertainty: how far below and above a rounded figure the true one may lie, by the names of these fields.
    """

    protein_g: float | None
    carbohydrate_g: float | None
    fat_g: float | None
    fibre_g: float | None = None
    sugars_g: float | None = None
    saturated_g: float | None = None
    sodium_mg: float | None = None
    potassium_mg: float | None = None
    alcohol_g: float | None = None
    polyols_g: float | None = None
    stated_kcal: float | None = None
    carbohydrate: Carbohydrate = Carbohydrate.TOTAL
    uncertainty: Mapping[str, Uncertainty] | None = None

    @property
    def solids_g(self) -> float:
        """Protein, fat and carbohydrate [g]: what of it is not water."""
        return (self.protein_g or 0.0) + (self.fat_g or 0.0) + (self.carbohydrate_g or 0.0)

    def amounts(self, rules: Rules = DEFAULT_RULES) -> Amounts:
        """Amounts per 100 g as a workspace counts them.

        Energy follows from the macros by the workspace's rule, so that a container's kcal always agree with
        its macros, whatever rule the source used; under the LABEL rule it is the source's own. Carbohydrate
        is turned into the basis of `rules`: available = total - fibre. Where the fibre is not stated, available
        may lie anywhere from nothing up to a stated total. A label that states available carbohydrate and no fibre
        is taken at its word: its fibre alone is a lower bound, as it is usual where fibre need not be stated.
        """
        fibre = self.fibre_g or 0.0
        stated_g = self.carbohydrate_g or 0.0
        if self.carbohydrate is Carbohydrate.TOTAL:
            total_g, available_g = stated_g, max(stated_g - fibre, 0.0)
        else:
            total_g, available_g = stated_g + fibre, stated_g
        known = {
            **{nutrient: getattr(self, nutrient.value) or 0.0 for nutrient in NUTRIENTS if nutrient in _AS_STATED},
            Nutrient.KCAL: self._kcal(rules.energy, total_g, available_g),
            Nutrient.CARBOHYDRATE: total_g if rules.carbohydrate is Carbohydrate.TOTAL else available_g,
        }
        return Amounts(
            tuple(known[n] for n in NUTRIENTS), self._missing(rules), self._slack(rules, total_g, available_g)
        )

    def _kcal(self, rule: EnergyRule, total_g: float, available_g: float) -> float:
        return kcal_by_rule(
            rule,
            protein_g=self.protein_g or 0.0,
            total_g=total_g,
            available_g=available_g,
            fat_g=self.fat_g or 0.0,
            fibre_g=self.fibre_g or 0.0,
            polyols_g=self.polyols_g or 0.0,
            alcohol_g=self.alcohol_g or 0.0,
            stated_kcal=self.stated_kcal,
        )

    def _missing(self, rules: Rules) -> frozenset[Nutrient]:
        missing: set[Nutrient] = {n for n in NUTRIENTS if n is not Nutrient.KCAL and getattr(self, n.value) is None}
        is_stated = rules.energy is EnergyRule.LABEL and self.stated_kcal is not None
        if not is_stated and missing & set(MACROS):
            missing.add(Nutrient.KCAL)
        return frozenset(missing)

    def _slack(self, rules: Rules, total_g: float, available_g: float) -> tuple[Uncertainty, ...] | None:
        unknown_fibre = (
            self.fibre_g is None
            and self.carbohydrate is Carbohydrate.TOTAL
            and bool(self.carbohydrate_g)
            and (rules.carbohydrate is Carbohydrate.AVAILABLE or rules.energy in (EnergyRule.NET, EnergyRule.EU))
        )
        if not self.uncertainty and not unknown_fibre:
            return None
        uncertainty = self.uncertainty or {}
        none = (0.0, 0.0)
        stated, fibre = uncertainty.get("carbohydrate_g", none), uncertainty.get("fibre_g", none)
        if unknown_fibre:
            fibre = (0.0, self.carbohydrate_g or 0.0)
        if self.carbohydrate is Carbohydrate.TOTAL:
            total, available = stated, (stated[0] + fibre[1], stated[1] + fibre[0])
        else:
            total, available = (stated[0] + fibre[0], stated[1] + fibre[1]), stated
        found = {nutrient: uncertainty.get(nutrient.value, none) for nutrient in NUTRIENTS}
        found[Nutrient.CARBOHYDRATE] = total if rules.carbohydrate is Carbohydrate.TOTAL else available
        if not (rules.energy is EnergyRule.LABEL and self.stated_kcal is not None):
            sides = []
            for side in (0, 1):
                # The rules are linear with factors of 0 or more, so uncertainty adds up by the same factors.
                sides.append(
                    kcal_by_rule(
                        rules.energy,
                        protein_g=found[Nutrient.PROTEIN][side],
                        total_g=total[side],
                        available_g=available[side],
                        fat_g=found[Nutrient.FAT][side],
                        fibre_g=fibre[side],
                        polyols_g=0.0,
                        alcohol_g=uncertainty.get("alcohol_g", none)[side],
                    )
                )
            polyols = uncertainty.get("polyols_g", none)
            found[Nutrient.KCAL] = (sides[0] + 2.4 * sum(polyols), sides[1] + 2.4 * sum(polyols))
        else:
            found[Nutrient.KCAL] = uncertainty.get("stated_kcal", none)
        below, above = self._within_stated(
            found[Nutrient.KCAL], self._kcal(rules.energy, total_g, available_g), fibre[1]
        )
        # Pure fat is the most that 100 g of food can be.
        found[Nutrient.KCAL] = below, max(min(above, MOST_KCAL - self._kcal(rules.energy, total_g, available_g)), 0.0)
        return tuple(found[nutrient] for nutrient in NUTRIENTS)

    def _within_stated(self, uncertainty: Uncertainty, kcal: float, more_fibre_g: float) -> Uncertainty:
        """Uncertainty of the energy [kcal], no wider than the label's own energy lets it be.

        "0 kcal" in 5 g are less than 100 kcal in 100 g, though the zeros of its macros would leave room for 170. The
        label's rule is not known: by another one, fibre and polyols may weigh up to 4 kcal a gram more or less.
        """
        rounding = (self.uncertainty or {}).get("stated_kcal")
        if rounding is None or self.stated_kcal is None:
            return uncertainty
        apart = 4 * ((self.fibre_g or 0.0) + more_fibre_g + (self.polyols_g or 0.0))
        apart += 4 * (self.uncertainty or {}).get("polyols_g", (0.0, 0.0))[1]
        low = self.stated_kcal - rounding[0] - apart
        high = self.stated_kcal + rounding[1] + apart
        if not low <= kcal <= high:
            return uncertainty  # energy and macros contradict each other, so neither bounds the other
        return min(uncertainty[0], kcal - low), min(uncertainty[1], high - kcal)


STATED = tuple(field.name for field in fields(Stated) if field.name not in ("carbohydrate", "uncertainty"))
"""The figures that a source may state."""


def composition(
    *, protein_g: float | None, carbohydrate_g: float | None, fat_g: float | None, **others: float | None
) -> Amounts:
    """Amounts per 100 g by the default rules, of a source that states total carbohydrate; `others` as in `Stated`."""
    figures: dict[str, Any] = dict(others)
    return Stated(protein_g=protein_g, carbohydrate_g=carbohydrate_g, fat_g=fat_g, **figures).amounts()
