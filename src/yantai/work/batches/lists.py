"""All batches, with what is next for each."""

from __future__ import annotations

from yantai.store.database import Database
from yantai.work.batches import stored
from yantai.work.batches.views import BatchBrief
from yantai.work.common.who import SignedIn


def list_batches(database: Database, who: SignedIn) -> list[BatchBrief]:
    """All batches, the next to cook first, the packed ones after them, newest first, and then those put away."""
    with stored.reading(database, who, lambda _: None) as session:
        briefs = stored.read_briefs(session)
    here = [b for b in briefs if b.put_away_at is None]
    open_ones = sorted((b for b in here if b.packed_at is None), key=lambda b: (b.cook_on, b.name))
    packed = sorted((b for b in here if b.packed_at is not None), key=lambda b: (b.cook_on, b.name), reverse=True)
    away = sorted((b for b in briefs if b.put_away_at is not None), key=lambda b: (b.cook_on, b.name), reverse=True)
    return open_ones + packed + away
