"""What a scale or a thermometer says, whichever it is."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum


class State(StrEnum):
    """What a line, or a device, says."""

    WEIGHT = "weight"
    TEMPERATURE = "temperature"
    OVERLOAD = "overload"
    UNDERLOAD = "underload"
    PIECES = "pieces"
    NO_PROBE = "no probe"
    BATTERY = "battery"
    TARED = "tared"
    ZEROED = "zeroed"
    BUSY = "busy"
    SILENCE = "silence"
    UNREADABLE = "unreadable"
    LOST = "lost"


@dataclass(frozen=True, slots=True, kw_only=True)
class Reading:
    """What a device showed at one moment.

    Attributes:
        value: the weight [g] or the temperature [°C]; None where `state` is no reading.
        is_steady: it has stopped moving.
        unit: the unit that it was shown in; "" where none was said.
        is_net: the device has taken a tare off; None where it does not say.
    """

    state: State
    value: float | None = None
    is_steady: bool = False
    unit: str = ""
    is_net: bool | None = None
    battery_low: bool = False


LOST = Reading(state=State.LOST)
LOST_AFTER_S = 0.9
"""A device that says nothing for so long is lost: noticed within a second, and typing goes on."""
