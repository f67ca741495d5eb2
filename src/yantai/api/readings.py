"""Readings of devices, pushed to the tablets that look at them (server-sent events)."""

from __future__ import annotations

import asyncio
import json
import uuid
from collections.abc import AsyncGenerator
from dataclasses import asdict

from yantai.devices.device import Connection, Settings
from yantai.devices.hub import DeviceHub
from yantai.devices.readings import Reading

_ALIVE_S = 0.5
"""A tablet that hears nothing for a second takes the scale for lost, so it hears something twice as often."""
_MOST_WAITING = 50


class ReadingStreams:
    """Hands readings from the threads of devices to the loop that serves the tablets. One for each process."""

    def __init__(self) -> None:
        self.hub = DeviceHub()
        self._loop: asyncio.AbstractEventLoop | None = None
        self._waiting: set[asyncio.Queue[Reading | None]] = set()

    def start(self) -> None:
        """Called on the loop that tablets are served from."""
        self._loop = asyncio.get_running_loop()

    def end(self) -> None:
        """End all streams, so that the server can end too. May be called from any thread, and by a signal."""
        if self._loop is not None:
            self._loop.call_soon_threadsafe(self._end)

    def stop(self) -> None:
        """Close all devices."""
        self.hub.stop()

    def _end(self) -> None:
        for waiting in self._waiting:
            _put(waiting, None)

    async def stream(self, key: uuid.UUID, connection: Connection, settings: Settings) -> AsyncGenerator[str, None]:
        """Events for one tablet: each reading as it comes, and a sign of life where none does."""
        loop = asyncio.get_running_loop()
        waiting: asyncio.Queue[Reading | None] = asyncio.Queue(_MOST_WAITING)
        self._waiting.add(waiting)

        def heard(reading: Reading) -> None:
            loop.call_soon_threadsafe(_put, waiting, reading)

        leave = await asyncio.to_thread(self.hub.listen, key, connection, settings, heard)
        try:
            while True:
                try:
                    reading = await asyncio.wait_for(waiting.get(), _ALIVE_S)
                except TimeoutError:
                    yield "event: alive\ndata: {}\n\n"
                    continue
                if reading is None:
                    return
                yield f"data: {json.dumps(asdict(reading))}\n\n"
        finally:
            self._waiting.discard(waiting)
            await asyncio.to_thread(leave)


def _put(waiting: asyncio.Queue[Reading | None], reading: Reading | None) -> None:
    """The newest reading counts: a tablet that does not read loses the oldest."""
    if waiting.full():
        waiting.get_nowait()
    waiting.put_nowait(reading)
