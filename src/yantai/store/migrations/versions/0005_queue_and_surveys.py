"""The queue of long work, and surveys of who can eat what.

New tables only; nothing existing is locked. The queue's tables, types and functions are those that procrastinate
ships: a newer one of its schema comes by a migration of our own that runs its upgrade scripts. It runs in one
transaction and is repeated simply by running it again.
"""

from __future__ import annotations

from typing import Any

import procrastinate
import sqlalchemy as sa
from alembic import op
from procrastinate.schema import SchemaManager
from sqlalchemy.dialects import postgresql

from yantai.store.migrations.parts import keep_apart, owned, within

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None


def upgrade() -> None:
    _create_queue()
    op.create_table(
        "survey",
        sa.Column("asked_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("asked_by", sa.Text(), nullable=False),
        sa.Column("recipes", sa.Integer(), nullable=False),
        sa.Column("cancelled_at", sa.DateTime(timezone=True), nullable=True),
        *owned("survey"),
    )
    op.create_table(
        "survey_part",
        sa.Column("survey_id", sa.Uuid(), nullable=False),
        sa.Column("recipe_id", sa.Uuid(), nullable=False),
        sa.Column("trouble", sa.Text(), server_default="", nullable=False),
        *owned("survey_part"),
        within("survey_part", "survey"),
        sa.UniqueConstraint("survey_id", "recipe_id", name=op.f("uq_survey_part_survey_id_recipe_id")),
    )
    op.create_table(
        "survey_answer",
        sa.Column("survey_id", sa.Uuid(), nullable=False),
        sa.Column("recipe_id", sa.Uuid(), nullable=False),
        sa.Column("client_id", sa.Uuid(), nullable=False),
        sa.Column("recipe", sa.Text(), nullable=False),
        sa.Column("client", sa.Text(), nullable=False),
        sa.Column("slot", sa.Text(), nullable=False),
        sa.Column("day_type", sa.Text(), nullable=False),
        sa.Column("met", sa.Boolean(), nullable=False),
        sa.Column("missed", sa.Double(), nullable=False),
        sa.Column("told", sa.Text(), nullable=False),
        sa.Column("without", postgresql.ARRAY(sa.Text()), nullable=False),
        *owned("survey_answer"),
        within("survey_answer", "survey"),
        within("survey_answer", "recipe"),
        within("survey_answer", "client"),
    )
    op.create_index(op.f("ix_survey_answer_survey_id"), "survey_answer", ["survey_id"])
    for table in ("survey", "survey_part", "survey_answer"):
        keep_apart(table)


def downgrade() -> None:
    for table in ("survey_answer", "survey_part", "survey"):
        op.drop_table(table)
    op.execute("""
        DO $$
        DECLARE each record;
        BEGIN
            FOR each IN SELECT relname FROM pg_class WHERE relkind = 'r' AND relname LIKE 'procrastinate\\_%' LOOP
                EXECUTE format('DROP TABLE %I CASCADE', each.relname);
            END LOOP;
            FOR each IN SELECT oid::regprocedure AS name FROM pg_proc WHERE proname LIKE 'procrastinate\\_%' LOOP
                EXECUTE format('DROP FUNCTION %s CASCADE', each.name);
            END LOOP;
            FOR each IN SELECT typname FROM pg_type WHERE typname LIKE 'procrastinate\\_%' AND typtype IN ('e', 'c')
            LOOP
                EXECUTE format('DROP TYPE %I CASCADE', each.typname);
            END LOOP;
        END $$
    """)


def _create_queue() -> None:
    script = SchemaManager(procrastinate.SyncPsycopgConnector()).get_schema()
    # Past SQLAlchemy: the script holds many statements, and percent signs that are not parameters.
    driver: Any = op.get_bind().connection.driver_connection
    driver.execute(script)
