"""What is sent to set a kitchen."""

from __future__ import annotations

import re
import uuid
from typing import Annotated
from zoneinfo import available_timezones

from babel.numbers import get_currency_precision
from pydantic import AfterValidator, Field

from yantai.core.foods.energy import Carbohydrate, EnergyRule
from yantai.core.quantities.units import Spoons
from yantai.core.storage.shelf import ShelfRule
from yantai.core.targets.aims import DAILY_AIMS
from yantai.work.common.inputs import Payload
from yantai.work.common.typed import Number, Range, Text, TypedName, Weight


class VesselInput(Payload):
    """A pan, tray or bowl."""

    id: uuid.UUID | None = None
    name: Annotated[str, TypedName("the vessel's name")]
    empty_g: Annotated[Weight, Range(1, 50_000, "g")]
    capacity_g: Annotated[Weight | None, Range(1, 1_000_000, "g")] = None


KEPT_DIGITS = 2
"""Prices are kept to so many digits."""


def _known_zone(name: str) -> str:
    if name not in available_timezones():
        raise ValueError(f"“{name[:60]}” is no time zone; it is written as Europe/Lisbon")
    return name


def _currency(code: str) -> str:
    if re.fullmatch(r"[A-Z]{3}", code) is None:
        raise ValueError(f"“{code[:60]}” is no currency; its three letters are written as EUR")
    if get_currency_precision(code) > KEPT_DIGITS:
        raise ValueError(
            f"prices are kept in hundredths, and {code} has thousandths; leave the currency open and write prices to "
            "the hundredth"
        )
    return code


class DailyAimsInput(Payload):
    """What is aimed at for every day of every client [g, mg]; None is not aimed at."""

    produce_g: Annotated[Number | None, Range(0, DAILY_AIMS["produce_g"][1], "g")] = None
    fibre_g: Annotated[Number | None, Range(0, DAILY_AIMS["fibre_g"][1], "g")] = None
    potassium_mg: Annotated[Number | None, Range(0, DAILY_AIMS["potassium_mg"][1], "mg")] = None
    sodium_mg: Annotated[Number | None, Range(0, DAILY_AIMS["sodium_mg"][1], "mg")] = None


class WorkspaceInput(Payload):
    """What the whole kitchen counts by. Nobody set a time zone: times are told in that of the device, and by the server
    in UTC. Nobody set a currency: prices are bare numbers. `most_left_share` limits what is left over of packs."""

    spoons: Spoons = Spoons.METRIC
    energy_rule: EnergyRule = EnergyRule.GENERAL
    carbohydrate: Carbohydrate = Carbohydrate.TOTAL
    shelf_rule: ShelfRule = ShelfRule.CAUTIOUS
    time_zone: Annotated[Text, AfterValidator(_known_zone)] | None = None
    currency: Annotated[Text, AfterValidator(_currency)] | None = None
    most_left_share: Annotated[Number | None, Range(0, 10, "of the need")] = None
    free_foods: list[Text] = Field(default_factory=list)
    daily_aims: DailyAimsInput = Field(default_factory=DailyAimsInput)
    vessels: list[VesselInput] = Field(default_factory=list)
