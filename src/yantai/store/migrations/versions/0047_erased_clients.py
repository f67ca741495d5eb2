"""Clients who were erased. Ledgers stay what they are, but for the name of such a one in their words.

Adds a column to `client`, and changes what two triggers let through.
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0047"
down_revision = "0046"
branch_labels = None
depends_on = None

KEPT = {
    "ledger_is_kept": "a ledger is only added to, never changed",
    "weighing_is_kept": "weighings are only added, never changed or deleted",
}
ERASING = """
            IF TG_OP = 'UPDATE' AND coalesce(current_setting('app.erasing', true), '') = 'on' THEN
                RETURN NEW;
            END IF;"""


def keep(function: str, but: str) -> None:
    op.execute(f"""
        CREATE OR REPLACE FUNCTION {function}() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN{but}
            RAISE restrict_violation USING MESSAGE = '{KEPT[function]}',
                CONSTRAINT = '{function}';
        END $$
    """)


def upgrade() -> None:
    op.add_column("client", sa.Column("erased_at", sa.DateTime(timezone=True), nullable=True))
    for function in KEPT:
        keep(function, ERASING)


def downgrade() -> None:
    for function in KEPT:
        keep(function, "")
    op.drop_column("client", "erased_at")
