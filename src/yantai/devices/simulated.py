"""A scale and a thermometer that ship with the product: a pan on which things are put, and all that can go wrong.

They print lines as real ones do, so all that reads lines is tried with them.
"""

from __future__ import annotations

import math
import threading
from collections.abc import Mapping
from dataclasses import dataclass, field
from random import Random

from yantai.core.quantities.units import grams
from yantai.devices.device import Clock, Heard, InstrumentKind, LineReader, Settings, Watch

_SETTLE_S = 0.12
"""After this time constant a third of a change is still to come; within half a gram of 500 g it takes 0.8 s."""
_TICK_S = 0.05
_OVER_STEPS = 9
"""A scale shows a few steps more than its capacity before it says that it is overloaded."""
_STILL_FOR_S = 0.3
_PER_UNIT = {"g": 1.0, "kg": 1000.0, "oz": grams(1, "oz"), "lb": grams(1, "lb")}
_DIGITS = {"g": 1, "kg": 4, "oz": 2, "lb": 3}


@dataclass(frozen=True, slots=True, kw_only=True)
class Pan:
    """What is on the pan, and what is wrong with the scale.

    Attributes:
        things: weights by name [g]: containers, pots, spoonfuls.
        hand_g: a hand that leans on it [g].
        noise_g: how much it trembles [g]; a draught.
        drift_g_min: how far it wanders in a minute [g].
        unit: the unit it is set to; `says_unit` that it prints it.
        is_silent: its plug is out; `battery_low`, and `is_restless`: it never says that it stands still.
        celsius: what the thermometer's probe is in [°C]; None where it is not plugged in.
    """

    things: Mapping[str, float] = field(default_factory=dict)
    hand_g: float = 0.0
    noise_g: float = 0.0
    drift_g_min: float = 0.0
    unit: str = "g"
    says_unit: bool = True
    is_silent: bool = False
    is_restless: bool = False
    battery_low: bool = False
    celsius: float | None = 20.0

    @property
    def load_g(self) -> float:
        """All that presses on it [g]."""
        return math.fsum(self.things.values()) + self.hand_g


class SimulatedScale:
    """The mechanics of a scale, by a clock that is handed in: it settles, trembles, wanders, tares and overloads."""

    def __init__(self, settings: Settings, random: Random, now: float) -> None:
        self.settings, self.pan = settings, Pan()
        self._random = random
        self._from_g = self._to_g = 0.0
        self._since = self._moved = now
        self._drifted_g, self._drift_from = 0.0, now
        self._zero_g = self._tare_g = 0.0

    def put(self, pan: Pan, now: float) -> None:
        """Make the pan another one."""
        self._drifted_g = self._drift(now)
        self._drift_from = now
        if pan.load_g != self.pan.load_g:
            self._from_g, self._to_g, self._since = self._pressing(now), pan.load_g, now
        self.pan = pan

    def tare(self, now: float) -> bool:
        """Take what is on it off; False while it moves, as real ones refuse then."""
        if not self._is_still(now):
            return False
        self._tare_g = self._gross(now)
        return True

    def zero(self, now: float) -> bool:
        """Show nothing for the pan as it is; False while it moves."""
        if not self._is_still(now):
            return False
        self._zero_g, self._tare_g = self._pressing(now) + self._drift(now), 0.0
        return True

    def line(self, now: float) -> str | None:
        """What it prints at `now` [s]."""
        if self.pan.is_silent:
            return None
        gross = self._gross(now)
        capacity = self.settings.capacity_g
        if capacity is not None and gross > capacity + _OVER_STEPS * self.settings.step_g:
            return "OL"
        trembling = self._random.gauss(0, self.pan.noise_g) if self.pan.noise_g else 0.0
        step = self.settings.step_g
        shown = round((gross - self._tare_g + trembling) / step) * step
        status = "ST" if self._is_still(now) and not self.pan.is_restless else "US"
        kind = "NT" if self._tare_g else "GS"
        unit = self.pan.unit
        figure = f"{abs(shown) / _PER_UNIT[unit]:.{_DIGITS[unit]}f}"
        printed = f"{status},{kind},{'-' if shown < 0 else '+'}{figure:>8}"
        if self.pan.says_unit:
            printed += f" {unit}"
        return f"{printed},BAT" if self.pan.battery_low else printed

    def _pressing(self, now: float) -> float:
        """What presses on it by now [g], on its way to what lies on it."""
        left = math.exp(-(now - self._since) / _SETTLE_S)
        return self._to_g + (self._from_g - self._to_g) * left

    def _drift(self, now: float) -> float:
        return self._drifted_g + self.pan.drift_g_min * (now - self._drift_from) / 60

    def _gross(self, now: float) -> float:
        return self._pressing(now) + self._drift(now) - self._zero_g

    def _is_still(self, now: float) -> bool:
        half = self.settings.step_g / 2
        settled = abs(self._pressing(now - _STILL_FOR_S) - self._to_g) < half if now - self._since > 0 else False
        return settled and now - self._since >= _STILL_FOR_S and self.pan.noise_g <= half


class SimulatedThermometer:
    """A probe that takes a while to become as hot as what it is in."""

    def __init__(self, settings: Settings, random: Random, now: float) -> None:
        self.settings, self.pan = settings, Pan()
        self._from_c, self._since = 20.0, now

    def put(self, pan: Pan, now: float) -> None:
        """Put the probe elsewhere."""
        if self.pan.celsius is not None:
            self._from_c, self._since = self._showing(now, self.pan.celsius), now
        self.pan = pan

    def tare(self, now: float) -> bool:
        """A temperature has no tare."""
        return False

    zero = tare

    def line(self, now: float) -> str | None:
        """What it prints at `now` [s]."""
        if self.pan.is_silent:
            return None
        if self.pan.celsius is None:
            return "----"
        return f"{self._showing(now, self.pan.celsius):.1f} C" + (" BAT" if self.pan.battery_low else "")

    def _showing(self, now: float, celsius: float) -> float:
        return celsius + (self._from_c - celsius) * math.exp(-(now - self._since) / 1.5)


class SimulatedDevice:
    """A simulated scale or thermometer that prints on a thread of its own, several times a second."""

    def __init__(self, settings: Settings, clock: Clock, random: Random) -> None:
        self._clock = clock
        make = SimulatedScale if settings.kind is InstrumentKind.SCALE else SimulatedThermometer
        self._bench = make(settings, random, clock())
        self._settings = settings
        self._lock = threading.Lock()
        self._moved = threading.Event()
        self._stop = threading.Event()
        self._thread: threading.Thread | None = None

    @property
    def pan(self) -> Pan:
        """What is on the pan."""
        return self._bench.pan

    def put(self, pan: Pan) -> None:
        """Make the pan another one; what it shows follows at once."""
        with self._lock:
            self._bench.put(pan, self._clock())
        self._moved.set()

    def start(self, heard: Heard) -> None:
        """Tell every reading from here on."""
        self._stop.clear()
        self._thread = threading.Thread(target=self._run, args=(heard,), name="simulated-device", daemon=True)
        self._thread.start()

    def stop(self) -> None:
        """Say no more."""
        self._stop.set()
        self._moved.set()
        if self._thread is not None:
            self._thread.join()
            self._thread = None

    def tare(self) -> None:
        """Take what is on the pan off what is shown."""
        with self._lock:
            self._bench.tare(self._clock())
        self._moved.set()

    def zero(self) -> None:
        """Show nothing for the pan as it is."""
        with self._lock:
            self._bench.zero(self._clock())
        self._moved.set()

    def _run(self, heard: Heard) -> None:
        reader, watch = LineReader(self._settings, self._clock), Watch(heard, self._clock)
        while not self._stop.is_set():
            self._moved.clear()
            with self._lock:
                line = self._bench.line(self._clock())
            if line is None:
                watch.look()
            else:
                watch.tell(reader.read(line))
            self._moved.wait(_TICK_S)
