"""What a container of a batch may cost at most; none, as it was, where cost decides nothing."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0030"
down_revision = "0029"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("batch", sa.Column("budget", sa.Numeric(precision=10, scale=2, asdecimal=False), nullable=True))


def downgrade() -> None:
    op.drop_column("batch", "budget")
