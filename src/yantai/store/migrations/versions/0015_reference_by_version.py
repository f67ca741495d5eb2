"""Which reference rows are loaded is kept, so that a start with the same ones loads nothing.

A new table, which locks nothing. What is loaded is nobody's: all may read it, only loading may add to it.
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0015"
down_revision = "0014"
branch_labels = None
depends_on = None

LOADING = "current_setting('app.loading_reference', true) = 'on'"


def upgrade() -> None:
    op.create_table(
        "reference_load",
        sa.Column("number", sa.Integer(), sa.Identity(), nullable=False),
        sa.Column("digest", sa.Text(), nullable=False),
        sa.Column("loaded_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.PrimaryKeyConstraint("number", name=op.f("pk_reference_load")),
    )
    op.execute("ALTER TABLE reference_load ENABLE ROW LEVEL SECURITY")
    op.execute("ALTER TABLE reference_load FORCE ROW LEVEL SECURITY")
    op.execute("CREATE POLICY shared ON reference_load FOR SELECT USING (true)")
    op.execute(f"CREATE POLICY loading ON reference_load FOR INSERT WITH CHECK ({LOADING})")


def downgrade() -> None:
    op.drop_table("reference_load")
