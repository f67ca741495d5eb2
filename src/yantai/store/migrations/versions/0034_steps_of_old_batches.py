"""A step need not name its component: 0031 copies steps into old batches that name none, which the column refused.

It stands before 0031, on a line of its own, as that is committed; `migrate.upgrade` takes it first. Where 0031 went
through the column is gone already.
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0034"
down_revision = "0030"
branch_labels = None
depends_on = None


def upgrade() -> None:
    if _is_there():
        op.alter_column("step", "component", nullable=True)


def downgrade() -> None:
    if _is_there():
        op.alter_column("step", "component", nullable=False)


def _is_there() -> bool:
    """Whether steps still have the column."""
    return any(column["name"] == "component" for column in sa.inspect(op.get_bind()).get_columns("step"))
