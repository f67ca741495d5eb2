"""What became of containers, as clients told it."""

from __future__ import annotations

import uuid

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from yantai.core.speaking import weight
from yantai.core.storage.eating import EatingEvent
from yantai.store import tables
from yantai.work.handover.laid import Spot

_SHARES = {0.25: "a quarter", 0.5: "half", 0.75: "three quarters", 1.0: "all of it"}


def read_eaten(session: Session, batch_id: uuid.UUID) -> dict[Spot, tables.EatingFact]:
    """What counts of each container: the newest that was told, unless it was taken back."""
    fact = tables.EatingFact
    rows = session.scalars(select(fact).where(fact.batch_id == batch_id).order_by(fact.number))
    newest = {(row.container_class_id, row.container): row for row in rows}
    return {spot: row for spot, row in newest.items() if row.event is not EatingEvent.TAKEN_BACK}


def left_words(fact: tables.EatingFact | None) -> str:
    """How much was left: "half", "80 g"; nothing where nobody said so."""
    if fact is None or fact.event is not EatingEvent.LEFT:
        return ""
    if fact.left_share is not None:
        return _SHARES.get(fact.left_share, f"{fact.left_share * 100:.0f} %")
    return weight(fact.left_g or 0.0)


def unread_words(session: Session) -> dict[uuid.UUID, int]:
    """How many words of each client the coach has not read."""
    word = tables.ClientWord
    query = select(word.client_id, func.count()).where(word.read_at.is_(None)).group_by(word.client_id)
    return {client_id: count for client_id, count in session.execute(query)}  # noqa: C416 -- typed so
