"""Units at the edge of the core: everything inside is grams, millilitres, kcal and degrees Celsius.

Conversions come from pint's registry, whose avoirdupois ounce is the exact 28.349523125 g of the
1959 international agreement and whose US cup is 236.588 ml.
"""

from __future__ import annotations

from collections.abc import Mapping
from enum import StrEnum
from functools import cache

import pint

from yantai.core.errors import NoSuchUnit
from yantai.core.speaking import KJ_PER_KCAL

MASS_UNITS = ("g", "kg", "mg", "oz", "lb")
VOLUME_UNITS = ("ml", "cl", "dl", "l", "fl oz", "tsp", "tbsp", "cup", "pint", "quart", "gallon")
_PINT_NAMES = {"oz": "ounce", "lb": "pound", "cl": "centiliter", "dl": "deciliter"}


class Spoons(StrEnum):
    """Whose cups and spoons a kitchen means; a setting of the workspace."""

    US = "us"
    METRIC = "metric"
    AUSTRALIAN = "australian"
    IMPERIAL = "imperial"


_UK_MEASURES: Mapping[str, str | float] = {"fl oz": "imperial_fluid_ounce", "pint": "imperial_pint",
    "quart": "imperial_quart", "gallon": "imperial_gallon"}  # fmt: skip
_SPOON_NAMES: Mapping[Spoons, Mapping[str, str | float]] = {
    Spoons.US: {
        "cup": "cup",
        "tbsp": "tablespoon",
        "tsp": "teaspoon",
        "fl oz": "fluid_ounce",
        "pint": "pint",
        "quart": "quart",
        "gallon": "gallon",
    },
    Spoons.METRIC: {**_UK_MEASURES, "cup": 250.0, "tbsp": 15.0, "tsp": 5.0},
    Spoons.AUSTRALIAN: {**_UK_MEASURES, "cup": 250.0, "tbsp": 20.0, "tsp": 5.0},
    Spoons.IMPERIAL: {**_UK_MEASURES, "cup": "imperial_cup", "tbsp": 17.758, "tsp": 5.919},
}
"""Millilitres, or the name in pint's registry. Metric cups and spoons are those of British and Australian
kitchen standards; the imperial spoons are 5/8 and 5/24 of an imperial fluid ounce."""


@cache
def _registry() -> pint.UnitRegistry[float]:
    return pint.UnitRegistry(cache_folder=None)


@cache
def _factor(unit: str, base: str) -> float:
    return float(_registry().Quantity(1.0, _PINT_NAMES.get(unit, unit)).to(base).magnitude)


def grams(amount: float, unit: str, measures: Mapping[str, float] | None = None) -> float:
    """Turn an amount into grams [g].

    `unit` is one of `MASS_UNITS`, or a household measure of the food: `measures` maps the measure's
    name to the grams of one of it. A volume has no grams of its own, so a cup without a measure is
    refused rather than guessed.

    Raises:
        NoSuchUnit: the unit is no mass, and the food has no measure of that name.

    >>> round(grams(3, "oz"), 3)
    85.049
    >>> grams(2, "cup, cooked", {"cup, cooked": 182.0})
    364.0
    """
    if measures and unit in measures:
        return amount * measures[unit]
    if unit in MASS_UNITS:
        return amount * _factor(unit, "g")
    known = ", ".join(measures) if measures else "none"
    raise NoSuchUnit(
        f"“{unit}” has no weight for this food; its own measures are: {known}. Give it in g, kg, oz or lb.",
        field="unit",
    )


def millilitres(amount: float, unit: str, spoons: Spoons = Spoons.US) -> float:
    """Turn a volume into millilitres [ml], with the cups and spoons of `spoons`.

    Raises:
        NoSuchUnit: the unit is not in `VOLUME_UNITS`.

    >>> round(millilitres(1, "cup"), 3)
    236.588
    >>> millilitres(2, "tbsp", Spoons.AUSTRALIAN)
    40.0
    """
    if unit not in VOLUME_UNITS:
        raise NoSuchUnit(f"“{unit}” is no volume; use one of {', '.join(VOLUME_UNITS)}.", field="unit")
    named = _SPOON_NAMES[spoons].get(unit, unit)
    return amount * (named if isinstance(named, float) else _factor(named, "ml"))


def kcal_from_kj(kilojoules: float) -> float:
    """Energy [kcal] of `kilojoules` [kJ], by the thermochemical calorie of 4.184 J."""
    return kilojoules / KJ_PER_KCAL


def celsius(fahrenheit: float) -> float:
    """Temperature [°C] of `fahrenheit` [°F].

    >>> celsius(350)
    176.66666666666666
    """
    return (fahrenheit - 32) / 1.8


def weighable_g(grams: float) -> float:
    """A weight [g] as it is put on the scale: whole grams from 100 g, tenths below, hundredths below 1 g.

    What there is never becomes nothing.

    >>> [weighable_g(grams) for grams in (2412.6, 99.94, 0.4, 0.004, 0)]
    [2413.0, 99.9, 0.4, 0.004, 0.0]
    """
    digits = 0 if grams >= 100 else 1 if grams >= 1 else 2
    return round(grams, digits) or round(grams, 3) or float(grams)
