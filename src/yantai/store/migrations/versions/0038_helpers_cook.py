"""A helper's device may be given the right to cook, weigh and fill; who of them weighed is told.

Locks the tables named here for a moment each, and reads `login_session` and `pairing` once.
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0038"
down_revision = "0037"
branch_labels = None
depends_on = None

RIGHTS = "coalesce(current_setting('app.rights', true), '')"
COACH = f"{RIGHTS} = ''"
COOK = f"({COACH} OR 'cook' = ANY (string_to_array({RIGHTS}, ' ')))"
"""A coach, or a helper who may cook, weigh and fill."""
COOKED = ("weighing", "cook_fact", "cook_order", "step_time")
"""What cooking and weighing write."""
RIGHTED = ("login_session", "pairing")


def upgrade() -> None:
    op.add_column("weighing", sa.Column("weighed_by", sa.Text(), server_default="", nullable=False))
    for table in COOKED:
        _write(table, "coach", None)
        _write(table, "cook", COOK)
    for table in RIGHTED:
        op.create_check_constraint(op.f(f"ck_{table}_rights"), table, "rights <@ ARRAY['shop', 'cook']")


def downgrade() -> None:
    op.drop_column("weighing", "weighed_by")
    for table in RIGHTED:
        op.drop_constraint(op.f(f"ck_{table}_rights"), table)
    for table in COOKED:
        _write(table, "cook", None)
        _write(table, "coach", COACH)


def _write(table: str, who: str, rule: str | None) -> None:
    """The policies of who may write a table, or none of them any more."""
    for name, rest in (
        ("adds", "FOR INSERT WITH CHECK"), ("changes", "FOR UPDATE USING"), ("removes", "FOR DELETE USING")
    ):  # fmt: skip
        if rule is None:
            op.execute(f"DROP POLICY {who}_{name} ON {table}")
        else:
            op.execute(f"CREATE POLICY {who}_{name} ON {table} AS RESTRICTIVE {rest} ({rule})")
