"""What is sent when containers are handed over."""

from __future__ import annotations

import uuid
from datetime import date
from typing import Annotated

from pydantic import Field

from yantai.core.storage.calendar import Store
from yantai.work.common.inputs import Payload
from yantai.work.common.typed import Number, Range, Text, Whole

MOST_CONTAINERS = 100
FRIDGE_L = (1, 1000)
"""Room in a client's fridge, from a shelf to a cold room [l]."""


class PlacementInput(Payload):
    """A container on a day, out of the fridge or the freezer; without a day it waits for one. Nobody said where it
    waits: in the fridge as long as it keeps there, and in the freezer after that."""

    row_id: uuid.UUID
    container: Annotated[Whole, Range(1, MOST_CONTAINERS, "")]
    eaten_on: date | None
    store: Store | None = None
    by_hand: bool = True


class PlacementsInput(Payload):
    """Containers that are moved at once: one, or two that change places."""

    placements: Annotated[list[PlacementInput], Field(min_length=1, max_length=MOST_CONTAINERS)]


class CalendarInput(Payload):
    """Whose calendar is made, of all clients for none; what was set by hand stays, or is made anew too."""

    client_id: uuid.UUID | None = None
    keep_by_hand: bool = True


class WeekInput(Payload):
    """When a client eats: the first day of this batch (None for the day after cooking), the type of each day from
    Monday on, and the room for containers in their fridge [l]."""

    first_on: date | None = None
    week: Annotated[list[Text | None], Field(max_length=7)] = Field(default_factory=list)
    fridge_l: Annotated[Number | None, Range(*FRIDGE_L, "l")] = None


class ShelfChoiceInput(Payload):
    """The row of the shelf-life table that a component goes by; None, and it is matched by its foods."""

    category: Text | None
