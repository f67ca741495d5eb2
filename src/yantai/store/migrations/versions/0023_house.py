"""What is in the house, as lots with a ledger; what is always there; where and when a price was seen."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

from yantai.store.migrations.parts import keep_apart, over_all_workspaces, owned, within

revision = "0023"
down_revision = "0022"
branch_labels = None
depends_on = None


def _grams(name: str, *, nullable: bool = False) -> sa.Column[float]:
    return sa.Column(name, sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=nullable)


def _price(name: str, *, nullable: bool = False) -> sa.Column[float]:
    return sa.Column(name, sa.Numeric(precision=10, scale=2, asdecimal=False), nullable=nullable)


def _of_a_food(table: str, ondelete: str) -> None:
    op.create_index(op.f(f"ix_{table}_food_id"), table, ["food_id"])
    op.create_foreign_key(op.f(f"fk_{table}_food_id_food"), table, "food", ["food_id"], ["id"], ondelete=ondelete)
    keep_apart(table)
    # The key of a food cannot carry the workspace, for shared foods have none.
    op.execute(
        f"CREATE TRIGGER line_food_is_visible BEFORE INSERT OR UPDATE OF food_id ON {table}"
        " FOR EACH ROW EXECUTE FUNCTION line_food_is_visible()"
    )


def upgrade() -> None:
    op.create_table(
        "lot",
        sa.Column("food_id", sa.Uuid(), nullable=False),
        sa.Column("words", sa.Text(), nullable=False),
        _grams("pack_g", nullable=True),
        sa.Column("place", sa.Text(), nullable=False),
        sa.Column("opened", sa.Boolean(), nullable=False),
        sa.Column("use_by", sa.Date(), nullable=True),
        sa.Column("frozen_on", sa.Date(), nullable=True),
        _price("paid", nullable=True),
        sa.Column("arrived_at", sa.DateTime(timezone=True), nullable=False),
        *owned("lot"),
        sa.CheckConstraint("place IN ('cupboard', 'fridge', 'freezer')", name=op.f("ck_lot_place")),
        sa.CheckConstraint("pack_g > 0", name=op.f("ck_lot_pack")),
        sa.CheckConstraint("paid >= 0", name=op.f("ck_lot_paid")),
    )
    _of_a_food("lot", "RESTRICT")
    kinds = "'bought', 'used', 'put back', 'thrown away', 'counted', 'divided', 'taken back'"
    op.create_table(
        "lot_entry",
        sa.Column("number", sa.BigInteger(), sa.Identity(always=True), nullable=False),
        sa.Column("lot_id", sa.Uuid(), nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        _grams("grams"),
        sa.Column("act", sa.Uuid(), nullable=False),
        sa.Column("undoes", sa.Uuid(), nullable=True),
        sa.Column("batch_id", sa.Uuid(), nullable=True),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("made_by", sa.Text(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
        *owned("lot_entry"),
        within("lot_entry", "lot"),
        within("lot_entry", "batch"),
        sa.CheckConstraint(f"kind IN ({kinds})", name=op.f("ck_lot_entry_kind")),
        sa.UniqueConstraint("number", name=op.f("uq_lot_entry_number")),
    )
    for column in ("lot_id", "act", "batch_id"):
        op.create_index(op.f(f"ix_lot_entry_{column}"), "lot_entry", [column])
    keep_apart("lot_entry")
    op.execute("""
        CREATE FUNCTION ledger_is_kept() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN
            RAISE restrict_violation USING MESSAGE = 'a ledger is only added to, never changed',
                CONSTRAINT = 'ledger_is_kept';
        END $$
    """)
    op.create_table(
        "staple",
        sa.Column("food_id", sa.Uuid(), nullable=False),
        sa.Column("is_always_there", sa.Boolean(), nullable=False),
        *owned("staple"),
        sa.UniqueConstraint("workspace_id", "food_id", name=op.f("uq_staple_workspace_id_food_id")),
    )
    _of_a_food("staple", "CASCADE")
    op.create_table(
        "price_seen",
        sa.Column("food_id", sa.Uuid(), nullable=False),
        sa.Column("pack", sa.Text(), nullable=False),
        _grams("grams"),
        sa.Column("shop", sa.Text(), nullable=False),
        _price("price"),
        sa.Column("seen_on", sa.Date(), nullable=True),
        sa.Column("noted_at", sa.DateTime(timezone=True), nullable=False),
        *owned("price_seen"),
        sa.CheckConstraint("grams > 0", name=op.f("ck_price_seen_weight")),
    )
    _of_a_food("price_seen", "CASCADE")
    for table in ("lot_entry", "price_seen"):
        op.execute(
            f"CREATE TRIGGER ledger_is_kept BEFORE UPDATE OR DELETE ON {table}"
            " FOR EACH ROW EXECUTE FUNCTION ledger_is_kept()"
        )
    op.add_column("pack", sa.Column("shop", sa.Text(), server_default="", nullable=False))
    op.add_column("pack", sa.Column("seen_on", sa.Date(), nullable=True))
    # What packs cost until now was noted without a day.
    with over_all_workspaces("pack"), over_all_workspaces("price_seen"):
        op.execute("ALTER TABLE price_seen DISABLE TRIGGER line_food_is_visible")
        op.execute(
            "INSERT INTO price_seen (workspace_id, id, food_id, pack, grams, shop, price, noted_at)"
            " SELECT workspace_id, gen_random_uuid(), food_id, name, grams, '', price, now() FROM pack"
            " WHERE price IS NOT NULL"
        )
        op.execute("ALTER TABLE price_seen ENABLE TRIGGER line_food_is_visible")


def downgrade() -> None:
    op.drop_column("pack", "seen_on")
    op.drop_column("pack", "shop")
    for table in ("price_seen", "staple", "lot_entry", "lot"):
        op.drop_table(table)
    op.execute("DROP FUNCTION ledger_is_kept()")
