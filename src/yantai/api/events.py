"""Changes of a batch, pushed to the windows that look at it (server-sent events)."""

from __future__ import annotations

import asyncio
import json
from collections import defaultdict
from collections.abc import AsyncGenerator, Iterator
from contextlib import contextmanager
from dataclasses import asdict

from sqlalchemy import Engine

from yantai.store.notices import BatchChanged, Listener

_ALIVE_S = 20.0
_MOST_WAITING = 100


class BatchEvents:
    """Hands each change to the windows of its batch. One for each process."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine
        self._windows: dict[str, set[asyncio.Queue[BatchChanged | None]]] = defaultdict(set)
        self._listener: Listener | None = None
        self._loop: asyncio.AbstractEventLoop | None = None

    def start(self) -> None:
        """Begin to listen; called on the loop that the windows are served from."""
        loop = self._loop = asyncio.get_running_loop()

        def heard(notice: BatchChanged) -> None:
            loop.call_soon_threadsafe(self._hand_out, notice)

        # Windows whose streams end connect again by themselves, and are told the version there is then.
        self._listener = Listener(self._engine, heard, missed=self.end)
        self._listener.start()

    def stop(self) -> None:
        """Stop listening."""
        if self._listener is not None:
            self._listener.stop()

    def end(self) -> None:
        """End all streams, so that the server can end too. May be called from any thread, and by a signal."""
        if self._loop is not None:
            self._loop.call_soon_threadsafe(self._end)

    def _end(self) -> None:
        for windows in self._windows.values():
            for window in windows:
                while not window.empty():
                    window.get_nowait()
                window.put_nowait(None)

    def _hand_out(self, notice: BatchChanged) -> None:
        for window in self._windows.get(notice.batch_id, ()):
            # A window that does not read misses some, but never the newest for long: its next one says the version.
            if not window.full():
                window.put_nowait(notice)

    @contextmanager
    def _window(self, batch_id: str) -> Iterator[asyncio.Queue[BatchChanged | None]]:
        window: asyncio.Queue[BatchChanged | None] = asyncio.Queue(_MOST_WAITING)
        self._windows[batch_id].add(window)
        try:
            yield window
        finally:
            self._windows[batch_id].discard(window)
            if not self._windows[batch_id]:
                del self._windows[batch_id]

    async def stream(self, now: BatchChanged) -> AsyncGenerator[str, None]:
        """Events for one window: the version there is `now`, then every change, and a sign of life in between."""
        with self._window(now.batch_id) as window:
            yield _event(now)
            while True:
                try:
                    notice = await asyncio.wait_for(window.get(), _ALIVE_S)
                except TimeoutError:
                    yield ": still here\n\n"
                    continue
                if notice is None:
                    return
                yield _event(notice)


def _event(notice: BatchChanged) -> str:
    return f"data: {json.dumps(asdict(notice))}\n\n"
