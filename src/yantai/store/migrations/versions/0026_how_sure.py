"""With which probability the pots of a batch shall suffice; none, as it was, where only a flat share comes on top."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0026"
down_revision = "0025"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("batch", sa.Column("sure_share", sa.Numeric(precision=9, scale=6, asdecimal=False), nullable=True))


def downgrade() -> None:
    op.drop_column("batch", "sure_share")
