"""What happens at the scale while containers are filled; a helper may be given the right to it."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

from yantai.store.migrations.parts import keep_apart, owned, within

revision = "0036"
down_revision = "0035"
branch_labels = None
depends_on = None

RIGHTS = "coalesce(current_setting('app.rights', true), '')"
COACH = f"{RIGHTS} = ''"
COOK = f"({COACH} OR 'cook' = ANY (string_to_array({RIGHTS}, ' ')))"
"""A coach, or a helper who may cook, weigh and fill."""
EVENTS = (
    "'filled', 'left out', 'decided', 'corrected', 'evened out', 'taken back', 'pot weighed', 'rest', 'scoop weighed'"
)
WAYS = "'tare after each', 'running total', 'minus reading', 'counted', 'scoops', 'cups', 'by eye', 'typed'"
FATES = "'extra containers', 'for a client', 'freezer', 'thrown away'"


def grams() -> sa.Numeric[float]:
    return sa.Numeric(precision=12, scale=3, asdecimal=False)


def upgrade() -> None:
    op.create_table(
        "fill_fact",
        sa.Column("number", sa.BigInteger(), sa.Identity(always=True), nullable=False),
        sa.Column("batch_id", sa.Uuid(), nullable=False),
        sa.Column("event", sa.Text(), nullable=False),
        sa.Column("container_class_id", sa.Uuid(), nullable=True),
        sa.Column("container", sa.Integer(), nullable=True),
        sa.Column("component_id", sa.Uuid(), nullable=True),
        sa.Column("grams", grams(), nullable=False),
        sa.Column("unsure_g", grams(), nullable=False),
        sa.Column("asked_g", grams(), nullable=True),
        sa.Column("units", grams(), nullable=True),
        sa.Column("way", sa.Text(), nullable=True),
        sa.Column("after", sa.Uuid(), nullable=True),
        sa.Column("of", sa.Uuid(), nullable=True),
        sa.Column("fate", sa.Text(), nullable=True),
        sa.Column("client_id", sa.Uuid(), nullable=True),
        sa.Column("text", sa.Text(), nullable=False),
        sa.Column("took_s", grams(), nullable=True),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("made_by", sa.Text(), nullable=False),
        sa.Column("device", sa.Text(), nullable=False),
        sa.Column("happened_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
        *owned("fill_fact"),
        within("fill_fact", "batch"),
        sa.UniqueConstraint("number", name=op.f("uq_fill_fact_number")),
        sa.CheckConstraint(f"event IN ({EVENTS})", name=op.f("ck_fill_fact_event")),
        sa.CheckConstraint(f"way IN ({WAYS})", name=op.f("ck_fill_fact_way")),
        sa.CheckConstraint(f"fate IN ({FATES})", name=op.f("ck_fill_fact_fate")),
        sa.CheckConstraint(
            "(container_class_id IS NULL) = (container IS NULL) AND container >= 1",
            name=op.f("ck_fill_fact_container"),
        ),
        sa.CheckConstraint("grams >= 0 AND unsure_g >= 0", name=op.f("ck_fill_fact_grams")),
    )
    op.create_index(op.f("ix_fill_fact_batch_id"), "fill_fact", ["batch_id"])
    keep_apart("fill_fact")
    op.execute(f"CREATE POLICY cook_adds ON fill_fact AS RESTRICTIVE FOR INSERT WITH CHECK ({COOK})")
    op.execute(f"CREATE POLICY coach_changes ON fill_fact AS RESTRICTIVE FOR UPDATE USING ({COACH})")
    op.execute(f"CREATE POLICY coach_removes ON fill_fact AS RESTRICTIVE FOR DELETE USING ({COACH})")
    op.execute(
        "CREATE TRIGGER ledger_is_kept BEFORE UPDATE OR DELETE ON fill_fact"
        " FOR EACH ROW EXECUTE FUNCTION ledger_is_kept()"
    )


def downgrade() -> None:
    op.drop_table("fill_fact")
