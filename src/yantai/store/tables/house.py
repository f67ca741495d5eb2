"""What is in the house, and what was paid for it."""

from __future__ import annotations

import uuid
from datetime import date, datetime
from typing import Any

from sqlalchemy import BigInteger, CheckConstraint, ForeignKey, Identity, Numeric, UniqueConstraint
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from yantai.core.shopping.house import Entry, Keeping
from yantai.core.shopping.trip import TripEvent
from yantai.store.tables.base import Owned, one_of, owned_table_args, within, word


class Lot(Owned):
    """So much of a food that came into the house at once; what is left of it is the sum of its entries.

    `words` are those that it was written down by, `pack_g` what one pack or bag of it holds [g, drained where the food
    is], `paid` the price of all of it.
    """

    __tablename__ = "lot"
    __table_args__ = owned_table_args(
        one_of("place", Keeping),
        CheckConstraint("pack_g > 0", name="pack"),
        CheckConstraint("paid >= 0", name="paid"),
    )

    food_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("food.id", ondelete="RESTRICT"), index=True)
    words: Mapped[str]
    pack_g: Mapped[float | None]
    place: Mapped[Keeping] = word(Keeping)
    opened: Mapped[bool]
    use_by: Mapped[date | None]
    frozen_on: Mapped[date | None]
    paid: Mapped[float | None] = mapped_column(Numeric(10, 2, asdecimal=False))
    arrived_at: Mapped[datetime]


class LotEntry(Owned):
    """What happened to a lot: rows are only ever added.

    `grams` is what it changed by [g]. Entries of one `act` were made together, and are taken back together by an act
    that `undoes` it.
    """

    __tablename__ = "lot_entry"
    __table_args__ = owned_table_args(
        within("lot_id", "lot"),
        within("batch_id", "batch"),
        one_of("kind", Entry),
        UniqueConstraint("number"),
    )

    number: Mapped[int] = mapped_column(BigInteger, Identity(always=True))
    lot_id: Mapped[uuid.UUID] = mapped_column(index=True)
    kind: Mapped[Entry] = word(Entry)
    grams: Mapped[float]
    act: Mapped[uuid.UUID] = mapped_column(index=True)
    undoes: Mapped[uuid.UUID | None]
    batch_id: Mapped[uuid.UUID | None] = mapped_column(index=True)
    note: Mapped[str]
    made_by: Mapped[str]
    made_at: Mapped[datetime]


class Staple(Owned):
    """A coach's answer whether a food is always in the house: such a one is not on the list each time."""

    __tablename__ = "staple"
    __table_args__ = owned_table_args(UniqueConstraint("workspace_id", "food_id"))

    food_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("food.id", ondelete="CASCADE"), index=True)
    is_always_there: Mapped[bool]


class PriceSeen(Owned):
    """A price that a pack had on a day in a shop: rows are only ever added. None: nobody wrote down when."""

    __tablename__ = "price_seen"
    __table_args__ = owned_table_args(CheckConstraint("grams > 0", name="weight"))

    food_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("food.id", ondelete="CASCADE"), index=True)
    pack: Mapped[str]
    grams: Mapped[float]
    shop: Mapped[str]
    price: Mapped[float] = mapped_column(Numeric(10, 2, asdecimal=False))
    seen_on: Mapped[date | None]
    noted_at: Mapped[datetime]


class Trip(Owned):
    """A trip to the shops for some batches: what was to buy when it began, and what it cost.

    `needed` are the grams to buy by food when it began, so that a plan that changes meanwhile is told; with what is
    added at eating and the extras of clients' days, or without.
    """

    __tablename__ = "trip"
    __table_args__ = owned_table_args(CheckConstraint("paid >= 0", name="paid"))

    started_at: Mapped[datetime]
    started_by: Mapped[str]
    with_fresh: Mapped[bool] = mapped_column(server_default="true")
    with_extras: Mapped[bool] = mapped_column(server_default="false")
    needed: Mapped[dict[str, float]] = mapped_column(JSONB)
    finished_at: Mapped[datetime | None]
    paid: Mapped[float | None] = mapped_column(Numeric(10, 2, asdecimal=False))
    paid_items: Mapped[dict[str, float]] = mapped_column(JSONB, server_default="{}")
    act: Mapped[uuid.UUID | None]
    """By which what was bought came into the house."""
    shown: Mapped[dict[str, Any] | None] = mapped_column(JSONB)
    """What the list showed when it was finished: what is bought is in the house from then on."""


class TripBatch(Owned):
    """A batch that is bought for on a trip."""

    __tablename__ = "trip_batch"
    __table_args__ = owned_table_args(
        within("trip_id", "trip"), within("batch_id", "batch"), UniqueConstraint("trip_id", "batch_id")
    )

    trip_id: Mapped[uuid.UUID] = mapped_column(index=True)
    batch_id: Mapped[uuid.UUID] = mapped_column(index=True)


class TripEntry(Owned):
    """What somebody noted about an item of a trip: rows are only ever added.

    `item` is the id of its food, or one of its own where it was added by hand. `happened_at` is told by the clock of
    the phone as far as it can be believed, `made_at` by ours.
    """

    __tablename__ = "trip_entry"
    __table_args__ = owned_table_args(within("trip_id", "trip"), one_of("event", TripEvent), UniqueConstraint("number"))

    number: Mapped[int] = mapped_column(BigInteger, Identity(always=True))
    trip_id: Mapped[uuid.UUID] = mapped_column(index=True)
    item: Mapped[uuid.UUID]
    event: Mapped[TripEvent] = word(TripEvent)
    bought: Mapped[dict[str, Any] | None] = mapped_column(JSONB)
    text: Mapped[str]
    made_by: Mapped[str]
    happened_at: Mapped[datetime]
    made_at: Mapped[datetime]
