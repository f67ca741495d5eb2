"""Word of committed changes from one connection to all others, over PostgreSQL's NOTIFY."""

from __future__ import annotations

import json
import threading
import uuid
from collections.abc import Callable
from dataclasses import asdict, dataclass

import psycopg
from sqlalchemy import Engine, func, select
from sqlalchemy.orm import Session

CHANNEL = "batch_changed"
_LOOK_UP_S = 0.5
_TRY_AGAIN_S = 2.0


@dataclass(frozen=True, slots=True, kw_only=True)
class BatchChanged:
    """A batch that is now at `version`, changed by the person of this name; `cooked` is the last that was noted at the
    stove, `filled` at the scale, where that is what is told."""

    batch_id: str
    version: int
    by: str
    cooked: int = 0
    filled: int = 0


def announce(session: Session, batch_id: uuid.UUID, version: int, by: str, *, cooked: int = 0, filled: int = 0) -> None:
    """Tell of a change when the transaction commits; a rolled-back one tells nothing."""
    notice = BatchChanged(batch_id=str(batch_id), version=version, by=by, cooked=cooked, filled=filled)
    session.execute(select(func.pg_notify(CHANNEL, json.dumps(asdict(notice)))))


class Listener:
    """Calls `heard` with each change, on a thread of its own. A lost connection is made anew.

    What was told in between is never heard: `missed` is called as soon as the new connection listens.
    """

    def __init__(
        self, engine: Engine, heard: Callable[[BatchChanged], None], missed: Callable[[], None] = lambda: None
    ) -> None:
        self._url = engine.url.set(drivername="postgresql").render_as_string(hide_password=False)
        self._heard, self._missed = heard, missed
        self._was_lost = False
        self._stop = threading.Event()
        self._thread = threading.Thread(target=self._run, name="batch-changes", daemon=True)

    def start(self) -> None:
        """Begin to listen."""
        self._thread.start()

    def stop(self) -> None:
        """End it, and wait until it has ended."""
        self._stop.set()
        self._thread.join()

    def _run(self) -> None:
        while not self._stop.is_set():
            try:
                self._listen()
            except psycopg.OperationalError:
                self._was_lost = True
                self._stop.wait(_TRY_AGAIN_S)

    def _listen(self) -> None:
        with psycopg.connect(self._url, autocommit=True) as connection:
            connection.execute(f"LISTEN {CHANNEL}")
            if self._was_lost:
                self._was_lost = False
                self._missed()
            while not self._stop.is_set():
                for notice in connection.notifies(timeout=_LOOK_UP_S):
                    self._heard(BatchChanged(**json.loads(notice.payload)))
