"""Who is signed in."""

from __future__ import annotations

import uuid
from dataclasses import dataclass, field
from datetime import datetime

from yantai.core.rights import Right
from yantai.core.speaking import Spoken


@dataclass(frozen=True, kw_only=True)
class Sent:
    """The id that a wish was sent with, and the digest of all that was sent."""

    command_id: uuid.UUID
    digest: str


@dataclass(frozen=True, kw_only=True)
class SignedIn:
    """Who acts: what every work function starts from. What was `sent` with an id is made once.

    A helper has `rights`; None may do everything. `until` is when the session ends.
    """

    workspace_id: uuid.UUID
    account_id: uuid.UUID
    name: str
    csrf_token: str
    units: Spoken = field(default_factory=Spoken)
    sent: Sent | None = None
    rights: frozenset[Right] | None = None
    until: datetime | None = None
