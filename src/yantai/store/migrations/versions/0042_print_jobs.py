"""Labels that were sent to the label printer.

Makes a table, and adds a column with a default to `workspace`, which is locked for a moment.
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

from yantai.store.migrations.parts import keep_apart, owned, within

revision = "0042"
down_revision = "0041"
branch_labels = None
depends_on = None

COACH = "coalesce(current_setting('app.rights', true), '') = ''"


def upgrade() -> None:
    op.add_column("workspace", sa.Column("printer_is_on", sa.Boolean(), server_default="true", nullable=False))
    op.create_table(
        "print_job",
        sa.Column("number", sa.BigInteger(), sa.Identity(always=True), nullable=False),
        sa.Column("batch_id", sa.Uuid(), nullable=False),
        sa.Column("title", sa.Text(), nullable=False),
        sa.Column("labels", sa.Integer(), nullable=False),
        sa.Column("pdf", sa.LargeBinary(), nullable=False),
        sa.Column("made_by", sa.Text(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("printed_at", sa.DateTime(timezone=True), nullable=True),
        *owned("print_job"),
        within("print_job", "batch"),
        sa.UniqueConstraint("number", name=op.f("uq_print_job_number")),
        sa.CheckConstraint("labels > 0", name=op.f("ck_print_job_labels")),
    )
    op.create_index(op.f("ix_print_job_batch_id"), "print_job", ["batch_id"])
    keep_apart("print_job")
    op.execute(f"CREATE POLICY coach_adds ON print_job AS RESTRICTIVE FOR INSERT WITH CHECK ({COACH})")
    op.execute(f"CREATE POLICY coach_changes ON print_job AS RESTRICTIVE FOR UPDATE USING ({COACH})")
    op.execute(f"CREATE POLICY coach_removes ON print_job AS RESTRICTIVE FOR DELETE USING ({COACH})")


def downgrade() -> None:
    op.drop_table("print_job")
    op.drop_column("workspace", "printer_is_on")
