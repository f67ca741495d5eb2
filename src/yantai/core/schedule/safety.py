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
    """Whether the last reading of one thing shows that it is done: `core_c` at once, or, where that is 71 to 74 °C,
    70 °C for at least 2 minutes with no reading below it in between. One that came out colder later counts.

    >>> is_hot_enough([Reading(minute=0, celsius=74)], 74), is_hot_enough([Reading(minute=0, celsius=70)], 74)
    (True, False)
    >>> is_hot_enough([Reading(minute=0, celsius=70), Reading(minute=2, celsius=70.5)], 74)
    True
    >>> is_hot_enough([Reading(minute=0, celsius=76), Reading(minute=1, celsius=66)], 74)
    False
    """
    is_enough, held_since = False, None
    for reading in sorted(readings, key=lambda one: one.minute):
        if reading.celsius < min(HELD_C, core_c):
            is_enough, held_since = False, None
            continue
        held_since = reading.minute if held_since is None else held_since
        holds = _AT_ONCE_FROM_C <= core_c <= 74 and reading.minute - held_since >= HELD_MIN
        is_enough = reading.celsius >= core_c or holds
    return is_enough
