"""A worker process: it takes jobs from the queue until it is told to stop."""

from __future__ import annotations

import asyncio

from yantai.devices.mail import mailer_for
from yantai.jobs.tasks import LOST_AFTER_S, make_app, take_up
from yantai.settings import Settings
from yantai.store.database import Database

_GRACE_S = 5.0
"""So long a running job may still take when the worker is told to stop; after that another worker takes it up."""


def run(settings: Settings, *, until_empty: bool = False) -> None:
    """Work on the database of `settings`; `until_empty` ends when no job waits any more."""
    database = Database(settings.database_url, settings.limits)
    try:
        asyncio.run(_run(database, settings, until_empty=until_empty))
    finally:
        database.close()


async def _run(database: Database, settings: Settings, *, until_empty: bool) -> None:
    app = make_app(database, mailer_for(settings.mail_url), settings.mail_from)
    async with app.open_async():
        # What was lost while no worker ran is not left until the next minute.
        await take_up(app)
        await app.run_worker_async(
            wait=not until_empty,
            concurrency=1,
            delete_jobs="successful",
            shutdown_graceful_timeout=_GRACE_S,
            update_heartbeat_interval=LOST_AFTER_S / 3,
            stalled_worker_timeout=LOST_AFTER_S,
            install_signal_handlers=not until_empty,
        )
