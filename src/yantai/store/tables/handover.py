"""Where containers wait, and on which day they are eaten."""

from __future__ import annotations

import uuid
from datetime import date, datetime

from sqlalchemy import BigInteger, CheckConstraint, Identity, UniqueConstraint
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from yantai.core.storage.calendar import Store
from yantai.core.storage.eating import EatingEvent
from yantai.store.tables.base import Owned, one_of, owned_table_args, share, within, word


class ShelfChoice(Owned):
    """A row of the shelf-life table that somebody chose for a component: rows are only ever added, the newest counts.

    Without a `category` it is matched by its foods again.
    """

    __tablename__ = "shelf_choice"
    __table_args__ = owned_table_args(within("component_id", "component"), UniqueConstraint("number"))

    number: Mapped[int] = mapped_column(BigInteger, Identity(always=True))
    component_id: Mapped[uuid.UUID] = mapped_column(index=True)
    recipe_component_id: Mapped[uuid.UUID | None] = mapped_column(index=True)
    category: Mapped[str | None]
    made_by: Mapped[str]
    made_at: Mapped[datetime]


class EatingStart(Owned):
    """The first day that a client eats of a batch, where somebody said it."""

    __tablename__ = "eating_start"
    __table_args__ = owned_table_args(
        within("batch_id", "batch"), within("client_id", "client"), UniqueConstraint("batch_id", "client_id")
    )

    batch_id: Mapped[uuid.UUID]
    client_id: Mapped[uuid.UUID] = mapped_column(index=True)
    first_on: Mapped[date]


class Placement(Owned):
    """The day on which a container is eaten and the place where it waits: rows are only ever added, the newest counts.

    `use_by` is the last day by the shelf life that was known then. A row without a day takes the container out of the
    calendar; one `by_hand` stays when the calendar is made anew.
    """

    __tablename__ = "placement"
    __table_args__ = owned_table_args(
        within("batch_id", "batch"),
        within("container_class_id", "container_class"),
        one_of("store", Store),
        CheckConstraint("container >= 1", name="container"),
        CheckConstraint("(eaten_on IS NULL) = (store IS NULL)", name="place"),
        UniqueConstraint("number"),
    )

    number: Mapped[int] = mapped_column(BigInteger, Identity(always=True))
    batch_id: Mapped[uuid.UUID] = mapped_column(index=True)
    container_class_id: Mapped[uuid.UUID] = mapped_column(index=True)
    container: Mapped[int]
    eaten_on: Mapped[date | None]
    store: Mapped[Store | None] = word(Store)
    use_by: Mapped[date | None]
    by_hand: Mapped[bool]
    made_by: Mapped[str]
    made_at: Mapped[datetime]


class PrintJob(Owned):
    """Labels that were sent to the label printer, as they were; without `printed_at` they wait for it."""

    __tablename__ = "print_job"
    __table_args__ = owned_table_args(
        within("batch_id", "batch"), CheckConstraint("labels > 0", name="labels"), UniqueConstraint("number")
    )

    number: Mapped[int] = mapped_column(BigInteger, Identity(always=True))
    batch_id: Mapped[uuid.UUID] = mapped_column(index=True)
    title: Mapped[str]
    labels: Mapped[int]
    pdf: Mapped[bytes]
    made_by: Mapped[str]
    made_at: Mapped[datetime]
    printed_at: Mapped[datetime | None]


class ClientLink(Owned):
    """A link by which a client opens their own page without an account. Only hashes of its secrets are kept.

    `feed_hash` is that of the address of its calendar. `seen_at` is when it was last opened, `opened` how often.
    """

    __tablename__ = "client_link"
    __table_args__ = owned_table_args(within("client_id", "client"), within("account_id", "account"))

    client_id: Mapped[uuid.UUID] = mapped_column(index=True)
    account_id: Mapped[uuid.UUID]
    token_hash: Mapped[str] = mapped_column(unique=True)
    feed_hash: Mapped[str] = mapped_column(unique=True)
    shows_macros: Mapped[bool]
    made_by: Mapped[str]
    made_at: Mapped[datetime]
    expires_at: Mapped[datetime]
    revoked_at: Mapped[datetime | None]
    seen_at: Mapped[datetime | None]
    opened: Mapped[int] = mapped_column(server_default="0")


class EatingFact(Owned):
    """What became of a container: rows are only ever added, the newest of a container counts.

    `left_g` was left of it [g], `left_share` where that was said as a share, `left_parts` of
    each component [g] where it was told by part. `by_client` it was told on their own page.
    """

    __tablename__ = "eating_fact"
    __table_args__ = owned_table_args(
        within("batch_id", "batch"),
        within("container_class_id", "container_class"),
        one_of("event", EatingEvent),
        CheckConstraint("container >= 1", name="container"),
        CheckConstraint("left_g >= 0 AND left_share >= 0 AND left_share <= 1", name="left"),
        UniqueConstraint("number"),
    )

    number: Mapped[int] = mapped_column(BigInteger, Identity(always=True))
    batch_id: Mapped[uuid.UUID] = mapped_column(index=True)
    container_class_id: Mapped[uuid.UUID] = mapped_column(index=True)
    container: Mapped[int]
    event: Mapped[EatingEvent] = word(EatingEvent)
    left_g: Mapped[float | None]
    left_share: Mapped[float | None] = mapped_column(share())
    left_parts: Mapped[dict[str, float]] = mapped_column(JSONB, server_default="{}")
    by_client: Mapped[bool]
    made_by: Mapped[str]
    happened_at: Mapped[datetime]
    made_at: Mapped[datetime]


class ClientWord(Owned):
    """A word of a client to the coach."""

    __tablename__ = "client_word"
    __table_args__ = owned_table_args(within("client_id", "client"))

    client_id: Mapped[uuid.UUID] = mapped_column(index=True)
    text: Mapped[str]
    made_at: Mapped[datetime]
    read_at: Mapped[datetime | None]
