"""What the scale at the stove reads, a calendar that is read by a secret address, and how long steps took."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

from yantai.store.migrations.parts import keep_apart, owned, within

revision = "0033"
down_revision = "0032"
branch_labels = None
depends_on = None

COACH = "coalesce(current_setting('app.rights', true), '') = ''"
EVENTS = (
    "'day begun', 'begun', 'touched', 'done', 'later', 'longer', 'stopped', 'skipped', 'held', 'freed', 'added', "
    "'timer', 'heated', 'temperature', 'off the heat', 'in the fridge', 'taken back'"
)


def grams() -> sa.Numeric[float]:
    return sa.Numeric(precision=12, scale=3, asdecimal=False)


def upgrade() -> None:
    op.add_column("cook_fact", sa.Column("grams", grams(), nullable=True))
    op.add_column("cook_fact", sa.Column("vessel_g", grams(), nullable=True))
    op.add_column("cook_fact", sa.Column("vessel", sa.Text(), server_default="", nullable=False))
    _let_happen(f"{EVENTS}, 'weighed'")
    op.create_table(
        "calendar_feed",
        sa.Column("account_id", sa.Uuid(), nullable=False),
        sa.Column("token_hash", sa.Text(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("read_at", sa.DateTime(timezone=True), nullable=True),
        *owned("calendar_feed"),
        within("calendar_feed", "account"),
        sa.UniqueConstraint("workspace_id", name=op.f("uq_calendar_feed_workspace_id")),
        sa.UniqueConstraint("token_hash", name=op.f("uq_calendar_feed_token_hash")),
    )
    op.create_table(
        "step_time",
        sa.Column("batch_id", sa.Uuid(), nullable=False),
        sa.Column("task", sa.Text(), nullable=False),
        sa.Column("learns", sa.Text(), nullable=False),
        sa.Column("says", sa.Text(), nullable=False),
        sa.Column("person_id", sa.Uuid(), nullable=True),
        sa.Column("planned_min", grams(), nullable=False),
        sa.Column("took_min", grams(), nullable=False),
        sa.Column("happened_at", sa.DateTime(timezone=True), nullable=False),
        *owned("step_time"),
        within("step_time", "batch"),
        sa.UniqueConstraint("batch_id", "task", name=op.f("uq_step_time_batch_id_task")),
        sa.CheckConstraint("planned_min > 0 AND took_min > 0", name=op.f("ck_step_time_minutes")),
    )
    op.create_index(op.f("ix_step_time_learns"), "step_time", ["learns"])
    for table in ("calendar_feed", "step_time"):
        keep_apart(table)
        op.execute(f"CREATE POLICY coach_adds ON {table} AS RESTRICTIVE FOR INSERT WITH CHECK ({COACH})")
        op.execute(f"CREATE POLICY coach_changes ON {table} AS RESTRICTIVE FOR UPDATE USING ({COACH})")
        op.execute(f"CREATE POLICY coach_removes ON {table} AS RESTRICTIVE FOR DELETE USING ({COACH})")
    op.execute(f"CREATE POLICY coach_sees ON calendar_feed AS RESTRICTIVE FOR SELECT USING ({COACH})")
    # Who reads a calendar is not signed in: knowing its address shows that one row.
    op.execute(
        "CREATE POLICY by_address ON calendar_feed FOR SELECT"
        " USING (token_hash = NULLIF(current_setting('app.feed_hash', true), ''))"
    )


def _let_happen(events: str) -> None:
    op.drop_constraint(op.f("ck_cook_fact_event"), "cook_fact")
    op.create_check_constraint(op.f("ck_cook_fact_event"), "cook_fact", f"event IN ({events})")


def downgrade() -> None:
    op.drop_table("step_time")
    op.drop_table("calendar_feed")
    op.execute("ALTER TABLE cook_fact DISABLE TRIGGER ledger_is_kept")
    op.execute("ALTER TABLE cook_fact NO FORCE ROW LEVEL SECURITY")
    op.execute("DELETE FROM cook_fact WHERE event = 'weighed'")
    op.execute("ALTER TABLE cook_fact FORCE ROW LEVEL SECURITY")
    op.execute("ALTER TABLE cook_fact ENABLE TRIGGER ledger_is_kept")
    _let_happen(EVENTS)
    for column in ("vessel", "vessel_g", "grams"):
        op.drop_column("cook_fact", column)
