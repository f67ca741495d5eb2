"""A batch has dishes, a dish has parts, and containers belong to a dish: every batch there is becomes one of one dish.

The dish takes the recipe of its batch, and its parts take how the components of the batch are portioned; in a recipe
the component goes on saying it. Stored plans of open batches are computed anew when they are asked for; of packed ones,
which nothing computes again, the stored view is told in the new words, figure by figure as it was.

Adds two tables and fills them from `batch` and `component`, which are locked for so long. Rewrites one row for each
packed batch.
"""

from __future__ import annotations

import json
import uuid
from typing import Any

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

from yantai.store.migrations.parts import keep_apart, over_all_workspaces, owned, within

revision = "0020"
down_revision = "0019"
branch_labels = None
depends_on = None

GRAMS = sa.Numeric(precision=12, scale=3, asdecimal=False)
SHARE = sa.Numeric(precision=9, scale=6, asdecimal=False)
PLACES = ("in the container", "beside", "at eating")
SCHOOLS = (
    "by component",
    "equal split",
    "one pot",
    "built raw",
    "pieces",
    "plate shares",
    "fixed measure",
    "by eye",
)
OF_PART = ("school", "minimum_g", "maximum_g", "unit_g", "unit_part", "plate_share", "eye_g")
"""How a component is portioned, in its row until now."""


def upgrade() -> None:
    _make_tables()
    _add_columns()
    with (
        over_all_workspaces("batch"),
        over_all_workspaces("recipe"),
        over_all_workspaces("component"),
        over_all_workspaces("container_class"),
        over_all_workspaces("stored_plan"),
        over_all_workspaces("dish"),
        over_all_workspaces("part"),
    ):
        _fill()
        _retell_packed_plans(op.get_bind())
    op.alter_column("container_class", "dish_id", nullable=False)
    op.create_check_constraint(
        op.f("ck_component_portioning"), "component", "(batch_id IS NULL) = (school IS NOT NULL)"
    )
    op.drop_constraint(op.f("fk_batch_workspace_id_recipe_id_recipe"), "batch")
    op.drop_column("batch", "recipe_id")
    op.drop_column("batch", "recipe_version")
    op.drop_column("component", "recipe_share_g")


def _one_of(column: str, words: tuple[str, ...]) -> str:
    return f"{column} IN ({', '.join(repr(word) for word in words)})"


def _make_tables() -> None:
    op.create_table(
        "dish",
        sa.Column("batch_id", sa.Uuid(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("recipe_id", sa.Uuid(), nullable=False),
        sa.Column("recipe_version", sa.Integer(), nullable=False),
        sa.Column("groups", postgresql.JSONB(), server_default="{}", nullable=False),
        sa.Column("removed", sa.Boolean(), server_default=sa.false(), nullable=False),
        *owned("dish"),
        within("dish", "batch"),
        sa.ForeignKeyConstraint(
            ["workspace_id", "recipe_id"],
            ["recipe.workspace_id", "recipe.id"],
            name=op.f("fk_dish_workspace_id_recipe"),
            ondelete="RESTRICT",
        ),
    )
    op.create_index(op.f("ix_dish_batch_id"), "dish", ["batch_id"])
    op.create_table(
        "part",
        sa.Column("dish_id", sa.Uuid(), nullable=False),
        sa.Column("component_id", sa.Uuid(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("share_g", GRAMS, nullable=False),
        sa.Column("school", sa.Text(), nullable=False),
        sa.Column("minimum_g", GRAMS, nullable=False),
        sa.Column("maximum_g", GRAMS, nullable=True),
        sa.Column("unit_g", GRAMS, nullable=True),
        sa.Column("unit_part", SHARE, nullable=False),
        sa.Column("plate_share", GRAMS, nullable=False),
        sa.Column("eye_g", GRAMS, nullable=False),
        sa.Column("place", sa.Text(), nullable=False),
        sa.Column("tub_ml", GRAMS, nullable=True),
        sa.Column("takes_g", GRAMS, nullable=True),
        sa.Column("group_name", sa.Text(), nullable=True),
        sa.Column("removed", sa.Boolean(), server_default=sa.false(), nullable=False),
        *owned("part"),
        within("part", "dish"),
        within("part", "component"),
        sa.UniqueConstraint("dish_id", "component_id", name=op.f("uq_part_dish_id_component_id")),
        sa.CheckConstraint("minimum_g <= maximum_g", name=op.f("ck_part_bounds")),
        sa.CheckConstraint(_one_of("school", SCHOOLS), name=op.f("ck_part_school")),
        sa.CheckConstraint(_one_of("place", PLACES), name=op.f("ck_part_place")),
    )
    op.create_index(op.f("ix_part_component_id"), "part", ["component_id"])
    keep_apart("dish")
    keep_apart("part")


def _add_columns() -> None:
    op.add_column("recipe", sa.Column("serves", sa.Integer(), nullable=True))
    op.add_column("recipe", sa.Column("groups", postgresql.JSONB(), server_default="{}", nullable=False))
    op.add_column("batch", sa.Column("put_away_at", sa.DateTime(timezone=True), nullable=True))
    op.add_column("batch", sa.Column("deleted_at", sa.DateTime(timezone=True), nullable=True))
    op.add_column("container_class", sa.Column("dish_id", sa.Uuid(), nullable=True))
    op.add_column("container_class", sa.Column("helping", SHARE, server_default="1", nullable=False))
    op.add_column(
        "container_class", sa.Column("chosen", postgresql.ARRAY(sa.Text()), server_default="{}", nullable=False)
    )
    op.add_column("container_class", sa.Column("removed", sa.Boolean(), server_default=sa.false(), nullable=False))
    op.create_index(op.f("ix_container_class_dish_id"), "container_class", ["dish_id"])
    op.create_foreign_key(
        op.f("fk_container_class_workspace_id_dish"),
        "container_class",
        "dish",
        ["workspace_id", "dish_id"],
        ["workspace_id", "id"],
        ondelete="CASCADE",
    )
    for name in ("packed_raw", "whole_pans", "aside"):
        op.add_column("component", sa.Column(name, sa.Boolean(), server_default=sa.false(), nullable=False))
    op.add_column("component", sa.Column("kit_text", sa.Text(), server_default="", nullable=False))
    op.add_column("component", sa.Column("place", sa.Text(), nullable=True))
    op.add_column("component", sa.Column("tub_ml", GRAMS, nullable=True))
    op.add_column("component", sa.Column("takes_g", GRAMS, nullable=True))
    op.add_column("component", sa.Column("group_name", sa.Text(), nullable=True))
    op.create_check_constraint(op.f("ck_component_place"), "component", _one_of("place", PLACES))
    for name in ("school", "minimum_g", "unit_part", "plate_share", "eye_g"):
        op.alter_column("component", name, nullable=True, server_default=None)


def _fill() -> None:
    op.execute(
        "INSERT INTO dish (id, workspace_id, batch_id, position, name, recipe_id, recipe_version) "
        "SELECT gen_random_uuid(), batch.workspace_id, batch.id, 0, recipe.name, batch.recipe_id, batch.recipe_version "
        "FROM batch JOIN recipe ON recipe.id = batch.recipe_id"
    )
    op.execute(
        "INSERT INTO part (id, workspace_id, dish_id, component_id, position, share_g, place, "
        "school, minimum_g, maximum_g, unit_g, unit_part, plate_share, eye_g) "
        "SELECT gen_random_uuid(), component.workspace_id, dish.id, component.id, component.position, "
        "coalesce(component.recipe_share_g, 1), 'in the container', "
        "school, minimum_g, maximum_g, unit_g, unit_part, plate_share, eye_g "
        "FROM component JOIN dish ON dish.batch_id = component.batch_id"
    )
    op.execute("UPDATE container_class SET dish_id = dish.id FROM dish WHERE dish.batch_id = container_class.batch_id")
    op.execute("UPDATE component SET place = 'in the container' WHERE batch_id IS NULL")
    op.execute(
        "UPDATE component SET school = NULL, minimum_g = NULL, maximum_g = NULL, unit_g = NULL, unit_part = NULL, "
        "plate_share = NULL, eye_g = NULL WHERE batch_id IS NOT NULL"
    )


def _retell_packed_plans(connection: sa.Connection) -> None:
    op.execute(
        "DELETE FROM stored_plan USING batch WHERE batch.id = stored_plan.batch_id "
        "AND (batch.packed_at IS NULL OR batch.version <> stored_plan.version)"
    )
    rows = connection.execute(
        sa.text(
            "SELECT stored_plan.id, stored_plan.view, dish.id, dish.name FROM stored_plan "
            "JOIN dish ON dish.batch_id = stored_plan.batch_id"
        )
    ).all()
    for key, view, dish_id, dish_name in rows:
        told = json.dumps(_with_dish(json.loads(view), dish_id, dish_name))
        connection.execute(
            sa.text("UPDATE stored_plan SET view = :view, brief = NULL WHERE id = :key"), {"view": told, "key": key}
        )


def _with_dish(view: dict[str, Any], dish_id: uuid.UUID, name: str) -> dict[str, Any]:
    """A view of a batch of one recipe in the words of a batch of one dish."""
    head, components = dict(view["batch"]), [dict(component) for component in view["components"]]
    parts = []
    for component in components:
        part = {field: component.pop(field) for field in OF_PART}
        parts.append(
            {
                **part,
                "component_id": component["id"],
                "place": "in the container",
                "tub_ml": None,
                "takes_g": None,
                "group": None,
                "share_g": component["needed_g"],
                "usual_most_g": component.pop("usual_most_g"),
                "needed_g": component["needed_g"],
                "unit_is_g": component["piece_g"]
                if part["school"] in ("pieces", "fixed measure", "built raw")
                else None,
            }
        )
        component |= {"fresh_g": 0.0, "packed_raw": False, "kit_text": "", "whole_pans": False, "to_weigh": True}
    dish = {
        "id": str(dish_id),
        "name": name,
        "recipe_id": head.pop("recipe_id"),
        "recipe": head.pop("recipe"),
        "recipe_changed": head.pop("recipe_changed"),
        "groups": [],
        "parts": parts,
        "extra": view.pop("extra"),
    }
    stops = {"stop_low_g": None, "stop_high_g": None}
    rows = [
        {
            **row,
            "dish_id": str(dish_id),
            "helping": 1.0,
            "chosen": [],
            "cells": [{**cell, **stops} for cell in row["cells"]],
        }
        for row in view["rows"]
    ]
    head |= {"put_away_at": None, "deleted_at": None}
    return {
        **view,
        "batch": head,
        "dishes": [dish],
        "components": components,
        "rows": rows,
        "aside": [],
        "shareable": [],
    }


def downgrade() -> None:
    op.add_column("batch", sa.Column("recipe_id", sa.Uuid(), nullable=True))
    op.add_column("batch", sa.Column("recipe_version", sa.Integer(), nullable=True))
    op.add_column("component", sa.Column("recipe_share_g", GRAMS, nullable=True))
    op.drop_constraint(op.f("ck_component_portioning"), "component")
    op.drop_constraint(op.f("ck_component_place"), "component")
    with (
        over_all_workspaces("batch"),
        over_all_workspaces("component"),
        over_all_workspaces("stored_plan"),
        over_all_workspaces("dish"),
        over_all_workspaces("part"),
    ):
        op.execute(
            "UPDATE batch SET recipe_id = dish.recipe_id, recipe_version = dish.recipe_version FROM dish "
            "WHERE dish.batch_id = batch.id AND dish.position = 0"
        )
        op.execute(
            "UPDATE component SET recipe_share_g = part.share_g, school = part.school, minimum_g = part.minimum_g, "
            "maximum_g = part.maximum_g, unit_g = part.unit_g, unit_part = part.unit_part, "
            "plate_share = part.plate_share, eye_g = part.eye_g FROM part WHERE part.component_id = component.id"
        )
        op.execute("DELETE FROM stored_plan")
    op.alter_column("batch", "recipe_id", nullable=False)
    op.alter_column("batch", "recipe_version", nullable=False)
    op.create_foreign_key(
        op.f("fk_batch_workspace_id_recipe_id_recipe"),
        "batch",
        "recipe",
        ["workspace_id", "recipe_id"],
        ["workspace_id", "id"],
        ondelete="RESTRICT",
    )
    for name, default in (
        ("school", "by component"), ("minimum_g", None), ("unit_part", "1"), ("plate_share", "1"), ("eye_g", "0"),
    ):  # fmt: skip
        op.alter_column("component", name, nullable=False, server_default=default)
    for name in ("packed_raw", "whole_pans", "aside", "kit_text", "place", "tub_ml", "takes_g", "group_name"):
        op.drop_column("component", name)
    for name in ("dish_id", "helping", "chosen", "removed"):
        op.drop_column("container_class", name)
    for name in ("put_away_at", "deleted_at"):
        op.drop_column("batch", name)
    for name in ("serves", "groups"):
        op.drop_column("recipe", name)
    op.drop_table("part")
    op.drop_table("dish")
