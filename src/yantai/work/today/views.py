"""What the work functions return. Plain frozen dataclasses: the API serves them as they are."""

from __future__ import annotations

import uuid
from dataclasses import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class Found:
    """A hit of the search over everything. `kind` is client, recipe, batch or food."""

    kind: str
    id: uuid.UUID
    title: str
    detail: str
