"""What all tables share: names of constraints, types of columns, the key within a workspace."""

from __future__ import annotations

import uuid
from collections.abc import Mapping
from dataclasses import fields
from datetime import datetime
from enum import StrEnum
from typing import Any, ClassVar, cast

from sqlalchemy import (
    CheckConstraint,
    DateTime,
    ForeignKey,
    ForeignKeyConstraint,
    MetaData,
    Numeric,
    Text,
    TypeDecorator,
    UniqueConstraint,
)
from sqlalchemy.dialects.postgresql import ARRAY
from sqlalchemy.orm import DeclarativeBase, Mapped, MappedColumn, composite, declared_attr, mapped_column

from yantai.core.planning.portioning import Place, School
from yantai.core.targets.targets import FIGURES, Figures

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


def carried(kind: type[Any], columns: Mapping[str, MappedColumn[Any]]) -> Any:
    """A value of the core that a row carries as it is: one column for each of its fields, by name.

    The value is replaced, never changed; its fields are attributes of the row too, for queries.
    """
    names = tuple(columns)
    if set(names) != {field.name for field in fields(kind)}:
        raise TypeError(f"{kind.__name__} has other fields than these columns")
    # How SQLAlchemy takes a value apart; the core knows nothing of it.
    kind.__composite_values__ = lambda value: tuple(getattr(value, name) for name in names)

    def made(*values: Any) -> Any:
        return kind(**dict(zip(names, values, strict=True)))

    return composite(made, *columns.values())


class HasFigures:
    """A row with figures of a container or a day: what is aimed at, and limits on one side."""

    @declared_attr
    @classmethod
    def figures(cls) -> Mapped[Figures]:
        """None is not aimed at."""
        columns = {name: mapped_column(name, grams(), nullable=True) for name in FIGURES}
        return cast(Mapped[Figures], carried(Figures, columns))


def portioning_columns(*, nullable: bool) -> dict[str, MappedColumn[Any]]:
    """How a component gets into containers: said of every part of a dish, and of the components of a recipe."""
    return {
        "school": mapped_column("school", Word(School), nullable=nullable),
        "minimum_g": mapped_column("minimum_g", grams(), nullable=nullable),
        "maximum_g": mapped_column("maximum_g", grams(), nullable=True),
        "unit_g": mapped_column("unit_g", grams(), nullable=True),
        "unit_part": mapped_column("unit_part", share(), nullable=nullable),
        "plate_share": mapped_column("plate_share", grams(), nullable=nullable),
        "eye_g": mapped_column("eye_g", grams(), nullable=nullable),
        "place": mapped_column("place", Word(Place), nullable=nullable),
        "tub_ml": mapped_column("tub_ml", grams(), nullable=True),
        "takes_g": mapped_column("takes_g", grams(), nullable=True),
        "group": mapped_column("group_name", Text, nullable=True),
    }


def owned_table_args(*more: Any) -> tuple[Any, ...]:
    """Arguments of an owned table: its own key for references within the workspace, and `more`."""
    return (UniqueConstraint("workspace_id", "id"), *more)


def within(column: str, table: str, *, ondelete: str = "CASCADE") -> ForeignKeyConstraint:
    """A reference to a row of `table` in the same workspace."""
    return ForeignKeyConstraint(["workspace_id", column], [f"{table}.workspace_id", f"{table}.id"], ondelete=ondelete)


class Word(TypeDecorator[StrEnum]):
    """A word of a closed set, as text in the database."""

    impl = Text
    cache_ok = True

    def __init__(self, kind: type[StrEnum]) -> None:
        super().__init__()
        self.kind = kind

    def process_bind_param(self, value: str | None, dialect: Any) -> str | None:
        """The text of a word; another one is refused before it gets to the CHECK."""
        return None if value is None else self.kind(value).value

    def process_result_value(self, value: str | None, dialect: Any) -> StrEnum | None:
        """The word of a text."""
        return None if value is None else self.kind(value)


def word(kind: type[StrEnum], *, default: str | None = None) -> MappedColumn[Any]:
    """A column for the words of a closed set; `one_of` adds the CHECK."""
    return mapped_column(Word(kind), server_default=default)


def one_of(column: str, kind: type[StrEnum]) -> CheckConstraint:
    """What a column of words may hold."""
    known = ", ".join(f"'{each.value}'" for each in kind)
    return CheckConstraint(f"{column} IN ({known})", name=column)
