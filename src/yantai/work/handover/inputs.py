"""What is sent when containers are handed over."""

from __future__ import annotations

import re
import uuid
from datetime import date, datetime
from typing import Annotated

from pydantic import AfterValidator, Field

from yantai.core.storage.calendar import Store
from yantai.core.storage.eating import EatingEvent
from yantai.work.clients.inputs import FRIDGE_L
from yantai.work.common.inputs import Payload
from yantai.work.common.typed import LinkDays, Number, Range, Text, TypedText, Weight, Whole

MOST_CONTAINERS = 100


def _address(text: str) -> str:
    if text and re.fullmatch(r"https?://[\w.:\[\]-]{1,200}", text) is None:
        raise ValueError(f"“{text[:60]}” is no address of a server; it is written as https://192.0.2.7:8765")
    return text


def _said(text: str) -> str:
    if not text.strip():
        raise ValueError("there is nothing in it yet; write a word")
    return text.strip()


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


LABEL_MM = (15, 300)
SHEET_MM = (0, 300)
MOST_LABELS = 20


class GridInput(Payload):
    """A sheet or a roll by its name, or an `own` one by its measures [mm]; own rolls have one label."""

    grid: Text
    label_w_mm: Annotated[Number | None, Range(*LABEL_MM, "mm")] = None
    label_h_mm: Annotated[Number | None, Range(*LABEL_MM, "mm")] = None
    columns: Annotated[Whole, Range(1, MOST_LABELS, "columns")] = 1
    rows: Annotated[Whole, Range(1, MOST_LABELS, "rows")] = 1
    left_mm: Annotated[Number, Range(*SHEET_MM, "mm")] = 0.0
    top_mm: Annotated[Number, Range(*SHEET_MM, "mm")] = 0.0
    gap_x_mm: Annotated[Number, Range(*SHEET_MM, "mm")] = 0.0
    gap_y_mm: Annotated[Number, Range(*SHEET_MM, "mm")] = 0.0


class PrinterInput(Payload):
    """The label printer, switched on or off."""

    is_on: bool


class LabelsInput(GridInput):
    """Labels of a batch: of one client, or of some containers (the row's id, a colon and the number), or of all.

    They begin in cell `start` of a sheet that was used in part. `address` is that by which the page reaches this
    server: it goes into the codes.
    """

    start: Annotated[Whole, Range(1, MOST_LABELS**2, "")] = 1
    client_id: uuid.UUID | None = None
    containers: Annotated[list[Text], Field(max_length=1000)] = Field(default_factory=list)
    address: Annotated[Text, AfterValidator(_address)] = ""


class LinkInput(Payload):
    """A link for a client, for so many days; `address` is that of the page which asks, `shows_macros` by the client's
    wish."""

    address: Text
    days: LinkDays
    shows_macros: bool = True


class MineInput(Payload):
    """A container of the client who asks."""

    row_id: uuid.UUID
    container: Annotated[Whole, Range(1, MOST_CONTAINERS, "")]


class EatenInput(MineInput):
    """It was eaten, or some of it was left: as a share of it, weighed [g], or weighed by part [g]; or what was told is
    taken back."""

    event: EatingEvent
    left_share: Annotated[Number | None, Range(0, 1, "of it")] = None
    left_g: Annotated[Number | None, Range(0, 5000, "g")] = None
    left_parts: Annotated[dict[uuid.UUID, Annotated[Weight, Range(0, 5000, "g")]], Field(max_length=40)] = Field(
        default_factory=dict
    )
    happened_at: datetime | None = None
    sent_at: datetime | None = None


class SwapInput(MineInput):
    """It changes its day with another container."""

    with_row_id: uuid.UUID
    with_container: Annotated[Whole, Range(1, MOST_CONTAINERS, "")]


class ClientWordInput(Payload):
    """A word to the coach."""

    text: Annotated[str, TypedText(1000, lines=True), AfterValidator(_said)]


class MacrosInput(Payload):
    """Whether the client's page shows macros."""

    shows_macros: bool
