"""The queue of long work: jobs are put in by the transaction whose data they need, and commit with it."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

import procrastinate
from sqlalchemy.orm import Session

# It is never opened: every job goes through the connection of the caller.
_app = procrastinate.App(connector=procrastinate.SyncPsycopgConnector())


def put(session: Session, task: str, each: Iterable[dict[str, Any]]) -> None:
    """Put a job of `task` for each of these arguments into the queue; a rolled-back transaction leaves none."""
    session.flush()
    driver = session.connection().connection.driver_connection
    _app.configure_task(task, connection=driver).batch_defer(*each)
