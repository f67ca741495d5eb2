"""Containers of the house: their kinds, how many there are, and where they are; some are packed another day.

Makes two tables, and locks `fill_fact` for a moment to let one more thing happen there.
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

from yantai.store.migrations.parts import keep_apart, over_all_workspaces, owned, within

revision = "0040"
down_revision = "0039"
branch_labels = None
depends_on = None

COACH = "coalesce(current_setting('app.rights', true), '') = ''"
EVENTS = (
    "'filled', 'left out', 'decided', 'corrected', 'evened out', 'taken back', 'pot weighed', 'rest', 'scoop weighed'"
)
TABLES = ("container_kind", "container_entry")


def amount() -> sa.Numeric[float]:
    return sa.Numeric(precision=12, scale=3, asdecimal=False)


def upgrade() -> None:
    _let_happen(f"{EVENTS}, 'kept in bulk'")
    op.create_table(
        "container_kind",
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("ml", amount(), nullable=False),
        sa.Column("empty_g", amount(), nullable=True),
        sa.Column("lid_g", amount(), nullable=True),
        sa.Column("freezer", sa.Boolean(), nullable=False),
        sa.Column("oven", sa.Boolean(), nullable=False),
        sa.Column("microwave", sa.Boolean(), nullable=False),
        sa.Column("dishwasher", sa.Boolean(), nullable=False),
        sa.Column("owned", sa.Integer(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("put_away_at", sa.DateTime(timezone=True), nullable=True),
        *owned("container_kind"),
        sa.CheckConstraint("ml > 0 AND empty_g > 0 AND lid_g > 0", name=op.f("ck_container_kind_sizes")),
        sa.CheckConstraint("owned >= 0", name=op.f("ck_container_kind_owned")),
    )
    op.create_table(
        "container_entry",
        sa.Column("container_kind_id", sa.Uuid(), nullable=False),
        sa.Column("client_id", sa.Uuid(), nullable=False),
        sa.Column("batch_id", sa.Uuid(), nullable=True),
        sa.Column("move", sa.Text(), nullable=False),
        sa.Column("count", sa.Integer(), nullable=False),
        sa.Column("made_by", sa.Text(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
        *owned("container_entry"),
        within("container_entry", "container_kind"),
        within("container_entry", "client"),
        within("container_entry", "batch"),
        sa.CheckConstraint("move IN ('went out', 'came back', 'lost')", name=op.f("ck_container_entry_move")),
        sa.CheckConstraint("count > 0", name=op.f("ck_container_entry_count")),
    )
    for column in ("container_kind_id", "client_id", "batch_id"):
        op.create_index(op.f(f"ix_container_entry_{column}"), "container_entry", [column])
    for table in TABLES:
        keep_apart(table)
        op.execute(f"CREATE POLICY coach_adds ON {table} AS RESTRICTIVE FOR INSERT WITH CHECK ({COACH})")
        op.execute(f"CREATE POLICY coach_changes ON {table} AS RESTRICTIVE FOR UPDATE USING ({COACH})")
        op.execute(f"CREATE POLICY coach_removes ON {table} AS RESTRICTIVE FOR DELETE USING ({COACH})")


def downgrade() -> None:
    for table in reversed(TABLES):
        op.drop_table(table)
    with over_all_workspaces("fill_fact"):
        op.execute("DELETE FROM fill_fact WHERE event = 'kept in bulk'")
    _let_happen(EVENTS)


def _let_happen(events: str) -> None:
    op.drop_constraint(op.f("ck_fill_fact_event"), "fill_fact")
    op.create_check_constraint(op.f("ck_fill_fact_event"), "fill_fact", f"event IN ({events})")
