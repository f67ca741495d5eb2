"""A batch is packed once all its containers are closed."""

from __future__ import annotations

import uuid
from dataclasses import replace
from datetime import datetime

from yantai.core.filling import Filling
from yantai.store.database import Database, unlimited
from yantai.work.batches import stored
from yantai.work.batches.commands import change_batch
from yantai.work.batches.inputs import Changes, SetPacked
from yantai.work.common.errors import WorkError
from yantai.work.common.who import SignedIn
from yantai.work.fill.bench import Laid, filling_of, lay_out, read_facts


def pack_when_closed(database: Database, who: SignedIn, batch_id: uuid.UUID, fact_id: uuid.UUID, now: datetime) -> None:
    """Pack a batch of which this fact has closed the last container.

    What stands in the way of packing (a pot that nobody weighed) is told on the plan; the containers are closed all the
    same, and somebody may open a packed batch again.
    """
    with stored.reading(database, who, lambda _: [batch_id]) as session:
        laid, rows = lay_out(session, batch_id), read_facts(session, batch_id)
    if laid.view.batch.packed_at is not None or not are_all_closed(laid, filling_of(rows)):
        return
    if are_all_closed(laid, filling_of([row for row in rows if row.id != fact_id])):
        return
    packed = Changes(
        version=laid.view.batch.version,
        changes=[SetPacked(packed=True)],
        # The containers stand on the bench: whether to is no question any more.
        confirmed=True,
        command_id=uuid.uuid5(fact_id, "packed"),
    )
    try:
        # A helper may close the last container; that the batch is packed then is the kitchen's rule, not their wish.
        with unlimited():
            change_batch(database, replace(who, sent=None, rights=None), batch_id, packed, now)
    except WorkError:
        # A plan that moved meanwhile, or a pot that is not weighed: the batch stays open, and can be packed by hand.
        return


def are_all_closed(laid: Laid, filling: Filling) -> bool:
    """Every container there is has all its parts, and there is one."""
    bench = laid.bench
    return bool(bench.spots) and all(
        bench.is_closed(index, bench.filled(index, spot, filling)) for index, spot in bench.spots
    )
