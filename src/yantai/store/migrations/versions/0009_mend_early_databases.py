"""Bring up to date what early databases lack.

0002, 0003 and 0004 were edited after they had been committed, so a database that an early form of them made stands at
the newest revision without what was added later. Every step here does nothing where all is there already; tables are
locked for as long as a column with a constant default takes.
"""

from __future__ import annotations

from alembic import op

revision = "0009"
down_revision = "0008"
branch_labels = None
depends_on = None

SHARED = ("food", "measure", "yield_factor", "raw_cooked_pair", "edible_portion")
LOADING = "current_setting('app.loading_reference', true) = 'on'"
HERE = "NULLIF(current_setting('app.workspace_id', true), '')::uuid"
MACROS = "coalesce(protein_g, 0) + coalesce(carbohydrate_g, 0) + coalesce(fat_g, 0) <= 101"


def upgrade() -> None:
    op.execute("ALTER TABLE workspace ADD COLUMN IF NOT EXISTS foods_version integer NOT NULL DEFAULT 0")
    op.execute("DROP INDEX IF EXISTS ix_food_search_vector")
    op.execute("DROP INDEX IF EXISTS ix_food_search_text")
    op.execute("ALTER TABLE food DROP COLUMN IF EXISTS search_vector")
    op.execute("ALTER TABLE food DROP CONSTRAINT IF EXISTS ck_food_macros_fit")
    op.execute(f"ALTER TABLE food ADD CONSTRAINT ck_food_macros_fit CHECK ({MACROS} OR slack <> '{{}}')")
    for table in SHARED:
        op.execute(f"ALTER POLICY own ON {table} USING (workspace_id = (SELECT {HERE}))")
        op.execute(f"ALTER POLICY loading ON {table} USING (workspace_id IS NULL AND (SELECT {LOADING}))")
    for column in (
        "signed_off_by text NOT NULL DEFAULT ''",
        "signed_off_on date",
        "exclusions text[] NOT NULL DEFAULT '{}'",
        "tolerance_percent boolean NOT NULL DEFAULT false",
    ):
        op.execute(f"ALTER TABLE client ADD COLUMN IF NOT EXISTS {column}")
    op.execute("ALTER TABLE target_record ENABLE ROW LEVEL SECURITY")
    op.execute("ALTER TABLE target_record FORCE ROW LEVEL SECURITY")


def downgrade() -> None:
    """What was mended stays."""
