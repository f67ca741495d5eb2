"""What was sent is made once: a receipt for each wish that came with an id, with what was answered.

A new table, which locks nothing.
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

from yantai.store.migrations.parts import keep_apart, owned

revision = "0016"
down_revision = "0015"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "receipt",
        sa.Column("digest", sa.Text(), nullable=False),
        sa.Column("answer", postgresql.JSONB(), nullable=True),
        sa.Column("made_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        *owned("receipt"),
    )
    op.create_index(op.f("ix_receipt_made_at"), "receipt", ["made_at"], postgresql_where=sa.text("answer IS NOT NULL"))
    keep_apart("receipt")


def downgrade() -> None:
    op.drop_table("receipt")
