"""Plans are stored by the version of their batch, with what they were computed from; a packed batch stands on one.

What a packed batch kept of itself becomes its stored plan. Tables are locked for as long as that takes.
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

from yantai.store.migrations.parts import keep_apart, over_all_workspaces, owned, within

revision = "0017"
down_revision = "0016"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("workspace", sa.Column("basis", sa.Integer(), server_default="0", nullable=False))
    op.create_table(
        "stored_plan",
        sa.Column("batch_id", sa.Uuid(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("spoken", sa.Text(), nullable=False),
        sa.Column("engine", sa.Integer(), nullable=False),
        sa.Column("basis", sa.Text(), nullable=False),
        sa.Column("view", sa.Text(), nullable=False),
        sa.Column("document", sa.Text(), nullable=False),
        sa.Column("brief", sa.Text(), nullable=True),
        sa.Column("made_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        within("stored_plan", "batch"),
        *owned("stored_plan"),
        sa.UniqueConstraint("batch_id", "version", "spoken", name=op.f("uq_stored_plan_batch_id_version_spoken")),
    )
    with over_all_workspaces("batch"):
        op.execute(
            "INSERT INTO stored_plan (workspace_id, id, batch_id, version, spoken, engine, basis, view, document) "
            "SELECT workspace_id, gen_random_uuid(), id, version, 'g kcal C', 0, '', "
            "(packed -> 'view')::text, (packed -> 'document')::text FROM batch WHERE packed IS NOT NULL"
        )
    keep_apart("stored_plan")
    op.drop_column("batch", "packed")


def downgrade() -> None:
    op.add_column("batch", sa.Column("packed", postgresql.JSONB(), nullable=True))
    with over_all_workspaces("batch"), over_all_workspaces("stored_plan"):
        op.execute(
            "UPDATE batch SET packed = jsonb_build_object('view', plan.view::jsonb, 'document', plan.document::jsonb) "
            "FROM stored_plan AS plan "
            "WHERE plan.batch_id = batch.id AND plan.version = batch.version AND batch.packed_at IS NOT NULL"
        )
    op.drop_table("stored_plan")
    op.drop_column("workspace", "basis")
