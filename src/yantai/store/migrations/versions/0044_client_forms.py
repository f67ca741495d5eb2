"""Forms that clients fill in by link, and what a coach takes from them.

Adds five columns to `client`, and a table.
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

from yantai.store.migrations.parts import keep_apart, owned, within

revision = "0044"
down_revision = "0043"
branch_labels = None
depends_on = None

COACH = "coalesce(current_setting('app.rights', true), '') = ''"
TEXTS = ("email", "goals", "kitchen", "health")


def moment(name: str, *, nullable: bool = True) -> sa.Column[object]:
    return sa.Column(name, sa.DateTime(timezone=True), nullable=nullable)


def upgrade() -> None:
    for name in TEXTS:
        op.add_column("client", sa.Column(name, sa.Text(), server_default="", nullable=False))
    op.add_column("client", sa.Column("likes", postgresql.ARRAY(sa.Text()), server_default="{}", nullable=False))
    op.create_table(
        "client_form",
        sa.Column("client_id", sa.Uuid(), nullable=True),
        sa.Column("account_id", sa.Uuid(), nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("email", sa.Text(), nullable=False),
        sa.Column("token_hash", sa.Text(), nullable=False),
        sa.Column("answers", postgresql.JSONB(), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("made_by", sa.Text(), nullable=False),
        moment("made_at", nullable=False),
        moment("expires_at", nullable=False),
        moment("revoked_at"),
        moment("seen_at"),
        moment("agreed_at"),
        moment("handed_in_at"),
        moment("taken_at"),
        *owned("client_form"),
        within("client_form", "client"),
        within("client_form", "account"),
        sa.UniqueConstraint("token_hash", name=op.f("uq_client_form_token_hash")),
        sa.CheckConstraint("kind IN ('intake', 'how was it')", name=op.f("ck_client_form_kind")),
        sa.CheckConstraint("kind = 'intake' OR client_id IS NOT NULL", name=op.f("ck_client_form_of_whom")),
    )
    op.create_index(op.f("ix_client_form_client_id"), "client_form", ["client_id"])
    keep_apart("client_form")
    op.execute(f"CREATE POLICY coach_adds ON client_form AS RESTRICTIVE FOR INSERT WITH CHECK ({COACH})")
    op.execute(f"CREATE POLICY coach_changes ON client_form AS RESTRICTIVE FOR UPDATE USING ({COACH})")
    op.execute(f"CREATE POLICY coach_removes ON client_form AS RESTRICTIVE FOR DELETE USING ({COACH})")
    op.execute(f"CREATE POLICY coach_sees ON client_form AS RESTRICTIVE FOR SELECT USING ({COACH})")
    # Who fills it in is not signed in: knowing the secret of its link shows that one row.
    op.execute(
        "CREATE POLICY by_address ON client_form FOR SELECT"
        " USING (NULLIF(current_setting('app.feed_hash', true), '') = token_hash)"
    )


def downgrade() -> None:
    op.drop_table("client_form")
    for name in (*TEXTS, "likes"):
        op.drop_column("client", name)
