"""What workers do. Every task may be done twice, or begun and never ended, without harm."""

from __future__ import annotations

import uuid
from datetime import UTC, datetime

import procrastinate
from sqlalchemy.exc import OperationalError

from yantai.core.speaking import EnergyUnit, MassUnit, Spoken, speaking
from yantai.devices.mail import Mailer
from yantai.logs import get_logger
from yantai.store.database import Database
from yantai.work.outbox import outbox, sending
from yantai.work.surveys import surveys

LOST_AFTER_S = 30.0
"""A worker that gave no sign of life for so long is taken as killed; workers give one every third of it."""

_log = get_logger(__name__)


def make_app(database: Database, mailer: Mailer, mail_from: str) -> procrastinate.App:
    """The queue's application for a worker on this database, with what takes messages."""
    plain = database.engine.url.set(drivername="postgresql").render_as_string(hide_password=False)
    app = procrastinate.App(connector=procrastinate.PsycopgConnector(conninfo=plain, min_size=1, max_size=4))

    # A database that restarts comes back; any other fault stays one.
    again = procrastinate.RetryStrategy(max_attempts=5, wait=2, retry_exceptions={OperationalError})

    @app.task(name=surveys.ANSWER_RECIPE, retry=again)
    def answer_recipe(
        workspace_id: str, survey_id: str, recipe_id: str, mass_unit: str = "g", energy_unit: str = "kcal"
    ) -> None:
        ids = uuid.UUID(workspace_id), uuid.UUID(survey_id), uuid.UUID(recipe_id)
        try:
            with speaking(Spoken(mass=MassUnit(mass_unit), energy=EnergyUnit(energy_unit))):
                surveys.answer_recipe(database, *ids)
        except OperationalError:
            raise
        except Exception:
            _log.exception("A recipe could not be answered")
            surveys.give_up(database, *ids, "this recipe could not be computed; the log of the worker says why")
            raise

    @app.task(
        name=outbox.SEND_MESSAGE,
        retry=procrastinate.RetryStrategy(
            max_attempts=sending.MOST_TRIES, exponential_wait=4, retry_exceptions={sending.TryAgain, OperationalError}
        ),
    )
    def send_message(workspace_id: str, message_id: str) -> None:
        ids = uuid.UUID(workspace_id), uuid.UUID(message_id)
        sending.send_message(database, mailer, *ids, datetime.now(UTC), mail_from)

    @app.periodic(cron="* * * * *")
    @app.task(name="take_up_lost_work", queueing_lock="take_up_lost_work", pass_context=True)
    async def take_up_lost_work(context: procrastinate.JobContext, timestamp: int) -> None:
        await take_up(context.app)

    return app


async def take_up(app: procrastinate.App, *, lost_after_s: float = LOST_AFTER_S) -> int:
    """Put jobs of killed workers back into the queue; how many there were."""
    lost = list(await app.job_manager.get_stalled_jobs(seconds_since_heartbeat=lost_after_s))
    for job in lost:
        await app.job_manager.retry_job(job)
    return len(lost)
