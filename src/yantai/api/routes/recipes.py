"""Recipes."""

from __future__ import annotations

import uuid

from fastapi import APIRouter
from pydantic import BaseModel

from yantai.api.access import DatabaseDep, NowDep, SignedInDep
from yantai.core.components import METHODS, ROLES
from yantai.work import recipes
from yantai.work.inputs import RecipeInput
from yantai.work.views import RecipeBrief, RecipeView

router = APIRouter(tags=["recipes"])


class RecipeWords(BaseModel):
    """What a component's role and method may be."""

    roles: list[str]
    methods: list[str]


@router.get("/recipes")
def list_recipes(database: DatabaseDep, who: SignedInDep) -> list[RecipeBrief]:
    """All recipes."""
    return recipes.list_recipes(database, who)


@router.get("/recipes/words")
def list_recipe_words(_who: SignedInDep) -> RecipeWords:
    """Roles and methods of components."""
    return RecipeWords(roles=list(ROLES), methods=list(METHODS))


@router.post("/recipes", status_code=201)
def create_recipe(given: RecipeInput, database: DatabaseDep, who: SignedInDep) -> RecipeView:
    """Make a recipe."""
    return recipes.save_recipe(database, who, given, None)


@router.post("/recipes/preview")
def preview_recipe(given: RecipeInput, database: DatabaseDep, who: SignedInDep) -> RecipeView:
    """The figures of a recipe while it is typed; nothing is saved."""
    return recipes.preview_recipe(database, who, given)


@router.get("/recipes/{recipe_id}")
def read_recipe(recipe_id: uuid.UUID, database: DatabaseDep, who: SignedInDep) -> RecipeView:
    """One recipe with all figures."""
    return recipes.read_recipe(database, who, recipe_id)


@router.put("/recipes/{recipe_id}")
def change_recipe(recipe_id: uuid.UUID, given: RecipeInput, database: DatabaseDep, who: SignedInDep) -> RecipeView:
    """Change a recipe."""
    return recipes.save_recipe(database, who, given, recipe_id)


@router.put("/recipes/{recipe_id}/archived", status_code=204)
def archive_recipe(recipe_id: uuid.UUID, archived: bool, database: DatabaseDep, who: SignedInDep, now: NowDep) -> None:
    """Take a recipe off the lists, or bring it back."""
    recipes.archive_recipe(database, who, recipe_id, now if archived else None)
