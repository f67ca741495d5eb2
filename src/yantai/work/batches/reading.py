"""The plan of one batch, and its version."""

from __future__ import annotations

import uuid

from yantai.formats.plan_document import PlanDocument
from yantai.store import tables
from yantai.store.database import Database
from yantai.store.notices import BatchChanged
from yantai.work.batches import stored
from yantai.work.batches.views import PlanView
from yantai.work.common.errors import Missing
from yantai.work.common.who import SignedIn


def read_plan(database: Database, who: SignedIn, batch_id: uuid.UUID) -> PlanView:
    """The plan of one batch.

    Raises:
        Missing: there is no such batch here.
    """
    with stored.reading(database, who, lambda _: [batch_id]) as session:
        return stored.read_view(session, batch_id)


def export_batch(database: Database, who: SignedIn, batch_id: uuid.UUID) -> PlanDocument:
    """The batch as an open plan document, which `./yantai compute` computes alike.

    Raises:
        Missing: there is no such batch here.
    """
    with stored.reading(database, who, lambda _: [batch_id]) as session:
        return stored.read_document(session, batch_id)


def batch_now(database: Database, who: SignedIn, batch_id: uuid.UUID) -> BatchChanged:
    """At which version a batch is, and who made it.

    Raises:
        Missing: there is no such batch here.
    """
    with database.reading(who.workspace_id) as session:
        batch = session.get(tables.Batch, batch_id)
        if batch is None:
            raise Missing("There is no such batch. It may have been removed in another window.")
        return BatchChanged(batch_id=str(batch.id), version=batch.version, by=batch.changed_by)
