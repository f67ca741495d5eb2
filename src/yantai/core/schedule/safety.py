"""Whether food is hot enough inside, and when it has to be cold. General guidance; local rules prevail."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

HELD_C = 70.0
HELD_MIN = 2
"""70 °C held for 2 minutes counts as much as 71 or 74 °C at once (safety.csv)."""

_AT_ONCE_FROM_C = 71.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Reading:
    """A core temperature [°C] at a minute."""

    minute: int
    celsius: float


def is_hot_enough(readings: Iterable[Reading], core_c: float) -> bool:
    """Whether readings of one thing show that it is done: `core_c` at once, or, where that is 71 °C and more, 70 °C
    at two readings at least 2 minutes apart with none below it in between.

    >>> is_hot_enough([Reading(minute=0, celsius=74)], 74), is_hot_enough([Reading(minute=0, celsius=70)], 74)
    (True, False)
    >>> is_hot_enough([Reading(minute=0, celsius=70), Reading(minute=2, celsius=70.5)], 74)
    True
    """
    held_since: int | None = None
    for reading in sorted(readings, key=lambda one: one.minute):
        if reading.celsius >= core_c:
            return True
        if core_c < _AT_ONCE_FROM_C or core_c > 74 or reading.celsius < HELD_C:
            held_since = None
        elif held_since is None:
            held_since = reading.minute
        elif reading.minute - held_since >= HELD_MIN:
            return True
    return False
