"""Kitchens with their equipment and people, and the day on which a batch is cooked in one."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Any

from sqlalchemy import BigInteger, CheckConstraint, Identity, UniqueConstraint, func
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column, relationship

from yantai.core.schedule.day import Skill
from yantai.core.schedule.kitchen import Kind
from yantai.core.schedule.live import CookEvent
from yantai.store.tables.base import Owned, one_of, owned_table_args, share, within, word


class Kitchen(Owned):
    """A place to cook in. One that is put away is in no list, and stays with the days that were cooked there."""

    __tablename__ = "kitchen"
    __table_args__ = owned_table_args()

    name: Mapped[str]
    version: Mapped[int] = mapped_column(default=1)
    put_away_at: Mapped[datetime | None]

    items: Mapped[list[KitchenItem]] = relationship(
        lazy="raise", order_by="KitchenItem.position", cascade="all, delete-orphan", passive_deletes=True
    )
    people: Mapped[list[KitchenPerson]] = relationship(
        lazy="raise", order_by="KitchenPerson.position", cascade="all, delete-orphan", passive_deletes=True
    )


class KitchenItem(Owned):
    """Equipment of one kind and size. One that is `within` another one blocks it while it runs."""

    __tablename__ = "kitchen_item"
    __table_args__ = owned_table_args(
        within("kitchen_id", "kitchen"),
        one_of("kind", Kind),
        CheckConstraint("count >= 0 AND places >= 1", name="count"),
    )

    kitchen_id: Mapped[uuid.UUID] = mapped_column(index=True)
    position: Mapped[int]
    kind: Mapped[Kind] = word(Kind)
    name: Mapped[str]
    count: Mapped[int]
    places: Mapped[int]
    capacity_l: Mapped[float | None]
    meat_g: Mapped[float | None]
    vegetables_g: Mapped[float | None]
    grain_g: Mapped[float | None]
    most_c: Mapped[float | None]
    within_id: Mapped[uuid.UUID | None]


_SKILLS = ", ".join(f"'{skill.value}'" for skill in Skill)


class KitchenPerson(Owned):
    """Somebody who cooks here: what this person does, and how long hands take as a share of the stated minutes."""

    __tablename__ = "kitchen_person"
    __table_args__ = owned_table_args(
        within("kitchen_id", "kitchen"),
        CheckConstraint(f"does <@ ARRAY[{_SKILLS}]", name="does"),
        CheckConstraint("pace > 0", name="pace"),
    )

    kitchen_id: Mapped[uuid.UUID] = mapped_column(index=True)
    position: Mapped[int]
    name: Mapped[str]
    does: Mapped[list[str]]
    pace: Mapped[float] = mapped_column(share())


class CookDay(Owned):
    """How a batch is cooked: in which kitchen, from when, ready by when. Minutes count from midnight of its day."""

    __tablename__ = "cook_day"
    __table_args__ = owned_table_args(
        within("batch_id", "batch"),
        within("kitchen_id", "kitchen", ondelete="RESTRICT"),
        UniqueConstraint("batch_id"),
    )

    batch_id: Mapped[uuid.UUID]
    kitchen_id: Mapped[uuid.UUID] = mapped_column(index=True)
    version: Mapped[int] = mapped_column(default=1)
    start_min: Mapped[int]
    ready_by_min: Mapped[int | None]
    share_oven: Mapped[bool]

    presences: Mapped[list[Presence]] = relationship(
        lazy="raise", order_by="Presence.start_min", cascade="all, delete-orphan", passive_deletes=True
    )


class Presence(Owned):
    """When somebody is there on a cook day; an appointment or a break is what lies between two of them."""

    __tablename__ = "presence"
    __table_args__ = owned_table_args(
        within("cook_day_id", "cook_day"),
        within("person_id", "kitchen_person"),
        CheckConstraint("start_min < end_min", name="span"),
    )

    cook_day_id: Mapped[uuid.UUID] = mapped_column(index=True)
    person_id: Mapped[uuid.UUID] = mapped_column(index=True)
    start_min: Mapped[int]
    end_min: Mapped[int]


class CookOrder(Owned):
    """The order of work that was found for a batch, as JSON; `digest` tells what for, `facts` the last of what had
    happened by then, `planned_ready_min` when all was to be ready as the day began."""

    __tablename__ = "cook_order"
    __table_args__ = owned_table_args(within("batch_id", "batch"), UniqueConstraint("batch_id"))

    batch_id: Mapped[uuid.UUID]
    digest: Mapped[str]
    found: Mapped[dict[str, Any]] = mapped_column(JSONB)
    facts: Mapped[int] = mapped_column(BigInteger, server_default="0")
    planned_ready_min: Mapped[int | None]
    made_at: Mapped[datetime] = mapped_column(server_default=func.now())


class CookFact(Owned):
    """Something that happened on a cook day: rows are only ever added.

    `task` is the key of a task of the order of work, the id of a component for what is measured, or of another fact
    for what is taken back. What the scale reads [g] is with the vessel and all, which weighs `vessel_g` empty as it was
    known then. `happened_at` is told by the clock of the device as far as it can be believed, `made_at` by
    ours.
    """

    __tablename__ = "cook_fact"
    __table_args__ = owned_table_args(
        within("batch_id", "batch"), one_of("event", CookEvent), UniqueConstraint("number")
    )

    number: Mapped[int] = mapped_column(BigInteger, Identity(always=True))
    batch_id: Mapped[uuid.UUID] = mapped_column(index=True)
    task: Mapped[str]
    event: Mapped[CookEvent] = word(CookEvent)
    minutes: Mapped[int | None]
    touch: Mapped[int | None]
    person_id: Mapped[uuid.UUID | None]
    celsius: Mapped[float | None]
    grams: Mapped[float | None]
    vessel_g: Mapped[float | None]
    vessel: Mapped[str] = mapped_column(server_default="")
    text: Mapped[str]
    made_by: Mapped[str]
    device: Mapped[str]
    happened_at: Mapped[datetime]
    made_at: Mapped[datetime]


class StepTime(Owned):
    """How long a task took on a cook day against what was stated for it [min], read off its facts.

    `learns` is what it tells about: a row of the usual times, or a step of a component of a recipe; `says` its words.
    `planned_min` is as stated, before anything was learned, for whoever works at the usual pace.
    """

    __tablename__ = "step_time"
    __table_args__ = owned_table_args(
        within("batch_id", "batch"),
        UniqueConstraint("batch_id", "task"),
        CheckConstraint("planned_min > 0 AND took_min > 0", name="minutes"),
    )

    batch_id: Mapped[uuid.UUID]
    task: Mapped[str]
    learns: Mapped[str] = mapped_column(index=True)
    says: Mapped[str]
    person_id: Mapped[uuid.UUID | None]
    planned_min: Mapped[float]
    took_min: Mapped[float]
    happened_at: Mapped[datetime]


class CalendarFeed(Owned):
    """A calendar of what is to be begun and cooked, read by whoever knows its address. Only its hash is kept."""

    __tablename__ = "calendar_feed"
    __table_args__ = owned_table_args(within("account_id", "account"), UniqueConstraint("workspace_id"))

    account_id: Mapped[uuid.UUID]
    token_hash: Mapped[str] = mapped_column(unique=True)
    made_at: Mapped[datetime]
    read_at: Mapped[datetime | None]
