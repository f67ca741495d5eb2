"""Scales and thermometers of a kitchen."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import CheckConstraint
from sqlalchemy.orm import Mapped, mapped_column

from yantai.devices.device import Connection, InstrumentKind, Talk
from yantai.store.tables.base import Owned, one_of, owned_table_args, word


class Instrument(Owned):
    """A scale or a thermometer by its name: how it is reached, how it talks, and what it can weigh [g]. One that is put
    away is in no list."""

    __tablename__ = "instrument"
    __table_args__ = owned_table_args(
        one_of("kind", InstrumentKind),
        one_of("connection", Connection),
        one_of("talk", Talk),
        CheckConstraint("step_g > 0 AND capacity_g > 0", name="weights"),
    )

    name: Mapped[str]
    kind: Mapped[InstrumentKind] = word(InstrumentKind)
    connection: Mapped[Connection] = word(Connection)
    talk: Mapped[Talk] = word(Talk)
    port: Mapped[str] = mapped_column(server_default="")
    baud: Mapped[int]
    silent_unit: Mapped[str]
    capacity_g: Mapped[float | None]
    step_g: Mapped[float]
    put_away_at: Mapped[datetime | None]
