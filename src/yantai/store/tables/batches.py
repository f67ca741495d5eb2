"""Batches: container classes, pins, weighings, and the commands that changed them."""

from __future__ import annotations

import uuid
from datetime import date, datetime
from typing import Any

from sqlalchemy import (
    CheckConstraint,
    ForeignKey,
    Numeric,
    UniqueConstraint,
    func,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column, relationship

from yantai.core.foods.energy import Carbohydrate, EnergyRule
from yantai.core.planning.plan import Leftover
from yantai.core.planning.portioning import Place, Portioning, School
from yantai.core.portions.demand import Sharing
from yantai.store.tables.base import (
    HasFigures,
    Owned,
    carried,
    one_of,
    owned_table_args,
    portioning_columns,
    share,
    within,
    word,
)
from yantai.store.tables.clients import Client
from yantai.store.tables.recipes import Component, Recipe


class Batch(Owned):
    """Everything that is cooked in one go: dishes for some clients, and the components they are made of.

    A packed batch stands on the stored plan of its version. One that is put away, or deleted, is not in the lists.
    """

    __tablename__ = "batch"
    __table_args__ = owned_table_args(
        one_of("sharing", Sharing),
        one_of("leftover", Leftover),
        one_of("energy_rule", EnergyRule),
        one_of("carbohydrate", Carbohydrate),
    )

    name: Mapped[str]
    cook_on: Mapped[date]
    step_g: Mapped[float]
    buffer_share: Mapped[float] = mapped_column(share())
    sure_share: Mapped[float | None] = mapped_column(share())
    budget: Mapped[float | None] = mapped_column(Numeric(10, 2, asdecimal=False))
    """What one container may cost at most."""
    sharing: Mapped[Sharing] = word(Sharing, default="fair")
    leftover: Mapped[Leftover] = word(Leftover, default="keep")
    version: Mapped[int] = mapped_column(default=1)
    changed_at: Mapped[datetime] = mapped_column(server_default=func.now())
    changed_by: Mapped[str]
    packed_at: Mapped[datetime | None]
    put_away_at: Mapped[datetime | None]
    deleted_at: Mapped[datetime | None]
    energy_rule: Mapped[EnergyRule | None] = word(EnergyRule)
    carbohydrate: Mapped[Carbohydrate | None] = word(Carbohydrate)

    components: Mapped[list[Component]] = relationship(
        lazy="raise",
        order_by="Component.position",
        cascade="all, delete-orphan",
        passive_deletes=True,
        foreign_keys="Component.batch_id",
        primaryjoin="Batch.id == Component.batch_id",
    )
    dishes: Mapped[list[Dish]] = relationship(
        lazy="raise", order_by="Dish.position", cascade="all, delete-orphan", passive_deletes=True
    )
    classes: Mapped[list[ContainerClass]] = relationship(
        lazy="raise", order_by="ContainerClass.position", cascade="all, delete-orphan", passive_deletes=True
    )


class Dish(Owned):
    """Something that is eaten: components of its batch, and the recipe that it came from.

    `groups` say of how many of their parts a container takes, by name. What is `removed` of a batch, a dish, a part or
    containers, stays where the log can bring it back from.
    """

    __tablename__ = "dish"
    __table_args__ = owned_table_args(within("batch_id", "batch"), within("recipe_id", "recipe", ondelete="RESTRICT"))

    batch_id: Mapped[uuid.UUID] = mapped_column(index=True)
    position: Mapped[int]
    name: Mapped[str]
    recipe_id: Mapped[uuid.UUID]
    recipe_version: Mapped[int]
    groups: Mapped[dict[str, int]] = mapped_column(JSONB, server_default="{}")
    removed: Mapped[bool] = mapped_column(server_default="false")

    parts: Mapped[list[Part]] = relationship(
        lazy="raise", order_by="Part.position", cascade="all, delete-orphan", passive_deletes=True
    )
    recipe: Mapped[Recipe] = relationship(lazy="raise", viewonly=True)


class Part(Owned):
    """A component of the batch in one dish: how it gets into its containers, and its weight in the recipe as
    written."""

    __tablename__ = "part"
    __table_args__ = owned_table_args(
        within("dish_id", "dish"),
        within("component_id", "component"),
        UniqueConstraint("dish_id", "component_id"),
        CheckConstraint("minimum_g <= maximum_g", name="bounds"),
        one_of("school", School),
        one_of("place", Place),
    )

    dish_id: Mapped[uuid.UUID]
    component_id: Mapped[uuid.UUID] = mapped_column(index=True)
    position: Mapped[int]
    share_g: Mapped[float]
    removed: Mapped[bool] = mapped_column(server_default="false")
    portioning: Mapped[Portioning] = carried(Portioning, portioning_columns(nullable=False))


class ContainerClass(HasFigures, Owned):
    """Equal containers of a batch: one client, dish, slot and day type, with the target they were planned for.

    `chosen` are the components that they take of the groups of their dish.
    """

    __tablename__ = "container_class"
    __table_args__ = owned_table_args(
        within("batch_id", "batch"),
        within("client_id", "client", ondelete="RESTRICT"),
        within("dish_id", "dish"),
        CheckConstraint("count >= 0", name="count"),
    )

    batch_id: Mapped[uuid.UUID] = mapped_column(index=True)
    client_id: Mapped[uuid.UUID]
    dish_id: Mapped[uuid.UUID] = mapped_column(index=True)
    position: Mapped[int]
    slot: Mapped[str]
    day_type: Mapped[str]
    count: Mapped[int]
    capacity_ml: Mapped[float | None]
    capacity_g: Mapped[float | None]
    plate_g: Mapped[float | None]
    rank: Mapped[int] = mapped_column(server_default="0")
    helping: Mapped[float] = mapped_column(share(), server_default="1")
    chosen: Mapped[list[str]] = mapped_column(server_default="{}")
    removed: Mapped[bool] = mapped_column(server_default="false")
    packed_g: Mapped[dict[str, float] | None] = mapped_column(JSONB)
    taken: Mapped[dict[str, float | None] | None] = mapped_column(JSONB)
    """What the client's own target said when it was taken over, so that a later change of it can be told."""

    client: Mapped[Client] = relationship(lazy="raise", viewonly=True)
    pins: Mapped[list[Pin]] = relationship(lazy="raise", cascade="all, delete-orphan", passive_deletes=True)


class Pin(Owned):
    """Grams that the coach fixed in one cell of the plan."""

    __tablename__ = "pin"
    __table_args__ = owned_table_args(
        within("container_class_id", "container_class"),
        within("component_id", "component"),
        UniqueConstraint("container_class_id", "component_id"),
        CheckConstraint("grams >= 0", name="grams"),
    )

    container_class_id: Mapped[uuid.UUID]
    component_id: Mapped[uuid.UUID]
    grams: Mapped[float]


class StoredPlan(Owned):
    """A batch as it was computed at a version: its view, its open plan document and its line in lists, as JSON.

    Sentences are in the units of `spoken`. `basis` tells the state of what it was computed from besides the batch's
    own rows, and `engine` by which engine.
    """

    __tablename__ = "stored_plan"
    __table_args__ = owned_table_args(within("batch_id", "batch"), UniqueConstraint("batch_id", "version", "spoken"))

    batch_id: Mapped[uuid.UUID]
    version: Mapped[int]
    spoken: Mapped[str]
    engine: Mapped[int]
    basis: Mapped[str]
    view: Mapped[str] = mapped_column(deferred=True)
    document: Mapped[str] = mapped_column(deferred=True)
    brief: Mapped[str | None]
    made_at: Mapped[datetime] = mapped_column(server_default=func.now())


class KeptAnswer(Owned):
    """What was found by solving when it was asked, as JSON, in the units of `spoken`.

    It is right as long as the workspace is in the `state` that it was found in.
    """

    __tablename__ = "kept_answer"
    __table_args__ = owned_table_args(UniqueConstraint("workspace_id", "question", "spoken"))

    question: Mapped[str]
    spoken: Mapped[str]
    state: Mapped[str]
    answer: Mapped[str]


class Command(Owned):
    """A change of a batch that was made, one row for each. Rows are only ever added.

    The id follows from the one it was sent with, so it is made once; `digest` is that of its changes. `payload` are
    the changes as they were sent (none for what is no change that can be sent, which `note` tells), `inverse` what
    takes them back, and `named` the names that what they speak of had then. It was made on `base_version` and led to
    `version`; `happened_at` is the sender's clock, `made_at` ours.
    """

    __tablename__ = "command"
    __table_args__ = owned_table_args(within("batch_id", "batch"), UniqueConstraint("batch_id", "number"))

    batch_id: Mapped[uuid.UUID] = mapped_column(index=True)
    number: Mapped[int]
    digest: Mapped[str]
    payload: Mapped[list[Any] | None] = mapped_column(JSONB)
    inverse: Mapped[list[Any]] = mapped_column(JSONB)
    named: Mapped[dict[str, str]] = mapped_column(JSONB, server_default="{}")
    note: Mapped[str] = mapped_column(server_default="")
    undoes: Mapped[uuid.UUID | None]
    account_id: Mapped[uuid.UUID | None]
    made_by: Mapped[str] = mapped_column(server_default="")
    device: Mapped[str] = mapped_column(server_default="")
    base_version: Mapped[int | None]
    version: Mapped[int | None]
    happened_at: Mapped[datetime | None]
    made_at: Mapped[datetime]


class Weighing(Owned):
    """A cooked weight off the scale. Rows are only ever added; the newest of a component counts.

    A row without `cooked_g` withdraws the component's weight. `vessels` are the readings it came from; a row that
    `corrects` was recorded by somebody who knew those before it. `weighed_by` is a helper at whose side the account
    stands; "" is the account itself.
    """

    __tablename__ = "weighing"
    __table_args__ = owned_table_args(
        within("batch_id", "batch"),
        within("component_id", "component"),
        within("account_id", "account", ondelete="RESTRICT"),
        CheckConstraint("cooked_g > 0", name="cooked"),
    )

    number: Mapped[int] = mapped_column(server_default=func.nextval("weighing_number"), unique=True)
    batch_id: Mapped[uuid.UUID] = mapped_column(index=True)
    component_id: Mapped[uuid.UUID] = mapped_column(index=True)
    account_id: Mapped[uuid.UUID]
    weighed_by: Mapped[str] = mapped_column(server_default="")
    weighed_at: Mapped[datetime]
    cooked_g: Mapped[float | None]
    vessels: Mapped[list[Any]] = mapped_column(JSONB)
    removed_g: Mapped[float] = mapped_column(server_default="0")
    corrects: Mapped[bool] = mapped_column(server_default="false")
    yield_factor: Mapped[float | None] = mapped_column(share())
    food_id: Mapped[uuid.UUID | None] = mapped_column(ForeignKey("food.id", ondelete="RESTRICT"), index=True)
    method: Mapped[str] = mapped_column(server_default="")
    recipe_component_id: Mapped[uuid.UUID | None] = mapped_column(index=True)
