"""The workspace and its vessels."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import (
    CheckConstraint,
    func,
)
from sqlalchemy.orm import Mapped, mapped_column

from yantai.core.foods.energy import Carbohydrate, EnergyRule
from yantai.core.quantities.units import Spoons
from yantai.core.storage.shelf import ShelfRule
from yantai.core.targets.aims import DAILY_AIMS, DailyAims
from yantai.store.tables.base import Owned, Row, carried, grams, one_of, owned_table_args, share, word


class Workspace(Row):
    """One coach's kitchen."""

    __tablename__ = "workspace"
    __table_args__ = (
        one_of("spoons", Spoons),
        one_of("energy_rule", EnergyRule),
        one_of("carbohydrate", Carbohydrate),
        one_of("shelf_rule", ShelfRule),
        CheckConstraint("currency ~ '^[A-Z]{3}$'", name="currency"),
    )

    name: Mapped[str]
    created_at: Mapped[datetime] = mapped_column(server_default=func.now())
    spoons: Mapped[Spoons] = word(Spoons, default="metric")
    energy_rule: Mapped[EnergyRule] = word(EnergyRule, default="general")
    carbohydrate: Mapped[Carbohydrate] = word(Carbohydrate, default="total")
    shelf_rule: Mapped[ShelfRule] = word(ShelfRule, default="cautious")
    printer_is_on: Mapped[bool] = mapped_column(server_default="true")
    """Whether the simulated label printer is switched on."""
    time_zone: Mapped[str | None]
    currency: Mapped[str | None]
    free_foods: Mapped[list[str]] = mapped_column(server_default="{}")
    aisles: Mapped[list[str]] = mapped_column(server_default="{}")
    """In the order in which this coach walks a shop; aisles that are not here come after these, in the usual order."""
    most_left_share: Mapped[float | None] = mapped_column(share())
    """Of packs at most so much is left over, as a share of what is needed; None, and cost alone decides."""
    daily_aims: Mapped[DailyAims | None] = carried(
        DailyAims, {name: mapped_column(f"daily_{name}", grams(), nullable=True) for name in DAILY_AIMS}
    )
    foods_version: Mapped[int] = mapped_column(server_default="0")
    basis: Mapped[int] = mapped_column(server_default="0")
    """Counts the changes of what plans depend on and no other row counts: rules, vessels, own foods, packs."""


class Vessel(Owned):
    """A pan, tray or bowl of the kitchen: its empty weight, and what it holds."""

    __tablename__ = "vessel"
    __table_args__ = owned_table_args(CheckConstraint("empty_g > 0", name="weight"))

    name: Mapped[str]
    empty_g: Mapped[float]
    capacity_g: Mapped[float | None]
