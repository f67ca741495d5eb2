"""What applying one change of a batch needs."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import TypeVar

from sqlalchemy.orm import Session

from yantai.store import tables
from yantai.work.batches import loading
from yantai.work.common.errors import Invalid, Missing
from yantai.work.common.who import SignedIn

RowT = TypeVar("RowT", bound=tables.Row)


@dataclass(frozen=True, kw_only=True)
class Desk:
    """What applying one change needs."""

    session: Session
    who: SignedIn
    loaded: loading.Loaded
    pointer: str
    command_id: uuid.UUID
    now: datetime
    happened_at: datetime
    confirmed: bool

    def new_id(self, what: str) -> uuid.UUID:
        """An id for what this change makes: the same each time the command is made, so that a log can be replayed."""
        return uuid.uuid5(self.command_id, f"{self.pointer}/{what}")

    @property
    def batch(self) -> tables.Batch:
        """The batch that is changed."""
        return self.loaded.batch

    def row(self, row_id: uuid.UUID) -> tables.ContainerClass:
        """A row of the batch.

        Raises:
            Missing: it has no such row.
        """
        return find_row(self.batch.classes, row_id, "row")

    def component(self, component_id: uuid.UUID) -> tables.Component:
        """A component of the batch.

        Raises:
            Missing: it has no such component.
        """
        return find_row(self.batch.components, component_id, "component")

    def cooked(self, component_id: uuid.UUID) -> tables.Component:
        """A component of the batch that is in the day's plan.

        Raises:
            Missing: it has no such component.
            Invalid: it is put aside, or no dish has it any more.
        """
        component = self.component(component_id)
        used = any(part.component_id == component.id for dish in self.batch.dishes for part in dish.parts)
        if component.aside or not used:
            raise Invalid.at(
                f"{self.pointer}/component_id",
                f"{component.name} is out of the plan of this batch. Take it back into the plan first.",
            )
        return component

    def dish(self, dish_id: uuid.UUID) -> tables.Dish:
        """A dish of the batch.

        Raises:
            Missing: it has no such dish.
        """
        return find_row(self.batch.dishes, dish_id, "dish")

    def part(self, component_id: uuid.UUID, dish_id: uuid.UUID | None) -> tables.Part:
        """A component as a dish has it; without a dish, as the only one that has it does.

        Raises:
            Missing: there is no such part.
            Invalid: several dishes have the component, and none was named.
        """
        component = self.component(component_id)
        dishes = self.batch.dishes if dish_id is None else [self.dish(dish_id)]
        parts = [part for dish in dishes for part in dish.parts if part.component_id == component.id]
        if not parts:
            raise Missing(f"No dish has {component.name} any more. Reload the page for the newest plan.")
        if len(parts) > 1:
            raise Invalid.at(f"{self.pointer}/dish_id", f"{component.name} is in several dishes: say in which one.")
        return parts[0]


def find_row(rows: Sequence[RowT], wanted: uuid.UUID, what: str) -> RowT:
    """The one with this id; `what` names it where there is none.

    Raises:
        Missing: there is none.
    """
    found = next((row for row in rows if row.id == wanted), None)
    if found is None:
        raise Missing(f"This batch has no such {what}. Reload the page for the newest plan.")
    return found


def food_of(desk: Desk, food_id: uuid.UUID) -> tables.Food:
    """A food of the pantry.

    Raises:
        Invalid: it is not there, located at the change.
    """
    food = desk.session.get(tables.Food, food_id)
    if food is None:
        raise Invalid.at(f"{desk.pointer}/food_id", "This food is not in your pantry; choose another.")
    return food
