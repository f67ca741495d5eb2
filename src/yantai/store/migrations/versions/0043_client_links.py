"""Links for clients, what became of containers, and words to the coach.

Makes three tables.
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

from yantai.store.migrations.parts import keep_apart, owned, within

revision = "0043"
down_revision = "0042"
branch_labels = None
depends_on = None

COACH = "coalesce(current_setting('app.rights', true), '') = ''"
TABLES = ("client_link", "eating_fact", "client_word")


def moment(name: str, *, nullable: bool = False) -> sa.Column[object]:
    return sa.Column(name, sa.DateTime(timezone=True), nullable=nullable)


def upgrade() -> None:
    op.create_table(
        "client_link",
        sa.Column("client_id", sa.Uuid(), nullable=False),
        sa.Column("account_id", sa.Uuid(), nullable=False),
        sa.Column("token_hash", sa.Text(), nullable=False),
        sa.Column("feed_hash", sa.Text(), nullable=False),
        sa.Column("shows_macros", sa.Boolean(), nullable=False),
        sa.Column("made_by", sa.Text(), nullable=False),
        moment("made_at"),
        moment("expires_at"),
        moment("revoked_at", nullable=True),
        moment("seen_at", nullable=True),
        sa.Column("opened", sa.Integer(), server_default="0", nullable=False),
        *owned("client_link"),
        within("client_link", "client"),
        within("client_link", "account"),
        sa.UniqueConstraint("token_hash", name=op.f("uq_client_link_token_hash")),
        sa.UniqueConstraint("feed_hash", name=op.f("uq_client_link_feed_hash")),
    )
    op.create_table(
        "eating_fact",
        sa.Column("number", sa.BigInteger(), sa.Identity(always=True), nullable=False),
        sa.Column("batch_id", sa.Uuid(), nullable=False),
        sa.Column("container_class_id", sa.Uuid(), nullable=False),
        sa.Column("container", sa.Integer(), nullable=False),
        sa.Column("event", sa.Text(), nullable=False),
        sa.Column("left_g", sa.Numeric(12, 3), nullable=True),
        sa.Column("left_share", sa.Numeric(9, 6), nullable=True),
        sa.Column("by_client", sa.Boolean(), nullable=False),
        sa.Column("made_by", sa.Text(), nullable=False),
        moment("happened_at"),
        moment("made_at"),
        *owned("eating_fact"),
        within("eating_fact", "batch"),
        within("eating_fact", "container_class"),
        sa.UniqueConstraint("number", name=op.f("uq_eating_fact_number")),
        sa.CheckConstraint("event IN ('eaten', 'left', 'taken back')", name=op.f("ck_eating_fact_event")),
        sa.CheckConstraint("container >= 1", name=op.f("ck_eating_fact_container")),
        sa.CheckConstraint("left_g >= 0 AND left_share >= 0 AND left_share <= 1", name=op.f("ck_eating_fact_left")),
    )
    op.create_table(
        "client_word",
        sa.Column("client_id", sa.Uuid(), nullable=False),
        sa.Column("text", sa.Text(), nullable=False),
        moment("made_at"),
        moment("read_at", nullable=True),
        *owned("client_word"),
        within("client_word", "client"),
    )
    for table, column in (
        ("client_link", "client_id"),
        ("eating_fact", "batch_id"),
        ("eating_fact", "container_class_id"),
        ("client_word", "client_id"),
    ):
        op.create_index(op.f(f"ix_{table}_{column}"), table, [column])
    for table in TABLES:
        keep_apart(table)
        op.execute(f"CREATE POLICY coach_adds ON {table} AS RESTRICTIVE FOR INSERT WITH CHECK ({COACH})")
        op.execute(f"CREATE POLICY coach_changes ON {table} AS RESTRICTIVE FOR UPDATE USING ({COACH})")
        op.execute(f"CREATE POLICY coach_removes ON {table} AS RESTRICTIVE FOR DELETE USING ({COACH})")
        op.execute(f"CREATE POLICY coach_sees ON {table} AS RESTRICTIVE FOR SELECT USING ({COACH})")
    # A client is not signed in: knowing the secret of a link, or of its calendar, shows that one row.
    op.execute(
        "CREATE POLICY by_address ON client_link FOR SELECT"
        " USING (NULLIF(current_setting('app.feed_hash', true), '') IN (token_hash, feed_hash))"
    )


def downgrade() -> None:
    for table in reversed(TABLES):
        op.drop_table(table)
