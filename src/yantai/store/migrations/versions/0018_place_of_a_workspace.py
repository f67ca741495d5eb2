"""The time zone and the currency of a workspace, once somebody sets them.

Two columns without a default, which lock the table for an instant.
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0018"
down_revision = "0017"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("workspace", sa.Column("time_zone", sa.Text(), nullable=True))
    op.add_column("workspace", sa.Column("currency", sa.Text(), nullable=True))
    op.create_check_constraint(op.f("ck_workspace_currency"), "workspace", "currency ~ '^[A-Z]{3}$'")


def downgrade() -> None:
    op.drop_constraint(op.f("ck_workspace_currency"), "workspace")
    op.drop_column("workspace", "currency")
    op.drop_column("workspace", "time_zone")
