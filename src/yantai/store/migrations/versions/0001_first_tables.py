"""First tables, their row-level security and the guards of append-only rows.

It runs in one transaction on an empty database, locks nothing that is in use, and is repeated simply by
running it again.
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0001"
down_revision = None
branch_labels = None
depends_on = None


TABLES = (
    "workspace",
    "account",
    "client",
    "food",
    "recipe",
    "batch",
    "edible_portion",
    "login_session",
    "measure",
    "raw_cooked_pair",
    "target",
    "yield_factor",
    "component",
    "container_class",
    "line",
    "pin",
    "weighing",
)
SHARED = ("food", "measure", "yield_factor", "raw_cooked_pair", "edible_portion")
OWNED = (
    "account",
    "login_session",
    "client",
    "target",
    "recipe",
    "component",
    "line",
    "batch",
    "container_class",
    "pin",
    "weighing",
)
HERE = "NULLIF(current_setting('app.workspace_id', true), '')::uuid"


def upgrade() -> None:
    op.execute("CREATE EXTENSION IF NOT EXISTS pg_trgm")
    op.execute("CREATE SEQUENCE weighing_number")
    _create_tables()
    _keep_workspaces_apart()
    _keep_weighings()


def _keep_workspaces_apart() -> None:
    """A transaction sees the rows of the workspace it named. FORCE binds the owner of the tables too."""
    for table in ("workspace", *OWNED, *SHARED):
        op.execute(f"ALTER TABLE {table} ENABLE ROW LEVEL SECURITY")
        op.execute(f"ALTER TABLE {table} FORCE ROW LEVEL SECURITY")
    op.execute(f"CREATE POLICY own ON workspace USING (id = {HERE}) WITH CHECK (id = {HERE})")
    for table in OWNED:
        op.execute(f"CREATE POLICY own ON {table} USING (workspace_id = {HERE}) WITH CHECK (workspace_id = {HERE})")
    # Before sign-in the workspace is unknown: knowing the address, or the token, shows that one row.
    op.execute(
        "CREATE POLICY by_email ON account FOR SELECT"
        " USING (email = NULLIF(current_setting('app.sign_in_email', true), ''))"
    )
    op.execute(
        "CREATE POLICY by_token ON login_session FOR SELECT"
        " USING (token_hash = NULLIF(current_setting('app.session_hash', true), ''))"
    )
    loading = "current_setting('app.loading_reference', true) = 'on'"
    for table in SHARED:
        op.execute(f"CREATE POLICY own ON {table} USING (workspace_id = {HERE}) WITH CHECK (workspace_id = {HERE})")
        op.execute(f"CREATE POLICY shared ON {table} FOR SELECT USING (workspace_id IS NULL)")
        op.execute(
            f"CREATE POLICY loading ON {table} USING (workspace_id IS NULL AND {loading})"
            f" WITH CHECK (workspace_id IS NULL AND {loading})"
        )
    # A foreign key to food cannot carry the workspace, for shared foods have none; and foreign keys are
    # checked past row-level security. This check runs inside it.
    op.execute("""
        CREATE FUNCTION line_food_is_visible() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN
            IF NOT EXISTS (SELECT FROM food WHERE id = NEW.food_id) THEN
                RAISE foreign_key_violation USING MESSAGE = 'no such food',
                    CONSTRAINT = 'line_food_is_visible';
            END IF;
            RETURN NEW;
        END $$
    """)
    op.execute(
        "CREATE TRIGGER line_food_is_visible BEFORE INSERT OR UPDATE OF food_id ON line"
        " FOR EACH ROW EXECUTE FUNCTION line_food_is_visible()"
    )


def _keep_weighings() -> None:
    """Weighings are corrected by new rows, never changed or deleted."""
    op.execute("""
        CREATE FUNCTION weighing_is_kept() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN
            RAISE restrict_violation USING MESSAGE = 'weighings are only added, never changed or deleted',
                CONSTRAINT = 'weighing_is_kept';
        END $$
    """)
    op.execute(
        "CREATE TRIGGER weighing_is_kept BEFORE UPDATE OR DELETE ON weighing"
        " FOR EACH ROW EXECUTE FUNCTION weighing_is_kept()"
    )


def _create_tables() -> None:
    op.create_table(
        "workspace",
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_workspace")),
    )
    op.create_table(
        "account",
        sa.Column("email", sa.Text(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("password_hash", sa.Text(), nullable=False),
        sa.Column("workspace_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.ForeignKeyConstraint(
            ["workspace_id"],
            ["workspace.id"],
            name=op.f("fk_account_workspace_id_workspace"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_account")),
        sa.UniqueConstraint("email", name=op.f("uq_account_email")),
        sa.UniqueConstraint("workspace_id", "id", name=op.f("uq_account_workspace_id_id")),
    )
    op.create_table(
        "client",
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("allergens", postgresql.ARRAY(sa.Text()), nullable=False),
        sa.Column("dislikes", postgresql.ARRAY(sa.Text()), nullable=False),
        sa.Column("tolerance_kcal", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=False),
        sa.Column("tolerance_protein_g", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=False),
        sa.Column("tolerance_carbohydrate_g", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=False),
        sa.Column("tolerance_fat_g", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("archived_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("workspace_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.ForeignKeyConstraint(
            ["workspace_id"],
            ["workspace.id"],
            name=op.f("fk_client_workspace_id_workspace"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_client")),
        sa.UniqueConstraint("workspace_id", "id", name=op.f("uq_client_workspace_id_id")),
    )
    op.create_table(
        "food",
        sa.Column("workspace_id", sa.Uuid(), nullable=True),
        sa.Column("reference", sa.Text(), nullable=True),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("food_group", sa.Text(), nullable=False),
        sa.Column("state", sa.Text(), nullable=False),
        sa.Column("method", sa.Text(), nullable=False),
        sa.Column("stated_kcal", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=True),
        sa.Column("protein_g", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=True),
        sa.Column("carbohydrate_g", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=True),
        sa.Column("fat_g", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=True),
        sa.Column("fibre_g", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=True),
        sa.Column("sugars_g", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=True),
        sa.Column("saturated_g", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=True),
        sa.Column("sodium_mg", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=True),
        sa.Column("alcohol_g", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=True),
        sa.Column("allergens", postgresql.ARRAY(sa.Text()), nullable=False),
        sa.Column("diet_tags", postgresql.ARRAY(sa.Text()), nullable=False),
        sa.Column("source", sa.Text(), nullable=False),
        sa.Column("source_detail", sa.Text(), nullable=False),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("weak", sa.Boolean(), nullable=False),
        sa.Column("search_text", sa.Text(), nullable=False),
        sa.Column(
            "search_vector",
            postgresql.TSVECTOR(),
            sa.Computed("to_tsvector('english'::regconfig, search_text)", persisted=True),
            nullable=False,
        ),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.CheckConstraint(
            "coalesce(protein_g, 0) + coalesce(carbohydrate_g, 0) + coalesce(fat_g, 0) <= 101",
            name=op.f("ck_food_macros_fit"),
        ),
        sa.ForeignKeyConstraint(
            ["workspace_id"],
            ["workspace.id"],
            name=op.f("fk_food_workspace_id_workspace"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_food")),
        sa.UniqueConstraint("reference", name=op.f("uq_food_reference")),
    )
    op.create_index(op.f("ix_food_food_group"), "food", ["food_group"], unique=False)
    op.create_index(
        "ix_food_search_text",
        "food",
        ["search_text"],
        unique=False,
        postgresql_using="gin",
        postgresql_ops={"search_text": "gin_trgm_ops"},
    )
    op.create_index("ix_food_search_vector", "food", ["search_vector"], unique=False, postgresql_using="gin")
    op.create_table(
        "recipe",
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("archived_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("workspace_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.ForeignKeyConstraint(
            ["workspace_id"],
            ["workspace.id"],
            name=op.f("fk_recipe_workspace_id_workspace"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_recipe")),
        sa.UniqueConstraint("workspace_id", "id", name=op.f("uq_recipe_workspace_id_id")),
    )
    op.create_table(
        "batch",
        sa.Column("recipe_id", sa.Uuid(), nullable=False),
        sa.Column("recipe_version", sa.Integer(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("cook_on", sa.Date(), nullable=False),
        sa.Column("step_g", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=False),
        sa.Column("buffer_share", sa.Numeric(precision=9, scale=6, asdecimal=False), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("changed_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.Column("changed_by", sa.Text(), nullable=False),
        sa.Column("packed_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("workspace_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.ForeignKeyConstraint(
            ["workspace_id", "recipe_id"],
            ["recipe.workspace_id", "recipe.id"],
            name=op.f("fk_batch_workspace_id_recipe_id_recipe"),
            ondelete="RESTRICT",
        ),
        sa.ForeignKeyConstraint(
            ["workspace_id"],
            ["workspace.id"],
            name=op.f("fk_batch_workspace_id_workspace"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_batch")),
        sa.UniqueConstraint("workspace_id", "id", name=op.f("uq_batch_workspace_id_id")),
    )
    op.create_table(
        "edible_portion",
        sa.Column("workspace_id", sa.Uuid(), nullable=True),
        sa.Column("food_id", sa.Uuid(), nullable=False),
        sa.Column("refuse_share", sa.Numeric(precision=9, scale=6, asdecimal=False), nullable=False),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("source", sa.Text(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.ForeignKeyConstraint(
            ["food_id"], ["food.id"], name=op.f("fk_edible_portion_food_id_food"), ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(
            ["workspace_id"],
            ["workspace.id"],
            name=op.f("fk_edible_portion_workspace_id_workspace"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_edible_portion")),
    )
    op.create_index(op.f("ix_edible_portion_food_id"), "edible_portion", ["food_id"], unique=False)
    op.create_table(
        "login_session",
        sa.Column("account_id", sa.Uuid(), nullable=False),
        sa.Column("token_hash", sa.Text(), nullable=False),
        sa.Column("csrf_token", sa.Text(), nullable=False),
        sa.Column("expires_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("workspace_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.ForeignKeyConstraint(
            ["workspace_id", "account_id"],
            ["account.workspace_id", "account.id"],
            name=op.f("fk_login_session_workspace_id_account_id_account"),
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(
            ["workspace_id"],
            ["workspace.id"],
            name=op.f("fk_login_session_workspace_id_workspace"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_login_session")),
        sa.UniqueConstraint("token_hash", name=op.f("uq_login_session_token_hash")),
        sa.UniqueConstraint("workspace_id", "id", name=op.f("uq_login_session_workspace_id_id")),
    )
    op.create_table(
        "measure",
        sa.Column("workspace_id", sa.Uuid(), nullable=True),
        sa.Column("food_id", sa.Uuid(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("grams", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=False),
        sa.Column("source", sa.Text(), nullable=False),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.ForeignKeyConstraint(["food_id"], ["food.id"], name=op.f("fk_measure_food_id_food"), ondelete="CASCADE"),
        sa.ForeignKeyConstraint(
            ["workspace_id"],
            ["workspace.id"],
            name=op.f("fk_measure_workspace_id_workspace"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_measure")),
    )
    op.create_index(op.f("ix_measure_food_id"), "measure", ["food_id"], unique=False)
    op.create_table(
        "raw_cooked_pair",
        sa.Column("workspace_id", sa.Uuid(), nullable=True),
        sa.Column("raw_food_id", sa.Uuid(), nullable=False),
        sa.Column("cooked_food_id", sa.Uuid(), nullable=False),
        sa.Column("method", sa.Text(), nullable=False),
        sa.Column("balance_yield", sa.Numeric(precision=9, scale=6, asdecimal=False), nullable=True),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.ForeignKeyConstraint(
            ["cooked_food_id"],
            ["food.id"],
            name=op.f("fk_raw_cooked_pair_cooked_food_id_food"),
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(
            ["raw_food_id"], ["food.id"], name=op.f("fk_raw_cooked_pair_raw_food_id_food"), ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(
            ["workspace_id"],
            ["workspace.id"],
            name=op.f("fk_raw_cooked_pair_workspace_id_workspace"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_raw_cooked_pair")),
    )
    op.create_index(op.f("ix_raw_cooked_pair_cooked_food_id"), "raw_cooked_pair", ["cooked_food_id"], unique=False)
    op.create_index(op.f("ix_raw_cooked_pair_raw_food_id"), "raw_cooked_pair", ["raw_food_id"], unique=False)
    op.create_table(
        "target",
        sa.Column("client_id", sa.Uuid(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("slot", sa.Text(), nullable=False),
        sa.Column("day_type", sa.Text(), nullable=False),
        sa.Column("kcal", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=True),
        sa.Column("protein_g", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=True),
        sa.Column("carbohydrate_g", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=True),
        sa.Column("fat_g", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=True),
        sa.Column("capacity_ml", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=True),
        sa.Column("workspace_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.ForeignKeyConstraint(
            ["workspace_id", "client_id"],
            ["client.workspace_id", "client.id"],
            name=op.f("fk_target_workspace_id_client_id_client"),
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(
            ["workspace_id"],
            ["workspace.id"],
            name=op.f("fk_target_workspace_id_workspace"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_target")),
        sa.UniqueConstraint("workspace_id", "id", name=op.f("uq_target_workspace_id_id")),
    )
    op.create_table(
        "yield_factor",
        sa.Column("workspace_id", sa.Uuid(), nullable=True),
        sa.Column("food_id", sa.Uuid(), nullable=True),
        sa.Column("food_group", sa.Text(), nullable=True),
        sa.Column("method", sa.Text(), nullable=False),
        sa.Column("low", sa.Numeric(precision=9, scale=6, asdecimal=False), nullable=False),
        sa.Column("expected", sa.Numeric(precision=9, scale=6, asdecimal=False), nullable=False),
        sa.Column("high", sa.Numeric(precision=9, scale=6, asdecimal=False), nullable=False),
        sa.Column("basis", sa.Text(), nullable=False),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.CheckConstraint("(food_id IS NULL) <> (food_group IS NULL)", name=op.f("ck_yield_factor_food_or_group")),
        sa.CheckConstraint("low <= expected AND expected <= high", name=op.f("ck_yield_factor_range")),
        sa.ForeignKeyConstraint(
            ["food_id"], ["food.id"], name=op.f("fk_yield_factor_food_id_food"), ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(
            ["workspace_id"],
            ["workspace.id"],
            name=op.f("fk_yield_factor_workspace_id_workspace"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_yield_factor")),
    )
    op.create_index(op.f("ix_yield_factor_food_id"), "yield_factor", ["food_id"], unique=False)
    op.create_table(
        "component",
        sa.Column("recipe_id", sa.Uuid(), nullable=True),
        sa.Column("batch_id", sa.Uuid(), nullable=True),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("role", sa.Text(), nullable=False),
        sa.Column("method", sa.Text(), nullable=False),
        sa.Column("minimum_g", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=False),
        sa.Column("maximum_g", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=False),
        sa.Column("density_g_per_ml", sa.Numeric(precision=9, scale=6, asdecimal=False), nullable=False),
        sa.Column("yield_low", sa.Numeric(precision=9, scale=6, asdecimal=False), nullable=True),
        sa.Column("yield_expected", sa.Numeric(precision=9, scale=6, asdecimal=False), nullable=True),
        sa.Column("yield_high", sa.Numeric(precision=9, scale=6, asdecimal=False), nullable=True),
        sa.Column("raw_fixed", sa.Boolean(), nullable=False),
        sa.Column("recipe_share_g", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=True),
        sa.Column("workspace_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.CheckConstraint("(recipe_id IS NULL) <> (batch_id IS NULL)", name=op.f("ck_component_recipe_or_batch")),
        sa.CheckConstraint("minimum_g <= maximum_g", name=op.f("ck_component_bounds")),
        sa.ForeignKeyConstraint(
            ["workspace_id", "batch_id"],
            ["batch.workspace_id", "batch.id"],
            name=op.f("fk_component_workspace_id_batch_id_batch"),
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(
            ["workspace_id", "recipe_id"],
            ["recipe.workspace_id", "recipe.id"],
            name=op.f("fk_component_workspace_id_recipe_id_recipe"),
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(
            ["workspace_id"],
            ["workspace.id"],
            name=op.f("fk_component_workspace_id_workspace"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_component")),
        sa.UniqueConstraint("workspace_id", "id", name=op.f("uq_component_workspace_id_id")),
    )
    op.create_index(op.f("ix_component_batch_id"), "component", ["batch_id"], unique=False)
    op.create_index(op.f("ix_component_recipe_id"), "component", ["recipe_id"], unique=False)
    op.create_table(
        "container_class",
        sa.Column("batch_id", sa.Uuid(), nullable=False),
        sa.Column("client_id", sa.Uuid(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("slot", sa.Text(), nullable=False),
        sa.Column("day_type", sa.Text(), nullable=False),
        sa.Column("count", sa.Integer(), nullable=False),
        sa.Column("kcal", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=True),
        sa.Column("protein_g", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=True),
        sa.Column("carbohydrate_g", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=True),
        sa.Column("fat_g", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=True),
        sa.Column("capacity_ml", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=True),
        sa.Column("workspace_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.CheckConstraint("count >= 0", name=op.f("ck_container_class_count")),
        sa.ForeignKeyConstraint(
            ["workspace_id", "batch_id"],
            ["batch.workspace_id", "batch.id"],
            name=op.f("fk_container_class_workspace_id_batch_id_batch"),
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(
            ["workspace_id", "client_id"],
            ["client.workspace_id", "client.id"],
            name=op.f("fk_container_class_workspace_id_client_id_client"),
            ondelete="RESTRICT",
        ),
        sa.ForeignKeyConstraint(
            ["workspace_id"],
            ["workspace.id"],
            name=op.f("fk_container_class_workspace_id_workspace"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_container_class")),
        sa.UniqueConstraint("workspace_id", "id", name=op.f("uq_container_class_workspace_id_id")),
    )
    op.create_index(op.f("ix_container_class_batch_id"), "container_class", ["batch_id"], unique=False)
    op.create_table(
        "line",
        sa.Column("component_id", sa.Uuid(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("food_id", sa.Uuid(), nullable=False),
        sa.Column("purchased_g", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=False),
        sa.Column("refuse_share", sa.Numeric(precision=9, scale=6, asdecimal=False), nullable=False),
        sa.Column("retained_share", sa.Numeric(precision=9, scale=6, asdecimal=False), nullable=False),
        sa.Column("yield_factor", sa.Numeric(precision=9, scale=6, asdecimal=False), nullable=True),
        sa.Column("workspace_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.CheckConstraint("purchased_g >= 0", name=op.f("ck_line_weight")),
        sa.ForeignKeyConstraint(["food_id"], ["food.id"], name=op.f("fk_line_food_id_food"), ondelete="RESTRICT"),
        sa.ForeignKeyConstraint(
            ["workspace_id", "component_id"],
            ["component.workspace_id", "component.id"],
            name=op.f("fk_line_workspace_id_component_id_component"),
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(
            ["workspace_id"],
            ["workspace.id"],
            name=op.f("fk_line_workspace_id_workspace"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_line")),
        sa.UniqueConstraint("workspace_id", "id", name=op.f("uq_line_workspace_id_id")),
    )
    op.create_index(op.f("ix_line_component_id"), "line", ["component_id"], unique=False)
    op.create_table(
        "pin",
        sa.Column("container_class_id", sa.Uuid(), nullable=False),
        sa.Column("component_id", sa.Uuid(), nullable=False),
        sa.Column("grams", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=False),
        sa.Column("workspace_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.CheckConstraint("grams >= 0", name=op.f("ck_pin_grams")),
        sa.ForeignKeyConstraint(
            ["workspace_id", "component_id"],
            ["component.workspace_id", "component.id"],
            name=op.f("fk_pin_workspace_id_component_id_component"),
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(
            ["workspace_id", "container_class_id"],
            ["container_class.workspace_id", "container_class.id"],
            name=op.f("fk_pin_workspace_id_container_class_id_container_class"),
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(
            ["workspace_id"], ["workspace.id"], name=op.f("fk_pin_workspace_id_workspace"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_pin")),
        sa.UniqueConstraint("container_class_id", "component_id", name=op.f("uq_pin_container_class_id_component_id")),
        sa.UniqueConstraint("workspace_id", "id", name=op.f("uq_pin_workspace_id_id")),
    )
    op.create_table(
        "weighing",
        sa.Column("number", sa.Integer(), server_default=sa.text("nextval('weighing_number')"), nullable=False),
        sa.Column("batch_id", sa.Uuid(), nullable=False),
        sa.Column("component_id", sa.Uuid(), nullable=False),
        sa.Column("account_id", sa.Uuid(), nullable=False),
        sa.Column("command_id", sa.Uuid(), nullable=False),
        sa.Column("weighed_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("cooked_g", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=True),
        sa.Column("vessels", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("workspace_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.CheckConstraint("cooked_g > 0", name=op.f("ck_weighing_cooked")),
        sa.ForeignKeyConstraint(
            ["workspace_id", "account_id"],
            ["account.workspace_id", "account.id"],
            name=op.f("fk_weighing_workspace_id_account_id_account"),
            ondelete="RESTRICT",
        ),
        sa.ForeignKeyConstraint(
            ["workspace_id", "batch_id"],
            ["batch.workspace_id", "batch.id"],
            name=op.f("fk_weighing_workspace_id_batch_id_batch"),
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(
            ["workspace_id", "component_id"],
            ["component.workspace_id", "component.id"],
            name=op.f("fk_weighing_workspace_id_component_id_component"),
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(
            ["workspace_id"],
            ["workspace.id"],
            name=op.f("fk_weighing_workspace_id_workspace"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_weighing")),
        sa.UniqueConstraint("number", name=op.f("uq_weighing_number")),
        sa.UniqueConstraint("workspace_id", "command_id", name=op.f("uq_weighing_workspace_id_command_id")),
        sa.UniqueConstraint("workspace_id", "id", name=op.f("uq_weighing_workspace_id_id")),
    )
    op.create_index(op.f("ix_weighing_batch_id"), "weighing", ["batch_id"], unique=False)
    op.create_index(op.f("ix_weighing_component_id"), "weighing", ["component_id"], unique=False)


def downgrade() -> None:
    for table in reversed(TABLES):
        op.drop_table(table)
    op.execute("DROP FUNCTION line_food_is_visible, weighing_is_kept")
    op.execute("DROP SEQUENCE weighing_number")
