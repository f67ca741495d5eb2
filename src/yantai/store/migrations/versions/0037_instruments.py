"""Scales and thermometers of a kitchen."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

from yantai.store.migrations.parts import keep_apart, owned

revision = "0037"
down_revision = "0036"
branch_labels = None
depends_on = None

COACH = "coalesce(current_setting('app.rights', true), '') = ''"


def grams() -> sa.Numeric[float]:
    return sa.Numeric(precision=12, scale=3, asdecimal=False)


def upgrade() -> None:
    op.create_table(
        "instrument",
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("connection", sa.Text(), nullable=False),
        sa.Column("talk", sa.Text(), nullable=False),
        sa.Column("port", sa.Text(), server_default="", nullable=False),
        sa.Column("baud", sa.Integer(), nullable=False),
        sa.Column("silent_unit", sa.Text(), nullable=False),
        sa.Column("capacity_g", grams(), nullable=True),
        sa.Column("step_g", grams(), nullable=False),
        sa.Column("put_away_at", sa.DateTime(timezone=True), nullable=True),
        *owned("instrument"),
        sa.CheckConstraint("kind IN ('scale', 'thermometer')", name=op.f("ck_instrument_kind")),
        sa.CheckConstraint("connection IN ('simulated', 'serial', 'tablet')", name=op.f("ck_instrument_connection")),
        sa.CheckConstraint("talk IN ('continuous', 'on request')", name=op.f("ck_instrument_talk")),
        sa.CheckConstraint("step_g > 0 AND capacity_g > 0", name=op.f("ck_instrument_weights")),
    )
    keep_apart("instrument")
    op.execute(f"CREATE POLICY coach_adds ON instrument AS RESTRICTIVE FOR INSERT WITH CHECK ({COACH})")
    op.execute(f"CREATE POLICY coach_changes ON instrument AS RESTRICTIVE FOR UPDATE USING ({COACH})")
    op.execute(f"CREATE POLICY coach_removes ON instrument AS RESTRICTIVE FOR DELETE USING ({COACH})")


def downgrade() -> None:
    op.drop_table("instrument")
