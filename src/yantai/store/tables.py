"""The tables. Every row belongs to a workspace; shared reference rows have none and are read-only."""

from __future__ import annotations

import uuid
from datetime import date, datetime
from typing import Any, ClassVar

from sqlalchemy import (
    CheckConstraint,
    DateTime,
    Double,
    ForeignKey,
    ForeignKeyConstraint,
    MetaData,
    Numeric,
    Text,
    UniqueConstraint,
    func,
)
from sqlalchemy.dialects.postgresql import ARRAY, JSONB
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column, relationship

NAMING = {
    "pk": "pk_%(table_name)s",
    "ix": "ix_%(table_name)s_%(column_0_N_name)s",
    "uq": "uq_%(table_name)s_%(column_0_N_name)s",
    "fk": "fk_%(table_name)s_%(column_0_N_name)s_%(referred_table_name)s",
    "ck": "ck_%(table_name)s_%(constraint_name)s",
}


def grams() -> Numeric[float]:
    """Exact in the database, float in the computation; milligrams are the finest step."""
    return Numeric(12, 3, asdecimal=False)


def share() -> Numeric[float]:
    """A share or a factor."""
    return Numeric(9, 6, asdecimal=False)


class Base(DeclarativeBase):
    """Base of all tables."""

    metadata = MetaData(naming_convention=NAMING)
    type_annotation_map: ClassVar[dict[Any, Any]] = {
        str: Text,
        datetime: DateTime(timezone=True),
        list[str]: ARRAY(Text),
        float: grams(),
    }


class Row(Base):
    """What every row has."""

    __abstract__ = True

    id: Mapped[uuid.UUID] = mapped_column(primary_key=True, default=uuid.uuid4)


class Owned(Row):
    """A row of one workspace. `(workspace_id, id)` is what other rows refer to, so none refers across."""

    __abstract__ = True

    workspace_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("workspace.id", ondelete="CASCADE"))


class Aims:
    """Figures of a container or a day: what is aimed at, and limits on one side. None is not aimed at."""

    kcal: Mapped[float | None]
    protein_g: Mapped[float | None]
    carbohydrate_g: Mapped[float | None]
    fat_g: Mapped[float | None]
    fibre_g: Mapped[float | None]
    saturated_g: Mapped[float | None]
    sodium_mg: Mapped[float | None]


def owned_table_args(*more: Any) -> tuple[Any, ...]:
    """Arguments of an owned table: its own key for references within the workspace, and `more`."""
    return (UniqueConstraint("workspace_id", "id"), *more)


def within(column: str, table: str, *, ondelete: str = "CASCADE") -> ForeignKeyConstraint:
    """A reference to a row of `table` in the same workspace."""
    return ForeignKeyConstraint(["workspace_id", column], [f"{table}.workspace_id", f"{table}.id"], ondelete=ondelete)


def one_of(column: str, *words: str) -> CheckConstraint:
    """What a column of text may hold."""
    known = ", ".join(f"'{word}'" for word in words)
    return CheckConstraint(f"{column} IN ({known})", name=column)


ENERGY_RULES = ("general", "net", "eu", "label")
CARBOHYDRATE = ("total", "available")


class Workspace(Row):
    """One coach's kitchen."""

    __tablename__ = "workspace"
    __table_args__ = (
        one_of("spoons", "us", "metric", "australian", "imperial"),
        one_of("energy_rule", *ENERGY_RULES),
        one_of("carbohydrate", *CARBOHYDRATE),
    )

    name: Mapped[str]
    created_at: Mapped[datetime] = mapped_column(server_default=func.now())
    spoons: Mapped[str] = mapped_column(server_default="metric")
    energy_rule: Mapped[str] = mapped_column(server_default="general")
    carbohydrate: Mapped[str] = mapped_column(server_default="total")
    free_foods: Mapped[list[str]] = mapped_column(server_default="{}")
    foods_version: Mapped[int] = mapped_column(server_default="0")


class Account(Owned):
    """Someone who signs in."""

    __tablename__ = "account"
    __table_args__ = owned_table_args(
        one_of("mass_unit", "g", "oz"), one_of("temperature_unit", "C", "F"), one_of("energy_unit", "kcal", "kJ")
    )

    email: Mapped[str] = mapped_column(unique=True)
    name: Mapped[str]
    password_hash: Mapped[str]
    mass_unit: Mapped[str] = mapped_column(server_default="g")
    temperature_unit: Mapped[str] = mapped_column(server_default="C")
    energy_unit: Mapped[str] = mapped_column(server_default="kcal")


class LoginSession(Owned):
    """A signed-in browser. Only the hash of its token is kept."""

    __tablename__ = "login_session"
    __table_args__ = owned_table_args(within("account_id", "account"))

    account_id: Mapped[uuid.UUID]
    token_hash: Mapped[str] = mapped_column(unique=True)
    csrf_token: Mapped[str]
    expires_at: Mapped[datetime]


class Food(Row):
    """A food in one state; amounts per 100 g edible portion, None where the source states none.

    An own food that is edited leaves its old figures behind as a row that is `superseded_by` it: batches that were
    made with those keep them.
    """

    __tablename__ = "food"
    __table_args__ = (
        CheckConstraint(
            # Rounded figures of a tiny serving may add up to more; what they can truly be was checked on reading.
            "coalesce(protein_g, 0) + coalesce(carbohydrate_g, 0) + coalesce(fat_g, 0) <= 101 OR slack <> '{}'",
            name="macros_fit",
        ),
        one_of("state", "raw", "dry", "cooked", "canned-drained", "as-sold", "frozen"),
        one_of("carbohydrate", *CARBOHYDRATE),
    )

    workspace_id: Mapped[uuid.UUID | None] = mapped_column(ForeignKey("workspace.id", ondelete="CASCADE"))
    reference: Mapped[str | None] = mapped_column(unique=True)
    name: Mapped[str]
    food_group: Mapped[str] = mapped_column(index=True)
    state: Mapped[str]
    method: Mapped[str]
    stated_kcal: Mapped[float | None]
    protein_g: Mapped[float | None]
    carbohydrate_g: Mapped[float | None]
    fat_g: Mapped[float | None]
    fibre_g: Mapped[float | None]
    sugars_g: Mapped[float | None]
    saturated_g: Mapped[float | None]
    sodium_mg: Mapped[float | None]
    alcohol_g: Mapped[float | None]
    polyols_g: Mapped[float | None]
    carbohydrate: Mapped[str] = mapped_column(server_default="total")
    slack: Mapped[dict[str, Any]] = mapped_column(JSONB, server_default="{}")
    label: Mapped[dict[str, Any] | None] = mapped_column(JSONB)
    version: Mapped[int] = mapped_column(server_default="1")
    superseded_by: Mapped[uuid.UUID | None] = mapped_column(ForeignKey("food.id", ondelete="CASCADE"), index=True)
    copied_from: Mapped[uuid.UUID | None] = mapped_column(ForeignKey("food.id", ondelete="SET NULL"))
    archived_at: Mapped[datetime | None]
    allergens: Mapped[list[str]]
    diet_tags: Mapped[list[str]]
    source: Mapped[str]
    source_detail: Mapped[str]
    note: Mapped[str]
    weak: Mapped[bool]
    search_text: Mapped[str]


class Measure(Row):
    """A household measure of a food."""

    __tablename__ = "measure"

    workspace_id: Mapped[uuid.UUID | None] = mapped_column(ForeignKey("workspace.id", ondelete="CASCADE"))
    food_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("food.id", ondelete="CASCADE"), index=True)
    name: Mapped[str]
    grams: Mapped[float]
    source: Mapped[str]
    note: Mapped[str]


class YieldFactor(Row):
    """Cooked over edible weight of a food, or of a food group, by method."""

    __tablename__ = "yield_factor"
    __table_args__ = (
        CheckConstraint("(food_id IS NULL) <> (food_group IS NULL)", name="food_or_group"),
        CheckConstraint("low <= expected AND expected <= high", name="range"),
    )

    workspace_id: Mapped[uuid.UUID | None] = mapped_column(ForeignKey("workspace.id", ondelete="CASCADE"))
    food_id: Mapped[uuid.UUID | None] = mapped_column(ForeignKey("food.id", ondelete="CASCADE"), index=True)
    food_group: Mapped[str | None]
    method: Mapped[str]
    low: Mapped[float] = mapped_column(share())
    expected: Mapped[float] = mapped_column(share())
    high: Mapped[float] = mapped_column(share())
    basis: Mapped[str]
    note: Mapped[str]


class RawCookedPair(Row):
    """A raw food and the table's cooked entry of the same food."""

    __tablename__ = "raw_cooked_pair"

    workspace_id: Mapped[uuid.UUID | None] = mapped_column(ForeignKey("workspace.id", ondelete="CASCADE"))
    raw_food_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("food.id", ondelete="CASCADE"), index=True)
    cooked_food_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("food.id", ondelete="CASCADE"), index=True)
    method: Mapped[str]
    balance_yield: Mapped[float | None] = mapped_column(share())
    note: Mapped[str]


class EdiblePortion(Row):
    """The share that is not eaten of a food as bought. It is offered, never applied silently."""

    __tablename__ = "edible_portion"

    workspace_id: Mapped[uuid.UUID | None] = mapped_column(ForeignKey("workspace.id", ondelete="CASCADE"))
    food_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("food.id", ondelete="CASCADE"), index=True)
    refuse_share: Mapped[float] = mapped_column(share())
    note: Mapped[str]
    source: Mapped[str]


class Pack(Owned):
    """A pack in which a food is bought: net weight, drained weight where it is drained, price."""

    __tablename__ = "pack"
    __table_args__ = owned_table_args(
        CheckConstraint("grams > 0", name="weight"), CheckConstraint("drained_g <= grams", name="drained")
    )

    food_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("food.id", ondelete="CASCADE"), index=True)
    name: Mapped[str]
    grams: Mapped[float]
    drained_g: Mapped[float | None]
    price: Mapped[float | None] = mapped_column(Numeric(10, 2, asdecimal=False))


class FoodWord(Owned):
    """The food that some words of a recipe line mean here, as the coach answered."""

    __tablename__ = "food_word"
    __table_args__ = owned_table_args(UniqueConstraint("workspace_id", "words"))

    words: Mapped[str]
    food_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("food.id", ondelete="CASCADE"))


class Vessel(Owned):
    """A pan, tray or bowl of the kitchen: its empty weight, and what it holds."""

    __tablename__ = "vessel"
    __table_args__ = owned_table_args(CheckConstraint("empty_g > 0", name="weight"))

    name: Mapped[str]
    empty_g: Mapped[float]
    capacity_g: Mapped[float | None]


class Client(Owned):
    """Someone who eats."""

    __tablename__ = "client"
    __table_args__ = owned_table_args()

    name: Mapped[str]
    note: Mapped[str]
    allergens: Mapped[list[str]]
    dislikes: Mapped[list[str]]
    exclusions: Mapped[list[str]] = mapped_column(server_default="{}")
    tolerance_kcal: Mapped[float]
    tolerance_protein_g: Mapped[float]
    tolerance_carbohydrate_g: Mapped[float]
    tolerance_fat_g: Mapped[float]
    tolerance_percent: Mapped[bool] = mapped_column(server_default="false")
    priority_kcal: Mapped[float] = mapped_column(server_default="2")
    priority_protein_g: Mapped[float] = mapped_column(server_default="2")
    priority_carbohydrate_g: Mapped[float] = mapped_column(server_default="1")
    priority_fat_g: Mapped[float] = mapped_column(server_default="1")
    signed_off_by: Mapped[str] = mapped_column(server_default="")
    signed_off_on: Mapped[date | None]
    version: Mapped[int] = mapped_column(default=1)
    archived_at: Mapped[datetime | None]

    targets: Mapped[list[Target]] = relationship(
        lazy="raise", order_by="Target.position", cascade="all, delete-orphan", passive_deletes=True
    )
    days: Mapped[list[Day]] = relationship(
        lazy="raise", order_by="Day.position", cascade="all, delete-orphan", passive_deletes=True
    )


class Day(Aims, Owned):
    """What a whole day of one type shall hold for a client."""

    __tablename__ = "day"
    __table_args__ = owned_table_args(within("client_id", "client"))

    client_id: Mapped[uuid.UUID] = mapped_column(index=True)
    position: Mapped[int]
    day_type: Mapped[str]

    extras: Mapped[list[DayExtra]] = relationship(
        lazy="raise", order_by="DayExtra.position", cascade="all, delete-orphan", passive_deletes=True
    )


class DayExtra(Owned):
    """A food eaten on a day outside the containers."""

    __tablename__ = "day_extra"
    __table_args__ = owned_table_args(within("day_id", "day"), CheckConstraint("grams > 0", name="weight"))

    day_id: Mapped[uuid.UUID] = mapped_column(index=True)
    position: Mapped[int]
    food_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("food.id", ondelete="RESTRICT"), index=True)
    grams: Mapped[float]

    food: Mapped[Food] = relationship(lazy="raise", viewonly=True)


class TargetRecord(Owned):
    """What a client's days and targets were from a moment on. Rows are only ever added."""

    __tablename__ = "target_record"
    __table_args__ = owned_table_args(within("client_id", "client"))

    client_id: Mapped[uuid.UUID] = mapped_column(index=True)
    since: Mapped[datetime] = mapped_column(server_default=func.clock_timestamp())
    changed_by: Mapped[str]
    figures: Mapped[dict[str, Any]] = mapped_column(JSONB)


class Target(Aims, Owned):
    """What one container of a client shall hold, by meal slot and day type.

    With a `day_share` it has no figures of its own: they follow from the client's day of that type.
    """

    __tablename__ = "target"
    __table_args__ = owned_table_args(
        within("client_id", "client"), CheckConstraint("day_share > 0 AND day_share <= 1", name="share")
    )

    client_id: Mapped[uuid.UUID]
    position: Mapped[int]
    slot: Mapped[str]
    day_type: Mapped[str]
    day_share: Mapped[float | None] = mapped_column(share())
    capacity_ml: Mapped[float | None]
    capacity_g: Mapped[float | None]
    plate_g: Mapped[float | None]


class Recipe(Owned):
    """A dish of components cooked apart."""

    __tablename__ = "recipe"
    __table_args__ = owned_table_args()

    name: Mapped[str]
    note: Mapped[str]
    version: Mapped[int] = mapped_column(default=1)
    archived_at: Mapped[datetime | None]

    components: Mapped[list[Component]] = relationship(
        lazy="raise",
        order_by="Component.position",
        cascade="all, delete-orphan",
        passive_deletes=True,
        foreign_keys="Component.recipe_id",
        primaryjoin="Recipe.id == Component.recipe_id",
    )
    steps: Mapped[list[Step]] = relationship(
        lazy="raise", order_by="Step.position", cascade="all, delete-orphan", passive_deletes=True
    )


class Step(Owned):
    """A step of a recipe: what to do, how long with and without hands, how hot, on what, how long ahead."""

    __tablename__ = "step"
    __table_args__ = owned_table_args(within("recipe_id", "recipe"))

    recipe_id: Mapped[uuid.UUID] = mapped_column(index=True)
    position: Mapped[int]
    component: Mapped[str]
    text: Mapped[str]
    hands_on_min: Mapped[float | None]
    unattended_min: Mapped[float | None]
    temperature_c: Mapped[float | None]
    equipment: Mapped[str]
    lead_min: Mapped[float | None]


class Batch(Owned):
    """One cooking of a recipe for some clients. It owns a copy of the recipe's components.

    `packed` holds what a packed batch showed when it was packed: its view and its plan document.
    """

    __tablename__ = "batch"
    __table_args__ = owned_table_args(
        within("recipe_id", "recipe", ondelete="RESTRICT"),
        one_of("sharing", "fair", "ranked"),
        one_of("leftover", "keep", "spread", "extra containers"),
        one_of("energy_rule", *ENERGY_RULES),
        one_of("carbohydrate", *CARBOHYDRATE),
    )

    recipe_id: Mapped[uuid.UUID]
    recipe_version: Mapped[int]
    name: Mapped[str]
    cook_on: Mapped[date]
    step_g: Mapped[float]
    buffer_share: Mapped[float] = mapped_column(share())
    sharing: Mapped[str] = mapped_column(server_default="fair")
    leftover: Mapped[str] = mapped_column(server_default="keep")
    version: Mapped[int] = mapped_column(default=1)
    changed_at: Mapped[datetime] = mapped_column(server_default=func.now())
    changed_by: Mapped[str]
    packed_at: Mapped[datetime | None]
    packed: Mapped[dict[str, Any] | None] = mapped_column(JSONB, deferred=True)
    energy_rule: Mapped[str | None]
    carbohydrate: Mapped[str | None]

    components: Mapped[list[Component]] = relationship(
        lazy="raise",
        order_by="Component.position",
        cascade="all, delete-orphan",
        passive_deletes=True,
        foreign_keys="Component.batch_id",
        primaryjoin="Batch.id == Component.batch_id",
    )
    classes: Mapped[list[ContainerClass]] = relationship(
        lazy="raise", order_by="ContainerClass.position", cascade="all, delete-orphan", passive_deletes=True
    )
    recipe: Mapped[Recipe] = relationship(lazy="raise", viewonly=True)


class Component(Owned):
    """A part cooked on its own, of a recipe or, copied, of a batch."""

    __tablename__ = "component"
    __table_args__ = owned_table_args(
        within("recipe_id", "recipe"),
        within("batch_id", "batch"),
        CheckConstraint("(recipe_id IS NULL) <> (batch_id IS NULL)", name="recipe_or_batch"),
        CheckConstraint("minimum_g <= maximum_g", name="bounds"),
        one_of("role", "protein", "grain", "vegetable", "sauce", "topping", "mixed"),
        one_of("lid", "", "on", "off"),
        one_of(
            "school",
            "by component",
            "equal split",
            "one pot",
            "built raw",
            "pieces",
            "plate shares",
            "fixed measure",
            "by eye",
        ),
    )

    recipe_id: Mapped[uuid.UUID | None] = mapped_column(index=True)
    batch_id: Mapped[uuid.UUID | None] = mapped_column(index=True)
    position: Mapped[int]
    name: Mapped[str]
    role: Mapped[str]
    method: Mapped[str]
    minimum_g: Mapped[float]
    maximum_g: Mapped[float | None]
    density_g_per_ml: Mapped[float] = mapped_column(share())
    yield_low: Mapped[float | None] = mapped_column(share())
    yield_expected: Mapped[float | None] = mapped_column(share())
    yield_high: Mapped[float | None] = mapped_column(share())
    raw_fixed: Mapped[bool] = mapped_column(default=False)
    recipe_share_g: Mapped[float | None]
    poured_fat_g: Mapped[float] = mapped_column(server_default="0")
    pieces: Mapped[int | None]
    pan_capacity_g: Mapped[float | None]
    lid: Mapped[str] = mapped_column(server_default="")
    cook_min: Mapped[float | None]
    served: Mapped[bool] = mapped_column(server_default="true")
    dismissed: Mapped[dict[str, Any]] = mapped_column(JSONB, server_default="{}")
    school: Mapped[str] = mapped_column(server_default="by component")
    unit_g: Mapped[float | None]
    unit_part: Mapped[float] = mapped_column(share(), server_default="1")
    plate_share: Mapped[float] = mapped_column(server_default="1")
    eye_g: Mapped[float] = mapped_column(server_default="0")
    recipe_component_id: Mapped[uuid.UUID | None] = mapped_column(index=True)

    lines: Mapped[list[Line]] = relationship(
        lazy="raise",
        order_by="Line.position",
        cascade="all, delete-orphan",
        passive_deletes=True,
        foreign_keys="Line.component_id",
        primaryjoin="Component.id == Line.component_id",
    )


class Line(Owned):
    """An ingredient of a component: grams as purchased of a food, or cooked grams of another component."""

    __tablename__ = "line"
    __table_args__ = owned_table_args(
        within("component_id", "component"),
        within("source_id", "component", ondelete="RESTRICT"),
        CheckConstraint("purchased_g >= 0", name="weight"),
        CheckConstraint("(food_id IS NULL) <> (source_id IS NULL)", name="food_or_component"),
    )

    component_id: Mapped[uuid.UUID] = mapped_column(index=True)
    position: Mapped[int]
    food_id: Mapped[uuid.UUID | None] = mapped_column(ForeignKey("food.id", ondelete="RESTRICT"), index=True)
    source_id: Mapped[uuid.UUID | None] = mapped_column(index=True)
    purchased_g: Mapped[float]
    refuse_share: Mapped[float] = mapped_column(share())
    refuse_after: Mapped[bool] = mapped_column(server_default="false")
    retained_share: Mapped[float] = mapped_column(share())
    yield_factor: Mapped[float | None] = mapped_column(share())
    text: Mapped[str] = mapped_column(server_default="")
    weighed_state: Mapped[str] = mapped_column(server_default="")
    counted: Mapped[bool] = mapped_column(server_default="true")
    scales: Mapped[bool] = mapped_column(server_default="true")
    unfolded: Mapped[bool] = mapped_column(server_default="false")
    dismissed: Mapped[dict[str, Any]] = mapped_column(JSONB, server_default="{}")
    added_at: Mapped[datetime | None]
    added_by: Mapped[str] = mapped_column(server_default="")


class ContainerClass(Aims, Owned):
    """Equal containers of a batch: one client, slot and day type, with the target they were planned for."""

    __tablename__ = "container_class"
    __table_args__ = owned_table_args(
        within("batch_id", "batch"),
        within("client_id", "client", ondelete="RESTRICT"),
        CheckConstraint("count >= 0", name="count"),
    )

    batch_id: Mapped[uuid.UUID] = mapped_column(index=True)
    client_id: Mapped[uuid.UUID]
    position: Mapped[int]
    slot: Mapped[str]
    day_type: Mapped[str]
    count: Mapped[int]
    capacity_ml: Mapped[float | None]
    capacity_g: Mapped[float | None]
    plate_g: Mapped[float | None]
    rank: Mapped[int] = mapped_column(server_default="0")
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


class Command(Owned):
    """Changes of a batch that were made. Its id follows from the one they were sent with, so they are not made twice.

    `digest` is that of the changes, `inverse` what takes them back.
    """

    __tablename__ = "command"
    __table_args__ = owned_table_args(within("batch_id", "batch"))

    batch_id: Mapped[uuid.UUID] = mapped_column(index=True)
    digest: Mapped[str]
    inverse: Mapped[list[Any]] = mapped_column(JSONB)
    made_at: Mapped[datetime]


class Weighing(Owned):
    """A cooked weight off the scale. Rows are only ever added; the newest of a component counts.

    A row without `cooked_g` withdraws the component's weight. `vessels` are the readings it came from.
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
    weighed_at: Mapped[datetime]
    cooked_g: Mapped[float | None]
    vessels: Mapped[list[Any]] = mapped_column(JSONB)
    removed_g: Mapped[float] = mapped_column(server_default="0")
    yield_factor: Mapped[float | None] = mapped_column(share())
    food_id: Mapped[uuid.UUID | None] = mapped_column(ForeignKey("food.id", ondelete="RESTRICT"), index=True)
    method: Mapped[str] = mapped_column(server_default="")
    recipe_component_id: Mapped[uuid.UUID | None] = mapped_column(index=True)


class Survey(Owned):
    """A question over everything: which recipe as written meets which client's targets. `recipes` is how many."""

    __tablename__ = "survey"
    __table_args__ = owned_table_args()

    asked_at: Mapped[datetime]
    asked_by: Mapped[str]
    recipes: Mapped[int]
    cancelled_at: Mapped[datetime | None]


class SurveyPart(Owned):
    """A recipe that was answered for all clients; `trouble` says why it could not be."""

    __tablename__ = "survey_part"
    __table_args__ = owned_table_args(within("survey_id", "survey"), UniqueConstraint("survey_id", "recipe_id"))

    survey_id: Mapped[uuid.UUID]
    recipe_id: Mapped[uuid.UUID]
    trouble: Mapped[str] = mapped_column(server_default="")


class SurveyAnswer(Owned):
    """Whether one recipe meets one target; `missed` is the weighted miss, `told` says the grams or why not, `without`
    names what had to stay out.

    Names are those of the moment: the answer is about what was written then.
    """

    __tablename__ = "survey_answer"
    __table_args__ = owned_table_args(
        within("survey_id", "survey"), within("recipe_id", "recipe"), within("client_id", "client")
    )

    survey_id: Mapped[uuid.UUID] = mapped_column(index=True)
    recipe_id: Mapped[uuid.UUID]
    client_id: Mapped[uuid.UUID]
    recipe: Mapped[str]
    client: Mapped[str]
    slot: Mapped[str]
    day_type: Mapped[str]
    met: Mapped[bool]
    missed: Mapped[float] = mapped_column(Double)
    told: Mapped[str]
    without: Mapped[list[str]]
