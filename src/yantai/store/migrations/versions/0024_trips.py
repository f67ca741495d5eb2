"""Trips to the shops: for which batches, what was noted about their items, what they cost."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

from yantai.store.migrations.parts import keep_apart, owned, within

revision = "0024"
down_revision = "0023"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "trip",
        sa.Column("started_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("started_by", sa.Text(), nullable=False),
        sa.Column("needed", JSONB(), nullable=False),
        sa.Column("finished_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("paid", sa.Numeric(precision=10, scale=2, asdecimal=False), nullable=True),
        sa.Column("paid_items", JSONB(), server_default="{}", nullable=False),
        sa.Column("act", sa.Uuid(), nullable=True),
        sa.Column("shown", JSONB(), nullable=True),
        *owned("trip"),
        sa.CheckConstraint("paid >= 0", name=op.f("ck_trip_paid")),
    )
    keep_apart("trip")
    op.create_table(
        "trip_batch",
        sa.Column("trip_id", sa.Uuid(), nullable=False),
        sa.Column("batch_id", sa.Uuid(), nullable=False),
        *owned("trip_batch"),
        within("trip_batch", "trip"),
        within("trip_batch", "batch"),
        sa.UniqueConstraint("trip_id", "batch_id", name=op.f("uq_trip_batch_trip_id_batch_id")),
    )
    for column in ("trip_id", "batch_id"):
        op.create_index(op.f(f"ix_trip_batch_{column}"), "trip_batch", [column])
    keep_apart("trip_batch")
    events = "'bought', 'not bought', 'not there', 'note', 'added', 'removed'"
    op.create_table(
        "trip_entry",
        sa.Column("number", sa.BigInteger(), sa.Identity(always=True), nullable=False),
        sa.Column("trip_id", sa.Uuid(), nullable=False),
        sa.Column("item", sa.Uuid(), nullable=False),
        sa.Column("event", sa.Text(), nullable=False),
        sa.Column("bought", JSONB(), nullable=True),
        sa.Column("text", sa.Text(), nullable=False),
        sa.Column("made_by", sa.Text(), nullable=False),
        sa.Column("happened_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
        *owned("trip_entry"),
        within("trip_entry", "trip"),
        sa.CheckConstraint(f"event IN ({events})", name=op.f("ck_trip_entry_event")),
        sa.UniqueConstraint("number", name=op.f("uq_trip_entry_number")),
    )
    op.create_index(op.f("ix_trip_entry_trip_id"), "trip_entry", ["trip_id"])
    keep_apart("trip_entry")
    op.execute(
        "CREATE TRIGGER ledger_is_kept BEFORE UPDATE OR DELETE ON trip_entry"
        " FOR EACH ROW EXECUTE FUNCTION ledger_is_kept()"
    )


def downgrade() -> None:
    for table in ("trip_entry", "trip_batch", "trip"):
        op.drop_table(table)
