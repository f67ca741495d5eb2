"""How food is sold: by the pack, as all of it was, by the piece or by weight; and what of packs may be left over."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0029"
down_revision = "0028"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("pack", sa.Column("sold", sa.Text(), server_default="by the pack", nullable=False))
    op.create_check_constraint(op.f("ck_pack_sold"), "pack", "sold IN ('by the pack', 'by the piece', 'by weight')")
    op.add_column(
        "workspace", sa.Column("most_left_share", sa.Numeric(precision=9, scale=6, asdecimal=False), nullable=True)
    )


def downgrade() -> None:
    op.drop_column("workspace", "most_left_share")
    op.drop_column("pack", "sold")
