"""The settings of a kitchen as they are shown."""

from __future__ import annotations

import uuid
from dataclasses import dataclass

from yantai.core.foods.energy import Carbohydrate, EnergyRule
from yantai.core.quantities.units import Spoons
from yantai.core.storage.shelf import ShelfRule


@dataclass(frozen=True, slots=True, kw_only=True)
class KitchenVesselView:
    """A pan, tray or bowl of the kitchen."""

    id: uuid.UUID
    name: str
    empty_g: float
    capacity_g: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class DailyAimsView:
    """What is aimed at for every day of every client [g, mg]; None is not aimed at."""

    produce_g: float | None
    fibre_g: float | None
    potassium_mg: float | None
    sodium_mg: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class SettingsView:
    """What the kitchen counts by, its vessels, and the kinds of food that may be declared free."""

    workspace: str
    spoons: Spoons
    energy_rule: EnergyRule
    carbohydrate: Carbohydrate
    shelf_rule: ShelfRule
    time_zone: str | None
    currency: str | None
    most_left_share: float | None
    free_foods: list[str]
    daily_aims: DailyAimsView
    vessels: list[KitchenVesselView]
    free_kinds: dict[str, str]
