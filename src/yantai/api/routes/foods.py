"""The pantry, and finding anything."""

from __future__ import annotations

import uuid
from typing import Annotated

from fastapi import APIRouter, Query

from yantai.api.access import DatabaseDep, SignedInDep
from yantai.work import foods, search
from yantai.work.views import FoodDetail, FoodFacets, FoodPage, Found

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


@router.get("/foods/{food_id}")
def read_food(food_id: uuid.UUID, database: DatabaseDep, who: SignedInDep) -> FoodDetail:
    """Everything known of one food."""
    return foods.food_detail(database, who, food_id)


@router.get("/search")
def find_anything(database: DatabaseDep, who: SignedInDep, text: Text = "") -> list[Found]:
    """Clients, recipes, batches and foods."""
    return search.find_anything(database, who, text)
