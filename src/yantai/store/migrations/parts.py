"""What migrations of new tables of a workspace share; changing it changes nothing that was migrated already."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

import sqlalchemy as sa
from alembic import op

HERE = "(SELECT NULLIF(current_setting('app.workspace_id', true), '')::uuid)"


def owned(table: str) -> list[Any]:
    """Columns and keys of a table whose rows belong to a workspace."""
    return [
        sa.Column("workspace_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.ForeignKeyConstraint(
            ["workspace_id"], ["workspace.id"], name=op.f(f"fk_{table}_workspace_id_workspace"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f(f"pk_{table}")),
        sa.UniqueConstraint("workspace_id", "id", name=op.f(f"uq_{table}_workspace_id_id")),
    ]


def within(table: str, other: str) -> sa.ForeignKeyConstraint:
    """A reference of `table` to a row of `other` in the same workspace."""
    return sa.ForeignKeyConstraint(
        ["workspace_id", f"{other}_id"],
        [f"{other}.workspace_id", f"{other}.id"],
        name=op.f(f"fk_{table}_workspace_id_{other}"),
        ondelete="CASCADE",
    )


def secure(table: str) -> None:
    """Let no row be seen but by policies; FORCE binds the owner of the table too."""
    op.execute(f"ALTER TABLE {table} ENABLE ROW LEVEL SECURITY")
    op.execute(f"ALTER TABLE {table} FORCE ROW LEVEL SECURITY")


@contextmanager
def over_all_workspaces(table: str) -> Iterator[None]:
    """Let the owner of a table rewrite its rows of every workspace inside the block."""
    op.execute(f"ALTER TABLE {table} NO FORCE ROW LEVEL SECURITY")
    yield
    op.execute(f"ALTER TABLE {table} FORCE ROW LEVEL SECURITY")


def keep_apart(table: str) -> None:
    """Show and take rows of the transaction's own workspace only."""
    secure(table)
    op.execute(f"CREATE POLICY own ON {table} USING (workspace_id = {HERE}) WITH CHECK (workspace_id = {HERE})")
