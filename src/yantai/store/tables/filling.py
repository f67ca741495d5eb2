"""What happens at the scale while containers are filled."""

from __future__ import annotations

import uuid
from datetime import datetime

from sqlalchemy import BigInteger, CheckConstraint, Identity, UniqueConstraint
from sqlalchemy.orm import Mapped, mapped_column

from yantai.core.filling.facts import Fate, FillEvent, Way
from yantai.store.tables.base import Owned, one_of, owned_table_args, within, word


class FillFact(Owned):
    """Something that happened at the scale: rows are only ever added.

    `container_class_id` and `container` say which one of equal containers, `component_id` which part of it, the first
    component of a mixture; a fact about a pot has no container. `asked_g` is what the screen asked for, on plan
    `version`. `after` is the fact about the same part that was known there, `of` the one that is taken back.
    `happened_at` is told by the clock of the device as far as it can be believed, `made_at` by ours.
    """

    __tablename__ = "fill_fact"
    __table_args__ = owned_table_args(
        within("batch_id", "batch"),
        one_of("event", FillEvent),
        one_of("way", Way),
        one_of("fate", Fate),
        CheckConstraint("(container_class_id IS NULL) = (container IS NULL) AND container >= 1", name="container"),
        CheckConstraint("grams >= 0 AND unsure_g >= 0", name="grams"),
        UniqueConstraint("number"),
    )

    number: Mapped[int] = mapped_column(BigInteger, Identity(always=True))
    batch_id: Mapped[uuid.UUID] = mapped_column(index=True)
    event: Mapped[FillEvent] = word(FillEvent)
    container_class_id: Mapped[uuid.UUID | None]
    container: Mapped[int | None]
    component_id: Mapped[uuid.UUID | None]
    grams: Mapped[float]
    unsure_g: Mapped[float]
    asked_g: Mapped[float | None]
    units: Mapped[float | None]
    way: Mapped[Way | None] = word(Way)
    after: Mapped[uuid.UUID | None]
    of: Mapped[uuid.UUID | None]
    fate: Mapped[Fate | None] = word(Fate)
    client_id: Mapped[uuid.UUID | None]
    text: Mapped[str]
    took_s: Mapped[float | None]
    version: Mapped[int]
    made_by: Mapped[str]
    device: Mapped[str]
    happened_at: Mapped[datetime]
    made_at: Mapped[datetime]
