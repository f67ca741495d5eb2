"""Whether the containers of the house suffice for a batch, and what leaves the kitchen with it."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from datetime import datetime, timedelta

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from yantai.core.filling import Filling
from yantai.core.planning.containers import ContainerMove, Wanted, larger, set_out
from yantai.core.planning.portioning import Place
from yantai.core.storage.shelf import keeping
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.batches import stored
from yantai.work.batches.keeping import shelved
from yantai.work.batches.views import PlanRowView, PlanView
from yantai.work.common.errors import Invalid
from yantai.work.common.receipts import once
from yantai.work.common.who import SignedIn
from yantai.work.common.workspace import read_workspace
from yantai.work.containers.kinds import Stock, add_entry, full_batches, wanted
from yantai.work.containers.views import BatchContainersView, BulkView, LackView, LargerView
from yantai.work.fill.bench import filling_of, read_facts

COOL_IN_BULK = (
    "What is kept in bulk: shallow tubs, open until cold, in the fridge within 90 minutes at 5 °C or below; these days "
    "count from cooking, not from packing. Local rules prevail."
)


def read_batch_containers(database: Database, who: SignedIn, batch_id: uuid.UUID) -> BatchContainersView:
    """What a batch needs of the containers of the house, and what is lacking.

    Raises:
        Missing: there is no such batch.
    """
    with stored.reading(database, who, lambda session: [batch_id, *full_batches(session)]) as session:
        return _view(session, batch_id)


def _view(session: Session, batch_id: uuid.UUID) -> BatchContainersView:
    plan = stored.current_view(session, batch_id)
    stock = Stock.read(session, without=batch_id)
    filling = filling_of(read_facts(session, batch_id))
    handed_over = _handed_over(session, batch_id)
    rows = [wanted(row, _now(row, filling)) for row in _by_rank(plan.rows)]
    count = sum(one.count for one in rows)
    bulk = _bulk(session, plan, filling)
    return BatchContainersView(
        known=bool(stock.kinds),
        wanted=count,
        later=sum(row.count for row in plan.rows) - count,
        lacking=_lacking(stock, plan, rows) if stock.kinds and not handed_over else [],
        bulk=bulk,
        handed_over=handed_over,
        cautions=[COOL_IN_BULK] if bulk else [],
    )


def hand_over(database: Database, who: SignedIn, batch_id: uuid.UUID, now: datetime) -> BatchContainersView:
    """Write down that the containers of a packed batch have left the kitchen with their clients.

    Raises:
        Missing: there is no such batch.
        Invalid: it is not packed, its containers left already, or no kind of container is written down.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        batch = session.scalar(select(tables.Batch).where(tables.Batch.id == batch_id).with_for_update())
        if batch is None or batch.packed_at is None:
            raise Invalid("The containers leave when the batch is packed: fill them first.")
        if _handed_over(session, batch_id):
            raise Invalid("The containers of this batch have left already. What comes back is written down by kind.")
        stock = Stock.read(session, without=batch_id)
        if not stock.kinds:
            raise Invalid("No container of the house is written down yet: write down the kinds and how many there are.")
        plan = stored.current_view(session, batch_id)
        served = set_out(stock.empty, [wanted(row) for row in _by_rank(plan.rows)]).served
        rows = {str(row.id): row for row in plan.rows}
        taken: dict[tuple[str, uuid.UUID], int] = {}
        for key, got in served.items():
            for kind, count in got.of.items():
                who_gets = (kind, rows[key].client_id)
                taken[who_gets] = taken.get(who_gets, 0) + count
        if not taken:
            raise Invalid("None of the containers written down has a size that this batch was planned for.")
        for (kind, client_id), count in sorted(taken.items(), key=str):
            add_entry(session, who, uuid.UUID(kind), client_id, ContainerMove.OUT, count, now, batch_id)
        session.flush()
        return keep(_view(session, batch_id))


def _by_rank(rows: Sequence[PlanRowView]) -> list[PlanRowView]:
    return sorted(rows, key=lambda row: row.rank)


def _now(row: PlanRowView, filling: Filling) -> int:
    """How many of a row are filled now."""
    return min(row.count, filling.bulk_from.get(str(row.id), row.count + 1) - 1)


def _lacking(stock: Stock, plan: PlanView, wished: Sequence[Wanted]) -> list[LackView]:
    kinds = stock.empty
    found = set_out(kinds, wished)
    rows = {str(row.id): row for row in plan.rows}
    names = {str(kind.id): kind.name for kind in stock.kinds}
    lacking = []
    for one in wished:
        served, row = found.served[one.key], rows[one.key]
        if not served.lacks:
            continue
        fits = [kind for kind in stock.kinds if one.capacity_ml in (None, kind.ml) and kind.ml >= one.volume_ml]
        lacking.append(
            LackView(
                row_id=row.id,
                client=row.client,
                slot=row.slot,
                day_type=row.day_type,
                count=one.count,
                lacks=served.lacks,
                capacity_ml=row.capacity_ml,
                volume_ml=row.volume_ml,
                larger=[
                    LargerView(
                        kind_id=uuid.UUID(other.kind.key),
                        name=names[other.kind.key],
                        ml=other.kind.ml,
                        free=other.free,
                    )
                    for other in larger(kinds, found, one)
                ],
                away=sum(stock.away(kind) for kind in fits),
                now=one.count - served.lacks,
                bulk_from=one.count - served.lacks + 1,
            )
        )
    return lacking


def _bulk(session: Session, plan: PlanView, filling: Filling) -> list[BulkView]:
    """What stays in the pots for containers that are packed another day."""
    grams: dict[uuid.UUID, float] = {}
    outside = {
        (dish.id, part.component_id) for dish in plan.dishes for part in dish.parts if part.place is Place.AT_EATING
    }
    for row in plan.rows:
        later = row.count - _now(row, filling)
        for cell in row.cells:
            if later and cell.grams and (row.dish_id, cell.component_id) not in outside:
                grams[cell.component_id] = grams.get(cell.component_id, 0.0) + later * cell.grams
    if not grams:
        return []
    names = {component.id: component.name for component in plan.components}
    kept, rule = shelved(session, plan.batch.id), read_workspace(session).shelf_rule
    days = {key: keeping([kept[key].part], rule).fridge_days for key in grams}
    return [
        BulkView(
            component_id=key,
            name=names[key],
            grams=amount,
            days=days[key],
            until=None if days[key] is None else plan.batch.cook_on + timedelta(days=days[key] or 0),
        )
        for key, amount in grams.items()
    ]


def _handed_over(session: Session, batch_id: uuid.UUID) -> int:
    """How many containers have left with it."""
    entry = tables.ContainerEntry
    return int(session.scalar(select(func.coalesce(func.sum(entry.count), 0)).where(entry.batch_id == batch_id)) or 0)
