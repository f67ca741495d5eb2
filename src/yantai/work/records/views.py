"""What erasing a client does, as it is shown before."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import datetime


@dataclass(frozen=True, slots=True, kw_only=True)
class ErasureView:
    """What is gone when a client is erased, what stays, and what is in the way: until that is empty they cannot be.

    `pseudonym` is what they are called from then on where figures stay.
    """

    client_id: uuid.UUID
    name: str
    pseudonym: str
    gone: list[str]
    stays: list[str]
    in_the_way: list[str]
    erased_at: datetime | None
