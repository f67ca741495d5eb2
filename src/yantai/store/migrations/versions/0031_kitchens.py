"""Kitchens and cook days; steps belong to components by id, in batches too, and say more of how they are done.

Steps of a recipe find their component by its name. Batches get copies of their recipes' steps: each for the component
that was copied from the step's own, and those of no such component for the last of the dish.
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import ARRAY, JSONB

from yantai.store.migrations.parts import keep_apart, over_all_workspaces, owned, within

revision = "0031"
down_revision = "0030"
branch_labels = None
depends_on = None

COACH = "coalesce(current_setting('app.rights', true), '') = ''"
TABLES = ("kitchen", "kitchen_item", "kitchen_person", "cook_day", "presence", "cook_order")
KINDS = (
    "'oven', 'grill', 'hob', 'pan', 'pot', 'steamer', 'tray', 'tin', 'rack', 'rice-cooker', 'air-fryer', "
    "'slow-cooker', 'pressure-cooker', 'microwave', 'kettle', 'blender', 'processor', 'scale', 'thermometer', "
    "'fridge', 'freezer', 'board', 'board-raw'"
)
COPIED = "position, text, hands_on_min, unattended_min, temperature_c, equipment, lead_min, done_when"
"""What a step had before."""


def grams() -> sa.Numeric[float]:
    return sa.Numeric(precision=12, scale=3, asdecimal=False)


def upgrade() -> None:
    op.create_table(
        "kitchen",
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("put_away_at", sa.DateTime(timezone=True), nullable=True),
        *owned("kitchen"),
    )
    op.create_table(
        "kitchen_item",
        sa.Column("kitchen_id", sa.Uuid(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("count", sa.Integer(), nullable=False),
        sa.Column("places", sa.Integer(), nullable=False),
        *(
            sa.Column(name, grams(), nullable=True)
            for name in ("capacity_l", "meat_g", "vegetables_g", "grain_g", "most_c")
        ),
        sa.Column("within_id", sa.Uuid(), nullable=True),
        *owned("kitchen_item"),
        within("kitchen_item", "kitchen"),
        sa.CheckConstraint(f"kind IN ({KINDS})", name=op.f("ck_kitchen_item_kind")),
        sa.CheckConstraint("count >= 0 AND places >= 1", name=op.f("ck_kitchen_item_count")),
    )
    op.create_index(op.f("ix_kitchen_item_kitchen_id"), "kitchen_item", ["kitchen_id"])
    op.create_table(
        "kitchen_person",
        sa.Column("kitchen_id", sa.Uuid(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("does", ARRAY(sa.Text()), nullable=False),
        sa.Column("pace", sa.Numeric(precision=9, scale=6, asdecimal=False), nullable=False),
        *owned("kitchen_person"),
        within("kitchen_person", "kitchen"),
        sa.CheckConstraint("does <@ ARRAY['knife', 'raw', 'heat', 'other']", name=op.f("ck_kitchen_person_does")),
        sa.CheckConstraint("pace > 0", name=op.f("ck_kitchen_person_pace")),
    )
    op.create_index(op.f("ix_kitchen_person_kitchen_id"), "kitchen_person", ["kitchen_id"])
    op.create_table(
        "cook_day",
        sa.Column("batch_id", sa.Uuid(), nullable=False),
        sa.Column("kitchen_id", sa.Uuid(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("start_min", sa.Integer(), nullable=False),
        sa.Column("ready_by_min", sa.Integer(), nullable=True),
        sa.Column("share_oven", sa.Boolean(), nullable=False),
        *owned("cook_day"),
        within("cook_day", "batch"),
        sa.ForeignKeyConstraint(
            ["workspace_id", "kitchen_id"],
            ["kitchen.workspace_id", "kitchen.id"],
            name=op.f("fk_cook_day_workspace_id_kitchen_id_kitchen"),
            ondelete="RESTRICT",
        ),
        sa.UniqueConstraint("batch_id", name=op.f("uq_cook_day_batch_id")),
    )
    op.create_index(op.f("ix_cook_day_kitchen_id"), "cook_day", ["kitchen_id"])
    op.create_table(
        "presence",
        sa.Column("cook_day_id", sa.Uuid(), nullable=False),
        sa.Column("person_id", sa.Uuid(), nullable=False),
        sa.Column("start_min", sa.Integer(), nullable=False),
        sa.Column("end_min", sa.Integer(), nullable=False),
        *owned("presence"),
        within("presence", "cook_day"),
        sa.ForeignKeyConstraint(
            ["workspace_id", "person_id"],
            ["kitchen_person.workspace_id", "kitchen_person.id"],
            name=op.f("fk_presence_workspace_id_person_id_kitchen_person"),
            ondelete="CASCADE",
        ),
        sa.CheckConstraint("start_min < end_min", name=op.f("ck_presence_span")),
    )
    op.create_index(op.f("ix_presence_cook_day_id"), "presence", ["cook_day_id"])
    op.create_index(op.f("ix_presence_person_id"), "presence", ["person_id"])
    op.create_table(
        "cook_order",
        sa.Column("batch_id", sa.Uuid(), nullable=False),
        sa.Column("digest", sa.Text(), nullable=False),
        sa.Column("found", JSONB(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        *owned("cook_order"),
        within("cook_order", "batch"),
        sa.UniqueConstraint("batch_id", name=op.f("uq_cook_order_batch_id")),
    )
    for table in TABLES:
        keep_apart(table)
        op.execute(f"CREATE POLICY coach_adds ON {table} AS RESTRICTIVE FOR INSERT WITH CHECK ({COACH})")
        op.execute(f"CREATE POLICY coach_changes ON {table} AS RESTRICTIVE FOR UPDATE USING ({COACH})")
        op.execute(f"CREATE POLICY coach_removes ON {table} AS RESTRICTIVE FOR DELETE USING ({COACH})")
    _give_steps_to_components()


def _give_steps_to_components() -> None:
    op.add_column("step", sa.Column("component_id", sa.Uuid(), nullable=True))
    for name in ("every_min", "load_g", "lead_most_min", "core_c"):
        op.add_column("step", sa.Column(name, grams(), nullable=True))
    op.add_column("step", sa.Column("growth", sa.Text(), nullable=True))
    op.add_column("step", sa.Column("done_when", sa.Text(), server_default="", nullable=False))
    op.add_column("step", sa.Column("after", ARRAY(sa.Text()), nullable=True))
    op.alter_column("step", "recipe_id", nullable=True)
    with (
        over_all_workspaces("step"),
        over_all_workspaces("component"),
        over_all_workspaces("dish"),
        over_all_workspaces("part"),
    ):
        op.execute(
            "UPDATE step SET component_id = c.id FROM component c"
            " WHERE c.recipe_id = step.recipe_id AND c.name = step.component AND step.component <> ''"
        )
        op.execute(
            f"""
            INSERT INTO step (id, workspace_id, component_id, {COPIED})
            SELECT gen_random_uuid(), s.workspace_id, owner.id, {", ".join(f"s.{name}" for name in COPIED.split(", "))}
            FROM dish d
            JOIN step s ON s.recipe_id = d.recipe_id
            JOIN LATERAL (
                SELECT c.id FROM part p JOIN component c ON c.id = p.component_id
                WHERE p.dish_id = d.id
                ORDER BY (c.recipe_component_id IS NOT DISTINCT FROM s.component_id) DESC, p.position DESC
                LIMIT 1
            ) owner ON true
            WHERE NOT EXISTS (
                SELECT FROM dish e JOIN part q ON q.dish_id = e.id
                WHERE e.batch_id = d.batch_id AND e.recipe_id = d.recipe_id AND e.position < d.position
                AND q.component_id = owner.id
            )
            """  # noqa: S608 -- the columns are those named above
        )
    op.create_index(op.f("ix_step_component_id"), "step", ["component_id"])
    op.create_foreign_key(
        op.f("fk_step_workspace_id_component_id_component"),
        "step",
        "component",
        ["workspace_id", "component_id"],
        ["workspace_id", "id"],
        ondelete="CASCADE",
    )
    op.create_check_constraint(op.f("ck_step_of"), "step", "recipe_id IS NOT NULL OR component_id IS NOT NULL")
    op.create_check_constraint(op.f("ck_step_lead"), "step", "lead_min <= lead_most_min")
    op.create_check_constraint(op.f("ck_step_growth"), "step", "growth IN ('amount', 'fixed', 'per-load', 'mild')")
    op.drop_column("step", "component")


def downgrade() -> None:
    op.add_column("step", sa.Column("component", sa.Text(), server_default="", nullable=False))
    with over_all_workspaces("step"), over_all_workspaces("component"):
        op.execute("UPDATE step SET component = c.name FROM component c WHERE c.id = step.component_id")
        op.execute("DELETE FROM step WHERE recipe_id IS NULL")
    op.alter_column("step", "component", server_default=None)
    for name in ("of", "lead", "growth"):
        op.drop_constraint(op.f(f"ck_step_{name}"), "step")
    op.drop_constraint(op.f("fk_step_workspace_id_component_id_component"), "step")
    op.drop_index(op.f("ix_step_component_id"), table_name="step")
    for name in ("after", "done_when", "growth", "core_c", "lead_most_min", "load_g", "every_min", "component_id"):
        op.drop_column("step", name)
    op.alter_column("step", "recipe_id", nullable=False)
    for table in ("cook_order", "presence", "cook_day", "kitchen_person", "kitchen_item", "kitchen"):
        op.drop_table(table)
