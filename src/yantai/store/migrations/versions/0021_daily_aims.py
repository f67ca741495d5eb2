"""What the coach aims at for every day, once somebody sets it.

Four columns without a default, which lock the table for an instant.
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0021"
down_revision = "0020"
branch_labels = None
depends_on = None

AIMS = ("daily_produce_g", "daily_fibre_g", "daily_potassium_mg", "daily_sodium_mg")


def upgrade() -> None:
    for name in AIMS:
        op.add_column("workspace", sa.Column(name, sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=True))


def downgrade() -> None:
    for name in AIMS:
        op.drop_column("workspace", name)
