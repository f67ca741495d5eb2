"""Messages to clients, and the templates they are made from.

Makes two tables.
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

from yantai.store.migrations.parts import keep_apart, owned, within

revision = "0045"
down_revision = "0044"
branch_labels = None
depends_on = None

COACH = "coalesce(current_setting('app.rights', true), '') = ''"
KINDS = "kind IN ('hand-over', 'thaw tonight', 'form', 'how was it')"
STATES = "state IN ('waiting', 'sending', 'sent', 'refused', 'unsure', 'set aside')"
TABLES = ("message_template", "message")


def text(name: str) -> sa.Column[object]:
    return sa.Column(name, sa.Text(), nullable=False)


def moment(name: str, *, nullable: bool = False) -> sa.Column[object]:
    return sa.Column(name, sa.DateTime(timezone=True), nullable=nullable)


def upgrade() -> None:
    op.create_table(
        "message_template",
        text("kind"),
        text("subject"),
        text("body"),
        text("changed_by"),
        moment("changed_at"),
        *owned("message_template"),
        sa.UniqueConstraint("workspace_id", "kind", name=op.f("uq_message_template_workspace_id_kind")),
        sa.CheckConstraint(KINDS, name=op.f("ck_message_template_kind")),
    )
    op.create_table(
        "message",
        sa.Column("number", sa.BigInteger(), sa.Identity(always=True), nullable=False),
        text("kind"),
        sa.Column("client_id", sa.Uuid(), nullable=True),
        sa.Column("client_form_id", sa.Uuid(), nullable=True),
        sa.Column("batch_id", sa.Uuid(), nullable=True),
        sa.Column("account_id", sa.Uuid(), nullable=False),
        text("to_name"),
        text("to_address"),
        text("subject"),
        text("body"),
        text("base_address"),
        sa.Column("link_days", sa.Integer(), nullable=False),
        text("state"),
        sa.Column("attempts", sa.Integer(), nullable=False),
        text("trouble"),
        text("made_by"),
        moment("made_at"),
        moment("tried_at", nullable=True),
        moment("sent_at", nullable=True),
        *owned("message"),
        within("message", "client"),
        within("message", "client_form"),
        within("message", "batch"),
        within("message", "account"),
        sa.UniqueConstraint("number", name=op.f("uq_message_number")),
        sa.CheckConstraint(KINDS, name=op.f("ck_message_kind")),
        sa.CheckConstraint(STATES, name=op.f("ck_message_state")),
        sa.CheckConstraint("client_id IS NOT NULL OR client_form_id IS NOT NULL", name=op.f("ck_message_of_whom")),
        sa.CheckConstraint("(state = 'sent') = (sent_at IS NOT NULL)", name=op.f("ck_message_sent")),
        sa.CheckConstraint("attempts >= 0 AND link_days > 0", name=op.f("ck_message_counts")),
    )
    for column in ("client_id", "client_form_id", "batch_id"):
        op.create_index(op.f(f"ix_message_{column}"), "message", [column])
    for table in TABLES:
        keep_apart(table)
        op.execute(f"CREATE POLICY coach_adds ON {table} AS RESTRICTIVE FOR INSERT WITH CHECK ({COACH})")
        op.execute(f"CREATE POLICY coach_changes ON {table} AS RESTRICTIVE FOR UPDATE USING ({COACH})")
        op.execute(f"CREATE POLICY coach_removes ON {table} AS RESTRICTIVE FOR DELETE USING ({COACH})")
        op.execute(f"CREATE POLICY coach_sees ON {table} AS RESTRICTIVE FOR SELECT USING ({COACH})")


def downgrade() -> None:
    for table in reversed(TABLES):
        op.drop_table(table)
