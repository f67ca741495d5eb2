"""Changes of a batch count once each, and a packed batch keeps what it showed.

The id of a weighing gives way to that of the whole command. New table and a new column that may be empty; one column
that nothing reads any more is dropped. Batches packed before this keep no view: opening and packing them again does.
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

from yantai.store.migrations.parts import keep_apart, owned, within

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "command",
        sa.Column("batch_id", sa.Uuid(), nullable=False),
        sa.Column("digest", sa.Text(), nullable=False),
        sa.Column("inverse", postgresql.JSONB(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
        *owned("command"),
        within("command", "batch"),
    )
    op.create_index(op.f("ix_command_batch_id"), "command", ["batch_id"])
    keep_apart("command")
    op.drop_constraint(op.f("uq_weighing_workspace_id_command_id"), "weighing")
    op.drop_column("weighing", "command_id")
    op.add_column("batch", sa.Column("packed", postgresql.JSONB(), nullable=True))


def downgrade() -> None:
    op.drop_column("batch", "packed")
    op.add_column(
        "weighing", sa.Column("command_id", sa.Uuid(), server_default=sa.text("gen_random_uuid()"), nullable=False)
    )
    op.alter_column("weighing", "command_id", server_default=None)
    op.create_unique_constraint(op.f("uq_weighing_workspace_id_command_id"), "weighing", ["workspace_id", "command_id"])
    op.drop_table("command")
