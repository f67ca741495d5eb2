"""The containers of the house, and where they are."""

from __future__ import annotations

import uuid
from datetime import datetime

from sqlalchemy import CheckConstraint
from sqlalchemy.orm import Mapped, mapped_column

from yantai.core.planning.containers import ContainerMove
from yantai.store.tables.base import Owned, one_of, owned_table_args, within, word


class ContainerKind(Owned):
    """A kind of container: what one holds [ml] and weighs empty, its lid apart [g], what it stands, how many there are,
    and the deposit on each in the money of the kitchen. One that is put away is in no list."""

    __tablename__ = "container_kind"
    __table_args__ = owned_table_args(
        CheckConstraint("ml > 0 AND empty_g > 0 AND lid_g > 0", name="sizes"),
        CheckConstraint("owned >= 0", name="owned"),
        CheckConstraint("deposit > 0", name="deposit"),
    )

    name: Mapped[str]
    ml: Mapped[float]
    empty_g: Mapped[float | None]
    lid_g: Mapped[float | None]
    freezer: Mapped[bool]
    oven: Mapped[bool]
    microwave: Mapped[bool]
    dishwasher: Mapped[bool]
    owned: Mapped[int]
    deposit: Mapped[float | None]
    made_at: Mapped[datetime]
    put_away_at: Mapped[datetime | None]


class ContainerEntry(Owned):
    """Containers that went out with a client, came back or were lost: rows are only ever added."""

    __tablename__ = "container_entry"
    __table_args__ = owned_table_args(
        within("container_kind_id", "container_kind"),
        within("client_id", "client"),
        within("batch_id", "batch"),
        one_of("move", ContainerMove),
        CheckConstraint("count > 0", name="count"),
    )

    container_kind_id: Mapped[uuid.UUID] = mapped_column(index=True)
    client_id: Mapped[uuid.UUID] = mapped_column(index=True)
    batch_id: Mapped[uuid.UUID | None] = mapped_column(index=True)
    move: Mapped[ContainerMove] = word(ContainerMove)
    count: Mapped[int]
    made_by: Mapped[str]
    made_at: Mapped[datetime]
