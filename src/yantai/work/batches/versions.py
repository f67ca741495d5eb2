"""The version of a batch, raised by every change; `log.refuse_stale` refuses an older one."""

from __future__ import annotations

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from yantai.store import tables
from yantai.store.notices import announce
from yantai.work.common.who import SignedIn


def mark_changed(session: Session, batch: tables.Batch, who: SignedIn) -> None:
    """Note who changed the batch last, and count the change."""
    with session.no_autoflush:  # one statement for all of it
        batch.version += 1
        batch.changed_by = who.name
        batch.changed_at = session.scalars(select(func.now())).one()
    session.flush()
    announce(session, batch.id, batch.version, who.name)
