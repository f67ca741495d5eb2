"""Helpers: phones that are paired by a code and may do what they were given the right to, in the database too."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import ARRAY

from yantai.store.migrations.parts import keep_apart, owned, within

revision = "0028"
down_revision = "0027"
branch_labels = None
depends_on = None

COACH = "coalesce(current_setting('app.rights', true), '') = ''"
"""Nobody but somebody with all rights is at work in this transaction."""
COACHES_ALONE = (
    "account", "at_hand", "client", "container_class", "day", "day_extra", "dish", "edible_portion", "food",
    "food_word", "login_session", "measure", "pairing", "pin", "raw_cooked_pair", "recipe", "staple", "step", "survey",
    "survey_answer", "survey_part", "target", "target_record", "trip_batch", "vessel", "weighing", "workspace",
    "yield_factor",
)  # fmt: skip
"""Tables in which a helper writes nothing."""
UNSEEN = ("login_session", "pairing", "survey", "survey_answer", "survey_part", "target_record")
"""Tables of which a helper sees nothing."""


def upgrade() -> None:
    op.add_column("login_session", sa.Column("helper", sa.Text(), nullable=True))
    op.add_column("login_session", sa.Column("rights", ARRAY(sa.Text()), nullable=True))
    op.add_column("login_session", sa.Column("device", sa.Text(), server_default="", nullable=False))
    op.add_column(
        "login_session",
        sa.Column("made_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
    )
    op.add_column("login_session", sa.Column("seen_at", sa.DateTime(timezone=True), nullable=True))
    op.create_check_constraint(op.f("ck_login_session_helper"), "login_session", "(helper IS NULL) = (rights IS NULL)")
    op.create_table(
        "pairing",
        sa.Column("account_id", sa.Uuid(), nullable=False),
        sa.Column("code_hash", sa.Text(), nullable=False),
        sa.Column("helper", sa.Text(), nullable=False),
        sa.Column("rights", ARRAY(sa.Text()), nullable=False),
        sa.Column("expires_at", sa.DateTime(timezone=True), nullable=False),
        *owned("pairing"),
        within("pairing", "account"),
        sa.UniqueConstraint("code_hash", name=op.f("uq_pairing_code_hash")),
    )
    keep_apart("pairing")
    # Before it is taken the workspace is unknown: knowing the code shows that one row.
    op.execute(
        "CREATE POLICY by_code ON pairing FOR SELECT"
        " USING (code_hash = NULLIF(current_setting('app.pairing_hash', true), ''))"
    )
    for table in COACHES_ALONE:
        op.execute(f"CREATE POLICY coach_adds ON {table} AS RESTRICTIVE FOR INSERT WITH CHECK ({COACH})")
        op.execute(f"CREATE POLICY coach_changes ON {table} AS RESTRICTIVE FOR UPDATE USING ({COACH})")
        op.execute(f"CREATE POLICY coach_removes ON {table} AS RESTRICTIVE FOR DELETE USING ({COACH})")
    for table in UNSEEN:
        op.execute(f"CREATE POLICY coach_sees ON {table} AS RESTRICTIVE FOR SELECT USING ({COACH})")


def downgrade() -> None:
    for table in UNSEEN:
        op.execute(f"DROP POLICY coach_sees ON {table}")
    for table in COACHES_ALONE:
        for policy in ("coach_adds", "coach_changes", "coach_removes"):
            op.execute(f"DROP POLICY {policy} ON {table}")
    op.drop_table("pairing")
    op.drop_constraint(op.f("ck_login_session_helper"), "login_session")
    for column in ("seen_at", "made_at", "device", "rights", "helper"):
        op.drop_column("login_session", column)
