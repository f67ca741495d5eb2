"""Who is signed in, as it is shown."""

from __future__ import annotations

from dataclasses import dataclass

from yantai.core.foods.energy import Carbohydrate, EnergyRule
from yantai.core.speaking import EnergyUnit, MassUnit, TemperatureUnit


@dataclass(frozen=True, slots=True, kw_only=True)
class AccountView:
    """Who is signed in."""

    name: str
    email: str
    workspace: str
    csrf_token: str
    mass_unit: MassUnit
    temperature_unit: TemperatureUnit
    energy_unit: EnergyUnit
    energy_rule: EnergyRule
    carbohydrate: Carbohydrate
    time_zone: str | None
    currency: str | None
