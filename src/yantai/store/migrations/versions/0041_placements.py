"""How long containers keep, where they wait and when they are eaten; a client's week and fridge.

Makes three tables, and adds columns to `client` and `workspace` with defaults: both are locked for a moment.
"""

from __future__ import annotations

from typing import Any

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

from yantai.store.migrations.parts import keep_apart, owned, within

revision = "0041"
down_revision = "0040"
branch_labels = None
depends_on = None

COACH = "coalesce(current_setting('app.rights', true), '') = ''"
TABLES = ("shelf_choice", "eating_start", "placement")


def number() -> sa.Column[int]:
    return sa.Column("number", sa.BigInteger(), sa.Identity(always=True), nullable=False)


def made() -> tuple[sa.Column[Any], sa.Column[Any]]:
    return (
        sa.Column("made_by", sa.Text(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
    )


def upgrade() -> None:
    op.add_column("client", sa.Column("week", JSONB(), server_default="[]", nullable=False))
    op.add_column("client", sa.Column("fridge_l", sa.Numeric(12, 3), nullable=True))
    op.create_check_constraint(op.f("ck_client_fridge_l"), "client", "fridge_l > 0")
    op.add_column("workspace", sa.Column("shelf_rule", sa.Text(), server_default="cautious", nullable=False))
    op.create_check_constraint(op.f("ck_workspace_shelf_rule"), "workspace", "shelf_rule IN ('cautious', 'usual')")
    op.create_table(
        "shelf_choice",
        number(),
        sa.Column("component_id", sa.Uuid(), nullable=False),
        sa.Column("recipe_component_id", sa.Uuid(), nullable=True),
        sa.Column("category", sa.Text(), nullable=True),
        *made(),
        *owned("shelf_choice"),
        within("shelf_choice", "component"),
        sa.UniqueConstraint("number", name=op.f("uq_shelf_choice_number")),
    )
    op.create_table(
        "eating_start",
        sa.Column("batch_id", sa.Uuid(), nullable=False),
        sa.Column("client_id", sa.Uuid(), nullable=False),
        sa.Column("first_on", sa.Date(), nullable=False),
        *owned("eating_start"),
        within("eating_start", "batch"),
        within("eating_start", "client"),
        sa.UniqueConstraint("batch_id", "client_id", name=op.f("uq_eating_start_batch_id_client_id")),
    )
    op.create_table(
        "placement",
        number(),
        sa.Column("batch_id", sa.Uuid(), nullable=False),
        sa.Column("container_class_id", sa.Uuid(), nullable=False),
        sa.Column("container", sa.Integer(), nullable=False),
        sa.Column("eaten_on", sa.Date(), nullable=True),
        sa.Column("store", sa.Text(), nullable=True),
        sa.Column("use_by", sa.Date(), nullable=True),
        sa.Column("by_hand", sa.Boolean(), nullable=False),
        *made(),
        *owned("placement"),
        within("placement", "batch"),
        within("placement", "container_class"),
        sa.UniqueConstraint("number", name=op.f("uq_placement_number")),
        sa.CheckConstraint("store IN ('fridge', 'freezer')", name=op.f("ck_placement_store")),
        sa.CheckConstraint("container >= 1", name=op.f("ck_placement_container")),
        sa.CheckConstraint("(eaten_on IS NULL) = (store IS NULL)", name=op.f("ck_placement_place")),
    )
    for table, column in (
        ("shelf_choice", "component_id"),
        ("shelf_choice", "recipe_component_id"),
        ("eating_start", "client_id"),
        ("placement", "batch_id"),
        ("placement", "container_class_id"),
    ):
        op.create_index(op.f(f"ix_{table}_{column}"), table, [column])
    for table in TABLES:
        keep_apart(table)
        op.execute(f"CREATE POLICY coach_adds ON {table} AS RESTRICTIVE FOR INSERT WITH CHECK ({COACH})")
        op.execute(f"CREATE POLICY coach_changes ON {table} AS RESTRICTIVE FOR UPDATE USING ({COACH})")
        op.execute(f"CREATE POLICY coach_removes ON {table} AS RESTRICTIVE FOR DELETE USING ({COACH})")


def downgrade() -> None:
    for table in reversed(TABLES):
        op.drop_table(table)
    op.drop_constraint(op.f("ck_workspace_shelf_rule"), "workspace")
    op.drop_column("workspace", "shelf_rule")
    op.drop_constraint(op.f("ck_client_fridge_l"), "client")
    op.drop_column("client", "fridge_l")
    op.drop_column("client", "week")
