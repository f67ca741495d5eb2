"""Bringing the database's schema up to date, and telling when the models have run ahead of it."""

from __future__ import annotations

from pathlib import Path

from alembic import command
from alembic.config import Config
from sqlalchemy import Connection, Engine

_FOLDER = Path(__file__).parent / "migrations"


def upgrade(engine: Engine) -> None:
    """Apply the migrations that are missing, all in one transaction."""
    with engine.begin() as connection:
        command.upgrade(_config(connection), "head")


def check(engine: Engine) -> None:
    """Raise when the tables in `yantai.store.tables` differ from what the migrations make."""
    with engine.connect() as connection:
        command.check(_config(connection))


def write(engine: Engine, message: str) -> None:
    """Write a new migration from the difference between the tables and the database."""
    with engine.connect() as connection:
        command.revision(_config(connection), message, autogenerate=True)


def _config(connection: Connection) -> Config:
    config = Config()
    config.set_main_option("script_location", str(_FOLDER))
    config.attributes["connection"] = connection
    return config
