"""Kitchens, and the order of work of a cook day."""

from __future__ import annotations

import uuid

from fastapi import APIRouter

from yantai.api.access import DatabaseDep, NowDep, SenderDep, SignedInDep
from yantai.work.cook import day, kitchens, order
from yantai.work.cook.inputs import CookDayInput, KitchenInput
from yantai.work.cook.views import CookView, HelpView, KitchenView, UsualItem

router = APIRouter(tags=["cook"])


@router.get("/equipment")
def list_usual_equipment(who: SignedInDep) -> list[UsualItem]:
    """Equipment as it usually is, to begin a kitchen with."""
    return kitchens.usual_equipment()


@router.get("/kitchens")
def list_kitchens(database: DatabaseDep, who: SignedInDep) -> list[KitchenView]:
    """The kitchens that are in use."""
    return kitchens.list_kitchens(database, who)


@router.get("/kitchens/{kitchen_id}")
def read_kitchen(kitchen_id: uuid.UUID, database: DatabaseDep, who: SignedInDep) -> KitchenView:
    """One kitchen."""
    return kitchens.read_kitchen(database, who, kitchen_id)


@router.post("/kitchens", status_code=201)
def add_kitchen(payload: KitchenInput, database: DatabaseDep, who: SenderDep) -> KitchenView:
    """Make a kitchen."""
    return kitchens.save_kitchen(database, who, payload, None)


@router.put("/kitchens/{kitchen_id}")
def change_kitchen(kitchen_id: uuid.UUID, payload: KitchenInput, database: DatabaseDep, who: SenderDep) -> KitchenView:
    """Change a kitchen with all there is in it."""
    return kitchens.save_kitchen(database, who, payload, kitchen_id)


@router.put("/kitchens/{kitchen_id}/archived", status_code=204)
def archive_kitchen(kitchen_id: uuid.UUID, archived: bool, database: DatabaseDep, who: SenderDep, now: NowDep) -> None:
    """Take a kitchen off the lists, or bring it back."""
    kitchens.archive_kitchen(database, who, kitchen_id, now if archived else None)


@router.get("/batches/{batch_id}/cooking")
def read_cooking(batch_id: uuid.UUID, database: DatabaseDep, who: SignedInDep) -> CookView:
    """A batch on its cook day, with its order of work."""
    return order.read_cooking(database, who, batch_id)


@router.put("/batches/{batch_id}/cooking/day", status_code=204)
def set_cook_day(batch_id: uuid.UUID, payload: CookDayInput, database: DatabaseDep, who: SenderDep) -> None:
    """Set where, from when and by whom a batch is cooked."""
    day.save_day(database, who, batch_id, payload)


@router.get("/batches/{batch_id}/cooking/helper")
def read_with_helper(batch_id: uuid.UUID, database: DatabaseDep, who: SignedInDep) -> HelpView:
    """When all would be ready with one more helper."""
    return order.with_a_helper(database, who, batch_id)
