"""What the core raises when a value makes no sense.

CoreError
├── OutOfRange      a number outside what the quantity can be
└── NoSuchUnit      a unit the food or the converter does not know
"""

from __future__ import annotations

from yantai.core.speaking import energy, exact_weight

_MACROS = ("protein", "carbohydrate", "fat", "fibre", "sugars", "saturated", "salt", "alcohol", "tolerance")
"""Fields that begin so are grams for everybody."""


class CoreError(ValueError):
    """Base of the core's errors; `field` names the argument that was wrong."""

    def __init__(self, message: str, *, field: str) -> None:
        super().__init__(message)
        self.field = field


class OutOfRange(CoreError):
    """A number that the quantity cannot have."""

    def __init__(self, field: str, value: float, *, low: float, high: float, unit: str) -> None:
        self.value = value
        self.low = low
        self.high = high
        self.unit = unit
        super().__init__(
            f"{field} is {_said(field, value, unit)}; it must be from {_said(field, low, unit).partition(' ')[0]} to "
            f"{_said(field, high, unit)}",
            field=field,
        )


def _said(field: str, value: float, unit: str) -> str:
    """A value with its unit, as the reader is used to it."""
    if unit == "g" and not field.startswith(_MACROS):
        return exact_weight(value)
    return energy(value) if unit == "kcal" else f"{value:,.10g} {unit}"


class NoSuchUnit(CoreError):
    """A unit that cannot be turned into grams."""


def require_range(field: str, value: float, *, low: float, high: float, unit: str) -> float:
    """Return `value`, or raise `OutOfRange` when it is outside [low, high] or not a number."""
    if not low <= value <= high:  # also false for NaN
        raise OutOfRange(field, value, low=low, high=high, unit=unit)
    return value
