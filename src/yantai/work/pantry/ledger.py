"""The ledger of what is in the house: what is left of each lot, and what batches take of it."""

from __future__ import annotations

import uuid
from collections import defaultdict
from collections.abc import Collection, Mapping
from datetime import date, datetime

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from yantai.core.shopping.house import Entry, Lot, take
from yantai.store import tables
from yantai.work.common.who import SignedIn
from yantai.work.pantry.composition import root_id

LEAST_G = 0.05
"""Less of a food than rounds to a tenth of a gram is nothing."""


def lots_of(session: Session, food_ids: Collection[uuid.UUID]) -> dict[uuid.UUID, list[Lot]]:
    """What is in the house of some foods, by food: lots of which something is left [g]."""
    lot, entry = tables.Lot, tables.LotEntry
    left = func.sum(entry.grams)
    rows = session.execute(
        select(lot, left, func.min(entry.number))
        .join(entry, entry.lot_id == lot.id)
        .where(lot.food_id.in_(food_ids))
        .group_by(lot.id)
        .having(left > LEAST_G)
    )
    found: dict[uuid.UUID, list[Lot]] = defaultdict(list)
    for row, grams, arrived in rows:
        found[row.food_id].append(
            Lot(
                key=str(row.id),
                grams=float(grams),
                arrived=arrived,
                use_by=None if row.use_by is None else row.use_by.toordinal(),
                opened=row.opened,
            )
        )
    return found


def use_in_batch(
    session: Session, who: SignedIn, batch: tables.Batch, needs: Mapping[uuid.UUID, float], now: datetime
) -> None:
    """Take what a batch was cooked of [g by food] from the house, as far as it is there: what expires first.

    What lacks was bought without being written down; nothing is made up for it. Neither is anything doubled for a
    batch that was opened and is packed anew: `put_back` returned what it had taken.
    """
    foods = session.scalars(select(tables.Food).where(tables.Food.id.in_(needs)))
    wanted: dict[uuid.UUID, float] = defaultdict(float)
    for food in foods:
        wanted[root_id(food)] += needs[food.id]
    lots = lots_of(session, wanted)
    act = uuid.uuid4()
    for food_id in sorted(wanted):
        for one in take(wanted[food_id], lots.get(food_id, []), batch.cook_on.toordinal()):
            lot = session.get_one(tables.Lot, uuid.UUID(one.key))
            # Of a pack that was begun the rest is open.
            lot.opened = lot.opened or _is_begun(lot, one.grams)
            enter(session, who, lot.id, Entry.USED, -one.grams, act=act, now=now, batch_id=batch.id)
    session.flush()


def put_back(session: Session, who: SignedIn, batch: tables.Batch, now: datetime) -> None:
    """Return to the house what a batch had taken from it: it is open again, and cooked of nothing yet."""
    entry = tables.LotEntry
    query = (
        select(entry.lot_id, func.sum(entry.grams)).where(entry.batch_id == batch.id).group_by(entry.lot_id)
    ).order_by(entry.lot_id)
    act = uuid.uuid4()
    for lot_id, grams in session.execute(query).all():
        if grams:
            enter(session, who, lot_id, Entry.PUT_BACK, -float(grams), act=act, now=now, batch_id=batch.id)
    session.flush()


def enter(
    session: Session,
    who: SignedIn,
    lot_id: uuid.UUID,
    kind: Entry,
    grams: float,
    *,
    act: uuid.UUID,
    now: datetime,
    batch_id: uuid.UUID | None = None,
    undoes: uuid.UUID | None = None,
    note: str = "",
) -> None:
    """Add an entry [g] to the ledger."""
    session.add(
        tables.LotEntry(
            workspace_id=who.workspace_id,
            lot_id=lot_id,
            kind=kind,
            grams=grams,
            act=act,
            undoes=undoes,
            batch_id=batch_id,
            note=note,
            made_by=who.name,
            made_at=now,
        )
    )


def _is_begun(lot: tables.Lot, grams: float) -> bool:
    return lot.pack_g is None or abs(grams / lot.pack_g - round(grams / lot.pack_g)) * lot.pack_g > LEAST_G


def note_price(session: Session, who: SignedIn, pack: tables.Pack, noted_at: datetime) -> None:
    """Add what a pack costs to the history of prices, unless the newest there says the same."""
    if pack.price is None:
        return
    seen = tables.PriceSeen
    same = seen.food_id == pack.food_id, seen.pack == pack.name, seen.grams == pack.grams, seen.shop == pack.shop
    newest = session.scalars(select(seen).where(*same).order_by(seen.noted_at.desc()).limit(1)).first()
    if newest is not None and (newest.price, newest.seen_on) == (pack.price, pack.seen_on):
        return
    session.add(
        seen(
            workspace_id=who.workspace_id,
            food_id=pack.food_id,
            pack=pack.name,
            grams=pack.grams,
            shop=pack.shop,
            price=pack.price,
            seen_on=pack.seen_on,
            noted_at=noted_at,
        )
    )


def is_old(seen_on: date | None, today: date) -> bool:
    """Whether a price was seen so long ago that it may have changed; one without a day counts as old."""
    return seen_on is None or (today - seen_on).days > OLD_AFTER_DAYS


OLD_AFTER_DAYS = 90
