"""Foods that a client has at hand, of which a day that lacks something may be filled up."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

from yantai.store.migrations.parts import keep_apart, owned, within

revision = "0022"
down_revision = "0021"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "at_hand",
        sa.Column("client_id", sa.Uuid(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("food_id", sa.Uuid(), nullable=False),
        sa.Column("serving_g", sa.Numeric(precision=12, scale=3, asdecimal=False), nullable=False),
        sa.Column("most", sa.Integer(), nullable=False),
        *owned("at_hand"),
        within("at_hand", "client"),
        sa.ForeignKeyConstraint(["food_id"], ["food.id"], name=op.f("fk_at_hand_food_id_food"), ondelete="RESTRICT"),
        sa.CheckConstraint("serving_g > 0", name=op.f("ck_at_hand_weight")),
        sa.CheckConstraint("most BETWEEN 1 AND 4", name=op.f("ck_at_hand_most")),
    )
    op.create_index(op.f("ix_at_hand_client_id"), "at_hand", ["client_id"])
    op.create_index(op.f("ix_at_hand_food_id"), "at_hand", ["food_id"])
    keep_apart("at_hand")
    op.execute(
        "CREATE TRIGGER line_food_is_visible BEFORE INSERT OR UPDATE OF food_id ON at_hand"
        " FOR EACH ROW EXECUTE FUNCTION line_food_is_visible()"
    )


def downgrade() -> None:
    op.drop_table("at_hand")
