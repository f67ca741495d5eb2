"""A weighing says whether it corrects those before it: two of one pot that do not are both shown.

Until now only those who had seen a weight could record another one, so all there are correct what was before them.
Adds a column with a constant default, which locks the table for a moment only.
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0014"
down_revision = "0013"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("weighing", sa.Column("corrects", sa.Boolean(), nullable=False, server_default=sa.true()))
    op.alter_column("weighing", "corrects", server_default=sa.false())


def downgrade() -> None:
    op.drop_column("weighing", "corrects")
