"""Alembic's entry: it gets its connection from `yantai.store.migrate`."""

from __future__ import annotations

from alembic import context

from yantai.store.migrate import is_ours
from yantai.store.tables import Base

connection = context.config.attributes["connection"]
context.configure(connection=connection, target_metadata=Base.metadata, compare_type=True, include_name=is_ours)
with context.begin_transaction():
    context.run_migrations()
