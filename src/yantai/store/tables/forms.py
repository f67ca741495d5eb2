"""Forms that clients fill in by link."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Any

from sqlalchemy import CheckConstraint
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from yantai.core.targets.forms import FormKind
from yantai.store.tables.base import Owned, one_of, owned_table_args, within, word


class ClientForm(Owned):
    """A form for a client, or for somebody who may become one: half-filled, handed in, or taken by the coach.

    Only the hash of its link's secret is kept. `answers` are what was typed, by field; `revision` counts changes of
    them, so that a coach takes what they have read. `agreed_at` is when it was agreed that the answers are kept.
    """

    __tablename__ = "client_form"
    __table_args__ = owned_table_args(
        within("client_id", "client"),
        within("account_id", "account"),
        one_of("kind", FormKind),
        CheckConstraint("kind = 'intake' OR client_id IS NOT NULL", name="of_whom"),
    )

    client_id: Mapped[uuid.UUID | None] = mapped_column(index=True)
    account_id: Mapped[uuid.UUID]
    kind: Mapped[FormKind] = word(FormKind)
    name: Mapped[str]
    email: Mapped[str]
    token_hash: Mapped[str] = mapped_column(unique=True)
    answers: Mapped[dict[str, Any]] = mapped_column(JSONB)
    revision: Mapped[int]
    made_by: Mapped[str]
    made_at: Mapped[datetime]
    expires_at: Mapped[datetime]
    revoked_at: Mapped[datetime | None]
    seen_at: Mapped[datetime | None]
    agreed_at: Mapped[datetime | None]
    handed_in_at: Mapped[datetime | None]
    taken_at: Mapped[datetime | None]
