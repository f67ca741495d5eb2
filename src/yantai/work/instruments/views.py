"""Devices as they are shown."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from typing import Literal

from yantai.devices.device import Connection, InstrumentKind, Talk

PrintedUnit = Literal["g", "kg", "oz", "lb"]
"""What a scale may be set to."""


@dataclass(frozen=True, slots=True, kw_only=True)
class InstrumentView:
    """A scale or thermometer of the kitchen."""

    id: uuid.UUID
    name: str
    kind: InstrumentKind
    connection: Connection
    talk: Talk
    port: str
    baud: int
    silent_unit: PrintedUnit
    capacity_g: float | None
    step_g: float


@dataclass(frozen=True, slots=True, kw_only=True)
class PortView:
    """A serial port of the computer that serves, with what it says of itself."""

    path: str
    says: str


@dataclass(frozen=True, slots=True, kw_only=True)
class PanView:
    """What is on the pan of a simulated device, and what is wrong with it."""

    things: dict[str, float]
    hand_g: float
    noise_g: float
    drift_g_min: float
    unit: PrintedUnit
    says_unit: bool
    is_silent: bool
    is_restless: bool
    battery_low: bool
    celsius: float | None
