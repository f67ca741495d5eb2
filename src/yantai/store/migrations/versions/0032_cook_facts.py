"""What is noted while a batch is cooked; the order of work remembers with which of it it was found."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

from yantai.store.migrations.parts import keep_apart, owned, within

revision = "0032"
down_revision = "0031"
branch_labels = None
depends_on = None

COACH = "coalesce(current_setting('app.rights', true), '') = ''"
EVENTS = (
    "'day begun', 'begun', 'touched', 'done', 'later', 'longer', 'stopped', 'skipped', 'held', 'freed', 'added', "
    "'timer', 'heated', 'temperature', 'off the heat', 'in the fridge', 'taken back'"
)


def upgrade() -> None:
    op.create_table(
        "cook_fact",
        sa.Column("number", sa.BigInteger(), sa.Identity(always=True), nullable=False),
        sa.Column("batch_id", sa.Uuid(), nullable=False),
        sa.Column("task", sa.Text(), nullable=False),
        sa.Column("event", sa.Text(), nullable=False),
        sa.Column("minutes", sa.Integer(), nullable=True),
        sa.Column("touch", sa.Integer(), nullable=True),
        sa.Column("person_id", sa.Uuid(), nullable=True),
        sa.Column("celsius", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=True),
        sa.Column("text", sa.Text(), nullable=False),
        sa.Column("made_by", sa.Text(), nullable=False),
        sa.Column("device", sa.Text(), nullable=False),
        sa.Column("happened_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
        *owned("cook_fact"),
        within("cook_fact", "batch"),
        sa.UniqueConstraint("number", name=op.f("uq_cook_fact_number")),
        sa.CheckConstraint(f"event IN ({EVENTS})", name=op.f("ck_cook_fact_event")),
    )
    op.create_index(op.f("ix_cook_fact_batch_id"), "cook_fact", ["batch_id"])
    keep_apart("cook_fact")
    op.execute(f"CREATE POLICY coach_adds ON cook_fact AS RESTRICTIVE FOR INSERT WITH CHECK ({COACH})")
    op.execute(f"CREATE POLICY coach_changes ON cook_fact AS RESTRICTIVE FOR UPDATE USING ({COACH})")
    op.execute(f"CREATE POLICY coach_removes ON cook_fact AS RESTRICTIVE FOR DELETE USING ({COACH})")
    op.execute(
        "CREATE TRIGGER ledger_is_kept BEFORE UPDATE OR DELETE ON cook_fact"
        " FOR EACH ROW EXECUTE FUNCTION ledger_is_kept()"
    )
    op.add_column("cook_order", sa.Column("facts", sa.BigInteger(), server_default="0", nullable=False))
    op.add_column("cook_order", sa.Column("planned_ready_min", sa.Integer(), nullable=True))


def downgrade() -> None:
    op.drop_column("cook_order", "planned_ready_min")
    op.drop_column("cook_order", "facts")
    op.drop_table("cook_fact")
