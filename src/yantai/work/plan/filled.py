"""How many containers the amounts that are known fill."""

from __future__ import annotations

import uuid

from sqlalchemy.orm import Session

from yantai.core.planning.counts import how_many
from yantai.core.speaking import weight
from yantai.formats.kept import Kept
from yantai.store.database import Database
from yantai.work.batches import plans
from yantai.work.batches.plans import compute_open
from yantai.work.common.errors import located
from yantai.work.common.who import SignedIn
from yantai.work.plan.kept import kept
from yantai.work.plan.views import FilledRow, FilledView

_FILLED: Kept[FilledView] = Kept(FilledView)


def read_filled(database: Database, who: SignedIn, batch_id: uuid.UUID) -> FilledView:
    """How many containers the amounts that are weighed or fixed fill, and for whom.

    Raises:
        Missing: there is no such batch here.
        Invalid: no amount is known.
        Closed: it is packed.
    """
    return kept(database, who, f"filled/{batch_id}", _FILLED, lambda session: _found(session, batch_id))


def _found(session: Session, batch_id: uuid.UUID) -> FilledView:
    computed = compute_open(session, batch_id)
    batch = computed.loaded.batch
    with located(""):
        found = how_many(
            computed.dishes,
            computed.classes,
            step_g=batch.step_g,
            sharing=batch.sharing,
        )
    names = {str(component.id): component.name for component in batch.components}
    return FilledView(
        rows=[
            FilledRow(row_id=row.id, name=plans.container_name(row), planned=row.count, fills=count)
            for row, count in zip(batch.classes, found.counts, strict=True)
        ],
        left=[f"{weight(left)} {names[key]}" for key, left in found.left_g.items() if left >= 0.5],
    )
