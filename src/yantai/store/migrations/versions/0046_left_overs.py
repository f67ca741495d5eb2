"""What was left by part, what a client has at most of something, and the deposit on a container.

Adds three columns.
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0046"
down_revision = "0045"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("eating_fact", sa.Column("left_parts", postgresql.JSONB(), server_default="{}", nullable=False))
    op.add_column("client", sa.Column("bounds", postgresql.JSONB(), server_default="[]", nullable=False))
    op.add_column("container_kind", sa.Column("deposit", sa.Numeric(12, 3), nullable=True))
    op.create_check_constraint(op.f("ck_container_kind_deposit"), "container_kind", "deposit > 0")


def downgrade() -> None:
    op.drop_constraint(op.f("ck_container_kind_deposit"), "container_kind")
    op.drop_column("container_kind", "deposit")
    op.drop_column("client", "bounds")
    op.drop_column("eating_fact", "left_parts")
