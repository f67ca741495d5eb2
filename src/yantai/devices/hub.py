"""The devices of this process: each is open while somebody listens, and tells all who do."""

from __future__ import annotations

import threading
import time
import uuid
from collections.abc import Callable
from random import Random

from yantai.devices.device import Connection, Device, Heard, Settings
from yantai.devices.readings import Reading
from yantai.devices.serial_line import SerialDevice
from yantai.devices.simulated import Pan, SimulatedDevice


class _Open:
    """A device that somebody listens to."""

    def __init__(self, device: Device, settings: Settings) -> None:
        self.device, self.settings = device, settings
        self.listeners: list[Heard] = []
        self.last: Reading | None = None

    def hear(self, reading: Reading) -> None:
        self.last = reading
        for heard in tuple(self.listeners):
            heard(reading)


class DeviceHub:
    """Opens devices, and closes what nobody listens to. Simulated ones keep what is on their pan meanwhile."""

    def __init__(self) -> None:
        self._lock = threading.RLock()
        self._open: dict[uuid.UUID, _Open] = {}
        self._simulated: dict[uuid.UUID, tuple[Settings, SimulatedDevice]] = {}

    def listen(self, key: uuid.UUID, connection: Connection, settings: Settings, heard: Heard) -> Callable[[], None]:
        """Hear every reading of a device from here on, on any thread; what is returned ends it.

        A device whose settings have changed is opened anew, for all who listen.
        """
        with self._lock:
            there = self._open.get(key)
            if there is not None and there.settings != settings:
                there.device.stop()
                there.device, there.settings = self._make(key, connection, settings), settings
                there.device.start(there.hear)
            if there is None:
                there = self._open[key] = _Open(self._make(key, connection, settings), settings)
                there.device.start(there.hear)
            there.listeners.append(heard)
            if there.last is not None:
                heard(there.last)
        return lambda: self._leave(key, heard)

    def tare(self, key: uuid.UUID) -> bool:
        """Have a device take what is on it off; False where nobody listens to it."""
        return self._command(key, lambda device: device.tare())

    def zero(self, key: uuid.UUID) -> bool:
        """Have a device show nothing for its pan as it is; False where nobody listens to it."""
        return self._command(key, lambda device: device.zero())

    def pan(self, key: uuid.UUID, settings: Settings) -> Pan:
        """What is on the pan of a simulated device."""
        return self._simulated_one(key, settings).pan

    def put(self, key: uuid.UUID, settings: Settings, pan: Pan) -> None:
        """Make the pan of a simulated device another one."""
        self._simulated_one(key, settings).put(pan)

    def stop(self) -> None:
        """Close all of them."""
        with self._lock:
            for there in self._open.values():
                there.device.stop()
            self._open.clear()

    def _command(self, key: uuid.UUID, do: Callable[[Device], None]) -> bool:
        with self._lock:
            there = self._open.get(key)
            if there is None:
                return False
            do(there.device)
            return True

    def _make(self, key: uuid.UUID, connection: Connection, settings: Settings) -> Device:
        if connection is Connection.SIMULATED:
            return self._simulated_one(key, settings)
        return SerialDevice(settings, time.monotonic)

    def _simulated_one(self, key: uuid.UUID, settings: Settings) -> SimulatedDevice:
        with self._lock:
            known = self._simulated.get(key)
            if known is None or known[0] != settings:
                made = SimulatedDevice(settings, time.monotonic, Random())  # noqa: S311 -- a draught, not a secret
                if known is not None:
                    made.put(known[1].pan)
                known = self._simulated[key] = (settings, made)
            return known[1]

    def _leave(self, key: uuid.UUID, heard: Heard) -> None:
        with self._lock:
            there = self._open.get(key)
            if there is None or heard not in there.listeners:
                return
            there.listeners.remove(heard)
            if not there.listeners:
                del self._open[key]
                there.device.stop()
