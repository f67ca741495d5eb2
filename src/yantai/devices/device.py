"""One protocol for whatever stands beside the tablet, and what all devices that print lines have in common."""

from __future__ import annotations

import threading
from collections import deque
from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum
from typing import Protocol

from yantai.devices.lines import Line, read_heat, read_weight
from yantai.devices.readings import LOST, LOST_AFTER_S, Reading, State

Heard = Callable[[Reading], None]
Clock = Callable[[], float]
"""Seconds that only ever grow."""


class InstrumentKind(StrEnum):
    """What a device measures."""

    SCALE = "scale"
    THERMOMETER = "thermometer"


class Connection(StrEnum):
    """How a device is reached: `TABLET` by the browser of the tablet that it is plugged into."""

    SIMULATED = "simulated"
    SERIAL = "serial"
    TABLET = "tablet"


class Talk(StrEnum):
    """Whether a device prints all the time, or answers when it is asked."""

    CONTINUOUS = "continuous"
    ON_REQUEST = "on request"


@dataclass(frozen=True, slots=True, kw_only=True)
class Settings:
    """What a device is known to be: its capacity and step [g], how it talks, and the unit of figures without one."""

    kind: InstrumentKind
    talk: Talk = Talk.CONTINUOUS
    capacity_g: float | None = None
    step_g: float = 1.0
    silent_unit: str = "g"
    port: str = ""
    baud: int = 9600


class Device(Protocol):
    """A device that tells its readings until it is stopped."""

    def start(self, heard: Heard) -> None:
        """Tell every reading from here on, on a thread of the device's own."""

    def stop(self) -> None:
        """Say no more."""

    def tare(self) -> None:
        """Take what is on the pan off what is shown."""

    def zero(self) -> None:
        """Show nothing for the pan as it is."""


_STEADY_FOR_S = 0.4
_FEWEST = 3


class LineReader:
    """Lines of one device into readings: it notices what stands still, and what has a unit at other times."""

    def __init__(self, settings: Settings, clock: Clock) -> None:
        self._settings, self._clock = settings, clock
        self._recent: deque[tuple[float, float]] = deque()
        self._said_unit = False

    def read(self, text: str) -> Reading:
        """The reading of a line. One without its unit, of a device that prints units, has lost its end."""
        if self._settings.kind is InstrumentKind.THERMOMETER:
            return self._reading(read_heat(text))
        line = read_weight(text, self._settings.silent_unit)
        if line.state is State.WEIGHT:
            if self._said_unit and not line.unit:
                return Reading(state=State.UNREADABLE)
            self._said_unit = self._said_unit or bool(line.unit)
        return self._reading(line)

    def _reading(self, line: Line) -> Reading:
        if line.value is None:
            self._recent.clear()
            return Reading(state=line.state, battery_low=line.battery_low)
        is_still = self._is_still(line.value)
        return Reading(
            state=line.state,
            value=line.value,
            is_steady=is_still if line.is_steady is None else line.is_steady,
            unit=line.unit,
            is_net=line.is_net,
            battery_low=line.battery_low,
        )

    def _is_still(self, value: float) -> bool:
        """It has stood within a step for a while."""
        now = self._clock()
        self._recent.append((now, value))
        while len(self._recent) > 1 and self._recent[1][0] <= now - _STEADY_FOR_S + 1e-9:
            self._recent.popleft()
        values = [each for _, each in self._recent]
        long_enough = now - self._recent[0][0] >= _STEADY_FOR_S - 1e-9
        return long_enough and len(values) >= _FEWEST and max(values) - min(values) <= self._settings.step_g * 1.01


class Watch:
    """Notices a device that has gone silent, and says so once."""

    def __init__(self, heard: Heard, clock: Clock) -> None:
        self._heard, self._clock = heard, clock
        self._lock = threading.Lock()
        self._last = clock()
        self._is_lost = False

    def tell(self, reading: Reading) -> None:
        """Hand a reading on; silence and noise are no sign of a weight, but of life."""
        with self._lock:
            self._last, self._is_lost = self._clock(), False
        if reading.state is not State.SILENCE:
            self._heard(reading)

    def look(self) -> None:
        """Say that the device is lost where it has said nothing for too long."""
        with self._lock:
            if self._is_lost or self._clock() - self._last < LOST_AFTER_S:
                return
            self._is_lost = True
        self._heard(LOST)

    def lose(self) -> None:
        """The device is gone for sure: say so at once."""
        with self._lock:
            if self._is_lost:
                return
            self._is_lost = True
        self._heard(LOST)
