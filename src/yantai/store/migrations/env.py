"""Alembic's entry: it gets its connection from `yantai.store.migrate`."""

from __future__ import annotations

from alembic import context

from yantai.store.tables import Base


def _is_ours(name: str | None, kind: str, _parents: object) -> bool:
    """The queue's tables are procrastinate's; no model of ours describes them."""
    return not (kind == "table" and name is not None and name.startswith("procrastinate_"))


connection = context.config.attributes["connection"]
context.configure(connection=connection, target_metadata=Base.metadata, compare_type=True, include_name=_is_ours)
with context.begin_transaction():
    context.run_migrations()
