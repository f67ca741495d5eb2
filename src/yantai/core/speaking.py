"""The units in which sentences speak; figures themselves are grams, kcal and degrees Celsius everywhere.

Like the language of a page, the units belong to whoever reads: they are set once, where a request is let in, and a
sentence is written in them wherever it is made. Nobody set them: grams, kcal, degrees Celsius.
"""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass
from enum import StrEnum

GRAMS_PER_OUNCE = 28.349523125
KJ_PER_KCAL = 4.184


class MassUnit(StrEnum):
    """Units of food."""

    GRAM = "g"
    OUNCE = "oz"


class EnergyUnit(StrEnum):
    """Units of energy."""

    KCAL = "kcal"
    KILOJOULE = "kJ"


class TemperatureUnit(StrEnum):
    """Units of temperature."""

    CELSIUS = "C"
    FAHRENHEIT = "F"


@dataclass(frozen=True, slots=True, kw_only=True)
class Spoken:
    """The units of a reader. Mass is that of food; macros are grams for everybody."""

    mass: MassUnit = MassUnit.GRAM
    energy: EnergyUnit = EnergyUnit.KCAL
    temperature: TemperatureUnit = TemperatureUnit.CELSIUS


_SPOKEN: ContextVar[Spoken] = ContextVar("spoken")
_NOBODY = Spoken()


def speak(units: Spoken) -> None:
    """Speak in these units from here on, in this task and those it starts."""
    _SPOKEN.set(units)


def spoken() -> Spoken:
    """The units that are spoken."""
    return _SPOKEN.get(_NOBODY)


@contextmanager
def speaking(units: Spoken) -> Iterator[None]:
    """Speak in these units for a while."""
    token = _SPOKEN.set(units)
    try:
        yield
    finally:
        _SPOKEN.reset(token)


def weight(grams: float) -> str:
    """A weight with its unit: whole grams, or tenths of an ounce.

    >>> weight(1234.4)
    '1,234 g'
    >>> with speaking(Spoken(mass=MassUnit.OUNCE)): weight(1234.4), weight(28.349523125)
    ('43.5 oz', '1 oz')
    """
    return f"{grams:,.0f} g" if spoken().mass == "g" else f"{_short(grams / GRAMS_PER_OUNCE, 1)} oz"


def exact_weight(grams: float) -> str:
    """A weight as it was typed: all its digits in grams, hundredths of an ounce.

    >>> exact_weight(12.5)
    '12.5 g'
    """
    return f"{grams:,.10g} g" if spoken().mass == "g" else f"{_short(grams / GRAMS_PER_OUNCE, 2)} oz"


def energy(kcal: float) -> str:
    """An energy with its unit, without decimals.

    >>> with speaking(Spoken(energy=EnergyUnit.KILOJOULE)): energy(100)
    '418 kJ'
    """
    return f"{kcal:,.0f} kcal" if spoken().energy == "kcal" else f"{kcal * KJ_PER_KCAL:,.0f} kJ"


def energy_by_formula(kcal: float) -> str:
    """An energy that a formula gives in kcal; in the reader's unit behind it where that is another.

    >>> with speaking(Spoken(energy=EnergyUnit.KILOJOULE)): energy_by_formula(100)
    '100 kcal (418 kJ)'
    """
    return f"{kcal:,.0f} kcal" + ("" if spoken().energy == "kcal" else f" ({energy(kcal)})")


def heat(celsius: float) -> str:
    """A temperature with its unit, in whole degrees.

    >>> with speaking(Spoken(temperature=TemperatureUnit.FAHRENHEIT)): heat(74)
    '165 °F'
    """
    return f"{celsius:.0f} °C" if spoken().temperature == "C" else f"{celsius * 1.8 + 32:.0f} °F"


def _short(value: float, digits: int) -> str:
    """Rounded to so many decimals, without zeros behind the point."""
    return f"{value:,.{digits}f}".rstrip("0").rstrip(".")
