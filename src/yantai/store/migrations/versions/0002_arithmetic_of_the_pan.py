"""The arithmetic of the pan: labels and versions of foods, packs, vessels, steps, depth of lines and components.

New columns have defaults, so old rows need no rewriting; each table is locked for the moment that takes. It
runs in one transaction and is repeated simply by running it again.
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None

OWNED = ("vessel", "food_word", "pack", "step")
SHARED = ("food", "measure", "yield_factor", "raw_cooked_pair", "edible_portion")
LOADING = "current_setting('app.loading_reference', true) = 'on'"
HERE = "NULLIF(current_setting('app.workspace_id', true), '')::uuid"


def upgrade() -> None:
    op.create_table(
        "vessel",
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("empty_g", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=False),
        sa.Column("capacity_g", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=True),
        sa.Column("workspace_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.CheckConstraint("empty_g > 0", name=op.f("ck_vessel_weight")),
        sa.ForeignKeyConstraint(
            ["workspace_id"], ["workspace.id"], name=op.f("fk_vessel_workspace_id_workspace"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_vessel")),
        sa.UniqueConstraint("workspace_id", "id", name=op.f("uq_vessel_workspace_id_id")),
    )
    op.create_table(
        "food_word",
        sa.Column("words", sa.Text(), nullable=False),
        sa.Column("food_id", sa.Uuid(), nullable=False),
        sa.Column("workspace_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.ForeignKeyConstraint(["food_id"], ["food.id"], name=op.f("fk_food_word_food_id_food"), ondelete="CASCADE"),
        sa.ForeignKeyConstraint(
            ["workspace_id"], ["workspace.id"], name=op.f("fk_food_word_workspace_id_workspace"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_food_word")),
        sa.UniqueConstraint("workspace_id", "id", name=op.f("uq_food_word_workspace_id_id")),
        sa.UniqueConstraint("workspace_id", "words", name=op.f("uq_food_word_workspace_id_words")),
    )
    op.create_table(
        "pack",
        sa.Column("food_id", sa.Uuid(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("grams", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=False),
        sa.Column("drained_g", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=True),
        sa.Column("price", sa.Numeric(precision=10, scale=2, asdecimal=False), nullable=True),
        sa.Column("workspace_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.CheckConstraint("drained_g <= grams", name=op.f("ck_pack_drained")),
        sa.CheckConstraint("grams > 0", name=op.f("ck_pack_weight")),
        sa.ForeignKeyConstraint(["food_id"], ["food.id"], name=op.f("fk_pack_food_id_food"), ondelete="CASCADE"),
        sa.ForeignKeyConstraint(
            ["workspace_id"], ["workspace.id"], name=op.f("fk_pack_workspace_id_workspace"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_pack")),
        sa.UniqueConstraint("workspace_id", "id", name=op.f("uq_pack_workspace_id_id")),
    )
    op.create_index(op.f("ix_pack_food_id"), "pack", ["food_id"], unique=False)
    op.create_table(
        "step",
        sa.Column("recipe_id", sa.Uuid(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("component", sa.Text(), nullable=False),
        sa.Column("text", sa.Text(), nullable=False),
        sa.Column("hands_on_min", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=True),
        sa.Column("unattended_min", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=True),
        sa.Column("temperature_c", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=True),
        sa.Column("equipment", sa.Text(), nullable=False),
        sa.Column("lead_min", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=True),
        sa.Column("workspace_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.ForeignKeyConstraint(
            ["workspace_id", "recipe_id"],
            ["recipe.workspace_id", "recipe.id"],
            name=op.f("fk_step_workspace_id_recipe_id_recipe"),
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(
            ["workspace_id"], ["workspace.id"], name=op.f("fk_step_workspace_id_workspace"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_step")),
        sa.UniqueConstraint("workspace_id", "id", name=op.f("uq_step_workspace_id_id")),
    )
    op.create_index(op.f("ix_step_recipe_id"), "step", ["recipe_id"], unique=False)
    op.add_column("account", sa.Column("mass_unit", sa.Text(), server_default="g", nullable=False))
    op.add_column("account", sa.Column("temperature_unit", sa.Text(), server_default="C", nullable=False))
    op.add_column("account", sa.Column("energy_unit", sa.Text(), server_default="kcal", nullable=False))
    op.add_column("batch", sa.Column("energy_rule", sa.Text(), nullable=True))
    op.add_column("batch", sa.Column("carbohydrate", sa.Text(), nullable=True))
    op.add_column(
        "component",
        sa.Column(
            "poured_fat_g", sa.Numeric(precision=12, scale=3, asdecimal=False), server_default="0", nullable=False
        ),
    )
    op.add_column("component", sa.Column("pieces", sa.Integer(), nullable=True))
    op.add_column(
        "component", sa.Column("pan_capacity_g", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=True)
    )
    op.add_column("component", sa.Column("served", sa.Boolean(), server_default="true", nullable=False))
    op.add_column(
        "component",
        sa.Column("dismissed", postgresql.JSONB(astext_type=sa.Text()), server_default="{}", nullable=False),
    )
    op.add_column("component", sa.Column("recipe_component_id", sa.Uuid(), nullable=True))
    op.create_index(op.f("ix_component_recipe_component_id"), "component", ["recipe_component_id"], unique=False)
    op.add_column("container_class", sa.Column("packed_g", postgresql.JSONB(astext_type=sa.Text()), nullable=True))
    op.add_column("food", sa.Column("polyols_g", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=True))
    op.add_column("food", sa.Column("carbohydrate", sa.Text(), server_default="total", nullable=False))
    op.add_column(
        "food", sa.Column("slack", postgresql.JSONB(astext_type=sa.Text()), server_default="{}", nullable=False)
    )
    op.add_column("food", sa.Column("label", postgresql.JSONB(astext_type=sa.Text()), nullable=True))
    op.add_column("food", sa.Column("version", sa.Integer(), server_default="1", nullable=False))
    op.add_column("food", sa.Column("superseded_by", sa.Uuid(), nullable=True))
    op.add_column("food", sa.Column("copied_from", sa.Uuid(), nullable=True))
    op.add_column("food", sa.Column("archived_at", sa.DateTime(timezone=True), nullable=True))
    op.create_index(op.f("ix_food_superseded_by"), "food", ["superseded_by"], unique=False)
    op.create_foreign_key(
        op.f("fk_food_superseded_by_food"), "food", "food", ["superseded_by"], ["id"], ondelete="CASCADE"
    )
    op.create_foreign_key(
        op.f("fk_food_copied_from_food"), "food", "food", ["copied_from"], ["id"], ondelete="SET NULL"
    )
    op.add_column("line", sa.Column("source_id", sa.Uuid(), nullable=True))
    op.add_column("line", sa.Column("refuse_after", sa.Boolean(), server_default="false", nullable=False))
    op.add_column("line", sa.Column("text", sa.Text(), server_default="", nullable=False))
    op.add_column("line", sa.Column("weighed_state", sa.Text(), server_default="", nullable=False))
    op.add_column("line", sa.Column("counted", sa.Boolean(), server_default="true", nullable=False))
    op.add_column("line", sa.Column("scales", sa.Boolean(), server_default="true", nullable=False))
    op.add_column(
        "line", sa.Column("dismissed", postgresql.JSONB(astext_type=sa.Text()), server_default="{}", nullable=False)
    )
    op.add_column("line", sa.Column("added_at", sa.DateTime(timezone=True), nullable=True))
    op.add_column("line", sa.Column("added_by", sa.Text(), server_default="", nullable=False))
    op.alter_column("line", "food_id", existing_type=sa.UUID(), nullable=True)
    op.create_index(op.f("ix_line_food_id"), "line", ["food_id"], unique=False)
    op.create_index(op.f("ix_line_source_id"), "line", ["source_id"], unique=False)
    op.create_foreign_key(
        op.f("fk_line_workspace_id_source_id_component"),
        "line",
        "component",
        ["workspace_id", "source_id"],
        ["workspace_id", "id"],
        ondelete="RESTRICT",
    )
    op.add_column(
        "weighing",
        sa.Column("removed_g", sa.Numeric(precision=12, scale=3, asdecimal=False), server_default="0", nullable=False),
    )
    op.add_column(
        "weighing", sa.Column("yield_factor", sa.Numeric(precision=9, scale=6, asdecimal=False), nullable=True)
    )
    op.add_column("weighing", sa.Column("food_id", sa.Uuid(), nullable=True))
    op.add_column("weighing", sa.Column("method", sa.Text(), server_default="", nullable=False))
    op.add_column("weighing", sa.Column("recipe_component_id", sa.Uuid(), nullable=True))
    op.create_index(op.f("ix_weighing_food_id"), "weighing", ["food_id"], unique=False)
    op.create_index(op.f("ix_weighing_recipe_component_id"), "weighing", ["recipe_component_id"], unique=False)
    op.create_foreign_key(
        op.f("fk_weighing_food_id_food"), "weighing", "food", ["food_id"], ["id"], ondelete="RESTRICT"
    )
    op.add_column("workspace", sa.Column("spoons", sa.Text(), server_default="metric", nullable=False))
    op.add_column("workspace", sa.Column("energy_rule", sa.Text(), server_default="general", nullable=False))
    op.add_column("workspace", sa.Column("carbohydrate", sa.Text(), server_default="total", nullable=False))
    op.add_column("workspace", sa.Column("foods_version", sa.Integer(), server_default="0", nullable=False))
    op.add_column(
        "workspace", sa.Column("free_foods", postgresql.ARRAY(sa.Text()), server_default="{}", nullable=False)
    )
    op.drop_constraint("macros_fit", "food", type_="check")
    macros = "coalesce(protein_g, 0) + coalesce(carbohydrate_g, 0) + coalesce(fat_g, 0) <= 101"
    op.create_check_constraint("macros_fit", "food", f"{macros} OR slack <> '{{}}'")
    op.create_check_constraint("food_or_component", "line", "(food_id IS NULL) <> (source_id IS NULL)")
    for table in OWNED:
        op.execute(f"ALTER TABLE {table} ENABLE ROW LEVEL SECURITY")
        op.execute(f"ALTER TABLE {table} FORCE ROW LEVEL SECURITY")
        op.execute(f"CREATE POLICY own ON {table} USING (workspace_id = {HERE}) WITH CHECK (workspace_id = {HERE})")
    # Foods are found by an index in memory: row-level security kept the planner from these.
    op.drop_index("ix_food_search_vector", table_name="food")
    op.drop_index("ix_food_search_text", table_name="food")
    op.drop_column("food", "search_vector")
    # Asked once for a statement instead of once for a row: a pantry of 20,000 foods is searched in a third of the time.
    for table in SHARED:
        op.execute(f"ALTER POLICY own ON {table} USING (workspace_id = (SELECT {HERE}))")
        op.execute(f"ALTER POLICY loading ON {table} USING (workspace_id IS NULL AND (SELECT {LOADING}))")
    # A line may now hold another component instead of a food; packs and remembered words name foods too.
    op.execute("""
        CREATE OR REPLACE FUNCTION line_food_is_visible() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN
            IF NEW.food_id IS NOT NULL AND NOT EXISTS (SELECT FROM food WHERE id = NEW.food_id) THEN
                RAISE foreign_key_violation USING MESSAGE = 'no such food',
                    CONSTRAINT = 'line_food_is_visible';
            END IF;
            RETURN NEW;
        END $$
    """)
    for table in ("pack", "food_word"):
        op.execute(
            f"CREATE TRIGGER line_food_is_visible BEFORE INSERT OR UPDATE OF food_id ON {table}"
            " FOR EACH ROW EXECUTE FUNCTION line_food_is_visible()"
        )


def downgrade() -> None:
    op.add_column(
        "food",
        sa.Column(
            "search_vector",
            postgresql.TSVECTOR(),
            sa.Computed("to_tsvector('english'::regconfig, search_text)", persisted=True),
            nullable=False,
        ),
    )
    op.create_index("ix_food_search_vector", "food", ["search_vector"], postgresql_using="gin")
    op.create_index(
        "ix_food_search_text",
        "food",
        ["search_text"],
        postgresql_using="gin",
        postgresql_ops={"search_text": "gin_trgm_ops"},
    )
    for table in SHARED:
        op.execute(f"ALTER POLICY own ON {table} USING (workspace_id = {HERE})")
        op.execute(f"ALTER POLICY loading ON {table} USING (workspace_id IS NULL AND {LOADING})")
    op.drop_constraint("food_or_component", "line", type_="check")
    op.drop_constraint("macros_fit", "food", type_="check")
    macros = "coalesce(protein_g, 0) + coalesce(carbohydrate_g, 0) + coalesce(fat_g, 0) <= 101"
    op.create_check_constraint("macros_fit", "food", macros)
    op.drop_column("workspace", "foods_version")
    op.drop_column("workspace", "free_foods")
    op.drop_column("workspace", "carbohydrate")
    op.drop_column("workspace", "energy_rule")
    op.drop_column("workspace", "spoons")
    op.drop_constraint(op.f("fk_weighing_food_id_food"), "weighing", type_="foreignkey")
    op.drop_index(op.f("ix_weighing_recipe_component_id"), table_name="weighing")
    op.drop_index(op.f("ix_weighing_food_id"), table_name="weighing")
    op.drop_column("weighing", "recipe_component_id")
    op.drop_column("weighing", "method")
    op.drop_column("weighing", "food_id")
    op.drop_column("weighing", "yield_factor")
    op.drop_column("weighing", "removed_g")
    op.drop_constraint(op.f("fk_line_workspace_id_source_id_component"), "line", type_="foreignkey")
    op.drop_index(op.f("ix_line_source_id"), table_name="line")
    op.drop_index(op.f("ix_line_food_id"), table_name="line")
    op.alter_column("line", "food_id", existing_type=sa.UUID(), nullable=False)
    op.drop_column("line", "added_by")
    op.drop_column("line", "added_at")
    op.drop_column("line", "dismissed")
    op.drop_column("line", "scales")
    op.drop_column("line", "counted")
    op.drop_column("line", "weighed_state")
    op.drop_column("line", "text")
    op.drop_column("line", "refuse_after")
    op.drop_column("line", "source_id")
    op.drop_constraint(op.f("fk_food_copied_from_food"), "food", type_="foreignkey")
    op.drop_constraint(op.f("fk_food_superseded_by_food"), "food", type_="foreignkey")
    op.drop_index(op.f("ix_food_superseded_by"), table_name="food")
    op.drop_column("food", "archived_at")
    op.drop_column("food", "copied_from")
    op.drop_column("food", "superseded_by")
    op.drop_column("food", "version")
    op.drop_column("food", "label")
    op.drop_column("food", "slack")
    op.drop_column("food", "carbohydrate")
    op.drop_column("food", "polyols_g")
    op.drop_column("container_class", "packed_g")
    op.drop_index(op.f("ix_component_recipe_component_id"), table_name="component")
    op.drop_column("component", "recipe_component_id")
    op.drop_column("component", "dismissed")
    op.drop_column("component", "served")
    op.drop_column("component", "pan_capacity_g")
    op.drop_column("component", "pieces")
    op.drop_column("component", "poured_fat_g")
    op.drop_column("batch", "carbohydrate")
    op.drop_column("batch", "energy_rule")
    op.drop_column("account", "energy_unit")
    op.drop_column("account", "temperature_unit")
    op.drop_column("account", "mass_unit")
    op.drop_index(op.f("ix_step_recipe_id"), table_name="step")
    op.drop_table("step")
    op.drop_index(op.f("ix_pack_food_id"), table_name="pack")
    op.drop_table("pack")
    op.drop_table("food_word")
    op.drop_table("vessel")
