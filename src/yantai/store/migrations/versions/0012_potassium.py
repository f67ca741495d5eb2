"""Foods state their potassium; the reference's is filled in when it is loaded, own foods state none yet.

Adds a column without a default, which locks the table for a moment only.
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0012"
down_revision = "0011"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("food", sa.Column("potassium_mg", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=True))


def downgrade() -> None:
    op.drop_column("food", "potassium_mg")
