"""The most of a component per container may be left open.

So far 400 g stood wherever nobody had typed a most, and governed plans in silence. Those become open; whoever typed 400
finds the usual most of the role in its place, shown as such. Rewrites the rows of `component` that hold 400, under a
short exclusive lock; run again after an interruption it goes on where it was.
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

from yantai.store.migrations.parts import over_all_workspaces

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.alter_column("component", "maximum_g", existing_type=sa.Numeric(precision=12, scale=3), nullable=True)
    with over_all_workspaces("component"):
        op.execute("UPDATE component SET maximum_g = NULL WHERE maximum_g = 400")


def downgrade() -> None:
    with over_all_workspaces("component"):
        op.execute("UPDATE component SET maximum_g = 400 WHERE maximum_g IS NULL AND minimum_g <= 400")
        op.execute("UPDATE component SET maximum_g = 2000 WHERE maximum_g IS NULL")
    op.alter_column("component", "maximum_g", existing_type=sa.Numeric(precision=12, scale=3), nullable=False)
