"""Units at the edge of the core: everything inside is grams, millilitres, kcal and degrees Celsius.

Conversions come from pint's registry, whose avoirdupois ounce is the exact 28.349523125 g of the
1959 international agreement and whose US cup is 236.588 ml.
"""

from __future__ import annotations

from collections.abc import Mapping
from functools import cache

import pint

from yantai.core.errors import NoSuchUnit

MASS_UNITS = ("g", "kg", "mg", "oz", "lb")
VOLUME_UNITS = ("ml", "l", "fl oz", "tsp", "tbsp", "cup")
_PINT_NAMES = {"oz": "ounce", "lb": "pound", "fl oz": "fluid_ounce", "tsp": "teaspoon", "tbsp": "tablespoon"}


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


def millilitres(amount: float, unit: str) -> float:
    """Turn a volume into millilitres [ml]; spoons and cups are the US customary ones.

    Raises:
        NoSuchUnit: the unit is not in `VOLUME_UNITS`.

    >>> round(millilitres(1, "cup"), 3)
    236.588
    """
    if unit not in VOLUME_UNITS:
        raise NoSuchUnit(f"“{unit}” is no volume; use one of {', '.join(VOLUME_UNITS)}.", field="unit")
    return amount * _factor(unit, "ml")


def kcal_from_kj(kilojoules: float) -> float:
    """Energy [kcal] of `kilojoules` [kJ], by the thermochemical calorie of 4.184 J."""
    return kilojoules / 4.184


def celsius(fahrenheit: float) -> float:
    """Temperature [°C] of `fahrenheit` [°F].

    >>> celsius(350)
    176.66666666666666
    """
    return (fahrenheit - 32) / 1.8
