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
class Due:
    """Something to do for a batch on a day; `lead_min` is how long before cooking it begins, where it does [min]."""

    batch: BatchBrief
    on: date
    what: str
    lead_min: float | None
