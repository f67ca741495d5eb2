"""Schools, shares and limits: how each component is portioned, who goes first, what a container may hold at most.

New columns have defaults, so old rows need no rewriting; each table is locked for the moment that takes. It
runs in one transaction and is repeated simply by running it again.
"""

from __future__ import annotations

from typing import Any

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None

GRAMS = sa.Numeric(precision=12, scale=3, asdecimal=False)
SHARE = sa.Numeric(precision=9, scale=6, asdecimal=False)

NEW: dict[str, list[tuple[str, Any, str | None]]] = {
    "component": [
        ("school", sa.Text(), "by component"),
        ("unit_g", GRAMS, None),
        ("unit_part", SHARE, "1"),
        ("plate_share", GRAMS, "1"),
        ("eye_g", GRAMS, "0"),
    ],
    "batch": [("sharing", sa.Text(), "fair"), ("leftover", sa.Text(), "keep")],
    "client": [
        ("priority_kcal", GRAMS, "2"),
        ("priority_protein_g", GRAMS, "2"),
        ("priority_carbohydrate_g", GRAMS, "1"),
        ("priority_fat_g", GRAMS, "1"),
        ("signed_off_by", sa.Text(), ""),
        ("signed_off_on", sa.Date(), None),
    ],
    "target": [(name, GRAMS, None) for name in ("fibre_g", "saturated_g", "sodium_mg", "capacity_g", "plate_g")],
    "container_class": [
        *((name, GRAMS, None) for name in ("fibre_g", "saturated_g", "sodium_mg", "capacity_g", "plate_g")),
        ("rank", sa.Integer(), "0"),
    ],
}


def upgrade() -> None:
    for table, columns in NEW.items():
        for name, kind, default in columns:
            op.add_column(table, sa.Column(name, kind, server_default=default, nullable=default is None))


def downgrade() -> None:
    for table, columns in NEW.items():
        for name, _, _ in columns:
            op.drop_column(table, name)
