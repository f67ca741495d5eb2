"""The log of a batch: who changed what, on which version, from where and when, so that it can be read and taken back.

What was made before keeps its inverse and its time; nobody knows any more what it was in words, and it is not taken
back from the log. The table is rewritten once and locked while it is.
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

from yantai.store.migrations.parts import over_all_workspaces

revision = "0013"
down_revision = "0012"
branch_labels = None
depends_on = None


def upgrade() -> None:
    for column in (
        sa.Column("number", sa.Integer(), nullable=True),
        sa.Column("payload", postgresql.JSONB(), nullable=True),
        sa.Column("named", postgresql.JSONB(), server_default="{}", nullable=False),
        sa.Column("note", sa.Text(), server_default="", nullable=False),
        sa.Column("undoes", sa.Uuid(), nullable=True),
        sa.Column("account_id", sa.Uuid(), nullable=True),
        sa.Column("made_by", sa.Text(), server_default="", nullable=False),
        sa.Column("device", sa.Text(), server_default="", nullable=False),
        sa.Column("base_version", sa.Integer(), nullable=True),
        sa.Column("version", sa.Integer(), nullable=True),
        sa.Column("happened_at", sa.DateTime(timezone=True), nullable=True),
    ):
        op.add_column("command", column)
    with over_all_workspaces("command"):
        op.execute(
            "UPDATE command SET number = counted.number FROM ("
            "SELECT id, row_number() OVER (PARTITION BY batch_id ORDER BY made_at, id) AS number FROM command"
            ") AS counted WHERE counted.id = command.id"
        )
    op.alter_column("command", "number", nullable=False)
    op.create_unique_constraint(op.f("uq_command_batch_id_number"), "command", ["batch_id", "number"])


def downgrade() -> None:
    op.drop_constraint(op.f("uq_command_batch_id_number"), "command")
    for name in (
        "happened_at",
        "version",
        "base_version",
        "device",
        "made_by",
        "account_id",
        "undoes",
        "note",
        "named",
        "payload",
        "number",
    ):
        op.drop_column("command", name)
