"""What columns of text may hold.

Each table is read once while the check is added, and locked for so long; a row that holds something else stops the
migration with its name, and nothing is changed.
"""

from __future__ import annotations

from alembic import op

revision = "0010"
down_revision = "0009"
branch_labels = None
depends_on = None

_RULES = ("general", "net", "eu", "label")
_CARBOHYDRATE = ("total", "available")
SETS: dict[str, dict[str, tuple[str, ...]]] = {
    "workspace": {
        "spoons": ("us", "metric", "australian", "imperial"),
        "energy_rule": _RULES,
        "carbohydrate": _CARBOHYDRATE,
    },
    "account": {"mass_unit": ("g", "oz"), "temperature_unit": ("C", "F"), "energy_unit": ("kcal", "kJ")},
    "food": {
        "state": ("raw", "dry", "cooked", "canned-drained", "as-sold", "frozen"),
        "carbohydrate": _CARBOHYDRATE,
    },
    "batch": {
        "sharing": ("fair", "ranked"),
        "leftover": ("keep", "spread", "extra containers"),
        "energy_rule": _RULES,
        "carbohydrate": _CARBOHYDRATE,
    },
    "component": {
        "role": ("protein", "grain", "vegetable", "sauce", "topping", "mixed"),
        "school": (
            "by component",
            "equal split",
            "one pot",
            "built raw",
            "pieces",
            "plate shares",
            "fixed measure",
            "by eye",
        ),
    },
}


def upgrade() -> None:
    for table, columns in SETS.items():
        for column, words in columns.items():
            known = ", ".join(f"'{word}'" for word in words)
            op.create_check_constraint(op.f(f"ck_{table}_{column}"), table, f"{column} IN ({known})")


def downgrade() -> None:
    for table, columns in SETS.items():
        for column in columns:
            op.drop_constraint(op.f(f"ck_{table}_{column}"), table)
