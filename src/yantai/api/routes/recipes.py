"""Recipes."""

from __future__ import annotations

import uuid

from fastapi import APIRouter, Response
from pydantic import BaseModel

from yantai.api.access import DatabaseDep, NowDep, SenderDep, SignedInDep
from yantai.api.parameters import SearchText
from yantai.core.cooking.components import METHODS, Role
from yantai.work.recipes import exchange, intake, recipes, scale
from yantai.work.recipes.inputs import AnswerInput, IntakeInput, RecipeInput, ScaleInput
from yantai.work.recipes.views import IntakeView, RecipeBrief, RecipeView, WeightView

router = APIRouter(tags=["recipes"])


class RecipeWords(BaseModel):
    """What a component's role and method may be."""

    roles: list[Role]
    methods: list[str]


@router.get("/recipes")
def list_recipes(database: DatabaseDep, who: SignedInDep) -> list[RecipeBrief]:
    """All recipes."""
    return recipes.list_recipes(database, who)


@router.get("/recipes/words")
def list_recipe_words(_who: SignedInDep) -> RecipeWords:
    """Roles and methods of components."""
    return RecipeWords(roles=list(Role), methods=list(METHODS))


@router.post("/recipes", status_code=201)
def create_recipe(payload: RecipeInput, database: DatabaseDep, who: SenderDep) -> RecipeView:
    """Make a recipe."""
    return recipes.save_recipe(database, who, payload, None)


@router.post("/recipes/preview")
def preview_recipe(
    payload: RecipeInput, database: DatabaseDep, who: SignedInDep, saved: uuid.UUID | None = None
) -> RecipeView:
    """The figures of a recipe while it is typed, compared with the one that is `saved`; nothing is saved."""
    return recipes.preview_recipe(database, who, payload, saved)


@router.post("/recipes/scale")
def scale_recipe(payload: ScaleInput, database: DatabaseDep, who: SignedInDep) -> RecipeView:
    """A recipe at another size; nothing is saved."""
    return scale.scale_recipe(database, who, payload)


@router.post("/recipes/read")
def read_recipe_text(payload: IntakeInput, database: DatabaseDep, who: SignedInDep) -> IntakeView:
    """The lines and steps of a pasted text, JSON-LD or CSV; nothing is saved."""
    return intake.read_text(database, who, payload)


@router.post("/recipes/answers", status_code=204)
def answer_line(payload: AnswerInput, database: DatabaseDep, who: SenderDep) -> None:
    """Remember which food some words mean here."""
    intake.answer(database, who, payload)


@router.get("/weights")
def read_weight(_who: SignedInDep, text: SearchText) -> WeightView:
    """A weight as typed, in grams: a number, a sum, or before less after."""
    return intake.read_weight(text)


@router.get("/recipes/{recipe_id}/recipe.json")
def export_jsonld(recipe_id: uuid.UUID, database: DatabaseDep, who: SignedInDep) -> Response:
    """The recipe as schema.org JSON-LD."""
    return _file(exchange.export_jsonld(database, who, recipe_id), "application/ld+json", "recipe.json")


@router.get("/recipes/{recipe_id}/recipe.csv")
def export_csv(recipe_id: uuid.UUID, database: DatabaseDep, who: SignedInDep) -> Response:
    """The recipe as CSV."""
    return _file(exchange.export_csv(database, who, recipe_id), "text/csv; charset=utf-8", "recipe.csv")


def _file(content: str, media_type: str, name: str) -> Response:
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return Response(content, media_type=media_type, headers=headers)


@router.get("/recipes/{recipe_id}")
def read_recipe(recipe_id: uuid.UUID, database: DatabaseDep, who: SignedInDep) -> RecipeView:
    """One recipe with all figures."""
    return recipes.read_recipe(database, who, recipe_id)


@router.put("/recipes/{recipe_id}")
def change_recipe(recipe_id: uuid.UUID, payload: RecipeInput, database: DatabaseDep, who: SenderDep) -> RecipeView:
    """Change a recipe."""
    return recipes.save_recipe(database, who, payload, recipe_id)


@router.put("/recipes/{recipe_id}/archived", status_code=204)
def archive_recipe(recipe_id: uuid.UUID, archived: bool, database: DatabaseDep, who: SenderDep, now: NowDep) -> None:
    """Take a recipe off the lists, or bring it back."""
    recipes.archive_recipe(database, who, recipe_id, now if archived else None)
