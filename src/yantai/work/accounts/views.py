"""Who is signed in, as it is shown."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import datetime

from yantai.core.foods.energy import Carbohydrate, EnergyRule
from yantai.core.rights import Right
from yantai.core.speaking import EnergyUnit, MassUnit, TemperatureUnit


@dataclass(frozen=True, slots=True, kw_only=True)
class AccountView:
    """Who is signed in. A helper has `rights`; None may do everything."""

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
    rights: list[Right] | None
    session_ends: datetime | None


@dataclass(frozen=True, slots=True, kw_only=True)
class PairingView:
    """A code that signs a helper's phone in, once, until it expires; `picture` is its address to scan, as SVG.

    `is_out_of_reach`: the address is that of this computer alone, and the local network is not served.
    """

    code: str
    address: str
    picture: str
    helper: str
    expires_at: datetime
    is_out_of_reach: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class DeviceView:
    """A browser that is signed in: whose, since when, seen when. `is_own` is the one that asks; a helper's has
    `rights`."""

    id: uuid.UUID
    name: str
    is_helper: bool
    rights: list[Right] | None
    device: str
    made_at: datetime
    seen_at: datetime | None
    is_own: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class FeedView:
    """A calendar that is read by a secret address: when that was made, and last read."""

    made_at: datetime
    read_at: datetime | None


@dataclass(frozen=True, slots=True, kw_only=True)
class FeedAddressView:
    """A secret address, which is shown once. `is_out_of_reach`: no other device gets there."""

    address: str
    is_out_of_reach: bool
    made_at: datetime
