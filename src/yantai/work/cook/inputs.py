"""What is sent of kitchens, and of the day on which a batch is cooked."""

from __future__ import annotations

import uuid
from typing import Annotated

from pydantic import AwareDatetime, Field

from yantai.core.schedule.day import MOST_DAYS, Skill
from yantai.core.schedule.kitchen import Kind
from yantai.core.schedule.live import CookEvent
from yantai.work.common.inputs import Payload
from yantai.work.common.typed import Number, Range, Text, Weight, Whole

_LOAD = Range(1, 100_000, "g", late=True)
DAY_MIN = 24 * 60
_MINUTE = Range(-DAY_MIN, MOST_DAYS * DAY_MIN, "minutes from midnight of the day", late=True)


class KitchenItemInput(Payload):
    """Equipment of one kind and size: how many, shelves or rings of one, what it holds [l], how much goes into one, or
    on one shelf or ring, of meat, vegetables and dry grain [g], how hot it gets [°C], and what it is built into."""

    id: uuid.UUID | None = None
    kind: Kind
    name: Text
    count: Annotated[Whole, Range(0, 50, "of a kind", late=True)] = 1
    places: Annotated[Whole, Range(1, 20, "shelves, rings or baskets", late=True)] = 1
    capacity_l: Annotated[Number | None, Range(0.1, 2000, "litres", late=True)] = None
    meat_g: Annotated[Weight | None, _LOAD] = None
    vegetables_g: Annotated[Weight | None, _LOAD] = None
    grain_g: Annotated[Weight | None, _LOAD] = None
    most_c: Annotated[Number | None, Range(30, 500, "°C", late=True)] = None
    within_id: uuid.UUID | None = None


class KitchenPersonInput(Payload):
    """Somebody who cooks here, what this person does, and how long hands take as a share of the usual minutes."""

    id: uuid.UUID | None = None
    name: Text
    does: list[Skill] = Field(default_factory=lambda: list(Skill))
    pace: Annotated[Number, Range(0.3, 3, "times the usual minutes", late=True)] = 1


class KitchenInput(Payload):
    """A kitchen with all there is in it. `version` is the one that was read, None for a new one."""

    name: Text
    items: Annotated[list[KitchenItemInput], Field(max_length=200)] = Field(default_factory=list)
    people: Annotated[list[KitchenPersonInput], Field(max_length=8)] = Field(default_factory=list)
    version: Whole | None = None


class PresenceInput(Payload):
    """From when to when somebody is there; negative minutes are on the day before."""

    person_id: uuid.UUID
    start_min: Annotated[Whole, _MINUTE]
    end_min: Annotated[Whole, _MINUTE]


class CookDayInput(Payload):
    """How a batch is cooked: where, from when, ready by when, and who is there. Minutes from midnight of its day.

    `share_oven` lets dishes whose temperatures are near enough be cooked at one.
    """

    kitchen_id: uuid.UUID
    start_min: Annotated[Whole, _MINUTE]
    ready_by_min: Annotated[Whole | None, _MINUTE] = None
    share_oven: bool = False
    there: Annotated[list[PresenceInput], Field(max_length=40)]
    version: Whole | None = None


class CookFactInput(Payload):
    """Something that happened while cooking, and when by the clock of the device.

    `task` is a task of the order of work; a machine that was heated; a component whose temperature was read, or that
    left the heat; another fact that is taken back; of an added step its component, or nothing. `minutes` say how many
    more, how long later, where it is held (from midnight), how long an added step or a timer lasts, how long a step
    that is done, or stopped, took. What the scale shows is in `grams`, with the vessel, which weighs `vessel_g` empty.
    """

    id: uuid.UUID | None = None
    task: Text = ""
    event: CookEvent
    minutes: Annotated[Whole | None, Range(-DAY_MIN, MOST_DAYS * DAY_MIN, "minutes")] = None
    touch: Annotated[Whole | None, Range(0, 500, "times")] = None
    person_id: uuid.UUID | None = None
    celsius: Annotated[Number | None, Range(-30, 500, "°C")] = None
    grams: Annotated[Weight | None, Range(0, 200_000, "g")] = None
    vessel_g: Annotated[Weight | None, Range(0, 100_000, "g")] = None
    vessel: Text = ""
    text: Text = ""
    device: Text = ""
    happened_at: AwareDatetime | None = None
    sent_at: AwareDatetime | None = None
