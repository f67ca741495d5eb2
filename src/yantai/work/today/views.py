"""What the work functions return. Plain frozen dataclasses: the API serves them as they are."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import date

from yantai.work.batches.views import BatchBrief


@dataclass(frozen=True, slots=True, kw_only=True)
class Found:
    """A hit of the search over everything. `kind` is client, recipe, batch or food."""

    kind: str
    id: uuid.UUID
    title: str
    detail: str


@dataclass(frozen=True, slots=True, kw_only=True)
class HeardFromView:
    """How many words of a client wait to be read."""

    client_id: uuid.UUID
    client: str
    words: int


@dataclass(frozen=True, slots=True, kw_only=True)
class HeardView:
    """Forms that wait to be read, messages that did not go, and clients who thaw something tonight: how many of each;
    and words that wait, by client."""

    forms: int
    words: list[HeardFromView]
    messages: int
    thaw: int


@dataclass(frozen=True, slots=True, kw_only=True)
class Due:
    """Something to do for a batch on a day; `lead_min` is how long before cooking it begins, where it does [min], and
    `at_min` at which minute of that day, where an order of work says so.

    `buy_by` is the day by which its foods must be bought, None where they are, or are in the pan. `trip_id` is the trip
    on which they are being bought.
    """

    batch: BatchBrief
    on: date
    what: str
    lead_min: float | None
    buy_by: date | None = None
    trip_id: uuid.UUID | None = None
    at_min: int | None = None
