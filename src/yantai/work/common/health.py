"""Whether the parts that the application needs are there."""

from __future__ import annotations

from dataclasses import dataclass

from sqlalchemy import text

from yantai.store.database import Database


@dataclass(frozen=True, slots=True, kw_only=True)
class HealthView:
    """The version of the tables, and how many jobs wait for a worker, are worked on, and have failed."""

    schema: str
    waiting: int
    running: int
    failed: int


def read_health(database: Database) -> HealthView:
    """Ask the database and the queue in it.

    Raises:
        OperationalError: the database does not answer.
    """
    jobs = text("SELECT status::text, count(*) FROM procrastinate_jobs GROUP BY status")
    with database.engine.connect() as connection:
        schema = connection.execute(text("SELECT version_num FROM alembic_version")).scalar_one()
        counts: dict[str, int] = {}
        for status, count in connection.execute(jobs):
            counts[status] = count
    return HealthView(
        schema=schema, waiting=counts.get("todo", 0), running=counts.get("doing", 0), failed=counts.get("failed", 0)
    )
