"""The pantry."""

from __future__ import annotations

import uuid
from typing import Annotated

from fastapi import APIRouter, Query
from pydantic import BaseModel

from yantai.api.access import DatabaseDep, HelperDep, NowDep, SenderDep, SignedInDep
from yantai.api.parameters import SearchText
from yantai.core.foods.states import FoodState
from yantai.work.pantry import foods, own_foods
from yantai.work.pantry.inputs import FoodInput, ImportInput, SupplyInput
from yantai.work.pantry.own_foods import DIETS
from yantai.work.pantry.views import FoodDetail, FoodFacets, FoodPage, ImportView

router = APIRouter(tags=["pantry"])


@router.get("/foods")
def search_foods(
    database: DatabaseDep,
    who: HelperDep,
    text: SearchText = "",
    group: str | None = None,
    state: str | None = None,
    limit: Annotated[int, Query(ge=1, le=1000)] = 50,
    offset: Annotated[int, Query(ge=0, le=1_000_000)] = 0,
) -> FoodPage:
    """Foods by name, forgiving slips, filtered by group and state."""
    return foods.search_foods(database, who, text=text, group=group, state=state, limit=limit, offset=offset)


@router.get("/foods/facets")
def read_food_facets(database: DatabaseDep, who: SignedInDep) -> FoodFacets:
    """Groups and states to filter by."""
    return foods.food_facets(database, who)


class FoodWords(BaseModel):
    """What a food's state and diet marks may be."""

    states: list[FoodState]
    diets: list[str]


@router.get("/foods/words")
def list_food_words(_who: SignedInDep) -> FoodWords:
    """States and diet marks."""
    return FoodWords(states=list(FoodState), diets=list(DIETS))


@router.post("/foods", status_code=201)
def create_food(payload: FoodInput, database: DatabaseDep, who: SenderDep) -> FoodDetail:
    """Make an own food from its label."""
    return own_foods.save_food(database, who, payload, None)


@router.post("/foods/preview")
def preview_food(payload: FoodInput, database: DatabaseDep, who: SignedInDep) -> FoodDetail:
    """What a label comes to per 100 g; nothing is saved."""
    return own_foods.preview_label(database, who, payload)


@router.post("/foods/import")
def import_foods(payload: ImportInput, database: DatabaseDep, who: SenderDep) -> ImportView:
    """Read a CSV of foods, and save it when asked."""
    return own_foods.import_foods(database, who, payload)


@router.put("/foods/{food_id}")
def change_food(food_id: uuid.UUID, payload: FoodInput, database: DatabaseDep, who: SenderDep) -> FoodDetail:
    """Change an own food; batches keep the figures they were made with."""
    return own_foods.save_food(database, who, payload, food_id)


@router.put("/foods/{food_id}/supply")
def change_supply(food_id: uuid.UUID, payload: SupplyInput, database: DatabaseDep, who: SenderDep) -> FoodDetail:
    """Set this kitchen's measures and packs of a food."""
    return own_foods.save_supply(database, who, food_id, payload)


@router.put("/foods/{food_id}/archived", status_code=204)
def archive_food(food_id: uuid.UUID, archived: bool, database: DatabaseDep, who: SenderDep, now: NowDep) -> None:
    """Take an own food off the lists, or bring it back."""
    own_foods.archive_food(database, who, food_id, now if archived else None)


@router.get("/foods/{food_id}")
def read_food(food_id: uuid.UUID, database: DatabaseDep, who: SignedInDep) -> FoodDetail:
    """Everything known of one food."""
    return foods.food_detail(database, who, food_id)
