"""Days of clients with their extras, slots as a share of a day, the history of targets, foods kept out, tolerances
in percent.

New tables, columns with a default, and a nullable one with a check over it: `target` is locked while its rows are
looked at. It runs in one transaction and is repeated simply by running it again.
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

from yantai.store.migrations.parts import HERE, keep_apart, owned, secure, within

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None

GRAMS = sa.Numeric(precision=12, scale=3, asdecimal=False)
SHARE = sa.Numeric(precision=9, scale=6, asdecimal=False)
FIGURES = ("kcal", "protein_g", "carbohydrate_g", "fat_g", "fibre_g", "saturated_g", "sodium_mg")


def upgrade() -> None:
    op.create_table(
        "day",
        sa.Column("client_id", sa.Uuid(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("day_type", sa.Text(), nullable=False),
        *(sa.Column(name, GRAMS, nullable=True) for name in FIGURES),
        *owned("day"),
        within("day", "client"),
    )
    op.create_index(op.f("ix_day_client_id"), "day", ["client_id"])
    op.create_table(
        "day_extra",
        sa.Column("day_id", sa.Uuid(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("food_id", sa.Uuid(), nullable=False),
        sa.Column("grams", GRAMS, nullable=False),
        *owned("day_extra"),
        within("day_extra", "day"),
        sa.ForeignKeyConstraint(["food_id"], ["food.id"], name=op.f("fk_day_extra_food_id_food"), ondelete="RESTRICT"),
        sa.CheckConstraint("grams > 0", name=op.f("ck_day_extra_weight")),
    )
    op.create_index(op.f("ix_day_extra_day_id"), "day_extra", ["day_id"])
    op.create_index(op.f("ix_day_extra_food_id"), "day_extra", ["food_id"])
    op.create_table(
        "target_record",
        sa.Column("client_id", sa.Uuid(), nullable=False),
        sa.Column("since", sa.DateTime(timezone=True), server_default=sa.text("clock_timestamp()"), nullable=False),
        sa.Column("changed_by", sa.Text(), nullable=False),
        sa.Column("figures", postgresql.JSONB(), nullable=False),
        *owned("target_record"),
        within("target_record", "client"),
    )
    op.create_index(op.f("ix_target_record_client_id"), "target_record", ["client_id"])
    op.add_column("target", sa.Column("day_share", SHARE, nullable=True))
    op.add_column("client", sa.Column("exclusions", postgresql.ARRAY(sa.Text()), server_default="{}", nullable=False))
    op.add_column("client", sa.Column("tolerance_percent", sa.Boolean(), server_default="false", nullable=False))
    op.create_check_constraint("share", "target", "day_share > 0 AND day_share <= 1")
    for table in ("day", "day_extra"):
        keep_apart(table)
    secure("target_record")
    # No policy lets a record be changed or deleted; it goes with its client only.
    op.execute(f"CREATE POLICY own ON target_record FOR SELECT USING (workspace_id = {HERE})")
    op.execute(f"CREATE POLICY added ON target_record FOR INSERT WITH CHECK (workspace_id = {HERE})")
    op.execute(
        "CREATE TRIGGER line_food_is_visible BEFORE INSERT OR UPDATE OF food_id ON day_extra"
        " FOR EACH ROW EXECUTE FUNCTION line_food_is_visible()"
    )


def downgrade() -> None:
    op.drop_constraint("share", "target", type_="check")
    op.drop_column("target", "day_share")
    op.drop_column("client", "tolerance_percent")
    op.drop_column("client", "exclusions")
    for table in ("target_record", "day_extra", "day"):
        op.drop_table(table)
