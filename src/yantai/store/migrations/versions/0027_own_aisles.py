"""The order in which a coach walks a shop."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import ARRAY

revision = "0027"
down_revision = "0026"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("workspace", sa.Column("aisles", ARRAY(sa.Text()), server_default="{}", nullable=False))


def downgrade() -> None:
    op.drop_column("workspace", "aisles")
