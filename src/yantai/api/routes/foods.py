"""The pantry, and finding anything."""

from __future__ import annotations

import uuid
from typing import Annotated

from fastapi import APIRouter, Query
from pydantic import BaseModel

from yantai.api.access import DatabaseDep, NowDep, SignedInDep
from yantai.work import foods, own_foods, search
from yantai.work.inputs import FoodInput, ImportInput, SupplyInput
from yantai.work.own_foods import DIETS, STATES
from yantai.work.views import FoodDetail, FoodFacets, FoodPage, Found, ImportView

router = APIRouter(tags=["pantry"])

Text = Annotated[str, Query(max_length=200)]


@router.get("/foods")
def search_foods(
    database: DatabaseDep,
    who: SignedInDep,
    text: Text = "",
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

    states: list[str]
    diets: list[str]


@router.get("/foods/words")
def list_food_words(_who: SignedInDep) -> FoodWords:
    """States and diet marks."""
    return FoodWords(states=list(STATES), diets=list(DIETS))


@router.post("/foods", status_code=201)
def create_food(given: FoodInput, database: DatabaseDep, who: SignedInDep) -> FoodDetail:
    """Make an own food from its label."""
    return own_foods.save_food(database, who, given, None)


@router.post("/foods/preview")
def preview_food(given: FoodInput, database: DatabaseDep, who: SignedInDep) -> FoodDetail:
    """What a label comes to per 100 g; nothing is saved."""
    return own_foods.preview_label(database, who, given)


@router.post("/foods/import")
def import_foods(given: ImportInput, database: DatabaseDep, who: SignedInDep) -> ImportView:
    """Read a CSV of foods, and save it when asked."""
    return own_foods.import_foods(database, who, given)


@router.put("/foods/{food_id}")
def change_food(food_id: uuid.UUID, given: FoodInput, database: DatabaseDep, who: SignedInDep) -> FoodDetail:
    """Change an own food; batches keep the figures they were made with."""
    return own_foods.save_food(database, who, given, food_id)


@router.put("/foods/{food_id}/supply")
def change_supply(food_id: uuid.UUID, given: SupplyInput, database: DatabaseDep, who: SignedInDep) -> FoodDetail:
    """Set this kitchen's measures and packs of a food."""
    return own_foods.save_supply(database, who, food_id, given)


@router.put("/foods/{food_id}/archived", status_code=204)
def archive_food(food_id: uuid.UUID, archived: bool, database: DatabaseDep, who: SignedInDep, now: NowDep) -> None:
    """Take an own food off the lists, or bring it back."""
    own_foods.archive_food(database, who, food_id, now if archived else None)


@router.get("/foods/{food_id}")
def read_food(food_id: uuid.UUID, database: DatabaseDep, who: SignedInDep) -> FoodDetail:
    """Everything known of one food."""
    return foods.food_detail(database, who, food_id)


@router.get("/search")
def find_anything(database: DatabaseDep, who: SignedInDep, text: Text = "") -> list[Found]:
    """Clients, recipes, batches and foods."""
    return search.find_anything(database, who, text)
