"""A pot says whether it is covered and for how long it cooks; a line says that its yield came with its component.

Lines of open batches that were unfolded before this keep "set by the coach": nothing tells them from the coach's own.
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0011"
down_revision = "0010"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("component", sa.Column("lid", sa.Text(), server_default="", nullable=False))
    op.add_column("component", sa.Column("cook_min", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=True))
    op.create_check_constraint(op.f("ck_component_lid"), "component", "lid IN ('', 'on', 'off')")
    op.add_column("line", sa.Column("unfolded", sa.Boolean(), server_default="false", nullable=False))


def downgrade() -> None:
    op.drop_column("line", "unfolded")
    op.drop_constraint(op.f("ck_component_lid"), "component")
    op.drop_column("component", "cook_min")
    op.drop_column("component", "lid")
