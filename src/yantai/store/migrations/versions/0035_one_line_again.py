"""The line of 0034 and that of 0031 to 0033 are one again."""

from __future__ import annotations

revision = "0035"
down_revision = ("0033", "0034")
branch_labels = None
depends_on = None


def upgrade() -> None:
    pass


def downgrade() -> None:
    pass
