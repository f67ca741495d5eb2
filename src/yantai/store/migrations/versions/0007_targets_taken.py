"""What the client's target said when a batch took it over.

A new column that may be empty; nothing is rewritten. Batches made before it are not told of changed targets.
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("container_class", sa.Column("taken", postgresql.JSONB(), nullable=True))


def downgrade() -> None:
    op.drop_column("container_class", "taken")
