"""Whether a trip buys what is added at eating, and the extras of clients' days."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0025"
down_revision = "0024"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("trip", sa.Column("with_fresh", sa.Boolean(), server_default="true", nullable=False))
    op.add_column("trip", sa.Column("with_extras", sa.Boolean(), server_default="false", nullable=False))


def downgrade() -> None:
    op.drop_column("trip", "with_extras")
    op.drop_column("trip", "with_fresh")
