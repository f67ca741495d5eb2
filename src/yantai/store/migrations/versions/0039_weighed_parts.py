"""What of a pot was on the scale while the rest of it is still to come.

Adds a column with a constant default: no row is rewritten.
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0039"
down_revision = "0038"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("component", sa.Column("weighed_parts", JSONB(), server_default="[]", nullable=False))


def downgrade() -> None:
    op.drop_column("component", "weighed_parts")
