"""Recipes."""

from __future__ import annotations

import uuid
from typing import Annotated

from fastapi import APIRouter, Query, Response
from pydantic import BaseModel

from yantai.api.access import DatabaseDep, NowDep, SignedInDep
from yantai.core.components import METHODS, ROLES
from yantai.work import intake, recipes
from yantai.work.inputs import AnswerInput, IntakeInput, RecipeInput, ScaleInput
from yantai.work.views import IntakeView, RecipeBrief, RecipeView, WeightView

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
def preview_recipe(
    given: RecipeInput, database: DatabaseDep, who: SignedInDep, saved: uuid.UUID | None = None
) -> RecipeView:
    """The figures of a recipe while it is typed, compared with the one that is `saved`; nothing is saved."""
    return recipes.preview_recipe(database, who, given, saved)


@router.post("/recipes/scale")
def scale_recipe(given: ScaleInput, database: DatabaseDep, who: SignedInDep) -> RecipeView:
    """A recipe at another size; nothing is saved."""
    return recipes.scale_recipe(database, who, given)


@router.post("/recipes/read")
def read_recipe_text(given: IntakeInput, database: DatabaseDep, who: SignedInDep) -> IntakeView:
    """The lines and steps of a pasted text, JSON-LD or CSV; nothing is saved."""
    return intake.read_text(database, who, given)


@router.post("/recipes/answers", status_code=204)
def answer_line(given: AnswerInput, database: DatabaseDep, who: SignedInDep) -> None:
    """Remember which food some words mean here."""
    intake.answer(database, who, given)


@router.get("/weights")
def read_weight(_who: SignedInDep, text: Annotated[str, Query(max_length=200)]) -> WeightView:
    """A weight as typed, in grams: a number, a sum, or before less after."""
    return intake.read_weight(text)


@router.get("/recipes/{recipe_id}/recipe.json")
def export_jsonld(recipe_id: uuid.UUID, database: DatabaseDep, who: SignedInDep) -> Response:
    """The recipe as schema.org JSON-LD."""
    return _file(intake.export_jsonld(database, who, recipe_id), "application/ld+json", "recipe.json")


@router.get("/recipes/{recipe_id}/recipe.csv")
def export_csv(recipe_id: uuid.UUID, database: DatabaseDep, who: SignedInDep) -> Response:
    """The recipe as CSV."""
    return _file(intake.export_csv(database, who, recipe_id), "text/csv; charset=utf-8", "recipe.csv")


def _file(content: str, media_type: str, name: str) -> Response:
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return Response(content, media_type=media_type, headers=headers)


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
