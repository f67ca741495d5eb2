"""Recipes: components, their lines and steps. A batch owns copies of components."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Any

from sqlalchemy import (
    CheckConstraint,
    ForeignKey,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column, relationship

from yantai.core.cooking.components import Role
from yantai.core.cooking.liquids import Lid
from yantai.core.planning.portioning import Place, Portioning, School
from yantai.core.schedule.steps import Growth
from yantai.store.tables.base import Owned, carried, one_of, owned_table_args, portioning_columns, share, within, word


class Recipe(Owned):
    """A dish of components cooked apart. `groups` say of how many of their components a container takes, by name."""

    __tablename__ = "recipe"
    __table_args__ = owned_table_args()

    name: Mapped[str]
    note: Mapped[str]
    serves: Mapped[int | None]
    groups: Mapped[dict[str, int]] = mapped_column(JSONB, server_default="{}")
    version: Mapped[int] = mapped_column(default=1)
    archived_at: Mapped[datetime | None]

    components: Mapped[list[Component]] = relationship(
        lazy="raise",
        order_by="Component.position",
        cascade="all, delete-orphan",
        passive_deletes=True,
        foreign_keys="Component.recipe_id",
        primaryjoin="Recipe.id == Component.recipe_id",
    )
    steps: Mapped[list[Step]] = relationship(
        lazy="raise",
        order_by="Step.position",
        cascade="all, delete-orphan",
        passive_deletes=True,
        foreign_keys="Step.recipe_id",
        primaryjoin="Recipe.id == Step.recipe_id",
    )


class Step(Owned):
    """A step of a component, or of a recipe as a whole: what to do, how long with and without hands, how hot, on what.

    `lead_min` and `lead_most_min` say how long before the next step it begins; `after` are the steps of the same
    component that it waits for, None for the one before it.
    """

    __tablename__ = "step"
    __table_args__ = owned_table_args(
        within("recipe_id", "recipe"),
        within("component_id", "component"),
        CheckConstraint("recipe_id IS NOT NULL OR component_id IS NOT NULL", name="of"),
        CheckConstraint("lead_min <= lead_most_min", name="lead"),
        one_of("growth", Growth),
    )

    recipe_id: Mapped[uuid.UUID | None] = mapped_column(index=True)
    component_id: Mapped[uuid.UUID | None] = mapped_column(index=True)
    position: Mapped[int]
    text: Mapped[str]
    hands_on_min: Mapped[float | None]
    unattended_min: Mapped[float | None]
    every_min: Mapped[float | None]
    temperature_c: Mapped[float | None]
    equipment: Mapped[str]
    growth: Mapped[Growth | None] = word(Growth)
    load_g: Mapped[float | None]
    lead_min: Mapped[float | None]
    lead_most_min: Mapped[float | None]
    core_c: Mapped[float | None]
    done_when: Mapped[str] = mapped_column(server_default="")
    after: Mapped[list[str] | None]


class Component(Owned):
    """What is cooked in one go, of a recipe or, copied, of a batch.

    In a recipe it says how it is portioned; in a batch its part of each dish does. `aside` is out of the day's plan.
    """

    __tablename__ = "component"
    __table_args__ = owned_table_args(
        within("recipe_id", "recipe"),
        within("batch_id", "batch"),
        CheckConstraint("(recipe_id IS NULL) <> (batch_id IS NULL)", name="recipe_or_batch"),
        CheckConstraint("minimum_g <= maximum_g", name="bounds"),
        CheckConstraint("(batch_id IS NULL) = (school IS NOT NULL)", name="portioning"),
        one_of("role", Role),
        one_of("lid", Lid),
        one_of("school", School),
        one_of("place", Place),
    )

    recipe_id: Mapped[uuid.UUID | None] = mapped_column(index=True)
    batch_id: Mapped[uuid.UUID | None] = mapped_column(index=True)
    position: Mapped[int]
    name: Mapped[str]
    role: Mapped[Role] = word(Role)
    method: Mapped[str]
    portioning: Mapped[Portioning] = carried(Portioning, portioning_columns(nullable=True))
    density_g_per_ml: Mapped[float] = mapped_column(share())
    yield_low: Mapped[float | None] = mapped_column(share())
    yield_expected: Mapped[float | None] = mapped_column(share())
    yield_high: Mapped[float | None] = mapped_column(share())
    raw_fixed: Mapped[bool] = mapped_column(default=False)
    poured_fat_g: Mapped[float] = mapped_column(server_default="0")
    pieces: Mapped[int | None]
    pan_capacity_g: Mapped[float | None]
    lid: Mapped[Lid] = word(Lid, default="")
    cook_min: Mapped[float | None]
    served: Mapped[bool] = mapped_column(server_default="true")
    dismissed: Mapped[dict[str, Any]] = mapped_column(JSONB, server_default="{}")
    packed_raw: Mapped[bool] = mapped_column(server_default="false")
    kit_text: Mapped[str] = mapped_column(server_default="")
    weighed_parts: Mapped[list[Any]] = mapped_column(JSONB, server_default="[]")
    whole_pans: Mapped[bool] = mapped_column(server_default="false")
    aside: Mapped[bool] = mapped_column(server_default="false")
    recipe_component_id: Mapped[uuid.UUID | None] = mapped_column(index=True)

    lines: Mapped[list[Line]] = relationship(
        lazy="raise",
        order_by="Line.position",
        cascade="all, delete-orphan",
        passive_deletes=True,
        foreign_keys="Line.component_id",
        primaryjoin="Component.id == Line.component_id",
    )
    steps: Mapped[list[Step]] = relationship(
        lazy="raise",
        order_by="Step.position",
        cascade="all, delete-orphan",
        passive_deletes=True,
        foreign_keys="Step.component_id",
        primaryjoin="Component.id == Step.component_id",
    )


class Line(Owned):
    """An ingredient of a component: grams as purchased of a food, or cooked grams of another component."""

    __tablename__ = "line"
    __table_args__ = owned_table_args(
        within("component_id", "component"),
        within("source_id", "component", ondelete="RESTRICT"),
        CheckConstraint("purchased_g >= 0", name="weight"),
        CheckConstraint("(food_id IS NULL) <> (source_id IS NULL)", name="food_or_component"),
    )

    component_id: Mapped[uuid.UUID] = mapped_column(index=True)
    position: Mapped[int]
    food_id: Mapped[uuid.UUID | None] = mapped_column(ForeignKey("food.id", ondelete="RESTRICT"), index=True)
    source_id: Mapped[uuid.UUID | None] = mapped_column(index=True)
    purchased_g: Mapped[float]
    refuse_share: Mapped[float] = mapped_column(share())
    refuse_after: Mapped[bool] = mapped_column(server_default="false")
    retained_share: Mapped[float] = mapped_column(share())
    yield_factor: Mapped[float | None] = mapped_column(share())
    text: Mapped[str] = mapped_column(server_default="")
    weighed_state: Mapped[str] = mapped_column(server_default="")
    counted: Mapped[bool] = mapped_column(server_default="true")
    scales: Mapped[bool] = mapped_column(server_default="true")
    unfolded: Mapped[bool] = mapped_column(server_default="false")
    dismissed: Mapped[dict[str, Any]] = mapped_column(JSONB, server_default="{}")
    added_at: Mapped[datetime | None]
    added_by: Mapped[str] = mapped_column(server_default="")
