"""Foods with their measures, yields and packs. Shared reference rows belong to no workspace and are read-only."""

from __future__ import annotations

import uuid
from collections.abc import Mapping
from datetime import date, datetime
from typing import Any

from sqlalchemy import (
    CheckConstraint,
    ForeignKey,
    Identity,
    Numeric,
    TypeDecorator,
    UniqueConstraint,
    func,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from yantai.core.foods.energy import Carbohydrate
from yantai.core.foods.nutrients import STATED, Stated, Uncertainty
from yantai.core.foods.states import FoodState
from yantai.core.shopping.packs import Sold
from yantai.store.tables.base import Base, Owned, Row, Word, carried, grams, one_of, owned_table_args, share, word


class Uncertainties(TypeDecorator[Mapping[str, Uncertainty]]):
    """How far below and above stated figures the true ones may lie, by their names; {} where none were rounded."""

    impl = JSONB
    cache_ok = True

    def process_bind_param(self, value: Mapping[str, Uncertainty] | None, dialect: Any) -> dict[str, list[float]]:
        """As JSON."""
        return {name: [below, above] for name, (below, above) in (value or {}).items()}

    def process_result_value(self, value: dict[str, Any] | None, dialect: Any) -> Mapping[str, Uncertainty] | None:
        """As the core has them."""
        return {name: (below, above) for name, (below, above) in (value or {}).items()} or None


class Food(Row):
    """A food in one state; amounts per 100 g edible portion, None where the source states none.

    An own food that is edited leaves its old figures behind as a row that is `superseded_by` it: batches that were
    made with those keep them.
    """

    __tablename__ = "food"
    __table_args__ = (
        CheckConstraint(
            # Rounded figures of a tiny serving may add up to more; what they can truly be was checked on reading.
            "coalesce(protein_g, 0) + coalesce(carbohydrate_g, 0) + coalesce(fat_g, 0) <= 101 OR slack <> '{}'",
            name="macros_fit",
        ),
        one_of("state", FoodState),
        one_of("carbohydrate", Carbohydrate),
    )

    workspace_id: Mapped[uuid.UUID | None] = mapped_column(ForeignKey("workspace.id", ondelete="CASCADE"))
    reference: Mapped[str | None] = mapped_column(unique=True)
    name: Mapped[str]
    food_group: Mapped[str] = mapped_column(index=True)
    state: Mapped[FoodState] = word(FoodState)
    method: Mapped[str]
    stated: Mapped[Stated] = carried(
        Stated,
        {
            **{name: mapped_column(name, grams(), nullable=True) for name in STATED},
            "carbohydrate": mapped_column("carbohydrate", Word(Carbohydrate), nullable=False, server_default="total"),
            "uncertainty": mapped_column("slack", Uncertainties, nullable=False, server_default="{}"),
        },
    )
    label: Mapped[dict[str, Any] | None] = mapped_column(JSONB)
    version: Mapped[int] = mapped_column(server_default="1")
    superseded_by: Mapped[uuid.UUID | None] = mapped_column(ForeignKey("food.id", ondelete="CASCADE"), index=True)
    copied_from: Mapped[uuid.UUID | None] = mapped_column(ForeignKey("food.id", ondelete="SET NULL"))
    archived_at: Mapped[datetime | None]
    allergens: Mapped[list[str]]
    diet_tags: Mapped[list[str]]
    source: Mapped[str]
    source_detail: Mapped[str]
    note: Mapped[str]
    weak: Mapped[bool]
    search_text: Mapped[str]


class Measure(Row):
    """A household measure of a food."""

    __tablename__ = "measure"

    workspace_id: Mapped[uuid.UUID | None] = mapped_column(ForeignKey("workspace.id", ondelete="CASCADE"))
    food_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("food.id", ondelete="CASCADE"), index=True)
    name: Mapped[str]
    grams: Mapped[float]
    source: Mapped[str]
    note: Mapped[str]


class YieldFactor(Row):
    """Cooked over edible weight of a food, or of a food group, by method."""

    __tablename__ = "yield_factor"
    __table_args__ = (
        CheckConstraint("(food_id IS NULL) <> (food_group IS NULL)", name="food_or_group"),
        CheckConstraint("low <= expected AND expected <= high", name="range"),
    )

    workspace_id: Mapped[uuid.UUID | None] = mapped_column(ForeignKey("workspace.id", ondelete="CASCADE"))
    food_id: Mapped[uuid.UUID | None] = mapped_column(ForeignKey("food.id", ondelete="CASCADE"), index=True)
    food_group: Mapped[str | None]
    method: Mapped[str]
    low: Mapped[float] = mapped_column(share())
    expected: Mapped[float] = mapped_column(share())
    high: Mapped[float] = mapped_column(share())
    basis: Mapped[str]
    note: Mapped[str]


class RawCookedPair(Row):
    """A raw food and the table's cooked entry of the same food."""

    __tablename__ = "raw_cooked_pair"

    workspace_id: Mapped[uuid.UUID | None] = mapped_column(ForeignKey("workspace.id", ondelete="CASCADE"))
    raw_food_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("food.id", ondelete="CASCADE"), index=True)
    cooked_food_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("food.id", ondelete="CASCADE"), index=True)
    method: Mapped[str]
    balance_yield: Mapped[float | None] = mapped_column(share())
    note: Mapped[str]


class EdiblePortion(Row):
    """The share that is not eaten of a food as bought. It is offered, never applied silently."""

    __tablename__ = "edible_portion"

    workspace_id: Mapped[uuid.UUID | None] = mapped_column(ForeignKey("workspace.id", ondelete="CASCADE"))
    food_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("food.id", ondelete="CASCADE"), index=True)
    refuse_share: Mapped[float] = mapped_column(share())
    note: Mapped[str]
    source: Mapped[str]


class ReferenceLoad(Base):
    """That reference rows were loaded: by their digest, the newest is what the tables hold."""

    __tablename__ = "reference_load"

    number: Mapped[int] = mapped_column(Identity(), primary_key=True)
    digest: Mapped[str]
    loaded_at: Mapped[datetime] = mapped_column(server_default=func.now())


class Pack(Owned):
    """A pack in which a food is bought: net weight, drained weight where it is drained, its price in a shop.

    `shop` is "" where it has that price everywhere; nobody wrote down when a price without `seen_on` was seen. By the
    piece, `grams` are about what one weighs; by weight, what its price is for.
    """

    __tablename__ = "pack"
    __table_args__ = owned_table_args(
        CheckConstraint("grams > 0", name="weight"),
        CheckConstraint("drained_g <= grams", name="drained"),
        one_of("sold", Sold),
    )

    food_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("food.id", ondelete="CASCADE"), index=True)
    name: Mapped[str]
    grams: Mapped[float]
    drained_g: Mapped[float | None]
    price: Mapped[float | None] = mapped_column(Numeric(10, 2, asdecimal=False))
    shop: Mapped[str] = mapped_column(server_default="")
    seen_on: Mapped[date | None]
    sold: Mapped[Sold] = word(Sold, default="by the pack")


class FoodWord(Owned):
    """The food that some words of a recipe line mean here, as the coach answered."""

    __tablename__ = "food_word"
    __table_args__ = owned_table_args(UniqueConstraint("workspace_id", "words"))

    words: Mapped[str]
    food_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("food.id", ondelete="CASCADE"))
