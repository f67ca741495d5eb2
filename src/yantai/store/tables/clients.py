"""Clients, their targets and days, and what those were before."""

from __future__ import annotations

import uuid
from datetime import date, datetime
from typing import Any

from sqlalchemy import (
    Boolean,
    CheckConstraint,
    ForeignKey,
    func,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, MappedColumn, mapped_column, relationship

from yantai.core.targets.targets import Tolerance
from yantai.store.tables.base import HasFigures, Owned, carried, grams, owned_table_args, share, within
from yantai.store.tables.pantry import Food


def _tolerance_columns() -> dict[str, MappedColumn[Any]]:
    """How close is close enough, and the weights of a miss with those of a client of before they were known."""
    weights = {"kcal": "2", "protein_g": "2", "carbohydrate_g": "1", "fat_g": "1"}
    amounts = {name: mapped_column(f"tolerance_{name}", grams(), nullable=False) for name in weights}
    priorities = {
        f"priority_{name}": mapped_column(f"priority_{name}", grams(), nullable=False, server_default=weight)
        for name, weight in weights.items()
    }
    percent = mapped_column("tolerance_percent", Boolean, nullable=False, server_default="false")
    return {**amounts, **priorities, "percent": percent}


class Client(Owned):
    """Someone who eats."""

    __tablename__ = "client"
    __table_args__ = owned_table_args(CheckConstraint("fridge_l > 0", name="fridge_l"))

    name: Mapped[str]
    note: Mapped[str]
    allergens: Mapped[list[str]]
    dislikes: Mapped[list[str]]
    exclusions: Mapped[list[str]] = mapped_column(server_default="{}")
    tolerance: Mapped[Tolerance] = carried(Tolerance, _tolerance_columns())
    signed_off_by: Mapped[str] = mapped_column(server_default="")
    signed_off_on: Mapped[date | None]
    week: Mapped[list[str | None]] = mapped_column(JSONB, server_default="[]")
    """The type of each day from Monday on, None where it is not always the same; nothing while nobody gave them."""
    fridge_l: Mapped[float | None]
    """Room for containers in the client's fridge [l]."""
    bounds: Mapped[list[dict[str, Any]]] = mapped_column(JSONB, server_default="[]")
    """What they have at most of something in one container: its `word`, and `maximum_g` [g]."""
    email: Mapped[str] = mapped_column(server_default="")
    likes: Mapped[list[str]] = mapped_column(server_default="{}")
    goals: Mapped[str] = mapped_column(server_default="")
    kitchen: Mapped[str] = mapped_column(server_default="")
    health: Mapped[str] = mapped_column(server_default="")
    """What the coach knows of their health: it stands on the client's page and nowhere else."""
    version: Mapped[int] = mapped_column(default=1)
    archived_at: Mapped[datetime | None]
    erased_at: Mapped[datetime | None]
    """When the person was erased; what is left has a name that says nothing."""

    targets: Mapped[list[Target]] = relationship(
        lazy="raise", order_by="Target.position", cascade="all, delete-orphan", passive_deletes=True
    )
    days: Mapped[list[Day]] = relationship(
        lazy="raise", order_by="Day.position", cascade="all, delete-orphan", passive_deletes=True
    )
    at_hand: Mapped[list[AtHand]] = relationship(
        lazy="raise", order_by="AtHand.position", cascade="all, delete-orphan", passive_deletes=True
    )


class Day(HasFigures, Owned):
    """What a whole day of one type shall hold for a client."""

    __tablename__ = "day"
    __table_args__ = owned_table_args(within("client_id", "client"))

    client_id: Mapped[uuid.UUID] = mapped_column(index=True)
    position: Mapped[int]
    day_type: Mapped[str]

    extras: Mapped[list[DayExtra]] = relationship(
        lazy="raise", order_by="DayExtra.position", cascade="all, delete-orphan", passive_deletes=True
    )


class DayExtra(Owned):
    """A food eaten on a day outside the containers."""

    __tablename__ = "day_extra"
    __table_args__ = owned_table_args(within("day_id", "day"), CheckConstraint("grams > 0", name="weight"))

    day_id: Mapped[uuid.UUID] = mapped_column(index=True)
    position: Mapped[int]
    food_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("food.id", ondelete="RESTRICT"), index=True)
    grams: Mapped[float]

    food: Mapped[Food] = relationship(lazy="raise", viewonly=True)


class AtHand(Owned):
    """A food that a client may eat outside the containers where a day lacks something."""

    __tablename__ = "at_hand"
    __table_args__ = owned_table_args(
        within("client_id", "client"),
        CheckConstraint("serving_g > 0", name="weight"),
        CheckConstraint("most BETWEEN 1 AND 4", name="most"),
    )

    client_id: Mapped[uuid.UUID] = mapped_column(index=True)
    position: Mapped[int]
    food_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("food.id", ondelete="RESTRICT"), index=True)
    serving_g: Mapped[float]
    most: Mapped[int]

    food: Mapped[Food] = relationship(lazy="raise", viewonly=True)


class TargetRecord(Owned):
    """What a client's days and targets were from a moment on. Rows are only ever added."""

    __tablename__ = "target_record"
    __table_args__ = owned_table_args(within("client_id", "client"))

    client_id: Mapped[uuid.UUID] = mapped_column(index=True)
    since: Mapped[datetime] = mapped_column(server_default=func.clock_timestamp())
    changed_by: Mapped[str]
    figures: Mapped[dict[str, Any]] = mapped_column(JSONB)


class Target(HasFigures, Owned):
    """What one container of a client shall hold, by meal slot and day type.

    With a `day_share` it has no figures of its own: they follow from the client's day of that type.
    """

    __tablename__ = "target"
    __table_args__ = owned_table_args(
        within("client_id", "client"), CheckConstraint("day_share > 0 AND day_share <= 1", name="share")
    )

    client_id: Mapped[uuid.UUID]
    position: Mapped[int]
    slot: Mapped[str]
    day_type: Mapped[str]
    day_share: Mapped[float | None] = mapped_column(share())
    capacity_ml: Mapped[float | None]
    capacity_g: Mapped[float | None]
    plate_g: Mapped[float | None]
