"""What is begun long before a cook day."""

from __future__ import annotations

import uuid
from dataclasses import dataclass

from yantai.store.database import Database
from yantai.work.batches import stored
from yantai.work.common.who import SignedIn
from yantai.work.cook.order import read_job, read_kept


@dataclass(frozen=True, kw_only=True)
class Ahead:
    """Something that is begun before: when, in minutes on the wall from midnight of the cook day, and how long before
    the next step at least [min]."""

    says: str
    at_min: int
    lead_min: float | None


def read_ahead(database: Database, who: SignedIn, batch_id: uuid.UUID) -> list[Ahead] | None:
    """What a batch begins before its day and nobody has begun yet, by the order of work that is known; None where none
    is, or it was found for another plan.

    Raises:
        Missing: there is no such batch.
    """
    with stored.reading(database, who, lambda _: [batch_id]) as session:
        known = read_kept(session, batch_id)
        job = None if known is None else read_job(session, batch_id)
    if known is None or job is None or known.digest != job.digest:
        return None
    by_task = job.by_task
    found = []
    for one in sorted(known.order.placed, key=lambda each: (each.start, each.task)):
        of, state = by_task.get(one.task), job.progress.of(one.task)
        if of is not None and of.task.ahead and state.begun is None and not state.is_skipped:
            found.append(Ahead(says=of.step.says, at_min=job.clock.wall(one.start), lead_min=of.step.lead_min))
    return found
