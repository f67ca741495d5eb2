"""Bringing the database's schema up to date, and telling when the models have run ahead of it."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from alembic import command
from alembic.autogenerate import compare_metadata
from alembic.config import Config
from alembic.runtime.migration import MigrationContext
from sqlalchemy import Connection, Engine

from yantai.store.tables import Base

_FOLDER = Path(__file__).parent / "migrations"
_BEFORE = "0034"
"""A migration on a line of its own that has to come before 0031, which was committed without what it needs."""


class OtherSchema(Exception):
    """The database's tables are not those of this version."""


def ensure_current(engine: Engine) -> None:
    """Apply the migrations that are missing, and make sure that the tables are then those of this version.

    Raises:
        OtherSchema: they are not; nothing is served from such a database.
    """
    upgrade(engine)
    with engine.connect() as connection:
        context = MigrationContext.configure(
            connection, opts={"compare_type": True, "include_name": is_ours, "target_metadata": Base.metadata}
        )
        found = sorted({_place(one) for one in compare_metadata(context, Base.metadata)})
    if found:
        raise OtherSchema(
            f"The tables of the database are not those of this version of Yantai, in {', '.join(found)}. It was "
            "changed by hand, or made by a version between releases. Restore a backup, or keep the state folder "
            "aside and start with an empty one."
        )


def is_ours(name: str | None, kind: str, _parents: object) -> bool:
    """Whether a model of ours describes it: the queue's tables are procrastinate's."""
    return not (kind == "table" and name is not None and name.startswith("procrastinate_"))


def _place(difference: Any) -> str:
    """The table and column that a difference is about."""
    if isinstance(difference, list):  # changes of one column come as a list
        return _place(difference[0])
    kind, *rest = difference
    if kind.startswith("modify"):
        return f"{rest[1]}.{rest[2]}"
    if kind.endswith("column"):
        return f"{rest[1]}.{rest[2].name}"
    return str(getattr(getattr(rest[0], "table", None), "name", None) or rest[0].name)


def upgrade(engine: Engine) -> None:
    """Apply the migrations that are missing, all in one transaction."""
    with engine.begin() as connection:
        config = _config(connection)
        command.upgrade(config, _BEFORE)
        command.upgrade(config, "head")


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
