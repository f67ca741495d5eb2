"""Answers that take solving are kept with the state of everything they were found from."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

from yantai.store.migrations.parts import keep_apart, owned

revision = "0019"
down_revision = "0018"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "kept_answer",
        sa.Column("question", sa.Text(), nullable=False),
        sa.Column("spoken", sa.Text(), nullable=False),
        sa.Column("state", sa.Text(), nullable=False),
        sa.Column("answer", sa.Text(), nullable=False),
        *owned("kept_answer"),
        sa.UniqueConstraint(
            "workspace_id", "question", "spoken", name=op.f("uq_kept_answer_workspace_id_question_spoken")
        ),
    )
    keep_apart("kept_answer")


def downgrade() -> None:
    op.drop_table("kept_answer")
