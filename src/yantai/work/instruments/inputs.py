"""What is sent of instruments."""

from __future__ import annotations

import re
from typing import Annotated

from pydantic import AfterValidator, Field

from yantai.devices.device import Connection, InstrumentKind, Talk
from yantai.work.common.inputs import Payload
from yantai.work.common.typed import Number, Range, Text, TypedName, Weight, Whole
from yantai.work.instruments.views import PrintedUnit

BAUDS = (1200, 2400, 4800, 9600, 19_200, 38_400, 57_600, 115_200)


def _port(path: str) -> str:
    """A device file: nothing else of this computer is opened."""
    if (path and re.fullmatch(r"/dev/[A-Za-z0-9_./-]+", path) is None) or ".." in path:
        raise ValueError(f"“{path[:60]}” is no serial port; it is written as /dev/ttyUSB0")
    return path


def _baud(speed: int) -> int:
    if speed not in BAUDS:
        raise ValueError(f"a serial line has a speed of {', '.join(f'{one:,}' for one in BAUDS)}")
    return speed


class InstrumentInput(Payload):
    """A scale or thermometer: how it is reached and talks, what it can weigh [g], and in what unit a figure is that has
    none."""

    name: Annotated[str, TypedName("the device's name, as “bench”")]
    kind: InstrumentKind = InstrumentKind.SCALE
    connection: Connection
    talk: Talk = Talk.CONTINUOUS
    port: Annotated[Text, AfterValidator(_port)] = ""
    baud: Annotated[Whole, AfterValidator(_baud)] = 9600
    silent_unit: PrintedUnit = "g"
    capacity_g: Annotated[Weight | None, Range(100, 500_000, "g")] = 5000
    step_g: Annotated[Number, Range(0.01, 1000, "g")] = 1


class PanInput(Payload):
    """What is on the pan of a simulated device, and what is wrong with it."""

    things: dict[Text, Annotated[Weight, Range(0, 100_000, "g")]] = Field(default_factory=dict, max_length=200)
    hand_g: Annotated[Number, Range(-5000, 50_000, "g")] = 0
    noise_g: Annotated[Number, Range(0, 100, "g")] = 0
    drift_g_min: Annotated[Number, Range(-1000, 1000, "g a minute")] = 0
    unit: PrintedUnit = "g"
    says_unit: bool = True
    is_silent: bool = False
    is_restless: bool = False
    battery_low: bool = False
    celsius: Annotated[Number | None, Range(-40, 400, "°C")] = 20
